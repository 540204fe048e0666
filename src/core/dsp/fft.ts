/**
 * Radix-2 FFT of a fixed power-of-two size, in place on two arrays (decimation in time, Cooley & Tukey 1965).
 * Cost n log n; no allocation after construction.
 */
export class Fft {
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;
  private readonly reversed: Uint32Array;

  /** Throws RangeError unless `size` is a power of two ≥ 2. */
  constructor(readonly size: number) {
    if (size < 2 || (size & (size - 1)) !== 0) throw new RangeError(`FFT size ${size} is not a power of two`);
    const bits = Math.log2(size);
    this.cos = Float64Array.from({ length: size / 2 }, (_, i) => Math.cos((2 * Math.PI * i) / size));
    this.sin = Float64Array.from({ length: size / 2 }, (_, i) => Math.sin((2 * Math.PI * i) / size));
    this.reversed = Uint32Array.from({ length: size }, (_, i) => {
      let r = 0;
      for (let b = 0; b < bits; b++) r |= ((i >> b) & 1) << (bits - 1 - b);
      return r;
    });
  }

  /** Forward transform in place: `re`, `im` of `size` samples become the spectrum, bin k at k·rate/size. */
  transformInto(re: Float64Array, im: Float64Array): void {
    const { size, reversed } = this;
    for (let i = 0; i < size; i++) {
      const j = reversed[i] as number;
      if (j > i) {
        const r = re[i] as number;
        re[i] = re[j] as number;
        re[j] = r;
        const m = im[i] as number;
        im[i] = im[j] as number;
        im[j] = m;
      }
    }
    let half = 1;
    if (size >= 4) {
      this.firstTwoStages(re, im);
      half = 4;
    }
    for (; 4 * half <= size; half *= 4) this.twoStages(re, im, half);
    if (half < size) this.lastStage(re, im);
  }

  /** Two stages at once: every value is read and written once instead of twice. */
  private twoStages(re: Float64Array, im: Float64Array, half: number): void {
    const { size, cos, sin } = this;
    const step = size / (4 * half);
    // With the turns outside, their factors are read once for all blocks: measured a third faster than block by block.
    for (let k = 0, t = 0; k < half; k++, t += step) {
      const c1 = cos[2 * t] as number;
      const s1 = sin[2 * t] as number;
      const c2 = cos[t] as number;
      const s2 = sin[t] as number;
      for (let a = k; a < size; a += 4 * half) {
        const b = a + half;
        const c = b + half;
        const d = c + half;
        const bRe = (re[b] as number) * c1 + (im[b] as number) * s1;
        const bIm = (im[b] as number) * c1 - (re[b] as number) * s1;
        const dRe = (re[d] as number) * c1 + (im[d] as number) * s1;
        const dIm = (im[d] as number) * c1 - (re[d] as number) * s1;
        const sumRe = (re[c] as number) + dRe;
        const sumIm = (im[c] as number) + dIm;
        const difRe = (re[c] as number) - dRe;
        const difIm = (im[c] as number) - dIm;
        const eRe = sumRe * c2 + sumIm * s2;
        const eIm = sumIm * c2 - sumRe * s2;
        // A quarter turn more: times −i.
        const fRe = difIm * c2 - difRe * s2;
        const fIm = -(difRe * c2 + difIm * s2);
        const aRe = (re[a] as number) + bRe;
        const aIm = (im[a] as number) + bIm;
        const gRe = (re[a] as number) - bRe;
        const gIm = (im[a] as number) - bIm;
        re[a] = aRe + eRe;
        im[a] = aIm + eIm;
        re[b] = gRe + fRe;
        im[b] = gIm + fIm;
        re[c] = aRe - eRe;
        im[c] = aIm - eIm;
        re[d] = gRe - fRe;
        im[d] = gIm - fIm;
      }
    }
  }

  private lastStage(re: Float64Array, im: Float64Array): void {
    const { size, cos, sin } = this;
    const half = size / 2;
    for (let a = 0; a < half; a++) {
      const c = cos[a] as number;
      const s = sin[a] as number;
      const b = a + half;
      const xr = (re[b] as number) * c + (im[b] as number) * s;
      const xi = (im[b] as number) * c - (re[b] as number) * s;
      const ar = re[a] as number;
      const ai = im[a] as number;
      re[b] = ar - xr;
      im[b] = ai - xi;
      re[a] = ar + xr;
      im[a] = ai + xi;
    }
  }

  /** Blocks of four need no multiplication: their turns are 1 and −i. */
  private firstTwoStages(re: Float64Array, im: Float64Array): void {
    for (let i = 0; i < this.size; i += 4) {
      const r0 = (re[i] as number) + (re[i + 1] as number);
      const r1 = (re[i] as number) - (re[i + 1] as number);
      const r2 = (re[i + 2] as number) + (re[i + 3] as number);
      const r3 = (re[i + 2] as number) - (re[i + 3] as number);
      const i0 = (im[i] as number) + (im[i + 1] as number);
      const i1 = (im[i] as number) - (im[i + 1] as number);
      const i2 = (im[i + 2] as number) + (im[i + 3] as number);
      const i3 = (im[i + 2] as number) - (im[i + 3] as number);
      re[i] = r0 + r2;
      im[i] = i0 + i2;
      re[i + 1] = r1 + i3;
      im[i + 1] = i1 - r3;
      re[i + 2] = r0 - r2;
      im[i + 2] = i0 - i2;
      re[i + 3] = r1 - i3;
      im[i + 3] = i1 + r3;
    }
  }
}
