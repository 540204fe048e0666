import { Fft, hannWindow } from '../dsp';
import { growing } from '../units';

/** Entries of a chroma a second; entry n is centred on n / 10 s. */
export const CHROMA_PER_SECOND = 10;
export const PITCH_CLASSES = 12;

const WINDOW = 4096;
const TARGET_HZ = 11_025;
const LOWEST_HZ = 65;
const HIGHEST_HZ = 2000;
const A4_HZ = 440;

/**
 * How strong each of the twelve pitch classes is over time, for seeing chords change: square roots of the energies between
 * 65 Hz and 2 kHz, over 0.35 s, ten a second; C first, entry after entry. Tuning is taken as 440 Hz: a change shows all the same.
 * Source: pitch class profile (Fujishima 1999), from memory.
 */
export class HarmonyAnalysis {
  private readonly by: number;
  private readonly rateHz: number;
  private readonly fft = new Fft(WINDOW);
  private readonly shape = hannWindow(WINDOW);
  private readonly re = new Float64Array(WINDOW);
  private readonly im = new Float64Array(WINDOW);
  private readonly ring = new Float32Array(WINDOW);
  private readonly out = growing((n) => new Float32Array(n));
  /** Pitch class of each bin, −1 outside. */
  private readonly classOf: Int8Array;
  private acc = 0;
  private counted = 0;
  private taken = 0;
  private entries = 0;

  constructor(sampleRateHz: number) {
    this.by = Math.max(1, Math.round(sampleRateHz / TARGET_HZ));
    this.rateHz = sampleRateHz / this.by;
    this.classOf = Int8Array.from({ length: WINDOW / 2 }, (_, k) => {
      const hz = (k * this.rateHz) / WINDOW;
      return hz < LOWEST_HZ || hz > HIGHEST_HZ
        ? -1
        : (((Math.round(12 * Math.log2(hz / A4_HZ)) + 9) % 12) + 12) % 12;
    });
  }

  /** Takes mono samples at the rate given. */
  push(mono: Float32Array): void {
    for (let i = 0; i < mono.length; i++) {
      this.acc += mono[i] as number;
      if (++this.counted < this.by) continue;
      this.ring[this.taken++ % WINDOW] = this.acc / this.by;
      this.acc = 0;
      this.counted = 0;
      if (this.taken >= this.centreOf(this.entries) + WINDOW / 2) this.look();
    }
  }

  /** After the last samples: entries × 12. */
  finish(): Float32Array {
    const end = this.taken;
    while (this.centreOf(this.entries) < end) {
      while (this.taken < this.centreOf(this.entries) + WINDOW / 2) this.ring[this.taken++ % WINDOW] = 0;
      this.look();
    }
    return this.out.toArray();
  }

  private centreOf(entry: number): number {
    return Math.round((entry * this.rateHz) / CHROMA_PER_SECOND);
  }

  private look(): void {
    const { re, im, shape, ring } = this;
    for (let i = 0; i < WINDOW; i++) {
      const at = this.taken - WINDOW + i;
      re[i] = at < 0 ? 0 : (ring[at % WINDOW] as number) * (shape[i] as number);
      im[i] = 0;
    }
    this.fft.transformInto(re, im);
    const energy = new Float64Array(PITCH_CLASSES);
    for (let k = 1; k < WINDOW / 2; k++) {
      const c = this.classOf[k] as number;
      if (c >= 0) energy[c] = (energy[c] as number) + (re[k] as number) ** 2 + (im[k] as number) ** 2;
    }
    for (const e of energy) this.out.push(Math.sqrt(e) / WINDOW);
    this.entries++;
  }
}
