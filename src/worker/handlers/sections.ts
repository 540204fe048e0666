import type { Fault, SectionsResult } from '@/contracts';
import { lineBar, lineSeconds, playedTracks, songLines, toldSections } from '@/core/sections';
import { createSongMap } from '@/core/time';
import { hashText } from '@/core/units';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { listenedTracks } from '@/server/services';

const fail = (fault: Fault): { fault: Fault } => ({ fault });

/** Finds the sections of a song from what was heard of its tracks, on the bar lines of its map; the job's result. */
export const sectionsFind: JobHandler<'sections.find'> = async ({ payload, progress, cancel }) => {
  const { sessionId } = payload;
  const loaded = await loadSession(sessionId);
  if (!loaded) return fail({ code: 'session.not_found' });
  const { session } = loaded;
  const { heard, missing } = await listenedTracks(sessionId, session);
  if (missing > 0) return fail({ code: 'tempo.not_analysed', missing });
  const tracks = playedTracks(heard);
  const end = Math.max(0, ...tracks.flatMap((t) => t.pieces.map((p) => p.toSeconds)));
  const map = session.map === null ? null : createSongMap(session.map.points, session.map.meters);
  const lines = songLines(map, end);
  const found = await runTask(
    'sections',
    { tracks: tracks.map(({ family, part, pieces }) => ({ family, part, pieces })), lines: lines.seconds },
    { threadPath: readConfig().threadPath, progress, cancel },
  );
  const result: SectionsResult = {
    map: session.map === null ? null : hashText(JSON.stringify(session.map)),
    sections: toldSections(found, lines),
    maybe: found.maybe.map(({ bar, confidence }) => ({
      seconds: lineSeconds(lines, bar),
      bar: lineBar(lines, bar),
      confidence,
    })),
  };
  return { result };
};
