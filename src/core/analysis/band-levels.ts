import { Fft, hannWindow } from '../dsp';
import { growing } from '../units';

/** Bands of the levels, evenly spaced in octaves from 40 Hz to 16 kHz. */
export const LEVEL_BANDS = 24;
/** Frames of the levels a second; frame n covers n / 50 s to (n + 1) / 50 s. */
export const LEVELS_PER_SECOND = 50;
const LOW_EDGE_HZ = 40;
const TOP_EDGE_HZ = 16_000;
/** Level of the lowest step, dB; below it nothing is told apart. */
export const LEAST_LEVEL_DB = -127.5;
export const LEVEL_STEPS_PER_DB = 2;
/** The spectrum of a frame is taken over at least so long, s: a band of the low strings takes that to be told from its neighbour. */
const WINDOW_SECONDS = 0.04;

/**
 * A recording as levels over time: for each 20 ms the power in 24 bands and in all, half a dB a step from −127.5 dB. Channels
 * are taken together by power, so that nothing cancels. dB of a full-scale square wave: white noise of −40 dBFS RMS has −40
 * in `total` (what is off centre does not count), and its bands add up to what lies between 40 Hz and 16 kHz of it.
 */
export interface BandLevels {
  readonly frames: number;
  /** Frame by frame, low band first. */
  readonly bands: Uint8Array;
  /** One a frame; 0 = every sample is zero. */
  readonly total: Uint8Array;
}

/** Power of each step, of a full-scale square wave; step 0 is none. */
export const LEVEL_POWERS = Float64Array.from({ length: 256 }, (_, step) =>
  step === 0 ? 0 : 10 ** ((LEAST_LEVEL_DB + step / LEVEL_STEPS_PER_DB) / 10),
);

/** Step of a power. */
export const levelStep = (power: number): number =>
  power <= 0
    ? 0
    : Math.max(1, Math.min(255, Math.round((10 * Math.log10(power) - LEAST_LEVEL_DB) * LEVEL_STEPS_PER_DB)));

/** Power of a whole frame, of a full-scale square wave. */
export const totalPower = ({ total }: BandLevels, frame: number): number =>
  LEVEL_POWERS[total[frame] ?? 0] as number;

/** Edges of the bands, Hz; one more than there are bands. */
export const levelEdgesHz = (rateHz: number): number[] => {
  const top = Math.min(TOP_EDGE_HZ, rateHz / 2);
  return Array.from(
    { length: LEVEL_BANDS + 1 },
    (_, i) => LOW_EDGE_HZ * (top / LOW_EDGE_HZ) ** (i / LEVEL_BANDS),
  );
};

/** Gathers the levels of a stream of planar blocks; memory grows by 1.25 kB a second of it, nothing else is kept. */
export class BandLevelAnalysis {
  private readonly size: number;
  private readonly fft: Fft;
  private readonly window: Float64Array;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  /** Bins of each band, half-open, and what makes their energies the power of the band. */
  private readonly ranges: readonly { readonly from: number; readonly to: number; readonly scale: number }[];
  private readonly bands = growing((n) => new Uint8Array(n));
  private readonly total = growing((n) => new Uint8Array(n));
  /** Samples of each channel still in reach; entry 0 is frame `base`. */
  private held: Float32Array[];
  private base: number;
  private frame = 0;
  private fed = 0;
  private isBegun = false;

  constructor(
    private readonly rateHz: number,
    private readonly channels: number,
  ) {
    this.size = 2 ** Math.ceil(Math.log2(WINDOW_SECONDS * rateHz));
    this.fft = new Fft(this.size);
    this.window = Float64Array.from(hannWindow(this.size));
    this.re = new Float64Array(this.size);
    this.im = new Float64Array(this.size);
    const energy = this.window.reduce((sum, w) => sum + w * w, 0);
    const edges = levelEdgesHz(rateHz);
    const binHz = rateHz / this.size;
    this.ranges = edges.slice(0, LEVEL_BANDS).map((edge, b) => {
      const next = edges[b + 1] as number;
      // A band narrower than a bin takes the nearest one, at its share.
      const from = Math.max(1, Math.round(edge / binHz));
      const to = Math.max(from + 1, Math.round(next / binHz));
      const share = Math.min(1, (next - edge) / ((to - from) * binHz));
      return { from, to, scale: (2 * share) / (energy * this.size) };
    });
    this.base = -Math.floor(this.size / 2);
    this.held = Array.from({ length: channels }, () => new Float32Array(this.size / 2));
  }

  /** Takes the next planar frames; nothing of them is kept. */
  push(block: readonly Float32Array[]): void {
    const frames = block[0]?.length ?? 0;
    if (frames === 0) return;
    this.fed += frames;
    this.held = this.held.map((old, c) => {
      const all = new Float32Array(old.length + frames);
      all.set(old);
      all.set(block[c] as Float32Array, old.length);
      return all;
    });
    if (this.fed >= this.size / 2) this.take();
  }

  /** Fills what lies before the first sample with what comes after it, turned round. */
  private mirrorHead(): void {
    if (this.isBegun || this.fed === 0) return;
    this.isBegun = true;
    const half = this.size / 2;
    for (const samples of this.held)
      for (let k = 0; k < half; k++) samples[half - 1 - k] = samples[half + mirrored(k, this.fed)] as number;
  }

  /** The levels after the last block. */
  finish(): BandLevels {
    const { fed } = this;
    this.mirrorHead();
    const frames = Math.ceil((fed * LEVELS_PER_SECOND) / this.rateHz - 1e-9);
    // The window of the last frame reaches past the end: what was before it comes back there, so that no step is made.
    const reach = 2 * this.size;
    this.held = this.held.map((old) => {
      const all = new Float32Array(old.length + reach);
      all.set(old);
      const own = Math.min(fed, old.length);
      for (let k = 0; k < reach && own > 0; k++)
        all[old.length + k] = old[old.length - 1 - mirrored(k, own)] as number;
      return all;
    });
    this.fed += 2 * this.size;
    this.take(frames);
    const total = this.total.toArray();
    return { frames: total.length, bands: this.bands.toArray(), total };
  }

  private startOf(frame: number): number {
    return Math.round((frame * this.rateHz) / LEVELS_PER_SECOND);
  }

  private take(most = Infinity): void {
    this.mirrorHead();
    const half = this.size / 2;
    // Two real signals are transformed at once: two channels, or two frames of one.
    const together = this.channels === 1 ? 2 : 1;
    for (;;) {
      const { frame } = this;
      const count = Math.min(together, most - frame);
      const reach = this.startOf(frame + count) + half;
      if (count <= 0 || reach > this.fed) break;
      this.measure(frame, count);
      this.frame += count;
    }
    const from = this.startOf(this.frame) - half - this.base;
    if (from > 0) {
      this.held = this.held.map((h) => h.slice(from));
      this.base += from;
    }
  }

  private measure(frame: number, count: number): void {
    if (this.channels > 1) {
      const powers = new Float64Array(LEVEL_BANDS);
      for (let c = 0; c < this.channels; c += 2) {
        this.load(this.re, frame, c);
        if (c + 1 < this.channels) this.load(this.im, frame, c + 1);
        else this.im.fill(0);
        this.addPowers(powers, powers);
      }
      this.write(frame, powers, this.channels);
      return;
    }
    this.load(this.re, frame, 0);
    if (count > 1) this.load(this.im, frame + 1, 0);
    else this.im.fill(0);
    const [first, second] = [new Float64Array(LEVEL_BANDS), new Float64Array(LEVEL_BANDS)];
    this.addPowers(first, second);
    this.write(frame, first, 1);
    if (count > 1) this.write(frame + 1, second, 1);
  }

  /** The windowed samples around the middle of a frame. */
  private load(into: Float64Array, frame: number, channel: number): void {
    const middle = Math.round((this.startOf(frame) + this.startOf(frame + 1)) / 2);
    const from = middle - this.size / 2 - this.base;
    const samples = this.held[channel] as Float32Array;
    for (let i = 0; i < this.size; i++) into[i] = (samples[from + i] ?? 0) * (this.window[i] as number);
  }

  /** Transforms what is loaded and adds the powers of the bands of both signals. */
  private addPowers(first: Float64Array, second: Float64Array): void {
    const { re, im, size } = this;
    this.fft.transformInto(re, im);
    this.ranges.forEach(({ from, to, scale }, b) => {
      let [a, c] = [0, 0];
      for (let k = from; k < to && k < size / 2; k++) {
        const [zr, zi] = [re[k] as number, im[k] as number];
        const [yr, yi] = [re[size - k] as number, im[size - k] as number];
        a += (zr + yr) ** 2 + (zi - yi) ** 2;
        c += (zi + yi) ** 2 + (zr - yr) ** 2;
      }
      first[b] = (first[b] as number) + 0.25 * scale * a;
      second[b] = (second[b] as number) + 0.25 * scale * c;
    });
  }

  /** How far a channel is off centre around a frame. */
  private offsetOf(samples: Float32Array, frame: number): number {
    const from = Math.round((this.startOf(frame) + this.startOf(frame + 1)) / 2) - this.size / 2 - this.base;
    let sum = 0;
    for (let i = from; i < from + this.size; i++) sum += samples[i] as number;
    return sum / this.size;
  }

  private write(frame: number, powers: Float64Array, channels: number): void {
    for (const power of powers) this.bands.push(levelStep(power / channels));
    const from = this.startOf(frame) - this.base;
    const to = Math.max(from + 1, this.startOf(frame + 1) - this.base);
    let [energy, isZero] = [0, true];
    for (const samples of this.held) {
      const middle = this.offsetOf(samples, frame);
      for (let i = from; i < to; i++) {
        const v = samples[i] as number;
        if (v !== 0) isZero = false;
        energy += (v - middle) ** 2;
      }
    }
    this.total.push(isZero ? 0 : Math.max(1, levelStep(energy / (channels * (to - from)))));
  }
}

/** Place of step `k` in so many samples that one walks to and fro. */
const mirrored = (k: number, length: number): number => {
  const at = k % (2 * length);
  return at < length ? at : 2 * length - 1 - at;
};

/** Levels as a blob: u32 frames, the bands, then the totals. */
export function encodeBandLevels({ frames, bands, total }: BandLevels): Uint8Array {
  const bytes = new Uint8Array(4 + bands.length + total.length);
  new DataView(bytes.buffer).setUint32(0, frames, true);
  bytes.set(bands, 4);
  bytes.set(total, 4 + bands.length);
  return bytes;
}

/** Levels from a blob; throws RangeError when it is not one. */
export function readBandLevels(bytes: Uint8Array): BandLevels {
  const frames =
    bytes.length >= 4
      ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(0, true)
      : -1;
  if (bytes.length !== 4 + frames * (LEVEL_BANDS + 1)) throw new RangeError('not levels of a recording');
  const split = 4 + frames * LEVEL_BANDS;
  return { frames, bands: bytes.slice(4, split), total: bytes.slice(split) };
}

/** Levels of one recording in an answer of many: u32 length, then the blob; nothing behind a 0 where there is none. */
export function levelsPart(blob: Uint8Array | null): Uint8Array {
  const bytes = new Uint8Array(4 + (blob?.length ?? 0));
  new DataView(bytes.buffer).setUint32(0, blob?.length ?? 0, true);
  if (blob) bytes.set(blob, 4);
  return bytes;
}

/** What {@link levelsPart} wrote, in order; what is cut off or no levels is null. */
export function readLevelsParts(bytes: Uint8Array): (BandLevels | null)[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts: (BandLevels | null)[] = [];
  for (let at = 0; at + 4 <= bytes.length;) {
    const length = view.getUint32(at, true);
    at += 4;
    if (at + length > bytes.length) break;
    parts.push(length === 0 ? null : readBandLevels(bytes.subarray(at, at + length)));
    at += length;
  }
  return parts;
}
