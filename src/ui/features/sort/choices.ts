import type { SoundLikeness } from '@/core/analysis';
import type { Family } from '@/core/naming';
import { type HouseStyle, likelyKinds, type SortRow, type TrackKind } from '@/core/style';
import { handName } from './rows';

/** What a digit says a track is. */
export interface Choice extends TrackKind {
  /** As it would be called. */
  readonly name: string;
  /** How likely it is; null where nothing says so. */
  readonly confidence: number | null;
}

/** Always among the choices: a digit each. */
const USUAL: readonly Family[] = ['guitars', 'drums', 'keys', 'lead-vocal', 'reference', 'percussion'];
const MOST_CHOICES = 9;

/** Whether two say the same of what makes the sound. */
export const isSameKind = (
  a: { readonly family: string; readonly part: string | null },
  b: { readonly family: string; readonly part: string | null },
): boolean => a.family === b.family && a.part === b.part;

/** What the digits choose: the proposed, what it may be by ear, the commonest families. */
export function choicesFor(
  style: HouseStyle,
  row: SortRow | null,
  heard: SoundLikeness | null,
): readonly Choice[] {
  const likely = new Map((heard?.sounds ?? []).map((s) => [s.sound as string, s.confidence]));
  const proposed: Choice[] =
    row && row.family !== 'unknown'
      ? [{ family: row.family, part: row.part, role: null, name: row.name, confidence: row.confidence }]
      : [];
  const others = [
    ...likelyKinds(heard),
    ...USUAL.map((family) => ({ family, part: null, role: null, sound: null })),
  ].map(({ sound, ...kind }): Choice => ({
    ...kind,
    name: kind.part === null ? kind.family.replaceAll('-', ' ') : nameOf(style, kind),
    confidence: sound === null ? null : (likely.get(sound) ?? null),
  }));
  const chosen: Choice[] = [];
  for (const choice of [...proposed, ...others])
    if (!chosen.some((c) => isSameKind(c, choice) || c.name.toLowerCase() === choice.name.toLowerCase()))
      chosen.push(choice);
  return chosen.slice(0, MOST_CHOICES);
}

const nameOf = (style: HouseStyle, { family, part, role }: TrackKind): string =>
  [handName(style, family, part) ?? part ?? family, role].filter(Boolean).join(', ');
