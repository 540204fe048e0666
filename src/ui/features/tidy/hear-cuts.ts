import type { Piece } from '@/core/arrange';
import type { Stretch } from '@/core/tidy';
import type { PlaybackTime } from '@/ui/listening';

/** Heard before and after each cut, s; and silence between two places. */
const [AROUND_SECONDS, APART_SECONDS] = [0.5, 0.25];
/** What begins or ends in the middle of sound fades so long, s. */
const SOFT_SECONDS = 0.005;

/** Places around the edges of what stays: half a second before and after each; those that meet are one. */
export function aroundCuts(kept: readonly Stretch[], whole: Stretch, rateHz: number): Stretch[] {
  const around = Math.round(AROUND_SECONDS * rateHz);
  const edges = kept
    .flatMap((k) => [k.fromFrames, k.toFrames])
    .filter((e) => e > whole.fromFrames && e < whole.toFrames)
    .sort((a, b) => a - b);
  const out: Stretch[] = [];
  for (const edge of edges) {
    const next = {
      fromFrames: Math.max(whole.fromFrames, edge - around),
      toFrames: Math.min(whole.toFrames, edge + around),
    };
    const last = out.at(-1);
    if (last && next.fromFrames <= last.toFrames)
      out[out.length - 1] = { fromFrames: last.fromFrames, toFrames: next.toFrames };
    else out.push(next);
  }
  return out;
}

/** What does not stay. */
export function goneCuts(kept: readonly Stretch[], whole: Stretch): Stretch[] {
  const out: Stretch[] = [];
  let at = whole.fromFrames;
  for (const k of kept) {
    if (k.fromFrames > at) out.push({ fromFrames: at, toFrames: k.fromFrames });
    at = Math.max(at, k.toFrames);
  }
  if (whole.toFrames > at) out.push({ fromFrames: at, toFrames: whole.toFrames });
  return out;
}

/** Places of a song one behind the other. */
export interface PlacesInRow {
  readonly places: readonly Stretch[];
  /** From the time as played to that of the row, and back. */
  readonly time: PlaybackTime;
}

/** Lays places (in order, apart) one behind the other, a breath of silence between them. */
export function inRow(places: readonly Stretch[], rateHz: number): PlacesInRow {
  const starts: number[] = [];
  let at = 0;
  for (const p of places) {
    starts.push(at);
    at += p.toFrames - p.fromFrames + Math.round(APART_SECONDS * rateHz);
  }
  /** Index of the last that begins at or before a value. */
  const lastOf = (values: readonly number[], value: number): number => {
    let [low, high] = [0, values.length - 1];
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if ((values[middle] as number) <= value) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  const begins = places.map((p) => p.fromFrames);
  const move = (frame: number, by: readonly number[], to: readonly number[]): number => {
    const i = lastOf(by, frame);
    const { fromFrames, toFrames } = places[i] as Stretch;
    return (to[i] as number) + Math.max(0, Math.min(toFrames - fromFrames, frame - (by[i] as number)));
  };
  return {
    places,
    time: {
      toPlayback: (s) => move(s * rateHz, begins, starts) / rateHz,
      toPlayed: (s) => move(s * rateHz, starts, begins) / rateHz,
    },
  };
}

/** What sounds of pieces in places that lie in a row. */
export function piecesInRow(
  pieces: readonly Piece<string>[],
  { places, time }: PlacesInRow,
  rateHz: number,
): Piece<string>[] {
  const soft = Math.round(SOFT_SECONDS * rateHz);
  return places.flatMap((place) => {
    const by = Math.round(time.toPlayback(place.fromFrames / rateHz) * rateHz) - place.fromFrames;
    return pieces.flatMap((p): Piece<string>[] => {
      const [from, to] = [Math.max(p.fromFrames, place.fromFrames), Math.min(p.toFrames, place.toFrames)];
      if (to <= from) return [];
      const [isBegun, isBroken] = [p.clipFromFrames < place.fromFrames, p.clipToFrames > place.toFrames];
      return [
        {
          ...p,
          fromFrames: from + by,
          toFrames: to + by,
          soundFrames: p.soundFrames + from - p.fromFrames,
          clipFromFrames: (isBegun ? place.fromFrames : p.clipFromFrames) + by,
          clipToFrames: (isBroken ? place.toFrames : p.clipToFrames) + by,
          fadeIn: isBegun ? { frames: soft, shape: 'equal-gain' } : p.fadeIn,
          fadeOut: isBroken ? { frames: soft, shape: 'equal-gain' } : p.fadeOut,
        },
      ];
    });
  });
}
