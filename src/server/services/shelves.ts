import { Op } from 'sequelize';
import { type ShelfRequest, WASTE_DAYS } from '@/contracts';
import { db, isUuid, JobModel, SessionModel } from '../db';
import { RequestFault } from '../http';
import { deleteForGood } from './sessions';

const DAY_MS = 86_400_000;

/** Work a session in the waste basket does not need: it is asked for again by hand. What arrives goes on arriving. */
const ASKED_BY_HAND = [
  'tempo.detect',
  'balance.find',
  'sections.find',
  'takes.find',
  'loudness.measure',
  'conform.render',
  'conform.audition',
  'package.build',
  'package.copy',
];

/** Puts sessions on a shelf, all or none; what they hold stays as it is. Throws `session.not_found`. */
export async function shelveSessions({ ids, shelf }: ShelfRequest): Promise<void> {
  await db().transaction(async (transaction) => {
    const heads = await SessionModel.findAll({
      where: { id: ids.filter(isUuid) },
      // In one order, so that two who move the same ones do not wait for each other.
      order: [['id', 'ASC']],
      lock: transaction.LOCK.UPDATE,
      transaction,
    });
    if (heads.length < new Set(ids).size) throw new RequestFault({ code: 'session.not_found' });
    const now = new Date();
    for (const head of heads)
      await head.update(
        {
          deletedAt: shelf === 'waste' ? (head.deletedAt ?? now) : null,
          archivedAt: shelf === 'archive' ? now : shelf === 'list' ? null : head.archivedAt,
        },
        // Where it stands is no change of the session.
        { transaction, silent: true },
      );
    if (shelf === 'waste')
      await JobModel.update(
        { cancelRequested: true },
        { where: { sessionId: ids, kind: ASKED_BY_HAND, state: ['queued', 'running'] }, transaction },
      );
  });
}

/** Empties the waste basket of what has lain there long enough. */
export async function emptyOldWaste(now = Date.now()): Promise<void> {
  db();
  const before = new Date(now - WASTE_DAYS * DAY_MS);
  const old = await SessionModel.findAll({ where: { deletedAt: { [Op.lt]: before } }, attributes: ['id'] });
  // One put back, or deleted by another worker, between the question and the deed is passed by.
  for (const { id } of old)
    await deleteForGood(id, before).catch((cause: unknown) => {
      if (!(cause instanceof RequestFault)) throw cause;
    });
}
