import { Fft, hannWindow } from '../dsp';

/** Bands in which tracks and mix are compared, evenly spaced in octaves from 40 Hz to 16 kHz. */
export const MIX_BANDS = 24;
const [LOW_EDGE_HZ, TOP_EDGE_HZ] = [40, 16_000];
const WINDOW = 2048;
/** Every second window is read: with all of them, and each overlapping the next by half, gains are the same to 0.1 dB (p95) for four times the work. */
const HOP = 2 * WINDOW;
/** Wide bands are read at so many of their bins, spread evenly: what tracks and mix have in common there is alike from bin to bin. */
const MOST_BINS = 12;

/** Edges of the bands, Hz. */
export const mixEdgesHz = (rateHz: number): number[] => {
  const top = Math.min(TOP_EDGE_HZ, rateHz / 2);
  return Array.from(
    { length: MIX_BANDS + 1 },
    (_, i) => LOW_EDGE_HZ * (top / LOW_EDGE_HZ) ** (i / MIX_BANDS),
  );
};

/** Where the bins that are read of a band stand among all that are, [from, to), and how many of its own each stands for. */
export interface BinRange {
  readonly from: number;
  readonly to: number;
  readonly times: number;
}

/** Bins that are read, band after band, and where each band's are. */
function readBins(
  rateHz: number,
  mostBins: number,
): { readonly bins: Int32Array; readonly ranges: readonly BinRange[] } {
  const edges = mixEdgesHz(rateHz).map((hz) => Math.round((hz * WINDOW) / rateHz));
  const bins: number[] = [];
  const ranges = edges.slice(0, MIX_BANDS).map((edge, b) => {
    const low = Math.max(1, edge);
    const high = Math.min(WINDOW / 2, Math.max(low + 1, edges[b + 1] as number));
    const step = Math.max(1, Math.floor((high - low) / mostBins));
    const from = bins.length;
    for (let k = low; k < high; k += step) bins.push(k);
    return { from, to: bins.length, times: (high - low) / (bins.length - from) };
  });
  return { bins: Int32Array.from(bins), ranges };
}

/** Spectra of all signals over one window: signal s has its values from s · `width` on. */
export interface MixWindow {
  readonly re: Float32Array;
  readonly im: Float32Array;
}

/** Which signals are compared: the channels of each track, then those of the mix. */
export class MixLayout {
  readonly bins: Int32Array;
  readonly ranges: readonly BinRange[];
  readonly signals: number;
  /** By side of the mix: the signal of each track, then that of the mix. A mono track stands on both sides, a stereo track with its own channel. */
  readonly bySide: readonly (readonly number[])[];

  /** `channels`: 1 or 2 for each track; `mixChannels`: 1 or 2; `mostBins`: so many bins are read of a band. */
  constructor(
    readonly rateHz: number,
    readonly channels: readonly number[],
    readonly mixChannels: number,
    mostBins = MOST_BINS,
  ) {
    const { bins, ranges } = readBins(rateHz, mostBins);
    [this.bins, this.ranges] = [bins, ranges];
    const all = [...channels, mixChannels];
    this.signals = all.reduce((sum, c) => sum + c, 0);
    this.bySide = Array.from({ length: mixChannels }, (_, side) => {
      let at = 0;
      return all.map((c) => {
        const signal = at + Math.min(side, c - 1);
        at += c;
        return signal;
      });
    });
  }

  /** Values of a signal in a window. */
  get width(): number {
    return this.bins.length;
  }
}

/** Reads windows of blocks that follow each other. */
export class MixSpectra {
  private readonly fft = new Fft(WINDOW);
  private readonly shape = hannWindow(WINDOW);
  private readonly re = new Float64Array(WINDOW);
  private readonly im = new Float64Array(WINDOW);
  private readonly read: MixWindow;
  private held: readonly Float32Array[];

  /** `onWindow` gets what is read over one window, from frame `at` on; it is used again for the next. */
  constructor(
    private readonly layout: MixLayout,
    private readonly onWindow: (window: MixWindow, at: number) => void,
  ) {
    const values = layout.signals * layout.width;
    this.read = { re: new Float32Array(values), im: new Float32Array(values) };
    this.held = Array.from({ length: layout.signals }, () => new Float32Array(0));
  }

  /** Frames before what is held, and how many of it the next window begins behind. */
  private from = 0;
  private skip = 0;

  /** Takes the next frames of all signals, equally many of each. */
  push(blocks: readonly Float32Array[]): void {
    const all = this.held.map((held, i) => {
      const more = blocks[i] as Float32Array;
      const joined = new Float32Array(held.length + more.length);
      joined.set(held);
      joined.set(more, held.length);
      return joined;
    });
    const length = all[0]?.length ?? 0;
    let at = this.skip;
    for (; at + WINDOW <= length; at += HOP) {
      this.transform(all, at);
      this.onWindow(this.read, this.from + at);
    }
    const used = Math.min(at, length);
    this.skip = at - used;
    this.from += used;
    this.held = all.map((x) => x.slice(used));
  }

  /** Spectra of all signals, two at a time: one as the real part, one as the imaginary. */
  private transform(signals: readonly Float32Array[], at: number): void {
    const { re, im, shape, read, layout } = this;
    const { bins, width } = layout;
    for (let i = 0; i < signals.length; i += 2) {
      const a = signals[i] as Float32Array;
      const b = signals[i + 1];
      for (let k = 0; k < WINDOW; k++) re[k] = (a[at + k] as number) * (shape[k] as number);
      if (b) for (let k = 0; k < WINDOW; k++) im[k] = (b[at + k] as number) * (shape[k] as number);
      else im.fill(0);
      this.fft.transformInto(re, im);
      const [own, next] = [i * width, (i + 1) * width];
      for (let n = 0; n < width; n++) {
        const k = bins[n] as number;
        read.re[own + n] = ((re[k] as number) + (re[WINDOW - k] as number)) / 2;
        read.im[own + n] = ((im[k] as number) - (im[WINDOW - k] as number)) / 2;
        if (!b) continue;
        read.re[next + n] = ((im[k] as number) + (im[WINDOW - k] as number)) / 2;
        read.im[next + n] = ((re[WINDOW - k] as number) - (re[k] as number)) / 2;
      }
    }
  }
}
