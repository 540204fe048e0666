import {
  applyChanges,
  isFolder,
  isTrack,
  listRows,
  ROOT,
  type Change,
  type SessionState,
} from '@/core/session';

const placeOf = (session: SessionState, id: string): { parentId: string; index: number } | null => {
  for (const [parentId, ids] of Object.entries(session.children))
    if (ids.includes(id)) return { parentId, index: ids.indexOf(id) };
  return null;
};

/** The sum that what stands in a folder feeds: its own, or that of a folder around it; null = the mix bus. */
function sumOf(session: SessionState, parentId: string): string | null {
  for (let at = parentId; at !== ROOT; at = placeOf(session, at)?.parentId ?? ROOT) {
    const node = session.nodes[at];
    if (isFolder(node) && node.busId !== null) return node.busId;
  }
  return null;
}

/** What a person has placed stays there when the house style is applied, and feeds the sum of the folder it came to. */
const byHand = (session: SessionState, ids: readonly string[], parentId: string | null = null): Change[] =>
  ids.flatMap((id): Change[] => {
    const t = session.nodes[id];
    if (!isTrack(t)) return [];
    const moves = parentId !== null && placeOf(session, id)?.parentId !== parentId;
    const hand = [...new Set([...t.byHand, 'place', ...(moves ? ['busId'] : [])])];
    return hand.length === t.byHand.length && !moves
      ? []
      : [
          {
            kind: 'track.change',
            id,
            fields: { ...(moves ? { busId: sumOf(session, parentId) } : {}), byHand: hand },
          },
        ];
  });

/** Selected rows one place up or down among their siblings, as a block; those at the edge stay. */
export function moveEdits(session: SessionState, ids: readonly string[], by: -1 | 1): Change[] {
  const order = listRows(session)
    .map((r) => r.node.id)
    .filter((id) => ids.includes(id));
  const lists = new Map<string, string[]>();
  const edits: Change[] = [];
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
  return edits.length === 0
    ? []
    : [
        ...edits,
        ...byHand(
          session,
          edits.flatMap((e) => ('id' in e ? [e.id] : [])),
        ),
      ];
}

/** Rows dropped before a row, or into a folder; their order among each other is kept. A folder never lands inside itself. */
export function dropEdits(
  session: SessionState,
  ids: readonly string[],
  target: { readonly id: string; readonly into: boolean },
): Change[] {
  const order = listRows(session)
    .map((r) => r.node.id)
    .filter((id) => ids.includes(id));
  const to = placeOf(session, target.id);
  if (!to || ids.includes(target.id)) return [];
  const parentId = target.into && isFolder(session.nodes[target.id]) ? target.id : to.parentId;
  for (let at: string = parentId; at !== ROOT; at = placeOf(session, at)?.parentId ?? ROOT)
    if (ids.includes(at)) return [];
  // Indices count after the moved rows have been taken out.
  const rest = (session.children[parentId] ?? []).filter((id) => !ids.includes(id));
  const start = parentId === target.id ? rest.length : rest.indexOf(target.id);
  const edits: Change[] = [];
  let lifted = session.children[parentId] ?? [];
  for (const id of order) {
    lifted = lifted.filter((x) => x !== id);
    const before = rest[start];
    const index = before === undefined ? lifted.length : lifted.indexOf(before);
    lifted = [...lifted.slice(0, index), id, ...lifted.slice(index)];
    edits.push({ kind: 'node.place', id, parentId, index });
  }
  return [...edits, ...byHand(session, order, parentId)];
}

/** A new folder around the selected tracks, where the first of them stands. */
export function newFolderEdits(session: SessionState, ids: readonly string[]): Change[] {
  const order = listRows(session).filter((r) => ids.includes(r.node.id) && r.node.kind === 'track');
  const first = order[0];
  if (!first) return [];
  const taken = new Set(Object.keys(session.nodes));
  let n = 1;
  while (taken.has(`folder-own-${n}`)) n++;
  const id = `folder-own-${n}`;
  return [
    {
      kind: 'folder.add',
      folder: { kind: 'folder', id, name: `Folder ${n}`, color: first.node.color, busId: null },
      parentId: first.parentId,
      index: first.index,
    },
    ...order.map((r, index): Change => ({ kind: 'node.place', id: r.node.id, parentId: id, index })),
    ...byHand(
      session,
      order.map((r) => r.node.id),
    ),
  ];
}

/** Takes tracks out of the session and folders apart: what a folder holds comes to stand where it stood. */
export function removeEdits(session: SessionState, ids: readonly string[]): Change[] {
  const order = listRows(session)
    .map((r) => r.node)
    .filter((n) => ids.includes(n.id));
  const tracks = order
    .filter((n) => n.kind === 'track')
    .map((n): Change => ({ kind: 'track.remove', id: n.id }));
  let state = applyAll(session, tracks);
  const edits = [...tracks];
  // Innermost folders first, so that what they held is lifted out with them.
  for (const folder of order.filter((n) => n.kind === 'folder').reverse()) {
    const place = placeOf(state, folder.id);
    if (!place) continue;
    const apart: Change[] = [
      ...(state.children[folder.id] ?? []).map((id, i): Change => ({
        kind: 'node.place',
        id,
        parentId: place.parentId,
        index: place.index + i,
      })),
      { kind: 'folder.remove', id: folder.id },
    ];
    state = applyAll(state, apart);
    edits.push(...apart);
  }
  return edits;
}

function applyAll(session: SessionState, edits: readonly Change[]): SessionState {
  const outcome = applyChanges(session, edits);
  return outcome.ok ? outcome.session : session;
}

/** Rows put at the end of a folder, or of the top level. */
export function intoEdits(session: SessionState, ids: readonly string[], parentId: string): Change[] {
  const last = (session.children[parentId] ?? []).filter((id) => !ids.includes(id)).length;
  const order = listRows(session)
    .map((r) => r.node.id)
    .filter((id) => ids.includes(id) && id !== parentId);
  for (let at: string = parentId; at !== ROOT; at = placeOf(session, at)?.parentId ?? ROOT)
    if (order.includes(at)) return [];
  return [
    ...order.map((id, i): Change => ({ kind: 'node.place', id, parentId, index: last + i })),
    ...byHand(session, order, parentId),
  ];
}

/** Selected rows of one level into the folder that stands before them, or out of theirs to behind it. */
export function nestEdits(session: SessionState, ids: readonly string[], deeper: boolean): Change[] {
  const order = listRows(session)
    .map((r) => r.node.id)
    .filter((id) => ids.includes(id));
  const first = order[0] === undefined ? null : placeOf(session, order[0]);
  if (!first) return [];
  const level = order.filter((id) => placeOf(session, id)?.parentId === first.parentId);
  const siblings = session.children[first.parentId] ?? [];
  if (deeper) {
    const before = siblings
      .slice(0, first.index)
      .findLast((id) => isFolder(session.nodes[id]) && !ids.includes(id));
    return before === undefined ? [] : intoEdits(session, level, before);
  }
  const outer = first.parentId === ROOT ? null : placeOf(session, first.parentId);
  if (!outer) return [];
  return [
    ...level.map((id, i): Change => ({
      kind: 'node.place',
      id,
      parentId: outer.parentId,
      index: outer.index + 1 + i,
    })),
    ...byHand(session, level, outer.parentId),
  ];
}

/** Takes away folders without any track in them, however deep. */
export function emptyFolderEdits(session: SessionState): Change[] {
  const holds = (id: string): boolean =>
    (session.children[id] ?? []).some((child) => isTrack(session.nodes[child]) || holds(child));
  return listRows(session)
    .reverse()
    .flatMap((r): Change[] =>
      isFolder(r.node) && !holds(r.node.id) ? [{ kind: 'folder.remove', id: r.node.id }] : [],
    );
}

/** The name of the first selected track for all of them, numbered. */
export function copyNameEdits(session: SessionState, ids: readonly string[]): Change[] {
  const [first, ...rest] = listRows(session).flatMap((r) =>
    isTrack(r.node) && ids.includes(r.node.id) ? [r.node] : [],
  );
  if (!first) return [];
  const stem = first.name.replace(/ \d+$/, '');
  const from = Number(/ (\d+)$/.exec(first.name)?.[1] ?? 1);
  return rest.map((t, i): Change => ({
    kind: 'track.change',
    id: t.id,
    fields: { name: `${stem} ${from + 1 + i}`, byHand: [...new Set([...t.byHand, 'name'])] },
  }));
}
