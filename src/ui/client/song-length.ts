import type { RecordingView } from '@/contracts';
import { tracksInOrder, type SessionState } from '@/core/session';

/** End of the last track, seconds; 0 while nothing has arrived. */
export function songSeconds(session: SessionState, recordings: readonly RecordingView[]): number {
  const rate = session.sampleRateHz;
  if (rate === null) return 0;
  const frames = new Map(recordings.map((r) => [r.id, r.sessionFrames]));
  return (
    Math.max(0, ...tracksInOrder(session).map((t) => t.startFrames + (frames.get(t.recordingId) ?? 0))) / rate
  );
}
