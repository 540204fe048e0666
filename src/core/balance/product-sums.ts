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

  /** Adds a window in which all tracks are `gain` times as loud as they are. */
  add(window: MixWindow, gain: number): void {
    const { layout, size, sums } = this;
    const { channels, ranges, width } = layout;
    const n = channels.length;
    const first = sums[0] as Float64Array;
    layout.bySide.forEach((side, s) => {
      const own = sums[s] as Float64Array;
      const mix = (side[n] as number) * width;
      ranges.forEach((range, b) => {
        const base = b * size;
        const [both, once] = [gain * gain * range.times, gain * range.times];
        for (let i = 0; i < n; i++) {
          const x = (side[i] as number) * width;
          if (s === 0 || !this.isShared)
            for (let j = i; j < n; j++) {
              const k = base + i * n + j;
              // Of two mono tracks they are those of the first side, which was added just before.
              if (s > 0 && channels[i] === 1 && channels[j] === 1) own[k] = first[k] as number;
              else
                own[k] =
                  (own[k] as number) + both * realProduct(window, x, (side[j] as number) * width, range);
            }
          const k = base + n * n + i;
          own[k] = (own[k] as number) + once * realProduct(window, x, mix, range);
        }
        const k = base + n * n + n;
        own[k] = (own[k] as number) + range.times * realProduct(window, mix, mix, range);
      });
    });
  }
}

/** Re(a bᴴ) over the bins that are read of a band. */
function realProduct({ re, im }: MixWindow, a: number, b: number, { from, to }: BinRange): number {
  let sum = 0;
  for (let k = from; k < to; k++)
    sum += (re[a + k] as number) * (re[b + k] as number) + (im[a + k] as number) * (im[b + k] as number);
  return sum;
}

/** Copies what lies over the diagonal below it, for each band. */
export function mirrored(cell: Float32Array | Float64Array, n: number): void {
  const size = n * n + n + 1;
  for (let base = 0; base < cell.length; base += size)
    for (let i = 0; i < n; i++)
      for (let j = 0; j < i; j++) cell[base + i * n + j] = cell[base + j * n + i] as number;
}
