import { readFile } from 'node:fs/promises';
import type { Fault, TakesResult } from '@/contracts';
import { readSketch } from '@/core/analysis';
import { takeQuestionText, takeReasonText, type TakesOfDelivery, togetherReasonText } from '@/core/takes';
import { runTask, type TakesInputFile } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession } from '@/server/db';
import { RequestFault } from '@/server/http';
import type { JobHandler } from '@/server/jobs';
import { type SoundingTrack, soundingTracks } from '../sounding-tracks';
import { withSounds } from '../sound-paths';

const fail = (fault: Fault): { fault: Fault } => ({ fault });

/** Which tracks of a session are takes of one part, which only look so, and what has to be asked; the job's result. */
export const takesFind: JobHandler<'takes.find'> = async ({ payload, progress, cancel }) => {
  const { sessionId } = payload;
  const loaded = await loadSession(sessionId);
  if (!loaded) return fail({ code: 'session.not_found' });
  const all = await soundingTracks(sessionId, loaded.session);
  const missing = all.filter((t) => t.sketchSha256 === null).length;
  if (missing > 0) return fail({ code: 'tempo.not_analysed', missing });
  // What was packed is settled.
  const tracks = all.filter((t) => !isMix(t) && t.track.otherLanes.length === 0);
  const mix = all.find(isMix) ?? null;
  try {
    const found = await withSounds(
      [...tracks, ...(mix ? [mix] : [])].flatMap((t) => [t.sha256, t.sketchSha256 as string]),
      cancel,
      async (pathOf) =>
        runTask(
          'takes',
          {
            files: await Promise.all(tracks.map((t) => fileOf(t, pathOf))),
            mix: mix && { path: pathOf(mix.sha256), startFrames: mix.startFrames },
          },
          { threadPath: readConfig().threadPath, progress, cancel },
        ),
    );
    return { result: resultOf(found, tracks, mix) };
  } catch (cause) {
    if (cause instanceof RequestFault) return fail(cause.fault);
    throw cause;
  }
};

const isMix = ({ family, part }: SoundingTrack): boolean => family === 'reference' && part === 'mix';

const fileOf = async (t: SoundingTrack, pathOf: (sha256: string) => string): Promise<TakesInputFile> => ({
  name: t.track.receivedName,
  family: t.family,
  part: t.part,
  isSilent: t.isSilentName,
  source: sourceOf(t),
  sketch: readSketch(await readFile(pathOf(t.sketchSha256 as string))),
  path: pathOf(t.sha256),
  startFrames: t.startFrames,
});

const sourceOf = ({
  source: { role, position, side, number, take },
}: SoundingTrack): TakesInputFile['source'] => ({
  role,
  position,
  side,
  number,
  take: take ?? null,
});

function resultOf(
  { takes, together, questions }: TakesOfDelivery,
  tracks: readonly SoundingTrack[],
  mix: SoundingTrack | null,
): TakesResult {
  const idOf = (file: number): string => (tracks[file] as SoundingTrack).track.id;
  return {
    takes: takes.map(({ lanes, wanted, pieces, reason }) => ({
      lanes: lanes.map(({ file, number, confidence }) => ({ trackId: idOf(file), number, confidence })),
      wantedId: wanted === null ? null : idOf(wanted),
      pieces: pieces && pieces.map(({ file, ...at }) => ({ trackId: idOf(file), ...at })),
      reason: takeReasonText(reason),
    })),
    together: together.map(({ files, reason }) => ({
      trackIds: files.map(idOf),
      reason: togetherReasonText(reason),
    })),
    questions: questions.map(({ files, question }) => ({
      trackIds: files.map(idOf),
      question: takeQuestionText(question, files.length),
    })),
    mixTrackId: mix?.track.id ?? null,
  };
}
