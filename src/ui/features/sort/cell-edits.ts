import { FAMILIES, type Family, partsOf } from '@/core/naming';
import { type Change, NOWHERE, type SessionState, type Track, type TrackFields } from '@/core/session';
import type { HouseStyle } from '@/core/style';
import { formatPan, readNumber } from '@/ui/kit';
import { familyEdit, partEdits, partOfText, withHand } from './family-edits';
import { kindText } from './rows';
import type { ColumnId } from './sheet-columns';

/** What a cell of the sheet can be edited for. */
export type EditedColumn = Exclude<ColumnId, 'wave' | 'peak' | 'name'>;

/** Whether a cell can be edited in its place; names have an editor of their own. */
export const isEdited = (id: ColumnId): id is EditedColumn => !['wave', 'peak', 'name'].includes(id);

/** dB, and hundredths of the way to one side. */
export const LEVEL_RANGE = { min: -60, max: 12, unit: 'dB' };
export const PAN_RANGE = { min: -100, max: 100 };

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

export const levelText = (gainDb: number): string =>
  `${gainDb < 0 ? '−' : gainDb > 0 ? '+' : ''}${Math.abs(gainDb).toFixed(1)}`;

/** Reads a pan as it is typed: `L30`, `30 R`, `c`, or −100 … 100. */
export function readPan(text: string, now: number): ReturnType<typeof readNumber> {
  const plain = text.trim().toLowerCase();
  if (['c', 'centre', 'center', 'mid'].includes(plain)) return { value: 0 };
  const side = /^(l|left|r|right)?\s*([0-9.,]*)\s*%?\s*(l|left|r|right)?$/u.exec(plain);
  const said = side?.[1] ?? side?.[3];
  const isTwice = side?.[1] !== undefined && side[3] !== undefined;
  if (!side || said === undefined || isTwice) return readNumber(plain.replace(/%$/u, ''), PAN_RANGE, now);
  const amount = readNumber(side[2] === '' ? '100' : (side[2] as string), { min: 0, max: 100 });
  return 'error' in amount ? amount : { value: (said.startsWith('l') ? -1 : 1) * amount.value };
}

/** What a typed text does to all of some tracks, or why it cannot. */
export type CellEdits =
  { readonly label: string; readonly edits: readonly Change[] } | { readonly error: string };

/** What a cell's edit needs to know. */
interface By {
  readonly session: SessionState;
  readonly style: HouseStyle;
  /** The family the cell shows: a part alone is one of it, where it has such a part. */
  readonly shownFamily: Family;
}

/** Edits that give all of some tracks what was typed, or chosen, in one cell of theirs. A bus is given by its id. */
export function cellEdits(id: EditedColumn, text: string, tracks: readonly Track[], by: By): CellEdits {
  if (id === 'kind') return kindEdits(text, tracks, by);
  if (id === 'level' || id === 'pan') return figureEdits(id, text, tracks);
  if (id === 'bus') return each('Route to a bus', tracks, () => ({ busId: text === '' ? null : text }));
  return each(`Say the ${id}`, tracks, () => ({ [id]: partOfText(text) }));
}

function figureEdits(id: 'level' | 'pan', text: string, tracks: readonly Track[]): CellEdits {
  const values = tracks.map((t) =>
    id === 'level' ? readNumber(text, LEVEL_RANGE, t.gainDb) : readPan(text, Math.round(t.pan * 100)),
  );
  const wrong = values.find((v) => 'error' in v);
  if (wrong) return wrong as { error: string };
  const valueOf = new Map(tracks.map((t, i) => [t.id, (values[i] as { value: number }).value]));
  return each(id === 'level' ? 'Level' : 'Pan', tracks, (t) => {
    const value = valueOf.get(t.id) as number;
    return id === 'level' ? { gainDb: value } : { pan: value / 100 };
  });
}

/** One step up or down of all of some tracks, each from where it is; at the ends they stay together. */
export function stepEdits(id: 'level' | 'pan', by: number, tracks: readonly Track[]): CellEdits {
  const range = id === 'level' ? LEVEL_RANGE : PAN_RANGE;
  const now = (t: Track): number => (id === 'level' ? t.gainDb : Math.round(t.pan * 100));
  const all = tracks.map(now);
  const step = Math.max(range.min - Math.min(...all), Math.min(range.max - Math.max(...all), by));
  return each(id === 'level' ? 'Level' : 'Pan', tracks, (t) => {
    const value = Number((now(t) + step).toFixed(6));
    return id === 'level' ? { gainDb: value } : { pan: value / 100 };
  });
}

function kindEdits(text: string, tracks: readonly Track[], { session, style, shownFamily }: By): CellEdits {
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

function each(
  label: string,
  tracks: readonly Track[],
  fields: (t: Track) => Partial<TrackFields>,
): CellEdits {
  return {
    label: countedLabel(label, tracks),
    edits: tracks.flatMap((t): Change[] => {
      // What a person says holds against what is proposed, also where it is so already.
      const changed = Object.entries(fields(t)).filter(
        ([key, value]) => t[key as keyof Track] !== value || !t.byHand.includes(key),
      );
      if (changed.length === 0) return [];
      const keys = changed.map(([key]) => key as keyof TrackFields);
      return [
        {
          kind: 'track.change',
          id: t.id,
          fields: { ...Object.fromEntries(changed), byHand: withHand(t, ...keys) },
        },
      ];
    }),
  };
}

const countedLabel = (label: string, tracks: readonly Track[]): string =>
  tracks.length > 1 ? `${label}: ${tracks.length} tracks` : label;
