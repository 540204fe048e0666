import { type BinRange, MIX_BANDS, type MixLayout, type MixWindow } from './mix-spectra';

/** Sums of products over windows: for each side and band those of the tracks (i · n + j, i ≤ j), those with the mix, the mix's energy. */
export class ProductSums {
  readonly sums: readonly Float64Array[];
  /** Values of a band: n² + n + 1. */
  readonly size: number;
  /** With mono tracks alone both sides have the same products. */
  readonly isShared: boolean;

  constructor(private readonly layout: MixLayout) {
    const n = layout.channels.length;
    this.size = n * n + n + 1;
    this.isShared = layout.channels.every((c) => c === 1);
    this.sums = layout.bySide.map(() => new Float64Array(MIX_BANDS * this.size));
  }

  /** Adds a window in which all tracks are `gain` times as loud as they are; `plain` gets them as they are. */
  add(window: MixWindow, gain: number, plain: ProductSums | null = null): void {
    const { layout, size, sums } = this;
    const { channels, ranges, width } = layout;
    const n = channels.length;
    layout.bySide.forEach((side, s) => {
      const mix = (side[n] as number) * width;
      const keep = (k: number, times: number, product: number): void => {
        const own = sums[s] as Float64Array;
        own[k] = (own[k] as number) + times * product;
        const other = plain?.sums[s];
        if (other) other[k] = (other[k] as number) + product;
      };
      const asFirst = (k: number): void => {
        for (const of of plain ? [sums, plain.sums] : [sums])
          (of[s] as Float64Array)[k] = (of[0] as Float64Array)[k] as number;
      };
      ranges.forEach((range, b) => {
        const base = b * size;
        for (let i = 0; i < n; i++) {
          const x = (side[i] as number) * width;
          if (s === 0 || !this.isShared)
            for (let j = i; j < n; j++) {
              const k = base + i * n + j;
              // Of two mono tracks they are those of the first side, which was added just before.
              if (s > 0 && channels[i] === 1 && channels[j] === 1) asFirst(k);
              else keep(k, gain * gain, realProduct(window, x, (side[j] as number) * width, range));
            }
          keep(base + n * n + i, gain, realProduct(window, x, mix, range));
        }
        keep(base + n * n + n, 1, realProduct(window, mix, mix, range));
      });
    });
  }
}

/** Re(a bᴴ) over a band, as much as all of its bins would have. */
function realProduct({ re, im }: MixWindow, a: number, b: number, { from, to, times }: BinRange): number {
  let sum = 0;
  for (let k = from; k < to; k++)
    sum += (re[a + k] as number) * (re[b + k] as number) + (im[a + k] as number) * (im[b + k] as number);
  return times * sum;
}

/** Copies what lies over the diagonal below it, for each band. */
export function mirrored(cell: Float32Array | Float64Array, n: number): void {
  const size = n * n + n + 1;
  for (let base = 0; base < cell.length; base += size)
    for (let i = 0; i < n; i++)
      for (let j = 0; j < i; j++) cell[base + i * n + j] = cell[base + j * n + i] as number;
}
