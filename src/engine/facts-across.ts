import { likeness, mixFit, type MixPart, risesAlike } from '@/core/analysis';
import type { AlikeFact, MixFact } from '@/core/findings';
import { type ProgressSink, roundTo } from '@/core/units';

/** What is to be compared. */
export interface AcrossAsked {
  /** Recordings that may be a mix of the others, by id. */
  readonly candidates: readonly string[];
  /** A later arrival and what was there, by id. */
  readonly pairs: readonly (readonly [string, string])[];
  /** Recordings of one channel that may be microphones of one source, by id. */
  readonly singles: readonly string[];
}

/** The same with the sketches on disk. */
export interface AcrossInput extends AcrossAsked {
  readonly files: readonly (Omit<MixPart, 'sketch'> & { readonly id: string; readonly path: string })[];
}

/** What was found. */
export interface AcrossFacts {
  readonly mixes: readonly MixFact[];
  /** Only where both play alike. */
  readonly alikes: readonly AlikeFact[];
  /** Those whose levels rise together, so that their signals are worth comparing; the most alike first. */
  readonly together: readonly (readonly [string, string])[];
}

/** Two recordings may be placed or cut otherwise by so much. */
const REACH_SECONDS = 120;
const ALIKE_FROM = 0.85;

/** Compares sketches: who is a mix of the others, which later arrivals play what was there. */
export function factsAcross(
  files: readonly (MixPart & { readonly id: string })[],
  { candidates, pairs, singles }: AcrossAsked,
  progress?: ProgressSink,
): AcrossFacts {
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
  return { mixes, alikes, together: risingTogether(files.filter((f) => singles.includes(f.id))) };
}

/** Microphones of one source rise together from here on; in a room everybody hears everybody, so that each is compared with its nearest only. */
const TOGETHER_FROM = 0.5;
const NEAREST = 3;

function risingTogether(
  files: readonly (MixPart & { readonly id: string })[],
): readonly (readonly [string, string])[] {
  const alike = risesAlike(files.map((f) => f.sketch));
  const found = new Map<string, { readonly pair: readonly [string, string]; readonly value: number }>();
  files.forEach((file, i) => {
    const near = files
      .map((other, k) => ({
        k,
        value: k === i || other.startSeconds !== file.startSeconds ? 0 : alike(i, k),
      }))
      .filter((o) => o.value >= TOGETHER_FROM)
      .sort((a, b) => b.value - a.value)
      .slice(0, NEAREST);
    for (const { k, value } of near) {
      const pair = [files[Math.min(i, k)]?.id ?? '', files[Math.max(i, k)]?.id ?? ''] as const;
      found.set(pair.join(' '), { pair, value });
    }
  });
  return [...found.values()].sort((a, b) => b.value - a.value).map((f) => f.pair);
}
