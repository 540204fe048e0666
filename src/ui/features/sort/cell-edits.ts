import { FAMILIES, type Family, partsOf } from '@/core/naming';
import { NOWHERE, type SessionState, type Track } from '@/core/session';
import type { HouseStyle } from '@/core/style';
import { countedLabel, editsForEach, levelText, stripEdits, type TrackEdits } from '@/ui/strips';
import { formatPan } from '@/ui/kit';
import { familyEdit, partEdits, partOfText } from './family-edits';
import { kindText } from './rows';
import type { ColumnId } from './sheet-columns';

/** What a cell of the sheet can be edited for. */
export type EditedColumn = Exclude<ColumnId, 'wave' | 'peak' | 'name'>;

/** Whether a cell can be edited in its place; names have an editor of their own. */
export const isEdited = (id: ColumnId): id is EditedColumn => !['wave', 'peak', 'name'].includes(id);

/** Where a track goes, in words. */
export const busText = ({ busId }: Pick<Track, 'busId'>, { buses }: Pick<SessionState, 'buses'>): string =>
  busId === NOWHERE ? 'nowhere' : (busId !== null && buses[busId]?.name) || 'mix bus';

/** What a cell shows, and begins to be edited with. */
export function cellText(id: EditedColumn, track: Track, busName: string): string {
  if (id === 'kind') return kindText(track);
  if (id === 'bus') return busName;
  if (id === 'level') return levelText(track.gainDb);
  if (id === 'pan') return formatPan(track.pan);
  return (track[id] ?? '').replaceAll('-', ' ');
}

/** Whether a cell shows what every track begins with. */
export const isPlain = (id: EditedColumn, track: Track): boolean =>
  (id === 'bus' && track.busId === null) ||
  (id === 'level' && track.gainDb === 0) ||
  (id === 'pan' && track.pan === 0);

/** What a cell's edit needs to know. */
interface By {
  readonly session: SessionState;
  readonly style: HouseStyle;
  /** The family the cell shows: a part alone is one of it, where it has such a part. */
  readonly shownFamily: Family;
}

/** Edits that give all of some tracks what was typed, or chosen, in one cell of theirs. A bus is given by its id. */
export function cellEdits(id: EditedColumn, text: string, tracks: readonly Track[], by: By): TrackEdits {
  if (id === 'kind') return kindEdits(text, tracks, by);
  if (id === 'level' || id === 'pan') return stripEdits(id, text, tracks);
  if (id === 'bus')
    return editsForEach('Route to a bus', tracks, () => ({ busId: text === '' ? null : text }));
  return editsForEach(`Say the ${id}`, tracks, () => ({ [id]: partOfText(text) }));
}

function kindEdits(text: string, tracks: readonly Track[], { session, style, shownFamily }: By): TrackEdits {
  const found = readKind(text, shownFamily);
  if ('error' in found) return found;
  const by = { style, busIds: new Set(session.busOrder) };
  const { family, part } = found;
  return {
    label: countedLabel(`Call it ${part?.replaceAll('-', ' ') ?? family.replaceAll('-', ' ')}`, tracks),
    edits: tracks.flatMap((t) =>
      part === null ? [familyEdit(t, family, by)] : partEdits(t, family, part, by),
    ),
  };
}

/** Reads a family, a part, or both with a dot between; a part that several families have is of `own` if that has it. */
export function readKind(
  text: string,
  own: Family,
): { readonly family: Family; readonly part: string | null } | { readonly error: string } {
  const [first = '', second] = text.split(/[·:/]/u).map((word) => partOfText(word) ?? '');
  const isFamily = (word: string): word is Family => (FAMILIES as readonly string[]).includes(word);
  if (second !== undefined) {
    if (!isFamily(first)) return { error: `No family is called “${first.replaceAll('-', ' ')}”.` };
    return { family: first, part: second === '' ? null : second };
  }
  const having = FAMILIES.filter((f) => partsOf(f).includes(first));
  // A word that is both, as bass, is the family: its part follows from it.
  if (isFamily(first)) return { family: first, part: null };
  const family = having.includes(own) ? own : having.length === 1 ? having[0] : undefined;
  if (family !== undefined) return { family, part: first };
  if (first === '') return { error: 'Say a family, or a part of one.' };
  if (having.length === 0 && own !== 'unknown') return { family: own, part: first };
  return {
    error:
      having.length === 0
        ? `No part is called “${text.trim()}”: say its family too, as “keys · ${text.trim()}”.`
        : `Say which: ${having.map((f) => `${f.replaceAll('-', ' ')} · ${text.trim()}`).join(', or ')}.`,
  };
}

/** All that can be said of what a track is, as {@link readKind} reads it. */
export const allKinds = (): string[] =>
  FAMILIES.flatMap((family) => [
    family.replaceAll('-', ' '),
    ...partsOf(family)
      .filter((p) => p !== family)
      .map((part) => kindText({ family, part })),
  ]);
