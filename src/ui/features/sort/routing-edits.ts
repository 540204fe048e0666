import {
  type Bus,
  type Change,
  type Folder,
  type Group,
  isFolder,
  isTrack,
  NOWHERE,
  sumsByFolder,
  type SessionState,
  tracksUnder,
} from '@/core/session';
import { freeColor } from '@/core/style';

const freeId = (taken: (id: string) => boolean, stem: string): string => {
  let n = 1;
  while (taken(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
};

const withHand = (list: readonly string[], ...fields: string[]): string[] => [
  ...new Set([...list, ...fields]),
];

/** A new bus at the end of the list, in a colour no other has; its id and the edit that makes it. */
export function newBus(
  session: SessionState,
  kind: Bus['kind'],
  name: string,
  more: Partial<Bus> = {},
): { readonly id: string; readonly edit: Change } {
  const id = freeId((x) => session.buses[x] !== undefined, kind === 'return' ? 'return-own' : 'bus-own');
  return {
    id,
    edit: {
      kind: 'bus.add',
      bus: {
        id,
        name,
        color: freeColor(Object.values(session.buses).map((b) => b.color)),
        kind,
        outputBusId: null,
        sends: [],
        byHand: ['outputBusId', 'sends'],
        ...more,
      },
      index: session.busOrder.length,
    },
  };
}

/** Puts a folder on another sum, or on none of its own; its tracks that fed the sum it had go along, also those in folders without a sum. */
export function sumFolderEdits(session: SessionState, folder: Folder, busId: string | null): Change[] {
  const before = sumsByFolder(session).get(folder.id) ?? null;
  const around =
    sumsByFolder({ ...session, nodes: { ...session.nodes, [folder.id]: { ...folder, busId: null } } }).get(
      folder.id,
    ) ?? null;
  const to = busId ?? around;
  const moved = tracksUnder(session, [folder.id]).filter((t) => t.busId === before);
  return [
    { kind: 'folder.change', id: folder.id, fields: { busId } },
    ...moved.map((t): Change => ({
      kind: 'track.change',
      id: t.id,
      fields: { busId: to, byHand: withHand(t.byHand, 'busId') },
    })),
  ];
}

/** A sum of its own for a folder, into the sum of the folder around it. */
export function ownSumEdits(session: SessionState, folder: Folder): Change[] {
  const { id, edit } = newBus(session, 'sum', folder.name, {
    color: folder.color,
    outputBusId: sumsByFolder(session).get(folder.id) ?? null,
  });
  return [edit, ...sumFolderEdits(session, folder, id)];
}

/** Takes a bus away: what went to it goes on to where it went; what was sent to it is sent no more. */
export function removeBusEdits(session: SessionState, id: string): Change[] {
  const bus = session.buses[id];
  if (!bus) return [];
  const to = bus.outputBusId;
  const unsent = <T extends { readonly sends: Bus['sends'] }>({
    sends,
  }: T): { sends: Bus['sends'] } | null =>
    sends.some((s) => s.busId === id) ? { sends: sends.filter((s) => s.busId !== id) } : null;
  const fromNodes = Object.values(session.nodes).flatMap((n): Change[] => {
    if (isFolder(n))
      return n.busId === id
        ? [{ kind: 'folder.change', id: n.id, fields: { busId: to === NOWHERE ? null : to } }]
        : [];
    const fields = { ...(n.busId === id ? { busId: to } : {}), ...unsent(n) };
    return Object.keys(fields).length === 0
      ? []
      : [
          {
            kind: 'track.change',
            id: n.id,
            fields: { ...fields, byHand: withHand(n.byHand, ...Object.keys(fields)) },
          },
        ];
  });
  const fromBuses = Object.values(session.buses).flatMap((b): Change[] => {
    const fields = { ...(b.outputBusId === id ? { outputBusId: to } : {}), ...unsent(b) };
    return b.id === id || Object.keys(fields).length === 0
      ? []
      : [
          {
            kind: 'bus.change',
            id: b.id,
            fields: { ...fields, byHand: withHand(b.byHand, ...Object.keys(fields)) },
          },
        ];
  });
  return [...fromNodes, ...fromBuses, { kind: 'bus.remove', id }];
}

/** A group of the given tracks, by hand. */
export function newGroupEdits(session: SessionState, trackIds: readonly string[]): Change[] {
  const members = trackIds.filter((id) => isTrack(session.nodes[id]));
  if (members.length < 2) return [];
  const id = freeId((x) => session.groups.some((g) => g.id === x), 'group-own');
  return [
    {
      kind: 'groups.set',
      groups: [
        ...session.groups,
        { id, name: `Group ${id.split('-').at(-1)}`, trackIds: members, on: true, gainDb: 0, byHand: true },
      ],
    },
  ];
}

/** One group changed, or taken away; the house style then leaves it alone. */
export const changeGroup = (
  session: SessionState,
  id: string,
  fields: Partial<Omit<Group, 'id' | 'byHand'>> | null,
): Change => ({
  kind: 'groups.set',
  groups: session.groups.flatMap((g) =>
    g.id !== id ? [g] : fields === null ? [] : [{ ...g, ...fields, byHand: true }],
  ),
});
