import {
  difference,
  type Group,
  isFolder,
  isTrack,
  ROOT,
  routedTo,
  type Edit,
  type Folder,
  type SessionState,
  type Track,
} from '../session';
import { busId, folderColor, folderId, type FolderTree, isStyleFolder, treeOf } from './folders';
import type { FolderRule, HouseStyle } from './house-style';
import type { SortProposal, SortRow } from './propose';
import { groupId, isStyleGroup, isStyleReturn, styledBuses } from './routing';

/**
 * The edits that carry out the ticked rows: sums, returns and folders where missing, fields, places, groups; what the style
 * made and is empty then goes. Rows not ticked keep their fields and stay where they are, after the sorted ones. What the
 * style says of sums that are there holds with any ticked row, and without one.
 */
export function proposalEdits(
  session: SessionState,
  style: HouseStyle,
  proposal: SortProposal,
  tickedTrackIds: ReadonlySet<string>,
): Edit[] {
  const ticked = proposal.rows.filter(
    (r) => tickedTrackIds.has(r.trackId) && isTrack(session.nodes[r.trackId]),
  );
  if (ticked.length === 0 && proposal.sums.length === 0) return [];
  return difference(
    session,
    withoutUnsent(
      session,
      withoutEmpty(
        session,
        placed(
          grouped(described(session, style, proposal, ticked), style, proposal, ticked),
          style,
          proposal,
          ticked,
        ),
      ),
    ),
  );
}

/** The folders of a style that tracks go into, with all those stand in. */
function foldersFor(tree: FolderTree, rows: readonly SortRow[]): Set<FolderRule> {
  return new Set(
    rows.flatMap((r) => {
      const f = r.stays ? null : tree.get(r.folderKey);
      return f ? tree.pathOf(f) : [];
    }),
  );
}

/** Buses and folders that are missing, where sums go, and the fields of tracks; over what was set by hand, names and colours of folders and sums too. */
function described(
  session: SessionState,
  style: HouseStyle,
  proposal: SortProposal,
  ticked: readonly SortRow[],
): SessionState {
  const { overHand } = proposal;
  const tree = treeOf(style);
  const nodes: Record<string, Track | Folder> = { ...session.nodes };
  const children: Record<string, readonly string[]> = { ...session.children };
  const wanted = foldersFor(tree, ticked);
  // A track that stays where it is still feeds the sum it belongs to.
  const sums = new Set([
    ...wanted,
    ...ticked.flatMap((r) => {
      const f = tree.get(r.folderKey);
      return f ? tree.pathOf(f) : [];
    }),
  ]);
  for (const rule of style.folders) {
    const sum = tree.busOf(rule);
    if (!wanted.has(rule)) continue;
    const id = folderId(rule.key);
    const there = nodes[id];
    const kept = isFolder(there) && !overHand ? there : null;
    nodes[id] = {
      kind: 'folder',
      id,
      name: kept?.name ?? rule.name,
      color: kept ? kept.color : folderColor(style, rule, 'folder'),
      busId: sum === null ? null : busId(sum),
    };
    if (there) continue;
    children[id] = [];
    children[ROOT] = [...(children[ROOT] ?? []), id];
  }
  for (const row of ticked) nodes[row.trackId] = { ...(nodes[row.trackId] as Track), ...row.fields };
  return { ...session, nodes, children, ...styledBuses({ ...session, nodes }, style, { sums, overHand }) };
}

/** Groups of the style with the ticked tracks that belong in; those a person made or changed stay. */
function grouped(
  session: SessionState,
  style: HouseStyle,
  proposal: SortProposal,
  ticked: readonly SortRow[],
): SessionState {
  if (!ticked.some((r) => r.regroups)) return session;
  const isTicked = new Set(ticked.map((r) => r.trackId));
  const present = new Map(session.groups.map((g) => [g.id, g]));
  const isOurs = (id: string): boolean => isStyleGroup(id) && (proposal.overHand || !present.get(id)?.byHand);
  const ours = style.groups
    .filter((g) => isOurs(groupId(g.key)))
    .flatMap(({ key, name }): Group[] => {
      const id = groupId(key);
      const there = present.get(id);
      const members = proposal.rows
        .filter((r) =>
          isTicked.has(r.trackId) ? r.groups.includes(id) : there?.trackIds.includes(r.trackId),
        )
        .map((r) => r.trackId);
      if (members.length < 2) return [];
      const isSame =
        there?.trackIds.length === members.length && members.every((m) => there.trackIds.includes(m));
      return [
        {
          id,
          name: there && !proposal.overHand ? there.name : name,
          trackIds: isSame && there ? there.trackIds : members,
          on: there?.on ?? true,
          gainDb: there?.gainDb ?? 0,
          byHand: false,
        },
      ];
    });
  return { ...session, groups: [...ours, ...session.groups.filter((g) => !isOurs(g.id))] };
}

/** Without the returns of styles that this has left without anything sent to them. */
function withoutUnsent(before: SessionState, session: SessionState): SessionState {
  const was = routedTo(before);
  const is = routedTo(session);
  const gone = new Set(
    session.busOrder.filter(
      (id) => isStyleReturn(id) && session.buses[id]?.byHand.length === 0 && was.has(id) && !is.has(id),
    ),
  );
  return gone.size === 0
    ? session
    : {
        ...session,
        buses: Object.fromEntries(Object.entries(session.buses).filter(([id]) => !gone.has(id))),
        busOrder: session.busOrder.filter((id) => !gone.has(id)),
      };
}

/** Folders of the style in its order, ticked tracks in their folders; all else keeps its order, after what the style has placed. */
function placed(
  session: SessionState,
  style: HouseStyle,
  proposal: SortProposal,
  ticked: readonly SortRow[],
): SessionState {
  const tree = treeOf(style);
  const moving = ticked.filter((r) => !r.stays);
  const moved = new Set(moving.map((r) => r.trackId));
  const present = (f: FolderRule): boolean => isFolder(session.nodes[folderId(f.key)]);
  const own = new Set(style.folders.filter(present).map((f) => folderId(f.key)));
  const lists = new Map(
    Object.entries(session.children).map(([parent, ids]) => [
      parent,
      ids.filter((id) => !moved.has(id) && !own.has(id)),
    ]),
  );
  const order = new Map(proposal.rows.map((r, i) => [r.trackId, i]));
  for (const row of moving) {
    const parent = row.folderKey === null ? ROOT : folderId(row.folderKey);
    const list = lists.get(parent) ?? [];
    const at = order.get(row.trackId) as number;
    // Behind the last that the style puts before it.
    list.splice(list.findLastIndex((id) => (order.get(id) ?? Infinity) < at) + 1, 0, row.trackId);
    lists.set(parent, list);
  }
  const last = new Set(tree.trailing());
  const folders = (parent: string | null): FolderRule[] =>
    tree.under(parent).flatMap((f) => (present(f) ? [f] : folders(f.key)));
  for (const f of style.folders.filter(present))
    lists.set(folderId(f.key), [
      ...folders(f.key).map((x) => folderId(x.key)),
      ...(lists.get(folderId(f.key)) ?? []),
    ]);
  const top = folders(null);
  lists.set(ROOT, [
    ...top.filter((f) => !last.has(f)).map((f) => folderId(f.key)),
    ...(lists.get(ROOT) ?? []),
    ...top.filter((f) => last.has(f)).map((f) => folderId(f.key)),
  ]);
  return { ...session, children: Object.fromEntries(lists) };
}

/** Without the folders of styles that this has emptied, and the sums that nothing feeds any more. */
function withoutEmpty(before: SessionState, session: SessionState): SessionState {
  let { children } = session;
  const nodes = { ...session.nodes };
  for (let emptied = true; emptied;) {
    emptied = false;
    for (const [id, ids] of Object.entries(children)) {
      // One that was empty before was left so by a person.
      if (id === ROOT || !isStyleFolder(id) || ids.length > 0 || (before.children[id] ?? []).length === 0)
        continue;
      delete nodes[id];
      children = Object.fromEntries(
        Object.entries(children)
          .filter(([k]) => k !== id)
          .map(([k, list]) => [k, list.filter((x) => x !== id)]),
      );
      emptied = true;
    }
  }
  const gone = Object.keys(before.nodes).filter((id) => !nodes[id]);
  if (gone.length === 0) return { ...session, nodes, children };
  const buses = { ...session.buses };
  for (let freed = true; freed;) {
    const used = routedTo({ nodes, buses });
    const free = gone
      .map((id) => before.nodes[id]?.busId ?? null)
      .concat(Object.keys(buses).filter((id) => id.startsWith('bus-')))
      .filter((id): id is string => id !== null && buses[id] !== undefined && !used.has(id));
    freed = free.length > 0;
    for (const id of free) delete buses[id];
  }
  return { ...session, nodes, children, buses, busOrder: session.busOrder.filter((id) => buses[id]) };
}
