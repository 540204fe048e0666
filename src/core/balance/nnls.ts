/**
 * Non-negative least squares from the normal equations: the x ≥ 0 that makes xᵀAx − 2cᵀx least. `a`: n × n, symmetric, row by row.
 * Source: Lawson & Hanson 1974, active set, from memory.
 */
export function nonNegativeLeastSquares(a: ArrayLike<number>, c: ArrayLike<number>): Float64Array {
  const equations = { a, c };
  const n = c.length;
  const x = new Float64Array(n);
  const isFree = new Uint8Array(n);
  let scale = 0;
  for (let i = 0; i < n; i++) scale = Math.max(scale, Math.abs(c[i] as number));
  const tolerance = 1e-12 * scale;
  for (let round = 0; round < 10 * n + 10; round++) {
    const next = steepest(equations, x, isFree, tolerance);
    if (next < 0) break;
    isFree[next] = 1;
    settle(equations, x, isFree);
  }
  return x;
}

interface Equations {
  readonly a: ArrayLike<number>;
  readonly c: ArrayLike<number>;
}

/** The bound entry that would gain most by being freed; −1 where none would. */
function steepest({ a, c }: Equations, x: Float64Array, isFree: Uint8Array, tolerance: number): number {
  const n = x.length;
  let [best, most] = [-1, tolerance];
  for (let i = 0; i < n; i++) {
    if (isFree[i] === 1 || (a[i * n + i] as number) <= 0) continue;
    let w = c[i] as number;
    for (let j = 0; j < n; j++) w -= (a[i * n + j] as number) * (x[j] as number);
    if (w > most) [best, most] = [i, w];
  }
  return best;
}

/** Moves x to the least of the free entries, binding again those that would go below zero. */
function settle({ a, c }: Equations, x: Float64Array, isFree: Uint8Array): void {
  for (let round = 0; round <= x.length; round++) {
    const free = [...isFree.keys()].filter((i) => isFree[i] === 1);
    const target = solved(a, c, free, x.length);
    let step = 1;
    free.forEach((i, k) => {
      const [from, to] = [x[i] as number, target[k] as number];
      if (to <= 0 && from - to > 0) step = Math.min(step, from / (from - to));
    });
    free.forEach((i, k) => {
      const from = x[i] as number;
      x[i] = from + step * ((target[k] as number) - from);
    });
    if (step === 1) return;
    for (const i of free)
      if ((x[i] as number) <= 1e-14) {
        x[i] = 0;
        isFree[i] = 0;
      }
  }
}

/** Solves the free part of the equations by Cholesky's method; an entry that depends on those before it stays 0. */
function solved(
  a: ArrayLike<number>,
  c: ArrayLike<number>,
  free: readonly number[],
  n: number,
): Float64Array {
  const m = free.length;
  const low = new Float64Array(m * m);
  for (let i = 0; i < m; i++)
    for (let j = 0; j <= i; j++) {
      let sum = a[(free[i] as number) * n + (free[j] as number)] as number;
      const whole = sum;
      for (let k = 0; k < j; k++) sum -= (low[i * m + k] as number) * (low[j * m + k] as number);
      if (i === j) low[i * m + i] = sum > 1e-12 * whole ? Math.sqrt(sum) : 0;
      else low[i * m + j] = (low[j * m + j] as number) > 0 ? sum / (low[j * m + j] as number) : 0;
    }
  const y = new Float64Array(m);
  for (let i = 0; i < m; i++) {
    let sum = c[free[i] as number] as number;
    for (let k = 0; k < i; k++) sum -= (low[i * m + k] as number) * (y[k] as number);
    y[i] = (low[i * m + i] as number) > 0 ? sum / (low[i * m + i] as number) : 0;
  }
  for (let i = m - 1; i >= 0; i--) {
    let sum = y[i] as number;
    for (let k = i + 1; k < m; k++) sum -= (low[k * m + i] as number) * (y[k] as number);
    y[i] = (low[i * m + i] as number) > 0 ? sum / (low[i * m + i] as number) : 0;
  }
  return y;
}
