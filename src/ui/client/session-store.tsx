'use client';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { BatchAnswer, CommittedBatch, Fault, SessionNews, SessionView, StepLabels } from '@/contracts';
import {
  applyChanges,
  type AskedBatch,
  type Batch,
  type Choice,
  type Conflict,
  type Change,
  concerns,
  type Edit,
  goneOn,
  withBatches,
  type HeldSession,
  holdSession,
  rebase,
  shownSession,
  withPending,
} from '@/core/session';
import { api, faultOf } from './api';
import { knownNames } from './names';
import { followEvents, RETRY_MS } from './session-events';
import { shared } from './shared';

/** One session in the page: what the server confirmed, with the page's own steps on top. */
export interface SessionStore {
  readonly view: SessionView;
  /** The last thing that went wrong; null = nothing. */
  readonly fault: Fault | null;
  /** Steps that others' changes stand against, oldest first: the person chooses. */
  readonly asked: readonly AskedBatch[];
  /** Own steps that the server has not confirmed yet. */
  readonly unsent: number;
  /** False while the server does not answer. */
  readonly online: boolean;
  /** Makes changes as one undo step; false if they do not fit. Changes that replace a whole are made from the session they meet: an undo may still be on its way. */
  commit(label: string, changes: readonly Change[] | ((view: SessionView) => readonly Change[])): boolean;
  undo(): void;
  redo(): void;
  /** Fetches the truth again. */
  refresh(): Promise<void>;
  /** Takes what the event stream tells. */
  receive(news: SessionNews): void;
  /** Calls the server and shows a fault if there is one; true if it went well. */
  call(path: string, body?: unknown, method?: 'POST' | 'DELETE'): Promise<boolean>;
  dismissFault(): void;
  /** Decides the oldest step that is asked about: by field, or all of it let go (null). */
  decide(choose: ((conflict: Conflict) => Choice) | null): void;
}

/** Before the server is asked again. */
const pause = (): Promise<void> => new Promise((done) => setTimeout(done, RETRY_MS));

/** Whether after these edits more than the session is another: recordings, what is conformed, the style. */
const reaches = (edits: readonly Edit[]): boolean =>
  edits.some((e) => e.kind !== 'patch' && (e.of === 'track' || e.of === 'map')) ||
  concerns(edits, 'map', 'content') ||
  concerns(edits, 'lane', 'recordingId') ||
  concerns(edits, 'lane', 'keepsSamples') ||
  (['conform', 'sampleRateHz', 'style'] as const).some((field) => concerns(edits, 'song', field));

/** Store of one session; its steps are sent one after the other, and sent again until they are answered. */
function createSessionStore(first: SessionView): StoreApi<SessionStore> {
  let chain: Promise<void> = Promise.resolve();
  let held = holdSession(first.revision, first.session);
  /** Undo and redo on their way: what is done meanwhile comes after them. */
  let stepping = 0;
  /** Asked for while steps were on their way: done after them. */
  let isRefreshWanted = false;
  let knownRest = first.rest;
  const base = `/api/sessions/${first.id}`;
  return createStore<SessionStore>((set, get) => {
    /** Shows what is held, beside what else is new. */
    const show = (more: Partial<SessionView> = {}): void =>
      set({
        view: { ...get().view, ...more, revision: held.revision, session: shownSession(held) },
        unsent: held.pending.length,
      });
    const adopt = (next: { readonly held: HeldSession; readonly asked: readonly AskedBatch[] }): void => {
      held = next.held;
      const open = next.asked.filter((a) => a.conflicts.length > 0);
      const unfit = next.asked.find((a) => a.conflicts.length === 0 && a.fault);
      if (open.length > 0) set({ asked: [...get().asked, ...open] });
      if (unfit?.fault) set({ fault: { code: unfit.fault.code } });
    };
    /** Takes batches the server did; false if they do not follow on what is held. */
    const follow = (batches: readonly CommittedBatch[], labels: Partial<StepLabels> = {}): boolean => {
      const fresh = batches.filter((b) => b.revision > held.revision);
      const next = withBatches(held, fresh);
      if (!next) return false;
      adopt(next);
      const last = fresh.findLast((b) => b.undoable);
      const { undoLabel, redoLabel } = labels;
      const isKnown = undoLabel !== undefined && redoLabel !== undefined;
      const isPlain = fresh.every((b) => b.action === 'do');
      const isMore = get().view.session.conform !== null || fresh.some((b) => reaches(b.edits));
      if (isMore || !(isPlain || isKnown)) isRefreshWanted = true;
      if (isKnown) show({ undoLabel, redoLabel });
      else show(isPlain && last ? { undoLabel: last.label, redoLabel: null } : {});
      return true;
    };
    /** Lays one's own steps over a whole that was fetched, asked for at revision `known`; false if newer things came meanwhile. */
    const adoptWhole = (
      fresh: SessionView,
      known: number,
      done: ReadonlySet<string> = new Set(),
    ): boolean => {
      // Older than when it was asked for, the store went back to a backup: that is the truth now.
      if (fresh.revision < held.revision && fresh.revision >= known) return false;
      const { session, ...rest } = fresh;
      // The same revision is the same session: keeping its object spares the page all that depends on it.
      const to = fresh.revision === held.revision ? held.confirmed : session;
      adopt(goneOn(held, { revision: fresh.revision, session: to }, done));
      knownRest = fresh.rest;
      set({ online: true });
      show(shared(get().view, rest));
      return true;
    };
    /** What became of the step that was sent. */
    const answered = async (sent: Batch, answer: BatchAnswer, isDone: boolean): Promise<void> => {
      if (answer.since && follow(answer.since, answer)) return;
      const known = held.revision;
      adoptWhole(await api<SessionView>(base), known, isDone ? new Set([sent.id]) : new Set());
    };
    const letGo = (batchId: string): void => {
      adopt(goneOn(held, { revision: held.revision, session: held.confirmed }, new Set([batchId])));
      show();
    };
    const sendOldest = async (): Promise<void> => {
      const [sent] = held.pending;
      if (!sent) return;
      const { id: batchId, label, edits } = sent;
      try {
        const body = { batchId, baseRevision: held.revision, label, edits };
        const answer = await api<BatchAnswer>(`${base}/edits`, 'POST', body);
        if (!get().online) set({ online: true });
        if (get().fault?.code === 'store.disk_full') set({ fault: null });
        await answered(sent, answer, true);
        // Laid over what others did, nothing of it was left to do.
        if (held.pending.some((b) => b.id === batchId)) letGo(batchId);
      } catch (cause) {
        const fault = faultOf(cause);
        if (fault.offline || fault.code === 'store.database_away') {
          set({ online: false });
          await pause();
        } else if (fault.code === 'store.disk_full') {
          // The step waits until there is room again.
          set({ fault });
          await pause();
        } else if (fault.code === 'session.conflict')
          await answered(sent, fault as unknown as BatchAnswer, false);
        // Too far apart to be told one by one: laid over the whole, it is sent again.
        else if (fault.code === 'session.stale_revision')
          await answered(sent, { revision: held.revision, since: null }, false);
        else {
          letGo(batchId);
          set({ fault });
          isRefreshWanted = true;
        }
      }
    };
    const settle = async (): Promise<void> => {
      while (held.pending.length > 0)
        await sendOldest().catch((cause: unknown) => {
          set({ fault: faultOf(cause) });
          return pause();
        });
      if (isRefreshWanted) await get().refresh();
    };
    const askAgain = (): void => {
      isRefreshWanted = true;
      chain = chain.then(settle);
    };
    const step = (action: 'undo' | 'redo'): void => {
      stepping++;
      chain = chain.then(async () => {
        try {
          const answer = await api<BatchAnswer>(`${base}/${action}?after=${held.revision}`, 'POST');
          if (!answer.since || !follow(answer.since, answer)) isRefreshWanted = true;
        } catch (cause) {
          set({ fault: faultOf(cause) });
          isRefreshWanted = true;
        }
        if (isRefreshWanted) await get().refresh();
        stepping--;
      });
    };
    return {
      view: first,
      fault: null,
      asked: [],
      unsent: 0,
      online: true,
      commit(label, wanted) {
        if (stepping > 0) {
          chain = chain.then(() => void get().commit(label, wanted));
          return true;
        }
        const changes = typeof wanted === 'function' ? wanted(get().view) : wanted;
        const outcome = applyChanges(shownSession(held), changes);
        if (!outcome.ok) {
          set({ fault: { code: outcome.code } });
          return false;
        }
        const { edits } = outcome;
        if (edits.length === 0) return true;
        held = withPending(held, { id: crypto.randomUUID(), label, edits, after: outcome.session });
        show();
        chain = chain.then(settle);
        return true;
      },
      undo: () => step('undo'),
      redo: () => step('redo'),
      async refresh() {
        isRefreshWanted = held.pending.length > 0;
        if (isRefreshWanted) return;
        try {
          const known = held.revision;
          const fresh = await api<SessionView>(base);
          // Asked before a step of one's own, it may hold it or not: what came of it is to be asked for again.
          if (held.pending.length > 0 || !adoptWhole(fresh, known)) askAgain();
        } catch (cause) {
          const fault = faultOf(cause);
          if (fault.offline) set({ online: false });
          else set({ fault });
        }
      },
      receive({ revision, rest, since, progress = {}, ...labels }) {
        const { jobs } = get().view;
        if (jobs.some((j) => j.progress < (progress[j.id] ?? 0)))
          show({ jobs: jobs.map((j) => ({ ...j, progress: Math.max(j.progress, progress[j.id] ?? 0) })) });
        const isFollowed = since ? follow(since, labels) : revision <= held.revision;
        if (!isFollowed || rest !== knownRest || isRefreshWanted) void get().refresh();
      },
      async call(path, body, method = 'POST') {
        // What is asked for is asked for with the steps that were made before.
        if (held.pending.length > 0 && get().online) await chain;
        try {
          await api(path, method, body ?? {});
          await get().refresh();
          return true;
        } catch (cause) {
          set({ fault: faultOf(cause) });
          return false;
        }
      },
      dismissFault: () => set({ fault: null }),
      decide(choose) {
        const [open, ...rest] = get().asked;
        set({ asked: rest });
        if (!open || !choose) return;
        const laid = rebase(open.batch.edits, open.base, shownSession(held), choose);
        if (laid.ok) get().commit(open.batch.label, laid.edits);
        else set({ fault: { code: laid.fault?.code ?? 'session.conflict' } });
      },
    };
  });
}

const Context = createContext<StoreApi<SessionStore> | null>(null);

/** Holds one session for everything below, and follows the server's changes. */
export function SessionProvider({
  initial,
  children,
}: {
  readonly initial: SessionView;
  readonly children: ReactNode;
}) {
  const [store] = useState(() => createSessionStore(initial));
  // What is proposed and noticed depends on names that were read meanwhile.
  useEffect(
    () => knownNames().subscribe(() => store.setState(({ view }) => ({ view: { ...view } }))),
    [store],
  );
  useEffect(() => followEvents(store, initial.id), [store, initial.id]);
  useEffect(() => {
    // What the server has not confirmed is in this page only.
    const warn = (event: BeforeUnloadEvent): void => {
      if (store.getState().unsent > 0) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => {
      // Another page of ours is shown, and steps still wait to be sent: closing it would lose them as well.
      if (store.getState().unsent === 0) window.removeEventListener('beforeunload', warn);
    };
  }, [store]);
  return <Context.Provider value={store}>{children}</Context.Provider>;
}

/** The store itself, for event handlers. */
export function useSessionStore(): StoreApi<SessionStore> {
  const store = useContext(Context);
  if (!store) throw new RangeError('useSession outside SessionProvider');
  return store;
}

/** A part of the session's state. */
export function useSession<T>(select: (store: SessionStore) => T): T {
  return useStore(useSessionStore(), select);
}
