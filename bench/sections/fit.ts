/** A weighted line through facts: log-odds of something. */
export interface Line {
  readonly bias: number;
  readonly weights: readonly number[];
}

/** Logistic regression by Newton's method, `ridge` on the weights. `rows`: facts; `ys`: 0 or 1. */
export function fitLogistic(
  rows: readonly (readonly number[])[],
  ys: readonly number[],
  ridge: number,
): Line {
  const d = (rows[0]?.length ?? 0) + 1;
  const w = new Float64Array(d);
  for (let turn = 0; turn < 12; turn++) {
    const h = Array.from({ length: d }, () => new Float64Array(d));
    const g = new Float64Array(d);
    rows.forEach((row, r) => {
      const x = [...row, 1];
      let z = 0;
      for (let i = 0; i < d; i++) z += (w[i] as number) * (x[i] as number);
      const p = 1 / (1 + Math.exp(-z));
      const weight = Math.max(1e-4, p * (1 - p));
      for (let i = 0; i < d; i++) {
        g[i] = (g[i] as number) + ((ys[r] as number) - p) * (x[i] as number);
        const hi = h[i] as Float64Array;
        for (let j = 0; j <= i; j++) hi[j] = (hi[j] as number) + weight * (x[i] as number) * (x[j] as number);
      }
    });
    for (let i = 0; i < d; i++) {
      const own = i < d - 1 ? ridge : 1e-3;
      (h[i] as Float64Array)[i] = (h[i]?.[i] as number) + own;
      g[i] = (g[i] as number) - own * (w[i] as number);
      for (let j = 0; j < i; j++) (h[j] as Float64Array)[i] = h[i]?.[j] as number;
    }
    const step = solve(h, g);
    let moved = 0;
    for (let i = 0; i < d; i++) {
      w[i] = (w[i] as number) + (step[i] as number);
      moved = Math.max(moved, Math.abs(step[i] as number));
    }
    if (moved < 1e-4) break;
  }
  return { bias: w[d - 1] as number, weights: [...w.subarray(0, d - 1)] };
}

/** Solves h x = g, h symmetric and positive (Cholesky). */
function solve(h: readonly Float64Array[], g: Float64Array): Float64Array {
  const d = g.length;
  const l = Array.from({ length: d }, () => new Float64Array(d));
  const at = (i: number, j: number): number => l[i]?.[j] as number;
  for (let i = 0; i < d; i++)
    for (let j = 0; j <= i; j++) {
      let sum = h[i]?.[j] as number;
      for (let k = 0; k < j; k++) sum -= at(i, k) * at(j, k);
      (l[i] as Float64Array)[j] = i === j ? Math.sqrt(Math.max(1e-12, sum)) : sum / at(j, j);
    }
  const y = new Float64Array(d);
  for (let i = 0; i < d; i++) {
    let sum = g[i] as number;
    for (let k = 0; k < i; k++) sum -= at(i, k) * (y[k] as number);
    y[i] = sum / at(i, i);
  }
  const x = new Float64Array(d);
  for (let i = d - 1; i >= 0; i--) {
    let sum = y[i] as number;
    for (let k = i + 1; k < d; k++) sum -= at(k, i) * (x[k] as number);
    x[i] = sum / at(i, i);
  }
  return x;
}

/** Softmax regression by gradient with momentum; `ys`: index of the class. */
export function fitSoftmax(
  rows: readonly (readonly number[])[],
  ys: readonly number[],
  classes: number,
  ridge: number,
): { readonly bias: number[]; readonly weights: number[][] } {
  const d = (rows[0]?.length ?? 0) + 1;
  const w = Array.from({ length: classes }, () => new Float64Array(d));
  const v = Array.from({ length: classes }, () => new Float64Array(d));
  for (let turn = 0; turn < 1500; turn++) {
    const g = Array.from({ length: classes }, () => new Float64Array(d));
    rows.forEach((row, r) => {
      const odds = w.map((wk) => row.reduce((sum, x, i) => sum + x * (wk[i] as number), wk[d - 1] as number));
      const top = Math.max(...odds);
      const e = odds.map((o) => Math.exp(o - top));
      const all = e.reduce((a, b) => a + b, 0);
      e.forEach((x, k) => {
        const by = (k === ys[r] ? 1 : 0) - x / all;
        const gk = g[k] as Float64Array;
        for (let i = 0; i < d - 1; i++) gk[i] = (gk[i] as number) + by * (row[i] as number);
        gk[d - 1] = (gk[d - 1] as number) + by;
      });
    });
    for (let k = 0; k < classes; k++)
      for (let i = 0; i < d; i++) {
        const [wk, vk, gk] = [w[k] as Float64Array, v[k] as Float64Array, g[k] as Float64Array];
        const slope = ((gk[i] as number) - (i < d - 1 ? ridge * (wk[i] as number) : 0)) / rows.length;
        vk[i] = 0.9 * (vk[i] as number) + 0.5 * slope;
        wk[i] = (wk[i] as number) + (vk[i] as number);
      }
  }
  return { bias: w.map((wk) => wk[d - 1] as number), weights: w.map((wk) => [...wk.subarray(0, d - 1)]) };
}
