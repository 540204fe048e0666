import type { Fault } from '@/contracts';

/** A fault the server answered with, or the lack of an answer. */
export class ApiFault extends Error {
  constructor(readonly fault: Fault) {
    super(fault.code);
    this.name = 'ApiFault';
  }
}

/** One call to our server; throws ApiFault. */
export async function api<T>(
  path: string,
  method: 'GET' | 'POST' | 'DELETE' = 'GET',
  body?: unknown,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      ...(body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    });
  } catch {
    throw new ApiFault({ code: 'internal', offline: true });
  }
  const value: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw new ApiFault((value as { fault?: Fault } | null)?.fault ?? { code: 'internal' });
  // Our server always says something: an answer that breaks off was cut by its end.
  if (value === undefined) throw new ApiFault({ code: 'internal', offline: true });
  return value as T;
}

/** Any failure of a call as a fault. */
export const faultOf = (cause: unknown): Fault =>
  cause instanceof ApiFault ? cause.fault : { code: 'internal' };
