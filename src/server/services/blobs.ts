import { QueryTypes, type Transaction } from 'sequelize';
import { BlobModel, db } from '../db';
import { blobStore } from '../storage';

/** Takes the rows of blobs that nothing refers to any more; returns their names, whose bytes may go once this is committed. */
export async function dropOrphanBlobs(transaction: Transaction): Promise<string[]> {
  const rows = await db().query<{ sha256: string }>(
    `select sha256 from blobs b
     where not exists (select 1 from recordings r where b.sha256 in (r.sha256, r.peaks_sha256, r.onsets_sha256, r.converted_sha256))
       and not exists (select 1 from conform_files c where c.sha256 = b.sha256)`,
    { type: QueryTypes.SELECT, transaction },
  );
  const shas = rows.map((r) => r.sha256);
  if (shas.length > 0) await BlobModel.destroy({ where: { sha256: shas }, transaction });
  return shas;
}

/** Frees the bytes that nothing refers to. They go only after their rows are gone for good: a crash here leaves waste, never a dangling row. */
export async function sweepBlobs(): Promise<void> {
  for (const sha of await db().transaction(dropOrphanBlobs)) await blobStore().delete(sha);
}
