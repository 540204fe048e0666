import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { CheckpointView, HistoryView, ReturnView } from '@/contracts';
import { difference, type Edit, type LogEntry, type SessionState, summarizeEdits } from '@/core/session';
import { CheckpointModel, db, EditModel, HandoverModel, isUuid, loadSession, SessionModel } from '../db';
import { RequestFault } from '../http';
import { applyToSession } from './editing';
import { mustBeKept } from './must-be-kept';
import { pastState } from './past';

const MOST_SHOWN = 2000;

const toView = (c: CheckpointModel): CheckpointView => ({
  id: c.id,
  name: c.name,
  revision: c.revision,
  at: c.createdAt.toISOString(),
});

/** All steps of a session, newest first, and its checkpoints. */
export async function viewHistory(sessionId: string): Promise<HistoryView> {
  db();
  if (!isUuid(sessionId) || !(await SessionModel.findByPk(sessionId, { attributes: ['id'] })))
    throw new RequestFault({ code: 'session.not_found' });
  const [rows, checkpoints, handovers] = await Promise.all([
    EditModel.findAll({
      where: { sessionId },
      order: [['revision', 'DESC']],
      limit: MOST_SHOWN,
      attributes: ['revision', 'label', 'author', 'action', 'madeAt', 'undoable'],
    }),
    CheckpointModel.findAll({
      where: { sessionId },
      order: [
        ['revision', 'DESC'],
        ['createdAt', 'DESC'],
      ],
    }),
    HandoverModel.findAll({
      where: { sessionId, state: ['done', 'removed'] },
      attributes: ['number', 'revision'],
    }),
  ]);
  return {
    steps: rows.map((r) => ({
      revision: r.revision,
      label: r.label,
      author: r.author as HistoryView['steps'][number]['author'],
      action: r.action as LogEntry['action'],
      at: r.madeAt.toISOString(),
      arrival: !r.undoable,
      handovers: handovers.filter((h) => h.revision === r.revision).map((h) => h.number),
    })),
    checkpoints: checkpoints.map(toView),
  };
}

/** Names the present state of a session; returns the checkpoint's id. */
export async function makeCheckpoint(sessionId: string, name: string): Promise<string> {
  return db().transaction(async (transaction) => {
    const head = isUuid(sessionId)
      ? await SessionModel.findByPk(sessionId, { transaction, lock: transaction.LOCK.UPDATE })
      : null;
    if (!head) throw new RequestFault({ code: 'session.not_found' });
    const id = randomUUID();
    await CheckpointModel.create({ id, sessionId, name, revision: head.revision }, { transaction });
    return id;
  });
}

/** Takes a name away again; the state stays in the history. */
export async function removeCheckpoint(id: string): Promise<void> {
  db();
  if (!isUuid(id) || (await CheckpointModel.destroy({ where: { id } })) === 0)
    throw new RequestFault({ code: 'request.not_found' });
}

/** What going back to a revision would do; 0 = as received. */
export async function previewReturn(sessionId: string, revision: number): Promise<ReturnView> {
  return db().transaction(async (transaction) => {
    const { from, edits, at } = await wayBack(sessionId, revision, transaction);
    return { revision: at, steps: edits.length, summary: summarizeEdits(from, edits) };
  });
}

/** Goes back to a revision as one step that can be undone; recordings that arrived since stay. Returns the new revision. */
export async function returnTo(sessionId: string, revision: number, baseRevision: number): Promise<number> {
  return db().transaction(async (transaction) => {
    const { edits, at } = await wayBack(sessionId, revision, transaction);
    await mustBeKept(sessionId, transaction);
    if (edits.length === 0) return at;
    const named = await CheckpointModel.findOne({
      where: { sessionId, revision },
      order: [['createdAt', 'DESC']],
      transaction,
    });
    const label =
      revision === 0 ? 'Back to as received' : `Back to ${named ? `“${named.name}”` : `step ${revision}`}`;
    return applyToSession(sessionId, edits, { label, author: 'person' }, { baseRevision, transaction });
  });
}

async function wayBack(
  sessionId: string,
  revision: number,
  transaction: Transaction,
): Promise<{ readonly from: SessionState; readonly edits: Edit[]; readonly at: number }> {
  const loaded = await loadSession(sessionId, transaction, true);
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  if (revision > loaded.revision)
    throw new RequestFault({ code: 'request.invalid', issues: ['no such step'] });
  const then = await pastState(sessionId, revision, transaction);
  // What the song is called did not come with the recordings.
  const { name, artist, notes, key } = loaded.session;
  const target = revision === 0 ? { ...then, name, artist, notes, key } : then;
  return { from: loaded.session, edits: difference(loaded.session, target), at: loaded.revision };
}
