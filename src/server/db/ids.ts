import { createHash } from 'node:crypto';

/** Whether a text from outside can be an id of ours; PostgreSQL answers anything else with an error of its own. */
export const isUuid = (text: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text);

/** A UUID made from a name (version 8, SHA-256): a job that is done again finds its own rows. */
export function uuidOf(name: string): string {
  const h = createHash('sha256').update(name).digest('hex');
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-8${h.slice(13, 16)}-8${h.slice(17, 20)}-${h.slice(20, 32)}`;
}
