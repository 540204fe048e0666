import { readdirSync, readFileSync } from 'node:fs';
import type { SessionView } from '@/contracts';
import { decodePart, soundParts } from '@/core/audio';
import { applyChanges, type Change, type Edit, type SessionState } from '@/core/session';

/** Address of the server under test. */
export const BASE = process.env.FERNMOSS_URL ?? '';

/** One call; the answer as JSON, whatever its status. */
export async function call<T>(
  path: string,
  method: 'GET' | 'POST' | 'DELETE' = 'GET',
  body?: unknown,
): Promise<{ readonly status: number; readonly value: T }> {
  const response = await fetch(BASE + path, {
    method,
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  });
  return { status: response.status, value: (await response.json().catch(() => null)) as T };
}

/** A new session's id. */
export async function newSession(name: string): Promise<string> {
  return (await call<{ id: string }>('/api/sessions', 'POST', { name })).value.id;
}

/** Puts a session into the waste basket and deletes it for good; the status of the second. */
export async function deleteSession(id: string): Promise<number> {
  await call('/api/sessions/shelf', 'POST', { ids: [id], shelf: 'waste' });
  return (await call(`/api/sessions/${id}`, 'DELETE')).status;
}

/** All of a session. */
export const viewOf = async (id: string): Promise<SessionView> =>
  (await call<SessionView>(`/api/sessions/${id}`)).value;

const isRaw = (change: Change): change is Edit => ['put', 'patch', 'remove'].includes(change.kind);

/** The edits that changes of a session come to, as a page sends them; edits of records are left as they are. Throws when moves do not fit. */
export function editsFor(session: SessionState, changes: readonly Change[]): readonly Edit[] {
  if (changes.every(isRaw)) return changes;
  const made = applyChanges(session, changes);
  if (!made.ok) throw new Error(`${made.code} ${made.id}`);
  return made.edits;
}

/** What is answered to a page that sent edits. */
export type EditAnswer = { readonly revision?: number; readonly fault?: { readonly code: string } };

/** Makes changes to a session as one step of a person; `on` = as it was known, now by default. */
export async function edit(id: string, label: string, changes: readonly Change[], on?: SessionView) {
  const { revision, session } = on ?? (await viewOf(id));
  const edits = editsFor(session, changes);
  // What changes nothing is no step: a page does not send it.
  if (edits.length === 0) return { status: 200, value: {} as EditAnswer };
  const body = { baseRevision: revision, label, edits };
  return call<EditAnswer>(`/api/sessions/${id}/edits`, 'POST', body);
}

/** Frames of a sound as the player would hear them, a channel each; none when there is no such sound. */
export async function soundOf(sound: string, from: number, count: number): Promise<Float32Array[]> {
  const response = await fetch(`${BASE}/api/sound`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ pieces: [{ sound, from, count }] }),
  });
  const [part] = soundParts(new Uint8Array(await response.arrayBuffer()));
  if (!part) throw new Error(`no answer for ${sound}`);
  return decodePart(part);
}

const base64 = (text: string): string => Buffer.from(text, 'utf8').toString('base64');

/** Begins a resumable upload (tus 1.0); returns its address. */
export async function beginUpload(
  sessionId: string,
  name: string,
  sizeBytes: number,
  base = BASE,
): Promise<string> {
  const response = await fetch(`${base}/api/uploads`, {
    method: 'POST',
    headers: {
      'tus-resumable': '1.0.0',
      'upload-length': String(sizeBytes),
      'upload-metadata': `sessionId ${base64(sessionId)},name ${base64(name)}`,
    },
  });
  if (response.status !== 201) throw new Error(`upload refused: ${response.status} ${await response.text()}`);
  return new URL(response.headers.get('location') ?? '', base).href;
}

/** Sends bytes of an upload from an offset on; returns the new offset. */
export async function sendPart(address: string, bytes: Uint8Array, offset: number): Promise<number> {
  const response = await fetch(address, {
    method: 'PATCH',
    headers: {
      'tus-resumable': '1.0.0',
      'upload-offset': String(offset),
      'content-type': 'application/offset+octet-stream',
    },
    body: bytes as BodyInit,
  });
  if (response.status !== 204) throw new Error(`part refused: ${response.status} ${await response.text()}`);
  return Number(response.headers.get('upload-offset'));
}

/** Sends a whole file to a server at any address. */
export async function uploadTo(
  base: string,
  sessionId: string,
  name: string,
  bytes: Uint8Array,
): Promise<void> {
  await sendPart(await beginUpload(sessionId, name, bytes.length, base), bytes, 0);
}

/** Offset the server has reached. */
export async function offsetOf(address: string): Promise<number> {
  const response = await fetch(address, { method: 'HEAD', headers: { 'tus-resumable': '1.0.0' } });
  return Number(response.headers.get('upload-offset'));
}

/** A whole file in one go. */
export async function upload(sessionId: string, name: string, bytes: Uint8Array): Promise<void> {
  const address = await beginUpload(sessionId, name, bytes.length);
  if (bytes.length > 0) await sendPart(address, bytes, 0);
}

/** Asks until the answer is there; throws after `timeoutMs`. */
export async function until<T>(
  ask: () => Promise<T | null | undefined | false>,
  what: string,
  timeoutMs = 60_000,
): Promise<T> {
  const end = Date.now() + timeoutMs;
  let last: unknown = null;
  for (;;) {
    // A server being restarted does not answer for a moment.
    const answer = await ask().catch((cause: unknown) => {
      last = cause;
      return null;
    });
    if (answer) return answer;
    if (Date.now() > end)
      throw new Error(`waited in vain: ${what}${last instanceof Error ? ` (${last.message})` : ''}`);
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
}

/** A session once none of its recordings and jobs is under way. */
export const settled = (id: string, timeoutMs = 90_000): Promise<SessionView> =>
  until(
    async () => {
      const view = await viewOf(id);
      return (
        view.recordings.every((r) => r.state === 'failed' || (r.state === 'ready' && r.listened)) &&
        view.jobs.every((j) => !['queued', 'running'].includes(j.state)) &&
        view
      );
    },
    'recordings to settle',
    timeoutMs,
  );

/** Process id of one of the processes under test: the one on our data folder. */
export function pidOf(
  file: 'web.mjs' | 'worker.mjs',
  dataDir = process.env.FERNMOSS_DATA ?? '',
): number | null {
  for (const entry of readdirSync('/proc')) {
    if (!/^\d+$/.test(entry)) continue;
    try {
      if (
        readFileSync(`/proc/${entry}/cmdline`, 'utf8').includes(`dist/${file}`) &&
        readFileSync(`/proc/${entry}/environ`, 'utf8').split('\0').includes(`FERNMOSS_DATA=${dataDir}`)
      )
        return Number(entry);
    } catch {
      // It ended between the two looks.
    }
  }
  return null;
}

/** Kills a process without warning and waits until another has taken its place. */
export async function killAndWait(file: 'web.mjs' | 'worker.mjs'): Promise<void> {
  const pid = pidOf(file);
  if (pid === null) throw new Error(`${file} does not run`);
  process.kill(pid, 'SIGKILL');
  await until(async () => {
    const now = pidOf(file);
    return now !== null && now !== pid;
  }, `${file} to come back`);
  if (file === 'web.mjs')
    await until(async () => (await fetch(`${BASE}/api/health`)).ok, 'the web process to answer');
}
