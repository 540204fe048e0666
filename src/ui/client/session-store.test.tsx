import { DEFAULT_STYLE } from '@/core/style';
import { NO_RELATIONS } from '@/core/findings';
import { act, render, waitFor } from '@testing-library/react';
import { useEffect } from 'react';
import type { StoreApi } from 'zustand/vanilla';
import type { SessionView } from '@/contracts';
import { applyEdits, emptySession, type Edit } from '@/core/session';
import { SessionProvider, useSessionStore, type SessionStore } from './session-store';

/** A server of one session: it applies edits as ours does, and can be told to fail. */
class FakeServer {
  view: SessionView = {
    id: 's',
    revision: 3,
    session: emptySession('Slip'),
    recordings: [],
    jobs: [],
    handovers: [],
    conform: null,
    tempo: null,
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
      const body = options.body ? (JSON.parse(options.body) as { edits?: Edit[]; label?: string }) : {};
      this.posts.push({ path, body });
      if (next) return reply(next.status, next.value);
      const outcome = applyEdits(this.view.session, body.edits ?? []);
      if (outcome.ok)
        this.view = {
          ...this.view,
          session: outcome.session,
          revision: this.view.revision + 1,
          undoLabel: body.label ?? null,
        };
      return reply(200, { revision: this.view.revision });
    }
    const answer = next ? reply(next.status, next.value) : reply(200, this.view);
    await this.hold;
    return answer;
  }
}

let server: FakeServer;
let store: StoreApi<SessionStore>;
let events: { onmessage?: () => void; onerror?: () => void; onopen?: () => void; close: () => void };

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
  events = { close: jest.fn() };
  Object.assign(globalThis, { EventSource: jest.fn(() => events) });
  render(
    <SessionProvider initial={server.view}>
      <Grab />
    </SessionProvider>,
  );
});

const describeAs = (notes: string): Edit[] => [{ kind: 'session.describe', notes }];
const state = (): SessionStore => store.getState();

it('does an edit at once and sends it with the revision it was made on', async () => {
  expect(state().commit('Notes', describeAs('one'))).toBe(true);
  expect(state().view.session.notes).toBe('one');
  await waitFor(() => expect(state().view.revision).toBe(4));
  expect(server.posts[0]).toEqual({
    path: '/api/sessions/s/edits',
    body: { baseRevision: 3, label: 'Notes', edits: describeAs('one') },
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
  expect(state().stale).toBeNull();
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
    ['undo', undefined],
    ['edits', 5],
    ['edits', 6],
  ]);
  expect(state()).toMatchObject({ stale: null, fault: null });
});

it('an edit made from the whole, right after an undo, is made from what the undo led to', async () => {
  state().commit('a', describeAs('a'));
  await waitFor(() => expect(state().view.revision).toBe(4));
  state().undo();
  server.view = { ...server.view, session: { ...server.view.session, notes: 'before' } };
  state().commit('b', ({ session }) => describeAs(`${session.notes} and b`));
  await waitFor(() => expect(server.view.session.notes).toBe('before and b'));
});

it('refuses an edit that does not fit, without asking the server', () => {
  expect(state().commit('x', [{ kind: 'folder.remove', id: 'nowhere' }])).toBe(false);
  expect(state().fault?.code).toBe('edit.unknown_id');
  expect(server.posts).toEqual([]);
  state().dismissFault();
  expect(state().fault).toBeNull();
});

it('offers a choice when the session changed meanwhile, and does the step on top if wanted', async () => {
  server.next = {
    status: 409,
    value: { fault: { code: 'session.stale_revision', since: [{ label: 'Theirs' }] } },
  };
  state().commit('Mine', describeAs('mine'));
  await waitFor(() => expect(state().stale).toMatchObject({ label: 'Mine', since: ['Theirs'] }));
  // The page shows the truth again until a choice is made.
  await waitFor(() => expect(state().view.session.notes).toBe(''));
  state().resolveStale(true);
  await waitFor(() => expect(server.view.session.notes).toBe('mine'));
  expect(state().stale).toBeNull();
});

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
  events.onmessage?.();
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
