import type { FaultSpan } from '../analysis';
import { roundTo } from '../units';
import type { Family } from '../naming';
import type { Finding, FindingCode, KnownFile, RemedyKind, Severity } from './finding';

/** What is noticed about a file by itself: severity and remedy of each code. */
const KINDS = {
  truncated: ['problem', null],
  'size-missing': ['check', null],
  'second-data-ignored': ['check', null],
  damaged: ['problem', null],
  dropouts: ['problem', null],
  clipped: ['check', null],
  'above-full-scale': ['note', null],
  'flat-tops': ['check', null],
  silent: ['check', 'take-out'],
  'nearly-silent': ['check', null],
  'dead-channel': ['check', 'use-live-channel'],
  'dual-mono': ['note', 'make-mono'],
  'dc-offset': ['note', null],
  'inter-sample-overs': ['note', null],
  'sixteen-in-more': ['note', null],
  'abrupt-start': ['check', null],
  'abrupt-end': ['check', null],
  limited: ['note', null],
  reverb: ['note', null],
  'heard-click': ['check', 'as-click'],
  lossy: ['check', null],
  reference: ['note', null],
  click: ['note', null],
  'tempo-claim': ['note', null],
} as const satisfies Partial<Record<FindingCode, readonly [Severity, RemedyKind | null]>>;

type Code = keyof typeof KINDS;

/** −50 dBFS: quieter than the noise of most rooms. */
const NEARLY_SILENT_DBFS = -50;
/** −50 dBFS: more than converters and the mean of a few bars of music give. */
const DC_OFFSET = 0.003;
/** One side of a stereo file this far below the other carries nothing. */
const DEAD_BELOW_DB = 50;
const DEAD_DBFS = -55;
const OVER_DBTP = 0.05;
/** Above what rounding to float makes of full scale. */
const OVER_DBFS = 0.001;
const SOUND_DBFS = -60;

/** Peaks at the ceiling: fewer are chance. */
const CEILING_SHARE = 0.5;
const CEILING_COUNT = 10;
/** Below this spread of levels it is a steady tone or one hit repeated; peaks that meet the ceiling exactly, or little crest, need less to tell a limiter. */
const VARIED_DB = 0.4;
const VARIED_AND_EXACT_DB = 0.2;
const VARIED_AND_DENSE_DB = 0.11;
const EXACT_DB = 0.08;
const DENSE_CREST_DB = 7.5;
/** A sine has 3 dB of crest, a square none. */
const LEAST_CREST_DB = 3.3;

/** Voices and winds stop when their breath does: what rings on after them is a room. Strings and skins ring by themselves. */
const BREATH: ReadonlySet<Family> = new Set(['lead-vocal', 'backing-vocal', 'brass', 'winds']);
/** Longer than the rooms voices are recorded in; and most ends must show it. */
const REVERB_SECONDS = 0.9;
const REVERB_SHARE = 0.45;

/** Peaks pressed against one ceiling although what lies below them varies. */
function isLimited({
  share,
  count,
  spreadDb,
  tightDb,
  crestDb,
}: NonNullable<KnownFile['facts']['ceiling']>): boolean {
  if (share < CEILING_SHARE || count < CEILING_COUNT || crestDb < LEAST_CREST_DB) return false;
  return (
    spreadDb >=
    (crestDb <= DENSE_CREST_DB ? VARIED_AND_DENSE_DB : tightDb <= EXACT_DB ? VARIED_AND_EXACT_DB : VARIED_DB)
  );
}

const WARNINGS = {
  'sound.truncated': 'truncated',
  'sound.size_missing': 'size-missing',
  'sound.second_data_ignored': 'second-data-ignored',
  'sound.damaged': 'damaged',
} as const;

/** Everything noticed about one file alone. */
export function fileFindings(file: KnownFile): Finding[] {
  const found: Finding[] = [];
  const add = (
    code: Code,
    figures: Readonly<Record<string, number | string>> = {},
    places: readonly FaultSpan[] = [],
  ): void => {
    const [severity, remedy] = KINDS[code];
    found.push({ code, severity, remedy, files: [{ id: file.id, other: null, figures, places }] });
  };
  for (const { code, ...figures } of file.warnings)
    add(WARNINGS[code], figures as Record<string, number | string>);
  if (file.lossy) add('lossy');
  addSource(file, add);
  const { facts } = file;
  if (facts.peakDbfs === null) add('silent');
  else if (facts.peakDbfs < NEARLY_SILENT_DBFS)
    add('nearly-silent', { peakDbfs: roundTo(facts.peakDbfs, 1) });
  else {
    addLevels(file, facts.peakDbfs, add);
    addShape(file, add);
  }
  return found;
}

type Add = (
  code: Code,
  figures?: Readonly<Record<string, number | string>>,
  places?: readonly FaultSpan[],
) => void;

function addSource({ source, metadata, heard }: KnownFile, add: Add): void {
  if (source.family === 'unknown' && heard?.click)
    add('heard-click', { perMinute: roundTo(heard.click.perMinute, 1), hits: heard.click.hits });
  if (source.family === 'reference') add('reference', { part: source.part ?? 'mix' });
  if (source.family === 'click') add('click');
  for (const claim of metadata.tempoClaims) add('tempo-claim', { bpm: claim.bpm, source: claim.source });
}

const longestMs = (places: readonly FaultSpan[], rateHz: number): number =>
  roundTo((1000 * Math.max(0, ...places.map((p) => p.frames))) / rateHz, 2);

function addLevels(file: KnownFile, peakDbfs: number, add: Add): void {
  const { facts, sampleRateHz } = file;
  // Only floats go above full scale, and then the tops are there.
  if (file.encoding.startsWith('f') && peakDbfs > OVER_DBFS)
    add('above-full-scale', { peakDbfs: roundTo(peakDbfs, 2) }, facts.clippedPlaces);
  else if (facts.clippedRuns > 0)
    add(
      'clipped',
      { runs: facts.clippedRuns, longestMs: longestMs(facts.clippedPlaces, sampleRateHz) },
      facts.clippedPlaces,
    );
  else if (facts.flatTops)
    add(
      'flat-tops',
      {
        runs: facts.flatTops.runs,
        levelDbfs: roundTo(facts.flatTops.levelDbfs, 2),
        longestMs: longestMs(facts.flatTops.places, sampleRateHz),
      },
      facts.flatTops.places,
    );
  else if (file.truePeakDbtp !== null && file.truePeakDbtp > OVER_DBTP)
    add('inter-sample-overs', {
      truePeakDbtp: roundTo(file.truePeakDbtp, 2),
      peakDbfs: roundTo(peakDbfs, 2),
    });
  if (facts.dcOffset >= DC_OFFSET) add('dc-offset', { offset: roundTo(facts.dcOffset, 4) });
  const [left, right] = facts.channelPeaksDbfs;
  if (facts.channelPeaksDbfs.length === 2) {
    const [l, r] = [left ?? -Infinity, right ?? -Infinity];
    const dead = Math.min(l, r);
    if (dead < DEAD_DBFS && Math.max(l, r) - dead >= DEAD_BELOW_DB)
      add('dead-channel', {
        side: l < r ? 'left' : 'right',
        peakDbfs: Number.isFinite(dead) ? roundTo(dead, 1) : 'silence',
      });
  }
  if (facts.dualMono) add('dual-mono');
  const integer = !file.encoding.startsWith('f');
  if (facts.fits16 && integer && file.bitDepth > 16 && peakDbfs > SOUND_DBFS)
    add('sixteen-in-more', { bits: file.bitDepth });
}

/** A recording this quiet, whose peaks stand this little out of its level, is a room or a hum that begins and ends where the machine was switched (own). */
const ROOM_DBFS = -30;
const ROOM_CREST_DB = 16;

const isEvenNoise = ({ peakDbfs, rmsDbfs }: KnownFile['facts']): boolean =>
  peakDbfs !== null && rmsDbfs !== null && peakDbfs < ROOM_DBFS && peakDbfs - rmsDbfs < ROOM_CREST_DB;

function addShape({ facts, source, heard }: KnownFile, add: Add): void {
  if (facts.dropouts > 0) add('dropouts', { gaps: facts.dropouts }, facts.dropoutPlaces);
  if (facts.abruptStartDbfs !== null && !isEvenNoise(facts))
    add('abrupt-start', { levelDbfs: roundTo(facts.abruptStartDbfs, 1) });
  if (facts.abruptEndDbfs !== null && !isEvenNoise(facts))
    add('abrupt-end', { levelDbfs: roundTo(facts.abruptEndDbfs, 1) });
  if (
    BREATH.has(source.family) &&
    heard?.tail &&
    heard.tail.seconds >= REVERB_SECONDS &&
    heard.tail.straight >= REVERB_SHARE
  )
    add('reverb', { seconds: roundTo(heard.tail.seconds, 1), ends: heard.tail.ends });
  const c = facts.ceiling;
  if (c && isLimited(c) && facts.clippedRuns === 0 && !facts.flatTops)
    add('limited', { crestDb: roundTo(c.crestDb, 1), share: roundTo(c.share, 2) });
}
