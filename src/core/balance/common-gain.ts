import { median, percentile } from '../dsp';
import { bandWeights, type BalanceFit, fitSums, type Sums } from './fit';
import { MIX_BANDS, MixLayout, MixSpectra, type MixWindow } from './mix-spectra';
import { mirrored, ProductSums } from './product-sums';

/** The whole mix is held down or lifted by at most so much in a window, linear. */
const [LEAST, MOST] = [0.1, 4];
/** Of a window with so small a part of the usual energy the gain of the one before holds. */
const WEAK = 0.02;
/** Gains of tracks and of windows are found in turns: after 8 they change by less than 0.1 dB. */
const TURNS = 8;
/** What a mix stands at when nothing holds it down: this percentile of the gains over so many seconds before and behind. */
const [UNHELD, AROUND_SECONDS] = [0.8, 3];
/** Bins that are read of a band for this: half of what the balance itself is read from. */
const SAMPLE_BINS = 6;
/** How far down is said of this share of the windows. */
const LOWEST = 0.02;

/** What a mix is about made of: enough to tell how far a window of it is held down as a whole, by a limiter, a compressor or saturation. */
export interface MixModel extends Pick<BalanceFit, 'gains' | 'equaliser'> {
  /** What bands count. */
  readonly weights: Float64Array;
  /** Energy of the model in a usual window, in the weights' measure. */
  readonly usual: number;
}

/** Common gain of a window: the mix against the model, near `before` where there is next to nothing. */
export function heldDown(layout: MixLayout, model: MixModel, window: MixWindow, before: number): number {
  return gainOf(againstModel(layout, model, window), model.usual, before);
}

interface Against {
  /** Inner product of the model with the mix, and its own energy, over all bands and sides. */
  readonly cross: number;
  readonly own: number;
}

function gainOf({ cross, own }: Against, usual: number, before: number): number {
  const weak = WEAK * usual;
  return Math.max(LEAST, Math.min(MOST, (cross + weak * before) / (own + weak || 1)));
}

function againstModel(
  { ranges, bySide, channels, width }: MixLayout,
  { gains, equaliser, weights }: Omit<MixModel, 'usual'>,
  { re, im }: MixWindow,
): Against {
  let [cross, own] = [0, 0];
  const n = channels.length;
  const [x, y] = [new Float64Array(width), new Float64Array(width)];
  bySide.forEach((side, s) => {
    x.fill(0);
    y.fill(0);
    for (let i = 0; i < n; i++) {
      const gain = gains[s]?.[i] as number;
      if (gain === 0) continue;
      const at = (side[i] as number) * width;
      for (let k = 0; k < width; k++) {
        x[k] = (x[k] as number) + gain * (re[at + k] as number);
        y[k] = (y[k] as number) + gain * (im[at + k] as number);
      }
    }
    const mix = (side[n] as number) * width;
    ranges.forEach(({ from, to, times }, b) => {
      const eq = equaliser[b] as number;
      const weight = times * (weights[b] as number);
      for (let k = from; k < to; k++) {
        const [a, c] = [x[k] as number, y[k] as number];
        cross += weight * eq * (a * (re[mix + k] as number) + c * (im[mix + k] as number));
        own += weight * eq * eq * (a * a + c * c);
      }
    });
  });
  return { cross, own };
}

/** Windows of a few stretches of a song, from which a {@link MixModel} is made. Memory: 8 bytes for each signal, window and bin that is read. */
export class MixSample {
  private readonly layout: MixLayout;
  private readonly windows: MixWindow[] = [];

  /** As of `MixGramBuilder`. */
  constructor(rateHz: number, channels: readonly number[], mixChannels: number) {
    this.layout = new MixLayout(rateHz, channels, mixChannels, SAMPLE_BINS);
  }

  /** Takes a stretch of everything, of any place: the channels of the tracks in order, then those of the mix. */
  push(blocks: readonly Float32Array[]): void {
    const spectra = new MixSpectra(this.layout, ({ re, im }) =>
      this.windows.push({ re: re.slice(), im: im.slice() }),
    );
    spectra.push(blocks);
  }

  /** Gains of the tracks and a common gain for each window, in turns, each by least squares; null of silence. */
  model(): MixModel | null {
    const { layout, windows } = this;
    let common = windows.map(() => 1);
    let model: MixModel | null = null;
    for (let turn = 0; turn < TURNS; turn++) {
      const sums = sumsOf(layout, windows, common);
      const weights = bandWeights(sums);
      const fit = fitSums(sums, null);
      const against = windows.map((w) => againstModel(layout, { ...fit, weights }, w));
      const sounding = against.map((a) => a.own).filter((e) => e > 0);
      if (sounding.length === 0) return null;
      const usual = median(sounding);
      model = { ...fit, weights, usual };
      let before = 1;
      const found = against.map((a) => (before = gainOf(a, usual, before)));
      const middle = median(found);
      common = found.map((g) => g / middle);
    }
    return model;
  }
}

function sumsOf(layout: MixLayout, windows: readonly MixWindow[], gains: readonly number[]): Sums {
  const sums = new ProductSums(layout);
  windows.forEach((w, k) => sums.add(w, gains[k] as number));
  const n = layout.channels.length;
  const { size, isShared } = sums;
  sums.sums.forEach((side) => mirrored(side, n));
  const bandsOf = (side: number, from: number, count: number): Float64Array[] =>
    Array.from({ length: MIX_BANDS }, (_, b) =>
      (sums.sums[side] as Float64Array).slice(b * size + from, b * size + from + count),
    );
  const each = <T>(make: (side: number) => T): T[] => layout.bySide.map((_, side) => make(side));
  return {
    products: each((side) => bandsOf(isShared ? 0 : side, 0, n * n)),
    withMix: each((side) => bandsOf(side, n * n, n)),
    energy: each((side) => Float64Array.from(bandsOf(side, n * n + n, 1), (v) => v[0] as number)),
  };
}

/** What a mix stands at in each second when nothing holds it down, and how far it is held down at most, dB; by second the gains of its windows. Slow changes stay: they are levels. */
export function steadyGains(gains: readonly (readonly number[])[]): {
  readonly bySecond: readonly number[];
  readonly lowestDb: number;
} {
  const bySecond = gains.map((_, s) => {
    const around = gains.slice(Math.max(0, s - AROUND_SECONDS), s + AROUND_SECONDS + 1).flat();
    return around.length > 0 ? percentile(around, UNHELD) : 1;
  });
  const shares = gains.flatMap((list, s) => list.map((g) => g / (bySecond[s] as number)));
  const lowest = shares.length > 0 ? percentile(shares, LOWEST) : 1;
  return { bySecond, lowestDb: Math.min(0, 20 * Math.log10(lowest)) };
}
