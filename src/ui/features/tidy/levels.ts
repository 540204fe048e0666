import type { BalanceResult, RecordingView, SessionView } from '@/contracts';
import { loudnessOfSum } from '@/core/balance';
import { pieceGainDb } from '@/core/matching';
import { type Change, levelDb, type SessionState, soundTracks, type Track } from '@/core/session';
import { roundTo } from '@/core/units';

/** Levels that are compared: as they are, none, by role, as the sender's mix has them. */
export const BALANCES = ['now', 'neutral', 'rough', 'mix'] as const;
export type Balance = (typeof BALANCES)[number];

/** Level and pan of a track, level with those of its groups, dB. */
export interface Strip {
  readonly gainDb: number;
  readonly pan: number;
}

/** What a balance has for a track; null = nothing. */
export function stripIn(
  balance: Balance,
  track: Track,
  {
    session,
    result,
  }: { readonly session: Pick<SessionState, 'groups'>; readonly result: BalanceResult | null },
): Strip | null {
  if (balance === 'now') return { gainDb: levelDb(session, track), pan: track.pan };
  if (balance === 'neutral') return { gainDb: levelDb(session, track) - track.gainDb, pan: 0 };
  const found = result?.tracks.find((t) => t.trackId === track.id);
  const strip = (balance === 'rough' ? found?.rough : found?.mix) ?? null;
  // Matched since: what its pieces were turned up by is taken off again.
  return found && strip
    ? { gainDb: strip.gainDb + found.pieceGainDb - pieceGainDb(track), pan: strip.pan }
    : null;
}

const [LEAST_DB, MOST_DB] = [-120, 24];

/** Tracks whose level in the mix could not be told: too little of them is heard, or another microphone of the same says as much. */
export const untold = (result: BalanceResult): Set<string> =>
  new Set(result.tracks.filter((t) => t.mix === null).map((t) => t.trackId));

/** Tracks that sound now and were not there, or muted, when levels were worked out. */
export const cameSince = (session: SessionState, result: BalanceResult): Track[] => {
  const known = new Set(result.tracks.map((t) => t.trackId));
  return soundTracks(session).filter(
    (t) =>
      !known.has(t.id) &&
      !t.muted &&
      t.family !== 'reference' &&
      t.family !== 'click' &&
      t.id !== result.mixTrackId,
  );
};

/** Changes that give the tracks the levels of a balance, and so what was heard of it: what the mix says nothing of is muted with it; what takes no part in balances stays. Buses leave everything as it comes then, but for what is muted. */
export function balanceChanges(
  balance: Balance,
  { session, balance: result }: Pick<SessionView, 'session' | 'balance'>,
): Change[] {
  const silent = balance === 'mix' && result ? untold(result) : null;
  const buses = Object.values(session.buses).flatMap((bus): Change[] =>
    balance === 'now' || (bus.gainDb === 0 && bus.pan === 0)
      ? []
      : [{ kind: 'bus.change', id: bus.id, fields: { gainDb: 0, pan: 0 } }],
  );
  const tracks = soundTracks(session).flatMap((track): Change[] => {
    const strip = stripIn(balance, track, { session, result });
    if (!strip)
      return silent?.has(track.id) && !track.muted
        ? [{ kind: 'track.change', id: track.id, fields: { muted: true } }]
        : [];
    // Levels of groups are added to the track's own.
    const own = strip.gainDb - (levelDb(session, track) - track.gainDb);
    const gainDb = roundTo(Math.max(LEAST_DB, Math.min(MOST_DB, own)), 1);
    const pan = roundTo(strip.pan, 2);
    if (gainDb === track.gainDb && pan === track.pan) return [];
    return [{ kind: 'track.change', id: track.id, fields: { gainDb, pan } }];
  });
  return [...tracks, ...buses];
}

/** How loud tracks are together at the levels of a balance, LUFS, see {@link loudnessOfSum}; null for silence. */
export function loudnessOf(
  tracks: readonly Track[],
  strips: readonly (Strip | null)[],
  recordings: readonly RecordingView[],
): number | null {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  return loudnessOfSum(
    tracks.flatMap((t, i) => {
      const strip = strips[i];
      if (!strip || t.muted) return [];
      const integratedLufs = byId.get(t.recordingId)?.facts?.integratedLufs ?? null;
      return [{ integratedLufs, gainDb: pieceGainDb(t) + strip.gainDb }];
    }),
  );
}
