import { isCutTogether, isKitMic } from './kit';
import { framesOf } from './frame-math';
import { type HeardTrack, hearTracks, type TidyTrack } from './heard';
import { reasonsOf, type TidyPiece } from './reasons';
import { joined, type Span } from './spans';
import { aboveThreshold, type CutSettings, keptSpans } from './wanted';

/** What stays and what goes of a track. */
export interface TidyProposal {
  readonly id: string;
  /** Tracks of one group have the same pieces; null = cut by itself. */
  readonly group: string | null;
  /** RMS of the steady noise, dBFS; null where it is never heard. */
  readonly floorDbfs: number | null;
  /** In order; they cover the track without a gap. */
  readonly pieces: readonly TidyPiece[];
  /** Frame in which what is wanted of each kept piece begins, in order. */
  readonly begins: readonly number[];
  /** First frame after what is wanted of each, the same. */
  readonly ends: readonly number[];
  /** Why nothing is proposed; null where something is. */
  readonly nothingBecause: NothingBecause | null;
}

/** Why a track is left whole: it only serves to compare, it has no sound, no noise floor is told from what is played, nothing stands out of the rest, something sounds all the time, or nothing reaches the level that was set. */
export type NothingBecause =
  'reference' | 'silent' | 'no-floor' | 'even' | 'always-sounding' | 'below-threshold';

/** Microphones that hear all the rest are cut where nothing sounds for so long, s. */
const TOGETHER_GAP_SECONDS = 1;
/** The song plays where this share of the tracks sounds, and two at least. */
const SONG_SHARE = 0.2;

/** A track under the settings of its cut: sounds, and what stays with pads and joined gaps. */
interface CutTrack {
  readonly wanted: readonly Span[];
  readonly kept: readonly Span[];
  readonly shortestSeconds: number;
  /** What is a sound is said by a level set by hand. */
  readonly isByThreshold: boolean;
  readonly spills: HeardTrack['spills'];
}

/** What Tidy would take out of tracks that were recorded together. */
export const proposeTidy = (tracks: readonly TidyTrack[], settings: CutSettings): TidyProposal[] =>
  proposeCuts(hearTracks(tracks), () => settings);

/** The same of tracks that were weighed before: fast enough to follow a control that moves. Tracks `apart` are cut by themselves, whatever they were recorded with. */
export function proposeCuts(
  all: readonly HeardTrack[],
  settingsOf: (track: HeardTrack) => CutSettings,
  apart: ReadonlySet<string> = new Set(),
): TidyProposal[] {
  const cuts = all.map((track) => cutTrack(track, settingsOf(track)));
  const groups = groupsOf(all).map((group, i) => (apart.has((all[i] as HeardTrack).id) ? null : group));
  const songStart = songStartOf(all, cuts);
  const together = new Map<string, CutTrack>();
  return all.map((track, i) => {
    if (track.family === 'reference' || track.family === 'click') return left(track, 'reference');
    const group = groups[i] ?? null;
    const cut =
      group === null
        ? (cuts[i] as CutTrack)
        : (together.get(group) ?? togetherCut(membersOf(group, { all, cuts, groups }), group));
    if (group !== null) together.set(group, cut);
    return proposal(track, group, cut, songStart);
  });
}

/** The last cut of each track: while one control moves, the others stay as they are. */
const LAST = new WeakMap<HeardTrack, { readonly settings: CutSettings; readonly cut: CutTrack }>();

function cutTrack(track: HeardTrack, settings: CutSettings): CutTrack {
  const last = LAST.get(track);
  if (last && isSameSettings(last.settings, settings)) return last.cut;
  const wanted = settings.thresholdDb === null ? track.wanted : aboveThreshold(track, settings.thresholdDb);
  const cut = {
    wanted,
    kept: keptSpans(track, wanted, settings),
    shortestSeconds: settings.shortestSeconds,
    isByThreshold: settings.thresholdDb !== null,
    spills: track.spills,
  };
  LAST.set(track, { settings, cut });
  return cut;
}

const isSameSettings = (a: CutSettings, b: CutSettings): boolean =>
  a.thresholdDb === b.thresholdDb &&
  a.shortestSeconds === b.shortestSeconds &&
  a.beforeSeconds === b.beforeSeconds &&
  a.afterSeconds === b.afterSeconds;

const KIT = 'kit';
const MAINS = 'mains';

/** Which tracks are cut as one; null = alone. */
function groupsOf(all: readonly HeardTrack[]): (string | null)[] {
  const counts = new Map<string, number>();
  for (const { source } of all) if (source !== null) counts.set(source, (counts.get(source) ?? 0) + 1);
  return all.map((track) => {
    if (isKitMic(track)) return isCutTogether(track) ? KIT : null;
    if (track.family === 'mains') return MAINS;
    return track.source !== null && (counts.get(track.source) ?? 0) > 1 ? track.source : null;
  });
}

/** Whose sounds keep a group: its tracks, and the toms for the rest of their kit. */
const membersOf = (
  group: string,
  {
    all,
    cuts,
    groups,
  }: {
    readonly all: readonly HeardTrack[];
    readonly cuts: readonly CutTrack[];
    readonly groups: readonly (string | null)[];
  },
): CutTrack[] =>
  cuts.filter(
    (_, k) => groups[k] === group || (group === KIT && groups[k] === null && isKitMic(all[k] as HeardTrack)),
  );

/** What several recordings hear together stays wherever one of them has something. */
function togetherCut(members: readonly CutTrack[], group: string): CutTrack {
  const order = (a: Span, b: Span): number => a.from - b.from;
  const gap = group === KIT || group === MAINS ? TOGETHER_GAP_SECONDS : 0;
  const shortestSeconds = Math.max(gap, ...members.map((m) => m.shortestSeconds));
  return {
    wanted: joined(members.flatMap((m) => m.wanted).sort(order), 1),
    kept: joined(members.flatMap((m) => m.kept).sort(order), framesOf(shortestSeconds)),
    shortestSeconds,
    isByThreshold: members.some((m) => m.isByThreshold),
    spills: members[0]?.spills ?? null,
  };
}

/** First frame in which several tracks sound at once; null where that says nothing. */
function songStartOf(all: readonly HeardTrack[], cuts: readonly CutTrack[]): number | null {
  const playing = cuts.filter((_, i) => !['reference', 'click'].includes((all[i] as HeardTrack).family));
  const least = Math.max(2, Math.ceil(SONG_SHARE * playing.length));
  const starts = playing.flatMap((h) => h.wanted.map((s) => ({ at: s.from, by: 1 })));
  const ends = playing.flatMap((h) => h.wanted.map((s) => ({ at: s.to, by: -1 })));
  let count = 0;
  for (const { at, by } of [...starts, ...ends].sort((a, b) => a.at - b.at || a.by - b.by)) {
    count += by;
    if (count >= least) return at;
  }
  return null;
}

function proposal(
  track: HeardTrack,
  group: string | null,
  { wanted, kept, spills, isByThreshold }: CutTrack,
  songStart: number | null,
): TidyProposal {
  const { frames } = track;
  const spans = kept
    .map((s) => ({ from: Math.min(s.from, frames), to: Math.min(s.to, frames) }))
    .filter((s) => s.to > s.from);
  if (spans.length === 0)
    return left(track, !track.zero.includes(0) ? 'silent' : isByThreshold ? 'below-threshold' : 'even');
  const pieces = reasonsOf(track, spans, { family: track.family, spills, songStart });
  const isWhole = pieces.every((p) => p.keeps);
  return {
    id: track.id,
    group,
    floorDbfs: track.floorDbfs,
    pieces,
    begins: beginsOf(spans, wanted),
    ends: endsOf(spans, wanted),
    nothingBecause: isWhole ? (isByThreshold ? 'always-sounding' : whyWhole(track)) : null,
  };
}

/** Where the first sound of each span begins; both in order. */
function beginsOf(spans: readonly Span[], wanted: readonly Span[]): number[] {
  let k = 0;
  return spans.map(({ from }) => {
    while (k < wanted.length && (wanted[k] as Span).to <= from) k++;
    return wanted[k]?.from ?? from;
  });
}

/** Where the last sound of each span ends; both in order. */
function endsOf(spans: readonly Span[], wanted: readonly Span[]): number[] {
  let k = -1;
  return spans.map(({ from, to }) => {
    while (k + 1 < wanted.length && (wanted[k + 1] as Span).from < to) k++;
    const last = wanted[k];
    return last && last.to > from ? Math.min(last.to, to) : to;
  });
}

function whyWhole({ floorKind, isGated, isEven }: HeardTrack): NothingBecause {
  if (floorKind !== null || isGated) return 'always-sounding';
  return isEven ? 'even' : 'no-floor';
}

function left(track: HeardTrack, nothingBecause: NothingBecause): TidyProposal {
  return {
    id: track.id,
    group: null,
    floorDbfs: track.floorDbfs,
    pieces: [{ from: 0, to: track.frames, keeps: true, reason: 'sound', confidence: 1 }],
    begins: [0],
    ends: [track.frames],
    nothingBecause,
  };
}
