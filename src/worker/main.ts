import { closeDb, isDatabaseAway, migrate } from '@/server/db';
import { startWorker } from '@/server/jobs';
import { abandonJob, emptyOldWaste, settleUploads, sweepBlobs, sweepPackages } from '@/server/services';
import { HANDLERS, plantDemo } from './handlers';

/** How long a database that does not answer is waited for. */
const DATABASE_MS = 60_000;
/** How often what a crash may have left is looked for. */
const TIDY_MS = 60_000;
/** How long running jobs may still take when the worker is told to stop. */
const GRACE_MS = 1500;

/** Entry of the worker process: takes jobs until told to stop. `--migrate` only brings the schema up to date. */
async function main(): Promise<void> {
  await untilThere();
  if (process.argv.includes('--migrate')) {
    const { runMigrations } = await import('graphile-worker');
    await runMigrations({ connectionString: process.env.FERNMOSS_DATABASE_URL, logger: undefined });
    await closeDb();
    return;
  }
  const runner = await startWorker({ handlers: HANDLERS, abandon: abandonJob });
  await tidy();
  setInterval(() => void tidy(), TIDY_MS).unref();
  process.send?.('ready');
  console.log('worker ready');
  if (process.env.FERNMOSS_DEMO === 'on') await plantDemo();
  const stop = async (): Promise<void> => {
    // Short work is finished; long work is left: the next start does it again.
    await runner.stop(GRACE_MS);
    await closeDb();
    process.exit(0);
  };
  process.once('SIGTERM', () => void stop());
  process.once('SIGINT', () => void stop());
  // Without its parent nobody would stop this process: end when the channel closes.
  process.once('disconnect', () => void stop());
}

/** Looks after what a crash may have left. What cannot be looked after is told and tried again: it keeps nobody from work. */
async function tidy(): Promise<void> {
  const parts = [settleUploads, emptyOldWaste, sweepPackages, () => sweepBlobs({ wait: false })];
  for (const part of parts) await part().catch((error: unknown) => console.error('tidying up:', error));
}

/** Brings the schema up to date; a database that is just being started again is waited for. */
async function untilThere(): Promise<void> {
  for (const end = Date.now() + DATABASE_MS; ;)
    try {
      await migrate();
      return;
    } catch (cause) {
      if (!isDatabaseAway(cause) || Date.now() > end) throw cause;
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
