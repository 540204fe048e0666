import { median } from '../dsp';
import { type BalanceFit, fitBalance } from './fit';
import type { MixGram } from './mix-gram';

/** Levels are looked at over windows of so many seconds; so many before a place are compared with as many after it. */
const WINDOW_SECONDS = 2;
const COMPARED = 3;
/** A step counts from here on, dB; changes of several tracks nearer together than this are one, s. */
const STEP_DB = 2;
const ONE_PLACE_SECONDS = 3;
/** Tracks weaker than this in a stretch are not measured there (share of its energy). */
const LEAST_SHARE = 10 ** -2.5;

/** From when on a track has another level in the mix. */
export interface LevelChange {
  readonly seconds: number;
  readonly gainDb: number;
}

/** Where tracks change their level, fitted stretch by stretch with the equaliser of the whole; a list for each track, empty where it stays. */
export function levelChanges(gram: MixGram, whole: BalanceFit): LevelChange[][] {
  const n = gram.tracks;
  const windows = Math.floor(gram.seconds / WINDOW_SECONDS);
  if (windows < 2 * COMPARED) return Array.from({ length: n }, () => []);
  const fits = Array.from({ length: windows }, (_, w) =>
    levelsOver(gram, whole, w * WINDOW_SECONDS, (w + 1) * WINDOW_SECONDS),
  );
  const places = Array.from({ length: n }, (_, i) => stepsIn(fits.map((f) => f[i] ?? null)));
  const edges = clustered(places.flat().map((w) => w * WINDOW_SECONDS));
  if (edges.length === 0) return Array.from({ length: n }, () => []);
  const bounds = [0, ...edges, gram.seconds];
  const parts = bounds.slice(0, -1).map((from, k) => levelsOver(gram, whole, from, bounds[k + 1] as number));
  return Array.from({ length: n }, (_, i) => {
    const out: LevelChange[] = [];
    let last: number | null = null;
    parts.forEach((levels, k) => {
      const level = levels[i] ?? null;
      if (level === null || (last !== null && Math.abs(level - last) < STEP_DB)) return;
      last = level;
      out.push({ seconds: k === 0 ? 0 : (bounds[k] as number), gainDb: level });
    });
    return out.length > 1 ? out : [];
  });
}

/** Level of each track in a stretch, dB over both sides; null where it is too weak to say. */
function levelsOver(gram: MixGram, whole: BalanceFit, from: number, to: number): (number | null)[] {
  const fit = fitBalance(gram, from, to, whole.equaliser);
  return Array.from({ length: gram.tracks }, (_, i) => {
    const power = fit.gains.reduce((sum, g) => sum + (g[i] as number) ** 2, 0);
    return power > 0 && (fit.carries[i] as number) > LEAST_SHARE ? 10 * Math.log10(power) : null;
  });
}

/** Windows at which a level steps, each the largest step around. */
function stepsIn(levels: readonly (number | null)[]): number[] {
  const steps = levels.map((_, w) => stepAt(levels, w));
  return steps.flatMap((step, w) => {
    const around = steps.slice(Math.max(0, w - COMPARED), w + COMPARED + 1);
    return step > STEP_DB && step === Math.max(...around) ? [w] : [];
  });
}

/** How far the level after a window's beginning is from that before it, dB; what strays by itself is no step. */
function stepAt(levels: readonly (number | null)[], w: number): number {
  const [a, b] = [known(levels, w - COMPARED, w), known(levels, w, w + COMPARED)];
  if (a.length < 2 || b.length < 2) return 0;
  const step = Math.abs(median(a) - median(b));
  return step > 1.5 * Math.max(strays(a), strays(b)) ? step : 0;
}

const known = (levels: readonly (number | null)[], from: number, to: number): number[] =>
  levels.slice(Math.max(0, from), Math.max(0, to)).filter((l): l is number => l !== null);

const strays = (levels: readonly number[]): number => {
  const middle = median(levels);
  return median(levels.map((l) => Math.abs(l - middle)));
};

/** Places near each other as one, their middle. */
function clustered(seconds: readonly number[]): number[] {
  const groups: number[][] = [];
  for (const s of [...seconds].sort((a, b) => a - b)) {
    const last = groups.at(-1);
    if (last && s - (last.at(-1) as number) <= ONE_PLACE_SECONDS) last.push(s);
    else groups.push([s]);
  }
  return groups.map((g) => Math.round(median(g)));
}
