import type { RecordingView } from '@/contracts';
import { endOf, piecesOf } from '@/core/arrange';
import { tracksInOrder, type SessionState } from '@/core/session';
import { laneSounds } from './track-peaks';

interface Known {
  readonly recordings: readonly RecordingView[];
  readonly seconds: number;
}
const KNOWN = new WeakMap<SessionState, Known>();

/** End of the last sound, seconds; 0 while nothing has arrived. */
export function songSeconds(session: SessionState, recordings: readonly RecordingView[]): number {
  const known = KNOWN.get(session);
  if (known?.recordings === recordings) return known.seconds;
  const seconds = endSeconds(session, recordings);
  KNOWN.set(session, { recordings, seconds });
  return seconds;
}

function endSeconds(session: SessionState, recordings: readonly RecordingView[]): number {
  const rate = session.sampleRateHz;
  if (rate === null) return 0;
  const soundOf = laneSounds(new Map(recordings.map((r) => [r.id, r])));
  const ends = tracksInOrder(session).map((track) => endOf(piecesOf(track, soundOf)));
  return Math.max(0, ...ends) / rate;
}
