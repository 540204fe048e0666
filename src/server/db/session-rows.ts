import { type LOCK, type Model, Transaction } from 'sequelize';
import {
  KINDS,
  type RecordKind,
  recordsIn,
  recordsOf,
  type SessionRecords,
  type SessionState,
  SONG_ID,
  stateOf,
} from '@/core/session';
import { inSnapshot } from './connection';
import { currentTransaction } from './current-transaction';
import { isUuid } from './ids';
import { SessionModel } from './models';
import { columnsOf, fieldsOfKind, recordModel, TABLE_KINDS, type TableKind } from './record-models';

/** Builds the state of a session from its rows, all as of one revision; null when there is no such session. With `lock`, no one else can change it meanwhile. */
export const loadSession = (
  id: string,
  transaction?: Transaction,
  lock = false,
): Promise<{ revision: number; session: SessionState } | null> =>
  !isUuid(id)
    ? Promise.resolve(null)
    : transaction
      ? readSession(id, transaction, lock)
      : inSnapshot(() => readSession(id, undefined, false));

/**
 * How the session's own row is held while the others are read. Every edit takes it first, so that in a transaction which
 * sees what others commit meanwhile nobody edits between two of our statements; a snapshot needs nothing.
 */
function headLock(given: Transaction | undefined, forUpdate: boolean): { readonly lock?: LOCK } {
  const transaction = given ?? currentTransaction();
  if (!transaction) return {};
  if (forUpdate) return { lock: Transaction.LOCK.UPDATE };
  const { isolationLevel } = (transaction as unknown as { options: { isolationLevel?: string } }).options;
  return isolationLevel === Transaction.ISOLATION_LEVELS.REPEATABLE_READ
    ? {}
    : { lock: Transaction.LOCK.SHARE };
}

async function readSession(
  id: string,
  transaction: Transaction | undefined,
  lock: boolean,
): Promise<{ revision: number; session: SessionState } | null> {
  const head = await SessionModel.findByPk(id, { transaction, ...headLock(transaction, lock) });
  if (!head) return null;
  const records: Record<string, Record<string, object>> = {
    song: { [SONG_ID]: { ...valuesOf('song', head), id: SONG_ID } },
  };
  // One after the other: in a transaction they share one connection, which would only queue them.
  for (const kind of TABLE_KINDS) {
    const rows = await recordModel(kind).findAll({
      where: { sessionId: id },
      order: [['id', 'ASC']],
      transaction,
    });
    records[kind] = Object.fromEntries(
      rows.map((row) => {
        const key = row.get('id') as string;
        return [key, { id: key, ...valuesOf(kind, row) }];
      }),
    );
  }
  return { revision: head.revision, session: stateOf(records as unknown as SessionRecords) };
}

/** The fields of a record as its row has them. Throws if a value that lies there as a whole is not what its kind says. */
function valuesOf(kind: RecordKind, row: Model): Readonly<Record<string, unknown>> {
  return Object.fromEntries(
    fieldsOfKind(kind).map(([name, { column, schema }]) => {
      const value: unknown = row.get(name);
      if (value === null) return [name, null];
      if (column === 'bigint') return [name, Number(value)];
      if (column === 'json' && !schema.isValidSync(value, { strict: true }))
        throw new Error(`${KINDS[kind].table}: ${name} of ${String(row.get('id'))} cannot be read`);
      return [name, value];
    }),
  );
}

/** Writes what differs between two states of a session, and its new revision. */
export async function saveSession(
  id: string,
  before: SessionState,
  after: SessionState,
  revision: number,
  transaction: Transaction,
): Promise<void> {
  const [were, are] = [recordsOf(before), recordsOf(after)];
  const { id: _song, ...song } = are.song[SONG_ID] as SessionRecords['song'][string];
  await SessionModel.update({ ...song, revision, updatedAt: new Date() }, { where: { id }, transaction });
  // What refers to other records is looked at when the transaction ends.
  for (const kind of TABLE_KINDS)
    if (were[kind] !== are[kind]) await saveKind(id, kind, were, are, transaction);
}

async function saveKind(
  sessionId: string,
  kind: TableKind,
  before: SessionRecords,
  after: SessionRecords,
  transaction: Transaction,
): Promise<void> {
  const model = recordModel(kind);
  const gone = Object.keys(before[kind]).filter((id) => !after[kind][id]);
  if (gone.length > 0) await model.destroy({ where: { sessionId, id: gone }, transaction });
  const changed = recordsIn(after, kind).filter((r) => before[kind][r.id] !== r);
  if (changed.length === 0) return;
  await model.bulkCreate(
    changed.map((r) => ({ sessionId, ...r })),
    { transaction, updateOnDuplicate: Object.keys(columnsOf(kind)) },
  );
}
