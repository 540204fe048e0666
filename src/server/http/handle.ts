import { ValidationError, type Schema } from 'yup';
import type { Fault } from '@/contracts';
import { isDatabaseAway } from '../db/away';

const STATUS: Partial<Record<Fault['code'], number>> = {
  'request.invalid': 400,
  'request.not_found': 404,
  'session.not_found': 404,
  'session.stale_revision': 409,
  'style.not_found': 404,
  'style.stale': 409,
  'style.in_use': 409,
  'store.disk_full': 507,
  'store.no_room': 507,
  'store.database_away': 503,
  'session.busy': 409,
  internal: 500,
};

/** A fault on its way to the page. */
export class RequestFault extends Error {
  constructor(readonly fault: Fault) {
    super(fault.code);
    this.name = 'RequestFault';
  }
}

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
  if (cause instanceof ValidationError) return { code: 'request.invalid', issues: cause.errors };
  if (cause instanceof SyntaxError) return { code: 'request.invalid', issues: ['not readable as JSON'] };
  if (isDatabaseAway(cause)) return { code: 'store.database_away' };
  if ((cause as NodeJS.ErrnoException | null)?.code === 'ENOSPC') return { code: 'store.disk_full' };
  return { code: 'internal' };
}

/** A house style's file may have 10 MB. */
const MAX_BODY_BYTES = 12 << 20;
const MAX_DRAINED_BYTES = 64 << 20;

/** A body as text. One that is too large is read on without being kept, so that the sender still gets its answer; one without end is given up. */
async function readText(request: Request): Promise<string> {
  const decoder = new TextDecoder();
  let text = '';
  let bytes = 0;
  // The DOM's type does not know that the stream of a request can be walked through.
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += part.length;
    if (bytes > MAX_DRAINED_BYTES) break;
    if (bytes <= MAX_BODY_BYTES) text += decoder.decode(part, { stream: true });
  }
  if (bytes > MAX_BODY_BYTES) throw new RequestFault({ code: 'request.invalid', issues: ['too large'] });
  return text + decoder.decode();
}

/** The body of a request, checked; throws for anything the schema refuses. */
export async function readBody<T>(request: Request, schema: Schema<T>): Promise<T> {
  const text = await readText(request);
  return schema.validate(text === '' ? {} : JSON.parse(text), { abortEarly: false, stripUnknown: false });
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
