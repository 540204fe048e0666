import type { Fft } from './fft';

/** A spectrum in two parts. */
export interface Spectrum {
  readonly re: Float64Array;
  readonly im: Float64Array;
}

/** Spectrum of the cross-correlation of two real signals, conj(A)·B, each at most `fft.size` long. */
export function crossSpectrum(fft: Fft, a: ArrayLike<number>, b: ArrayLike<number>): Spectrum {
  const { size } = fft;
  const [re, im] = [new Float64Array(size), new Float64Array(size)];
  re.set(a);
  im.set(b);
  // Two real signals in one transform: their spectra come apart by symmetry.
  fft.transformInto(re, im);
  const out = { re: new Float64Array(size), im: new Float64Array(size) };
  for (let k = 0; k < size; k++) {
    const m = (size - k) % size;
    const aRe = ((re[k] as number) + (re[m] as number)) / 2;
    const aIm = ((im[k] as number) - (im[m] as number)) / 2;
    const bRe = ((im[k] as number) + (im[m] as number)) / 2;
    const bIm = ((re[m] as number) - (re[k] as number)) / 2;
    out.re[k] = aRe * bRe + aIm * bIm;
    out.im[k] = aRe * bIm - aIm * bRe;
  }
  return out;
}

/** Cross-correlation at all lags (lag l at index l, negative ones from the end); `weight` of each bin, by its number and size. */
export function correlationOf(
  fft: Fft,
  { re, im }: Spectrum,
  weight: (bin: number, magnitude: number) => number = () => 1,
): Float64Array {
  const { size } = fft;
  const [outRe, outIm] = [new Float64Array(size), new Float64Array(size)];
  for (let k = 0; k < size; k++) {
    const [r, i] = [re[k] as number, im[k] as number];
    const w = weight(Math.min(k, size - k), Math.hypot(r, i));
    outRe[k] = r * w;
    // A forward transform of the conjugate is the inverse transform, as the result is real.
    outIm[k] = -i * w;
  }
  fft.transformInto(outRe, outIm);
  for (let k = 0; k < size; k++) outRe[k] = (outRe[k] as number) / size;
  return outRe;
}
