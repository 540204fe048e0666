import type { OwnWord } from '../naming';
import type { SongMapFile } from '../time';
import type { EditFault } from './checks';
import { alsoInOthers, byTime, lanesOf, movedTo, ownParts } from './clips';
import { difference } from './difference';
import { applyEdits, type Edit } from './edits';
import { type PackedLane, packedTrack, packFault, unpackedTracks } from './lane-moves';
import { type ConformSettings, KINDS, type MapFacts, NOWHERE, type StyleRef } from './records';
import { hasLoop, routedTo } from './routing';
import {
  type Bus,
  type BUS_FIELDS,
  type Clip,
  type Folder,
  type Group,
  isFolder,
  isTrack,
  type KeptMap,
  type Marker,
  type NewTrack,
  ROOT,
  type SessionState,
  type Track,
  type TrackFields,
  TRACK_FIELDS,
} from './state';

/** A bus as it may be added: what is left out is as at first. */
type NewBus = Pick<Bus, 'id' | 'name' | 'color' | 'outputBusId'> & Partial<Bus>;

/** The moves of the trade by name, and what they carry: plain JSON, from which edits of records are made. */
export interface MoveMap {
  'session.describe': {
    readonly name?: string;
    readonly artist?: string;
    readonly notes?: string;
    readonly key?: string;
  };
  'session.rate': { readonly sampleRateHz: number | null };
  'track.add': { readonly track: NewTrack; readonly parentId: string; readonly index: number };
  'track.remove': { readonly id: string };
  'track.change': { readonly id: string; readonly fields: Partial<TrackFields> };
  /** All pieces of a track at once. */
  'track.cut': { readonly id: string; readonly clips: readonly Clip[] };
  /** Another recording takes the track's place: name, routing, place in the song and all else stay. */
  'track.replace': { readonly id: string; readonly recordingId: string; readonly receivedName: string };
  /** Tracks become lanes of one of them, which stays. */
  'lanes.pack': { readonly id: string; readonly lanes: readonly PackedLane[] };
  /** Every lane of a track becomes a track again. */
  'lanes.unpack': { readonly id: string };
  'folder.add': { readonly folder: Folder; readonly parentId: string; readonly index: number };
  'folder.remove': { readonly id: string };
  'folder.change': {
    readonly id: string;
    readonly fields: Partial<Pick<Folder, 'name' | 'color' | 'busId'>>;
  };
  'node.place': { readonly id: string; readonly parentId: string; readonly index: number };
  'bus.add': {
    readonly bus: NewBus;
    readonly index: number;
  };
  'bus.remove': { readonly id: string };
  'bus.change': { readonly id: string; readonly fields: Partial<Pick<Bus, (typeof BUS_FIELDS)[number]>> };
  /** All groups at once. */
  'groups.set': { readonly groups: readonly Group[] };
  'map.replace': { readonly map: SongMapFile | null; readonly facts: MapFacts | null };
  /** All maps put by at once. */
  'maps.keep': { readonly maps: readonly KeptMap[] };
  'session.cut': { readonly bars: number | null };
  'timekeepers.choose': { readonly trackIds: readonly string[] | null };
  /** All words of the delivery at once. */
  'words.set': { readonly words: readonly OwnWord[] };
  'style.use': { readonly style: StyleRef | null };
  /** All markers at once. */
  'markers.set': { readonly markers: readonly Marker[] };
  'conform.set': { readonly conform: ConformSettings | null };
}

/** Name of a move. */
export type MoveKind = keyof MoveMap;

/** One move. */
export type Move = { [K in MoveKind]: { readonly kind: K } & MoveMap[K] }[MoveKind];

type Outcome = { readonly ok: true; readonly session: SessionState } | ({ readonly ok: false } & EditFault);
type Handler<K extends MoveKind> = (s: SessionState, move: MoveMap[K]) => Outcome;

const fault = (code: EditFault['code'], id: string): Outcome => ({ ok: false, code, id });
const done = (session: SessionState): Outcome => ({ ok: true, session });
const without = <T>(record: Readonly<Record<string, T>>, id: string): Record<string, T> => {
  const { [id]: _gone, ...rest } = record;
  return rest;
};
const insert = (list: readonly string[], index: number, id: string): string[] => {
  const at = Math.max(0, Math.min(list.length, index));
  return [...list.slice(0, at), id, ...list.slice(at)];
};

/** Where a node stands. */
function placeOf(s: SessionState, id: string): { parentId: string; index: number } {
  for (const [parentId, ids] of Object.entries(s.children)) {
    const index = ids.indexOf(id);
    if (index >= 0) return { parentId, index };
  }
  throw new RangeError(`node ${id} stands nowhere`);
}

const lift = (
  s: SessionState,
  id: string,
  parentId: string,
): Readonly<Record<string, readonly string[]>> => ({
  ...s.children,
  [parentId]: (s.children[parentId] ?? []).filter((x) => x !== id),
});

/** Whether a lane of a new track is one of another already: it was packed there. */
function hasLaneOf(s: SessionState, track: Track): boolean {
  const own = new Set(lanesOf(track).map((l) => l.id));
  return Object.values(s.nodes).some((n) => isTrack(n) && lanesOf(n).some((l) => own.has(l.id)));
}

/** A session without a row. */
const liftedOut = (s: SessionState, id: string): SessionState => ({
  ...s,
  nodes: without(s.nodes, id),
  children: lift(s, id, placeOf(s, id).parentId),
});

/** Those of the given fields that were named: undefined is not said. */
const said = <T extends object>(fields: T, known?: readonly string[]): T =>
  Object.fromEntries(
    Object.entries(fields).filter(([name, value]) => value !== undefined && (!known || known.includes(name))),
  ) as T;

const initialOf = (kind: 'track' | 'lane' | 'bus'): object =>
  Object.fromEntries(
    Object.entries(KINDS[kind].fields).flatMap(([name, { initial, schema }]) =>
      initial !== undefined ? [[name, initial]] : schema.spec.nullable ? [[name, null]] : [],
    ),
  );
/** What a track is where nothing was said of it. */
const NEW_TRACK = { ...initialOf('track'), ...initialOf('lane'), sends: [] };
const NEW_BUS = { ...initialOf('bus'), sends: [] };
/** Fields of rows that are told by where they stand. */
const PLACE_FIELDS: ReadonlySet<string> = new Set(['parentId', 'orderKey', 'trackId']);
/** A track as a row of a session: what was not said is as at first. */
export const asTrack = (given: NewTrack): Track =>
  Object.fromEntries(
    Object.entries({ ...NEW_TRACK, ...said(given), ...ownParts(given) }).filter(
      ([name]) => !PLACE_FIELDS.has(name),
    ),
  ) as unknown as Track;

/** The first bus that is asked for and not there, and a bus sent to twice; null = all fit. */
function routeFault(
  s: SessionState,
  { to, sends }: { readonly to?: string | null; readonly sends?: Track['sends'] },
): Outcome | null {
  const missing = [
    ...(to === undefined || to === null || to === NOWHERE ? [] : [to]),
    ...(sends ?? []).map((x) => x.busId),
  ].find((id) => !s.buses[id]);
  if (missing !== undefined) return fault('edit.unknown_id', missing);
  const twice = sends?.find((x, i) => sends.findIndex((o) => o.busId === x.busId) !== i);
  return twice ? fault('edit.id_taken', twice.busId) : null;
}

const isParent = (s: SessionState, id: string): boolean => id === ROOT || isFolder(s.nodes[id]);

function insideOf(s: SessionState, id: string, ancestor: string): boolean {
  for (let at = id; at !== ROOT; at = placeOf(s, at).parentId) if (at === ancestor) return true;
  return false;
}

const HANDLERS: { readonly [K in MoveKind]: Handler<K> } = {
  'session.describe': (s, { name, artist, notes, key }) =>
    done({ ...s, ...said({ name, artist, notes, key }) } as SessionState),
  'session.rate': (s, { sampleRateHz }) => done({ ...s, sampleRateHz }),
  'track.add': (s, { track: given, parentId, index }) => {
    const track = asTrack(given);
    if (s.nodes[track.id] || hasLaneOf(s, track)) return fault('edit.id_taken', track.id);
    if (!isParent(s, parentId)) return fault('edit.unknown_id', parentId);
    return done({
      ...s,
      nodes: { ...s.nodes, [track.id]: track },
      children: { ...s.children, [parentId]: insert(s.children[parentId] ?? [], index, track.id) },
    });
  },
  'track.remove': (s, { id }) =>
    isTrack(s.nodes[id]) ? done(liftedOut(s, id)) : fault('edit.unknown_id', id),
  'track.change': (s, { id, fields }) => {
    const track = s.nodes[id];
    if (!isTrack(track)) return fault('edit.unknown_id', id);
    const unfit = routeFault(s, { to: fields.busId, sends: fields.sends });
    if (unfit) return unfit;
    const moved = movedTo(track, fields.startFrames ?? track.startFrames);
    const changed = { ...moved, ...alsoInOthers(moved, fields), ...said(fields, TRACK_FIELDS) };
    return done({ ...s, nodes: { ...s.nodes, [id]: changed } });
  },
  'track.cut': (s, { id, clips }) => {
    const track = s.nodes[id];
    if (!isTrack(track)) return fault('edit.unknown_id', id);
    const cut = { ...track, clips: [...clips].sort(byTime) };
    return done({ ...s, nodes: { ...s.nodes, [id]: cut } });
  },
  'track.replace': (s, { id, recordingId, receivedName }) => {
    const track = s.nodes[id];
    return isTrack(track)
      ? done({ ...s, nodes: { ...s.nodes, [id]: { ...track, recordingId, receivedName } } })
      : fault('edit.unknown_id', id);
  },
  'lanes.pack': (s, { id, lanes }) => {
    const unfit = lanes.some((l) => l.trackId === id) ? packFault(s, lanes) : id;
    if (unfit !== null) return fault('edit.unknown_id', unfit);
    const gone = lanes.flatMap((l) => (l.trackId === id ? [] : [l.trackId]));
    const rest = gone.reduce(liftedOut, s);
    return done({ ...rest, nodes: { ...rest.nodes, [id]: packedTrack(s, id, lanes) } });
  },
  'lanes.unpack': (s, { id }) => {
    const track = s.nodes[id];
    if (!isTrack(track)) return fault('edit.unknown_id', id);
    if (track.otherLanes.length === 0) return done(s);
    const { stays, others } = unpackedTracks(s, id);
    const { parentId, index } = placeOf(s, id);
    const row = [...(s.children[parentId] ?? [])];
    row.splice(index + 1, 0, ...others.map((t) => t.id));
    return done({
      ...s,
      nodes: { ...s.nodes, [id]: stays, ...Object.fromEntries(others.map((t) => [t.id, t])) },
      children: { ...s.children, [parentId]: row },
    });
  },
  'folder.add': (s, { folder, parentId, index }) => {
    if (s.nodes[folder.id] || folder.id === ROOT) return fault('edit.id_taken', folder.id);
    if (!isParent(s, parentId)) return fault('edit.unknown_id', parentId);
    if (folder.busId && !s.buses[folder.busId]) return fault('edit.unknown_id', folder.busId);
    return done({
      ...s,
      nodes: { ...s.nodes, [folder.id]: folder },
      children: {
        ...s.children,
        [parentId]: insert(s.children[parentId] ?? [], index, folder.id),
        [folder.id]: [],
      },
    });
  },
  'folder.remove': (s, { id }) => {
    if (!isFolder(s.nodes[id])) return fault('edit.unknown_id', id);
    if ((s.children[id] ?? []).length > 0) return fault('edit.not_empty', id);
    return done({
      ...s,
      nodes: without(s.nodes, id),
      children: without(lift(s, id, placeOf(s, id).parentId), id),
    });
  },
  'folder.change': (s, { id, fields }) => {
    const folder = s.nodes[id];
    if (!isFolder(folder)) return fault('edit.unknown_id', id);
    if (fields.busId && !s.buses[fields.busId]) return fault('edit.unknown_id', fields.busId);
    return done({ ...s, nodes: { ...s.nodes, [id]: { ...folder, ...said(fields) } } });
  },
  'node.place': (s, { id, parentId, index }) => {
    if (!s.nodes[id]) return fault('edit.unknown_id', id);
    if (!isParent(s, parentId)) return fault('edit.unknown_id', parentId);
    if (parentId !== ROOT && insideOf(s, parentId, id)) return fault('edit.into_itself', id);
    const lifted = lift(s, id, placeOf(s, id).parentId);
    return done({ ...s, children: { ...lifted, [parentId]: insert(lifted[parentId] ?? [], index, id) } });
  },
  'bus.add': (s, { bus: given, index }) => {
    const bus = { ...NEW_BUS, ...said(given) } as Bus;
    if (s.buses[bus.id] || bus.id === NOWHERE) return fault('edit.id_taken', bus.id);
    const unfit = routeFault(s, { to: bus.outputBusId, sends: bus.sends });
    return (
      unfit ??
      done({ ...s, buses: { ...s.buses, [bus.id]: bus }, busOrder: insert(s.busOrder, index, bus.id) })
    );
  },
  'bus.remove': (s, { id }) => {
    if (!s.buses[id]) return fault('edit.unknown_id', id);
    if (routedTo(s).has(id)) return fault('edit.in_use', id);
    return done({ ...s, buses: without(s.buses, id), busOrder: s.busOrder.filter((x) => x !== id) });
  },
  'bus.change': (s, { id, fields }) => {
    const bus = s.buses[id];
    if (!bus) return fault('edit.unknown_id', id);
    const unfit = routeFault(s, { to: fields.outputBusId, sends: fields.sends });
    if (unfit) return unfit;
    const buses = { ...s.buses, [id]: { ...bus, ...said(fields) } };
    return hasLoop(buses, id) ? fault('edit.into_itself', id) : done({ ...s, buses });
  },
  'groups.set': (s, { groups }) => listed(groups, () => ({ ...s, groups })),
  'map.replace': (s, { map, facts }) => done({ ...s, map, mapFacts: facts }),
  'maps.keep': (s, { maps }) => listed(maps, () => ({ ...s, keptMaps: maps })),
  'session.cut': (s, { bars }) => done({ ...s, cutBars: bars }),
  'timekeepers.choose': (s, { trackIds }) => done({ ...s, timekeepers: trackIds }),
  'words.set': (s, { words }) => done({ ...s, words }),
  'style.use': (s, { style }) => done({ ...s, style }),
  'markers.set': (s, { markers }) => listed(markers, () => ({ ...s, markers })),
  'conform.set': (s, { conform }) => done({ ...s, conform }),
};

/** A list whose entries have ids of their own, each once. */
function listed(list: readonly { readonly id: string }[], make: () => SessionState): Outcome {
  const twice = list.find((x, i) => list.findIndex((o) => o.id === x.id) !== i);
  return twice ? fault('edit.id_taken', twice.id) : done(make());
}

/** All moves there are. */
export const MOVE_KINDS = Object.keys(HANDLERS) as readonly MoveKind[];

/** What can be done to a session: a move of the trade, or an edit of its records. */
export type Change = Move | Edit;

/** The edits that changes come to, the session they lead to, and the edits that lead back; or why they do not fit. */
export type Changed =
  | {
      readonly ok: true;
      readonly session: SessionState;
      readonly edits: readonly Edit[];
      readonly inverse: readonly Edit[];
    }
  | ({ readonly ok: false } & EditFault);

const isMove = (change: Change): change is Move => Object.hasOwn(HANDLERS, change.kind);

/** Makes changes one after the other, all or none. The given session is untouched. */
export function applyChanges(session: SessionState, changes: readonly Change[]): Changed {
  if (!changes.some(isMove)) {
    const edits = changes as readonly Edit[];
    const applied = applyEdits(session, edits);
    return applied.ok ? { ...applied, edits } : applied;
  }
  let state = session;
  for (let i = 0; i < changes.length;) {
    const change = changes[i] as Change;
    // Edits that stand together hold together: rules that span records are looked at behind the last.
    let end = i + 1;
    if (!isMove(change)) while (end < changes.length && !isMove(changes[end] as Change)) end++;
    const outcome = isMove(change)
      ? (HANDLERS[change.kind] as Handler<MoveKind>)(state, change as never)
      : applyEdits(state, changes.slice(i, end) as readonly Edit[]);
    if (!outcome.ok) return outcome;
    state = outcome.session;
    i = end;
  }
  const edits = difference(session, state);
  const applied = applyEdits(session, edits);
  return applied.ok ? { ...applied, edits } : applied;
}
