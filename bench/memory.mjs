// How much memory the processes take: one recording of 2 GB through import and package, then ten files uploading at once.
import { readFileSync } from 'node:fs';
import { startTestServices } from '../bin/lib/test-services.mjs';
import { client } from './lib.mjs';

const GOALS = { worker: 400, web: 300 };
const BIG_BYTES = Number(process.env.FERNMOSS_BENCH_BYTES ?? 2e9);

const services = await startTestServices();
const { call, send, settled } = client(services.env.FERNMOSS_URL);
const rssMb = (pid) => {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024;
  } catch {
    return 0;
  }
};
const peaks = { web: 0, worker: 0 };
const idle = {};
const watch = setInterval(() => {
  for (const name of ['web', 'worker']) peaks[name] = Math.max(peaks[name], rssMb(services.pids()[name]));
}, 100);
const report = (what) => {
  for (const name of ['web', 'worker'])
    console.log(
      `memory · ${what} · ${name}: peak ${peaks[name].toFixed(0)} MB resident beside ${idle[name].toFixed(0)} MB idle (goal < ${GOALS[name]})${peaks[name] < GOALS[name] ? '' : '  OVER'}`,
    );
  peaks.web = peaks.worker = 0;
};
try {
  await call('/api/sessions');
  for (const name of ['web', 'worker']) idle[name] = rssMb(services.pids()[name]);
  const { id } = await call('/api/sessions', { name: 'Big' });
  const clock = Date.now();
  await send(id, 'Kick.wav', BIG_BYTES);
  console.log(
    `memory · ${(BIG_BYTES / 1e9).toFixed(1)} GB sent in ${((Date.now() - clock) / 1000).toFixed(0)} s`,
  );
  const view = await settled(id);
  if (view.recordings[0].state !== 'ready' || !view.recordings[0].listened)
    throw new Error(JSON.stringify(view.recordings[0].fault));
  report(`import of ${(BIG_BYTES / 1e9).toFixed(1)} GB`);
  await call(`/api/sessions/${id}/handovers`, {});
  const done = await settled(id);
  if (done.handovers[0].state !== 'done') throw new Error(JSON.stringify(done.handovers[0].fault));
  report('package of it');
  const { id: ten } = await call('/api/sessions', { name: 'Ten' });
  await Promise.all(Array.from({ length: 10 }, (_, i) => send(ten, `t${i}.wav`, 120_000_000)));
  report('ten files of 120 MB uploading at once');
  await settled(ten);
  report('their arrival');
} finally {
  clearInterval(watch);
  await services.stop();
}
