import type { Fault } from '@/contracts';
import { readNames } from '@/core/naming';
import { passingRate, soundTracks } from '@/core/session';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession, RecordingModel } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { blobStore } from '@/server/storage';

const fail = (fault: Fault): { fault: Fault } => ({ fault });

/** Finds the tempo over a session's tracks from their onset curves; the reading becomes the job's result. */
export const detect: JobHandler = async ({ payload, progress, cancel }) => {
  const { sessionId, timekeepers } = payload as { sessionId: string; timekeepers: readonly string[] | null };
  const loaded = await loadSession(sessionId);
  if (!loaded) return fail({ code: 'session.not_found' });
  const recordings = new Map((await RecordingModel.findAll({ where: { sessionId } })).map((r) => [r.id, r]));
  const store = blobStore();
  const tracks = soundTracks(loaded.session);
  const names = readNames(tracks.map((t) => t.receivedName), loaded.session.words);
  const heard = tracks.flatMap((track, i) => {
    const recording = recordings.get(track.recordingId);
    const onsets = recording?.onsetsSha256;
    // A track nobody has sorted yet still says by its name what it probably is.
    const kind = track.family === 'unknown' ? (names[i] as (typeof names)[number]) : track;
    return onsets ? [{ id: track.id, family: kind.family, part: kind.part, onsetsPath: store.pathOf(onsets), startSeconds: track.startFrames / (loaded.session.sampleRateHz ?? 48_000), speed: recording?.sampleRateHz ? passingRate(track, recording.sampleRateHz, loaded.session.sampleRateHz) / recording.sampleRateHz : 1 }] : [];
  });
  if (heard.length < tracks.length) return fail({ code: 'tempo.not_analysed', missing: tracks.length - heard.length });
  const found = await runTask('detect', { tracks: heard, timekeepers }, { threadPath: readConfig().threadPath, progress, cancel });
  return found.ok ? { result: found.value } : fail({ ...found.error });
};
