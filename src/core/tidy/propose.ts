import { type BandLevels, LEVEL_POWERS } from '../analysis';
import type { Family } from '../naming';
import { type WeighedLevels, weigh } from './activity';
import { framesOf } from './frame-math';
import { isKitMic, mayBeCutAlone } from './kit';
import { reasonsOf, type ReasonContext, type TidyPiece } from './reasons';
import { joined, type Span } from './spans';
import { addSpill, spillPath, sumOfLevels } from './spill';
import {
  type CutSettings,
  isEven,
  isFloor,
  keptSpans,
  NOTHING_UNWANTED,
  type Unwanted,
  wantedSpans,
} from './wanted';

/** A track as it is looked at: from the common start of the session on. */
export interface TidyTrack {
  readonly id: string;
  readonly levels: BandLevels;
  readonly family: Family;
  readonly part: string | null;
  /** What is shared with other recordings of the same source (another microphone, the other side of a pair, a direct line); null = with none. */
  readonly source: string | null;
}

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
  /** Why nothing is proposed; null where something is. */
  readonly nothingBecause: NothingBecause | null;
}

/** Why a track is left whole: it only serves to compare, it has no sound, no noise floor is told from what is played, nothing stands out of the rest, or something sounds all the time. */
export type NothingBecause = 'reference' | 'silent' | 'no-floor' | 'even' | 'always-sounding';

/** Microphones that hear all the rest are cut where nothing sounds for so long, s. */
const TOGETHER_GAP_SECONDS = 1;
/** After each opening of a tom, s: its ring lies under the bleed. */
const TOM_HOLD_SECONDS = 1;
/** The same for anything else that something spills into. */
const HOLD_SECONDS = 0.5;
/** The song plays where this share of the tracks sounds, and two at least. */
const SONG_SHARE = 0.2;

interface Weighed extends TidyTrack {
  readonly weighed: WeighedLevels;
}

/** Sounds of a track, and what stays with pads and joined gaps. */
interface Heard {
  readonly wanted: readonly Span[];
  readonly kept: readonly Span[];
  readonly spills: ReasonContext['spills'];
}

/** What Tidy would take out of tracks that were recorded together. */
export function proposeTidy(tracks: readonly TidyTrack[], settings: CutSettings): TidyProposal[] {
  const all = tracks.map((t): Weighed => ({ ...t, weighed: weigh(t.levels) }));
  const heard = all.map((track): Heard => {
    const unwanted = isTogether(track) ? NOTHING_UNWANTED : unwantedIn(track, all);
    const wanted = wantedSpans(track.weighed, unwanted, settings);
    const spills = unwanted.spill === null ? null : isKitMic(track) ? 'bleed' : 'spill';
    return { wanted, kept: keptSpans(track.weighed, wanted, settings), spills };
  });
  const groups = all.map((track) => groupOf(track, all));
  const songStart = songStartOf(all, heard);
  return all.map((track, i) => {
    if (track.family === 'reference' || track.family === 'click') return left(track, 'reference');
    const group = groups[i] ?? null;
    const members = heard.filter((_, k) => (group === null ? k === i : groups[k] === group));
    const toms =
      group === KIT ? heard.filter((_, k) => isKitMic(all[k] as Weighed) && groups[k] === null) : [];
    return proposal(track, group, togetherHeard([...members, ...toms], group, settings), songStart);
  });
}

const KIT = 'kit';
const MAINS = 'mains';

/** Cut only together with others that hear the same. */
const isTogether = (t: Weighed): boolean => t.family === 'mains' || (isKitMic(t) && !mayBeCutAlone(t));

function groupOf(track: Weighed, all: readonly Weighed[]): string | null {
  if (isKitMic(track)) return isTogether(track) ? KIT : null;
  if (track.family === 'mains') return MAINS;
  return track.source !== null && all.some((o) => o !== track && o.source === track.source)
    ? track.source
    : null;
}

/** What several recordings hear together stays wherever one of them has something. */
function togetherHeard(members: readonly Heard[], group: string | null, settings: CutSettings): Heard {
  const [first] = members;
  if (members.length === 1 && first && group !== KIT && group !== MAINS) return first;
  const order = (a: Span, b: Span): number => a.from - b.from;
  const gap = group === KIT || group === MAINS ? TOGETHER_GAP_SECONDS : 0;
  return {
    wanted: joined(members.flatMap((m) => m.wanted).sort(order), 1),
    kept: joined(
      members.flatMap((m) => m.kept).sort(order),
      framesOf(Math.max(gap, settings.shortestSeconds)),
    ),
    spills: first?.spills ?? null,
  };
}

/** What other recordings spill into a track: those of its kit for a microphone of a kit; else click and rough mix, as they came over headphones, or all others together where there is none. */
function unwantedIn(track: Weighed, all: readonly Weighed[]): Unwanted {
  if (track.weighed.floorKind === null) return NOTHING_UNWANTED;
  const others = all.filter((o) => o !== track && (o.source === null || o.source !== track.source));
  const isKit = isKitMic(track);
  const references = isKit ? others.filter(isKitMic).map((o) => o.weighed.levels) : overHeadphones(others);
  const spill = track.weighed.floor.slice();
  let isAny = false;
  for (const reference of references) {
    const path = spillPath(track.weighed.levels, reference);
    if (!path) continue;
    addSpill(spill, reference, path);
    isAny = true;
  }
  return isAny ? { spill, hold: framesOf(isKit ? TOM_HOLD_SECONDS : HOLD_SECONDS) } : NOTHING_UNWANTED;
}

function overHeadphones(others: readonly Weighed[]): BandLevels[] {
  const given = others.filter((o) => o.family === 'reference' || o.family === 'click');
  return given.some((o) => o.family === 'reference')
    ? given.map((o) => o.weighed.levels)
    : [sumOfLevels(others.map((o) => o.weighed.levels))];
}

/** First frame in which several tracks sound at once; null where that says nothing. */
function songStartOf(all: readonly Weighed[], heard: readonly Heard[]): number | null {
  const playing = heard.filter((_, i) => !['reference', 'click'].includes((all[i] as Weighed).family));
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
  track: Weighed,
  group: string | null,
  { wanted, kept, spills }: Heard,
  songStart: number | null,
): TidyProposal {
  const { weighed } = track;
  const { frames } = weighed;
  const spans = kept
    .map((s) => ({ from: Math.min(s.from, frames), to: Math.min(s.to, frames) }))
    .filter((s) => s.to > s.from);
  if (spans.length === 0) return left(track, weighed.zero.includes(0) ? 'even' : 'silent');
  const pieces = reasonsOf(weighed, spans, { family: track.family, spills, songStart });
  const isWhole = pieces.every((p) => p.keeps);
  return {
    id: track.id,
    group,
    floorDbfs: floorDbfs(weighed),
    pieces,
    begins: spans.map((s) => wanted.find((w) => w.to > s.from)?.from ?? s.from),
    nothingBecause: isWhole ? whyWhole(weighed) : null,
  };
}

function whyWhole(weighed: WeighedLevels): NothingBecause {
  if (weighed.floorKind !== null || weighed.isGated) return 'always-sounding';
  return isEven(weighed) ? 'even' : 'no-floor';
}

function left({ id, weighed }: Weighed, nothingBecause: NothingBecause): TidyProposal {
  return {
    id,
    group: null,
    floorDbfs: floorDbfs(weighed),
    pieces: [{ from: 0, to: weighed.frames, keeps: true, reason: 'sound', confidence: 1 }],
    begins: [0],
    nothingBecause,
  };
}

/** RMS of the floor, dBFS: of the frames in which nothing stands out of it. */
function floorDbfs(weighed: WeighedLevels): number | null {
  if (weighed.isGated) return null;
  let [sum, count] = [0, 0];
  for (let n = 0; n < weighed.frames; n++) {
    if (weighed.zero[n] === 1 || !isFloor(weighed, n)) continue;
    sum += LEVEL_POWERS[weighed.levels.total[n] as number] as number;
    count++;
  }
  return sum === 0 ? null : 10 * Math.log10(sum / count);
}
