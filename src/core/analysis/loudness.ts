import { Biquad, kWeighting } from '../dsp';

/**
 * Integrated loudness of a stream. Channel weights 1 for L, R, C and 1.41 for surrounds (channels 4 and 5 of five).
 * Source: ITU-R BS.1770-4; 400 ms blocks, 100 ms hop, gates −70 LUFS and −10 LU.
 */
export class LoudnessMeter {
  private readonly filters: (readonly [Biquad, Biquad])[];
  private readonly weights: readonly number[];
  private readonly hopFrames: number;
  private filled = 0;
  private hopSum = 0;
  private readonly hops: number[] = [];

  constructor(sampleRateHz: number, channels: number) {
    const [shelf, high] = kWeighting(sampleRateHz);
    this.filters = Array.from({ length: channels }, () => [new Biquad(shelf), new Biquad(high)] as const);
    this.weights = Array.from({ length: channels }, (_, c) => (channels === 5 && c >= 3 ? 1.41 : 1));
    this.hopFrames = Math.round(sampleRateHz / 10);
  }

  /** Takes the next planar frames. */
  push(channels: readonly Float32Array[]): void {
    const frames = channels[0]?.length ?? 0;
    for (let start = 0; start < frames; ) {
      const end = Math.min(frames, start + this.hopFrames - this.filled);
      channels.forEach((samples, c) => {
        const [shelf, high] = this.filters[c] as readonly [Biquad, Biquad];
        let sum = 0;
        for (let i = start; i < end; i++) {
          const y = high.next(shelf.next(samples[i] as number));
          sum += y * y;
        }
        this.hopSum += sum * (this.weights[c] as number);
      });
      this.filled += end - start;
      start = end;
      if (this.filled === this.hopFrames) {
        this.hops.push(this.hopSum / this.hopFrames);
        this.hopSum = 0;
        this.filled = 0;
      }
    }
  }

  /** Gated loudness in LUFS so far; null when nothing passes the absolute gate. */
  integratedLufs(): number | null {
    const lufs = (z: number): number => -0.691 + 10 * Math.log10(z);
    const blocks: number[] = [];
    for (let i = 3; i < this.hops.length; i++) blocks.push(((this.hops[i] as number) + (this.hops[i - 1] as number) + (this.hops[i - 2] as number) + (this.hops[i - 3] as number)) / 4);
    const loud = blocks.filter((z) => lufs(z) > -70);
    if (loud.length === 0) return null;
    const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length;
    const gate = lufs(mean(loud)) - 10;
    const kept = loud.filter((z) => lufs(z) > gate);
    return kept.length ? lufs(mean(kept)) : null;
  }
}
