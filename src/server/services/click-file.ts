import { open, rm } from 'node:fs/promises';
import type { ClickRequest } from '@/contracts';
import { channelsOf, endOf, movedPieces, type Piece, piecesOf, soundingLanes } from '@/core/arrange';
import { asPlayedBack } from '@/core/conform';
import { isHeard, levelDb, type SessionState, soundTracks, type Track, wayToMix } from '@/core/session';
import { fileNameWord } from '@/core/style';
import { type ClickParts, clickStrokes, createSongMap } from '@/core/time';
import { type GuideTrack, runTask } from '@/engine';
import { readConfig } from '../config';
import { db, isUuid, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { temporaryPath } from '../storage';
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
  const session = asPlayedBack(loaded.session);
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
  const ends = soundTracks(session).map((t) => endOf(piecesIn(t, sounds)) / rate);
  const end = Math.max(map.tempo.toSeconds(map.meters.barToQuarters(2)), ...ends);
  const tracks = guide === 'none' ? null : guideTracks(session, sounds, guide, leadFrames);
  // Half of a sum would be taken for all of it.
  if (tracks && isConformed && sounds.length < soundTracks(session).flatMap(soundingLanes).length)
    throw new RequestFault({ code: 'conform.not_ready' });
  if (tracks?.length === 0) throw new RequestFault({ code: 'delivery.not_ready', tracks: [] });
  const path = await temporaryPath();
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
        soundPaths: Object.fromEntries(
          await pathsOf((tracks ?? []).flatMap((t) => t.pieces.map((p) => p.sound))),
        ),
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

/** What sounds of a track, by the hashes of the files. */
const piecesIn = (track: Track, sounds: readonly TrackSound[]): Piece<string>[] =>
  piecesOf(track, ({ id }) => {
    const found = sounds.find((s) => s.laneId === id);
    return found && { sound: found.sha256, lengthFrames: found.lengthFrames };
  });

/** What is heard of the guide: one track as it is, or all that reach the mix. */
function guideTracks(
  session: SessionState,
  sounds: readonly TrackSound[],
  guide: string,
  leadFrames: number,
): GuideTrack[] {
  const wanted = soundTracks(session).filter((t) => (guide === 'all' ? isHeard(session, t) : t.id === guide));
  const channels = new Map(sounds.map((s) => [s.sha256, s.channels]));
  return wanted.flatMap((track): GuideTrack[] => {
    const pieces = piecesIn(track, sounds);
    // One track alone is heard as it is.
    const buses = guide === 'all' ? wayToMix(session, track.busId) : null;
    return pieces.length === 0
      ? []
      : [
          {
            pieces: movedPieces(pieces, leadFrames),
            channels: channelsOf(pieces, (sha256) => channels.get(sha256) ?? 1),
            gainDb: levelDb(session, track),
            pan: track.pan,
            ...(buses ? { buses } : {}),
            // Polarity is that of each piece.
            inverted: false,
          },
        ];
  });
}
