import { randomUUID } from 'node:crypto';
import type { Model, Transaction } from 'sequelize';
import { difference, type Edit, emptySession } from '@/core/session';
import {
  ConformFileModel,
  DismissalModel,
  isUuid,
  loadSession,
  RecordingModel,
  RelationModel,
  SessionModel,
} from '../db';
import { RequestFault } from '../http';
import { keepingBlobs } from './blobs';
import { applyToSession } from './editing';

const UUID = /[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/gu;

/**
 * Makes a session of the same recordings in the same state, with a history of its own; the files are shared, not
 * copied, and packages stay with the first. Returns its id.
 */
export async function copySession(sessionId: string): Promise<string> {
  const id = randomUUID();
  await keepingBlobs(async (transaction) => {
    const head = isUuid(sessionId) ? await SessionModel.findByPk(sessionId, { transaction }) : null;
    const loaded = head ? await loadSession(sessionId, transaction, true) : null;
    if (!head || !loaded) throw new RequestFault({ code: 'session.not_found' });
    await SessionModel.create(
      { id, name: '', artist: '', notes: '', key: '', project: head.project, revision: 0 },
      { transaction },
    );
    const mapped = await copyRecordings(sessionId, id, transaction);
    // What was found and made of the recordings holds for them here too.
    for (const model of [RelationModel, DismissalModel, ConformFileModel] as const)
      await copyRows(model, sessionId, (row) => ({ ...(mapped(row) as object), sessionId: id }), transaction);
    const name = await freeName(loaded.session.name, transaction);
    const edits = difference(emptySession(id), { ...loaded.session, name });
    await applyToSession(
      id,
      mapped(edits) as Edit[],
      { label: `Copy of “${loaded.session.name}”`, author: 'person', undoable: false },
      { transaction },
    );
  });
  return id;
}

/** Copies what has arrived; gives what puts the new ids where the old ones stand, in any plain value. */
async function copyRecordings(
  from: string,
  to: string,
  transaction: Transaction,
): Promise<(value: unknown) => unknown> {
  const rows = await RecordingModel.findAll({
    where: { sessionId: from, state: ['ready', 'failed'] },
    order: [['createdAt', 'ASC']],
    transaction,
  });
  const ids = new Map(rows.map((r) => [r.id, randomUUID() as string]));
  const mapped = (value: unknown): unknown =>
    JSON.parse(JSON.stringify(value).replace(UUID, (uuid) => ids.get(uuid) ?? uuid));
  for (const row of rows) {
    const whole = row.get({ plain: true });
    await RecordingModel.create(
      {
        ...whole,
        id: ids.get(row.id) as string,
        sessionId: to,
        madeFrom: mapped(row.madeFrom ?? null) as object | null,
      },
      { transaction },
    );
  }
  return mapped;
}

async function copyRows(
  model: typeof RelationModel | typeof DismissalModel | typeof ConformFileModel,
  sessionId: string,
  changed: (row: unknown) => object,
  transaction: Transaction,
): Promise<void> {
  const rows: readonly Model[] = await (model as typeof RelationModel).findAll({
    where: { sessionId },
    transaction,
  });
  await (model as typeof RelationModel).bulkCreate(
    rows.map((r) => changed(r.get({ plain: true })) as never),
    {
      transaction,
    },
  );
}

const MOST_COPIES = 1000;

/** The name with “copy” and a number that no session has yet. */
async function freeName(name: string, transaction: Transaction): Promise<string> {
  const taken = new Set(
    (await SessionModel.findAll({ attributes: ['name'], transaction })).map((s) => s.name),
  );
  const bare = name.replace(/ \(copy(?: \d+)?\)$/u, '').slice(0, 100);
  for (let n = 1; n < MOST_COPIES; n++) {
    const next = `${bare} (copy${n === 1 ? '' : ` ${n}`})`;
    if (!taken.has(next)) return next;
  }
  return bare;
}
