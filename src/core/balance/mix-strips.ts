import { gainToDb } from '../units';
import type { LevelChange } from './changes';
import { type BalanceFit, stripOf } from './fit';
import type { MissingPart } from './missing';
import { mixEdgesHz } from './mix-spectra';
import type { RoughStrip } from './rough';

/** The mix bus keeps so much headroom, dBFS. */
const BUS_PEAK_DBFS = -6;
/** A track that carries less of the mix than this has no level there that could be told (share of its energy). */
const LEAST_CARRIED = 1e-3;

/** How loud a mix has a track, and where. */
export interface MixStrip {
  readonly gainDb: number;
  readonly pan: number;
  /** Of the mix's energy. */
  readonly share: number;
  /** Levels from a moment on, dB, where they step. */
  readonly changes: readonly LevelChange[];
}

/** Levels and pans a mix has; null for a track that is not heard in it. `channels` of each track, 1 or 2. */
export function mixStrips(
  fit: BalanceFit,
  changes: readonly (readonly LevelChange[])[],
  { channels, isMono }: { readonly channels: readonly number[]; readonly isMono: boolean },
): (MixStrip | null)[] {
  // A mix of one channel is played in the middle: 3 dB down on each side.
  const centreDb = fit.gains.length === 1 ? 10 * Math.log10(0.5) : 0;
  return channels.map((count, i) => {
    const [left = 0, right = left] = fit.gains.map((g) => g[i] as number);
    const overSides = 10 * Math.log10(fit.gains.reduce((sum, g) => sum + (g[i] as number) ** 2, 0));
    const strip = stripOf(Math.min(2, count), left, right);
    const share = fit.carries[i] as number;
    if (!strip || share < LEAST_CARRIED) return null;
    return {
      gainDb: strip.gainDb + centreDb,
      // A mono mix says nothing of places.
      pan: isMono ? 0 : strip.pan,
      share,
      // Steps are measured over both sides together; a stereo track's level is that of its louder one.
      changes: (changes[i] ?? []).map((c) => ({
        ...c,
        gainDb: c.gainDb + strip.gainDb + centreDb - overSides,
      })),
    };
  });
}

/** Strips turned down together until the mix bus has its headroom, and the peak it has then, linear. `peak`: as they were. */
export function withHeadroom(
  strips: readonly RoughStrip[],
  peak: number,
): { readonly strips: readonly RoughStrip[]; readonly peak: number } {
  // A hundredth of a dB below, for what rounding to print may add.
  const turn = peak > 0 ? BUS_PEAK_DBFS - 0.01 - gainToDb(peak) : 0;
  const down = Math.floor(100 * turn) / 100;
  return {
    strips: strips.map((s) => ({ ...s, gainDb: s.gainDb + down })),
    peak: peak * 10 ** (down / 20),
  };
}

/** Ranges in words, by the middle of what is missing. */
const RANGES: readonly (readonly [number, string])[] = [
  [120, 'low end'],
  [500, 'low mids'],
  [2000, 'mids'],
  [6000, 'high mids'],
  [Infinity, 'highs'],
];

/** Where a missing part lies, Hz, and the same in a word. */
export function rangeOfMissing(
  { fromBand, toBand }: Pick<MissingPart, 'fromBand' | 'toBand'>,
  rateHz: number,
): { readonly fromHz: number; readonly toHz: number; readonly range: string } {
  const edges = mixEdgesHz(rateHz);
  const [fromHz, toHz] = [edges[fromBand] as number, edges[toBand + 1] as number];
  const middle = Math.sqrt(fromHz * toHz);
  return { fromHz, toHz, range: RANGES.find(([most]) => middle < most)?.[1] ?? 'highs' };
}
