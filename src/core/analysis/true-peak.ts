/** Phases 0 and 1 of the 48-tap interpolator, /8192; 2 and 3 are their mirror images. Source: ITU-R BS.1770-4 Annex 2. */
const PHASE_0 = [14, 90, -161, 272, -487, 1125, 7964, -838, 390, -218, 122, -68];
const PHASE_1 = [-239, 240, -424, 730, -1364, 3810, 6388, -1641, 832, -477, 271, -155];
const TAPS = 12;
/** Samples looked at together. */
const SPAN = 64;

function largest(x: Float32Array, from: number, to: number): number {
  let most = 0;
  for (let i = from; i < to; i++) {
    const v = x[i] as number;
    if (v > most) most = v;
    else if (-v > most) most = -v;
  }
  return most;
}

/** Peak of the 4× oversampled signal (the standard asks for no more than 2× from 96 kHz on); from 192 kHz on of the samples. */
export class TruePeakMeter {
  private readonly pairs: readonly { readonly even: Float64Array; readonly odd: Float64Array }[];
  /** Largest sum of the taps' sizes, and 1 for the samples themselves. */
  private readonly reach: number;
  private readonly tails: Float32Array[];
  private peak = 0;

  constructor(sampleRateHz: number, channels: number) {
    const phases = (sampleRateHz >= 192_000 ? [] : [PHASE_0, PHASE_1]).map((p) => p.map((x) => x / 8192));
    const half = (p: readonly number[], sign: 1 | -1): Float64Array =>
      Float64Array.from(
        { length: TAPS / 2 },
        (_, k) => ((p[k] as number) + sign * (p[TAPS - 1 - k] as number)) / 2,
      );
    this.pairs = phases.map((p) => ({ even: half(p, 1), odd: half(p, -1) }));
    this.reach = Math.max(1, ...phases.map((p) => p.reduce((a, x) => a + Math.abs(x), 0)));
    this.tails = Array.from({ length: channels }, () => new Float32Array(TAPS - 1));
  }

  /** Takes the next planar frames. */
  push(channels: readonly Float32Array[]): void {
    channels.forEach((samples, c) => {
      const tail = this.tails[c] as Float32Array;
      const joined = new Float32Array(tail.length + samples.length);
      joined.set(tail);
      joined.set(samples, tail.length);
      for (let start = 0; start < samples.length; start += SPAN) {
        const end = Math.min(samples.length, start + SPAN);
        const loudest = largest(joined, start, end + TAPS - 1);
        // No interpolated value can exceed the loudest sample of its window times the sum of the taps: quiet spans need no look.
        if (loudest * this.reach <= this.peak) continue;
        this.peak = Math.max(this.peak, largest(joined, start + TAPS - 1, end + TAPS - 1));
        this.interpolate(joined, start, end);
      }
      this.tails[c] = joined.slice(joined.length - (TAPS - 1));
    });
  }

  /** Phases come in mirrored pairs: even and odd part of the window give both at half the products. */
  private interpolate(joined: Float32Array, start: number, end: number): void {
    let { peak } = this;
    for (const { even, odd } of this.pairs)
      for (let i = start; i < end; i++) {
        let e = 0;
        let o = 0;
        for (let k = 0, a = i + TAPS - 1, b = i; k < TAPS / 2; k++, a--, b++) {
          const x = joined[a] as number;
          const y = joined[b] as number;
          e += (even[k] as number) * (x + y);
          o += (odd[k] as number) * (x - y);
        }
        const reach = Math.abs(e) + Math.abs(o);
        if (reach > peak) peak = reach;
      }
    this.peak = peak;
  }

  /** Highest level so far, dBTP; −Infinity for silence. */
  truePeakDbtp(): number {
    return 20 * Math.log10(this.peak);
  }
}
