import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { SessionView } from '@/contracts';
import { call, killAndWait, newSession, settled, until, upload, viewOf } from '../support/server';
import { makeDelivery } from '../support/takes/delivery';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-takes-found-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let id: string;
const look = async (): Promise<string> =>
  (await call<{ jobId: string }>(`/api/sessions/${id}/takes`, 'POST', { find: true })).value.jobId;
const found = (jobId: string, state: 'running' | 'done') =>
  until(
    async () => {
      const view = await viewOf(id);
      const job = view.jobs.find((j) => j.id === jobId);
      return (job?.state === state || job?.state === 'done') && { view, state: job.state };
    },
    `looking for takes to be ${state}`,
    120_000,
  );
const namesOf = ({ session, takes }: SessionView) =>
  (takes?.takes ?? []).map((t) => t.lanes.map((l) => session.nodes[l.trackId]?.name));

beforeAll(async () => {
  await makeDelivery(folder, { kind: 'takes, loose', seed: 7, naming: 'numbers', hasMix: true });
  id = await newSession('Flotsam');
  for (const name of readdirSync(folder)) await upload(id, name, readFileSync(join(folder, name)));
  await settled(id);
}, 240_000);

it('a worker killed while it looks for takes: they are looked for again, and found as if nothing had been', async () => {
  const killed = await look();
  const { state } = await found(killed, 'running');
  await killAndWait('worker.mjs');
  const { view } = await found(killed, 'done');
  // It was in the middle of it, else this test says nothing.
  expect(state).toBe('running');
  expect(namesOf(view)).toEqual([expect.arrayContaining([expect.any(String)])]);
  expect(namesOf(view)[0]).toHaveLength(4);
  const again = await found(await look(), 'done');
  expect(again.view.takes?.takes).toEqual(view.takes?.takes);
}, 240_000);
