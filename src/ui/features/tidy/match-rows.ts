import type { MeasuresResult, SessionView } from '@/contracts';
import {
  loudnessAt,
  loudnessOf,
  type MatchedSound,
  matchGains,
  type MatchRules,
  measuredKey,
  recordedTogether,
  sharedGainDb,
} from '@/core/matching';
import { type Change, isTrack, type Track } from '@/core/session';
import type { KnownTrack } from './known-tracks';

type Measured = MeasuresResult['tracks'][number];

/** What a track or a piece reads now, its gain counted. */
export interface LevelNow {
  /** Null where its pieces differ. */
  readonly gainDb: number | null;
  readonly lufs: number | null;
  readonly peakDbfs: number | null;
}

/** A piece and what matching makes of it. */
export interface MatchPiece {
  readonly clipId: string;
  readonly now: LevelNow;
  readonly then: MatchedSound;
}

/** A track at matching. */
export interface MatchRow {
  readonly track: Track;
  /** Tracks of one group keep one gain. */
  readonly group: string | null;
  /** Null: it is not measured as it is cut now. */
  readonly matched: {
    readonly now: LevelNow;
    readonly then: MatchedSound;
    /** Pieces have gains of their own. */
    readonly isUneven: boolean;
    readonly pieces: readonly MatchPiece[];
    /** Whether matching changes anything. */
    readonly changes: boolean;
  } | null;
}

/** All tracks with what they read and what matching would make of them. */
export function matchRows(
  known: readonly KnownTrack[],
  measures: MeasuresResult | null,
  rules: MatchRules,
): MatchRow[] {
  const found = new Map(measures?.tracks.map((t) => [t.trackId, t]));
  const tracks = known.map(({ track }) => track);
  const groups = recordedTogether(
    known.map(({ track, source }) => ({ family: track.family, part: track.part, source })),
  );
  const measured = tracks.map((t) => {
    const own = found.get(t.id);
    return own?.key === measuredKey(t) ? own : null;
  });
  const asked = tracks.flatMap((t, i) => {
    const own = measured[i];
    return own ? [{ ...own, family: t.family, part: t.part, group: groups[i] ?? null, at: i }] : [];
  });
  const matched = new Map(matchGains(asked, rules).map((m, k) => [asked[k]?.at, m]));
  return tracks.map((track, i): MatchRow => {
    const [own, then] = [measured[i], matched.get(i)];
    const group = groups[i] ?? null;
    if (!own || !then) return { track, group, matched: null };
    const gains = new Map(track.clips.map((c) => [c.id, c.gainDb]));
    const pieces = own.pieces.map((p, k): MatchPiece => {
      const gainDb = gains.get(p.clipId) ?? 0;
      return {
        clipId: p.clipId,
        now: { gainDb, ...levelsAt(p, gainDb, rules) },
        then: then.pieces[k] ?? then.whole,
      };
    });
    return {
      track,
      group,
      matched: {
        now: nowOf(track, own, pieces, rules),
        then: then.whole,
        isUneven: new Set(pieces.map((p) => p.then.gainDb)).size > 1,
        pieces,
        changes: pieces.some((p) => p.now.gainDb !== p.then.gainDb),
      },
    };
  });
}

const levelsAt = (
  sound: Measured['whole'],
  gainDb: number,
  rules: MatchRules,
): Pick<LevelNow, 'lufs' | 'peakDbfs'> => ({
  lufs: loudnessAt(sound, loudnessOf(rules), gainDb),
  peakDbfs: sound.peakDbfs === null ? null : sound.peakDbfs + gainDb,
});

function nowOf(track: Track, own: Measured, pieces: readonly MatchPiece[], rules: MatchRules): LevelNow {
  const gains = new Set(pieces.map((p) => p.now.gainDb));
  if (gains.size <= 1) {
    const gainDb = sharedGainDb(track);
    return { gainDb, ...levelsAt(own.whole, gainDb, rules) };
  }
  const peaks = pieces.map((p) => p.now.peakDbfs).filter((x) => x !== null);
  return { gainDb: null, lufs: null, peakDbfs: peaks.length > 0 ? Math.max(...peaks) : null };
}

/** The tracks that keep one gain with those given. */
export function matchedTogether(rows: readonly MatchRow[], trackIds: readonly string[]): string[] {
  const ids = new Set(trackIds);
  const groups = new Set(rows.flatMap((r) => (ids.has(r.track.id) && r.group !== null ? [r.group] : [])));
  return rows
    .filter((r) => ids.has(r.track.id) || (r.group !== null && groups.has(r.group)))
    .map((r) => r.track.id);
}

/** Gains of matching as changes of the session as it is now; a piece that is not there any more is left. */
export const matchChanges =
  (rows: readonly MatchRow[]) =>
  ({ session }: Pick<SessionView, 'session'>): Change[] =>
    rows.flatMap(({ track, matched }): Change[] => {
      const now = session.nodes[track.id];
      if (!matched?.changes || !isTrack(now)) return [];
      const gains = new Map(matched.pieces.map((p) => [p.clipId, p.then.gainDb]));
      return gainChange(now, (clipId) => gains.get(clipId));
    });

/** All gains of pieces back. */
export const unmatched = (tracks: readonly Track[]): Change[] =>
  tracks.flatMap((t) => gainChange(t, () => 0));

function gainChange(track: Track, gainOf: (clipId: string) => number | undefined): Change[] {
  const clips = track.clips.map((c) => ({ ...c, gainDb: gainOf(c.id) ?? c.gainDb }));
  return clips.every((c, i) => c.gainDb === track.clips[i]?.gainDb)
    ? []
    : [{ kind: 'track.cut', id: track.id, clips }];
}
