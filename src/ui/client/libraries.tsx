'use client';
import { type ReactNode, Suspense, use } from 'react';
import { fetchOtherScripts, fetchPatternEngine, needsOtherScripts, needsPatternEngine } from '@/core/style';
import type { HouseStyle } from '@/core/style';

interface Needed {
  /** The style that what is below judges by; `any` = whatever is typed. */
  readonly patternsOf?: HouseStyle | 'any';
  /** What becomes names of files below. */
  readonly namesOfFiles?: readonly string[];
  readonly children: ReactNode;
}

/** What is below is drawn once the libraries it needs are there: most songs need none of them. */
export function WithLibraries(props: Needed) {
  return (
    <Suspense
      fallback={
        <p className="fm-faint" role="status">
          Loading …
        </p>
      }
    >
      <Fetched {...props} />
    </Suspense>
  );
}

function Fetched({ patternsOf, namesOfFiles = [], children }: Needed) {
  if (patternsOf === 'any' || (patternsOf && needsPatternEngine(patternsOf))) use(fetchPatternEngine());
  if (needsOtherScripts(namesOfFiles)) use(fetchOtherScripts());
  return children;
}
