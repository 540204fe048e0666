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
/** Far microphones: where they are compared, how much earlier they may be, how far apart two arrivals are. */
const FAR_BAND_HZ: readonly [number, number] = [300, 9000];
const [FAR_EARLIEST_SECONDS, FAR_APART_SECONDS] = [0.004, 0.0005];
/** The highest arrival over the next: what unrelated sounds reach by chance, and how much more is sure (1.6 was the least of 24 made ones, own). */
const [FAR_CHANCE, FAR_SURE_BY] = [1.15, 0.4];

/** What two microphones have in common over all excerpts. */
interface Common {
  readonly fft: Fft;
  readonly size: number;
  readonly reach: number;
  readonly sum: Spectrum;
  /** Mean energy of the two. */
  readonly energy: number;
}

/** Null when there is nothing to compare. */
function commonOf(excerpts: readonly MicExcerpt[], rateHz: number): Common | null {
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
  return { fft, size, reach, sum, energy: Math.sqrt(energyLeader * energyOther) };
}

/** Correlation between two frequencies with so much of its magnitudes taken away: 1 = the phase transform (Knapp & Carter 1976, from memory). */
function whitened(
  { fft, size, sum }: Common,
  rateHz: number,
  [lowHz, highHz]: readonly [number, number],
  much: number,
): (lag: number) => number {
  const [low, high] = [(lowHz * size) / rateHz, (highHz * size) / rateHz];
  const values = correlationOf(fft, sum, (k, magnitude) =>
    k < low || k > high || magnitude === 0 ? 0 : magnitude ** -much,
  );
  return (lag) => values[(lag + size) % size] as number;
}

const plainOf = ({ fft, size, sum }: Common): ((lag: number) => number) => {
  const values = correlationOf(fft, sum);
  return (lag) => values[(lag + size) % size] as number;
};

/** A lag read between samples, by a parabola through the sizes beside it. */
function between(sharp: (lag: number) => number, lag: number): number {
  const [before, peak, after] = [lag - 1, lag, lag + 1].map((l) => Math.abs(sharp(l))) as [
    number,
    number,
    number,
  ];
  const bend = before - 2 * peak + after;
  return lag + (bend < 0 ? (before - after) / (2 * bend) : 0);
}

/**
 * Delay and polarity of one microphone against another, from excerpts of equal length.
 * The delay is where the cross-correlation with partly whitened spectra (between plain and phase transform) and the plain one
 * agree best; polarity and correlation are those of the plain signals at that delay. Null when there is nothing to compare.
 */
export function relateMics(excerpts: readonly MicExcerpt[], rateHz: number): MicRelation | null {
  const common = commonOf(excerpts, rateHz);
  if (!common) return null;
  const plain = plainOf(common);
  const sharp = whitened(common, rateHz, BAND_HZ, WHITENING);
  // Sharp alone would follow any wide-band bleed, plain alone the periods of a tone: both must speak for a delay.
  const score = (l: number): number => Math.abs(sharp(l)) * plain(l) ** 2;
  let lag = 0;
  for (let l = -common.reach; l <= common.reach; l++) if (score(l) > score(lag)) lag = l;
  const correlation = plain(lag) / common.energy;
  return {
    delaySamples: between(sharp, lag),
    polarity: correlation < 0 ? -1 : 1,
    correlation,
    confidence: Math.min(1, Math.max(0, (Math.abs(correlation) - CHANCE) / 0.35)),
  };
}

/**
 * Delay and polarity of a microphone farther off, over a kit or in the room, against a close one: of what arrives first, whatever
 * the room adds. By the phase transform above the low end, where rooms ring; the close one must be loud by its own (a snare's;
 * a kick's hears the snare as sharply). Null when there is nothing to compare.
 */
export function relateFarMic(excerpts: readonly MicExcerpt[], rateHz: number): MicRelation | null {
  const common = commonOf(excerpts, rateHz);
  if (!common) return null;
  const sharp = whitened(common, rateHz, FAR_BAND_HZ, 1);
  // It is farther off: but for what a machine's clocks add it hears nothing before.
  const from = -Math.round(FAR_EARLIEST_SECONDS * rateHz);
  let lag = from;
  for (let l = from; l <= common.reach; l++) if (Math.abs(sharp(l)) > Math.abs(sharp(lag))) lag = l;
  const apart = FAR_APART_SECONDS * rateHz;
  let second = 0;
  for (let l = from; l <= common.reach; l++)
    if (Math.abs(l - lag) > apart) second = Math.max(second, Math.abs(sharp(l)));
  const over = second > 0 ? Math.abs(sharp(lag)) / second : Infinity;
  return {
    delaySamples: between(sharp, lag),
    polarity: sharp(lag) < 0 ? -1 : 1,
    correlation: plainOf(common)(lag) / common.energy,
    confidence: Math.min(1, Math.max(0, (over - FAR_CHANCE) / FAR_SURE_BY)),
  };
}

/** Rises over the first eighth of an excerpt and falls over its last: a cut through a tone would look like a common hit. */
function edgeFade(i: number, length: number): number {
  const edge = Math.min(i, length - 1 - i) / (length / 8);
  return edge >= 1 ? 1 : 0.5 - 0.5 * Math.cos(Math.PI * edge);
}
