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

/** Mean of the largest `count` levels of each frame, dB: `rows` are powers band by band, each band's level `scales` times; below 0 dB they count as 0. */
export function meanOfLargest(
  rows: readonly Float32Array[],
  scales: ArrayLike<number>,
  count: number,
): Float32Array {
  const frames = rows[0]?.length ?? 0;
  const bits = rows.map((row) => new Int32Array(row.buffer, row.byteOffset, row.length));
  const out = new Float32Array(frames);
  const largest = new Float32Array(count);
  const share = 1 / count;
  // Frame by frame: what is compared stays at hand.
  for (let n = 0; n < frames; n++) {
    largest.fill(0);
    for (let b = 0; b < bits.length; b++) {
      const own = (bits[b] as Int32Array)[n] as number;
      if (own <= ONE_BITS) continue;
      const v = (scales[b] as number) * decibelsOfBits(own);
      if (v <= (largest[count - 1] as number)) continue;
      let at = count - 1;
      for (; at > 0 && (largest[at - 1] as number) < v; at--) largest[at] = largest[at - 1] as number;
      largest[at] = v;
    }
    let sum = 0;
    for (let k = 0; k < count; k++) sum += (largest[k] as number) * share;
    out[n] = sum;
  }
  return out;
}

/** Index of a band's frame in an array that has the bands one behind the other. */
export const bandRow = (values: Float32Array, band: number): Float32Array => {
  const frames = values.length / LEVEL_BANDS;
  return values.subarray(band * frames, (band + 1) * frames);
};
