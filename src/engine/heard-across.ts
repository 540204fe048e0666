import { likeness, mixFit, type MixPart } from '@/core/analysis';
import type { AlikeFact, MixFact } from '@/core/findings';
import { type ProgressSink, roundTo } from '@/core/units';

/** What is to be compared. */
export interface AcrossAsked {
  /** Recordings that may be a mix of the others, by id. */
  readonly candidates: readonly string[];
  /** A later arrival and what was there, by id. */
  readonly pairs: readonly (readonly [string, string])[];
}

/** The same with the sketches on disk. */
export interface AcrossInput extends AcrossAsked {
  readonly files: readonly (Omit<MixPart, 'sketch'> & { readonly id: string; readonly path: string })[];
}

/** What was found. */
export interface HeardAcross {
  readonly mixes: readonly MixFact[];
  /** Only where both play alike. */
  readonly alikes: readonly AlikeFact[];
}

/** Two recordings may be placed or cut otherwise by so much. */
const REACH_SECONDS = 120;
const ALIKE_FROM = 0.85;

/** Compares sketches: who is a mix of the others, which later arrivals play what was there. */
export function heardAcross(
  files: readonly (MixPart & { readonly id: string })[],
  { candidates, pairs }: AcrossAsked,
  progress?: ProgressSink,
): HeardAcross {
  const byId = new Map(files.map((f) => [f.id, f]));
  const total = candidates.length + pairs.length;
  const mixes = candidates.flatMap((id, i): MixFact[] => {
    const file = byId.get(id);
    const fit = file ? mixFit(file, files) : null;
    progress?.((i + 1) / total);
    return fit
      ? [
          {
            id,
            errorDb: roundTo(fit.errorDb, 2),
            correlation: roundTo(fit.correlation, 3),
            groups: fit.groups,
            strongest: roundTo(fit.strongest, 2),
            laterSeconds: roundTo(fit.laterSeconds, 2) + 0,
          },
        ]
      : [];
  });
  const alikes = pairs.flatMap(([fresh, settled], i): AlikeFact[] => {
    const [a, b] = [byId.get(fresh), byId.get(settled)];
    const found = a && b ? likeness(b.sketch, a.sketch, REACH_SECONDS) : null;
    progress?.((candidates.length + i + 1) / total);
    return found && found.correlation >= ALIKE_FROM
      ? [
          {
            fresh,
            settled,
            laterSeconds: roundTo(found.laterSeconds, 2) + 0,
            correlation: roundTo(found.correlation, 3),
          },
        ]
      : [];
  });
  return { mixes, alikes };
}
