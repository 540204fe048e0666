/** How one take stands to another, collected block by block. */
export class BestFit {
  private aa = 0;
  private ab = 0;
  private bb = 0;

  /** Takes the same frames of both; the shorter decides. */
  push(a: Float32Array, b: Float32Array): void {
    const n = Math.min(a.length, b.length);
    let { aa, ab, bb } = this;
    for (let i = 0; i < n; i++) {
      const x = a[i] as number;
      const y = b[i] as number;
      aa += x * x;
      ab += x * y;
      bb += y * y;
    }
    this.aa = aa;
    this.ab = ab;
    this.bb = bb;
  }

  /** Least-squares gain from the first to the second (negative = turned over) and what is left of the second, dB of its own energy; −Infinity when nothing is. Null for silence. */
  result(): { readonly gain: number; readonly residualDb: number } | null {
    if (this.aa === 0 || this.bb === 0) return null;
    const left = Math.max(0, this.bb - (this.ab * this.ab) / this.aa) / this.bb;
    // What double precision cannot tell from nothing.
    return { gain: this.ab / this.aa, residualDb: left < 1e-14 ? -Infinity : 10 * Math.log10(left) };
  }
}
