import { fork } from 'node:child_process';
import { copyFile, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { isTrack, tracksInOrder, type SessionState } from '@/core/session';
import { proposalEdits, proposeSort } from '@/core/style';
import { acceptEdit, adjustReading, type TempoReading } from '@/core/tempo';
import { Cancelled, throwIfCancelled, type CancelSignal } from '@/core/units';
import { readConfig } from '@/server/config';
import { db, HandoverModel, JobModel, loadSession, RecordingModel, SessionModel, uuidOf } from '@/server/db';
import { enqueue, type JobHandler } from '@/server/jobs';
import {
  applyToSession,
  createSession,
  receive,
  startDetection,
  startHandover,
  styleOf,
} from '@/server/services';
import { temporaryPath } from '@/server/storage';
import { hasDemo } from '../demo-folder';
import { tidySteps } from './tidy-demo';
import { writeScore } from '../../../demo/score';

const SONG = {
  name: 'Lanterns on the Slip',
  artist: 'The Tidewrack Nine',
  notes: 'Recorded live in the boat shed, no click. Three engineers, three habits.',
};
const WAIT_MS = 700;

/** On the very first start: two sessions, and the job that fills them. Does nothing once there has been any session. */
export async function plantDemo(): Promise<void> {
  db();
  if ((await SessionModel.count()) > 0 || (await JobModel.count({ where: { kind: 'demo.make' } })) > 0)
    return;
  const carried = await createSession(SONG, 'demo');
  const untouched = await createSession({ ...SONG, name: `${SONG.name} (as received)` }, 'demo');
  await db().transaction((transaction) =>
    enqueue(
      { kind: 'demo.make', sessionId: untouched, subject: SONG.artist, payload: { untouched, carried } },
      transaction,
    ),
  );
}

/** Plays the band, hands its recordings to both sessions, and carries one through to a package. Every step can be repeated. */
export const makeDemo: JobHandler<'demo.make'> = async ({ payload, progress, cancel }) => {
  const { untouched, carried } = payload;
  const folder = join(readConfig().dataDir, 'demo');
  await generate(folder, (s) => progress(0.5 * s), cancel);
  for (const sessionId of [untouched, carried])
    for (const name of (await readdir(folder)).sort())
      if (name.endsWith('.wav')) await hand(sessionId, folder, name);
  progress(0.55);
  await until(
    cancel,
    async () =>
      (await RecordingModel.count({ where: { sessionId: carried, state: 'ready' } })) > 0 &&
      (await RecordingModel.count({ where: { sessionId: carried, onsetsSha256: null } })) === 0,
  );
  await until(
    cancel,
    async () =>
      (await JobModel.count({
        where: { sessionId: carried, kind: 'recording.convert', state: ['queued', 'running'] },
      })) === 0,
  );
  progress(0.8);
  await carryThrough(carried, cancel);
  return {};
};

async function generate(
  folder: string,
  progress: (share: number) => void,
  cancel: CancelSignal,
): Promise<void> {
  if (await hasDemo(folder)) return;
  const half = `${folder}.new`;
  await rm(half, { recursive: true, force: true });
  await mkdir(half, { recursive: true });
  await new Promise<void>((resolve, reject) => {
    const child = fork(join(dirname(readConfig().threadPath), 'demo.mjs'), [half], {
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const watch = setInterval(() => {
      if (cancel.cancelled) child.kill();
    }, WAIT_MS);
    child.on('message', (message) => progress((message as { progress: number }).progress));
    child.on('exit', (code) => {
      clearInterval(watch);
      if (cancel.cancelled) reject(new Cancelled());
      else if (code === 0) resolve();
      else reject(new Error(`the demo generator ended with ${code}`));
    });
  });
  await rm(folder, { recursive: true, force: true });
  await rename(half, folder);
}

/** Gives a copy of a file to a session, under an id that a repetition finds again. */
async function hand(sessionId: string, folder: string, name: string): Promise<void> {
  const id = uuidOf(`${sessionId}/${name}`);
  if (await RecordingModel.findByPk(id)) return;
  const path = await temporaryPath();
  await copyFile(join(folder, name), path);
  await receive(sessionId, name, path, (await stat(path)).size, id);
}

async function until(cancel: CancelSignal, done: () => Promise<boolean>): Promise<void> {
  while (!(await done())) {
    throwIfCancelled(cancel);
    await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
  }
}

async function sessionOf(id: string): Promise<SessionState> {
  const loaded = await loadSession(id);
  if (!loaded) throw new Cancelled(); // deleted meanwhile: nothing left to do
  return loaded.session;
}

async function carryThrough(id: string, cancel: CancelSignal): Promise<void> {
  const person = (label: string) => ({ label, author: 'person' as const });
  let session = await sessionOf(id);
  const banjo = tracksInOrder(session).find((t) => t.receivedName.startsWith('rec0011'));
  if (banjo && !banjo.byHand.includes('family')) {
    await applyToSession(
      id,
      [
        {
          kind: 'track.change',
          id: banjo.id,
          fields: {
            name: 'Tenor Banjo',
            family: 'guitars',
            part: 'banjo',
            confidence: 1,
            byHand: ['name', 'family'],
          },
        },
      ],
      person('Name the banjo by ear'),
    );
    session = await sessionOf(id);
    const style = await styleOf(session);
    const proposal = proposeSort(session, style);
    await applyToSession(
      id,
      proposalEdits(session, style, proposal, new Set(proposal.rows.map((r) => r.trackId))),
      person(`Apply house style to ${proposal.rows.length}`),
    );
    const confirmed = Object.values((await sessionOf(id)).nodes)
      .filter(isTrack)
      .filter((t) => t.confidence < 0.7);
    if (confirmed.length > 0)
      await applyToSession(
        id,
        confirmed.map((t) => ({
          kind: 'track.change',
          id: t.id,
          fields: { confidence: 1, byHand: [...t.byHand, 'family'] },
        })),
        person('Check the doubtful ones by ear'),
      );
  }
  for (const step of await tidySteps(id, await sessionOf(id), await styleOf(await sessionOf(id))))
    await applyToSession(id, step.changes, person(step.label));
  if (!(await sessionOf(id)).map) {
    const jobId = await startDetection(id, { timekeepers: null, between: null });
    await until(
      cancel,
      async () => !['queued', 'running'].includes((await JobModel.findByPk(jobId))?.state ?? 'failed'),
    );
    const raw = (await JobModel.findByPk(jobId))?.result as TempoReading | null;
    if (!raw) return;
    // The band turns round on one bar of two beats: a person hears it and says so.
    const score = writeScore();
    const short = score.downbeats.findIndex((d, i) => (score.downbeats[i + 1] ?? Infinity) - d === 2);
    const reading = adjustReading(raw, {
      kind: 'bar-line-at',
      seconds: score.beats[score.downbeats[short + 1] as number] as number,
    });
    await applyToSession(id, [acceptEdit(reading, jobId)], person('Accept the tempo map'));
  }
  if ((await HandoverModel.count({ where: { sessionId: id } })) === 0)
    await startHandover(id, { contents: 'played', folder: null });
}
