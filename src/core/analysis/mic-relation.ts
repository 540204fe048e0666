import { Fft } from '../dsp';

/** How a second microphone on a source stands to the first. */
export interface MicRelation {
  /** Positive when the second hears it later; to a fraction of a sample. */
  readonly delaySamples: number;
  readonly polarity: 1 | -1;
  /** Normalised correlation after alignment, −1 … 1. */
  readonly correlation: number;
  /** 0–1: how far the relation can be believed. */
  readonly confidence: number;
}

/** The same stretch of time by both microphones. */
export interface MicExcerpt {
  readonly leader: Float32Array;
  readonly other: Float32Array;
}

/** Farther apart than this (13 m of air) they are not microphones of one source. */
const MAX_DELAY_SECONDS = 0.04;
const BAND_HZ: readonly [number, number] = [40, 9000];
const WHITENING = 0.7;
/** Correlations below this are what unrelated sounds reach by chance. */
const CHANCE = 0.08;

/**
 * Delay and polarity of one microphone against another, from excerpts of equal length.
 * The delay is where the cross-correlation with partly whitened spectra (between plain and phase transform of Knapp & Carter
 * 1976) and the plain one agree best; polarity and correlation are those of the plain signals at that delay.
 * Null when there is nothing to compare.
 */
export function relateMics(excerpts: readonly MicExcerpt[], rateHz: number): MicRelation | null {
  const length = Math.max(0, ...excerpts.map((e) => e.leader.length));
  const reach = Math.min(Math.ceil(MAX_DELAY_SECONDS * rateHz), length - 1);
  if (reach < 2) return null;
  const size = 2 ** Math.ceil(Math.log2(length + reach + 1));
  const fft = new Fft(size);
  const crossRe = new Float64Array(size);
  const crossIm = new Float64Array(size);
  let energyLeader = 0;
  let energyOther = 0;
  for (const { leader, other } of excerpts) {
    const re = new Float64Array(size);
    const im = new Float64Array(size);
    for (let i = 0; i < leader.length; i++) {
      const fade = edgeFade(i, leader.length);
      const a = (leader[i] as number) * fade;
      const b = (other[i] as number) * fade;
      re[i] = a;
      im[i] = b;
      energyLeader += a * a;
      energyOther += b * b;
    }
    // Two real signals in one transform: their spectra come apart by symmetry.
    fft.transformInto(re, im);
    for (let k = 0; k < size; k++) {
      const m = (size - k) % size;
      const aRe = ((re[k] as number) + (re[m] as number)) / 2;
      const aIm = ((im[k] as number) - (im[m] as number)) / 2;
      const bRe = ((im[k] as number) + (im[m] as number)) / 2;
      const bIm = ((re[m] as number) - (re[k] as number)) / 2;
      crossRe[k] = (crossRe[k] as number) + aRe * bRe + aIm * bIm;
      crossIm[k] = (crossIm[k] as number) + aRe * bIm - aIm * bRe;
    }
  }
  if (energyLeader === 0 || energyOther === 0) return null;
  const plain = correlationOf(fft, crossRe, crossIm, () => 1);
  const [low, high] = BAND_HZ.map((hz) => (hz * size) / rateHz) as [number, number];
  const sharp = correlationOf(fft, crossRe, crossIm, (k, magnitude) => (k < low || k > high || magnitude === 0 ? 0 : magnitude ** -WHITENING));
  const at = (values: Float64Array, lag: number): number => values[(lag + size) % size] as number;
  // Sharp alone would follow any wide-band bleed, plain alone the periods of a tone: both must speak for a delay.
  const score = (l: number): number => Math.abs(at(sharp, l)) * at(plain, l) ** 2;
  let lag = 0;
  for (let l = -reach; l <= reach; l++) if (score(l) > score(lag)) lag = l;
  const [before, peak, after] = [lag - 1, lag, lag + 1].map((l) => Math.abs(at(sharp, l))) as [number, number, number];
  const bend = before - 2 * peak + after;
  const correlation = at(plain, lag) / Math.sqrt(energyLeader * energyOther);
  return {
    delaySamples: lag + (bend < 0 ? (before - after) / (2 * bend) : 0),
    polarity: correlation < 0 ? -1 : 1,
    correlation,
    confidence: Math.min(1, Math.max(0, (Math.abs(correlation) - CHANCE) / 0.35)),
  };
}

/** Rises over the first eighth of an excerpt and falls over its last: a cut through a tone would look like a common hit. */
function edgeFade(i: number, length: number): number {
  const edge = Math.min(i, length - 1 - i) / (length / 8);
  return edge >= 1 ? 1 : 0.5 - 0.5 * Math.cos(Math.PI * edge);
}

/** Cross-correlation at all lags (lag l at index l, negative ones from the end), its spectrum weighted. */
function correlationOf(fft: Fft, re: Float64Array, im: Float64Array, weight: (bin: number, magnitude: number) => number): Float64Array {
  const { size } = fft;
  const outRe = new Float64Array(size);
  const outIm = new Float64Array(size);
  for (let k = 0; k < size; k++) {
    const r = re[k] as number;
    const i = im[k] as number;
    const w = weight(Math.min(k, size - k), Math.hypot(r, i));
    outRe[k] = r * w;
    // A forward transform of the conjugate is the inverse transform, as the result is real.
    outIm[k] = -i * w;
  }
  fft.transformInto(outRe, outIm);
  for (let k = 0; k < size; k++) outRe[k] = (outRe[k] as number) / size;
  return outRe;
}
