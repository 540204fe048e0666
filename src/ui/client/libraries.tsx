'use client';
import { type ReactNode, Suspense, use, useEffect, useState } from 'react';
import {
  fetchOtherScripts,
  fetchPatternEngine,
  holdsOtherScripts,
  holdsPatterns,
  type HouseStyle,
  needsPatternEngine,
} from '@/core/style';
import { useSession, useSessionStore } from './session-store';

const RETRY_MS = 1000;

/** Fetches until it is had: the server may be away for a while. One promise for all who wait. */
function untilHad(fetch: () => Promise<void>): () => Promise<void> {
  let had: Promise<void> | null = null;
  const tryOn = (): Promise<void> =>
    fetch().catch(() => new Promise<void>((done) => setTimeout(done, RETRY_MS)).then(tryOn));
  return () => (had ??= tryOn());
}

const patternEngine = untilHad(fetchPatternEngine);
const otherScripts = untilHad(fetchOtherScripts);

interface Needed {
  /** The style that what is below judges by. */
  readonly patternsOf?: HouseStyle;
  /** What becomes names of files below. */
  readonly namesOfFiles?: readonly string[];
  readonly children: ReactNode;
}

/**
 * What is below is drawn once the libraries are there that it needs from the start: most songs need none. The server,
 * which has them all, must come to the same answer, so it goes by what style and names hold.
 */
export function WithLibraries({ patternsOf, namesOfFiles = [], children }: Needed) {
  const [needed] = useState(() => ({
    patterns: patternsOf !== undefined && holdsPatterns(patternsOf),
    scripts: holdsOtherScripts(namesOfFiles),
  }));
  if (!needed.patterns && !needed.scripts) return children;
  return (
    <Suspense
      fallback={
        <p className="fm-faint" role="status">
          Loading …
        </p>
      }
    >
      <Fetched {...needed}>{children}</Fetched>
    </Suspense>
  );
}

function Fetched({
  patterns,
  scripts,
  children,
}: Readonly<Record<'patterns' | 'scripts', boolean>> & { readonly children: ReactNode }) {
  if (patterns) use(patternEngine());
  if (scripts) use(otherScripts());
  return children;
}

/** Fetches the engine for patterns beside the page, for what is typed there; true once it is there. */
export function usePatternsSoon(): boolean {
  const [isHere, setHere] = useState(false);
  useEffect(() => {
    void patternEngine().then(() => setHere(true));
  }, []);
  return isHere;
}

/** Fetches the engine for patterns where a session comes to need it later; until then nothing is proposed. */
export function useLaterPatterns(): void {
  const store = useSessionStore();
  const needs = useSession((s) => needsPatternEngine(s.view.style));
  useEffect(() => {
    if (needs)
      // What was made without it is made anew.
      void patternEngine().then(() => store.setState(({ view }) => ({ view: { ...view } })));
  }, [needs, store]);
}
