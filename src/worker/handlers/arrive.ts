import { createHash } from 'node:crypto';
import { readFile, rename, rm } from 'node:fs/promises';
import { Op, type Transaction } from 'sequelize';
import type { Fault } from '@/contracts';
import { NO_METADATA, type SoundMetadata, tempoClaim } from '@/core/audio';
import { isOtherFileName, isTextFileName } from '@/core/naming';
import { type Change, indexBefore, majorityRate, MOST_NOTES, ROOT, type SessionState } from '@/core/session';
import { newTrack } from '@/core/style';
import { MOST_MIDI_BYTES, noteFacts, readMidiSong } from '@/core/time';
import { Cancelled } from '@/core/units';
import {
  kindOfFile,
  type OpenedSound,
  openSound,
  pieceName,
  runTask,
  type SoundPiece,
  type TaskMap,
  unpackArchive,
} from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, HandoverModel, isDatabaseAway, loadSession, RecordingModel, uuidOf } from '@/server/db';
import { enqueue, type JobContext, type JobHandler, type JobPayload } from '@/server/jobs';
import {
  applyToSession,
  archiveRoom,
  enqueueConversions,
  keepingBlobs,
  keepOriginal,
  lookOf,
  rateWasChosen,
  receiveInto,
  receivedName,
  styleOf,
  uploadPath,
} from '@/server/services';
import { blobStore, readRange, temporaryPath } from '@/server/storage';

type Inspected = Extract<TaskMap['inspect']['output'], { ok: true }>['value'];
type Outcome = { readonly fault?: Fault };

type Arrival = JobPayload<'recording.arrive'>;

/** Archives inside archives: deeper ones are refused. */
const DEEPEST_ARCHIVE = 3;
/** How the progress is shared out. */
const OPENING = 0.3;

/** The arrival pass: what the file is, hash, waveform, levels, loudness; then it is kept as a blob and every mono or stereo sound in it gets a track at the common zero. Archives are taken apart. */
export const arrive: JobHandler<'recording.arrive'> = async (job) => {
  const arrival = job.payload;
  const row = await RecordingModel.findByPk(arrival.recordingId);
  if (!row || row.state === 'ready') {
    // An earlier life of this job had done all but this, or nobody waits for the file any more.
    await release(arrival);
    return {};
  }
  await RecordingModel.update({ state: 'arriving', fault: null }, { where: { id: row.id } });
  try {
    if (arrival.inPlace && (await lookOf(arrival.path)) === null)
      return await failed(row, { code: 'file.missing', path: arrival.path });
    if (isOtherFileName(row.receivedName) && !(await beginsAsSound(arrival.path))) {
      await failed(row, { code: 'file.no_recording', ...(await textIn(row, arrival)) });
      await release(arrival);
      return {};
    }
    const kind = await kindOfFile(arrival.path);
    const outcome =
      kind === 'zip'
        ? await unpack(row, arrival, job)
        : kind === 'midi'
          ? await receiveNotes(row, arrival)
          : await receive(row, arrival, job);
    if (outcome.fault) await failed(row, outcome.fault);
    if (!outcome.fault || !isWorthTryingAgain(outcome.fault)) await release(arrival);
    return outcome;
  } catch (cause) {
    // Nothing is wrong with the file: the job is done again.
    if (isDatabaseAway(cause)) throw cause;
    const code =
      cause instanceof Cancelled
        ? 'job.cancelled'
        : (cause as NodeJS.ErrnoException).code === 'ENOSPC'
          ? 'store.disk_full'
          : 'file.unreadable';
    await failed(row, { code });
    throw cause;
  }
};

/** Files of sound under a wrong name begin so (RFC 9639, RIFF, IFF, RFC 3533). */
const SOUND_SIGNS: ReadonlySet<string> = new Set(['RIFF', 'RF64', 'FORM', 'fLaC', 'OggS', 'caff']);

const beginsAsSound = async (path: string): Promise<boolean> =>
  SOUND_SIGNS.has(Buffer.from(await readRange(path, 0, 4)).toString('latin1'));

/** Longer ones are no letter. */
const MOST_TEXT_BYTES = 64 * 1024;

/** What a text beside the recordings says, to be offered as the session's notes; nothing for others. */
async function textIn(row: RecordingModel, { path }: Arrival): Promise<{ readonly text?: string }> {
  if (!isTextFileName(row.receivedName) || Number(row.sizeBytes) > MOST_TEXT_BYTES) return {};
  const bytes = await readRange(path, 0, MOST_TEXT_BYTES);
  const text = decodeText(bytes).trim().slice(0, MOST_NOTES);
  return text === '' ? {} : { text };
}

/** UTF-8, else the old European encoding; control characters but line ends gone. */
function decodeText(bytes: Uint8Array): string {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    text = new TextDecoder('windows-1252').decode(bytes);
  }
  return text
    .normalize('NFC')
    .replace(/\r\n?/g, '\n')
    .replace(/[^\P{C}\n\t]/gu, '');
}

/** The received copy of a file is not needed any more; a file used in place is never touched. */
const release = async ({ path, inPlace = false }: Arrival): Promise<void> =>
  inPlace ? undefined : rm(path, { force: true });

async function failed(row: RecordingModel, fault: Fault): Promise<Outcome> {
  await RecordingModel.update({ state: 'failed', fault }, { where: { id: row.id } });
  return { fault };
}

/** Faults that lie outside the file: its bytes are kept for another try. */
const isWorthTryingAgain = (fault: Fault): boolean =>
  fault.code === 'decoder.missing' || fault.code === 'store.no_room';

interface Found {
  readonly piece: SoundPiece;
  readonly value: Inspected;
}

async function receive(
  row: RecordingModel,
  { path, inPlace = false }: Arrival,
  { progress, cancel }: JobContext,
): Promise<Outcome> {
  const store = blobStore();
  const look = inPlace ? await lookOf(path) : null;
  const { threadPath } = readConfig();
  const opened = await openSound(path, {
    temporaryPath,
    threadPath,
    split: true,
    cancel,
    progress: (share) => progress(OPENING * share),
  });
  if (!opened.ok) return { fault: opened.error };
  const { pieces, made } = opened.value;
  try {
    const found: Found[] = [];
    const base = made.length > 0 ? OPENING : 0;
    for (const [i, piece] of pieces.entries()) {
      const inspected = await runTask(
        'inspect',
        { path: piece.path, truePeak: false, listen: false },
        {
          threadPath,
          cancel,
          progress: (share) => progress(base + ((1 - base) * (i + share)) / pieces.length),
        },
      );
      if (!inspected.ok) return { fault: inspected.error };
      found.push({ piece, value: inspected.value });
    }
    const originalSha256 = made.length > 0 ? await runTask('hash', { path }, { threadPath, cancel }) : null;
    const now = inPlace ? await lookOf(path) : null;
    if (look && (now?.sizeBytes !== look.sizeBytes || now.modifiedMs !== look.modifiedMs))
      return { fault: { code: 'file.changed', path } };
    const ours = (at: string): boolean => !inPlace || at !== path;
    await keepingBlobs(async (transaction) => {
      if (originalSha256 && !inPlace) await store.adopt(path, originalSha256);
      for (const { piece, value } of found) if (ours(piece.path)) await store.adopt(piece.path, value.sha256);
      await record(row, opened.value, found, originalSha256, transaction);
      const left = originalSha256 ?? found.find(({ piece }) => !ours(piece.path))?.value.sha256;
      if (look && left) await keepOriginal(left, path, look, transaction);
    });
    return {};
  } finally {
    await Promise.all(made.map((p) => rm(p, { force: true })));
  }
}

/** Index among the session's rows for what came of a file: tracks stand in the order of the recordings, not in that in which reading them ended. */
async function placeOfTracks(row: RecordingModel, session: SessionState, transaction: Transaction) {
  const later = await RecordingModel.findAll({
    attributes: ['id'],
    where: {
      sessionId: row.sessionId,
      [Op.or]: [
        { createdAt: { [Op.gt]: row.createdAt } },
        { createdAt: row.createdAt, receivedName: { [Op.gt]: row.receivedName } },
      ],
    },
    transaction,
  });
  return indexBefore(session.children[ROOT] ?? [], new Set(later.map((r) => r.id)));
}

/** Every sound of a file becomes a recording with a track; the first of them is the row that waited for it. */
async function record(
  row: RecordingModel,
  opened: OpenedSound,
  found: readonly Found[],
  originalSha256: string | null,
  transaction: Transaction,
): Promise<void> {
  const loaded = await loadSession(row.sessionId, transaction, true);
  if (!loaded) return;
  if (originalSha256)
    await BlobModel.bulkCreate([{ sha256: originalSha256, sizeBytes: row.sizeBytes }], {
      ignoreDuplicates: true,
      transaction,
    });
  const style = await styleOf(loaded.session, transaction);
  const place = await placeOfTracks(row, loaded.session, transaction);
  const edits: Change[] = [];
  const listening: [id: string, name: string][] = [];
  for (const [i, { piece, value }] of found.entries()) {
    const { header, facts, sha256, peaks, sizeBytes } = value;
    const peaksSha256 = await blobStore().put(peaks);
    await BlobModel.bulkCreate(
      [
        { sha256, sizeBytes },
        { sha256: peaksSha256, sizeBytes: peaks.length },
      ],
      { ignoreDuplicates: true, transaction },
    );
    const name = receivedName(pieceName(row.receivedName, piece));
    const fields = {
      receivedName: name,
      state: 'ready',
      fault: null,
      sha256,
      peaksSha256,
      originalSha256,
      container: opened.container,
      codec: opened.codec,
      lossy: opened.lossy,
      channelIndex: piece.channel?.index ?? null,
      fileName: piece.channel ? row.receivedName : null,
      metadata: opened.metadata,
      sampleRateHz: header.sampleRateHz,
      channels: header.channels,
      encoding: header.encoding,
      bitDepth: header.bitDepth,
      lengthFrames: header.lengthFrames,
      header: {
        ...header,
        warnings: [
          ...header.warnings,
          ...(opened.complaint === null ? [] : [{ code: 'sound.damaged', reason: opened.complaint }]),
        ],
      },
      facts,
    };
    const id = i === 0 ? row.id : pieceId(row.id, i);
    if (i === 0) await RecordingModel.update(fields, { where: { id }, transaction });
    else
      await RecordingModel.create(
        { id, sessionId: row.sessionId, sizeBytes, createdAt: row.createdAt, ...fields },
        { transaction },
      );
    edits.push({
      kind: 'track.add',
      track: newTrack(id, name, facts, style),
      parentId: ROOT,
      index: place + i,
    });
    listening.push([id, name]);
  }
  const settled =
    loaded.session.map !== null ||
    (await rateWasChosen(row.sessionId, transaction)) ||
    (await HandoverModel.count({ where: { sessionId: row.sessionId }, transaction })) > 0;
  const rate = settled
    ? loaded.session.sampleRateHz
    : await commonRate(row.sessionId, loaded.session.sampleRateHz, transaction);
  if (rate !== null && rate !== loaded.session.sampleRateHz)
    edits.push({ kind: 'session.rate', sampleRateHz: rate });
  await applyToSession(
    row.sessionId,
    edits,
    { label: `Received ${row.receivedName}`, author: 'intake', undoable: false },
    { transaction },
  );
  for (const [recordingId, subject] of listening)
    await enqueue(
      { kind: 'recording.listen', sessionId: row.sessionId, subject, payload: { recordingId } },
      transaction,
    );
  await enqueueConversions(row.sessionId, { ...loaded.session, sampleRateHz: rate }, transaction);
}

/** Markers of a MIDI file are kept as frames of this rate, as those of sound files are. */
const MARKER_HZ = 48_000;

/** A MIDI file: every track of notes in it becomes a row; what it says of tempo, meters and places stays with the file. */
async function receiveNotes(row: RecordingModel, { path, inPlace = false }: Arrival): Promise<Outcome> {
  if (Number(row.sizeBytes) > MOST_MIDI_BYTES) return { fault: { code: 'midi.too_large' } };
  const look = inPlace ? await lookOf(path) : null;
  const bytes = await readFile(path);
  const read = readMidiSong(bytes);
  if (!read.ok) return { fault: { code: 'midi.broken' } };
  const song = read.value;
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const tempo = song.tempos[0];
  const metadata: SoundMetadata = {
    ...NO_METADATA,
    tempoClaims: tempo ? tempoClaim(60e6 / tempo.microsecondsPerQuarter, 'midi') : [],
    markers: song.markers.map((m) => ({
      frame: Math.round(song.toSeconds(m.tick) * MARKER_HZ),
      label: m.text.slice(0, 200),
    })),
  };
  const stem = row.receivedName;
  await keepingBlobs(async (transaction) => {
    if (!inPlace) await blobStore().adopt(path, sha256);
    const loaded = await loadSession(row.sessionId, transaction, true);
    if (!loaded) return;
    await BlobModel.bulkCreate([{ sha256, sizeBytes: bytes.length }], {
      ignoreDuplicates: true,
      transaction,
    });
    const fields = { state: 'ready', fault: null, sha256, container: 'midi', metadata };
    const edits: Change[] = [];
    const style = await styleOf(loaded.session, transaction);
    const place = await placeOfTracks(row, loaded.session, transaction);
    for (const [i, track] of song.tracks.entries()) {
      const id = i === 0 ? row.id : pieceId(row.id, i);
      const name = receivedName(`${stem}/${(track.name || `track ${i + 1}`).replace(/[\\/]/g, '-')}`);
      const notes = noteFacts(song, track);
      const own = { ...fields, receivedName: name, channelIndex: i, notes };
      if (i === 0) await RecordingModel.update(own, { where: { id }, transaction });
      else
        await RecordingModel.create(
          {
            id,
            sessionId: row.sessionId,
            sizeBytes: bytes.length,
            sourcePath: row.sourcePath,
            createdAt: row.createdAt,
            ...own,
          },
          { transaction },
        );
      edits.push({
        kind: 'track.add',
        track: newTrack(id, name, { tiedTo: notes.tempoSaid ? 'time' : 'bars' }, style),
        parentId: ROOT,
        index: place + i,
      });
    }
    // Only tempo, meters or markers: there is nothing to put into the session yet.
    if (edits.length === 0) await RecordingModel.update(fields, { where: { id: row.id }, transaction });
    else
      await applyToSession(
        row.sessionId,
        edits,
        { label: `Received ${row.receivedName}`, author: 'intake', undoable: false },
        { transaction },
      );
    if (look) await keepOriginal(sha256, path, look, transaction);
  });
  return {};
}

/** Of the file it comes out of, and its number there. */
const pieceId = (parentId: string, index: number): string => uuidOf(`${parentId}/${index}`);

/** An archive gives way to the files in it; damaged ones are listed as such. */
async function unpack(
  row: RecordingModel,
  { path, depth = 0 }: Arrival,
  { progress, cancel }: JobContext,
): Promise<Outcome> {
  if (depth >= DEEPEST_ARCHIVE)
    return { fault: { code: 'archive.too_much', reason: `it lies ${depth} archives deep` } };
  const unpacked = await unpackArchive(path, temporaryPath, await archiveRoom(row.sessionId), {
    cancel,
    progress,
  });
  if (!unpacked.ok) return { fault: unpacked.error };
  const { files, broken } = unpacked.value;
  const folder = row.receivedName.replace(/\.zip$/i, '');
  const named = (name: string): string => receivedName(`${folder}/${name}`);
  const placed = files.map((file, i) => ({
    ...file,
    id: pieceId(row.id, i),
    target: uploadPath(pieceId(row.id, i)),
  }));
  for (const file of placed) await rename(file.path, file.target);
  await keepingBlobs(async (transaction) => {
    for (const file of placed)
      await receiveInto(
        {
          sessionId: row.sessionId,
          name: named(file.name),
          path: file.target,
          sizeBytes: file.sizeBytes,
          id: file.id,
          depth: depth + 1,
        },
        transaction,
      );
    for (const [i, name] of broken.entries())
      await RecordingModel.create(
        {
          id: pieceId(row.id, files.length + i),
          sessionId: row.sessionId,
          receivedName: named(name),
          sizeBytes: 0,
          state: 'failed',
          fault: { code: 'archive.broken', entry: name } as object,
        },
        { transaction },
      );
    await RecordingModel.destroy({ where: { id: row.id }, transaction });
  });
  return {};
}

/** The rate most of a session's recordings have. */
async function commonRate(
  sessionId: string,
  current: number | null,
  transaction: Transaction,
): Promise<number | null> {
  const rows = await RecordingModel.findAll({
    where: { sessionId, state: 'ready' },
    attributes: ['sampleRateHz'],
    transaction,
  });
  return majorityRate(
    rows.flatMap((r) => r.sampleRateHz ?? []),
    current,
  );
}
