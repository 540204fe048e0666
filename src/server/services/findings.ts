import type { Transaction } from 'sequelize';
import type { DismissRequest, DismissalView } from '@/contracts';
import type { AlikeFact, MicFact, MixFact, PairFact, Relations, Twin } from '@/core/findings';
import {
  db,
  DismissalModel,
  isUuid,
  JobModel,
  type RecordingModel,
  RelationModel,
  SessionModel,
} from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';

/** What is kept of a relation; its two recordings stand beside it by hash. */
export type RelationFacts =
  | Omit<Twin, 'a' | 'b'>
  | Omit<MicFact, 'leader' | 'other'>
  | Omit<PairFact, 'left' | 'right'>
  | Omit<MixFact, 'id'>
  | Omit<AlikeFact, 'fresh' | 'settled'>;

/** Relations between the recordings of a session that are there now. */
export async function viewRelations(
  sessionId: string,
  recordings: readonly RecordingModel[],
): Promise<Relations> {
  const ids = new Map<string, string>();
  for (const r of recordings) if (r.sha256 && !ids.has(r.sha256)) ids.set(r.sha256, r.id);
  const rows = (await RelationModel.findAll({ where: { sessionId } })).flatMap((row) => {
    const [a, b] = [ids.get(row.a), ids.get(row.b)];
    return a !== undefined && b !== undefined && row.facts
      ? [{ kind: row.kind, a, b, facts: row.facts }]
      : [];
  });
  const of = <T>(kind: string, make: (a: string, b: string, facts: object) => T): T[] =>
    rows.filter((r) => r.kind === kind).map((r) => make(r.a, r.b, r.facts));
  return {
    twins: of('twin', (a, b, facts) => ({ a, b, ...(facts as Omit<Twin, 'a' | 'b'>) })),
    mics: of('mic', (leader, other, facts) => ({
      leader,
      other,
      ...(facts as Omit<MicFact, 'leader' | 'other'>),
    })),
    pairs: of('pair', (left, right, facts) => ({
      left,
      right,
      ...(facts as Omit<PairFact, 'left' | 'right'>),
    })),
    farMics: ([0, 1] as const).flatMap((channel) =>
      of(`far-mic-${channel}`, (leader, other, facts) => ({
        leader,
        other,
        channel,
        ...(facts as Omit<MicFact, 'leader' | 'other'>),
      })),
    ),
    mixes: of('mix', (id, _itself, facts) => ({ id, ...(facts as Omit<MixFact, 'id'>) })),
    alikes: of('alike', (fresh, settled, facts) => ({
      fresh,
      settled,
      ...(facts as Omit<AlikeFact, 'fresh' | 'settled'>),
    })),
  };
}

/** Queues a look at what the recordings have to do with each other, unless one waits already. */
export async function enqueueRelating(sessionId: string, transaction: Transaction): Promise<void> {
  if (
    (await JobModel.count({ where: { sessionId, kind: 'session.relate', state: 'queued' }, transaction })) > 0
  )
    return;
  await enqueue(
    { kind: 'session.relate', sessionId, subject: 'what belongs together', payload: {} },
    transaction,
  );
}

/** Findings a person put aside. */
export const viewDismissals = async (sessionId: string): Promise<DismissalView[]> =>
  (await DismissalModel.findAll({ where: { sessionId }, order: [['madeAt', 'ASC']] })).map(
    ({ key, note }) => ({ key, note }),
  );

/** Puts findings aside with a note, or takes them up again. */
export async function dismissFindings(sessionId: string, { keys, note }: DismissRequest): Promise<void> {
  await db().transaction(async (transaction) => {
    if (
      !isUuid(sessionId) ||
      !(await SessionModel.findByPk(sessionId, { transaction, lock: transaction.LOCK.UPDATE }))
    )
      throw new RequestFault({ code: 'session.not_found' });
    if (note === null) await DismissalModel.destroy({ where: { sessionId, key: keys }, transaction });
    else
      await DismissalModel.bulkCreate(
        keys.map((key) => ({ sessionId, key, note })),
        { updateOnDuplicate: ['note'], transaction },
      );
  });
}
