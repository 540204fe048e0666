// Outside of a page: everything is there.
import anyAscii from 'any-ascii';
import { RE2JS } from 're2js';

/** RE2's patterns; null = not there yet. */
export const patternEngine = (): typeof RE2JS | null => RE2JS;

/** Fetches it. */
export const fetchPatternEngine = (): Promise<void> => Promise.resolve();

/** A word of any script in Latin letters (any-ascii); null = not there yet. */
export const otherScripts = (): ((word: string) => string) | null => anyAscii;

/** Fetches it. */
export const fetchOtherScripts = (): Promise<void> => Promise.resolve();
