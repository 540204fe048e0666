import { addSums, type BalanceFit, fitBalance, fitSums, sumOver, type Sums } from './fit';
import type { MixGram } from './mix-gram';

/** Places of steps are looked for every so many seconds; no stretch between two is shorter than that. */
const [GRID_SECONDS, SHORTEST_SECONDS] = [2, 6];
/** A place is one where two fits leave so much less than one (share of what it leaves). */
const WORTH = 0.03;
/** A step counts from here on, dB. */
const STEP_DB = 2;
/** Tracks weaker than this in a stretch are not measured there (share of its energy). */
const LEAST_SHARE = 10 ** -2.5;

/** From when on a track has another level in the mix. */
export interface LevelChange {
  readonly seconds: number;
  readonly gainDb: number;
}

/** A stretch of a mix in which levels stay. */
export interface MixStretch {
  readonly from: number;
  readonly to: number;
  readonly fit: BalanceFit;
}

/** The stretches between steps of levels, each fitted with the equaliser of the whole; one where nothing steps. */
export function stretchesOf(gram: MixGram, whole: BalanceFit): MixStretch[] {
  const edges = stepPlaces(gram, whole, 0, gram.seconds);
  if (edges.length === 0) return [{ from: 0, to: gram.seconds, fit: whole }];
  const bounds = [0, ...edges, gram.seconds];
  return bounds.slice(0, -1).map((from, k) => {
    const to = bounds[k + 1] as number;
    return { from, to, fit: fitBalance(gram, from, to, whole.equaliser) };
  });
}

/** Where tracks change their level; a list for each track, empty where it stays. */
export function levelChanges(stretches: readonly MixStretch[]): LevelChange[][] {
  const n = stretches[0]?.fit.carries.length ?? 0;
  const parts = stretches.map(({ fit }) => levelsIn(fit));
  return Array.from({ length: n }, (_, i) => {
    const out: LevelChange[] = [];
    let last: number | null = null;
    parts.forEach((levels, k) => {
      const level = levels[i] ?? null;
      if (level === null || (last !== null && Math.abs(level - last) < STEP_DB)) return;
      last = level;
      out.push({ seconds: k === 0 ? 0 : (stretches[k] as MixStretch).from, gainDb: level });
    });
    return out.length > 1 ? out : [];
  });
}

/** Level of each track in a stretch, dB over both sides; null where it is too weak to say. */
const levelsIn = ({ gains, carries }: BalanceFit): (number | null)[] =>
  Array.from(carries, (carried, i) => {
    const power = gains.reduce((sum, g) => sum + (g[i] as number) ** 2, 0);
    return power > 0 && carried > LEAST_SHARE ? 10 * Math.log10(power) : null;
  });

/**
 * Seconds at which levels step: a stretch is parted where two fits explain it better than one by most, as long as that is worth it and
 * some track is louder or softer behind it; then each part by itself.
 */
function stepPlaces(gram: MixGram, whole: BalanceFit, from: number, to: number): number[] {
  if (to - from < 2 * SHORTEST_SECONDS) return [];
  const all = sumOver(gram, from, to);
  const restOf = (sums: Sums): number => weighedRest(sums, fitSums(sums, whole.equaliser), all);
  const one = restOf(all);
  const left = sumOver(gram, from, from);
  const right = sumOver(gram, from, to);
  let [best, at] = [Infinity, from];
  for (let s = from + GRID_SECONDS; s <= to - SHORTEST_SECONDS; s += GRID_SECONDS) {
    const more = sumOver(gram, s - GRID_SECONDS, s);
    addSums(left, more, 1);
    addSums(right, more, -1);
    if (s - from < SHORTEST_SECONDS) continue;
    const two = restOf(left) + restOf(right);
    if (two < best) [best, at] = [two, s];
  }
  // To the second.
  const near = [at - 1, at + 1].filter((s) => s - from >= SHORTEST_SECONDS && to - s >= SHORTEST_SECONDS);
  for (const s of near) {
    const two = restOf(sumOver(gram, from, s)) + restOf(sumOver(gram, s, to));
    if (two < best) [best, at] = [two, s];
  }
  const isStep = one - best > WORTH * one && hasStep(gram, whole, [from, at, to]);
  return isStep ? [...stepPlaces(gram, whole, from, at), at, ...stepPlaces(gram, whole, at, to)] : [];
}

/** Whether some track has another level before a place than behind it. */
function hasStep(
  gram: MixGram,
  whole: BalanceFit,
  [from, at, to]: readonly [number, number, number],
): boolean {
  const levelsOver = (a: number, b: number): (number | null)[] =>
    levelsIn(fitBalance(gram, a, b, whole.equaliser));
  const [before, behind] = [levelsOver(from, at), levelsOver(at, to)];
  return before.some((a, i) => {
    const b = behind[i];
    return a !== null && b !== null && b !== undefined && Math.abs(a - b) >= STEP_DB;
  });
}

/** What a fit leaves of a stretch, each band as a share of what the mix has there over `scale`. */
function weighedRest(sums: Sums, fit: BalanceFit, scale: Sums): number {
  return fit.byBand.reduce((rest: number, share, b) => {
    const energy = (of: Sums): number => of.energy.reduce((sum, e) => sum + (e[b] as number), 0);
    return share === null ? rest : rest + ((1 - share) * energy(sums)) / energy(scale);
  }, 0);
}
