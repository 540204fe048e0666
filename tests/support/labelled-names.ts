import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readNames, type NameReading } from '@/core/naming';

/** A name with what a person reads in it. */
export interface LabelledName {
  readonly delivery: string;
  readonly name: string;
  readonly family: string;
  readonly part: string | null;
  readonly reading: NameReading;
}

/** Confidence from which nobody is asked. */
const DOUBTFUL = 0.7;

/** All deliveries of tests/checks/names, read. */
export function labelledNames(folder: string): LabelledName[] {
  return readdirSync(folder)
    .filter((f) => f.endsWith('.txt'))
    .sort()
    .flatMap((file) => {
      const rows = readFileSync(join(folder, file), 'utf8')
        .trim()
        .split('\n')
        .map((line) => line.split(' | ').map((s) => s.trim()) as [string, string, string]);
      const readings = readNames(rows.map(([name]) => name));
      return rows.map(([name, family, part], i) => ({
        delivery: file.replace('.txt', ''),
        name,
        family,
        part: part === '-' ? null : part,
        reading: readings[i] as NameReading,
      }));
    });
}

/** How well the names were read. Shares 0–1; a wrong one has another family or part. */
export function scoreNames(names: readonly LabelledName[]) {
  const share = (list: readonly LabelledName[], is: (n: LabelledName) => boolean): number =>
    list.length === 0 ? 1 : list.filter(is).length / list.length;
  const familyRight = (n: LabelledName): boolean => n.reading.family === n.family;
  const right = (n: LabelledName): boolean => familyRight(n) && n.reading.part === n.part;
  const doubtful = (n: LabelledName): boolean => n.reading.confidence < DOUBTFUL;
  // "It says nothing" is right where nothing can be said, and doubtful by its nature.
  const speaking = names.filter((n) => n.family !== 'unknown');
  return {
    count: names.length,
    family: share(names, familyRight),
    part: share(names, right),
    wrongDoubtful: share(
      names.filter((n) => !right(n)),
      doubtful,
    ),
    rightDoubtful: share(speaking.filter(right), doubtful),
    wrong: names.filter((n) => !right(n)),
    rightButDoubtful: speaking.filter((n) => right(n) && doubtful(n)),
  };
}
