import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { tracksInOrder } from '@/core/session';
import { packageFolderName } from '@/core/style';
import { zipFolder } from '@/engine';
import { readConfig } from '../config';
import { db, HandoverModel, isUuid, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';
import { viewConform } from './conform';
import { enqueueConversions } from './recordings';

/** Folder of a session's packages; ids only, so that no name becomes a path. */
export const packageDir = (sessionId: string, handoverId: string): string => join(readConfig().dataDir, 'packages', sessionId, handoverId);

/** Starts building the next package of a session, of the recordings as played or conformed; returns its id. */
export async function startHandover(sessionId: string, contents: 'played' | 'conformed' = 'played'): Promise<string> {
  // A conversion that was cancelled or failed is asked for again; the package waits for it.
  const converting = await db().transaction(async (transaction) => { const loaded = await loadSession(sessionId, transaction); return loaded ? enqueueConversions(sessionId, loaded.session.sampleRateHz, transaction) : 0; });
  if (converting > 0) throw new RequestFault({ code: 'delivery.not_ready' });
  return db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction, true);
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    if (tracksInOrder(loaded.session).length === 0) throw new RequestFault({ code: 'delivery.no_tracks' });
    const pending = await RecordingModel.count({ where: { sessionId, state: ['waiting', 'arriving'] }, transaction });
    if (pending > 0) throw new RequestFault({ code: 'delivery.not_ready' });
    if (contents === 'conformed') {
      const conform = await viewConform(sessionId, loaded.session, await RecordingModel.findAll({ where: { sessionId }, transaction }));
      if (!conform || conform.ready.length < conform.wanted) throw new RequestFault({ code: 'conform.not_ready' });
    }
    const number = ((await HandoverModel.max<number, HandoverModel>('number', { where: { sessionId }, transaction })) ?? 0) + 1;
    const id = randomUUID();
    const folderName = packageFolderName(loaded.session.artist, loaded.session.name, number);
    const jobId = await enqueue({ kind: 'package.build', sessionId, subject: `${loaded.session.name} v${number}`, payload: { handoverId: id, contents } }, transaction);
    await HandoverModel.create({ id, sessionId, number, state: 'building', jobId, folderName, revision: loaded.revision }, { transaction });
    return id;
  });
}

/** A finished package as a ZIP stream and the name of the file. */
export async function packageStream(handoverId: string): Promise<{ readonly stream: NodeJS.ReadableStream; readonly fileName: string }> {
  db();
  const row = isUuid(handoverId) ? await HandoverModel.findByPk(handoverId) : null;
  if (row?.state !== 'done') throw new RequestFault({ code: 'request.not_found' });
  const root = join(packageDir(row.sessionId, row.id), row.folderName);
  return { stream: await zipFolder(root, row.folderName), fileName: `${row.folderName}.zip` };
}
