import { type SessionState, soundTracks, type Track } from '../session';
import { roundTo } from '../units';
import { withoutGains } from './measured-key';

const [LEAST_DB, MOST_DB] = [-120, 24];

/** Gain that all pieces of a track that sound have in common, dB; 0 where they differ. */
export function sharedGainDb({ clips }: Pick<Track, 'clips'>): number {
  const sounding = clips.filter((c) => !c.off);
  const shared = sounding[0]?.gainDb ?? 0;
  return sounding.every((c) => c.gainDb === shared) ? shared : 0;
}

/** Gain of the pieces of a track, dB: the one they share, else their mean. */
export function pieceGainDb(track: Pick<Track, 'clips'>): number {
  const sounding = track.clips.filter((c) => !c.off);
  const isOne = sounding.every((c) => c.gainDb === sounding[0]?.gainDb);
  return isOne ? sharedGainDb(track) : sounding.reduce((sum, c) => sum + c.gainDb, 0) / sounding.length;
}

/** The session with the gain all pieces of a track have in common moved to the level of the track: it sounds the same, and its files are as recorded. A track whose pieces differ keeps them. */
export function gainsAsLevels(session: SessionState): SessionState {
  const moved = soundTracks(session).flatMap((t) => asLevel(t) ?? []);
  return moved.length === 0
    ? session
    : { ...session, nodes: { ...session.nodes, ...Object.fromEntries(moved.map((t) => [t.id, t])) } };
}

function asLevel(track: Track): Track | null {
  const shared = sharedGainDb(track);
  const gainDb = roundTo(track.gainDb + shared, 2);
  if (shared === 0 || gainDb < LEAST_DB || gainDb > MOST_DB) return null;
  return { ...withoutGains(track), gainDb };
}
