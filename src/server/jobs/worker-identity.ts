import { hostname } from 'node:os';
import pg from 'pg';

/** Class of the locks that say which workers live; the second number is the worker's. */
const LIVES = 7_061_990;

/** Name of a worker's temporary folder. */
const folderOf = (number: number): string => `worker-${number}`;
/** What an unknown holds is freed after so long, s: one that just began has not said yet what it is called in the queue. */
const UNKNOWN_SECONDS = 60;

/**
 * Who a worker is: a number, and a lock that the database holds for it as long as its connection lives. Whether another
 * worker is dead is told by its lock, not by a clock: one killed, with its machine or without, holds none.
 */
export class WorkerIdentity {
  private constructor(
    readonly number: number,
    private readonly client: pg.Client,
  ) {}

  /** A new identity. `lost` is called when the database no longer knows it: another worker may have taken up its jobs. */
  static async claim(databaseUrl: string, lost: (cause: Error) => void): Promise<WorkerIdentity> {
    const client = new pg.Client({ connectionString: databaseUrl, keepAlive: true });
    await client.connect();
    // Nobody sees the number before its lock is held.
    await client.query('begin');
    const { rows } = await client.query<{ number: number }>(
      'insert into workers (host, pid) values ($1, $2) returning number',
      [hostname(), process.pid],
    );
    const { number } = rows[0] as { number: number };
    await client.query('select pg_advisory_lock($1, $2)', [LIVES, number]);
    await client.query('commit');
    let isLost = false;
    // A connection says more than once that it is gone.
    client.on('error', (cause) => {
      if (!isLost) lost(cause);
      isLost = true;
    });
    return new WorkerIdentity(number, client);
  }

  /** Name of its folder for half-written bytes. */
  get temporaryFolder(): string {
    return folderOf(this.number);
  }

  /** Says what it is called in the queue. */
  async calls(pool: string): Promise<void> {
    await this.client.query('update workers set pool = $2 where number = $1', [this.number, pool]);
  }

  /** Frees the jobs that dead workers hold, and says which temporary folders belong to living ones. */
  async freeDead(): Promise<ReadonlySet<string>> {
    for (const { number, pool } of await this.#workers())
      if (number !== this.number) await this.#bury(number, pool);
    const living = await this.#workers();
    // Alone, all that nobody living holds is held by the dead.
    const { rows } = await this.client.query<{ locked_by: string }>(
      `select distinct locked_by from graphile_worker.jobs where locked_by is not null and not locked_by = any ($1::text[])
         and ($2 or locked_at < now() - make_interval(secs => $3))`,
      [living.flatMap((w) => w.pool ?? []), living.length === 1, UNKNOWN_SECONDS],
    );
    await this.#free(rows.map((r) => r.locked_by));
    return new Set(living.map((w) => folderOf(w.number)));
  }

  async #workers(): Promise<{ readonly number: number; readonly pool: string | null }[]> {
    const { rows } = await this.client.query<{ number: number; pool: string | null }>(
      'select number, pool from workers order by number',
    );
    return rows;
  }

  async #free(pools: readonly string[]): Promise<void> {
    if (pools.length > 0)
      await this.client.query('select graphile_worker.force_unlock_workers($1::text[])', [pools]);
  }

  /** Takes a worker off the list if it is dead, and frees what it held. */
  async #bury(number: number, pool: string | null): Promise<void> {
    const { rows } = await this.client.query<{ got: boolean }>('select pg_try_advisory_lock($1, $2) as got', [
      LIVES,
      number,
    ]);
    if (!rows[0]?.got) return;
    await this.#free(pool === null ? [] : [pool]);
    await this.client.query('delete from workers where number = $1', [number]);
    await this.client.query('select pg_advisory_unlock($1, $2)', [LIVES, number]);
  }

  /** Gives the identity up; what it still holds others take. */
  async release(): Promise<void> {
    this.client.removeAllListeners('error');
    this.client.on('error', () => undefined);
    await this.client.query('delete from workers where number = $1', [this.number]).catch(() => undefined);
    await this.client.end().catch(() => undefined);
  }
}
