import { readPeakLevel } from '@/core/analysis';
import type { WavHeader } from '@/core/audio';
import { ConformFileModel, db, isUuid, RecordingModel, SessionModel } from '../db';
import { RequestFault } from '../http';
import { blobStore } from '../storage';

const MAX_PCM_FRAMES = 1 << 20;

async function find(recordingId: string): Promise<RecordingModel> {
  db();
  const row = isUuid(recordingId) ? await RecordingModel.findByPk(recordingId) : null;
  if (!row) throw new RequestFault({ code: 'request.not_found' });
  return row;
}

/** One level of a recording's waveform: u32 frames an entry, then min/max pairs of 16 bit; little-endian. */
export async function readPeaks(recordingId: string, framesPerEntry: number): Promise<Uint8Array> {
  const row = await find(recordingId);
  if (!row.peaksSha256) throw new RequestFault({ code: 'request.not_found' });
  const level = readPeakLevel(await blobStore().get(row.peaksSha256), framesPerEntry);
  const bytes = new Uint8Array(4 + level.minMax.length * 2);
  new DataView(bytes.buffer).setUint32(0, level.framesPerEntry, true);
  bytes.set(new Uint8Array(level.minMax.buffer), 4);
  return bytes;
}

/** Where the sound of a recording at the session's rate lies, and how to decode it. */
interface PcmSource {
  readonly sha256: string;
  readonly dataOffset: number;
  readonly bytesPerFrame: number;
  /** Infinity for a converted copy: its blob ends with its last frame. */
  readonly lengthFrames: number;
  readonly encoding: string;
  readonly channels: number;
}

const KEPT_MS = 3000;
const MOST_KEPT = 4000;
/** A player asks for the same recordings every second or two: the answer is kept for that long. */
const kept = new Map<string, { readonly until: number; readonly source: PcmSource }>();

async function pcmSource(recordingId: string): Promise<PcmSource> {
  const known = kept.get(recordingId);
  if (known && known.until > Date.now()) return known.source;
  const row = await find(recordingId);
  const header = row.header as (WavHeader & { converted?: { dataOffset: number } }) | null;
  if (!header || !row.sha256) throw new RequestFault({ code: 'request.not_found' });
  const session = await SessionModel.findByPk(row.sessionId, { attributes: ['sampleRateHz'] });
  // A copy made for a rate the session has left again does not count.
  const converted = row.convertedSha256 && row.sampleRateHz !== session?.sampleRateHz && row.convertedRateHz === session?.sampleRateHz ? (header.converted ?? null) : null;
  const source: PcmSource = converted
    ? { sha256: row.convertedSha256 as string, dataOffset: converted.dataOffset, bytesPerFrame: 4 * header.channels, lengthFrames: Infinity, encoding: 'f32', channels: header.channels }
    : { sha256: row.sha256, dataOffset: header.dataOffset, bytesPerFrame: header.bytesPerFrame, lengthFrames: header.lengthFrames, encoding: header.encoding, channels: header.channels };
  keep(recordingId, source);
  return source;
}

function keep(id: string, source: PcmSource): void {
  if (kept.size >= MOST_KEPT) kept.clear();
  kept.set(id, { until: Date.now() + KEPT_MS, source });
}

async function conformedSource(key: string): Promise<PcmSource> {
  const known = kept.get(key);
  if (known && known.until > Date.now()) return known.source;
  db();
  const row = /^[0-9a-f]{64}$/.test(key) ? await ConformFileModel.findOne({ where: { key } }) : null;
  if (!row) throw new RequestFault({ code: 'request.not_found' });
  const source: PcmSource = { sha256: row.sha256, dataOffset: row.dataOffset, bytesPerFrame: 4 * row.channels, lengthFrames: Number(row.lengthFrames), encoding: 'f32', channels: row.channels };
  keep(key, source);
  return source;
}

/** Raw frames `[from, from + count)` at the session rate as they lie in the file, with what is needed to decode them. */
export const readPcm = (recordingId: string, from: number, count: number): Promise<PcmFrames> => readFrames(() => pcmSource(recordingId), from, count);

/** The same of a conformed recording, by its key. */
export const readConformedPcm = (key: string, from: number, count: number): Promise<PcmFrames> => readFrames(() => conformedSource(key), from, count);

/** Frames as they lie in a file. */
export interface PcmFrames {
  readonly bytes: Uint8Array;
  readonly encoding: string;
  readonly channels: number;
}

async function readFrames(find: () => Promise<PcmSource>, from: number, count: number): Promise<PcmFrames> {
  if (!(from >= 0 && count > 0 && count <= MAX_PCM_FRAMES)) throw new RequestFault({ code: 'request.invalid', issues: ['frame range'] });
  const { sha256, dataOffset, bytesPerFrame, lengthFrames, encoding, channels } = await find();
  const start = dataOffset + from * bytesPerFrame;
  const end = start + Math.max(0, Math.min(count, lengthFrames - from)) * bytesPerFrame;
  const bytes = await blobStore().getRange(sha256, start, end);
  return { bytes: bytes.subarray(0, bytes.length - (bytes.length % bytesPerFrame)), encoding, channels };
}
