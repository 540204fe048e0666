import { kWeighting, type BiquadCoefficients } from '../dsp';

const HOPS_PER_SECOND = 100;
const MOMENTARY_HOPS = 40;
const SHORT_TERM_HOPS = 300;
/** Gating blocks begin every 100 ms. */
const BLOCK_HOPS = 10;

const lufs = (z: number): number => -0.691 + 10 * Math.log10(z);
/** Below −120 LUFS is what rounding leaves of silence. */
const orNull = (z: number): number | null => (z > 1e-12 ? lufs(z) : null);

/**
 * Loudness of a stream: integrated, and the highest momentary and short-term. Channel weights 1 for L, R, C and 1.41 for surrounds (channels 4 and 5 of five).
 * Source: ITU-R BS.1770-4; 400 ms blocks, 100 ms hop, gates −70 LUFS and −10 LU. EBU Tech 3341: momentary over 0.4 s, short-term over 3 s, here every 10 ms.
 */
export class LoudnessMeter {
  private readonly filters: KWeightedEnergy[];
  private readonly weights: readonly number[];
  private readonly hopFrames: number;
  private filled = 0;
  private hopSum = 0;
  /** Energy of every 10 ms of the last 3 s, round and round. */
  private readonly hops = new Float64Array(SHORT_TERM_HOPS);
  private count = 0;
  /** Mean energy of the gating blocks. */
  private readonly blocks: number[] = [];
  private readonly sums = { momentary: 0, shortTerm: 0 };
  private readonly highest = { momentary: 0, shortTerm: 0 };

  constructor(sampleRateHz: number, channels: number) {
    this.filters = Array.from({ length: channels }, () => new KWeightedEnergy(kWeighting(sampleRateHz)));
    this.weights = Array.from({ length: channels }, (_, c) => (channels === 5 && c >= 3 ? 1.41 : 1));
    this.hopFrames = Math.round(sampleRateHz / HOPS_PER_SECOND);
  }

  /** Takes the next planar frames. */
  push(channels: readonly Float32Array[]): void {
    const frames = channels[0]?.length ?? 0;
    for (let start = 0; start < frames;) {
      const end = Math.min(frames, start + this.room());
      channels.forEach((samples, c) => this.span(c, samples, start, end));
      this.advance(end - start);
      start = end;
    }
  }

  /** Frames until the current 10 ms are full: {@link span} must not reach over their end. */
  room(): number {
    return this.hopFrames - this.filled;
  }

  /** Takes `samples[start, end)` of one channel and says what they are before the weighting; once all channels had theirs, {@link advance}. */
  span(channel: number, samples: Float32Array, start: number, end: number): SpanSums {
    const filter = this.filters[channel] as KWeightedEnergy;
    filter.over(samples, start, end);
    this.hopSum += filter.weighted * (this.weights[channel] as number);
    return filter;
  }

  /** So many frames of all channels were taken. */
  advance(frames: number): void {
    this.filled += frames;
    if (this.filled < this.hopFrames) return;
    this.take(this.hopSum / this.hopFrames);
    this.hopSum = 0;
    this.filled = 0;
  }

  private take(energy: number): void {
    const { hops, sums, highest } = this;
    const at = (back: number): number =>
      this.count >= back ? (hops[(this.count - back) % SHORT_TERM_HOPS] as number) : 0;
    sums.momentary += energy - at(MOMENTARY_HOPS);
    sums.shortTerm += energy - at(SHORT_TERM_HOPS);
    hops[this.count % SHORT_TERM_HOPS] = energy;
    this.count++;
    if (this.count >= MOMENTARY_HOPS) {
      highest.momentary = Math.max(highest.momentary, sums.momentary);
      if (this.count % BLOCK_HOPS === 0) this.blocks.push(Math.max(0, sums.momentary) / MOMENTARY_HOPS);
    }
    if (this.count >= SHORT_TERM_HOPS) highest.shortTerm = Math.max(highest.shortTerm, sums.shortTerm);
  }

  /** Loudness of the last 0.4 s and 3 s, and the highest of each so far, LUFS; null before there is so much, and for silence. */
  momentaryLufs(): { readonly now: number | null; readonly highest: number | null } {
    return {
      now: this.count < MOMENTARY_HOPS ? null : orNull(this.sums.momentary / MOMENTARY_HOPS),
      highest: orNull(this.highest.momentary / MOMENTARY_HOPS),
    };
  }

  /** The same over 3 s. */
  shortTermLufs(): { readonly now: number | null; readonly highest: number | null } {
    return {
      now: this.count < SHORT_TERM_HOPS ? null : orNull(this.sums.shortTerm / SHORT_TERM_HOPS),
      highest: orNull(this.highest.shortTerm / SHORT_TERM_HOPS),
    };
  }

  /** Gated loudness in LUFS so far; null when nothing passes the absolute gate. */
  integratedLufs(): number | null {
    return gatedLoudness(this.blocks);
  }

  /** Mean energies of the blocks so far, for {@link gatedLoudness}. */
  gatingBlocks(): Float64Array {
    return Float64Array.from(this.blocks);
  }
}

/** Gated loudness of blocks, turned up by so many dB before the gates, LUFS; null when nothing passes the absolute gate. The second gate lies `relativeGateLu` under their mean. */
export function gatedLoudness(blocks: ArrayLike<number>, gainDb = 0, relativeGateLu = 10): number | null {
  const gain = 10 ** (gainDb / 10);
  const loud = Array.from(blocks, (z) => z * gain).filter((z) => lufs(z) > -70);
  if (loud.length === 0) return null;
  const mean = (list: readonly number[]): number => list.reduce((x, y) => x + y, 0) / list.length;
  const gate = lufs(mean(loud)) - relativeGateLu;
  const kept = loud.filter((z) => lufs(z) > gate);
  return kept.length ? lufs(mean(kept)) : null;
}

/** Below this a filter's memory is silence; smaller numbers would only be slow. */
const FADED = 1e-25;

/** What a stretch of one channel holds: sum, energy, lowest and highest sample. Good until the next stretch. */
export interface SpanSums {
  readonly sum: number;
  readonly energy: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Energy of one channel behind both stages of the weighting. In direct form I: what each output waits for is one product, where the transposed form waits for two sums more.
 * The sums come from the same loop: they cost next to nothing while the filter waits for itself (a quarter less for the arrival pass).
 */
class KWeightedEnergy implements SpanSums {
  sum = 0;
  energy = 0;
  low = 0;
  high = 0;
  /** Energy behind the weighting. */
  weighted = 0;
  private x1 = 0;
  private x2 = 0;
  private y1 = 0;
  private y2 = 0;
  private z1 = 0;
  private z2 = 0;

  constructor(private readonly stages: readonly [BiquadCoefficients, BiquadCoefficients]) {}

  over(samples: Float32Array, start: number, end: number): void {
    const [{ b0, b1, b2, a1, a2 }, { a1: h1, a2: h2 }] = this.stages;
    let { x1, x2, y1, y2, z1, z2 } = this;
    let weighted = 0;
    let sum = 0;
    let energy = 0;
    let low = samples[start] as number;
    let high = low;
    for (let i = start; i < end; i++) {
      const x = samples[i] as number;
      sum += x;
      energy += x * x;
      if (x < low) low = x;
      if (x > high) high = x;
      const y = b0 * x + b1 * x1 + b2 * x2 - a2 * y2 - a1 * y1;
      // The second stage's numerator is 1, −2, 1.
      const z = y - 2 * y1 + y2 - h2 * z2 - h1 * z1;
      weighted += z * z;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      z2 = z1;
      z1 = z;
    }
    const keep = (v: number): number => (v < FADED && v > -FADED ? 0 : v);
    this.x1 = x1;
    this.x2 = x2;
    this.y1 = keep(y1);
    this.y2 = keep(y2);
    this.z1 = keep(z1);
    this.z2 = keep(z2);
    this.weighted = weighted;
    this.sum = sum;
    this.energy = energy;
    this.low = low;
    this.high = high;
  }
}
