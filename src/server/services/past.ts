import { Op, type Transaction } from 'sequelize';
import {
  type Edit,
  recordsOf,
  recordsWrittenAs,
  type SessionState,
  stateAt,
  stateOf,
  type StateThen,
} from '@/core/session';
import { EditModel, SnapshotModel } from '../db';

/** Steps from one snapshot to the next. */
const STEPS_BETWEEN = 200;

/** Keeps the state of a revision, so that going back there is quick; of most it is not needed. */
export async function keepSnapshot(
  sessionId: string,
  revision: number,
  session: SessionState,
  transaction: Transaction,
): Promise<void> {
  if (revision % STEPS_BETWEEN !== 0) return;
  await SnapshotModel.create({ sessionId, revision, records: recordsOf(session) }, { transaction });
}

/** A session as it was at a revision; what arrived later is there as well, as it came. Revision 0 = as received. */
export async function pastState(
  sessionId: string,
  revision: number,
  transaction?: Transaction,
): Promise<SessionState> {
  const from = await snapshotBefore(sessionId, revision, transaction);
  const lines = await EditModel.findAll({
    where: {
      sessionId,
      revision: { [Op.gt]: from?.revision ?? 0 },
      // What people did later does not count.
      [Op.or]: [{ revision: { [Op.lte]: revision } }, { undoable: false }],
    },
    order: [['revision', 'ASC']],
    attributes: ['revision', 'undoable', 'edits'],
    transaction,
  });
  const log = lines.map((e) => ({ revision: e.revision, undoable: e.undoable, edits: e.edits as Edit[] }));
  return stateAt(log, revision, from ?? undefined);
}

async function snapshotBefore(
  sessionId: string,
  revision: number,
  transaction: Transaction | undefined,
): Promise<StateThen | null> {
  const kept = await SnapshotModel.findOne({
    where: { sessionId, revision: { [Op.lte]: revision } },
    order: [['revision', 'DESC']],
    transaction,
  });
  if (!kept) return null;
  const written = kept.records as Parameters<typeof recordsWrittenAs>[0];
  return { revision: kept.revision, session: stateOf(recordsWrittenAs(written)) };
}
