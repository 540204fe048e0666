import { Fft } from '../dsp';
import { growing } from '../units';

/** Entries of a pitch line a second; entry n is centred on n / 100 s. */
export const PITCHES_PER_SECOND = 100;

const TARGET_HZ = 11_025;
const WINDOW = 512;
const [LOWEST_HZ, HIGHEST_HZ] = [65, 1200];
/** The first peak that is so near to the highest is the period (McLeod & Wyvill 2005, from memory). */
const NEAR_HIGHEST = 0.9;
/** A period is believed from this clarity on. */
const CLEAR = 0.7;
/** Quieter than this below the loudest there is no line. */
const DEPTH_DB = 32;

/** Pitch over time in semitones (69 = 440 Hz), NaN where none is clear. */
export type PitchLine = Float32Array;

/**
 * The line of a single voice, by the normalised square difference of short windows (McLeod & Wyvill 2005, from memory). Of
 * several voices at once it is NaN, or the lowest they have in common.
 */
export class PitchLineBuilder {
  private readonly by: number;
  private readonly rateHz: number;
  private readonly fft = new Fft(2 * WINDOW);
  private readonly re = new Float64Array(2 * WINDOW);
  private readonly im = new Float64Array(2 * WINDOW);
  private readonly ring = new Float32Array(WINDOW);
  private readonly pitches = growing((n) => new Float32Array(n));
  private readonly powers = growing((n) => new Float32Array(n));
  private acc = 0;
  private counted = 0;
  private taken = 0;
  private entries = 0;

  constructor(sampleRateHz: number) {
    this.by = Math.max(1, Math.round(sampleRateHz / TARGET_HZ));
    this.rateHz = sampleRateHz / this.by;
  }

  /** Takes mono samples at the rate given. */
  push(mono: Float32Array): void {
    for (let i = 0; i < mono.length; i++) {
      this.acc += mono[i] as number;
      if (++this.counted < this.by) continue;
      this.take(this.acc / this.by);
      this.acc = 0;
      this.counted = 0;
    }
  }

  /** The line after the last samples. */
  finish(): PitchLine {
    const end = this.taken;
    while (this.centreOf(this.entries) < end) this.take(0);
    const [pitches, powers] = [this.pitches.toArray(), this.powers.toArray()];
    const least = powers.reduce((m, p) => Math.max(m, p), 0) * 10 ** (-DEPTH_DB / 10);
    return pitches.map((p, n) => ((powers[n] as number) > least ? p : NaN));
  }

  private centreOf(entry: number): number {
    return Math.round((entry * this.rateHz) / PITCHES_PER_SECOND);
  }

  private take(sample: number): void {
    this.ring[this.taken++ % WINDOW] = sample;
    if (this.taken < this.centreOf(this.entries) + WINDOW / 2) return;
    const { pitch, power } = this.look();
    this.pitches.push(pitch);
    this.powers.push(power);
    this.entries++;
  }

  private look(): { readonly pitch: number; readonly power: number } {
    const { re, im, ring, fft } = this;
    let energy = 0;
    for (let i = 0; i < WINDOW; i++) {
      const at = this.taken - WINDOW + i;
      const x = at < 0 ? 0 : (ring[at % WINDOW] as number);
      re[i] = x;
      energy += x * x;
    }
    if (energy < 1e-12) return { pitch: NaN, power: 0 };
    const squares = re.slice(0, WINDOW).map((x) => x * x);
    re.fill(0, WINDOW);
    im.fill(0);
    fft.transformInto(re, im);
    for (let k = 0; k < re.length; k++) re[k] = (re[k] as number) ** 2 + (im[k] as number) ** 2;
    im.fill(0);
    fft.transformInto(re, im);
    return { pitch: this.pitchOf(squares, energy), power: energy };
  }

  /** Pitch of the autocorrelation that stands in `re`, scaled by its size. */
  private pitchOf(squares: Float64Array, energy: number): number {
    const { re, rateHz } = this;
    const from = Math.floor(rateHz / HIGHEST_HZ);
    const to = Math.min(WINDOW - 2, Math.ceil(rateHz / LOWEST_HZ));
    const clarity = new Float64Array(to + 2);
    let both = 2 * energy;
    for (let lag = 1; lag <= to + 1; lag++) {
      both -= (squares[lag - 1] as number) + (squares[WINDOW - lag] as number);
      clarity[lag] = both > 1e-9 * energy ? (2 * (re[lag] as number)) / re.length / both : 0;
    }
    return this.periodOf(clarity, from, to);
  }

  /** Pitch of the first peak that is nearly the highest, between samples: those of high tones fall between two. */
  private periodOf(clarity: Float64Array, from: number, to: number): number {
    const at = (lag: number): number => clarity[lag] as number;
    // What is left of the peak around lag 0 is none.
    let lag = 1;
    while (lag <= to && at(lag) > 0) lag++;
    const peaks: { readonly lag: number; readonly height: number }[] = [];
    for (let l = Math.max(lag, from); l <= to; l++) {
      if (at(l) <= 0 || at(l) < at(l - 1) || at(l) < at(l + 1)) continue;
      const [slope, bend] = [at(l - 1) - at(l + 1), at(l - 1) - 2 * at(l) + at(l + 1)];
      peaks.push(
        bend < 0
          ? { lag: l + slope / (2 * bend), height: at(l) - (slope * slope) / (8 * bend) }
          : { lag: l, height: at(l) },
      );
    }
    const highest = peaks.reduce((m, p) => Math.max(m, p.height), 0);
    const first = highest < CLEAR ? undefined : peaks.find((p) => p.height >= NEAR_HIGHEST * highest);
    return first ? 69 + 12 * Math.log2(this.rateHz / first.lag / 440) : NaN;
  }
}
