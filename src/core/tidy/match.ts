import { gatedLoudness } from '../analysis';
import type { Family } from '../naming';
import { gainToDb } from '../units';
import type { TidySettings } from './settings';

/** Loudness a track of each family is brought to, LUFS of its sounding parts, as far as its peaks allow; common practice, no source. Null = left as it is. */
const USUAL_LUFS: Readonly<Record<Family, number | null>> = {
  'lead-vocal': -21,
  'backing-vocal': -26,
  drums: -25,
  percussion: -28,
  bass: -23,
  guitars: -25,
  keys: -26,
  synths: -26,
  strings: -27,
  brass: -26,
  winds: -26,
  mains: -25,
  effects: -28,
  unknown: -26,
  reference: null,
  click: null,
};
/** Parts that usually stand under the rest of their family, dB. */
const UNDER_FAMILY: Readonly<Record<string, number>> = {
  hihat: -6,
  overhead: -3,
  room: -5,
  ride: -5,
  cymbal: -4,
};
/** A track is turned up by so much at most, dB: more says that something else is wrong. Down it goes as far as its peaks ask for. */
const MOST_UP_DB = 24;

/** What is known of a track that is to be matched, as it is cut. */
export interface MatchTrack {
  readonly family: Family;
  readonly part: string | null;
  /** Tracks of one group are turned up and down together. */
  readonly group: string | null;
  /** Highest sample, linear. */
  readonly peak: number;
  readonly truePeakDbtp: number | null;
  /** Mean energies of its gating blocks. */
  readonly blocks: ArrayLike<number>;
}

/** The gain, and what comes of it. */
export interface MatchedTrack {
  readonly gainDb: number;
  /** Gated loudness of what stays; null for silence. */
  readonly reachedLufs: number | null;
  readonly reachedPeakDbfs: number | null;
}

/** Gains that bring every track to what is usual for it, so that none must be pushed far; a tenth of a dB each. */
export function matchGains(
  tracks: readonly MatchTrack[],
  settings: Pick<TidySettings, 'peakDbfs' | 'ceilingDbtp'>,
): MatchedTrack[] {
  const own = tracks.map((t) => ownGain(t, settings));
  return tracks.map((t, i) => {
    const together =
      t.group === null ? [own[i]] : own.filter((_, k) => (tracks[k] as MatchTrack).group === t.group);
    const known = together.filter((g): g is number => g !== null && g !== undefined);
    const gainDb = known.length === 0 ? 0 : Math.floor(10 * Math.min(...known) + 1e-9) / 10;
    return {
      gainDb,
      reachedLufs: gatedLoudness(t.blocks, gainDb),
      reachedPeakDbfs: t.peak > 0 ? gainToDb(t.peak) + gainDb : null,
    };
  });
}

function ownGain(
  { family, part, peak, truePeakDbtp, blocks }: MatchTrack,
  { peakDbfs, ceilingDbtp }: Pick<TidySettings, 'peakDbfs' | 'ceilingDbtp'>,
): number | null {
  const usual = USUAL_LUFS[family];
  const lufs = gatedLoudness(blocks);
  if (usual === null || peak <= 0) return null;
  const wish = lufs === null ? Infinity : usual + (UNDER_FAMILY[part ?? ''] ?? 0) - lufs;
  const room = Math.min(peakDbfs - gainToDb(peak), ceilingDbtp - (truePeakDbtp ?? gainToDb(peak)));
  return Math.min(MOST_UP_DB, wish, room);
}
