import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { emptySession } from '@/core/session';
import { FORMER_TABLE_NAMES } from '../records-tables';
import { saveSession } from '../session-rows';
import { formerState } from './former-rows';
import type { FormerEdit } from './former-session';
import type { Reader } from './reader';
import { CarryOver } from './to-records';

/** Number of the lock under which sessions are carried over: of two processes one waits. */
const CARRY_LOCK = 7_061_981;

/** Lines of a log that are held at once. */
const LINES_AT_ONCE = 500;

interface Head {
  readonly id: string;
  readonly name: string;
  readonly artist: string;
  readonly notes: string;
  readonly revision: number;
}

/**
 * Carries sessions of before there were records over: their rows, and every line of their logs, so that what could be
 * undone still can. Each session is one transaction: a kill loses nothing, the next start goes on. Returns how many.
 */
export async function carryOver(sequelize: Sequelize): Promise<number> {
  for (let count = 0; ; count++) {
    const isMore = await sequelize.transaction((transaction) => carryNext(sequelize, transaction));
    if (!isMore) return count;
  }
}

async function carryNext(sequelize: Sequelize, transaction: Transaction): Promise<boolean> {
  const q: Reader = {
    select: (sql, replacements) =>
      sequelize.query(sql, { type: QueryTypes.SELECT, transaction, replacements: { ...replacements } }),
  };
  await sequelize.query('set local statement_timeout = 0; set local lock_timeout = 0', { transaction });
  await q.select(`select pg_advisory_xact_lock(${CARRY_LOCK})`, {});
  const [waiting] = await q.select("select to_regclass('former_sessions') as name", {});
  if (waiting?.name === null) return false;
  const [head] = await q.select(
    'select f.*, s.revision from former_sessions f join sessions s using (id) order by id limit 1',
    {},
  );
  if (!head) {
    await sequelize.query(`drop table ${FORMER_TABLE_NAMES.join(', ')}`, { transaction });
    return false;
  }
  await carrySession(sequelize, q, head as unknown as Head, transaction);
  await sequelize.query('delete from former_sessions where id = :id', {
    transaction,
    replacements: { id: head.id },
  });
  return true;
}

async function carrySession(
  sequelize: Sequelize,
  q: Reader,
  head: Head,
  transaction: Transaction,
): Promise<void> {
  const carrying = new CarryOver(head);
  const write = (sql: string, line: object): Promise<unknown> =>
    sequelize.query(sql, { transaction, replacements: { session: head.id, ...line } });
  const asText = ({ edits, inverse }: { readonly edits: unknown; readonly inverse: unknown }) => ({
    edits: JSON.stringify(edits),
    inverse: JSON.stringify(inverse),
  });
  for (let after = 0; ;) {
    const lines = await q.select(
      `select revision, edits from edits where session_id = :session and revision > :after order by revision limit ${LINES_AT_ONCE}`,
      { session: head.id, after },
    );
    for (const line of lines) {
      const revision = line.revision as number;
      const carried = carrying.carry({ revision, edits: line.edits as FormerEdit[] });
      await write(
        'update edits set edits = :edits, inverse = :inverse where session_id = :session and revision = :revision',
        { revision, ...asText(carried) },
      );
    }
    if (lines.length < LINES_AT_ONCE) break;
    after = lines.at(-1)?.revision as number;
  }
  const { session, rest } = carrying.end(await formerState(q, head as unknown as Record<string, unknown>));
  let { revision } = head;
  if (rest.edits.length > 0)
    await write(
      `insert into edits (session_id, revision, action, undoable, label, author, edits, inverse)
       values (:session, :revision, 'do', false, 'Carried over', 'intake', :edits, :inverse)`,
      { revision: ++revision, ...asText(rest) },
    );
  const { updated_at: updatedAt } = (
    await q.select('select updated_at from sessions where id = :id', { id: head.id })
  )[0] as { updated_at: Date };
  await saveSession(head.id, emptySession(''), session, revision, transaction);
  // Carried over it is not changed.
  await write('update sessions set updated_at = :updatedAt where id = :session', { updatedAt });
}
