import { correlationOf, crossSpectrum, Fft, type Spectrum } from '../dsp';

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
  const sum: Spectrum = { re: new Float64Array(size), im: new Float64Array(size) };
  let energyLeader = 0;
  let energyOther = 0;
  for (const { leader, other } of excerpts) {
    const faded = (samples: Float32Array): Float64Array =>
      Float64Array.from(leader, (_, i) => (samples[i] as number) * edgeFade(i, leader.length));
    const [a, b] = [faded(leader), faded(other)];
    for (let i = 0; i < a.length; i++) {
      energyLeader += (a[i] as number) ** 2;
      energyOther += (b[i] as number) ** 2;
    }
    const cross = crossSpectrum(fft, a, b);
    for (let k = 0; k < size; k++) {
      sum.re[k] = (sum.re[k] as number) + (cross.re[k] as number);
      sum.im[k] = (sum.im[k] as number) + (cross.im[k] as number);
    }
  }
  if (energyLeader === 0 || energyOther === 0) return null;
  const plain = correlationOf(fft, sum);
  const [low, high] = BAND_HZ.map((hz) => (hz * size) / rateHz) as [number, number];
  const sharp = correlationOf(fft, sum, (k, magnitude) =>
    k < low || k > high || magnitude === 0 ? 0 : magnitude ** -WHITENING,
  );
  const at = (values: Float64Array, lag: number): number => values[(lag + size) % size] as number;
  // Sharp alone would follow any wide-band bleed, plain alone the periods of a tone: both must speak for a delay.
  const score = (l: number): number => Math.abs(at(sharp, l)) * at(plain, l) ** 2;
  let lag = 0;
  for (let l = -reach; l <= reach; l++) if (score(l) > score(lag)) lag = l;
  const [before, peak, after] = [lag - 1, lag, lag + 1].map((l) => Math.abs(at(sharp, l))) as [
    number,
    number,
    number,
  ];
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
