import type { EdgesAnswer, EdgesRequest, SessionView } from '@/contracts';
import type { Change, Lane, SessionState } from '@/core/session';
import { sessionFrame, type SongSpan, trimToSong } from '@/core/tidy';
import { api } from '@/ui/client';

/** How the ends of the song are cut; times in seconds. */
export interface SongEndSettings {
  readonly beforeSeconds: number;
  readonly afterSeconds: number;
  readonly fadeInSeconds: number;
  readonly fadeOutSeconds: number;
}

/** The song in the frames of the session, by the levels: to 20 ms. */
export const songStretch = (session: SessionState, { from, to }: SongSpan) => ({
  fromFrames: sessionFrame(session, from),
  toFrames: sessionFrame(session, to),
});

/** Frame at which the first note begins, to the sample where its sound says so; else as levels `told`. */
export async function firstNote(
  {
    lane,
    lengthFrames,
    rateHz,
  }: { readonly lane: Lane; readonly lengthFrames: number; readonly rateHz: number },
  told: number,
): Promise<number> {
  const from = Math.max(0, told - lane.startFrames);
  const [edges] = await api<EdgesAnswer>('/api/edges', 'POST', {
    files: [
      {
        recordingId: lane.recordingId,
        beforeSeconds: 0,
        kept: [{ from, to: Math.max(from + 1, Math.min(lengthFrames, from + rateHz)), sound: from }],
      },
    ],
  } satisfies EdgesRequest);
  return edges?.[0] ? lane.startFrames + edges[0].from : told;
}

/** Changes that take off all tracks what lies before and after the song. */
export function songEndChanges(
  { session, recordings }: Pick<SessionView, 'session' | 'recordings'>,
  { fromFrames, toFrames }: { readonly fromFrames: number; readonly toFrames: number },
  { beforeSeconds, afterSeconds, fadeInSeconds, fadeOutSeconds }: SongEndSettings,
): Change[] {
  const frames = (seconds: number): number => Math.round(seconds * (session.sampleRateHz ?? 48_000));
  const lengths = new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
  return trimToSong(session, (lane: Lane) => lengths.get(lane.recordingId) ?? 0, {
    stretch: {
      fromFrames: fromFrames - frames(beforeSeconds),
      toFrames: toFrames + frames(afterSeconds),
    },
    // What is wanted does not fade: only what stays before and after it.
    fades: {
      inFrames: Math.min(frames(fadeInSeconds), frames(beforeSeconds)),
      outFrames: Math.min(frames(fadeOutSeconds), frames(afterSeconds)),
    },
  });
}
