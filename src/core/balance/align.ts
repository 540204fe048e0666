import { correlationOf, crossSpectrum, Fft, kaiserWindow, median } from '../dsp';

/** Only what lies between counts: below, rooms and filters turn the phase; above, codecs do. Hz. */
const BAND_HZ = [150, 9000] as const;
/** A lag is believed where its peak stands so far over the rest (in standard deviations of it). */
const BELIEVED = 7;
/** Passes: the first finds the way, the others what it leaves within a block; none more once one moves the mix by less than this anywhere, frames. */
const [PASSES, SETTLED_FRAMES] = [3, 0.05];
/** A lag is told to so much of a frame. */
const ON_FRAME = 0.04;
/** After the first pass a lag is looked for so near, in the middle of each block, frames. */
const [NEAR_FRAMES, NEAR_FFT] = [64, 1 << 17];
const TAPS = 32;
const BETA = 9;

/** A stretch of the sum of the tracks, and the mix around it. */
export interface AlignBlock {
  /** First frame of the sum in the session. */
  readonly at: number;
  readonly sum: Float32Array;
  /** Mono sum of the mix from `reach` frames before `at` on, as long as the sum and twice the reach. */
  readonly mix: Float32Array;
}

/** Where the mix stands to the tracks. */
export interface MixAlignment {
  /** What is at frame t of the session is at t + offset + drift · t of the mix. */
  readonly offsetFrames: number;
  readonly driftPpm: number;
  readonly isInverted: boolean;
  /** Share of the blocks that agree. */
  readonly agreement: number;
}

/** Place in the mix of a frame of the session. */
export const inMix = ({ offsetFrames, driftPpm }: MixAlignment, frame: number): number =>
  frame + offsetFrames + 1e-6 * driftPpm * frame;

/**
 * Delay, drift and polarity of a mix against the sum of its tracks; null where they have nothing in common. Phase transform after
 * Knapp & Carter 1976, line through the lags by the median of slopes (Theil 1950, Sen 1968), from memory.
 */
export function alignMix(blocks: readonly AlignBlock[], rateHz: number, reach: number): MixAlignment | null {
  const longest = Math.max(0, ...blocks.map((b) => b.sum.length));
  if (longest < rateHz / 4) return null;
  const fftFor = (length: number): Fft => new Fft(2 ** Math.ceil(Math.log2(length + 1)));
  let fft = fftFor(longest + 2 * reach);
  let found = null as MixAlignment | null;
  for (let pass = 0; pass < PASSES; pass++) {
    const known = found;
    const lags = blocks.flatMap((block) => {
      const lag = lagOf(block, { fft, rateHz, reach, known });
      return lag === null ? [] : [lag];
    });
    if (lags.length === 0) return found;
    const isInverted = lags.filter((l) => l.isInverted).length > lags.length / 2;
    const agreeing = lags.filter((l) => l.isInverted === isInverted);
    const { offset, slope } = lineThrough(agreeing);
    found = {
      offsetFrames: (known?.offsetFrames ?? 0) + offset,
      driftPpm: (known?.driftPpm ?? 0) + 1e6 * slope,
      isInverted: known ? known.isInverted : isInverted,
      agreement: agreeing.length / blocks.length,
    };
    if (lags.every((l) => Math.abs(offset + slope * l.at) < SETTLED_FRAMES)) break;
    if (pass === 0) fft = fftFor(Math.min(NEAR_FFT - 1, longest + 2 * NEAR_FRAMES));
  }
  return found && onFrames(found, Math.max(...blocks.map((b) => b.at + b.sum.length)));
}

/** A mix that lies on the frames of the session as nearly as can be told lies on them, as one bounced from it does. */
function onFrames(found: MixAlignment, length: number): MixAlignment {
  const whole = Math.round(found.offsetFrames) + 0;
  const ends = [0, length].map((at) => inMix(found, at) - at - whole);
  return ends.every((off) => Math.abs(off) < ON_FRAME)
    ? { ...found, offsetFrames: whole, driftPpm: 0 }
    : found;
}

interface LagSearch {
  readonly fft: Fft;
  readonly rateHz: number;
  readonly reach: number;
  /** What is known already: the mix is read along it. */
  readonly known: MixAlignment | null;
}

interface Lag {
  /** Frame of the session it holds for. */
  readonly at: number;
  readonly lag: number;
  readonly isInverted: boolean;
}

function lagOf({ at, sum, mix }: AlignBlock, { fft, rateHz, reach, known }: LagSearch): Lag | null {
  const near = known === null ? reach : NEAR_FRAMES;
  const count = Math.min(sum.length, fft.size - 2 * near - 1);
  const skip = Math.floor((sum.length - count) / 2);
  const own = sum.subarray(skip, skip + count);
  const other =
    known === null
      ? mix
      : readAligned(
          mix,
          at - reach,
          { ...known, isInverted: false },
          { from: at + skip - near, count: count + 2 * near },
        );
  const values = correlationOf(fft, crossSpectrum(fft, own, other), (bin, magnitude) => {
    const hz = (bin * rateHz) / fft.size;
    return hz < BAND_HZ[0] || hz > BAND_HZ[1] || magnitude === 0 ? 0 : 1 / magnitude;
  });
  // The other begins `near` frames before the sum: what lies at lag l of it is l − near late.
  const range = 2 * near + 1;
  let [best, most] = [0, 0];
  for (let l = 0; l < range; l++) {
    const v = Math.abs(values[l] as number);
    if (v > most) [best, most] = [l, v];
  }
  // What chance gives, over all lags there are.
  const rest = Math.sqrt(values.reduce((sum, v) => sum + v * v, 0) / values.length);
  if (!(most > BELIEVED * rest)) return null;
  const [a, b, c] = [-1, 0, 1].map((d) => Math.abs(values[Math.max(0, best + d)] as number)) as [
    number,
    number,
    number,
  ];
  const bend = a - 2 * b + c;
  const fine = bend < 0 ? Math.max(-0.5, Math.min(0.5, (a - c) / (2 * bend))) : 0;
  return {
    at: at + skip + count / 2,
    lag: best + fine - near,
    isInverted: (values[best] as number) < 0,
  };
}

/** A lag agrees with a line that passes it so near, frames. */
const AGREES_FRAMES = 1.5;

interface Line {
  readonly offset: number;
  readonly slope: number;
}

/** Line through lags by the median of the slopes, where more of them agree with it than with one lag for all: a few that are wrong make no drift. */
function lineThrough(lags: readonly { readonly at: number; readonly lag: number }[]): Line {
  const lineOf = (slope: number): Line => ({ offset: median(lags.map((l) => l.lag - slope * l.at)), slope });
  const agreeing = ({ offset, slope }: Line): number =>
    lags.filter((l) => Math.abs(l.lag - offset - slope * l.at) < AGREES_FRAMES).length;
  const slopes = lags.flatMap((a, i) =>
    lags.slice(i + 1).flatMap((b) => (b.at === a.at ? [] : [(b.lag - a.lag) / (b.at - a.at)])),
  );
  const [flat, drifting] = [lineOf(0), lineOf(slopes.length >= 3 ? median(slopes) : 0)];
  return agreeing(drifting) > agreeing(flat) || lags.every((l) => Math.abs(l.lag) < AGREES_FRAMES)
    ? drifting
    : flat;
}

/** Kernels of the reading between samples, by the fraction in so many steps. */
const KERNEL_STEPS = 256;
const KERNELS = Array.from({ length: KERNEL_STEPS + 1 }, (_, step) =>
  Float64Array.from({ length: TAPS }, (_, k) => {
    const x = k - TAPS / 2 + 1 - step / KERNEL_STEPS;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    return sinc * kaiserWindow(x / (TAPS / 2), BETA);
  }),
);

/** Reads `count` samples along an alignment, from frame `from` of the session on; `samples` begin at frame `start` of the mix, what lies outside is nothing. */
export function readAligned(
  samples: Float32Array,
  start: number,
  alignment: MixAlignment,
  { from, count }: { readonly from: number; readonly count: number },
): Float32Array {
  const out = new Float32Array(count);
  const sign = alignment.isInverted ? -1 : 1;
  const last = samples.length - TAPS;
  for (let i = 0; i < count; i++) {
    const place = inMix(alignment, from + i) - start;
    const whole = Math.floor(place);
    const step = Math.round((place - whole) * KERNEL_STEPS);
    // On a sample, as nearly as kernels are told apart, it is that sample.
    if (step === 0 || step === KERNEL_STEPS) {
      out[i] = sign * (samples[step === 0 ? whole : whole + 1] ?? 0);
      continue;
    }
    const kernel = KERNELS[step] as Float64Array;
    const first = whole - TAPS / 2 + 1;
    let sum = 0;
    if (first >= 0 && first <= last)
      for (let k = 0; k < TAPS; k++) sum += (kernel[k] as number) * (samples[first + k] as number);
    else for (let k = 0; k < TAPS; k++) sum += (kernel[k] as number) * (samples[first + k] ?? 0);
    out[i] = sign * sum;
  }
  return out;
}
