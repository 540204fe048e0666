import type { MeasuresResult } from '@/contracts';
import { channelsOf, piecesOf } from '@/core/arrange';
import { measuredKey, withoutGains } from '@/core/matching';
import { soundTracks, type Track } from '@/core/session';
import type { CancelSignal } from '@/core/units';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { loadSession, RecordingModel } from '@/server/db';
import { RequestFault } from '@/server/http';
import type { JobHandler } from '@/server/jobs';
import { newestMeasures, playedSounds, type TrackSound } from '@/server/services';
import { withSounds } from '../sound-paths';

/** Tracks measured at once. */
const AT_ONCE = 2;

/** Measures how loud the tracks are as they are cut; what was measured before and is cut alike is taken over. */
export const measureLoudness: JobHandler<'loudness.measure'> = async ({ payload, progress, cancel }) => {
  const { sessionId } = payload;
  const loaded = await loadSession(sessionId);
  if (!loaded) return { fault: { code: 'session.not_found' } };
  const { session } = loaded;
  const recordings = await RecordingModel.findAll({ where: { sessionId } });
  const sounds = new Map(playedSounds(session, recordings).map((s) => [s.laneId, s]));
  const known = new Map((await newestMeasures(sessionId))?.tracks.map((t) => [t.key, t]));
  const tracks = soundTracks(session);
  const open = tracks.filter((t) => !known.has(measuredKey(t)));
  const made = new Map<string, MeasuresResult['tracks'][number]>();
  const rateHz = session.sampleRateHz ?? 48_000;
  try {
    await withSounds(
      open.flatMap((t) => soundsOf(t, sounds).map((s) => s.sha256)),
      cancel,
      async (pathOf) => {
        const waiting = [...open];
        const one = async (): Promise<void> => {
          for (let track = waiting.shift(); track; track = waiting.shift()) {
            const found = await measured(track, { sounds, pathOf, rateHz, cancel });
            if (found) made.set(track.id, found);
            progress(1 - (waiting.length + 1) / (open.length + 1));
          }
        };
        await Promise.all(Array.from({ length: AT_ONCE }, one));
      },
    );
  } catch (cause) {
    if (cause instanceof RequestFault) return { fault: cause.fault };
    throw cause;
  }
  const result: MeasuresResult = {
    tracks: tracks.flatMap((t) => {
      const old = known.get(measuredKey(t));
      const found = made.get(t.id) ?? (old && { ...old, trackId: t.id });
      return found ? [found] : [];
    }),
  };
  return { result };
};

const soundsOf = (track: Track, sounds: ReadonlyMap<string, TrackSound>): TrackSound[] =>
  [...new Set(track.clips.map((c) => c.laneId))].flatMap((id) => sounds.get(id) ?? []);

async function measured(
  track: Track,
  {
    sounds,
    pathOf,
    rateHz,
    cancel,
  }: {
    readonly sounds: ReadonlyMap<string, TrackSound>;
    readonly pathOf: (sha256: string) => string;
    readonly rateHz: number;
    readonly cancel: CancelSignal;
  },
): Promise<MeasuresResult['tracks'][number] | null> {
  const pieces = piecesOf(withoutGains(track), (lane) => {
    const sound = sounds.get(lane.id);
    return sound && { sound: lane.id, lengthFrames: sound.lengthFrames };
  });
  if (pieces.length === 0) return null;
  const found = await runTask(
    'measure',
    {
      pieces,
      paths: Object.fromEntries(soundsOf(track, sounds).map((s) => [s.laneId, pathOf(s.sha256)])),
      channels: channelsOf(pieces, (id) => sounds.get(id)?.channels ?? 1),
      sampleRateHz: rateHz,
    },
    { threadPath: readConfig().threadPath, cancel },
  );
  return {
    trackId: track.id,
    key: measuredKey(track),
    whole: { ...found.whole },
    pieces: found.pieces.map((p, i) => ({ clipId: pieces[i]?.clipId ?? '', ...p })),
  };
}
