import type { SessionListItem, Shelf } from '@/contracts';
import type { TableOrder } from '@/ui/kit';

/** What the list can be sorted by. */
export type ListColumn = 'name' | 'artist' | 'tracks' | 'length' | 'size' | 'changed';

/** Which of them, and which way. */
export type ListOrder = TableOrder<ListColumn>;

/** The newest change first, and songs of a project together. */
export const FIRST_ORDER: ListOrder = { by: 'changed', down: true };

/** A session, or the name over those of one delivery. */
export type ListRow =
  | { readonly kind: 'song'; readonly song: SessionListItem }
  | { readonly kind: 'project'; readonly name: string; readonly songs: readonly SessionListItem[] };

const collator = new Intl.Collator('en', { numeric: true });
const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Sessions on a shelf whose song, artist or project has all words of a search. */
export function foundSessions(
  sessions: readonly SessionListItem[],
  shelf: Shelf,
  search: string,
): SessionListItem[] {
  const words = plain(search).split(/\s+/u).filter(Boolean);
  return sessions.filter((s) => {
    const text = plain(`${s.name} ${s.artist} ${s.project}`);
    return s.shelf === shelf && words.every((w) => text.includes(w));
  });
}

const KEYS: Readonly<Record<ListColumn, (s: SessionListItem) => string | number>> = {
  name: (s) => s.name,
  artist: (s) => s.artist,
  tracks: (s) => s.trackCount,
  length: (s) => s.lengthSeconds,
  size: (s) => s.sizeBytes,
  changed: (s) => s.updatedAt,
};

/** Rows in an order; alike ones by name. Songs of a project stand together only as the list comes. */
export function listRows(sessions: readonly SessionListItem[], order: ListOrder): ListRow[] {
  const sign = order.down ? -1 : 1;
  const key = KEYS[order.by];
  const compare = (a: SessionListItem, b: SessionListItem): number => {
    const [x, y] = [key(a), key(b)];
    const apart = typeof x === 'number' ? x - (y as number) : collator.compare(x, y as string);
    return sign * apart || collator.compare(a.name, b.name);
  };
  const sorted = [...sessions].sort(compare);
  const isFirst = order.by === FIRST_ORDER.by && order.down === FIRST_ORDER.down;
  return isFirst ? inProjects(sorted) : sorted.map((song) => ({ kind: 'song', song }));
}

/** Songs of one delivery, by name. */
export const songsOf = (sessions: readonly SessionListItem[], project: string): SessionListItem[] =>
  sessions.filter((s) => s.project === project).sort((a, b) => collator.compare(a.name, b.name));

/** Those of a project together where the newest of them stands. */
function inProjects(sessions: readonly SessionListItem[]): ListRow[] {
  const done = new Set<string>();
  return sessions.flatMap((song): ListRow[] => {
    if (song.project === '') return [{ kind: 'song', song }];
    if (done.has(song.project)) return [];
    done.add(song.project);
    const songs = songsOf(sessions, song.project);
    return [
      { kind: 'project', name: song.project, songs },
      ...songs.map((s): ListRow => ({ kind: 'song', song: s })),
    ];
  });
}
