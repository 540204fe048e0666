import { type BandLevels, LEVEL_POWERS } from '../analysis';
import type { Family } from '../naming';
import { type WeighedLevels, weigh } from './activity';
import { framesOf } from './frame-math';
import { isKitMic, mayBeCutAlone } from './kit';
import { reasonsOf, type TidyPiece } from './reasons';
import { joined, type Span } from './spans';
import { addSpill, spillPath, sumOfLevels } from './spill';
import { type CutSettings, isFloor, keptSpans, NOTHING_UNWANTED, type Unwanted, wantedSpans } from './wanted';

/** A track as it is looked at: from the common start of the session on. */
export interface TidyTrack {
  readonly id: string;
  readonly levels: BandLevels;
  readonly family: Family;
  readonly part: string | null;
  /** Tracks that hear the same source as this one (another microphone, a direct line); none of them tells what spills in. */
  readonly source: string;
}

/** What stays and what goes of a track. */
export interface TidyProposal {
  readonly id: string;
  /** Tracks of one group have the same pieces; null = cut by itself. */
  readonly group: string | null;
  /** RMS of the steady noise, dBFS; null where it is never heard alone. */
  readonly floorDbfs: number | null;
  /** In order; they cover the track without a gap. */
  readonly pieces: readonly TidyPiece[];
  /** Why nothing is proposed; null where something is. */
  readonly nothingBecause: NothingBecause | null;
}

/** Why a track is left whole. */
export type NothingBecause = 'reference' | 'silent' | 'no-floor-heard' | 'always-sounding';

/** A kit is cut as one where nothing sounds for so long, s. */
const KIT_GAP_SECONDS = 1;
/** After each opening of a tom, s: its ring lies under the bleed. */
const TOM_HOLD_SECONDS = 1;
/** The same for anything else that something spills into. */
const HOLD_SECONDS = 0.5;
const KIT = 'kit';

interface Weighed extends TidyTrack {
  readonly weighed: WeighedLevels;
}

/** What Tidy would take out of tracks that were recorded together. */
export function proposeTidy(tracks: readonly TidyTrack[], settings: CutSettings): TidyProposal[] {
  const all = tracks.map((t): Weighed => ({ ...t, weighed: weigh(t.levels) }));
  const kit = all.filter(isKitMic);
  const whole = kit.length > 1 ? kitSpans(kit, settings) : null;
  return all.map((track) => {
    if (track.family === 'reference' || track.family === 'click') return left(track, 'reference');
    if (whole && isKitMic(track) && !mayBeCutAlone(track))
      return proposal(track, KIT, whole, NOTHING_UNWANTED);
    const unwanted = unwantedIn(track, all);
    return proposal(
      track,
      null,
      keptSpans(track.weighed, wantedSpans(track.weighed, unwanted), settings),
      unwanted,
    );
  });
}

/** What stays of a kit: wherever any of its microphones has something. */
function kitSpans(kit: readonly Weighed[], settings: CutSettings): Span[] {
  const spans = kit.flatMap(({ weighed }) =>
    keptSpans(weighed, wantedSpans(weighed, NOTHING_UNWANTED), settings),
  );
  return joined(
    spans.sort((a, b) => a.from - b.from),
    framesOf(Math.max(KIT_GAP_SECONDS, settings.shortestSeconds)),
  );
}

/** What other recordings spill into a track: those of its kit for a microphone of a kit; else click and rough mix, as they came over headphones, or all others together where there is none. */
function unwantedIn(track: Weighed, all: readonly Weighed[]): Unwanted {
  if (track.weighed.floorKind === null) return NOTHING_UNWANTED;
  const others = all.filter((o) => o !== track && o.source !== track.source);
  const isKit = isKitMic(track);
  const heard = isKit ? others.filter(isKitMic).map((o) => o.weighed.levels) : overHeadphones(others);
  const spill = track.weighed.floor.slice();
  let isAny = false;
  for (const reference of heard) {
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

function proposal(
  track: Weighed,
  group: string | null,
  kept: readonly Span[],
  unwanted: Unwanted,
): TidyProposal {
  const { frames } = track.weighed;
  const spans = kept
    .map((s) => ({ from: Math.min(s.from, frames), to: Math.min(s.to, frames) }))
    .filter((s) => s.to > s.from);
  const pieces = reasonsOf(track.weighed, spans, unwanted.spill);
  const isAllGone = spans.length === 0;
  if (isAllGone && group === null)
    return left(track, track.weighed.zero.includes(0) ? 'no-floor-heard' : 'silent');
  return { id: track.id, group, floorDbfs: floorDbfs(track.weighed), pieces, nothingBecause: null };
}

function left({ id, weighed }: Weighed, nothingBecause: NothingBecause): TidyProposal {
  return {
    id,
    group: null,
    floorDbfs: floorDbfs(weighed),
    pieces: [{ from: 0, to: weighed.frames, keeps: true, reason: 'sound', confidence: 1 }],
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
  return count === 0 ? null : 10 * Math.log10(sum / count);
}
