// How much memory the processes take: one recording of 2 GB through import and package, then ten files uploading at once.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { startTestServices } from '../bin/lib/test-services.mjs';

const GOALS = { worker: 400, web: 300 };
const BIG_BYTES = Number(process.env.FERNMOSS_BENCH_BYTES ?? 2e9);
const CHUNK = 8 << 20;

const services = await startTestServices();
const base = services.env.FERNMOSS_URL;
const rssMb = (pid) => { try { return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024; } catch { return 0; } };
const peaks = { web: 0, worker: 0 };
const idle = {};
const watch = setInterval(() => { for (const name of ['web', 'worker']) peaks[name] = Math.max(peaks[name], rssMb(services.pids()[name])); }, 100);
const report = (what) => {
  for (const name of ['web', 'worker']) console.log(`memory · ${what} · ${name}: peak ${peaks[name].toFixed(0)} MB resident beside ${idle[name].toFixed(0)} MB idle (goal < ${GOALS[name]})${peaks[name] < GOALS[name] ? '' : '  OVER'}`);
  peaks.web = peaks.worker = 0;
};
const call = async (path, body) => (await fetch(base + path, body === undefined ? {} : { method: 'POST', body: JSON.stringify(body), headers: { 'content-type': 'application/json' } })).json();

/** Header of a mono 24 bit WAV and a block of noise bursts that repeats. */
function made(bytes) {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0); head.writeUInt32LE(bytes - 8, 4); head.write('WAVEfmt ', 8); head.writeUInt32LE(16, 16); head.writeUInt16LE(1, 20); head.writeUInt16LE(1, 22);
  head.writeUInt32LE(48_000, 24); head.writeUInt32LE(144_000, 28); head.writeUInt16LE(3, 32); head.writeUInt16LE(24, 34); head.write('data', 36); head.writeUInt32LE(bytes - 44, 40);
  const block = Buffer.alloc(CHUNK);
  let seed = 7;
  for (let i = 0; i < CHUNK; i++) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    block[i] = i % 72_000 < 9000 || i % 3 === 0 ? seed >>> 24 : 0;
  }
  return { head, block };
}

async function send(sessionId, name, bytes) {
  const encode = (t) => Buffer.from(t).toString('base64');
  const begun = await fetch(`${base}/api/uploads`, { method: 'POST', headers: { 'tus-resumable': '1.0.0', 'upload-length': String(bytes), 'upload-metadata': `sessionId ${encode(sessionId)},name ${encode(name)}` } });
  if (begun.status !== 201) throw new Error(`${begun.status} ${await begun.text()}`);
  const address = new URL(begun.headers.get('location'), base);
  const { head, block } = made(bytes);
  block.writeUInt32LE(createHash('sha256').update(name).digest().readUInt32LE(0), 0); // no two files alike
  for (let at = 0; at < bytes; ) {
    const part = at === 0 ? head : block.subarray(0, Math.min(CHUNK, bytes - at));
    const done = await fetch(address, { method: 'PATCH', headers: { 'tus-resumable': '1.0.0', 'upload-offset': String(at), 'content-type': 'application/offset+octet-stream' }, body: part });
    if (done.status !== 204) throw new Error(`${done.status} ${await done.text()}`);
    at += part.length;
  }
}
const until = async (ask) => { for (;;) { const a = await ask(); if (a) return a; await new Promise((r) => setTimeout(r, 500)); } };
const settled = (id) => until(async () => { const v = await call(`/api/sessions/${id}`); return v.jobs.every((j) => !['queued', 'running'].includes(j.state)) && v.recordings.every((r) => r.state !== 'waiting') && v; });

try {
  await call('/api/sessions');
  for (const name of ['web', 'worker']) idle[name] = rssMb(services.pids()[name]);
  const { id } = await call('/api/sessions', { name: 'Big' });
  const clock = Date.now();
  await send(id, 'Kick.wav', BIG_BYTES);
  console.log(`memory · ${(BIG_BYTES / 1e9).toFixed(1)} GB sent in ${((Date.now() - clock) / 1000).toFixed(0)} s`);
  const view = await settled(id);
  if (view.recordings[0].state !== 'ready' || !view.recordings[0].listened) throw new Error(JSON.stringify(view.recordings[0].fault));
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
