import { open, rm } from 'node:fs/promises';
import type { ClickRequest } from '@/contracts';
import { asHeard } from '@/core/conform';
import { levelDb, reachesMix, type SessionState, soundTracks, type Track } from '@/core/session';
import { fileNameWord } from '@/core/style';
import { type ClickParts, clickStrokes, createSongMap } from '@/core/time';
import { type GuideTrack, runTask } from '@/engine';
import { readConfig } from '../config';
import { db, isUuid, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { blobStore } from '../storage';
import { conformedSounds, playedSounds, type TrackSound } from './conform';
import { pathsOf } from './in-place';

/** The click of a session as it is heard (as played or conformed) as a file, its guide beside it if wanted. It begins at the common zero, or so much before as the bars counted in need; its name says so. */
export async function makeClickFile(
  sessionId: string,
  { sound, parts, bars, level, guide }: ClickRequest,
): Promise<{
  readonly stream: AsyncIterable<Uint8Array>;
  readonly sizeBytes: number;
  readonly fileName: string;
}> {
  db();
  const loaded = isUuid(sessionId) ? await loadSession(sessionId) : null;
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  const session = asHeard(loaded.session);
  const isConformed = session !== loaded.session;
  if (!session.map) throw new RequestFault({ code: 'tempo.no_map' });
  const rate = session.sampleRateHz ?? 48_000;
  const recordings = await RecordingModel.findAll({ where: { sessionId } });
  const map = createSongMap(session.map.points, session.map.meters);
  const leadFrames = Math.max(
    0,
    Math.ceil(-map.tempo.toSeconds(map.meters.barToQuarters(1 - bars)) * rate - 1e-6),
  );
  const lead = leadFrames / rate;
  const sounds = isConformed
    ? await conformedSounds(sessionId, loaded.session, recordings)
    : playedSounds(session, recordings);
  const ends = sounds.map((s) => ((session.nodes[s.trackId] as Track).startFrames + s.lengthFrames) / rate);
  const end = Math.max(map.tempo.toSeconds(map.meters.barToQuarters(2)), ...ends);
  const tracks = guide === 'none' ? null : await guideTracks(session, sounds, guide, leadFrames);
  // Half of a sum would be taken for all of it.
  if (tracks && isConformed && sounds.length < soundTracks(session).length)
    throw new RequestFault({ code: 'conform.not_ready' });
  if (tracks?.length === 0) throw new RequestFault({ code: 'delivery.not_ready', tracks: [] });
  const path = await blobStore().temporaryPath();
  try {
    await runTask(
      'click',
      {
        outPath: path,
        sampleRateHz: rate,
        lengthFrames: Math.ceil(end * rate) + leadFrames,
        sound,
        gainDb: level,
        guide: tracks,
        strokes: clickStrokes(map, parts as ClickParts, 1 - bars, end)
          .filter((s) => s.seconds + lead >= 0)
          .map((s) => ({ ...s, seconds: s.seconds + lead })),
      },
      { threadPath: readConfig().threadPath },
    );
    // Gone from the folder at once, and from the disk when it was read or nobody wants the rest.
    const file = await open(path);
    await rm(path);
    const { size } = await file.stat();
    return {
      stream: file.createReadStream() as AsyncIterable<Uint8Array>,
      sizeBytes: size,
      fileName: `${fileNameWord(session.name) || 'Song'}_${tracks ? 'Guide-left-click-right' : 'Click'}${isConformed ? '_conformed' : ''}${leadFrames > 0 ? `_begins-${lead.toFixed(3)}s-early` : ''}.wav`,
    };
  } catch (cause) {
    await rm(path, { force: true });
    throw cause;
  }
}

/** What is heard of the guide: one track as it is, or all that reach the mix. */
async function guideTracks(
  session: SessionState,
  sounds: readonly TrackSound[],
  guide: string,
  leadFrames: number,
): Promise<GuideTrack[]> {
  const wanted = soundTracks(session).filter((t) =>
    guide === 'all' ? !t.muted && reachesMix(session, t.busId) : t.id === guide,
  );
  const found = wanted.flatMap((track) => {
    const sound = sounds.find((s) => s.trackId === track.id);
    return sound ? [{ ...sound, track }] : [];
  });
  const paths = await pathsOf(found.map((f) => f.sha256));
  return found.flatMap(({ track, sha256, channels }): GuideTrack[] => {
    const path = paths.get(sha256);
    const isOne = track.monoFrom !== null;
    return path === undefined
      ? []
      : [
          {
            path,
            startFrames: track.startFrames + leadFrames,
            channels: isOne ? 1 : channels,
            gainDb: levelDb(session, track),
            pan: track.pan,
            inverted: track.inverted,
            fromChannel: isOne ? (track.monoFrom === 'left' ? 0 : 1) : null,
          },
        ];
  });
}
