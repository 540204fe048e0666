import type { FoundSection } from './find-sections';
import type { SectionKind } from './kinds';

/** Below this a kind is a question. */
export const KIND_DOUBT = 0.7;

/** A to Z, then AA, AB … by the number of a group. */
export function letterOf(group: number): string {
  const letter = String.fromCharCode(65 + (group % 26));
  return group < 26 ? letter : letterOf(Math.floor(group / 26) - 1) + letter;
}

const KIND_WORDS: Readonly<Record<SectionKind, string>> = {
  intro: 'Intro',
  verse: 'Verse',
  'pre-chorus': 'Pre-chorus',
  chorus: 'Chorus',
  'post-chorus': 'Post-chorus',
  bridge: 'Bridge',
  solo: 'Solo',
  break: 'Break',
  interlude: 'Interlude',
  outro: 'Outro',
  other: 'Part',
};
export const kindWord = (kind: SectionKind): string => KIND_WORDS[kind];

/** Names of sections: kinds that come more than once are numbered, and one whose kind is in doubt has its letter and a question mark. */
export function sectionNames(
  sections: readonly Pick<FoundSection, 'group' | 'kind' | 'kindConfidence'>[],
): string[] {
  const isSure = (s: (typeof sections)[number]): boolean => s.kindConfidence >= KIND_DOUBT;
  const counts = new Map<SectionKind, number>();
  return sections.map((s) => {
    if (!isSure(s)) return `${letterOf(s.group)}?`;
    const number = (counts.get(s.kind) ?? 0) + 1;
    counts.set(s.kind, number);
    const isOnly = sections.filter((o) => o.kind === s.kind && isSure(o)).length === 1;
    return isOnly ? kindWord(s.kind) : `${kindWord(s.kind)} ${number}`;
  });
}

/** The kind a name says: "Verse 2" a verse; null where it says none. */
export function kindOfName(name: string): SectionKind | null {
  const said = name
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, '-');
  const kinds = (Object.keys(KIND_WORDS) as SectionKind[]).filter((k) => k !== 'other');
  // The longer word first: a pre-chorus is no chorus.
  return (
    kinds
      .sort((a, b) => b.length - a.length)
      .find((k) => new RegExp(`^${k}(-?\\d+)?$`).test(said) || said.startsWith(`${k}-`)) ?? null
  );
}

/** Names with those of one kind numbered anew in their order; a single one has no number. Names that say more than kind and number stay. */
export function numberedAlike(names: readonly string[], kind: SectionKind): string[] {
  const isPlain = (name: string): boolean =>
    kindOfName(name) === kind && /^[^\d]*\s*\d*$/.test(name.trim()) && name.trim().split(/\s+/).length <= 2;
  const count = names.filter(isPlain).length;
  let number = 0;
  return names.map((name) =>
    isPlain(name) ? (count === 1 ? kindWord(kind) : `${kindWord(kind)} ${++number}`) : name,
  );
}

/** Whether a name is that of a section: a kind, a letter in question, or a part somebody has begun. Other markers name places. */
export const isSectionName = (name: string): boolean =>
  kindOfName(name) !== null || /^([A-Z]+\?|Part \d+)$/.test(name);
