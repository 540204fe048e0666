import pg from 'pg';
import { readConfig } from '../config';

/** The channel on which triggers tell which session changed. */
const CHANNEL = 'session_changed';
/** Before the database is asked again. */
const RETRY_MS = 500;

type Told = () => void;

/** One connection of this process that hears what changes, for all who watch a session. */
class SessionChanges {
  readonly #watching = new Map<string, Set<Told>>();
  #client: pg.Client | null = null;

  /** Calls `told` whenever a session, its jobs, recordings or packages changed, and when that may have been missed. Returns how to stop. */
  watch(sessionId: string, told: Told): () => void {
    const others = this.#watching.get(sessionId) ?? new Set();
    this.#watching.set(sessionId, others.add(told));
    void this.#listen();
    return () => {
      others.delete(told);
      if (others.size === 0) this.#watching.delete(sessionId);
      if (this.#watching.size === 0) this.#close();
    };
  }

  async #listen(): Promise<void> {
    if (this.#client) return;
    const client = new pg.Client({ connectionString: readConfig().databaseUrl, keepAlive: true });
    this.#client = client;
    const lost = (): void => {
      if (this.#client !== client) return;
      this.#close();
      // Whoever still watches is heard for again.
      setTimeout(() => {
        if (this.#watching.size > 0) void this.#listen();
      }, RETRY_MS);
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) => this.#tell(payload ?? ''));
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
      // What changed while nobody listened.
      for (const sessionId of this.#watching.keys()) this.#tell(sessionId);
    } catch {
      lost();
    }
  }

  #tell(sessionId: string): void {
    for (const told of this.#watching.get(sessionId) ?? []) told();
  }

  #close(): void {
    const client = this.#client;
    this.#client = null;
    void client?.end().catch(() => undefined);
  }
}

const cache = globalThis as { fernmossSessionChanges?: SessionChanges };

/** See {@link SessionChanges.watch}. Next bundles this module more than once: all copies share one connection. */
export const watchSession = (sessionId: string, told: Told): (() => void) =>
  (cache.fernmossSessionChanges ??= new SessionChanges()).watch(sessionId, told);
