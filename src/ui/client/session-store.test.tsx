import { DEFAULT_STYLE } from '@/core/style';
import { NO_RELATIONS } from '@/core/findings';
import { act, render, waitFor } from '@testing-library/react';
import { useEffect } from 'react';
import type { StoreApi } from 'zustand/vanilla';
import type { CommittedBatch, EditRequest, SessionView } from '@/contracts';
import { applyChanges, type Change, type Edit, emptySession } from '@/core/session';
import { SessionProvider, useSessionStore, type SessionStore } from './session-store';

/** A server of one session: it applies edits as ours does, and can be told to fail. */
class FakeServer {
  view: SessionView = {
    id: 's',
    revision: 3,
    rest: 'r',
    session: emptySession('Slip'),
    recordings: [],
    jobs: [],
    jobsElsewhere: [],
    handovers: [],
    conform: null,
    tempo: null,
    balance: null,
    sections: null,
    takes: null,
    measuredBy: null,
    undoLabel: null,
    redoLabel: null,
    relations: NO_RELATIONS,
    style: DEFAULT_STYLE,
    styleNewest: null,
    dismissals: [],
    freeBytes: 1e12,
  };
  readonly posts: { path: string; body: unknown }[] = [];
  next: { status: number; value: unknown } | 'offline' | null = null;
  /** Holds back the answers to questions, as they were when asked. */
  hold: Promise<void> | null = null;

  readonly log: CommittedBatch[] = [];
  /** What takes the steps back, the newest last. */
  readonly inverses: (readonly Edit[])[] = [];
  gets = 0;

  /** Does a step, as somebody else unless it is named. */
  done(label: string, changes: readonly Change[], batchId: string | null = null): void {
    const outcome = applyChanges(this.view.session, changes);
    if (!outcome.ok) throw new Error(outcome.code);
    const revision = this.view.revision + 1;
    this.view = { ...this.view, session: outcome.session, revision, undoLabel: label };
    this.log.push({ revision, batchId, action: 'do', undoable: true, label, edits: outcome.edits });
    this.inverses.push(outcome.inverse);
  }

  /** Takes the newest step back. */
  undo(): void {
    const { label = '' } = this.log.at(-1) ?? {};
    this.done(label, this.inverses.at(-1) ?? []);
    this.log.push({ ...(this.log.pop() as CommittedBatch), action: 'undo' });
    this.view = { ...this.view, undoLabel: null, redoLabel: label };
  }

  /** What the event stream tells of the steps after a revision. */
  tell(after: number): void {
    const { revision, rest } = this.view;
    const since = this.log.filter((b) => b.revision > after);
    events.onmessage?.({ data: JSON.stringify({ revision, rest, since }) });
  }

  async answer(
    path: string,
    options: { method?: string; body?: string } = {},
  ): Promise<{ ok: boolean; status: number; json: () => Promise<unknown> }> {
    const reply = (status: number, value: unknown) => ({
      ok: status < 400,
      status,
      json: async () => JSON.parse(JSON.stringify(value)) as unknown,
    });
    const { next } = this;
    this.next = null;
    if (next === 'offline') throw new TypeError('fetch failed');
    if (options.method === 'POST') {
      const body = options.body ? (JSON.parse(options.body) as Partial<EditRequest>) : {};
      this.posts.push({ path, body });
      if (next) return reply(next.status, next.value);
      if (path.endsWith('/edits') && this.log.every((b) => b.batchId !== body.batchId))
        this.done(body.label ?? '', body.edits ?? [], body.batchId ?? null);
      else if (path.includes('/undo')) this.undo();
      else if (!path.endsWith('/edits')) this.done('', []);
      const known = body.baseRevision ?? Number(path.split('after=')[1] ?? 0);
      const since = this.log.filter((b) => b.revision > known);
      const { revision, undoLabel, redoLabel } = this.view;
      return reply(200, { revision, since, ...(path.includes('/undo') ? { undoLabel, redoLabel } : {}) });
    }
    this.gets++;
    const answer = next ? reply(next.status, next.value) : reply(200, this.view);
    await this.hold;
    return answer;
  }
}

let server: FakeServer;
let store: StoreApi<SessionStore>;
let events: {
  onmessage?: (event: { data: string }) => void;
  onerror?: () => void;
  onopen?: () => void;
  addEventListener: (name: string, listener: () => void) => void;
  close: () => void;
};

const keep = (own: StoreApi<SessionStore>): void => {
  store = own;
};
function Grab(): null {
  const own = useSessionStore();
  useEffect(() => keep(own), [own]);
  return null;
}

beforeEach(() => {
  server = new FakeServer();
  globalThis.fetch = jest.fn((path: string, options?: { method?: string; body?: string }) =>
    server.answer(path, options),
  ) as unknown as typeof fetch;
  events = { addEventListener: jest.fn(), close: jest.fn() };
  Object.assign(globalThis, { EventSource: jest.fn(() => events) });
  render(
    <SessionProvider initial={server.view}>
      <Grab />
    </SessionProvider>,
  );
});

const describeAs = (notes: string): Change[] => [{ kind: 'session.describe', notes }];
const state = (): SessionStore => store.getState();

it('does an edit at once and sends it with the revision it was made on', async () => {
  expect(state().commit('Notes', describeAs('one'))).toBe(true);
  expect(state().view.session.notes).toBe('one');
  await waitFor(() => expect(state().view.revision).toBe(4));
  expect(server.posts[0]).toEqual({
    path: '/api/sessions/s/edits',
    body: {
      batchId: expect.any(String) as string,
      baseRevision: 3,
      label: 'Notes',
      edits: [{ kind: 'patch', of: 'song', id: 'song', fields: { notes: 'one' } }],
    },
  });
  expect(state().view.undoLabel).toBe('Notes');
});

it('sends edits one after the other, each on the revision before', async () => {
  state().commit('a', describeAs('a'));
  state().commit('b', describeAs('b'));
  await waitFor(() => expect(state().view.revision).toBe(5));
  expect(server.posts.map((p) => (p.body as { baseRevision: number }).baseRevision)).toEqual([3, 4]);
});

it('an answer that was on its way while an edit was made does not take it back', async () => {
  let letGo = (): void => undefined;
  server.hold = new Promise((done) => {
    letGo = done;
  });
  const asked = state().refresh();
  state().commit('a', describeAs('a'));
  await waitFor(() => expect(state().view.revision).toBe(4));
  letGo();
  await asked;
  expect([state().view.revision, state().view.session.notes]).toEqual([4, 'a']);
  state().commit('b', describeAs('b'));
  await waitFor(() => expect(state().view.revision).toBe(5));
  expect(state().asked).toEqual([]);
});

it('what is done right after an undo comes after it, on the revision it led to', async () => {
  state().commit('a', describeAs('a'));
  await waitFor(() => expect(state().view.revision).toBe(4));
  state().undo();
  state().commit('b', describeAs('b'));
  state().commit('c', describeAs('c'));
  await waitFor(() => expect(state().view.revision).toBe(7));
  expect(
    server.posts.map((p) => [p.path.split('/').at(-1), (p.body as { baseRevision?: number }).baseRevision]),
  ).toEqual([
    ['edits', 3],
    ['undo?after=4', undefined],
    ['edits', 5],
    ['edits', 6],
  ]);
  expect(state()).toMatchObject({ asked: [], fault: null });
});

it('an edit made from the whole, right after an undo, is made from what the undo led to', async () => {
  state().commit('a', describeAs('a'));
  await waitFor(() => expect(state().view.revision).toBe(4));
  state().undo();
  state().commit('b', ({ session }) => describeAs(`${session.notes} and b`));
  await waitFor(() => expect(server.view.session.notes).toBe(' and b'));
});

it('an undo is told as a step: the whole is not fetched for it, and the labels are those of then', async () => {
  state().commit('a', describeAs('a'));
  await waitFor(() => expect(state().view.revision).toBe(4));
  state().undo();
  await waitFor(() => expect(state().view).toMatchObject({ revision: 5, undoLabel: null, redoLabel: 'a' }));
  expect([state().view.session.notes, server.gets]).toEqual(['', 0]);
});

it('refuses an edit that does not fit, without asking the server', () => {
  expect(state().commit('x', [{ kind: 'folder.remove', id: 'nowhere' }])).toBe(false);
  expect(state().fault?.code).toBe('edit.unknown_id');
  expect(server.posts).toEqual([]);
  state().dismissFault();
  expect(state().fault).toBeNull();
});

const bus = (id: string, name = id): Change => ({
  kind: 'bus.add',
  bus: { id, name, color: null, outputBusId: null, kind: 'sum', sends: [], byHand: [] },
  index: 0,
});
const named = (id: string, name: string): Change => ({ kind: 'bus.change', id, fields: { name } });

describe('others work on the session as well', () => {
  it('their steps are laid under those that are on their way; nothing is asked', async () => {
    server.done('Theirs', [bus('b')]);
    state().commit('Mine', describeAs('mine'));
    await waitFor(() => expect(state()).toMatchObject({ unsent: 0, asked: [], fault: null }));
    expect(state().view).toMatchObject({ revision: 5, session: { notes: 'mine', busOrder: ['b'] } });
  });

  it('two steps made quickly while the server is ahead: both are done', async () => {
    server.done('Theirs', [bus('b')]);
    state().commit('one', describeAs('one'));
    state().commit('two', [{ kind: 'session.describe', artist: 'two' }]);
    await waitFor(() => expect(server.view.session).toMatchObject({ notes: 'one', artist: 'two' }));
    await waitFor(() => expect(state().view.revision).toBe(6));
    expect(server.view.session.busOrder).toEqual(['b']);
  });

  it('their steps come with the stream, and the whole is not fetched for them', async () => {
    server.done('Theirs', [bus('b')]);
    act(() => server.tell(3));
    expect(state().view).toMatchObject({ revision: 4, session: { busOrder: ['b'] }, undoLabel: 'Theirs' });
    expect(globalThis.fetch).not.toHaveBeenCalled();
    // After a gap it is.
    server.done('x', [bus('c')]);
    server.done('y', [bus('d')]);
    act(() => server.tell(5));
    await waitFor(() => expect(state().view.session.busOrder).toHaveLength(3));
  });

  it('what both changed is asked field by field, the rest is done; the choice holds', async () => {
    server.done('Buses', [bus('b', 'Drums'), bus('c', 'Keys')]);
    act(() => server.tell(3));
    server.done('Theirs', [named('b', 'Kit')]);
    server.next = {
      status: 409,
      value: { fault: { code: 'session.conflict', revision: 5, since: server.log } },
    };
    state().commit('Mine', [named('b', 'Trommeln'), named('c', 'Tasten')]);
    await waitFor(() => expect(state().asked).toHaveLength(1));
    expect(state().asked[0]?.conflicts).toMatchObject([
      { record: { kind: 'bus', name: 'Kit' }, field: 'name', mine: 'Trommeln', theirs: 'Kit' },
    ]);
    // Until a choice is made the page shows the truth.
    expect(state().view.session.buses.b?.name).toBe('Kit');
    state().decide(() => 'mine');
    await waitFor(() => expect(server.view.session.buses.b?.name).toBe('Trommeln'));
    expect(server.view.session.buses.c?.name).toBe('Tasten');
    expect(state().asked).toEqual([]);
  });

  it('a step that is let go leaves theirs', async () => {
    server.done('Theirs', describeAs('theirs'));
    server.next = {
      status: 409,
      value: { fault: { code: 'session.conflict', revision: 4, since: server.log } },
    };
    state().commit('Mine', describeAs('mine'));
    await waitFor(() => expect(state().asked).toHaveLength(1));
    state().decide(null);
    expect(state()).toMatchObject({ asked: [], view: { session: { notes: 'theirs' } } });
    expect(server.view.session.notes).toBe('theirs');
  });
});

it('with a full disk a step waits, and is done when there is room', async () => {
  server.next = { status: 507, value: { fault: { code: 'store.disk_full' } } };
  state().commit('Mine', describeAs('mine'));
  await waitFor(() => expect(state()).toMatchObject({ fault: { code: 'store.disk_full' }, unsent: 1 }));
  expect(state().view.session.notes).toBe('mine');
  await waitFor(() => expect(server.view.session.notes).toBe('mine'), { timeout: 8000 });
  await waitFor(() => expect(state()).toMatchObject({ unsent: 0, fault: null }));
}, 15_000);

it('what is asked of the server comes after the steps made before', async () => {
  state().commit('Mine', describeAs('mine'));
  await state().call('/api/sessions/s/handovers');
  expect(server.posts.map((p) => p.path.split('/').at(-1))).toEqual(['edits', 'handovers']);
  expect(server.view.session.notes).toBe('mine');
});

it('a step made too far back is laid over the whole and sent again', async () => {
  server.done('Theirs', [{ kind: 'session.describe', artist: 'theirs' }]);
  server.next = { status: 409, value: { fault: { code: 'session.stale_revision', since: [] } } };
  state().commit('Mine', describeAs('mine'));
  await waitFor(() => expect(server.view.session).toMatchObject({ artist: 'theirs', notes: 'mine' }));
  expect(server.posts.map((p) => (p.body as EditRequest).baseRevision)).toEqual([3, 4]);
  await waitFor(() => expect(state()).toMatchObject({ unsent: 0, fault: null, asked: [] }));
});

it('a store that went back to a backup is followed, and asked once', async () => {
  server.view = { ...server.view, revision: 1, session: { ...server.view.session, notes: 'before' } };
  await act(() => state().refresh());
  expect(state().view).toMatchObject({ revision: 1, session: { notes: 'before' } });
  expect(globalThis.fetch).toHaveBeenCalledTimes(1);
});

it('how far jobs are comes by itself, and never goes back', () => {
  const job = {
    id: 'j',
    kind: 'recording.arrive',
    sessionId: 's',
    subject: 'x',
    state: 'running',
    progress: 0.4,
  } as const;
  store.setState(({ view }) => ({
    view: { ...view, jobs: [{ ...job, fault: null, createdAt: '', finishedAt: null }] },
  }));
  const tell = (progress: number): void =>
    state().receive({ revision: 3, rest: 'r', progress: { j: progress, other: 1 } });
  act(() => tell(0.7));
  expect(state().view.jobs.map((j) => j.progress)).toEqual([0.7]);
  act(() => tell(0.5));
  expect(state().view.jobs.map((j) => j.progress)).toEqual([0.7]);
  expect(globalThis.fetch).not.toHaveBeenCalled();
});

it.each(['lost', 'cut'])(
  'a step whose answer was %s is sent again, and done once',
  async (how) => {
    const { answer } = server;
    let isLost = true;
    server.answer = async (path, options) => {
      const said = await answer.call(server, path, options);
      if (!isLost || !path.endsWith('/edits')) return said;
      isLost = false;
      if (how === 'lost') throw new TypeError('connection lost');
      return { ...said, json: () => Promise.reject(new TypeError('the body broke off')) };
    };
    state().commit('Once', describeAs('once'));
    await waitFor(() => expect(state()).toMatchObject({ online: false, unsent: 1 }));
    await waitFor(() => expect(state()).toMatchObject({ online: true, unsent: 0, fault: null }), {
      timeout: 8000,
    });
    expect(server.log.map((b) => b.label)).toEqual(['Once']);
    expect(state().view).toMatchObject({ revision: 4, session: { notes: 'once' } });
  },
  15_000,
);

it('takes back what the server refused, even when nothing else changed', async () => {
  server.next = { status: 500, value: { fault: { code: 'internal' } } };
  state().commit('Lost', describeAs('lost'));
  expect(state().view.session.notes).toBe('lost');
  await waitFor(() => expect(state().fault?.code).toBe('internal'));
  await waitFor(() => expect(state().view.session.notes).toBe(''));
  expect(state().view.revision).toBe(3);
});

it('says when the server is away, and comes back by itself', async () => {
  server.next = 'offline';
  await act(() => state().refresh());
  expect(state().online).toBe(false);
  await act(() => state().refresh());
  expect(state().online).toBe(true);
});

it('follows what others did; the same revision keeps the same session object', async () => {
  const before = state().view.session;
  await act(() => state().refresh());
  expect(state().view.session).toBe(before);
  server.view = { ...server.view, revision: 9, session: { ...server.view.session, notes: 'theirs' } };
  events.onmessage?.({ data: JSON.stringify({ revision: 9, rest: 'r' }) });
  await waitFor(() => expect(state().view.session.notes).toBe('theirs'));
});

it('shows a fault of a call and tells its caller', async () => {
  server.next = { status: 422, value: { fault: { code: 'delivery.not_ready' } } };
  expect(await state().call('/api/sessions/s/handovers')).toBe(false);
  expect(state().fault?.code).toBe('delivery.not_ready');
  expect(await state().call('/api/sessions/s/handovers')).toBe(true);
});

it('while the server is away it asks again by itself, with a new stream when the old one is dead', async () => {
  act(() => events.onerror?.());
  expect(state().online).toBe(false);
  await waitFor(() => expect(state().online).toBe(true), { timeout: 8000 });
  expect((globalThis.EventSource as unknown as jest.Mock).mock.calls.length).toBe(2);
}, 10_000);
