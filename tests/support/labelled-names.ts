import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readNames, type NameReading } from '@/core/naming';
import { createRandom } from '@/core/units';

/** A name with what a person reads in it; several answers can be right, null = not judged. */
export interface Label {
  readonly name: string;
  readonly families: readonly string[];
  readonly parts: readonly string[] | null;
  readonly positions: readonly string[] | null;
  readonly sides: readonly string[] | null;
  readonly number: number | null;
}

/** A labelled name with what the reader made of it. */
export interface LabelledName {
  readonly delivery: string;
  readonly label: Label;
  readonly reading: NameReading;
  /** Sides and numbers of its delivery are labelled: what has none is to get none. */
  readonly isFull: boolean;
}

/** Confidence from which nobody is asked. */
const DOUBTFUL = 0.7;

/** Spellings and finer kinds that count as one. */
const SAME_PART: Readonly<Record<string, string>> = {
  'nylon-guitar': 'acoustic-guitar',
  'twelve-string-guitar': 'acoustic-guitar',
  claves: 'clave',
  chimes: 'chime',
};
const plainPart = (part: string | null): string => SAME_PART[part ?? ''] ?? part ?? '';

const choices = (column: string | undefined): string[] | null =>
  column === undefined || column.trim() === '-' || column.trim() === ''
    ? null
    : column.split(',').map((c) => c.trim());

/** The deliveries of a labelled text; see tests/checks/names/README.md. */
export function parseLabels(text: string): Label[][] {
  return text
    .split(/\n[ \t]*\n/)
    .map((block) =>
      block
        .split('\n')
        .filter((l) => l.trim() !== '' && !l.startsWith('#'))
        .map((line): Label => {
          const [name = '', families, parts, positions, sides, number] = line.split(' | ');
          return {
            name,
            families: choices(families) ?? [],
            parts: choices(parts),
            positions: choices(positions),
            sides: choices(sides),
            number: choices(number) ? Number(number) : null,
          };
        }),
    )
    .filter((d) => d.length > 0);
}

/** Names of a list of words that are read together. */
const WORDS_TOGETHER = 20;

/** A list of words by meaning as deliveries of twenty, shuffled with a fixed seed; see tests/checks/names/README.md. */
export function wordDeliveries(text: string): Label[][] {
  const random = createRandom(7);
  return text.split(/^= .*$/m).flatMap((group) => {
    const labels = group.split('\n').flatMap((line): Label[] => {
      const [, families = '', parts = '', names] = /^([a-z,-]+)\/([a-z0-9,-]+): (.*)$/.exec(line) ?? [];
      return (names ?? '').split(', ').flatMap((name) =>
        name.trim() === ''
          ? []
          : [
              {
                name: `${name.trim()}.wav`,
                families: families.split(','),
                parts: parts.split(','),
                positions: null,
                sides: null,
                number: null,
              },
            ],
      );
    });
    const shuffled = labels
      .map((label) => ({ label, at: random() }))
      .sort((a, b) => a.at - b.at)
      .map((x) => x.label);
    return Array.from({ length: Math.ceil(shuffled.length / WORDS_TOGETHER) }, (_, i) =>
      shuffled.slice(i * WORDS_TOGETHER, (i + 1) * WORDS_TOGETHER),
    );
  });
}

/** All labelled deliveries of a folder, file by file. */
export const labelledDeliveries = (folder: string): { readonly file: string; readonly names: Label[] }[] =>
  readdirSync(folder)
    .filter((f) => f.endsWith('.txt'))
    .sort()
    .flatMap((file) =>
      parseLabels(readFileSync(join(folder, file), 'utf8')).map((names) => ({ file, names })),
    );

/** All deliveries of a folder, read. */
export const labelledNames = (folder: string): LabelledName[] => read(labelledDeliveries(folder));

/** All lists of words of a folder, file by file. */
export const wordLists = (folder: string): { readonly file: string; readonly names: Label[] }[] =>
  readdirSync(folder)
    .sort()
    .flatMap((file) =>
      wordDeliveries(readFileSync(join(folder, file), 'utf8')).map((names) => ({ file, names })),
    );

/** All lists of words of a folder, read. */
export const labelledWords = (folder: string): LabelledName[] => read(wordLists(folder));

function read(deliveries: ReturnType<typeof labelledDeliveries>): LabelledName[] {
  return deliveries.flatMap(({ file, names }) => {
    const readings = readNames(names.map((n) => n.name));
    const isFull = names.some((n) => n.sides !== null || n.number !== null);
    return names.map((label, i) => ({
      delivery: file.replace('.txt', ''),
      label,
      reading: readings[i] as NameReading,
      isFull,
    }));
  });
}

/** Whether family and part are right. */
export function isRight({
  label,
  reading,
}: {
  readonly label: Label;
  readonly reading: Pick<NameReading, 'family' | 'part'>;
}): boolean {
  const partRight = label.parts === null || label.parts.map(plainPart).includes(plainPart(reading.part));
  return label.families.includes(reading.family) && partRight;
}

/** How well the names were read; shares 0–1. A wrong one has another family or part. */
export function scoreNames(names: readonly LabelledName[]) {
  const share = <T>(list: readonly T[], is: (n: T) => boolean): number =>
    list.length === 0 ? 1 : list.filter(is).length / list.length;
  const partOf = <T>(list: readonly T[], is: (n: T) => boolean): number =>
    list.length === 0 ? 0 : share(list, is);
  const doubtful = (n: LabelledName): boolean => n.reading.confidence < DOUBTFUL;
  // "It says nothing" is right where nothing can be said, and doubtful by its nature.
  const speaking = names.filter((n) => !n.label.families.includes('unknown'));
  const withPart = names.filter((n) => n.label.parts !== null);
  const judged = <T>(of: (n: LabelledName) => T | null): LabelledName[] =>
    names.filter((n) => of(n) !== null);
  return {
    count: names.length,
    family: share(names, (n) => n.label.families.includes(n.reading.family)),
    part: share(withPart, isRight),
    position: share(
      judged((n) => n.label.positions),
      (n) => n.label.positions?.includes(n.reading.position ?? '') ?? false,
    ),
    side: share(
      judged((n) => n.label.sides),
      (n) => n.label.sides?.includes(n.reading.side ?? '') ?? false,
    ),
    number: share(
      judged((n) => n.label.number),
      (n) => n.label.number === n.reading.number,
    ),
    invented: partOf(
      names.filter((n) => n.isFull),
      ({ label, reading }) =>
        (label.sides === null && reading.side !== null) || (label.number === null && reading.number !== null),
    ),
    wrongDoubtful: share(
      names.filter((n) => !isRight(n)),
      doubtful,
    ),
    rightDoubtful: share(speaking.filter(isRight), doubtful),
    wrong: names.filter((n) => !isRight(n)),
    rightButDoubtful: speaking.filter((n) => isRight(n) && doubtful(n)),
  };
}
