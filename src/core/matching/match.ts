import type { Family } from '../naming';
import { isByPeak, type MatchRules } from './rules';
import { loudnessAt, type SoundMeasure } from './measure';

/** Parts that usually stand under the rest of their family, dB; common practice, no source. */
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
  /** Tracks of one group are turned up and down together, all their pieces by one gain. */
  readonly group: string | null;
  readonly whole: SoundMeasure;
  /** In order of time; each by itself. */
  readonly pieces: readonly SoundMeasure[];
}

/** The gain, dB, and what comes of it. */
export interface MatchedSound {
  readonly gainDb: number;
  /** By the measure that was asked for where that is a loudness, else of all; null for silence. */
  readonly reachedLufs: number | null;
  readonly reachedPeakDbfs: number | null;
  readonly reachedTruePeakDbtp: number | null;
}

/** A track matched: gains of its pieces differ only where each is matched by itself. */
export interface MatchedTrack {
  /** The track from end to end; its gain is that of most, or of its first piece. */
  readonly whole: MatchedSound;
  readonly pieces: readonly MatchedSound[];
}

/** Gains that bring tracks to what is usual for them, so that none must be pushed far; tenths of a dB, never above what was aimed at. */
export function matchGains(tracks: readonly MatchTrack[], rules: MatchRules): MatchedTrack[] {
  const own = tracks.map((t) => wish(t, t.whole, rules));
  return tracks.map((t, i) => {
    const isOne = rules.each !== 'piece' || t.group !== null;
    const gainDb = gainOf(
      rules.each === 'all' && isMatched(t, rules)
        ? own
        : t.group === null
          ? [own[i] ?? null]
          : own.filter((_, k) => tracks[k]?.group === t.group),
    );
    const pieces = t.pieces.map((p) => reached(p, isOne ? gainDb : gainOf([wish(t, p, rules)]), rules));
    return isOne
      ? { whole: reached(t.whole, gainDb, rules), pieces }
      : { whole: ofPieces(t, pieces, rules), pieces };
  });
}

/** The smallest of wishes, so that none is pushed above its own; 0 where there is none. */
function gainOf(wishes: readonly (number | null)[]): number {
  const known = wishes.filter((g) => g !== null);
  return known.length === 0 ? 0 : Math.floor(10 * Math.min(...known) + 1e-9) / 10;
}

const isMatched = ({ family }: MatchTrack, { lufs }: MatchRules): boolean => lufs[family] !== null;

function wish({ family, part }: MatchTrack, sound: SoundMeasure, rules: MatchRules): number | null {
  const usual = rules.lufs[family];
  const { peakDbfs, truePeakDbtp } = sound;
  if (usual === null || peakDbfs === null) return null;
  const truePeak = truePeakDbtp ?? peakDbfs;
  const room = Math.min(
    rules.peakDb - (rules.by === 'true-peak' ? truePeak : peakDbfs),
    rules.ceilingDbtp - truePeak,
  );
  const target = usual + (UNDER_FAMILY[part ?? ''] ?? 0);
  return Math.min(MOST_UP_DB, byLoudness(sound, target, rules), room);
}

/** The gain that brings a sound to a loudness; more than any limit where it has none, or levels are told by peaks. */
function byLoudness(sound: SoundMeasure, target: number, rules: MatchRules): number {
  if (isByPeak(rules)) return Infinity;
  const by = loudnessOf(rules);
  const loudestUp = loudnessAt(sound, by, MOST_UP_DB);
  if (loudestUp === null) return Infinity;
  const first = MOST_UP_DB + target - loudestUp;
  // What passes the gate depends on the gain itself.
  const found = loudnessAt(sound, by, first);
  return found === null ? first : first + target - found;
}

/** The loudness levels are told by; that of all where they are told by peaks. */
export const loudnessOf = ({ by }: Pick<MatchRules, 'by'>): 'loudness' | 'loudest' | 'active' =>
  by === 'peak' || by === 'true-peak' ? 'loudness' : by;

const plus = (level: number | null, gainDb: number): number | null =>
  level === null ? null : level + gainDb;

const reached = (sound: SoundMeasure, gainDb: number, rules: MatchRules): MatchedSound => ({
  gainDb,
  reachedLufs: loudnessAt(sound, loudnessOf(rules), gainDb),
  reachedPeakDbfs: plus(sound.peakDbfs, gainDb),
  reachedTruePeakDbtp: plus(sound.truePeakDbtp, gainDb),
});

/** A track whose pieces have gains of their own: its peaks are the highest of theirs; of its loudness nothing is said. */
function ofPieces(t: MatchTrack, pieces: readonly MatchedSound[], rules: MatchRules): MatchedSound {
  const [first] = pieces;
  if (!first) return reached(t.whole, 0, rules);
  if (pieces.every((p) => p.gainDb === first.gainDb)) return reached(t.whole, first.gainDb, rules);
  const highest = (of: (p: MatchedSound) => number | null): number | null => {
    const known = pieces.map(of).filter((x) => x !== null);
    return known.length === 0 ? null : Math.max(...known);
  };
  return {
    gainDb: first.gainDb,
    reachedLufs: null,
    reachedPeakDbfs: highest((p) => p.reachedPeakDbfs),
    reachedTruePeakDbtp: highest((p) => p.reachedTruePeakDbtp),
  };
}
