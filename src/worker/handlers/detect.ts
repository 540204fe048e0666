import type { Fault } from '@/contracts';
import { acceptedReading } from '@/core/tempo';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { listenedTracks } from '@/server/services';

const fail = (fault: Fault): { fault: Fault } => ({ fault });

/** Finds the tempo over a session's tracks from their onset curves; the reading becomes the job's result. */
export const detect: JobHandler<'tempo.detect'> = async ({ payload, progress, cancel }) => {
  const { sessionId, timekeepers, between } = payload;
  const loaded = await loadSession(sessionId);
  if (!loaded) return fail({ code: 'session.not_found' });
  const { heard, missing } = await listenedTracks(sessionId, loaded.session);
  if (missing > 0) return fail({ code: 'tempo.not_analysed', missing });
  const reading = between && acceptedReading(loaded.session, null);
  if (between && !reading) return fail({ code: 'tempo.no_map' });
  const found = await runTask(
    'detect',
    { tracks: heard, timekeepers, within: between && reading ? { reading, ...between } : null },
    { threadPath: readConfig().threadPath, progress, cancel },
  );
  return found.ok ? { result: found.value } : fail({ ...found.error });
};
