import { SKETCH_PER_SECOND } from '../analysis';
import type { Activity } from './activity';

/** A stretch of the song in which one of some files sounds. */
export interface TurnPiece {
  readonly file: number;
  /** Null = from its beginning. */
  readonly fromSeconds: number | null;
  /** Null = to its end. */
  readonly toSeconds: number | null;
}

/** Rests shorter than this are within a phrase, s; a piece begins so much before its sound, s. */
const [REST_SECONDS, BEFORE_SECONDS] = [1, 0.1];

/**
 * Which of some files sounds when, each where it plays: of two that play at once the later of the list, which was recorded over the
 * other. The song is covered without a hole.
 */
export function turnPieces(files: readonly number[], activity: readonly (Activity | null)[]): TurnPiece[] {
  const length = Math.max(0, ...files.map((k) => activity[k]?.frames.length ?? 0));
  const owner = new Int32Array(length).fill(-1);
  files.forEach((k) => {
    const own = activity[k];
    if (own) for (const [from, to] of runsOf(own)) owner.fill(k, from, to);
  });
  const pieces: { file: number; from: number }[] = [];
  for (let n = 0; n < length; n++) {
    const k = owner[n] as number;
    if (k >= 0 && pieces.at(-1)?.file !== k) pieces.push({ file: k, from: n });
  }
  return pieces.map(({ file, from }, i) => {
    const next = pieces[i + 1];
    return {
      file,
      fromSeconds: i === 0 ? null : from / SKETCH_PER_SECOND,
      toSeconds: next ? next.from / SKETCH_PER_SECOND : null,
    };
  });
}

/** Stretches in which it plays, rests within phrases among them, in frames of a sketch. */
function runsOf({ frames }: Activity): [from: number, to: number][] {
  const runs: [number, number][] = [];
  const before = Math.round(BEFORE_SECONDS * SKETCH_PER_SECOND);
  frames.forEach((plays, n) => {
    if (!plays) return;
    const last = runs.at(-1);
    if (last && n - last[1] < REST_SECONDS * SKETCH_PER_SECOND) last[1] = n + 1;
    else runs.push([Math.max(0, n - before), n + 1]);
  });
  return runs;
}
