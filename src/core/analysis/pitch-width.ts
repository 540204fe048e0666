import { Fft } from '../dsp';
import { growing } from '../units';

/** Entries a second. */
export const PITCHES_PER_SECOND = 10;

/** Pitch and stereo width over time; entry n is of the tenth of a second from n / 10 s on. */
export interface PitchWidth {
  /** Fundamental, Hz; 0 = none is clear. */
  readonly pitchHz: Float32Array;
  /** How alike the sound is one period later, 0–1. */
  readonly clarity: Float32Array;
  /** Share of the side in the energy of both channels, 0 (mono) – 1. */
  readonly side: Float32Array;
}

const WINDOW = 1024;
const LOWEST_HZ = 40;
const HIGHEST_HZ = 1100;
const TARGET_HZ = 8000;
/** Of several peaks the first that comes this near to the highest is the period. */
const NEAR_TOP = 0.88;
/** Less alike it is no pitch. */
const CLEAR = 0.6;

/**
 * Pitch of the mono sum by the normalised square difference (McLeod & Wyvill 2005, "A smarter way to find pitch", from
 * memory), at about 8 kHz over 128 ms, and how wide the two channels are. Bounded memory but for three numbers a tenth of a second.
 */
export class PitchWidthAnalysis {
  private readonly by: number;
  private readonly rateHz: number;
  private readonly hop: number;
  private readonly fft = new Fft(2 * WINDOW);
  private readonly re = new Float64Array(2 * WINDOW);
  private readonly im = new Float64Array(2 * WINDOW);
  private readonly pitches = growing((n) => new Float32Array(n));
  private readonly clarities = growing((n) => new Float32Array(n));
  private readonly sides = growing((n) => new Float32Array(n));
  private readonly window: Float32Array;
  private filled = 0;
  private acc = 0;
  private counted = 0;
  private middle = 0;
  private outer = 0;

  constructor(sampleRateHz: number) {
    this.by = Math.max(1, Math.floor(sampleRateHz / TARGET_HZ));
    this.rateHz = sampleRateHz / this.by;
    this.hop = Math.round(this.rateHz / PITCHES_PER_SECOND);
    this.window = new Float32Array(Math.max(WINDOW, this.hop));
  }

  /** Takes the next planar frames; of more than two channels the first two. */
  push(channels: readonly Float32Array[]): void {
    const left = channels[0];
    if (!left) return;
    const right = channels[1] ?? left;
    for (let i = 0; i < left.length; i++) {
      const [l, r] = [left[i] as number, right[i] as number];
      this.acc += l + r;
      this.middle += (l + r) * (l + r);
      this.outer += (l - r) * (l - r);
      if (++this.counted === this.by) {
        this.window[this.filled++] = this.acc / (2 * this.by);
        this.acc = 0;
        this.counted = 0;
        if (this.filled === this.window.length) this.look();
      }
    }
  }

  /** After the last frames. */
  finish(): PitchWidth {
    return { pitchHz: this.pitches.toArray(), clarity: this.clarities.toArray(), side: this.sides.toArray() };
  }

  private look(): void {
    const { hz, clarity } = this.pitch();
    this.pitches.push(hz);
    this.clarities.push(clarity);
    this.sides.push(this.outer / Math.max(1e-12, this.middle + this.outer));
    this.middle = 0;
    this.outer = 0;
    this.window.copyWithin(0, this.hop);
    this.filled = this.window.length - this.hop;
  }

  private pitch(): { readonly hz: number; readonly clarity: number } {
    const { re, im, window, rateHz } = this;
    let power = 0;
    let mean = 0;
    for (let i = 0; i < WINDOW; i++) mean += window[i] as number;
    mean /= WINDOW;
    for (let i = 0; i < WINDOW; i++) {
      const x = (window[i] as number) - mean;
      re[i] = x;
      power += x * x;
    }
    if (power < 1e-9) return { hz: 0, clarity: 0 };
    re.fill(0, WINDOW);
    im.fill(0);
    this.fft.transformInto(re, im);
    for (let k = 0; k < 2 * WINDOW; k++) {
      re[k] = (re[k] as number) ** 2 + (im[k] as number) ** 2;
      im[k] = 0;
    }
    // The power spectrum is even: forward and back are the same, but for the size.
    this.fft.transformInto(re, im);
    return this.firstPeak(
      power,
      Math.floor(rateHz / HIGHEST_HZ),
      Math.min(WINDOW / 2, Math.ceil(rateHz / LOWEST_HZ)),
    );
  }

  /** `re` holds the autocorrelation times the size of the transform, `window` the samples. */
  private firstPeak(
    power: number,
    from: number,
    to: number,
  ): { readonly hz: number; readonly clarity: number } {
    const { re, window, rateHz } = this;
    const likeness = new Float64Array(to + 2);
    let mean = 0;
    for (let i = 0; i < WINDOW; i++) mean += window[i] as number;
    mean /= WINDOW;
    let m = 2 * power;
    for (let tau = 1; tau < likeness.length; tau++) {
      m -= ((window[tau - 1] as number) - mean) ** 2 + ((window[WINDOW - tau] as number) - mean) ** 2;
      likeness[tau] = (2 * (re[tau] as number)) / (2 * WINDOW) / Math.max(1e-12, m);
    }
    const peaks: number[] = [];
    for (let tau = Math.max(2, from); tau <= to; tau++)
      if (
        (likeness[tau] as number) > 0 &&
        (likeness[tau] as number) >= (likeness[tau - 1] as number) &&
        (likeness[tau] as number) > (likeness[tau + 1] as number)
      )
        peaks.push(tau);
    const top = Math.max(0, ...peaks.map((p) => likeness[p] as number));
    const at = peaks.find((p) => (likeness[p] as number) >= NEAR_TOP * top);
    if (at === undefined || top < CLEAR) return { hz: 0, clarity: Math.min(1, top) };
    const [a, b, c] = [likeness[at - 1] as number, likeness[at] as number, likeness[at + 1] as number];
    const offset = (a - c) / (2 * (a - 2 * b + c) || 1);
    return { hz: rateHz / (at + offset), clarity: Math.min(1, b) };
  }
}
