// In a page: 50 and 220 KB that few songs need. The same names as in `at-hand.ts`; package.json (`imports`) chooses.
import type { RE2JS } from 're2js';

/** A library that comes when it is asked for: what is there, and the way to have it fetched; one that could not be had is asked for again. */
function onDemand<T>(load: () => Promise<T>): {
  readonly get: () => T | null;
  readonly fetch: () => Promise<void>;
} {
  let value: T | null = null;
  let coming: Promise<void> | null = null;
  return {
    get: () => value,
    fetch: () =>
      (coming ??= load().then(
        (loaded) => {
          value = loaded;
        },
        (cause: unknown) => {
          coming = null;
          throw cause;
        },
      )),
  };
}

const patterns = onDemand<typeof RE2JS>(async () => (await import('re2js')).RE2JS);
const scripts = onDemand<(word: string) => string>(async () => (await import('any-ascii')).default);

export const patternEngine = patterns.get;
export const fetchPatternEngine = patterns.fetch;
export const otherScripts = scripts.get;
export const fetchOtherScripts = scripts.fetch;
