import { levelDb, reachesMix, type SessionState, type Track } from '@/core/session';
import type { PlayerTrack } from './player';

/** A track's way to the ear: level with those of its groups, place, polarity, and the one side that is heard where it was made mono. What is only sent is not heard: returns are empty here. */
export const sessionStrip = (
  session: SessionState,
  track: Track,
  channels: number,
): Pick<PlayerTrack, 'id' | 'channels' | 'gainDb' | 'pan' | 'muted' | 'inverted'> => ({
  id: track.id,
  channels: track.monoFrom === null ? channels : 1,
  gainDb: levelDb(session, track),
  pan: track.pan,
  muted: track.muted || !reachesMix(session, track.busId),
  inverted: track.inverted,
});

/** Name of a track's sound for the server, with the side behind it that is heard. */
export const sessionSound = (track: Track, sound: string): string =>
  track.monoFrom === null ? sound : `${sound}/${track.monoFrom}`;
