import { Fft, hannWindow } from '../dsp';

/** Bands in which tracks and mix are compared, evenly spaced in octaves from 40 Hz to 16 kHz. */
export const MIX_BANDS = 24;
const [LOW_EDGE_HZ, TOP_EDGE_HZ] = [40, 16_000];
const WINDOW = 2048;
const HOP = WINDOW / 2;
/** Wide bands are read at so many of their bins, spread evenly: what tracks and mix have in common there is alike from bin to bin. */
const MOST_BINS = 20;

/** Edges of the bands, Hz. */
export const mixEdgesHz = (rateHz: number): number[] => {
  const top = Math.min(TOP_EDGE_HZ, rateHz / 2);
  return Array.from(
    { length: MIX_BANDS + 1 },
    (_, i) => LOW_EDGE_HZ * (top / LOW_EDGE_HZ) ** (i / MIX_BANDS),
  );
};

/**
 * What tracks and a mix have in common, second by second and band by band, for each side of the mix: enough to fit gains over any
 * stretch and any of the tracks without their sound. A mono track stands on both sides, a stereo track with its own channel.
 */
export interface MixGram {
  readonly tracks: number;
  readonly seconds: number;
  /** 2, or 1 for a mono mix. */
  readonly sides: number;
  /** Re(X Xᴴ) of tracks i, j in a band and second, for each side. */
  products(side: number, second: number, band: number): Float32Array;
  /** Re(X yᴴ) of each track with the mix. */
  withMix(side: number, second: number, band: number): Float32Array;
  /** Energy of the mix. */
  mixEnergy(side: number, second: number, band: number): number;
}

/** Where the bins that are read of a band stand among all that are, [from, to), and how many of its own each stands for. */
interface BinRange {
  readonly from: number;
  readonly to: number;
  readonly times: number;
}

/** Bins that are read, band after band, and where each band's are. */
function readBins(rateHz: number): { readonly bins: Int32Array; readonly ranges: readonly BinRange[] } {
  const edges = mixEdgesHz(rateHz).map((hz) => Math.round((hz * WINDOW) / rateHz));
  const bins: number[] = [];
  const ranges = edges.slice(0, MIX_BANDS).map((edge, b) => {
    const low = Math.max(1, edge);
    const high = Math.min(WINDOW / 2, Math.max(low + 1, edges[b + 1] as number));
    const step = Math.max(1, Math.floor((high - low) / MOST_BINS));
    const from = bins.length;
    for (let k = low; k < high; k += step) bins.push(k);
    return { from, to: bins.length, times: (high - low) / (bins.length - from) };
  });
  return { bins: Int32Array.from(bins), ranges };
}

/** One signal in the making: samples not yet used, and what is read of its spectrum of the present window. */
class Signal {
  held = new Float32Array(0);
  readonly re: Float64Array;
  readonly im: Float64Array;

  constructor(bins: number) {
    this.re = new Float64Array(bins);
    this.im = new Float64Array(bins);
  }
}

/** Gathers a {@link MixGram} from blocks of all tracks and the mix; memory grows by the second only: 4 bytes for each pair of tracks and band. */
export class MixGramBuilder {
  private readonly fft = new Fft(WINDOW);
  private readonly window = hannWindow(WINDOW);
  private readonly re = new Float64Array(WINDOW);
  private readonly im = new Float64Array(WINDOW);
  private readonly bins: Int32Array;
  private readonly ranges: readonly BinRange[];
  private readonly signals: Signal[];
  /** Signals of each side: of the tracks, then of the mix. */
  private readonly bySide: readonly (readonly Signal[])[];
  private readonly isShared: boolean;
  /** By side: sums of the present second, band by band. */
  private sums: readonly Float64Array[];
  private readonly cells: Float32Array[][];
  private frame = 0;
  private second = 0;

  /** `channels`: 1 or 2 for each track; `mixChannels`: 1 or 2. */
  constructor(
    private readonly rateHz: number,
    private readonly channels: readonly number[],
    private readonly mixChannels: number,
  ) {
    const { bins, ranges } = readBins(rateHz);
    this.bins = bins;
    this.ranges = ranges;
    this.signals = [...channels, mixChannels].flatMap((c) =>
      Array.from({ length: c }, () => new Signal(bins.length)),
    );
    this.isShared = channels.every((c) => c === 1);
    this.bySide = Array.from({ length: mixChannels }, (_, side) => {
      let at = 0;
      return [...channels, mixChannels].map((c) => {
        const signal = this.signals[at + Math.min(side, c - 1)] as Signal;
        at += c;
        return signal;
      });
    });
    this.sums = this.emptySums();
    this.cells = this.bySide.map(() => []);
  }

  private get size(): number {
    const n = this.channels.length;
    return n * n + n + 1;
  }

  private emptySums(): Float64Array[] {
    return this.bySide.map(() => new Float64Array(MIX_BANDS * this.size));
  }

  /** Takes the next frames of everything, equally many of each: the channels of the tracks in order, then those of the mix. */
  push(blocks: readonly Float32Array[]): void {
    this.signals.forEach((signal, i) => {
      const more = blocks[i] as Float32Array;
      const all = new Float32Array(signal.held.length + more.length);
      all.set(signal.held);
      all.set(more, signal.held.length);
      signal.held = all;
    });
    const length = this.signals[0]?.held.length ?? 0;
    let at = 0;
    for (; at + WINDOW <= length; at += HOP) {
      const second = Math.floor((this.frame * HOP + HOP) / this.rateHz);
      if (second !== this.second) this.flush(second);
      this.transformAll(at);
      this.bySide.forEach((side, s) => this.add(side, this.sums[s] as Float64Array, s));
      this.frame++;
    }
    for (const signal of this.signals) signal.held = signal.held.slice(at);
  }

  private flush(next: number): void {
    this.sums.forEach((sums, s) => this.cells[s]?.push(Float32Array.from(sums)));
    this.sums = this.emptySums();
    this.second = next;
  }

  /** Spectra of all signals, two at a time: one as the real part, one as the imaginary. */
  private transformAll(at: number): void {
    const { re, im, window, signals, bins } = this;
    for (let i = 0; i < signals.length; i += 2) {
      const a = signals[i] as Signal;
      const b = signals[i + 1] as Signal | undefined;
      for (let k = 0; k < WINDOW; k++) re[k] = (a.held[at + k] as number) * (window[k] as number);
      if (b) for (let k = 0; k < WINDOW; k++) im[k] = (b.held[at + k] as number) * (window[k] as number);
      else im.fill(0);
      this.fft.transformInto(re, im);
      for (let n = 0; n < bins.length; n++) {
        const k = bins[n] as number;
        a.re[n] = ((re[k] as number) + (re[WINDOW - k] as number)) / 2;
        a.im[n] = ((im[k] as number) - (im[WINDOW - k] as number)) / 2;
        if (!b) continue;
        b.re[n] = ((im[k] as number) + (im[WINDOW - k] as number)) / 2;
        b.im[n] = ((re[WINDOW - k] as number) - (re[k] as number)) / 2;
      }
    }
  }

  private add(side: readonly Signal[], sums: Float64Array, s: number): void {
    const n = this.channels.length;
    const mix = side[n] as Signal;
    const [first] = this.sums as readonly [Float64Array];
    this.ranges.forEach((range, b) => {
      const base = b * this.size;
      for (let i = 0; i < n; i++) {
        const x = side[i] as Signal;
        // With mono tracks alone both sides have the same products.
        if (s === 0 || !this.isShared)
          for (let j = i; j < n; j++) {
            const k = base + i * n + j;
            // Of two mono tracks they are those of the first side, which was added just before.
            if (s > 0 && this.channels[i] === 1 && this.channels[j] === 1) sums[k] = first[k] as number;
            else sums[k] = (sums[k] as number) + realProduct(x, side[j] as Signal, range);
          }
        const k = base + n * n + i;
        sums[k] = (sums[k] as number) + realProduct(x, mix, range);
      }
      const k = base + n * n + n;
      sums[k] = (sums[k] as number) + realProduct(mix, mix, range);
    });
  }

  /** What was gathered, after the last block. */
  finish(): MixGram {
    this.flush(0);
    const n = this.channels.length;
    const { size, cells, isShared } = this;
    for (const side of isShared ? cells.slice(0, 1) : cells)
      for (const cell of side)
        for (let b = 0; b < MIX_BANDS; b++)
          for (let i = 0; i < n; i++)
            for (let j = 0; j < i; j++) cell[b * size + i * n + j] = cell[b * size + j * n + i] as number;
    const cellOf = (side: number, second: number): Float32Array => cells[side]?.[second] as Float32Array;
    return {
      tracks: n,
      seconds: cells[0]?.length ?? 0,
      sides: this.mixChannels,
      products: (side, second, band) =>
        cellOf(isShared ? 0 : side, second).subarray(band * size, band * size + n * n),
      withMix: (side, second, band) =>
        cellOf(side, second).subarray(band * size + n * n, band * size + n * n + n),
      mixEnergy: (side, second, band) => cellOf(side, second)[band * size + n * n + n] as number,
    };
  }
}

/** Re(a bᴴ) over a band, as much as all of its bins would have. */
function realProduct(a: Signal, b: Signal, { from, to, times }: BinRange): number {
  const { re: ar, im: ai } = a;
  const { re: br, im: bi } = b;
  let sum = 0;
  for (let k = from; k < to; k++)
    sum += (ar[k] as number) * (br[k] as number) + (ai[k] as number) * (bi[k] as number);
  return sum * times;
}
