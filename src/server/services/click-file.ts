import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import type { ClickRequest } from '@/contracts';
import { levelDb, reachesMix, type SessionState, soundTracks } from '@/core/session';
import { fileNameWord } from '@/core/style';
import { type ClickParts, clickStrokes, createSongMap } from '@/core/time';
import { type GuideTrack, runTask } from '@/engine';
import { readConfig } from '../config';
import { db, isUuid, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { blobStore } from '../storage';
import { blobAtRate } from './conform';
import { pathsOf } from './in-place';

/** The click of a session's map as a file, its guide beside it if wanted. It begins at the common zero, or so much before as the bars counted in need; its name says so. */
export async function makeClickFile(sessionId: string, { sound, parts, bars, level, guide }: ClickRequest): Promise<{ readonly stream: AsyncIterable<Uint8Array>; readonly sizeBytes: number; readonly fileName: string }> {
  db();
  const loaded = isUuid(sessionId) ? await loadSession(sessionId) : null;
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  const { session } = loaded;
  if (!session.map) throw new RequestFault({ code: 'tempo.no_map' });
  const rate = session.sampleRateHz ?? 48_000;
  const recordings = await RecordingModel.findAll({ where: { sessionId } });
  const map = createSongMap(session.map.points, session.map.meters);
  const leadFrames = Math.max(0, Math.ceil(-map.tempo.toSeconds(map.meters.barToQuarters(1 - bars)) * rate - 1e-6));
  const lead = leadFrames / rate;
  const sounding = recordings.map((r) => Number(r.lengthFrames) / (r.sampleRateHz ?? rate));
  const ends = soundTracks(session).map((t) => { const r = recordings.findIndex((x) => x.id === t.recordingId); return t.startFrames / rate + (sounding[r] ?? 0); });
  const end = Math.max(map.tempo.toSeconds(map.meters.barToQuarters(2)), ...ends);
  const tracks = guide === 'none' ? null : await guideTracks(session, recordings, guide, leadFrames);
  if (tracks?.length === 0) throw new RequestFault({ code: 'delivery.not_ready', tracks: [] });
  const path = await blobStore().temporaryPath();
  try {
    await runTask('click', {
      outPath: path, sampleRateHz: rate, lengthFrames: Math.ceil(end * rate) + leadFrames, sound, gainDb: level, guide: tracks,
      strokes: clickStrokes(map, parts as ClickParts, 1 - bars, end).filter((s) => s.seconds + lead >= 0).map((s) => ({ ...s, seconds: s.seconds + lead })),
    }, { threadPath: readConfig().threadPath });
    const { size } = await stat(path);
    return { stream: once(path), sizeBytes: size, fileName: `${fileNameWord(session.name) || 'Song'}_${tracks ? 'Guide-left-click-right' : 'Click'}${leadFrames > 0 ? `_begins-${lead.toFixed(3)}s-early` : ''}.wav` };
  } catch (cause) {
    await rm(path, { force: true });
    throw cause;
  }
}

/** What is heard of the guide: one track as it is, or all that reach the mix. */
async function guideTracks(session: SessionState, recordings: readonly RecordingModel[], guide: string, leadFrames: number): Promise<GuideTrack[]> {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const wanted = soundTracks(session).filter((t) => (guide === 'all' ? !t.muted && reachesMix(session, t.busId) : t.id === guide));
  const found = wanted.flatMap((track) => {
    const recording = byId.get(track.recordingId);
    const blob = blobAtRate(recording, session.sampleRateHz, track);
    return blob ? [{ track, sha256: blob.sha256, channels: recording?.channels ?? 1 }] : [];
  });
  const paths = await pathsOf(found.map((f) => f.sha256));
  return found.flatMap(({ track, sha256, channels }): GuideTrack[] => {
    const path = paths.get(sha256);
    const isOne = track.monoFrom !== null;
    return path === undefined ? [] : [{ path, startFrames: track.startFrames + leadFrames, channels: isOne ? 1 : channels, gainDb: levelDb(session, track), pan: track.pan, inverted: track.inverted, fromChannel: isOne ? (track.monoFrom === 'left' ? 0 : 1) : null }];
  });
}

/** A file that goes when it was read, or when nobody wants the rest. */
async function* once(path: string): AsyncGenerator<Uint8Array> {
  try {
    yield* createReadStream(path) as AsyncIterable<Uint8Array>;
  } finally {
    await rm(path, { force: true });
  }
}
