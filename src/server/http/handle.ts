import { ValidationError } from 'yup';
import type { Fault } from '@/contracts';
import { isDatabaseAway, refusalOf } from '../db/away';
import { RequestFault } from './fault';
import { MOST_ISSUES } from './read-body';

const STATUS: Partial<Record<Fault['code'], number>> = {
  'request.invalid': 400,
  'request.not_found': 404,
  'session.not_found': 404,
  'session.stale_revision': 409,
  'session.conflict': 409,
  'style.not_found': 404,
  'style.stale': 409,
  'style.in_use': 409,
  'store.disk_full': 507,
  'store.no_room': 507,
  'store.database_away': 503,
  'store.too_slow': 503,
  'session.busy': 409,
  internal: 500,
};

/** Runs a route's work: its value becomes JSON, its faults become a status and `{fault}`. */
export async function handle(work: () => Promise<unknown>): Promise<Response> {
  try {
    const value = await work();
    return value instanceof Response ? value : Response.json(value ?? null);
  } catch (cause) {
    const fault = toFault(cause);
    if (fault.code === 'internal') console.error(cause);
    return Response.json({ fault }, { status: STATUS[fault.code] ?? 422 });
  }
}

function toFault(cause: unknown): Fault {
  if (cause instanceof RequestFault) return cause.fault;
  if (cause instanceof ValidationError)
    return { code: 'request.invalid', issues: cause.errors.slice(0, MOST_ISSUES) };
  if (cause instanceof SyntaxError) return { code: 'request.invalid', issues: ['not readable as JSON'] };
  if (isDatabaseAway(cause)) return { code: 'store.database_away' };
  if ((cause as NodeJS.ErrnoException | null)?.code === 'ENOSPC') return { code: 'store.disk_full' };
  switch (refusalOf(cause)) {
    case 'bad-value':
      return { code: 'request.invalid', issues: ['a value that cannot be stored'] };
    case 'reference':
      return { code: 'request.not_found' };
    case 'disk-full':
      return { code: 'store.disk_full' };
    case 'time-out':
      return { code: 'store.too_slow' };
    case null:
      return { code: 'internal' };
  }
}

/** Parts as they are made, as the body of an answer; whoever makes them is told when the reader goes away. (Node's own bridge throws then, outside any hands.) */
export function bodyOf(parts: AsyncIterable<Uint8Array>): ReadableStream<Uint8Array> {
  const source = parts[Symbol.asyncIterator]();
  return new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await source.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await source.return?.();
    },
  });
}
