import { existsSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { faultText } from '@/contracts';
import { LEVELS_PER_SECOND } from '@/core/analysis';
import { sourceKeys } from '@/core/conform';
import { type MatchedSound, matchGains, recordedTogether } from '@/core/matching';
import { readNames, stripExtension } from '@/core/naming';
import { DEFAULT_STYLE, kindKnown } from '@/core/style';
import {
  NOTHING_WORDS,
  proposeTidy,
  type TidyPiece,
  type TidyProposal,
  type TidySettings,
} from '@/core/tidy';
import { roundTo } from '@/core/units';
import { type CutOutcome, runTask } from '@/engine';
import { type Arguments, CallFault, print } from './arguments';
import { type InspectedSound, soundFiles, threadPath, withSounds } from './sound-files';

type Inspected = Extract<InspectedSound['outcome'], { readonly ok: true }>['value'];
interface Usable {
  readonly sound: InspectedSound;
  readonly value: Inspected;
  readonly levels: NonNullable<Inspected['levels']>;
}

/** A stretch as it is printed. */
interface PrintedStretch {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly reason: TidyPiece['reason'];
  readonly confidence: number;
}

/** `tidy`: what stays and what goes of each recording, and the level it would get. */
export async function commandTidy(args: Arguments): Promise<number> {
  const settings = settingsOf(args);
  const out = args.one('out');
  return withSounds(
    soundFiles(args.words),
    { truePeak: false, listen: true, levels: true, split: true },
    async (sounds) => {
      if (out !== null) await readyFolder(out, sounds.map(outName));
      const rows = await tidySounds(sounds, settings, out);
      print(args.json, rows, [
        ['file', 'group', 'floor dBFS', 'stays', 'goes', 'gain dB', 'LUFS', 'peak dBFS', ''],
        ...rows.map((r) => [
          basename(r.file),
          r.group,
          r.floorDbfs,
          `${total(r.keep)} s in ${r.keep.length}`,
          `${total(r.removed)} s in ${r.removed.length}`,
          r.gainDb,
          r.reachedLufs,
          r.reachedPeakDbfs,
          r.why ?? '',
        ]),
      ]);
      return rows.some((r) => r.keep.length === 0) ? 1 : 0;
    },
  );
}

const total = (stretches: readonly PrintedStretch[]): string =>
  stretches.reduce((sum, s) => sum + s.toSeconds - s.fromSeconds, 0).toFixed(1);

/** Bounds of what can be asked for. */
const LIMITS = {
  threshold: [-120, 0],
  shortest: [0.02, 60],
  before: [0, 10],
  after: [0, 10],
} as const;

function settingsOf(args: Arguments): TidySettings {
  const given = (name: keyof typeof LIMITS): number | null => {
    const word = args.one(name);
    if (word === null) return null;
    const [least, most] = LIMITS[name];
    const value = Number(word);
    if (word.trim() === '' || !(value >= least && value <= most))
      throw new CallFault(`--${name} takes a number from ${least} to ${most}, not ${word}`);
    return value;
  };
  return {
    ...DEFAULT_STYLE.cuts.all,
    thresholdDb: given('threshold'),
    shortestSeconds: given('shortest') ?? DEFAULT_STYLE.cuts.all.shortestSeconds,
    beforeSeconds: given('before') ?? DEFAULT_STYLE.cuts.all.beforeSeconds,
    afterSeconds: given('after') ?? DEFAULT_STYLE.cuts.all.afterSeconds,
  };
}

/** Results are WAV, whatever came; a channel of a file is one of its own. */
const outName = ({ of }: InspectedSound): string =>
  `${stripExtension(basename(of.file))}${of.channel === null ? '' : `_${of.channel}`}.wav`;

async function readyFolder(out: string, names: readonly string[]): Promise<void> {
  const twice = names.find((n, i) => names.indexOf(n) !== i);
  if (twice !== undefined)
    throw new CallFault(`two recordings are called ${twice}: their results would lie in one place`);
  const taken = names.find((n) => existsSync(join(out, n)));
  if (taken !== undefined) throw new CallFault(`${join(out, taken)} is there already`);
  await mkdir(out, { recursive: true });
}

async function tidySounds(sounds: readonly InspectedSound[], settings: TidySettings, out: string | null) {
  const usable = sounds.flatMap((sound): Usable[] =>
    sound.outcome.ok && sound.outcome.value.levels
      ? [{ sound, value: sound.outcome.value, levels: sound.outcome.value.levels }]
      : [],
  );
  const readings = readNames(usable.map((u) => basename(u.sound.file)));
  const kinds = usable.map((u, i) => kindKnown(null, readings[i] ?? null, u.value.listening?.heard ?? null));
  const sources = sourceKeys(readings);
  const proposals = proposeTidy(
    usable.map((u, i) => ({
      id: u.sound.file,
      levels: u.levels,
      family: kinds[i]?.family ?? 'unknown',
      part: kinds[i]?.part ?? null,
      source: sources[i] ?? null,
    })),
    settings,
  );
  const cuts: CutOutcome[] = [];
  for (const [i, u] of usable.entries()) cuts.push(await cut(u, proposals[i] as TidyProposal, settings, out));
  const together = recordedTogether(
    kinds.map((k, i) => ({ family: k.family, part: k.part, source: sources[i] ?? null })),
  );
  const matched = matchGains(
    cuts.map((c, i) => ({
      whole: c.measure,
      pieces: [],
      family: kinds[i]?.family ?? 'unknown',
      part: kinds[i]?.part ?? null,
      group: together[i] ?? null,
    })),
    DEFAULT_STYLE.matching,
  );
  return sounds.map((sound) => {
    const at = usable.findIndex((u) => u.sound === sound);
    const [proposal, done, level] = [proposals[at], cuts[at], matched[at]];
    return proposal && done && level
      ? printed(sound.file, proposal, done, { level: level.whole, settings })
      : unusable(sound);
  });
}

async function cut(
  { sound, value }: Usable,
  proposal: TidyProposal,
  settings: TidySettings,
  out: string | null,
): Promise<CutOutcome> {
  const { sampleRateHz, lengthFrames } = value.header;
  const end = lengthFrames / sampleRateHz;
  const kept = proposal.pieces.filter((p) => p.keeps);
  const done = await runTask(
    'cut',
    {
      path: sound.path,
      kept: kept.map((p, i) => ({
        fromSeconds: p.from / LEVELS_PER_SECOND,
        toSeconds: p === proposal.pieces.at(-1) ? end : Math.min(end, p.to / LEVELS_PER_SECOND),
        soundSeconds:
          settings.thresholdDb === null ? (proposal.begins[i] as number) / LEVELS_PER_SECOND : null,
      })),
      beforeSeconds: settings.beforeSeconds,
      fadeSeconds: settings.fadeSeconds,
      refines: proposal.group === null,
      outPath: out === null ? null : join(out, outName(sound)),
    },
    { threadPath: threadPath() },
  );
  // It was read once already in this call.
  if (!done.ok) throw new Error(`${sound.file}: ${faultText(done.error)}`);
  return done.value;
}

const seconds = (frames: number, rateHz: number): number => roundTo(frames / rateHz, 6);

function printed(
  file: string,
  proposal: TidyProposal,
  { kept, sampleRateHz: rate, lengthFrames }: CutOutcome,
  { level, settings }: { readonly level: MatchedSound; readonly settings: TidySettings },
) {
  const stretch = (from: number, to: number, { reason, confidence }: TidyPiece): PrintedStretch => ({
    fromSeconds: seconds(from, rate),
    toSeconds: seconds(to, rate),
    reason,
    confidence: roundTo(confidence, 2),
  });
  const staying = proposal.pieces.filter((p) => p.keeps);
  const going = proposal.pieces.filter((p) => !p.keeps);
  // What goes lies between what stays, to the sample.
  const gaps: [number, number][] = [];
  let end = 0;
  for (const k of kept) {
    if (k.from > end) gaps.push([end, k.from]);
    end = k.to;
  }
  if (end < lengthFrames) gaps.push([end, lengthFrames]);
  const near = (from: number, to: number): TidyPiece =>
    going.reduce(
      (best, p) => (overlap(p, from / rate, to / rate) > overlap(best, from / rate, to / rate) ? p : best),
      going[0] as TidyPiece,
    );
  return {
    file,
    group: proposal.group,
    floorDbfs: proposal.floorDbfs === null ? null : roundTo(proposal.floorDbfs, 1),
    keep: kept.map((k, i) => stretch(k.from, k.to, staying[i] as TidyPiece)),
    removed: going.length === 0 ? [] : gaps.map(([from, to]) => stretch(from, to, near(from, to))),
    fadeSeconds: settings.fadeSeconds,
    gainDb: roundTo(level.gainDb, 1),
    reachedLufs: level.reachedLufs === null ? null : roundTo(level.reachedLufs, 2),
    reachedPeakDbfs: level.reachedPeakDbfs === null ? null : roundTo(level.reachedPeakDbfs, 2),
    why: proposal.nothingBecause === null ? null : NOTHING_WORDS[proposal.nothingBecause],
  };
}

/** How much of a piece lies in a stretch, s. */
const overlap = (p: TidyPiece, from: number, to: number): number =>
  Math.min(p.to / LEVELS_PER_SECOND, to) - Math.max(p.from / LEVELS_PER_SECOND, from);

function unusable({ file, outcome }: InspectedSound): ReturnType<typeof printed> {
  return {
    file,
    group: null,
    floorDbfs: null,
    keep: [],
    removed: [],
    fadeSeconds: 0,
    gainDb: 0,
    reachedLufs: null,
    reachedPeakDbfs: null,
    why: outcome.ok ? 'nothing could be measured' : faultText(outcome.error),
  };
}
