import type { BandLevels } from '../analysis';
import { LEVEL_POWERS } from '../analysis';
import type { Family } from '../naming';
import { type WeighedLevels, weigh } from './activity';
import type { FloorKind } from './floor-kind';
import { framesOf } from './frame-math';
import { isCutTogether, isKitMic } from './kit';
import type { Span } from './spans';
import { addSpill, LevelSum, spillPath } from './spill';
import { isEven, isFloor, NOTHING_UNWANTED, type Unwanted, wantedSpans } from './wanted';

/** A track as it is looked at: from the common start of the session on. */
export interface TidyTrack {
  readonly id: string;
  readonly levels: BandLevels;
  readonly family: Family;
  readonly part: string | null;
  /** What is shared with other recordings of the same source (another microphone, the other side of a pair, a direct line); null = with none. */
  readonly source: string | null;
}

/** What is heard of a track, whatever the settings of the cut: 4 bytes a frame. */
export interface HeardTrack extends Omit<TidyTrack, 'levels'> {
  readonly frames: number;
  /** Level of each frame, see {@link BandLevels}. */
  readonly total: Uint8Array;
  /** 1 = part of a run of zeros. */
  readonly zero: Uint8Array;
  /** 1 = nothing but the floor is heard. */
  readonly isFloor: Uint8Array;
  /** See {@link WeighedLevels}. */
  readonly isGated: boolean;
  readonly floorKind: FloorKind | null;
  /** RMS of the steady noise, dBFS; null where it is never heard. */
  readonly floorDbfs: number | null;
  /** Windows in which the floor is heard alone. */
  readonly aloneWindows: number;
  /** Whether nothing stands out anywhere. */
  readonly isEven: boolean;
  /** Frames that hold something wanted, told by the floor; without pads. */
  readonly wanted: readonly Span[];
  /** What spills in; null = nothing that was found. */
  readonly spills: 'bleed' | 'spill' | null;
}

/** After each opening of a tom, s: its ring lies under the bleed. */
const TOM_HOLD_SECONDS = 1;
/** The same for anything else that something spills into. */
const HOLD_SECONDS = 0.5;

/**
 * Weighs tracks that were recorded together, one after the other: all of them, or those at `which` of the places. `told` is called
 * behind each.
 */
export function hearTracks(
  tracks: readonly TidyTrack[],
  told?: (done: number) => void,
  which: readonly number[] = tracks.map((_, i) => i),
): HeardTrack[] {
  const references = referencesOf(tracks);
  return which.map((at, i) => {
    const heard = hear(tracks[at] as TidyTrack, references);
    told?.(i + 1);
    return heard;
  });
}

function hear(track: TidyTrack, references: References): HeardTrack {
  const { levels, ...named } = track;
  const weighed = weigh(levels);
  const unwanted =
    weighed.floorKind === null || isCutTogether(track)
      ? NOTHING_UNWANTED
      : unwantedIn(weighed, track, references(track));
  return {
    ...named,
    frames: weighed.frames,
    total: levels.total,
    zero: weighed.zero,
    isFloor: Uint8Array.from({ length: weighed.frames }, (_, n) => (isFloor(weighed, n) ? 1 : 0)),
    isGated: weighed.isGated,
    floorKind: weighed.floorKind,
    floorDbfs: floorDbfs(weighed),
    aloneWindows: weighed.alone.length,
    isEven: isEven(weighed),
    wanted: wantedSpans(weighed, unwanted),
    spills: unwanted.spill === null ? null : isKitMic(track) ? 'bleed' : 'spill',
  };
}

/** The recordings of which something may be heard on a track besides what it is there for. */
type References = (track: TidyTrack) => readonly BandLevels[];

/** Other microphones of its kit for one of a kit; else click and rough mix, as they came over headphones, or all others together where there is none. */
function referencesOf(tracks: readonly TidyTrack[]): References {
  const apart = (a: TidyTrack, b: TidyTrack): boolean =>
    a !== b && (a.source === null || a.source !== b.source);
  const given = tracks.filter((t) => t.family === 'reference' || t.family === 'click');
  const hasMix = given.some((t) => t.family === 'reference');
  let sum: LevelSum | null = null;
  return (track) => {
    if (isKitMic(track)) return tracks.filter((t) => isKitMic(t) && apart(t, track)).map((t) => t.levels);
    if (hasMix) return given.filter((t) => apart(t, track)).map((t) => t.levels);
    sum ??= new LevelSum(tracks.map((t) => t.levels));
    return [sum.without(tracks.filter((t) => !apart(t, track)).map((t) => t.levels))];
  };
}

function unwantedIn(weighed: WeighedLevels, track: TidyTrack, references: readonly BandLevels[]): Unwanted {
  const spill = weighed.floor.slice();
  let isAny = false;
  for (const reference of references) {
    const path = spillPath(track.levels, reference);
    if (!path) continue;
    addSpill(spill, reference, path);
    isAny = true;
  }
  return isAny
    ? { spill, hold: framesOf(isKitMic(track) ? TOM_HOLD_SECONDS : HOLD_SECONDS) }
    : NOTHING_UNWANTED;
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
