import { Op, type Transaction } from 'sequelize';
import type { BatchAnswer, CommittedBatch, EditRequest } from '@/contracts';
import { backTo, type Edit, rebase } from '@/core/session';
import { db, EditModel } from '../db';
import { RequestFault } from '../http';
import { commit, mustLoad, stepBack, stepLabels } from './editing';
import { mustBeKept } from './must-be-kept';

/** More steps than these are not told one by one: who was away so long asks for the whole. */
const MOST_TOLD = 200;
/** Characters of edits that are told one by one: about what a small session weighs. */
const MOST_CHARACTERS = 200_000;
/** A batch made before so many steps is not laid over them here, nor if it and they are so many edits (about a second's work, in which nobody else is served): the page that made it does that itself. */
const MOST_LAID_OVER = 1000;
const MOST_EDITS_LAID_OVER = 2000;

/**
 * Does what a page sends, made on `baseRevision`, whatever others did since: it is laid over that
 * (`core/session/rebase.ts`). A batch that came before is done once. Throws `session.conflict` where both changed the
 * same field, with what was done since; a fault of the edit where it does not fit any more.
 */
export async function acceptBatch(sessionId: string, request: EditRequest): Promise<BatchAnswer> {
  db();
  return db().transaction(async (transaction) => {
    const loaded = await mustLoad(sessionId, transaction);
    await mustBeKept(sessionId, transaction);
    const { batchId, baseRevision, label, edits } = request;
    const told = (revision: number): Promise<BatchAnswer> =>
      answerOf(sessionId, baseRevision, revision, transaction);
    if (batchId !== null && (await EditModel.count({ where: { sessionId, batchId }, transaction })) > 0)
      return told(loaded.revision);
    const tooFar = new RequestFault({ code: 'session.stale_revision', revision: loaded.revision, since: [] });
    if (baseRevision > loaded.revision || loaded.revision - baseRevision > MOST_LAID_OVER) throw tooFar;
    let laid = edits;
    if (baseRevision < loaded.revision) {
      const since = await EditModel.findAll({
        where: { sessionId, revision: { [Op.gt]: baseRevision } },
        order: [['revision', 'ASC']],
        attributes: ['inverse'],
        transaction,
      });
      const inverses = since.map((e) => e.inverse as Edit[]);
      if (inverses.reduce((n, i) => n + i.length, edits.length) > MOST_EDITS_LAID_OVER) throw tooFar;
      const base = backTo(loaded.session, inverses);
      const rebased = rebase(edits, base, loaded.session);
      if (!rebased.ok) {
        if (rebased.conflicts.length === 0 && rebased.fault) throw new RequestFault({ ...rebased.fault });
        throw new RequestFault({ code: 'session.conflict', ...(await told(loaded.revision)) });
      }
      laid = rebased.edits;
    }
    if (laid.length === 0) return told(loaded.revision);
    const meta = { label, author: 'person', action: 'do', of: null, batchId } as const;
    return told(await commit(sessionId, loaded, laid, meta, transaction));
  });
}

/** Takes a step back or brings one again; a page that says which revision it knows is told what was done since. */
export async function undoOrRedo(
  sessionId: string,
  action: 'undo' | 'redo',
  known: number | null,
): Promise<BatchAnswer> {
  const revision = await stepBack(sessionId, action);
  if (known === null) return { revision, since: null };
  return { revision, since: await batchesAfter(sessionId, known), ...(await stepLabels(sessionId)) };
}

async function answerOf(
  sessionId: string,
  after: number,
  revision: number,
  transaction: Transaction,
): Promise<BatchAnswer> {
  return { revision, since: await batchesAfter(sessionId, after, transaction) };
}

/** What was done after a revision, oldest first; null = too much to be told one by one. */
export async function batchesAfter(
  sessionId: string,
  revision: number,
  transaction?: Transaction,
): Promise<readonly CommittedBatch[] | null> {
  const rows = await EditModel.findAll({
    where: { sessionId, revision: { [Op.gt]: revision } },
    order: [['revision', 'ASC']],
    attributes: ['revision', 'action', 'undoable', 'label', 'edits', 'batchId'],
    limit: MOST_TOLD + 1,
    transaction,
  });
  if (rows.length > MOST_TOLD) return null;
  const batches = rows.map((r): CommittedBatch => ({
    revision: r.revision,
    batchId: r.batchId ?? null,
    action: r.action as CommittedBatch['action'],
    undoable: r.undoable,
    label: r.label,
    edits: r.edits as Edit[],
  }));
  return JSON.stringify(batches).length > MOST_CHARACTERS ? null : batches;
}
