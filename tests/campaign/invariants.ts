import { createHash } from 'node:crypto';
import { createReadStream, existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { SessionView } from '@/contracts';
import { verifyPackage } from '@/engine';
import {
  BlobModel,
  closeDb,
  ConformFileModel,
  db,
  EditModel,
  HandoverModel,
  InPlaceFileModel,
  isDatabaseAway,
  JobModel,
  RecordingModel,
} from '@/server/db';
import { packageDir, verifyReplay } from '@/server/services';
import { until } from '../support/server';
import { answers, atRest, type World } from './world';

/** Jobs may end so when what they worked for was taken away or changed meanwhile, or a recording came in between a handover's request and its build; nothing else may fail. */
const HARMLESS = new Set([
  'job.cancelled',
  'session.not_found',
  'request.not_found',
  'delivery.folder_taken',
  'tempo.nothing_found',
  'tempo.no_timekeepers',
  'tempo.not_analysed',
  'conform.not_ready',
  'delivery.not_ready',
  'pair.unlike',
]);

/** What does not hold; empty = nothing was lost. */
export async function checkWorld(world: World): Promise<string[]> {
  await until(answers, 'the server to answer', 120_000);
  const view = await atRest(world);
  // Our own connections were killed as well.
  for (let attempt = 0; ; attempt++)
    try {
      return (
        await Promise.all([
          edits(world),
          bytes(world),
          packages(world),
          copies(world),
          jobs(world),
          uploads(world, view),
        ])
      ).flat();
    } catch (cause) {
      if (!isDatabaseAway(cause) || attempt > 20) throw cause;
      await closeDb().catch(() => undefined);
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
}

/** No acknowledged step is lost; the revisions have no gap; the rows equal the replayed log. */
async function edits({ sessionId, edits: acknowledged }: World): Promise<string[]> {
  db();
  const rows = await EditModel.findAll({
    where: { sessionId },
    order: [['revision', 'ASC']],
    attributes: ['revision', 'label'],
  });
  const wrong = acknowledged
    .filter((e) => rows[e.revision - 1]?.label !== e.label)
    .map((e) => `step ${e.revision} “${e.label}” is lost`);
  rows.forEach((r, i) => {
    if (r.revision !== i + 1) wrong.push(`revision ${i + 1} is missing`);
  });
  const { rows: state, replayed } = await verifyReplay(sessionId);
  if (canonical(state) !== canonical(replayed)) wrong.push('rows differ from the replayed log');
  return wrong;
}

const canonical = (value: unknown): string =>
  JSON.stringify(value, (_k, v: unknown) =>
    v !== null && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );

function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  return new Promise((resolve, reject) =>
    createReadStream(path)
      .on('data', (part) => hash.update(part))
      .on('error', reject)
      .on('end', () => resolve(hash.digest('hex'))),
  );
}

/** Every blob that something refers to is there in whole; the same request gave the same bytes every time. */
async function bytes({ sessionId, hashed, conformed }: World): Promise<string[]> {
  const wrong: string[] = [];
  const sizes = new Map((await BlobModel.findAll()).map((b) => [b.sha256, Number(b.sizeBytes)]));
  const files = await ConformFileModel.findAll({ where: { sessionId } });
  const referred = [
    ...(await RecordingModel.findAll()).flatMap((r) => [
      r.sha256,
      r.peaksSha256,
      r.onsetsSha256,
      r.sketchSha256,
      r.convertedSha256,
    ]),
    ...files.map((f) => f.sha256),
  ];
  // What is used in place lies with its owner.
  const elsewhere = new Set((await InPlaceFileModel.findAll()).map((f) => f.sha256));
  for (const sha of new Set(referred)) {
    if (sha === null || elsewhere.has(sha)) continue;
    const path = join(process.env.FERNMOSS_DATA ?? '', 'blobs', sha.slice(0, 2), sha);
    if (!existsSync(path)) wrong.push(`blob ${sha.slice(0, 8)} is not there`);
    else if (statSync(path).size !== sizes.get(sha))
      wrong.push(`blob ${sha.slice(0, 8)} has ${statSync(path).size} bytes, not ${sizes.get(sha)}`);
    else if (!hashed.has(sha) && (await hashOf(path)) !== sha)
      wrong.push(`blob ${sha.slice(0, 8)} holds something else`);
    hashed.add(sha);
  }
  for (const { key, sha256 } of files) {
    if (conformed.get(key) !== undefined && conformed.get(key) !== sha256)
      wrong.push(`conformed file ${key.slice(0, 8)} was made with other bytes`);
    conformed.set(key, sha256);
  }
  return wrong;
}

/** Every package offered reads back; the same revision gave the same sound. */
async function packages({ sessionId, verified, sounds }: World): Promise<string[]> {
  const wrong: string[] = [];
  for (const row of await HandoverModel.findAll({ where: { sessionId } })) {
    if (row.state === 'building') wrong.push(`v${row.number} is being built for ever`);
    if (row.state !== 'done' || verified.has(row.id)) continue;
    const root = join(packageDir(sessionId, row.id), row.folderName);
    const failed = (await verifyPackage(root)).filter((c) => !c.pass);
    if (failed.length > 0)
      wrong.push(`v${row.number} is offered but ${failed.map((f) => f.title).join(', ')} fails`);
    const sound = readFileSync(join(root, 'manifest-sha256.txt'), 'utf8')
      .split('\n')
      .filter((l) => l.includes('data/audio/'))
      .join('\n');
    const key = String(row.revision);
    if (sounds.has(key) && sounds.get(key) !== sound)
      wrong.push(`v${row.number} holds other sound than an earlier package of the same revision`);
    sounds.set(key, sound);
    verified.add(row.id);
  }
  return wrong;
}

/** In the allowed folder there is never half a package under its own name, and nothing half is left behind. */
async function copies({ verified }: World): Promise<string[]> {
  const folder = process.env.FERNMOSS_FOLDERS ?? '';
  const wrong: string[] = [];
  for (const name of readdirSync(folder).filter((n) => /Campaign/.test(n))) {
    if (name.startsWith('.')) wrong.push(`${name} is left behind`);
    else if (!verified.has(name)) {
      if ((await verifyPackage(join(folder, name))).some((c) => !c.pass))
        wrong.push(`${name} in the folder does not read back`);
      verified.add(name);
    }
  }
  return wrong;
}

async function jobs({ sessionId }: World): Promise<string[]> {
  const rows = await JobModel.findAll({ where: { sessionId } });
  return rows
    .filter(
      (j) =>
        ['queued', 'running'].includes(j.state) ||
        (j.state === 'failed' && !HARMLESS.has((j.fault as { code: string } | null)?.code ?? '')),
    )
    .map((j) => `job ${j.kind} of ${j.subject} is ${j.state}: ${JSON.stringify(j.fault)}`);
}

/** Every file the server said it had is a recording, ready, with the bytes that were sent; deleted sessions stay deleted. */
async function uploads({ sessionId, uploads: sent, deleted }: World, view: SessionView): Promise<string[]> {
  const wrong = sent
    .filter((u) => u.sessionId === sessionId)
    .flatMap(({ name, sha256 }) => {
      const found = view.recordings.filter((r) => r.receivedName === name);
      if (found.length !== 1) return [`${name} is there ${found.length} times`];
      return found[0]?.state === 'ready' && found[0].sha256 === sha256
        ? []
        : [
            `${name} is ${found[0]?.state} with ${found[0]?.sha256 === sha256 ? 'its own' : 'other'} bytes: ${JSON.stringify(found[0]?.fault)}`,
          ];
    });
  const back = await RecordingModel.count({ where: { sessionId: deleted } });
  return back > 0 ? [...wrong, `${back} recordings of deleted sessions are back`] : wrong;
}
