import { readFile } from 'node:fs/promises';
import type { EdgesAnswer, EdgesRequest, NotesView, SoundPiece } from '@/contracts';
import { encodePeakPart, levelsPart, readPeakLevel } from '@/core/analysis';
import {
  littleEncoding,
  type SampleEncoding,
  type SoundHeader,
  soundHead,
  type SoundPart,
  channelOf,
} from '@/core/audio';
import { readMidiSong, songMapFromMidi, songMapToFile } from '@/core/time';
import { runTask } from '@/engine';
import { readConfig } from '../config';
import { ConformFileModel, db, isUuid, RecordingModel, SessionModel } from '../db';
import { RequestFault } from '../http';
import { blobStore, readRange } from '../storage';
import { pathsOf } from './in-place';

async function find(recordingId: string): Promise<RecordingModel> {
  db();
  const row = isUuid(recordingId) ? await RecordingModel.findByPk(recordingId) : null;
  if (!row) throw new RequestFault({ code: 'request.not_found' });
  return row;
}

/** Waveforms of many recordings at one resolution, in the order asked for; one that has none (notes, or not arrived yet) comes empty. See core/analysis for the bytes. */
export async function* readPeaks(
  recordings: readonly string[],
  framesPerEntry: number,
): AsyncGenerator<Uint8Array> {
  for await (const blob of blobsOf(recordings, 'peaksSha256'))
    yield encodePeakPart(blob && readPeakLevel(blob, framesPerEntry));
}

/** Levels of many recordings over time, in the order asked for; one that has none comes empty. */
export async function* readLevels(recordings: readonly string[]): AsyncGenerator<Uint8Array> {
  for await (const blob of blobsOf(recordings, 'levelsSha256')) yield levelsPart(blob);
}

async function* blobsOf(
  recordings: readonly string[],
  field: 'peaksSha256' | 'levelsSha256',
): AsyncGenerator<Uint8Array | null> {
  db();
  const rows = await RecordingModel.findAll({ where: { id: [...recordings] }, attributes: ['id', field] });
  const shas = new Map(rows.map((r) => [r.id, r[field]]));
  for (const id of recordings) {
    const sha256 = shas.get(id);
    yield sha256
      ? await blobStore()
          .get(sha256)
          .catch((): null => null)
      : null;
  }
}

const MOST_NOTES = 20_000;

/** The notes of a row, and what its file says of tempo and places. */
export async function readNotes(recordingId: string): Promise<NotesView> {
  const row = await find(recordingId);
  const path =
    row.container === 'midi' && row.sha256 ? (await pathsOf([row.sha256])).get(row.sha256) : undefined;
  const read = path === undefined ? null : readMidiSong(await readFile(path));
  if (!read?.ok) throw new RequestFault({ code: 'request.not_found' });
  const song = read.value;
  const all = row.notes ? (song.tracks[row.channelIndex ?? 0]?.notes ?? []) : [];
  const bars = (ticks: number): number | null => (song.ppq === null ? null : ticks / song.ppq);
  const map =
    song.tempos.length > 0 && song.ppq !== null ? songMapFromMidi(await readFile(path as string)) : null;
  return {
    notes: all.slice(0, MOST_NOTES).map((n) => {
      const seconds = song.toSeconds(n.tick);
      return {
        seconds,
        lengthSeconds: song.toSeconds(n.tick + n.lengthTicks) - seconds,
        quarters: bars(n.tick),
        lengthQuarters: bars(n.lengthTicks),
        pitch: n.pitch,
        velocity: n.velocity,
      };
    }),
    left: Math.max(0, all.length - MOST_NOTES),
    map: map?.ok ? songMapToFile(map.value) : null,
    tempoChanges: song.tempos.length,
    markers: song.markers.map((m) => ({ seconds: song.toSeconds(m.tick), text: m.text })),
  };
}

/** Where the sound of a recording at the session's rate lies, and how to decode it. */
interface PcmSource {
  /** Null = its file is not there, or not what it was. */
  readonly path: string | null;
  readonly dataOffset: number;
  readonly bytesPerFrame: number;
  /** Infinity for a converted copy: its blob ends with its last frame. */
  readonly lengthFrames: number;
  readonly encoding: SampleEncoding;
  readonly channels: number;
}

const KEPT_MS = 3000;
const MOST_KEPT = 4000;
/** A player asks for the same recordings every second or two: the answer is kept for that long. */
const kept = new Map<string, { readonly until: number; readonly source: PcmSource }>();

function keep(sound: string, source: PcmSource): void {
  if (kept.size >= MOST_KEPT) kept.clear();
  kept.set(sound, { until: Date.now() + KEPT_MS, source });
}

/** Where all these sounds lie; what is not there is missing. */
async function sourcesOf(sounds: readonly string[]): Promise<ReadonlyMap<string, PcmSource>> {
  const found = new Map<string, PcmSource>();
  const fresh: [sound: string, sha256: string, source: Omit<PcmSource, 'path'>][] = [];
  const missing: Record<string, string[]> = { recordings: [], conformed: [] };
  for (const sound of new Set(sounds)) {
    const known = kept.get(sound);
    const [kind, name] = sound.split('/') as [string, string];
    if (known && known.until > Date.now()) found.set(sound, known.source);
    else missing[kind]?.push(name);
  }
  db();
  const recordings = (missing.recordings ?? []).filter(isUuid);
  if (recordings.length > 0) {
    const rows = await RecordingModel.findAll({ where: { id: recordings } });
    const sessions = await SessionModel.findAll({
      where: { id: [...new Set(rows.map((r) => r.sessionId))] },
      attributes: ['id', 'sampleRateHz'],
    });
    for (const row of rows) {
      const source = recordingSource(row, sessions.find((s) => s.id === row.sessionId)?.sampleRateHz ?? null);
      if (source) fresh.push([`recordings/${row.id}`, source.sha256, source]);
    }
  }
  if ((missing.conformed ?? []).length > 0)
    for (const row of await ConformFileModel.findAll({ where: { key: missing.conformed } }))
      fresh.push([
        `conformed/${row.key}`,
        row.sha256,
        {
          dataOffset: row.dataOffset,
          bytesPerFrame: 4 * row.channels,
          lengthFrames: Number(row.lengthFrames),
          encoding: 'f32',
          channels: row.channels,
        },
      ]);
  const paths = await pathsOf(fresh.map(([, sha]) => sha));
  for (const [sound, sha, source] of fresh) {
    const whole = { ...source, path: paths.get(sha) ?? null };
    keep(sound, whole);
    found.set(sound, whole);
  }
  return found;
}

function recordingSource(
  row: RecordingModel,
  rateHz: number | null,
): (Omit<PcmSource, 'path'> & { readonly sha256: string }) | null {
  const header = row.header as (SoundHeader & { converted?: { dataOffset: number } }) | null;
  if (!header || !row.sha256) return null;
  // A copy made for a rate the session has left again does not count.
  const converted =
    row.convertedSha256 && row.sampleRateHz !== rateHz && row.convertedRateHz === rateHz
      ? (header.converted ?? null)
      : null;
  return converted
    ? {
        sha256: row.convertedSha256 as string,
        dataOffset: converted.dataOffset,
        bytesPerFrame: 4 * header.channels,
        lengthFrames: Infinity,
        encoding: 'f32',
        channels: header.channels,
      }
    : {
        sha256: row.sha256,
        dataOffset: header.dataOffset,
        bytesPerFrame: header.bytesPerFrame,
        lengthFrames: header.lengthFrames,
        encoding: header.encoding,
        channels: header.channels,
      };
}

/** Edges of what stays, put to the sample in the sound that is heard: frames at the session's rate. */
export async function refineEdges({ files }: EdgesRequest): Promise<EdgesAnswer> {
  const sounds = await sourcesOf(files.map((f) => `recordings/${f.recordingId}`));
  const asked = files.map(({ recordingId, ...file }) => ({
    ...file,
    path: sounds.get(`recordings/${recordingId}`)?.path ?? null,
  }));
  // One task for all: a thread for each of 300 files would take longer to start than to work.
  const there = asked.filter((f): f is typeof f & { path: string } => f.path !== null);
  const found = await runTask('refineEdges', there, { threadPath: readConfig().threadPath });
  let next = 0;
  return asked.map((f) => (f.path === null ? null : (found[next++] ?? null)));
}

/** A sound's name without the side asked for, and that side. */
function sideOf(sound: string): { readonly whole: string; readonly side: 0 | 1 | null } {
  const [kind, name, side] = sound.split('/');
  return { whole: `${kind}/${name}`, side: side === 'left' ? 0 : side === 'right' ? 1 : null };
}

const NO_SOUND: SoundPart = { bytes: new Uint8Array(0), encoding: 'f32', channels: 0 };
/** Files read at once for one answer. */
const AT_ONCE = 8;

/** Many pieces of sound in one answer, in the order asked for: 64 tracks are one request, not 64. A piece whose sound is gone comes empty. */
export async function* readSound(pieces: readonly SoundPiece[]): AsyncGenerator<Uint8Array> {
  const sources = await sourcesOf(pieces.map((p) => sideOf(p.sound).whole));
  const read = async ({ sound, from, count }: SoundPiece): Promise<SoundPart> => {
    const { whole, side } = sideOf(sound);
    const source = sources.get(whole);
    if (!source?.path) return NO_SOUND;
    const { path, dataOffset, bytesPerFrame, lengthFrames, encoding, channels } = source;
    const start = dataOffset + from * bytesPerFrame;
    const end = start + Math.max(0, Math.min(count, lengthFrames - from)) * bytesPerFrame;
    const bytes = await readRange(path, start, end).catch((): null => null);
    if (!bytes) return NO_SOUND;
    const frames = bytes.subarray(0, bytes.length - (bytes.length % bytesPerFrame));
    return side === null || channels === 1
      ? { bytes: frames, encoding, channels }
      : {
          bytes: channelOf(frames, encoding, channels, side),
          encoding: littleEncoding(encoding),
          channels: 1,
        };
  };
  for (let at = 0; at < pieces.length; at += AT_ONCE)
    for (const part of await Promise.all(pieces.slice(at, at + AT_ONCE).map(read))) {
      yield soundHead(part);
      yield part.bytes;
    }
}
