import { isFolder, isTrack, ROOT, type Folder, type SessionState, type Track } from './state';

/** A row of the sheet. */
export interface SessionRow {
  readonly node: Track | Folder;
  /** 0 at the top level. */
  readonly depth: number;
  readonly parentId: string;
  /** Place among its siblings. */
  readonly index: number;
}

/** All rows from top to bottom; what lies in a folder of `folded` is left out. */
export function listRows(session: SessionState, folded: ReadonlySet<string> = new Set()): SessionRow[] {
  const rows: SessionRow[] = [];
  const walk = (parentId: string, depth: number): void =>
    (session.children[parentId] ?? []).forEach((id, index) => {
      const node = session.nodes[id];
      if (!node) return;
      rows.push({ node, depth, parentId, index });
      if (isFolder(node) && !folded.has(id)) walk(id, depth + 1);
    });
  walk(ROOT, 0);
  return rows;
}

/** Index in `order` that stands before those of its last that are all in `after`: where what comes late is put, when it belongs before them. */
export function indexBefore(order: readonly string[], after: ReadonlySet<string>): number {
  let at = order.length;
  for (let last = order[at - 1]; last !== undefined && after.has(last); last = order[at - 1]) at--;
  return at;
}

/** Tracks from top to bottom, at any depth. */
export const tracksInOrder = (session: SessionState): Track[] =>
  listRows(session)
    .map((r) => r.node)
    .filter(isTrack);

/** Tracks of sound, without those of notes, from top to bottom. */
export const soundTracks = (session: SessionState): Track[] =>
  tracksInOrder(session).filter((t) => t.tiedTo === null);

/** Tracks of notes, from top to bottom. */
export const noteTracks = (session: SessionState): Track[] =>
  tracksInOrder(session).filter((t) => t.tiedTo !== null);

/** These tracks, and all tracks in these folders at any depth, from top to bottom. */
export function tracksUnder(session: SessionState, ids: Iterable<string>): Track[] {
  const wanted = new Set(ids);
  for (const { node, parentId } of listRows(session)) if (wanted.has(parentId)) wanted.add(node.id);
  return tracksInOrder(session).filter((t) => wanted.has(t.id));
}

/** Names of the folders a node lies in, outermost first. */
export function pathOf(session: SessionState, id: string): string[] {
  const parent = Object.entries(session.children).find(([, ids]) => ids.includes(id))?.[0];
  if (parent === undefined || parent === ROOT) return [];
  const folder = session.nodes[parent];
  return [...pathOf(session, parent), folder?.name ?? ''];
}
