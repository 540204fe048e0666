import { randomUUID } from 'node:crypto';
import { readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { PackageContents } from '@/contracts';
import { soundingLanes } from '@/core/arrange';
import { asConformed } from '@/core/conform';
import { COVER_NOTE_PATH, handedLanes, packageBytes, planPackage } from '@/core/delivery';
import { type SessionState, soundTracks } from '@/core/session';
import { type HouseStyle, packageFolderName } from '@/core/style';
import { zipFolder } from '@/engine';
import type { Transaction } from 'sequelize';
import { db, HandoverModel, isUuid, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';
import { blobAtRate, viewConform } from './conform';
import { writableFolder } from './folders';
import { packageDir } from './package-dir';
import { enqueueConversions } from './recordings';
import { styleOf } from './styles';
import { mustFit } from './room';

/** What a package is to hold, and an allowed folder to write it to as well. */
export interface HandoverWish {
  readonly contents: PackageContents;
  readonly folder: string | null;
}

/** Starts building the next package of a session; returns its id. */
export async function startHandover(
  sessionId: string,
  { contents, folder: wished }: HandoverWish,
): Promise<string> {
  const folder = wished === null ? null : await writableFolder(wished);
  // A conversion that was cancelled or failed is asked for again; the package waits for it.
  const converting = await db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction);
    return loaded ? enqueueConversions(sessionId, loaded.session, transaction) : 0;
  });
  if (converting > 0) throw new RequestFault({ code: 'delivery.not_ready' });
  return db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction, true);
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    if (soundTracks(loaded.session).length === 0) throw new RequestFault({ code: 'delivery.no_tracks' });
    const pending = await RecordingModel.count({
      where: { sessionId, state: ['waiting', 'arriving'] },
      transaction,
    });
    if (pending > 0) throw new RequestFault({ code: 'delivery.not_ready' });
    const recordings = await RecordingModel.findAll({ where: { sessionId }, transaction });
    const conform = contents !== 'played' ? await viewConform(sessionId, loaded.session, recordings) : null;
    if (contents !== 'played' && (!conform || conform.ready.length < conform.wanted))
      throw new RequestFault({ code: 'conform.not_ready' });
    const style = await styleOf(loaded.session);
    const asPlayed = expectedBytes(loaded.session, recordings, new Map(), style);
    const bytes = conform
      ? expectedBytes(
          asConformed(loaded.session),
          recordings,
          new Map(conform.ready.map((c) => [c.laneId, c.lengthFrames])),
          style,
        ) + (contents === 'both' ? asPlayed : 0)
      : asPlayed;
    await mustFit(bytes);
    if (folder !== null) await mustFit(bytes, folder);
    const number =
      ((await HandoverModel.max<number, HandoverModel>('number', { where: { sessionId }, transaction })) ??
        0) + 1;
    const id = randomUUID();
    const folderName = packageFolderName(loaded.session.artist, loaded.session.name, number);
    const jobId = await enqueue(
      {
        kind: 'package.build',
        sessionId,
        subject: `${loaded.session.name} v${number}`,
        payload: { handoverId: id, contents, folder },
      },
      transaction,
    );
    await HandoverModel.create(
      { id, sessionId, number, state: 'building', jobId, folderName, revision: loaded.revision },
      { transaction },
    );
    return id;
  });
}

/** Bytes the package would take; 0 while it cannot be planned. */
function expectedBytes(
  session: SessionState,
  recordings: readonly RecordingModel[],
  conformed: ReadonlyMap<string, number>,
  style: HouseStyle,
): number {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const sources = soundTracks(session)
    .flatMap((track) => (conformed.size > 0 ? soundingLanes(track) : handedLanes(track, style)))
    .flatMap((lane) => {
      const r = byId.get(lane.recordingId);
      const lengthFrames = conformed.get(lane.id) ?? blobAtRate(r, session.sampleRateHz, lane)?.lengthFrames;
      return r?.channels != null && lengthFrames !== undefined
        ? [{ laneId: lane.id, channels: r.channels, lengthFrames }]
        : [];
    });
  const planned = planPackage(session, sources, style, '');
  return planned.ok ? packageBytes(planned.value) : 0;
}

/** Starts writing a finished package to an allowed folder; returns the job's id. */
export async function startCopy(handoverId: string, wished: string): Promise<string> {
  const row = await finished(handoverId);
  const folder = await writableFolder(wished);
  const target = join(folder, row.folderName);
  if (await stat(target).catch(() => null))
    throw new RequestFault({ code: 'delivery.folder_taken', path: target });
  await mustFit(Number(row.sizeBytes ?? 0), folder);
  return db().transaction((transaction) => enqueueCopy(row, folder, transaction));
}

/** Queues the copy as part of a transaction. */
export const enqueueCopy = (row: HandoverModel, folder: string, transaction: Transaction): Promise<string> =>
  enqueue(
    {
      kind: 'package.copy',
      sessionId: row.sessionId,
      subject: `v${row.number} to ${folder}`,
      payload: { handoverId: row.id, folder },
    },
    transaction,
  );

async function finished(handoverId: string): Promise<HandoverModel> {
  db();
  const row = isUuid(handoverId) ? await HandoverModel.findByPk(handoverId) : null;
  if (row?.state !== 'done') throw new RequestFault({ code: 'request.not_found' });
  return row;
}

/** The cover note of a finished package, HTML of our own making. */
export async function coverNoteOf(handoverId: string): Promise<string> {
  const row = await finished(handoverId);
  return readFile(join(packageDir(row.sessionId, row.id), row.folderName, COVER_NOTE_PATH), 'utf8');
}

/** A finished package as a ZIP stream and the name of the file. */
export async function packageStream(
  handoverId: string,
): Promise<{ readonly stream: NodeJS.ReadableStream; readonly fileName: string }> {
  const row = await finished(handoverId);
  const root = join(packageDir(row.sessionId, row.id), row.folderName);
  return { stream: await zipFolder(root, row.folderName), fileName: `${row.folderName}.zip` };
}
