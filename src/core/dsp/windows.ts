/** Periodic Hann window of `length` samples. */
export function hannWindow(length: number): Float64Array {
  return Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length));
}

/** Modified Bessel function of the first kind, order 0 (power series; Abramowitz & Stegun 9.6.12). */
function besselI0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 60 && term > sum * 1e-17; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** Kaiser window value at `x` in [−1, 1]; 0 outside. `beta` sets side lobes. */
export function kaiserWindow(x: number, beta: number): number {
  if (x <= -1 || x >= 1) return 0;
  return besselI0(beta * Math.sqrt(1 - x * x)) / besselI0(beta);
}
