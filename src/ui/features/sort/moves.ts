import { applyEdits, isFolder, isTrack, listRows, ROOT, type Edit, type SessionState } from '@/core/session';

const placeOf = (session: SessionState, id: string): { parentId: string; index: number } | null => {
  for (const [parentId, ids] of Object.entries(session.children)) if (ids.includes(id)) return { parentId, index: ids.indexOf(id) };
  return null;
};

/** What a person has placed stays there when the house style is applied. */
const byHand = (session: SessionState, ids: readonly string[]): Edit[] =>
  ids.flatMap((id): Edit[] => { const t = session.nodes[id]; return isTrack(t) && !t.byHand.includes('place') ? [{ kind: 'track.change', id, fields: { byHand: [...t.byHand, 'place'] } }] : []; });

/** Selected rows one place up or down among their siblings, as a block; those at the edge stay. */
export function moveEdits(session: SessionState, ids: readonly string[], by: -1 | 1): Edit[] {
  const order = listRows(session).map((r) => r.node.id).filter((id) => ids.includes(id));
  const lists = new Map<string, string[]>();
  const edits: Edit[] = [];
  for (const id of by < 0 ? order : order.reverse()) {
    const parentId = placeOf(session, id)?.parentId;
    if (parentId === undefined) continue;
    const siblings = lists.get(parentId) ?? [...(session.children[parentId] ?? [])];
    lists.set(parentId, siblings);
    const index = siblings.indexOf(id) + by;
    // One that could not move holds up those behind it.
    if (index < 0 || index >= siblings.length || ids.includes(siblings[index] as string)) continue;
    siblings.splice(index - by, 1);
    siblings.splice(index, 0, id);
    edits.push({ kind: 'node.place', id, parentId, index });
  }
  return edits.length === 0 ? [] : [...edits, ...byHand(session, edits.flatMap((e) => ('id' in e ? [e.id] : [])))];
}

/** Rows dropped before a row, or into a folder; their order among each other is kept. A folder never lands inside itself. */
export function dropEdits(session: SessionState, ids: readonly string[], target: { readonly id: string; readonly into: boolean }): Edit[] {
  const order = listRows(session).map((r) => r.node.id).filter((id) => ids.includes(id));
  const to = placeOf(session, target.id);
  if (!to || ids.includes(target.id)) return [];
  const parentId = target.into && isFolder(session.nodes[target.id]) ? target.id : to.parentId;
  for (let at: string = parentId; at !== ROOT; at = placeOf(session, at)?.parentId ?? ROOT) if (ids.includes(at)) return [];
  // Indices count after the moved rows have been taken out.
  const rest = (session.children[parentId] ?? []).filter((id) => !ids.includes(id));
  const start = parentId === target.id ? rest.length : rest.indexOf(target.id);
  const edits: Edit[] = [];
  let lifted = session.children[parentId] ?? [];
  for (const id of order) {
    lifted = lifted.filter((x) => x !== id);
    const before = rest[start];
    const index = before === undefined ? lifted.length : lifted.indexOf(before);
    lifted = [...lifted.slice(0, index), id, ...lifted.slice(index)];
    edits.push({ kind: 'node.place', id, parentId, index });
  }
  return [...edits, ...byHand(session, order)];
}

/** A new folder around the selected tracks, where the first of them stands. */
export function newFolderEdits(session: SessionState, ids: readonly string[]): Edit[] {
  const order = listRows(session).filter((r) => ids.includes(r.node.id) && r.node.kind === 'track');
  const first = order[0];
  if (!first) return [];
  const taken = new Set(Object.keys(session.nodes));
  let n = 1;
  while (taken.has(`folder-own-${n}`)) n++;
  const id = `folder-own-${n}`;
  return [
    { kind: 'folder.add', folder: { kind: 'folder', id, name: `Folder ${n}`, color: first.node.color, busId: null }, parentId: first.parentId, index: first.index },
    ...order.map((r, index): Edit => ({ kind: 'node.place', id: r.node.id, parentId: id, index })),
    ...byHand(session, order.map((r) => r.node.id)),
  ];
}

/** Takes tracks out of the session and folders apart: what a folder holds comes to stand where it stood. */
export function removeEdits(session: SessionState, ids: readonly string[]): Edit[] {
  const order = listRows(session).map((r) => r.node).filter((n) => ids.includes(n.id));
  const tracks = order.filter((n) => n.kind === 'track').map((n): Edit => ({ kind: 'track.remove', id: n.id }));
  let state = applyAll(session, tracks);
  const edits = [...tracks];
  // Innermost folders first, so that what they held is lifted out with them.
  for (const folder of order.filter((n) => n.kind === 'folder').reverse()) {
    const place = placeOf(state, folder.id);
    if (!place) continue;
    const apart: Edit[] = [...(state.children[folder.id] ?? []).map((id, i): Edit => ({ kind: 'node.place', id, parentId: place.parentId, index: place.index + i })), { kind: 'folder.remove', id: folder.id }];
    state = applyAll(state, apart);
    edits.push(...apart);
  }
  return edits;
}

function applyAll(session: SessionState, edits: readonly Edit[]): SessionState {
  const outcome = applyEdits(session, edits);
  return outcome.ok ? outcome.session : session;
}
