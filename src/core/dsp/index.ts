export { Fft } from './fft';
export { correlationOf, crossSpectrum, type Spectrum } from './cross-spectrum';
export { hannWindow, kaiserWindow } from './windows';
export { Biquad, type BiquadCoefficients, highPass, kWeighting } from './biquad';
export { createResampler, type Resampler } from './resampler';
export { logGamma, median, pearson, percentile } from './statistics';
