import { percentile } from '../dsp';
import type { BalanceFit } from './fit';
import type { MixGram } from './mix-gram';
import { MIX_BANDS } from './mix-spectra';
import { nonNegativeLeastSquares } from './nnls';

/** A cell is so many seconds of a band. */
const CELL_SECONDS = 2;
/** Cells that count: so near to the loudest of their band, in bands so near to the whole mix (energy). */
const [NEAR_LOUDEST, NEAR_MIX] = [1e-3, 1e-5];
/** Reverb and distortion of a track, of its own power in the same cell and the one before: at most so much. */
const [TAIL_NOW, TAIL_BEFORE] = [0.15, 0.1];
/** A cell misses something where so much of it is left; a mix does where so many cells are, or where the mean of three bands over two cells reaches so much in one place of twenty. */
const [CELL_LEFT, CELLS_LEFT, MEAN_LEFT] = [0.3, 0.005, 0.1];
/** With fewer tracks than this the model is too poor to be sure. */
const SURE_TRACKS = 5;

/** Something in a mix that no track explains. */
export interface MissingPart {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly fromBand: number;
  readonly toBand: number;
  /** Share of those cells that is left. */
  readonly left: number;
  readonly confidence: number;
}

/** Looks for what no track explains: what is left of the mix by band and time, less what reverb and distortion of the tracks can be. */
export function missingParts(gram: MixGram, fit: BalanceFit): MissingPart[] {
  const cells = Math.floor(gram.seconds / CELL_SECONDS);
  const { rest, mix } = restOf(gram, fit, cells);
  const counts = countingCells(mix, cells);
  const left = Array.from({ length: MIX_BANDS }, (_, b) =>
    Float64Array.from({ length: cells }, (_, c) =>
      counts[b]?.[c] ? shareLeft(rest[b]?.[c] as number, mix[b]?.[c] as number) : 0,
    ),
  );
  const all = left.flatMap((row, b) => [...row].filter((_, c) => counts[b]?.[c]));
  if (all.length === 0) return [];
  const many = all.filter((v) => v > CELL_LEFT).length / all.length;
  const mean = percentile(meansOf(left, counts, cells), 0.95);
  if (many <= CELLS_LEFT && mean <= MEAN_LEFT) return [];
  const strength = Math.max(many / CELLS_LEFT, mean / MEAN_LEFT);
  const confidence = Math.min(0.95, 0.5 + 0.15 * Math.log2(strength)) * (gram.tracks < SURE_TRACKS ? 0.7 : 1);
  return regions(left, counts, cells).map((r) => ({ ...r, confidence }));
}

/** Share of a cell that no track explains. Where more is left than there is, tracks have something that the mix leaves out: nothing is missing there. */
const shareLeft = (rest: number, mix: number): number => (rest > mix ? 0 : Math.max(0, rest) / mix);

/** Power of the mix, and of what the fit leaves of it less possible tails, band by band and cell by cell. */
function restOf(
  gram: MixGram,
  fit: BalanceFit,
  cells: number,
): { rest: Float64Array[]; mix: Float64Array[] } {
  const [rest, mix]: [Float64Array[], Float64Array[]] = [[], []];
  const n = gram.tracks;
  for (let b = 0; b < MIX_BANDS; b++) {
    const e = fit.equaliser[b] as number;
    const [y, r] = [new Float64Array(cells), new Float64Array(cells)];
    const own = Array.from({ length: cells }, () => new Float64Array(n));
    for (let second = 0; second < cells * CELL_SECONDS; second++) {
      const c = Math.floor(second / CELL_SECONDS);
      fit.gains.forEach((g, side) => {
        const [product, mixed] = [gram.products(side, second, b), gram.withMix(side, second, b)];
        const energy = gram.mixEnergy(side, second, b);
        y[c] = (y[c] as number) + energy;
        let left = energy;
        for (let i = 0; i < n; i++) {
          const gi = e * (g[i] as number);
          if (gi === 0) continue;
          left -= 2 * gi * (mixed[i] as number);
          for (let j = 0; j < n; j++) left += gi * e * (g[j] as number) * (product[i * n + j] as number);
          const powers = own[c] as Float64Array;
          powers[i] = (powers[i] as number) + gi * gi * (product[i * n + i] as number);
        }
        r[c] = (r[c] as number) + Math.max(0, left);
      });
    }
    withoutTails(r, y, own);
    rest.push(r);
    mix.push(y);
  }
  return { rest, mix };
}

/** Takes off what reverb and distortion of the tracks may be, by non-negative least squares on the tracks' own powers. */
function withoutTails(rest: Float64Array, mix: Float64Array, own: readonly Float64Array[]): void {
  const n = own[0]?.length ?? 0;
  const size = 2 * n;
  const [a, c] = [new Float64Array(size * size), new Float64Array(size)];
  const rowOf = (cell: number): Float64Array => {
    const row = new Float64Array(size);
    const weight = 1 / Math.max(1e-30, mix[cell] as number);
    for (let i = 0; i < n; i++) {
      row[i] = ((own[cell] as Float64Array)[i] as number) * weight;
      row[n + i] = cell > 0 ? ((own[cell - 1] as Float64Array)[i] as number) * weight : 0;
    }
    return row;
  };
  for (let cell = 0; cell < rest.length; cell++) {
    if ((mix[cell] as number) <= 0) continue;
    const row = rowOf(cell);
    const target = (rest[cell] as number) / (mix[cell] as number);
    for (let i = 0; i < size; i++) {
      if (row[i] === 0) continue;
      c[i] = (c[i] as number) + (row[i] as number) * target;
      for (let j = 0; j < size; j++)
        a[i * size + j] = (a[i * size + j] as number) + (row[i] as number) * (row[j] as number);
    }
  }
  const share = nonNegativeLeastSquares(a, c).map((x, i) => Math.min(x, i < n ? TAIL_NOW : TAIL_BEFORE));
  for (let cell = 0; cell < rest.length; cell++) {
    const row = rowOf(cell);
    let tail = 0;
    for (let i = 0; i < size; i++) tail += (row[i] as number) * (share[i] as number);
    rest[cell] = Math.max(0, (rest[cell] as number) - tail * (mix[cell] as number));
  }
}

function countingCells(mix: readonly Float64Array[], cells: number): boolean[][] {
  const whole = mix.map((row) => row.reduce((a, b) => a + b, 0));
  const total = whole.reduce((a, b) => a + b, 0);
  return mix.map((row, b) => {
    const loudest = row.reduce((m, v) => Math.max(m, v), 0);
    const isBand = (whole[b] as number) > NEAR_MIX * total;
    return Array.from(
      { length: cells },
      (_, c) => isBand && (row[c] as number) > NEAR_LOUDEST * loudest && (row[c] as number) > 0,
    );
  });
}

/** Means over three bands and two cells. */
function meansOf(left: readonly Float64Array[], counts: readonly boolean[][], cells: number): number[] {
  const out: number[] = [];
  for (let b = 1; b + 1 < MIX_BANDS; b++)
    for (let c = 0; c + 1 < cells; c++) {
      let [sum, count] = [0, 0];
      for (let db = -1; db <= 1; db++)
        for (let dc = 0; dc <= 1; dc++)
          if (counts[b + db]?.[c + dc]) {
            sum += left[b + db]?.[c + dc] as number;
            count++;
          }
      if (count >= 4) out.push(sum / count);
    }
  return out;
}

/** Where it is: neighbouring cells with much left, as boxes of time and bands, the weightiest first. */
function regions(
  left: readonly Float64Array[],
  counts: readonly boolean[][],
  cells: number,
): Omit<MissingPart, 'confidence'>[] {
  const isLeft = (b: number, c: number): boolean =>
    counts[b]?.[c] === true && (left[b]?.[c] as number) > CELL_LEFT / 2;
  const seen = left.map(() => new Uint8Array(cells));
  const out: (Omit<MissingPart, 'confidence'> & { readonly size: number })[] = [];
  for (let b = 0; b < MIX_BANDS; b++)
    for (let c = 0; c < cells; c++) {
      if (!isLeft(b, c) || seen[b]?.[c] === 1) continue;
      const box = { low: b, high: b, from: c, to: c, sum: 0, size: 0 };
      const todo: [number, number][] = [[b, c]];
      (seen[b] as Uint8Array)[c] = 1;
      for (let next = todo.pop(); next; next = todo.pop()) {
        const [nb, nc] = next;
        box.low = Math.min(box.low, nb);
        box.high = Math.max(box.high, nb);
        box.from = Math.min(box.from, nc);
        box.to = Math.max(box.to, nc);
        box.sum += left[nb]?.[nc] as number;
        box.size++;
        for (let db = -2; db <= 2; db++)
          for (let dc = -2; dc <= 2; dc++)
            if (isLeft(nb + db, nc + dc) && seen[nb + db]?.[nc + dc] === 0) {
              (seen[nb + db] as Uint8Array)[nc + dc] = 1;
              todo.push([nb + db, nc + dc]);
            }
      }
      out.push({
        fromSeconds: box.from * CELL_SECONDS,
        toSeconds: (box.to + 1) * CELL_SECONDS,
        fromBand: box.low,
        toBand: box.high,
        left: box.sum / box.size,
        size: box.size,
      });
    }
  return out
    .sort((x, y) => y.size - x.size)
    .slice(0, 12)
    .map(({ size: _, ...region }) => region);
}
