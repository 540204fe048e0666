import { QueryTypes, type Transaction } from 'sequelize';
import { BlobModel, db } from '../db';
import { blobStore } from '../storage';

/** Number of the lock between those who add blobs and those who free them. */
const BLOB_LOCK = 7_061_977;

/** A transaction in which blobs are put into the store: none is freed meanwhile, not even one of the same content. Take no lock before it that {@link sweepBlobs} could wait for. */
export const keepingBlobs = <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> =>
  db().transaction(async (transaction) => {
    await db().query('select pg_advisory_xact_lock_shared(:key)', {
      replacements: { key: BLOB_LOCK },
      type: QueryTypes.SELECT,
      transaction,
    });
    return work(transaction);
  });

/**
 * Frees the bytes that nothing refers to. With `wait` it lets those finish who are adding blobs; without, it leaves the work to the next sweep.
 * Bytes go after their rows but before the commit, under the lock: after a crash there may be a row without bytes, but nobody refers to it, and who adds that content again brings the bytes.
 */
export const sweepBlobs = ({ wait }: { readonly wait: boolean }): Promise<void> =>
  db().transaction(async (transaction) => {
    // Who adds blobs may take long over a large file.
    if (wait)
      await db().query("set local lock_timeout = '10min'; set local statement_timeout = '10min'", {
        transaction,
      });
    const lock = wait ? 'pg_advisory_xact_lock(:key) is not null' : 'pg_try_advisory_xact_lock(:key)';
    const [answer] = await db().query<{ free: boolean }>(`select ${lock} free`, {
      replacements: { key: BLOB_LOCK },
      type: QueryTypes.SELECT,
      transaction,
    });
    if (!answer?.free) return;
    const rows = await db().query<{ sha256: string }>(
      // One pass over each table; asked blob by blob it took minutes of a day under the lock.
      `select sha256 from blobs except
       (select unnest(array[sha256, original_sha256, peaks_sha256, onsets_sha256, sketch_sha256, levels_sha256, converted_sha256]) from recordings
        union all select sha256 from conform_files)`,
      { type: QueryTypes.SELECT, transaction },
    );
    const shas = rows.map((r) => r.sha256);
    if (shas.length > 0) await BlobModel.destroy({ where: { sha256: shas }, transaction });
    for (const sha of shas) await blobStore().delete(sha);
  });
