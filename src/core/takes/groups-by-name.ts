import { type Family, findMicGroups, type SourceFields } from '../naming';
import { takeName, type TakeName } from './take-name';

/** What is known of a file by its name. */
export interface NamedFile {
  /** As it came, with its extension. */
  readonly name: string;
  readonly family: Family;
  readonly part: string | null;
  /** Nothing in its name is a word: a recorder's. */
  readonly isSilent: boolean;
  /** What its name says of how it is used and where it was picked up. */
  readonly source: Omit<SourceFields, 'family' | 'part'>;
}

/** What names say; files by their places in what was given. */
export interface NameGroups {
  readonly names: readonly TakeName[];
  /** Takes of one part, in order. */
  readonly takes: readonly (readonly number[])[];
  /** Look-alikes that sound together; one of each that are takes of each other. */
  readonly together: readonly TogetherByName[];
  /** Alike but for a number, which says nothing. */
  readonly open: readonly (readonly number[])[];
}

/** Files that sound together by their names. */
export interface TogetherByName {
  readonly files: readonly number[];
  readonly words: readonly string[];
  /** They differ in the place of a microphone or a side only. */
  readonly isPlaces: boolean;
}

/** What is no part of the song has no takes. */
const NEVER: ReadonlySet<Family> = new Set<Family>(['reference', 'click']);

/** `T4` of a kit is a tom. */
const isTom = ({ family, part }: NamedFile, { says }: TakeName): boolean =>
  family === 'drums' && (part === 'tom' || part === null) && /^t \d/.test(says?.text ?? '');

/** Groups files of a delivery by what their names say of takes. */
export function groupsByName(files: readonly NamedFile[]): NameGroups {
  const names = files.map((file): TakeName => {
    const name = takeName(file.name);
    return isTom(file, name) ? { ...name, says: null, take: null, number: name.take } : name;
  });
  const eligible = files.flatMap((f, k) => (NEVER.has(f.family) ? [] : [k]));
  const at = (k: number): TakeName => names[k] as TakeName;
  const takes: number[][] = [];
  const open: number[][] = [];
  const together: TogetherByName[] = [];
  for (const members of groupedBy(eligible, (k) => at(k).stem).values()) {
    if (members.length < 2) continue;
    const told = bySource(members, names);
    if (told) {
      takes.push(...told.filter((t) => t.length > 1));
      // What is one source each beside others of that name.
      const single = told.filter((t) => t.length === 1).flat();
      if (single.length > 1) open.push(single);
      continue;
    }
    const word = at(members[0] as number).together;
    if (word !== null && members.every((k) => at(k).says === null)) {
      together.push({ files: members, words: [word], isPlaces: false });
      continue;
    }
    open.push(members);
  }
  // What the reader knows as microphones of one source is told once.
  const microphones = byPlace(files, eligible);
  const told = new Set(microphones.flatMap((m) => m.files));
  // Whatever family a name is read as: `Vox harm` and `Vox` have one root; what is called by such words alone is second voices.
  const roots = groupedBy(
    eligible.filter((k) => !files[k]?.isSilent && (at(k).root !== '' || isVoice(files[k]))),
    (k) => at(k).root,
  );
  const byRoot = [...roots.values()]
    .flatMap((members) => acrossStems(members, { names, takes }))
    .filter((t) => !t.isPlaces || !t.files.every((k) => told.has(k)));
  together.push(...byRoot, ...microphones);
  return { names, takes: takes.map((t) => inOrder(t, names)), together, open };
}

/** Whether names alone say that some files are takes of one part. */
export function namesTellTakes(files: readonly string[]): boolean {
  const names = files.map(takeName);
  const byStem = groupedBy([...names.keys()], (k) => names[k]?.stem ?? '');
  const isTake = (k: number): boolean => names[k]?.says !== null && names[k]?.says?.as !== 'day';
  return [...byStem.values()].some((group) => group.length > 1 && group.some(isTake));
}

/** Takes by their source (`Gtr 1 take 2`); null where names do not say that they are takes. */
function bySource(members: readonly number[], names: readonly TakeName[]): number[][] | null {
  const at = (k: number): TakeName => names[k] as TakeName;
  const told = members.filter((k) => at(k).says !== null);
  if (told.length === 0) return null;
  const sources = groupedBy(members, (k) => String(at(k).number ?? ''));
  const groups = [...sources.values()];
  const isTold = (group: readonly number[]): boolean =>
    group.filter((k) => at(k).says !== null).length >= group.length - 1;
  // `Vox 1, Vox 2, Vox comp`: what the numbers count is takes, as a comp is made of them.
  if (told.every((k) => at(k).says?.as === 'comp') && members.length > 2) return [[...members]];
  return groups.some((g) => g.length > 1) && groups.every(isTold) ? groups.map((g) => [...g]) : null;
}

const isVoice = (file: NamedFile | undefined): boolean =>
  file?.family === 'lead-vocal' || file?.family === 'backing-vocal';

/** Parts of one root that differ in words of what sounds together, or of places: one of each. */
function acrossStems(
  members: readonly number[],
  { names, takes }: { readonly names: readonly TakeName[]; readonly takes: readonly (readonly number[])[] },
): TogetherByName[] {
  const at = (k: number): TakeName => names[k] as TakeName;
  const stems = groupedBy(members, (k) => at(k).stem);
  if (stems.size < 2) return [];
  const first = (group: readonly number[]): number =>
    group.find((k) => at(k).says?.as === 'comp') ??
    inOrder(takes.find((t) => t.includes(group[0] as number)) ?? group, names)[0] ??
    (group[0] as number);
  const ones = [...stems.values()].map(first);
  const words = [...new Set(ones.flatMap((k) => at(k).together ?? []))];
  if (words.length > 0) return [{ files: ones, words, isPlaces: false }];
  const root = new Set(at(ones[0] as number).root.split(' '));
  const places = ones.flatMap((k) => at(k).stem.split(' ')).filter((w) => !root.has(w));
  return [{ files: ones, words: places, isPlaces: true }];
}

/** Microphones of one source, as names have them elsewhere too; voices that are called high and low are no microphones. */
const byPlace = (files: readonly NamedFile[], eligible: readonly number[]): TogetherByName[] =>
  findMicGroups(
    eligible.map((k) => {
      const { source, family, part } = files[k] as NamedFile;
      return { ...source, family, part };
    }),
  ).flatMap((group): TogetherByName[] => {
    const members = group.map((i) => eligible[i] as number);
    const places = members.map((k) => files[k]?.source.position ?? files[k]?.source.side ?? null);
    const isParts =
      members.every((k) => isVoice(files[k])) && places.every((x) => x === null || HEIGHTS.has(x));
    return isParts
      ? []
      : [{ files: members, words: places.filter((x): x is string => x !== null), isPlaces: true }];
  });

const HEIGHTS: ReadonlySet<string> = new Set(['high', 'mid', 'low']);

/** By their numbers, what has none by its name; a comp last. */
function inOrder(members: readonly number[], names: readonly TakeName[]): number[] {
  const key = (k: number): number => {
    const { take, number, says } = names[k] as TakeName;
    return says?.as === 'comp' && take === null ? Infinity : (take ?? number ?? (says === null ? 0 : 5000));
  };
  return [...members].sort((a, b) => key(a) - key(b) || a - b);
}

function groupedBy(members: readonly number[], of: (k: number) => string): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  for (const k of members) groups.set(of(k), [...(groups.get(of(k)) ?? []), k]);
  return groups;
}
