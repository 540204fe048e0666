import { ValidationError, type Schema } from 'yup';
import { RequestFault } from './fault';

/** How much a route takes. */
export interface BodyLimits {
  /** Default 1 MiB. */
  readonly maxBytes?: number;
  /** Numbers, texts, objects … in it, all told. Default 100,000. */
  readonly maxValues?: number;
}

const MAX_BODY_BYTES = 1 << 20;
const MAX_VALUES = 100_000;
const MAX_DEPTH = 40;
/** What is too large is read on up to here, so that the sender still gets its answer. */
const MAX_DRAINED_BYTES = 64 << 20;
/** Issues told of one body. */
export const MOST_ISSUES = 20;
/** How long the process may be held before others get their turn, ms. */
const SLICE_MS = 15;

/** What an entry of a list is checked by. */
interface EntrySchema {
  validateSync(value: unknown, options: object): unknown;
}

const refuse = (issue: string): RequestFault =>
  new RequestFault({ code: 'request.invalid', issues: [issue] });

/** A body as text. One that is too large is read on without being kept; one without end is given up. */
async function readText(request: Request, maxBytes: number): Promise<string> {
  const decoder = new TextDecoder();
  let text = '';
  let bytes = 0;
  // The DOM's type does not know that the stream of a request can be walked through.
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += part.length;
    if (bytes > MAX_DRAINED_BYTES) break;
    if (bytes <= maxBytes) text += decoder.decode(part, { stream: true });
  }
  if (bytes > maxBytes) throw refuse('too large');
  return text + decoder.decode();
}

/** Refuses what no schema should have to look at: too many values, too deep, texts that the database cannot hold. */
function mustBeBounded(body: unknown, maxValues: number): void {
  let level: unknown[] = [body];
  let values = 0;
  for (let depth = 0; level.length > 0; depth++) {
    values += level.length;
    if (values > maxValues) throw refuse(`more than ${maxValues} values`);
    if (depth > MAX_DEPTH) throw refuse(`deeper than ${MAX_DEPTH} levels`);
    const below: unknown[] = [];
    for (const value of level) {
      if (typeof value === 'string') mustBeText(value);
      if (typeof value !== 'object' || value === null) continue;
      if (!Array.isArray(value)) Object.keys(value).forEach(mustBeText);
      for (const part of Object.values(value)) below.push(part);
    }
    level = below;
  }
}

function mustBeText(text: string): void {
  if (text.includes('\0')) throw refuse('a text holds a NUL character');
  if (/\p{Surrogate}/u.test(text)) throw refuse('a text holds half a character (a lone surrogate)');
}

const issuesOf = (cause: unknown): string[] => {
  // Yup's own trimming throws at an object where a text should be: the value is at fault, not we.
  if (cause instanceof TypeError) return ['a value of another kind than asked for'];
  if (!(cause instanceof ValidationError)) throw cause;
  return cause.errors;
};
const refuseAll = (cause: unknown): never => {
  throw new RequestFault({ code: 'request.invalid', issues: issuesOf(cause).slice(0, MOST_ISSUES) });
};

async function readBounded(request: Request, { maxBytes, maxValues }: BodyLimits): Promise<unknown> {
  const text = await readText(request, maxBytes ?? MAX_BODY_BYTES);
  const body: unknown = text === '' ? {} : JSON.parse(text);
  mustBeBounded(body, maxValues ?? MAX_VALUES);
  return body;
}

const WHOLE = { abortEarly: false, stripUnknown: false } as const;

/** The body of a request, counted and then checked; throws for anything the schema refuses. */
export async function readBody<T>(request: Request, schema: Schema<T>, limits: BodyLimits = {}): Promise<T> {
  const body = await readBounded(request, limits);
  return schema.validate(body, WHOLE).catch(refuseAll);
}

/** The same with a list in it, whose entries are checked one by one: others get their turn between them, and after some issues it ends. */
export async function readBodyWithList<T extends object, K extends keyof T & string>(
  request: Request,
  schema: Schema<T>,
  { key, entry, ...limits }: BodyLimits & { readonly key: K; readonly entry: EntrySchema },
): Promise<T> {
  const body = await schema.validate(await readBounded(request, limits), WHOLE).catch(refuseAll);
  const checked: unknown[] = [];
  const issues: string[] = [];
  let since = Date.now();
  for (const [i, value] of (body[key] as unknown[]).entries()) {
    try {
      checked.push(entry.validateSync(value, WHOLE));
    } catch (cause) {
      issues.push(...issuesOf(cause).map((issue) => `${key}[${i}]: ${issue}`));
      if (issues.length >= MOST_ISSUES) break;
    }
    if (Date.now() - since > SLICE_MS) {
      await new Promise((resolve) => setImmediate(resolve));
      since = Date.now();
    }
  }
  if (issues.length > 0)
    throw new RequestFault({ code: 'request.invalid', issues: issues.slice(0, MOST_ISSUES) });
  return { ...body, [key]: checked };
}
