import { carryOver } from './carry-over/carry-over';
import { db } from './connection';
import { migrateSchema } from './migrate';

/** Brings the schema of this process's database up to date, see {@link migrateSchema}, and what it holds with it. Returns the steps taken. */
export async function migrate(): Promise<string[]> {
  const taken = await migrateSchema(db());
  await carryOver(db());
  return taken;
}
