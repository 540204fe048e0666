import { randomUUID } from 'node:crypto';
import type { BatchAnswer, CommittedBatch } from '@/contracts';
import {
  applyChanges,
  type Change,
  type Edit,
  type Patch,
  withBatches,
  type HeldSession,
  holdSession,
  shownSession,
  SONG_ID,
  tracksInOrder,
  withPending,
} from '@/core/session';
import { createRandom } from '@/core/units';
import { db, EditModel } from '@/server/db';
import { verifyReplay } from '@/server/services';
import { asAdministrator } from '../support/databases';
import { randomEdit, randomMove } from '../support/random-edits';
import { tone, wavBytes } from '../support/recordings';
import { edit, BASE, call, newSession, settled, upload, viewOf } from '../support/server';

type Answer = BatchAnswer & { readonly fault?: BatchAnswer & { readonly code: string } };

const send = (id: string, baseRevision: number, edits: readonly Edit[], batchId: string = randomUUID()) =>
  call<Answer>(`/api/sessions/${id}/edits`, 'POST', { batchId, baseRevision, label: 'Step', edits });

const named = (id: string, name: string): Edit & Patch<'track'> => ({
  kind: 'patch',
  of: 'track',
  id,
  fields: { name },
});

async function withTracks(name: string, count: number): Promise<string> {
  const id = await newSession(name);
  for (let i = 0; i < count; i++)
    await upload(id, `Take ${i}.wav`, await wavBytes([tone(100 + 20 * i, 0.2)]));
  await settled(id);
  return id;
}

/** A page that never asks for the whole again: all it knows of others comes with its answers. */
class Page {
  held: HeldSession;
  acknowledged: string[] = [];
  contradicted = 0;
  unfit = 0;

  constructor(
    readonly id: string,
    held: HeldSession,
  ) {
    this.held = held;
  }

  static async open(id: string): Promise<Page> {
    const { revision, session } = await viewOf(id);
    return new Page(id, holdSession(revision, session));
  }

  async step(changes: readonly Change[]): Promise<void> {
    const made = applyChanges(shownSession(this.held), changes);
    if (!made.ok || made.edits.length === 0) return;
    const { edits } = made;
    const batch = { id: randomUUID(), label: 'Step', edits, after: made.session };
    this.held = withPending(this.held, batch);
    const { status, value } = await send(this.id, this.held.revision, edits, batch.id);
    if (status === 200) this.acknowledged.push(batch.id);
    else if (value.fault?.code === 'session.conflict') this.contradicted++;
    else if (value.fault?.code.startsWith('edit.')) this.unfit++;
    else throw new Error(`${status} ${JSON.stringify(value)}`);
    this.#adopt((status === 200 ? value : value.fault)?.since ?? []);
    this.held = { ...this.held, pending: [] };
  }

  #adopt(since: readonly CommittedBatch[]): void {
    const next = withBatches(this.held, since);
    if (!next) throw new Error('what was told does not follow on what is held');
    this.held = next.held;
  }
}

const NOT_FROM_PAGES: ReadonlySet<string> = new Set([
  'track.add',
  'track.replace',
  'lanes.pack',
  'lanes.unpack',
  'style.use',
  'conform.set',
  'session.rate',
]);

/** Tracks come by recordings alone, and are packed where the server is asked to; styles, rates and conforming are tried elsewhere. */
function isForPages(change: Change, tracks: number): boolean {
  if (NOT_FROM_PAGES.has(change.kind)) return false;
  if (!('of' in change)) return change.kind !== 'track.remove' || tracks > 3;
  if (change.of === 'lane' || (change.of === 'track' && change.kind === 'put')) return false;
  if (change.of === 'track' && change.kind === 'remove') return tracks > 3;
  return (
    change.of !== 'song' ||
    (change.kind === 'patch' && Object.keys(change.fields).every((f) => f === 'notes'))
  );
}

it('five pages at once, each on what it last heard: no step is lost or done twice, and all see the same in the end', async () => {
  const id = await withTracks('Five writers', 6);
  const pages = await Promise.all(Array.from({ length: 5 }, () => Page.open(id)));
  const end = Date.now() + Number(process.env.WRITERS_MS ?? 8000);
  await Promise.all(
    pages.map(async (page, own) => {
      const random = createRandom(50 + own);
      while (Date.now() < end) {
        const state = shownSession(page.held);
        const change = random() < 0.6 ? randomMove(random, state) : randomEdit(random, state);
        if (!isForPages(change, tracksInOrder(state).length)) continue;
        await page.step([change]);
      }
    }),
  );
  const acknowledged = pages.flatMap((p) => p.acknowledged);
  const contradicted = pages.reduce((n, p) => n + p.contradicted, 0);
  const unfit = pages.reduce((n, p) => n + p.unfit, 0);
  console.log(
    `five writers: ${acknowledged.length} steps done, ${contradicted} contradicted, ${unfit} unfit`,
  );
  expect(acknowledged.length).toBeGreaterThan(20);
  db();
  const inLog = (await EditModel.findAll({ where: { sessionId: id }, attributes: ['batchId'] })).flatMap(
    (e) => e.batchId ?? [],
  );
  expect(new Set(inLog).size).toBe(inLog.length);
  // A step of which nothing was left to do (both did the same) is in no log.
  expect(inLog.filter((b) => !acknowledged.includes(b))).toEqual([]);
  expect(inLog.length).toBeGreaterThan(0.9 * acknowledged.length);
  const { rows, replayed } = await verifyReplay(id);
  expect(replayed).toEqual(rows);
  for (const page of pages)
    await page.step([{ kind: 'session.describe', notes: `end of ${page.acknowledged.length}` }]);
  const last = pages.at(-1) as Page;
  const now = await viewOf(id);
  expect(last.held.revision).toBe(now.revision);
  expect(last.held.confirmed).toEqual(now.session);
});

it('two steps made quickly on the same revision, while somebody else was faster: both are done', async () => {
  const id = await withTracks('Quick steps', 2);
  const { revision, session } = await viewOf(id);
  const [first, second] = tracksInOrder(session);
  await send(id, revision, [{ kind: 'patch', of: 'song', id: SONG_ID, fields: { notes: 'somebody else' } }]);
  const rename = (trackId: string, name: string) => send(id, revision, [named(trackId, name)]);
  const answers = await Promise.all([rename(first?.id ?? '', 'One'), rename(second?.id ?? '', 'Two')]);
  expect(answers.map((a) => a.status)).toEqual([200, 200]);
  expect(tracksInOrder((await viewOf(id)).session).map((t) => t.name)).toEqual(['One', 'Two']);
});

it('while 40 files arrive none of a person’s steps is refused', async () => {
  const id = await withTracks('Arriving', 4);
  const first = await viewOf(id);
  const tracks = tracksInOrder(first.session);
  let isOver = false;
  const bytes = await wavBytes([tone(440, 0.2)]);
  const arriving = (async () => {
    for (let n = 0; n < 40; n++) await upload(id, `More ${n}.wav`, bytes);
    isOver = true;
  })();
  const statuses: number[] = [];
  for (let n = 0; !isOver || n < 8; n++) {
    const track = tracks[n % tracks.length];
    // Always on the state before the first file: the page hears late.
    const known = n < tracks.length ? first : await viewOf(id);
    const { status } = await edit(
      id,
      'Step',
      [
        { kind: 'track.change', id: track?.id ?? '', fields: { name: `Name ${n}`, gainDb: -n / 10 } },
        { kind: 'node.place', id: track?.id ?? '', parentId: 'root', index: n % 4 },
      ],
      known,
    );
    statuses.push(status);
  }
  await arriving;
  await settled(id);
  expect(statuses.filter((s) => s !== 200)).toEqual([]);
  expect(tracksInOrder((await viewOf(id)).session)).toHaveLength(44);
  const { rows, replayed } = await verifyReplay(id);
  expect(replayed).toEqual(rows);
}, 300_000);

it('a step that is sent again because its answer was lost is done once; what both changed is told with what was done', async () => {
  const id = await withTracks('Sent again', 1);
  const { revision, session } = await viewOf(id);
  const track = tracksInOrder(session)[0];
  const mine = (name: string): Edit[] => [named(track?.id ?? '', name)];
  const batchId = randomUUID();
  for (let n = 0; n < 3; n++)
    expect((await send(id, revision, mine('Mine'), batchId)).value).toMatchObject({
      revision: revision + 1,
      since: [{ batchId, revision: revision + 1, edits: mine('Mine') }],
    });
  const { status, value } = await send(id, revision, mine('Other'));
  expect([status, value.fault?.code, value.fault?.since?.map((b) => b.batchId)]).toEqual([
    409,
    'session.conflict',
    [batchId],
  ]);
  expect((await send(id, revision + 5, mine('Ahead'))).value.fault?.code).toBe('session.stale_revision');
});

/** The next messages of a session's stream. */
async function* messages(id: string, signal: AbortSignal, headers = {}): AsyncGenerator<string> {
  const response = await fetch(`${BASE}/api/sessions/${id}/events`, { signal, headers });
  let text = '';
  const decoder = new TextDecoder();
  for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
    text += decoder.decode(part, { stream: true });
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const message = text.slice(0, end);
      const data = /^data: (.*)$/m.exec(message)?.[1];
      // Of another name are the signs of life: a page takes only messages for news.
      if (data !== undefined && !/^event:/m.test(message)) yield data;
      text = text.slice(end + 2);
    }
  }
}

it('a rename travels to the other pages in less than two kilobytes, whatever the session holds', async () => {
  const id = await withTracks('Light', 12);
  const stop = new AbortController();
  const stream = messages(id, stop.signal);
  const first = JSON.parse((await stream.next()).value as string) as { revision: number; rest: string };
  const view = await viewOf(id);
  expect([first.revision, first.rest]).toEqual([view.revision, view.rest]);
  const track = tracksInOrder(view.session)[3];
  const edits: Edit[] = [named(track?.id ?? '', 'Light')];
  const { value } = await send(id, view.revision, edits);
  const told = (await stream.next()).value as string;
  expect(JSON.parse(told)).toMatchObject({ revision: value.revision, rest: first.rest, since: [{ edits }] });
  expect(told.length + JSON.stringify(value).length).toBeLessThan(2048);
  // A step taken back is told as one, with what could be taken back next.
  const undone = await call<Answer>(`/api/sessions/${id}/undo?after=${value.revision}`, 'POST');
  const labels = { undoLabel: null, redoLabel: 'Step' };
  const since = [{ action: 'undo', edits: [named(track?.id ?? '', track?.name ?? '')] }];
  expect(undone.value).toMatchObject({ revision: value.revision + 1, since, ...labels });
  expect(JSON.parse((await stream.next()).value as string)).toMatchObject({ since, ...labels });
  stop.abort();
  // A page that was away hears what came since the revision it had.
  const again = new AbortController();
  const back = messages(id, again.signal, { 'last-event-id': String(view.revision) });
  expect(JSON.parse((await back.next()).value as string)).toMatchObject({
    since: [{ edits }, { action: 'undo' }],
  });
  again.abort();
});

it('a stream goes on hearing of steps when the connection that listens for it was cut', async () => {
  const id = await withTracks('Cut off', 1);
  const stop = new AbortController();
  const stream = messages(id, stop.signal);
  await stream.next();
  await asAdministrator(
    "select pg_terminate_backend(pid) from pg_stat_activity where query ilike 'listen session_changed%'",
  );
  const { session } = await viewOf(id);
  const track = tracksInOrder(session)[0];
  for (const name of ['One', 'Two']) {
    expect((await edit(id, 'Rename', [named(track?.id ?? '', name)])).status).toBe(200);
    const told = JSON.parse((await stream.next()).value as string) as { since: CommittedBatch[] };
    expect(told.since.map((b) => b.edits)).toEqual([[named(track?.id ?? '', name)]]);
  }
  stop.abort();
});
