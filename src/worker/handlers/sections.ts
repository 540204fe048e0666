import type { Fault, SectionsResult } from '@/contracts';
import { letterOf, sectionNames, songLines } from '@/core/sections';
import { createSongMap } from '@/core/time';
import { hashText, roundTo } from '@/core/units';
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
  const played = heard.filter((t) => t.family !== 'reference' && t.family !== 'click');
  const tracks = played.length > 0 ? played : heard;
  const end = Math.max(0, ...tracks.flatMap((t) => t.pieces.map((p) => p.toSeconds)));
  const map = session.map === null ? null : createSongMap(session.map.points, session.map.meters);
  const lines = songLines(map, end);
  const { sections, maybe } = await runTask(
    'sections',
    { tracks: tracks.map(({ family, part, pieces }) => ({ family, part, pieces })), lines: lines.seconds },
    { threadPath: readConfig().threadPath, progress, cancel },
  );
  const names = sectionNames(sections);
  const secondsOf = (bar: number): number => roundTo(lines.seconds[bar] as number, 6);
  const barOf = (bar: number): number | null => (lines.firstBar === null ? null : lines.firstBar + bar);
  const result: SectionsResult = {
    map: session.map === null ? null : hashText(JSON.stringify(session.map)),
    sections: sections.map((s, i) => ({
      name: names[i] as string,
      kind: s.kind,
      kindConfidence: s.kindConfidence,
      like: letterOf(s.group),
      fromSeconds: secondsOf(s.fromBar),
      toSeconds: secondsOf(s.toBar),
      fromBar: barOf(s.fromBar),
      toBar: barOf(s.toBar),
      confidence: s.confidence,
    })),
    maybe: maybe.map(({ bar, confidence }) => ({ seconds: secondsOf(bar), bar: barOf(bar), confidence })),
  };
  return { result };
};
