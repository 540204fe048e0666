import { randomUUID } from 'node:crypto';
import { runMigrations } from 'graphile-worker';
import { QueryTypes } from 'sequelize';
import type { Fault, JobKind } from '@/contracts';
import { closeDb, db, JobModel, migrate } from '@/server/db';
import { enqueue, type JobHandler, type JobHandlers, MOST_INTERRUPTIONS, startWorker } from '@/server/jobs';
import { dismissJob, retryJob } from '@/server/services';
import { asAdministrator, makeDatabase } from '../support/databases';

const clusterUrl = process.env.FERNMOSS_DATABASE_URL ?? '';
const database = `fernmoss_jobs_${process.pid}`;

// A queue of its own, which the worker under test does not see.
beforeAll(async () => {
  await closeDb();
  const url = await makeDatabase(database);
  process.env.FERNMOSS_DATABASE_URL = url;
  await migrate();
  await runMigrations({ connectionString: url });
});

afterAll(async () => {
  await closeDb();
  process.env.FERNMOSS_DATABASE_URL = clusterUrl;
  await asAdministrator(`drop database ${database} with (force)`);
});

const abandoned: { kind: JobKind; fault: Fault }[] = [];
const worker = (handler: JobHandler<JobKind>, lost?: (cause: unknown) => void) =>
  startWorker(
    {
      handlers: new Proxy({} as JobHandlers, { get: () => handler }),
      abandon: async ({ kind }, fault) => void abandoned.push({ kind, fault }),
    },
    lost,
  );
const newJob = (): Promise<string> =>
  db().transaction((transaction) =>
    enqueue(
      { kind: 'places.find', sessionId: null, subject: 'a test', payload: { folder: null } },
      transaction,
    ),
  );
const row = async (id: string) => (await JobModel.findByPk(id)) as JobModel;
async function until(what: () => Promise<boolean>): Promise<void> {
  for (const end = Date.now() + 20_000; !(await what()); await new Promise((r) => setTimeout(r, 50)))
    if (Date.now() > end) throw new Error('did not come about');
}
const never: JobHandler<JobKind> = () => new Promise(() => undefined);
const done: JobHandler<JobKind> = async () => ({ result: { good: true } });

it('a job that is cut off again and again ends as failed, says so, and can be done once more', async () => {
  const id = await newJob();
  for (let times = 1; times <= MOST_INTERRUPTIONS; times++) {
    const killed = await worker(never);
    await until(async () => (await row(id)).attempts === times);
    // It takes nothing more; the row and the lock are as kill -9 leaves them.
    await killed.stop(0);
    await JobModel.update({ state: 'running', attempts: times }, { where: { id } });
  }
  const last = await worker(done);
  await until(async () => (await row(id)).state === 'failed');
  expect((await row(id)).fault).toEqual({ code: 'job.interrupted', times: MOST_INTERRUPTIONS });
  expect(abandoned).toEqual([
    { kind: 'places.find', fault: { code: 'job.interrupted', times: MOST_INTERRUPTIONS } },
  ]);
  await retryJob(id);
  await until(async () => (await row(id)).state === 'done');
  await expect(retryJob(id)).rejects.toMatchObject({ fault: { code: 'request.not_found' } });
  await last.stop(100);
});

it('stopping costs no attempt', async () => {
  const id = await newJob();
  const first = await worker(never);
  await until(async () => (await row(id)).attempts === 1);
  await first.stop(50);
  expect(await row(id)).toMatchObject({ state: 'queued', attempts: 0 });
  const second = await worker(done);
  await until(async () => (await row(id)).state === 'done');
  await second.stop(100);
});

it('what the queue had given up, or never knew by its key, is taken up again', async () => {
  const id = randomUUID();
  await JobModel.create({
    id,
    kind: 'places.find',
    sessionId: null,
    subject: 'x',
    payload: { folder: null },
    state: 'running',
  });
  await db().query("select graphile_worker.add_job('fernmoss', :payload::json, max_attempts => 5)", {
    replacements: { payload: JSON.stringify({ jobId: id }) },
  });
  let begun = 0;
  const one = await worker(async () => {
    begun++;
    return {};
  });
  await until(async () => (await row(id)).state === 'done');
  expect(begun).toBe(1);
  await one.stop(100);
});

it('a job without remedy is dismissed; one that is open is not', async () => {
  const id = await newJob();
  await expect(dismissJob(id)).rejects.toMatchObject({ fault: { code: 'request.not_found' } });
  await JobModel.update({ state: 'failed' }, { where: { id } });
  await dismissJob(id);
  expect(await JobModel.findByPk(id)).toBeNull();
});

it('a second worker leaves what a living one holds, and takes up what a dead one held', async () => {
  const [held, other] = [await newJob(), await newJob()];
  let isLost = false;
  let goOn = (): void => undefined;
  // What the first one says of its jobs once it is taken for dead no longer counts.
  const late: JobHandler<JobKind> = () =>
    new Promise((_, reject) => {
      const before = goOn;
      goOn = () => (before(), reject(new Error('too late')));
    });
  const first = await worker(late, () => (isLost = true));
  await until(async () => (await row(held)).attempts === 1 && (await row(other)).attempts === 1);
  const second = await worker(done);
  const third = await newJob();
  await until(async () => (await row(third)).state === 'done');
  // Looked for twice and more: the first one lives.
  await new Promise((resolve) => setTimeout(resolve, 11_000));
  expect([(await row(held)).state, (await row(held)).attempts]).toEqual(['running', 1]);
  const [{ pid } = { pid: 0 }] = await db().query<{ pid: number }>(
    'select pid from pg_locks join pg_database d on d.oid = database where d.datname = current_database() and classid = 7061990 and objid = (select min(number) from workers)',
    { type: QueryTypes.SELECT },
  );
  await asAdministrator(`select pg_terminate_backend(${pid})`);
  await until(async () => (await row(held)).state === 'done' && (await row(other)).state === 'done');
  goOn();
  await new Promise((resolve) => setTimeout(resolve, 500));
  expect([isLost, (await row(held)).attempts, (await row(held)).state]).toEqual([true, 2, 'done']);
  await second.stop(100);
  await first.stop(0);
}, 60_000);

it('a job of another version whose payload cannot be read ends as failed, and the next is done', async () => {
  const id = await newJob();
  await JobModel.update({ payload: { folder: ['here'] } }, { where: { id } });
  const next = await newJob();
  const running = await worker(done);
  await until(async () => (await row(next)).state === 'done');
  await running.stop(1000);
  expect(await row(id)).toMatchObject({ state: 'failed', fault: { code: 'job.unreadable' } });
});
