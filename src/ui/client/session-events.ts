import type { SessionNews } from '@/contracts';
import type { StoreApi } from 'zustand/vanilla';

/** Before a server that does not answer is asked again. */
export const RETRY_MS = 3000;
/** The server gives a sign of life every 15 s: a stream that is silent for longer is dead, though nothing said so. */
const SILENT_MS = 40_000;

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
  let heardAtMs = Date.now();
  const hear = (): void => {
    heardAtMs = Date.now();
  };
  const tellOnline = (online: boolean): void => store.setState({ online } as Partial<T>);
  const open = (): void => {
    hear();
    events = new EventSource(`/api/sessions/${sessionId}/events?after=${store.getState().view.revision}`);
    events.onmessage = ({ data }: MessageEvent<string>) => {
      hear();
      store.getState().receive(JSON.parse(data) as SessionNews);
    };
    events.addEventListener('alive', hear);
    events.onerror = () => tellOnline(false);
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
    if (!store.getState().online || Date.now() - heardAtMs > SILENT_MS) reopen();
  }, RETRY_MS);
  // On loopback a browser without a network may still reach the server: asking tells.
  const ask = (): void => void store.getState().refresh();
  window.addEventListener('offline', ask);
  window.addEventListener('online', ask);
  return () => {
    clearInterval(again);
    events.close();
    window.removeEventListener('offline', ask);
    window.removeEventListener('online', ask);
  };
}
