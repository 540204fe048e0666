'use client';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Fault, SessionView } from '@/contracts';
import { applyEdits, type Edit } from '@/core/session';
import { api, faultOf } from './api';
import { knownNames } from './names';
import { shared } from './shared';

/** An edit that met a changed session: the person chooses. */
export interface StaleEdit {
  readonly label: string;
  readonly edits: readonly Edit[];
  /** What was done meanwhile. */
  readonly since: readonly string[];
}

/** One session in the page: the server's truth, edits applied at once. */
export interface SessionStore {
  readonly view: SessionView;
  /** The last thing that went wrong; null = nothing. */
  readonly fault: Fault | null;
  readonly stale: StaleEdit | null;
  /** False while the server does not answer. */
  readonly online: boolean;
  /** Does edits as one undo step; false if they do not fit. Edits that replace a whole are made from the session they meet: an undo may still be on its way. */
  commit(label: string, edits: readonly Edit[] | ((view: SessionView) => readonly Edit[])): boolean;
  undo(): void;
  redo(): void;
  /** Fetches the truth again. */
  refresh(): Promise<void>;
  /** Calls the server and shows a fault if there is one; true if it went well. */
  call(path: string, body?: unknown, method?: 'POST' | 'DELETE'): Promise<boolean>;
  dismissFault(): void;
  resolveStale(apply: boolean): void;
}

/** Store of one session; edits are sent one after the other. */
function createSessionStore(first: SessionView): StoreApi<SessionStore> {
  let queue: Promise<void> = Promise.resolve();
  let pending = 0;
  /** Undo and redo on their way: what is done meanwhile comes after them. */
  let stepping = 0;
  /** An edit done here was refused there: what this page holds is no state the server ever had. */
  let diverged = false;
  const base = `/api/sessions/${first.id}`;
  return createStore<SessionStore>((set, get) => {
    const send = (label: string, edits: readonly Edit[]): void => {
      pending++;
      queue = queue.then(async () => {
        try {
          const { revision } = await api<{ revision: number }>(`${base}/edits`, 'POST', {
            baseRevision: get().view.revision,
            label,
            edits,
          });
          set({ view: { ...get().view, revision, undoLabel: label, redoLabel: null } });
        } catch (cause) {
          diverged = true;
          const fault = faultOf(cause);
          if (fault.code === 'session.stale_revision')
            set({
              stale: {
                label,
                edits,
                since: (fault.since as { label: string }[] | undefined)?.map((s) => s.label) ?? [],
              },
            });
          else set({ fault });
          pending--;
          await get().refresh();
          pending++;
        } finally {
          pending--;
        }
      });
    };
    const step = (action: 'undo' | 'redo'): void => {
      stepping++;
      queue = queue.then(async () => {
        try {
          await api(`${base}/${action}`, 'POST');
        } catch (cause) {
          set({ fault: faultOf(cause) });
        }
        await get().refresh();
        stepping--;
      });
    };
    return {
      view: first,
      fault: null,
      stale: null,
      online: true,
      commit(label, wanted) {
        if (stepping > 0) {
          queue = queue.then(() => void get().commit(label, wanted));
          return true;
        }
        const edits = typeof wanted === 'function' ? wanted(get().view) : wanted;
        if (edits.length === 0) return true;
        const outcome = applyEdits(get().view.session, edits);
        if (!outcome.ok) {
          set({ fault: { code: outcome.code } });
          return false;
        }
        set({ view: { ...get().view, session: outcome.session } });
        send(label, edits);
        return true;
      },
      undo: () => step('undo'),
      redo: () => step('redo'),
      async refresh() {
        // Edits under way would be overwritten by an older truth: the last of them refreshes.
        if (pending > 0) return;
        try {
          const fresh = await api<SessionView>(base);
          // The same revision is the same session: keeping its object spares the page all that depends on it.
          const before = get().view;
          // Asked before the last edit was taken: what came of it is to be asked for again, and the edit tells us so.
          if (pending > 0 || fresh.revision < before.revision) return;
          const { session, ...rest } = fresh;
          set({
            view: {
              ...shared(before, rest),
              session: fresh.revision === before.revision && !diverged ? before.session : session,
            },
            online: true,
          });
          diverged = false;
        } catch (cause) {
          const fault = faultOf(cause);
          if (fault.offline) set({ online: false });
          else set({ fault });
        }
      },
      async call(path, body, method = 'POST') {
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
      resolveStale(apply) {
        const { stale } = get();
        set({ stale: null });
        if (stale && apply) get().commit(stale.label, stale.edits);
      },
    };
  });
}

const Context = createContext<StoreApi<SessionStore> | null>(null);

const RETRY_MS = 3000;

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
  useEffect(() => {
    let events: EventSource;
    const follow = (): void => {
      events = new EventSource(`/api/sessions/${initial.id}/events`);
      events.onmessage = () => void store.getState().refresh();
      events.onerror = () => store.setState({ online: false });
      events.onopen = () => store.setState({ online: true });
    };
    follow();
    // The browser waits longer and longer before it asks again, and gives up at some answers: ask ourselves.
    const again = setInterval(() => {
      if (store.getState().online) return;
      events.close();
      follow();
      void store.getState().refresh();
    }, RETRY_MS);
    return () => {
      clearInterval(again);
      events.close();
    };
  }, [store, initial.id]);
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
