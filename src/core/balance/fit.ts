import type { MixGram } from './mix-gram';
import { MIX_BANDS } from './mix-spectra';
import { nonNegativeLeastSquares } from './nnls';

/** Bands count alike, whatever they hold, but for those this much weaker than the strongest (energy). */
const WEAKEST_BAND = 1e-5;
const RIDGE = 1e-6;
/** The fit and the mix's own equaliser are found in turns: what only the low end tells apart takes this many (6 left a bass 2 dB off under a tilt, 60 a tenth). */
const ROUNDS = 60;
const MOST_EQ_DB = 12;

/** How a mix is made of tracks. */
export interface BalanceFit {
  /** Linear gain of each track, for each side of the mix. */
  readonly gains: readonly Float64Array[];
  /** What the mix has in each band over the sum of the tracks, linear; mean 0 dB. */
  readonly equaliser: Float64Array;
  /** Share of the mix's energy that is explained, 0–1; and by band (null where the mix has next to nothing). */
  readonly share: number;
  readonly byBand: readonly (number | null)[];
  /** Share of the mix's energy that each track carries. */
  readonly carries: Float64Array;
}

/** Sums over a stretch, for each side: products by band, products with the mix, energies of the mix. */
export interface Sums {
  readonly products: readonly Float64Array[][];
  readonly withMix: readonly Float64Array[][];
  readonly energy: readonly Float64Array[];
}

/** Sums of seconds [from, to). */
export function sumOver(gram: MixGram, from: number, to: number): Sums {
  const each = <T>(make: (side: number) => T): T[] =>
    Array.from({ length: gram.sides }, (_, side) => make(side));
  const bands = (length: number): Float64Array[] =>
    Array.from({ length: MIX_BANDS }, () => new Float64Array(length));
  const sums = {
    products: each(() => bands(gram.tracks ** 2)),
    withMix: each(() => bands(gram.tracks)),
    energy: each(() => new Float64Array(MIX_BANDS)),
  };
  for (let side = 0; side < gram.sides; side++)
    for (let second = from; second < to; second++)
      for (let b = 0; b < MIX_BANDS; b++) {
        addTo(sums.products[side]?.[b] as Float64Array, gram.products(side, second, b));
        addTo(sums.withMix[side]?.[b] as Float64Array, gram.withMix(side, second, b));
        const energy = sums.energy[side] as Float64Array;
        energy[b] = (energy[b] as number) + gram.mixEnergy(side, second, b);
      }
  return sums;
}

function addTo(into: Float64Array, more: ArrayLike<number>, times = 1): void {
  for (let k = 0; k < into.length; k++) into[k] = (into[k] as number) + times * (more[k] as number);
}

/** Adds sums to others so many times, in place. */
export function addSums(into: Sums, more: Sums, times: 1 | -1): void {
  into.energy.forEach((energy, side) => {
    addTo(energy, more.energy[side] as Float64Array, times);
    for (let b = 0; b < MIX_BANDS; b++) {
      addTo(into.products[side]?.[b] as Float64Array, more.products[side]?.[b] as Float64Array, times);
      addTo(into.withMix[side]?.[b] as Float64Array, more.withMix[side]?.[b] as Float64Array, times);
    }
  });
}

/**
 * Gains that explain a mix best over seconds [from, to): non-negative least squares for each side, bands weighed alike, in turns with
 * one gain a band for the whole mix. `equaliser`: one that is known already and stays.
 */
export function fitBalance(
  gram: MixGram,
  from = 0,
  to = gram.seconds,
  equaliser: Float64Array | null = null,
): BalanceFit {
  return fitSums(sumOver(gram, from, to), equaliser);
}

/** Share of the mix that is explained, and the gain of each track over both sides of it, linear, for every stretch of so many seconds; the equaliser is that of the whole. */
export function gainsByStretch(
  gram: MixGram,
  seconds: number,
): { readonly share: number; readonly gains: readonly (readonly number[])[] } {
  const { equaliser, share } = fitBalance(gram);
  const gains = Array.from({ length: Math.ceil(gram.seconds / seconds) }, (_, k) => {
    const { gains: sides } = fitBalance(
      gram,
      k * seconds,
      Math.min(gram.seconds, (k + 1) * seconds),
      equaliser,
    );
    return Array.from({ length: gram.tracks }, (__, i) => Math.hypot(...sides.map((g) => g[i] as number)));
  });
  return { share, gains };
}

/** The same of what was summed before. */
export function fitSums(sums: Sums, equaliser: Float64Array | null): BalanceFit {
  const mix = mixByBand(sums);
  const weights = bandWeights(sums);
  let eq = equaliser ?? new Float64Array(MIX_BANDS).fill(1);
  let gains = solveSides(sums, weights, eq);
  for (let round = 1; round < ROUNDS && equaliser === null; round++) {
    eq = equaliserOf(sums, gains, mix);
    gains = solveSides(sums, weights, eq);
  }
  return { gains, equaliser: eq, ...explained(sums, gains, eq, mix) };
}

const mixByBand = ({ energy }: Sums): Float64Array =>
  Float64Array.from({ length: MIX_BANDS }, (_, b) => energy.reduce((sum, e) => sum + (e[b] as number), 0));

/** What bands count: alike, whatever the mix has in them. */
export function bandWeights(sums: Sums): Float64Array {
  const mix = mixByBand(sums);
  const least = WEAKEST_BAND * mix.reduce((m, e) => Math.max(m, e), 0);
  return mix.map((e) => (e > 0 ? 1 / Math.max(e, least) : 0));
}

function solveSides({ products, withMix }: Sums, weights: Float64Array, eq: Float64Array): Float64Array[] {
  return products.map((bands, side) => {
    const n = (withMix[side]?.[0] as Float64Array).length;
    const [a, c] = [new Float64Array(n * n), new Float64Array(n)];
    bands.forEach((product, b) => {
      const [w, e] = [weights[b] as number, eq[b] as number];
      for (let k = 0; k < n * n; k++) a[k] = (a[k] as number) + w * e * e * (product[k] as number);
      const own = withMix[side]?.[b] as Float64Array;
      for (let i = 0; i < n; i++) c[i] = (c[i] as number) + w * e * (own[i] as number);
    });
    let trace = 0;
    for (let i = 0; i < n; i++) trace += a[i * n + i] as number;
    for (let i = 0; i < n; i++) a[i * n + i] = (a[i * n + i] as number) + (RIDGE * trace) / n;
    return nonNegativeLeastSquares(a, c);
  });
}

/** Inner products of the model with the mix, and its energy, in a band over all sides. */
function modelIn(
  { products, withMix }: Sums,
  gains: readonly Float64Array[],
  b: number,
): { cross: number; own: number } {
  let [cross, own] = [0, 0];
  gains.forEach((g, side) => {
    const [product, mixed] = [products[side]?.[b] as Float64Array, withMix[side]?.[b] as Float64Array];
    const n = g.length;
    for (let i = 0; i < n; i++) {
      const gi = g[i] as number;
      if (gi === 0) continue;
      cross += gi * (mixed[i] as number);
      for (let j = 0; j < n; j++) own += gi * (g[j] as number) * (product[i * n + j] as number);
    }
  });
  return { cross, own };
}

function equaliserOf(sums: Sums, gains: readonly Float64Array[], mix: Float64Array): Float64Array {
  const most = 10 ** (MOST_EQ_DB / 20);
  const total = mix.reduce((a, b) => a + b, 0);
  const raw = Float64Array.from({ length: MIX_BANDS }, (_, b) => {
    const { cross, own } = modelIn(sums, gains, b);
    return own > 0 && cross > 0 && (mix[b] as number) > 1e-9 * total
      ? Math.max(1 / most, Math.min(most, cross / own))
      : 1;
  });
  const mean = raw.reduce((sum, e) => sum + Math.log(e), 0) / MIX_BANDS;
  return raw.map((e) => e / Math.exp(mean));
}

function explained(
  sums: Sums,
  gains: readonly Float64Array[],
  eq: Float64Array,
  mix: Float64Array,
): Pick<BalanceFit, 'share' | 'byBand' | 'carries'> {
  const total = mix.reduce((a, b) => a + b, 0);
  const n = gains[0]?.length ?? 0;
  const carries = new Float64Array(n);
  let left = 0;
  const byBand = Array.from({ length: MIX_BANDS }, (_, b) => {
    const e = eq[b] as number;
    const { cross, own } = modelIn(sums, gains, b);
    const rest = Math.max(0, (mix[b] as number) - 2 * e * cross + e * e * own);
    left += rest;
    gains.forEach((g, side) => {
      const product = sums.products[side]?.[b] as Float64Array;
      for (let i = 0; i < n; i++)
        carries[i] = (carries[i] as number) + (e * (g[i] as number)) ** 2 * (product[i * n + i] as number);
    });
    return (mix[b] as number) > 1e-7 * total ? Math.max(0, 1 - rest / (mix[b] as number)) : null;
  });
  return {
    share: total > 0 ? Math.max(0, 1 - left / total) : 0,
    byBand,
    carries: carries.map((p) => (total > 0 ? p / total : 0)),
  };
}

/** Level and pan of a track by its gains to both sides, as `stripGains` of our own player has them. */
export function stripOf(
  channels: number,
  left: number,
  right: number,
): { readonly gainDb: number; readonly pan: number } | null {
  if (left <= 0 && right <= 0) return null;
  if (channels === 1)
    return {
      gainDb: 20 * Math.log10(Math.hypot(left, right)),
      pan: (4 / Math.PI) * Math.atan2(right, left) - 1,
    };
  const loud = Math.max(left, right);
  return { gainDb: 20 * Math.log10(loud), pan: right >= left ? 1 - left / loud : right / loud - 1 };
}
