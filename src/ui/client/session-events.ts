import type { SessionNews } from '@/contracts';
import type { StoreApi } from 'zustand/vanilla';

/** Before a server that does not answer is asked again. */
export const RETRY_MS = 3000;
/** The server gives a sign of life every 15 s: a stream that is silent for longer is dead, though nothing said so. */
const SILENT_MS = 40_000;
/** What answers later than this does not answer: a server that hangs takes connections and says nothing. */
const ANSWER_MS = 10_000;

/** What follows the news: the store of a session. */
interface Follower {
  readonly view: { readonly revision: number };
  readonly online: boolean;
  receive(news: SessionNews): void;
  refresh(): Promise<void>;
}

/**
 * Follows what the server tells of a session, and notices when it does not answer: by an error of the stream, by its silence,
 * or because the browser says that it is offline. Returns how to stop.
 */
export function followEvents<T extends Follower>(
  store: Pick<StoreApi<T>, 'getState' | 'setState'>,
  sessionId: string,
): () => void {
  let events: EventSource;
  let stream: 'asked' | 'open' | 'broken' = 'asked';
  /** When the stream was last heard, or asked for. */
  let sinceMs = Date.now();
  const become = (state: typeof stream): void => {
    stream = state;
    sinceMs = Date.now();
  };
  const hear = (): void => become('open');
  const tellOnline = (online: boolean): void => store.setState({ online } as Partial<T>);
  const open = (): void => {
    become('asked');
    events = new EventSource(`/api/sessions/${sessionId}/events?after=${store.getState().view.revision}`);
    events.onmessage = ({ data }: MessageEvent<string>) => {
      hear();
      store.getState().receive(JSON.parse(data) as SessionNews);
    };
    events.addEventListener('alive', hear);
    events.onerror = () => {
      become('broken');
      tellOnline(false);
    };
    events.onopen = () => {
      hear();
      tellOnline(true);
    };
  };
  const reopen = (): void => {
    events.close();
    open();
    void store.getState().refresh();
  };
  open();
  // The browser waits longer and longer before it asks again, and gives up at some answers: ask ourselves.
  const again = setInterval(() => {
    const isSilent = Date.now() - sinceMs > (stream === 'asked' ? ANSWER_MS : SILENT_MS);
    if (stream === 'asked') {
      // What is slow to answer is given its time before it is asked anew.
      if (!isSilent) return;
      tellOnline(false);
    }
    if (isSilent || !store.getState().online) reopen();
  }, RETRY_MS);
  // On loopback a browser without a network may still reach the server: asking tells.
  const ask = (): void => void store.getState().refresh();
  window.addEventListener('offline', ask);
  window.addEventListener('online', ask);
  // It may have told so before anybody listened.
  if (!navigator.onLine) ask();
  return () => {
    clearInterval(again);
    events.close();
    window.removeEventListener('offline', ask);
    window.removeEventListener('online', ask);
  };
}
