import { growing } from '../units';

/** Frames of one entry of the finest level. */
export const PEAK_BASE_FRAMES = 256;
const FACTOR = 4;
const LEVELS = 4;

/** One resolution of the drawn waveform: lowest and highest sample over all channels for each stretch. */
export interface PeakLevel {
  /** Frames an entry. */
  readonly framesPerEntry: number;
  /** min, max, min, max …; 16 bit, 32767 = full scale. */
  readonly minMax: Int16Array;
}

/** Collects the multi-resolution waveform of a stream: 256, 1024, 4096, 16384 frames an entry. */
export class PeakPyramid {
  private readonly finest = growing((n) => new Int16Array(n));
  private low = Infinity;
  private high = -Infinity;
  private filled = 0;

  /** Takes the next planar frames. */
  push(channels: readonly Float32Array[]): void {
    const frames = channels[0]?.length ?? 0;
    for (let start = 0; start < frames;) {
      const end = Math.min(frames, start + PEAK_BASE_FRAMES - this.filled);
      for (const samples of channels)
        for (let i = start; i < end; i++) {
          const x = samples[i] as number;
          if (x < this.low) this.low = x;
          if (x > this.high) this.high = x;
        }
      this.add(end - start);
      start = end;
    }
  }

  /** Takes lowest and highest of the next frames from who has looked at them; they must not reach over an entry's end. */
  take(low: number, high: number, frames: number): void {
    if (low < this.low) this.low = low;
    if (high > this.high) this.high = high;
    this.add(frames);
  }

  /** Frames until the current entry is full. */
  room(): number {
    return PEAK_BASE_FRAMES - this.filled;
  }

  private add(frames: number): void {
    this.filled += frames;
    if (this.filled === PEAK_BASE_FRAMES) this.close();
  }

  /** All levels, finest first. */
  finish(): PeakLevel[] {
    if (this.filled > 0) this.close();
    const levels: PeakLevel[] = [{ framesPerEntry: PEAK_BASE_FRAMES, minMax: this.finest.toArray() }];
    while (levels.length < LEVELS) levels.push(coarser(levels[levels.length - 1] as PeakLevel));
    return levels;
  }

  private close(): void {
    const quantise = (x: number): number => Math.max(-32768, Math.min(32767, Math.round(x * 32767)));
    this.finest.push(quantise(this.low));
    this.finest.push(quantise(this.high));
    this.low = Infinity;
    this.high = -Infinity;
    this.filled = 0;
  }
}

function coarser(level: PeakLevel): PeakLevel {
  const entries = Math.ceil(level.minMax.length / 2 / FACTOR);
  const minMax = new Int16Array(entries * 2);
  for (let e = 0; e < entries; e++) {
    let low = 32767;
    let high = -32768;
    for (let k = e * FACTOR; k < Math.min((e + 1) * FACTOR, level.minMax.length / 2); k++) {
      low = Math.min(low, level.minMax[2 * k] as number);
      high = Math.max(high, level.minMax[2 * k + 1] as number);
    }
    minMax[2 * e] = low;
    minMax[2 * e + 1] = high;
  }
  return { framesPerEntry: level.framesPerEntry * FACTOR, minMax };
}

/** All levels as one blob: u32 count, then u32 frames an entry and u32 length per level, then the 16 bit values; little-endian. */
export function encodePeaks(levels: readonly PeakLevel[]): Uint8Array {
  const head = 4 + 8 * levels.length;
  const bytes = new Uint8Array(head + levels.reduce((n, l) => n + l.minMax.length * 2, 0));
  const v = new DataView(bytes.buffer);
  v.setUint32(0, levels.length, true);
  let at = head;
  levels.forEach((level, i) => {
    v.setUint32(4 + 8 * i, level.framesPerEntry, true);
    v.setUint32(8 + 8 * i, level.minMax.length, true);
    level.minMax.forEach((value, k) => v.setInt16(at + 2 * k, value, true));
    at += level.minMax.length * 2;
  });
  return bytes;
}

/** The coarsest level of a blob that still has at least `framesPerEntry` or finer; throws RangeError for a broken blob. */
export function readPeakLevel(bytes: Uint8Array, framesPerEntry: number): PeakLevel {
  const v = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = v.getUint32(0, true);
  if (count === 0 || count > 16) throw new RangeError('not a waveform blob');
  let at = 4 + 8 * count;
  let found = { frames: 0, length: 0, at };
  for (let i = 0; i < count; i++) {
    const frames = v.getUint32(4 + 8 * i, true);
    const length = v.getUint32(8 + 8 * i, true);
    if (i === 0 || frames <= framesPerEntry) found = { frames, length, at };
    at += length * 2;
  }
  return {
    framesPerEntry: found.frames,
    minMax: Int16Array.from({ length: found.length }, (_, k) => v.getInt16(found.at + 2 * k, true)),
  };
}

/** Levels of many recordings one after the other: u32 frames an entry, u32 values, then the values of 16 bit; little-endian. Null = there is none, both numbers 0. */
export function encodePeakPart(level: PeakLevel | null): Uint8Array {
  const bytes = new Uint8Array(PART_HEAD + (level ? level.minMax.length * 2 : 0));
  const v = new DataView(bytes.buffer);
  if (!level) return bytes;
  v.setUint32(0, level.framesPerEntry, true);
  v.setUint32(4, level.minMax.length, true);
  level.minMax.forEach((x, i) => v.setInt16(PART_HEAD + 2 * i, x, true));
  return bytes;
}

const PART_HEAD = 8;

/** What {@link encodePeakPart} wrote, in order; what is cut off is missing. */
export function decodePeakParts(bytes: Uint8Array): (PeakLevel | null)[] {
  const v = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts: (PeakLevel | null)[] = [];
  for (let at = 0; at + PART_HEAD <= bytes.length;) {
    const framesPerEntry = v.getUint32(at, true);
    const length = v.getUint32(at + 4, true);
    at += PART_HEAD;
    if (at + 2 * length > bytes.length) break;
    const from = at;
    parts.push(
      framesPerEntry === 0
        ? null
        : { framesPerEntry, minMax: Int16Array.from({ length }, (_, k) => v.getInt16(from + 2 * k, true)) },
    );
    at += 2 * length;
  }
  return parts;
}
