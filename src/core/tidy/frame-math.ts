import { LEVEL_BANDS } from '../analysis';

/** 20 ms frames of so many seconds. */
export const framesOf = (seconds: number): number => Math.round(50 * seconds);

const TABLE_BITS = 11;
/** dB of a mantissa. */
const MANTISSA_DB = Float32Array.from(
  { length: 1 << TABLE_BITS },
  (_, i) => 10 * Math.log10(1 + (i + 0.5) / (1 << TABLE_BITS)),
);
const DB_PER_OCTAVE = 10 * Math.log10(2);

/** 1 as a 32-bit float. */
const ONE_BITS = 0x3f800000;

/** 10 log10 of a positive float given by its bits, to 0.002 dB. */
const decibelsOfBits = (b: number): number =>
  ((b >> 23) - 127) * DB_PER_OCTAVE +
  (MANTISSA_DB[(b >> (23 - TABLE_BITS)) & ((1 << TABLE_BITS) - 1)] as number);

/** 10 log10 of each value in place; nothing and less becomes a very low value. A whole session is weighed by millions of these. */
export function decibelsInPlace(values: Float32Array): void {
  const bits = new Int32Array(values.buffer, values.byteOffset, values.length);
  for (let i = 0; i < values.length; i++) {
    const b = bits[i] as number;
    values[i] = b <= 0 ? -400 : decibelsOfBits(b);
  }
}

/** Mean over `width` frames around each (an odd number), fewer at the ends. */
export function smoothed(values: Float32Array, width: number): Float32Array {
  const n = values.length;
  const out = new Float32Array(n);
  const half = (width - 1) / 2;
  let sum = 0;
  for (let i = 0; i < Math.min(half, n); i++) sum += values[i] as number;
  for (let i = 0; i < n; i++) {
    if (i + half < n) sum += values[i + half] as number;
    if (i - half - 1 >= 0) sum -= values[i - half - 1] as number;
    const count = Math.min(n - 1, i + half) - Math.max(0, i - half) + 1;
    // What is left of rounding must not become a level of its own.
    out[i] = Math.max(0, sum / count);
  }
  return out;
}

/** The largest `count` levels of each frame, gathered band by band; below 0 dB they count as 0. */
export class LargestOfBands {
  private readonly rows: readonly Float32Array[];

  constructor(
    private readonly frames: number,
    private readonly count: number,
  ) {
    this.rows = Array.from({ length: count }, () => new Float32Array(frames));
  }

  /** Takes the powers of one band, as dB, each `scale` times. */
  addDecibels(powers: Float32Array, scale: number): void {
    const { rows, count } = this;
    const bits = new Int32Array(powers.buffer, powers.byteOffset, powers.length);
    const least = rows[count - 1] as Float32Array;
    for (let i = 0; i < this.frames; i++) {
      const b = bits[i] as number;
      if (b <= ONE_BITS) continue;
      const v = scale * decibelsOfBits(b);
      if (v <= (least[i] as number)) continue;
      let at = count - 1;
      for (; at > 0; at--) {
        const above = (rows[at - 1] as Float32Array)[i] as number;
        if (above >= v) break;
        (rows[at] as Float32Array)[i] = above;
      }
      (rows[at] as Float32Array)[i] = v;
    }
  }

  /** Their mean, frame by frame. */
  means(): Float32Array {
    const out = new Float32Array(this.frames);
    const share = 1 / this.count;
    for (const row of this.rows)
      for (let i = 0; i < this.frames; i++) out[i] = (out[i] as number) + (row[i] as number) * share;
    return out;
  }
}

/** Index of a band's frame in an array that has the bands one behind the other. */
export const bandRow = (values: Float32Array, band: number): Float32Array => {
  const frames = values.length / LEVEL_BANDS;
  return values.subarray(band * frames, (band + 1) * frames);
};
