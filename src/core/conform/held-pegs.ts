import type { Peg } from './warp';

/** Inside a held note the line may leave the map by so much: nothing begins there that could be late. */
const MOST_STRAY_SECONDS = 0.01;
const SAME_RATIO = 1e-8;

const ratio = (a: Peg, b: Peg): number => (b.conformed - a.conformed) / (b.played - a.played);

/**
 * Leaves out the pegs that lie inside held notes, so that such a note is stretched by one ratio throughout. First and last peg stay,
 * and so do those beside a stretch that is copied; a peg stays as well where the line would stray too far from the map without it.
 */
export function thinPegs(pegs: readonly Peg[], isHeld: (playedSeconds: number) => boolean): Peg[] {
  const kept: Peg[] = pegs.slice(0, 1);
  let left: Peg[] = [];
  for (let i = 1; i < pegs.length; i++) {
    const [before, peg, next] = [pegs[i - 1] as Peg, pegs[i] as Peg, pegs[i + 1]];
    const last = kept.at(-1) as Peg;
    const strays = (p: Peg): number =>
      next ? Math.abs(last.conformed + (p.played - last.played) * ratio(last, next) - p.conformed) : Infinity;
    const copied =
      next === undefined ||
      Math.abs(ratio(before, peg) - 1) < SAME_RATIO ||
      Math.abs(ratio(peg, next) - 1) < SAME_RATIO;
    if (!copied && isHeld(peg.played) && [...left, peg].every((p) => strays(p) <= MOST_STRAY_SECONDS))
      left.push(peg);
    else {
      kept.push(peg);
      left = [];
    }
  }
  return kept;
}

/** Levels of one channel group over time: greatest sample of each step. */
export interface LevelTrack {
  readonly stepSeconds: number;
  /** Seconds of the first step. */
  readonly startSeconds: number;
  readonly levels: ArrayLike<number>;
}

/** Longer than a period of the lowest note, so that each step sees its crest. */
export const LEVEL_STEP_SECONDS = 0.025;
const LOOK_SECONDS = 0.15;
const STEADY_DB = 3;
const FLOOR = 0.001; // −60 dBFS

/** Whether at a moment something sounds on and nothing begins or ends: every track steady or silent, at least one of them steady. */
export function isHeldAt(tracks: readonly LevelTrack[], seconds: number): boolean {
  let held = false;
  for (const { stepSeconds, startSeconds, levels } of tracks) {
    let [least, most] = [Infinity, 0];
    for (
      let k = Math.floor((seconds - LOOK_SECONDS - startSeconds) / stepSeconds);
      k <= Math.floor((seconds + LOOK_SECONDS - startSeconds) / stepSeconds);
      k++
    ) {
      const level = levels[k] ?? 0;
      least = Math.min(least, level);
      most = Math.max(most, level);
    }
    if (most < FLOOR) continue;
    if (least < FLOOR || most > least * 10 ** (STEADY_DB / 20)) return false;
    held = true;
  }
  return held;
}
