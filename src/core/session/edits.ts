import type { OwnWord } from '../naming';
import { songMapFromFile, type SongMapFile } from '../time';
import { hasLoop, routedTo } from './routing';
import {
  type BUS_FIELDS,
  isFolder,
  isTrack,
  LATER_BUS_FIELDS,
  LATER_TRACK_FIELDS,
  NOWHERE,
  ROOT,
  TRACK_FIELDS,
  type Bus,
  type ConformSettings,
  type Folder,
  type Group,
  type KeptMap,
  type MapFacts,
  type Marker,
  type SessionState,
  type StyleRef,
  type Track,
  type TrackFields,
} from './state';

/** Edit kind → what it carries. Every edit is plain JSON and has an inverse. */
export interface EditMap {
  'session.describe': { readonly name?: string; readonly artist?: string; readonly notes?: string };
  'session.rate': { readonly sampleRateHz: number | null };
  'track.add': { readonly track: Track; readonly parentId: string; readonly index: number };
  'track.remove': { readonly id: string };
  'track.change': { readonly id: string; readonly fields: Partial<TrackFields> };
  /** Another recording takes the track's place: name, routing, place in the song and all else stay. */
  'track.replace': { readonly id: string; readonly recordingId: string; readonly receivedName: string };
  'folder.add': { readonly folder: Folder; readonly parentId: string; readonly index: number };
  'folder.remove': { readonly id: string };
  'folder.change': {
    readonly id: string;
    readonly fields: Partial<Pick<Folder, 'name' | 'color' | 'busId'>>;
  };
  'node.place': { readonly id: string; readonly parentId: string; readonly index: number };
  'bus.add': {
    readonly bus: Omit<Bus, keyof typeof LATER_BUS_FIELDS> & Partial<Bus>;
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

/** Kind of an edit. */
export type EditKind = keyof EditMap;

/** One edit. */
export type Edit = { [K in EditKind]: { readonly kind: K } & EditMap[K] }[EditKind];

/** Why an edit does not fit the state it meets. */
export interface EditFault {
  readonly code:
    | 'edit.unknown_id'
    | 'edit.id_taken'
    | 'edit.not_empty'
    | 'edit.in_use'
    | 'edit.into_itself'
    | 'map.invalid';
  /** The id it failed on. */
  readonly id: string;
}

type Outcome =
  | { readonly ok: true; readonly session: SessionState; readonly inverse: Edit }
  | ({ readonly ok: false } & EditFault);
type Handler<K extends EditKind> = (s: SessionState, e: EditMap[K]) => Outcome;

const fault = (code: EditFault['code'], id: string): Outcome => ({ ok: false, code, id });
const done = (session: SessionState, inverse: Edit): Outcome => ({ ok: true, session, inverse });
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

/** The values that the given fields had before. */
const former = <T extends object, F extends Partial<T>>(node: T, fields: F): F =>
  Object.fromEntries(Object.keys(fields).map((k) => [k, node[k as keyof T]])) as F;

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

const HANDLERS: { readonly [K in EditKind]: Handler<K> } = {
  'session.describe': (s, { name, artist, notes }) => {
    const fields = Object.fromEntries(
      Object.entries({ name, artist, notes }).filter(([, v]) => v !== undefined),
    ) as EditMap['session.describe'];
    return done(
      { ...s, ...fields },
      { kind: 'session.describe', ...former(s as Required<EditMap['session.describe']>, fields) },
    );
  },
  'session.rate': (s, { sampleRateHz }) =>
    done({ ...s, sampleRateHz }, { kind: 'session.rate', sampleRateHz: s.sampleRateHz }),
  'track.add': (s, { track: given, parentId, index }) => {
    const track = { ...LATER_TRACK_FIELDS, ...given };
    if (s.nodes[track.id]) return fault('edit.id_taken', track.id);
    if (!isParent(s, parentId)) return fault('edit.unknown_id', parentId);
    return done(
      {
        ...s,
        nodes: { ...s.nodes, [track.id]: track },
        children: { ...s.children, [parentId]: insert(s.children[parentId] ?? [], index, track.id) },
      },
      { kind: 'track.remove', id: track.id },
    );
  },
  'track.remove': (s, { id }) => {
    const track = s.nodes[id];
    if (!isTrack(track)) return fault('edit.unknown_id', id);
    const place = placeOf(s, id);
    return done(
      { ...s, nodes: without(s.nodes, id), children: lift(s, id, place.parentId) },
      { kind: 'track.add', track, ...place },
    );
  },
  'track.change': (s, { id, fields }) => {
    const track = s.nodes[id];
    if (!isTrack(track)) return fault('edit.unknown_id', id);
    const unfit = routeFault(s, { to: fields.busId, sends: fields.sends });
    if (unfit) return unfit;
    const known = Object.fromEntries(
      Object.entries(fields).filter(([k]) => (TRACK_FIELDS as readonly string[]).includes(k)),
    ) as Partial<TrackFields>;
    return done(
      { ...s, nodes: { ...s.nodes, [id]: { ...track, ...known } } },
      { kind: 'track.change', id, fields: former(track as TrackFields, known) },
    );
  },
  'track.replace': (s, { id, recordingId, receivedName }) => {
    const track = s.nodes[id];
    if (!isTrack(track)) return fault('edit.unknown_id', id);
    return done(
      { ...s, nodes: { ...s.nodes, [id]: { ...track, recordingId, receivedName } } },
      { kind: 'track.replace', id, recordingId: track.recordingId, receivedName: track.receivedName },
    );
  },
  'folder.add': (s, { folder, parentId, index }) => {
    if (s.nodes[folder.id] || folder.id === ROOT) return fault('edit.id_taken', folder.id);
    if (!isParent(s, parentId)) return fault('edit.unknown_id', parentId);
    if (folder.busId && !s.buses[folder.busId]) return fault('edit.unknown_id', folder.busId);
    return done(
      {
        ...s,
        nodes: { ...s.nodes, [folder.id]: folder },
        children: {
          ...s.children,
          [parentId]: insert(s.children[parentId] ?? [], index, folder.id),
          [folder.id]: [],
        },
      },
      { kind: 'folder.remove', id: folder.id },
    );
  },
  'folder.remove': (s, { id }) => {
    const folder = s.nodes[id];
    if (!isFolder(folder)) return fault('edit.unknown_id', id);
    if ((s.children[id] ?? []).length > 0) return fault('edit.not_empty', id);
    const place = placeOf(s, id);
    return done(
      { ...s, nodes: without(s.nodes, id), children: without(lift(s, id, place.parentId), id) },
      { kind: 'folder.add', folder, ...place },
    );
  },
  'folder.change': (s, { id, fields }) => {
    const folder = s.nodes[id];
    if (!isFolder(folder)) return fault('edit.unknown_id', id);
    if (fields.busId && !s.buses[fields.busId]) return fault('edit.unknown_id', fields.busId);
    return done(
      { ...s, nodes: { ...s.nodes, [id]: { ...folder, ...fields } } },
      { kind: 'folder.change', id, fields: former(folder, fields) },
    );
  },
  'node.place': (s, { id, parentId, index }) => {
    if (!s.nodes[id]) return fault('edit.unknown_id', id);
    if (!isParent(s, parentId)) return fault('edit.unknown_id', parentId);
    if (parentId !== ROOT && insideOf(s, parentId, id)) return fault('edit.into_itself', id);
    const place = placeOf(s, id);
    const lifted = lift(s, id, place.parentId);
    return done(
      { ...s, children: { ...lifted, [parentId]: insert(lifted[parentId] ?? [], index, id) } },
      { kind: 'node.place', id, ...place },
    );
  },
  'bus.add': (s, { bus: given, index }) => {
    const bus: Bus = { ...LATER_BUS_FIELDS, ...given };
    if (s.buses[bus.id] || bus.id === NOWHERE) return fault('edit.id_taken', bus.id);
    const unfit = routeFault(s, { to: bus.outputBusId, sends: bus.sends });
    if (unfit) return unfit;
    return done(
      { ...s, buses: { ...s.buses, [bus.id]: bus }, busOrder: insert(s.busOrder, index, bus.id) },
      { kind: 'bus.remove', id: bus.id },
    );
  },
  'bus.remove': (s, { id }) => {
    const bus = s.buses[id];
    if (!bus) return fault('edit.unknown_id', id);
    if (routedTo(s).has(id)) return fault('edit.in_use', id);
    return done(
      { ...s, buses: without(s.buses, id), busOrder: s.busOrder.filter((x) => x !== id) },
      { kind: 'bus.add', bus, index: s.busOrder.indexOf(id) },
    );
  },
  'bus.change': (s, { id, fields }) => {
    const bus = s.buses[id];
    if (!bus) return fault('edit.unknown_id', id);
    const unfit = routeFault(s, { to: fields.outputBusId, sends: fields.sends });
    if (unfit) return unfit;
    const buses = { ...s.buses, [id]: { ...bus, ...fields } };
    if (hasLoop(buses, id)) return fault('edit.into_itself', id);
    return done({ ...s, buses }, { kind: 'bus.change', id, fields: former(bus, fields) });
  },
  'groups.set': (s, { groups }) => {
    const twice = groups.find((g, i) => groups.findIndex((o) => o.id === g.id) !== i);
    return twice
      ? fault('edit.id_taken', twice.id)
      : done({ ...s, groups }, { kind: 'groups.set', groups: s.groups });
  },
  'map.replace': (s, { map, facts }) =>
    map !== null && !songMapFromFile(map).ok
      ? fault('map.invalid', 'map')
      : done({ ...s, map, mapFacts: facts }, { kind: 'map.replace', map: s.map, facts: s.mapFacts }),
  'maps.keep': (s, { maps }) => {
    const twice = maps.find((m, i) => maps.findIndex((o) => o.id === m.id) !== i);
    if (twice) return fault('edit.id_taken', twice.id);
    const broken = maps.find((m) => !songMapFromFile(m.map).ok);
    return broken
      ? fault('map.invalid', broken.id)
      : done({ ...s, keptMaps: maps }, { kind: 'maps.keep', maps: s.keptMaps });
  },
  // Ids of tracks that went meanwhile are kept and do nothing: a choice taken back must always fit.
  'session.cut': (s, { bars }) => done({ ...s, cutBars: bars }, { kind: 'session.cut', bars: s.cutBars }),
  'timekeepers.choose': (s, { trackIds }) =>
    done({ ...s, timekeepers: trackIds }, { kind: 'timekeepers.choose', trackIds: s.timekeepers }),
  'words.set': (s, { words }) => done({ ...s, words }, { kind: 'words.set', words: s.words }),
  'style.use': (s, { style }) => done({ ...s, style }, { kind: 'style.use', style: s.style }),
  'markers.set': (s, { markers }) => {
    const twice = markers.find((m, i) => markers.findIndex((o) => o.id === m.id) !== i);
    return twice
      ? fault('edit.id_taken', twice.id)
      : done(
          { ...s, markers: [...markers].sort((a, b) => a.seconds - b.seconds || (a.id < b.id ? -1 : 1)) },
          { kind: 'markers.set', markers: s.markers },
        );
  },
  'conform.set': (s, { conform }) => done({ ...s, conform }, { kind: 'conform.set', conform: s.conform }),
};

/** All kinds of edit there are. */
export const EDIT_KINDS = Object.keys(HANDLERS) as readonly EditKind[];

/** Applies one edit; the given state is untouched. On success `inverse` leads back exactly. */
export function applyEdit(session: SessionState, edit: Edit): Outcome {
  return (HANDLERS[edit.kind] as Handler<EditKind>)(session, edit as never);
}

/** Applies edits in order, all or none; `inverse` undoes them in the right order. */
export function applyEdits(
  session: SessionState,
  edits: readonly Edit[],
):
  | { readonly ok: true; readonly session: SessionState; readonly inverse: readonly Edit[] }
  | ({ readonly ok: false } & EditFault) {
  let state = session;
  const inverse: Edit[] = [];
  for (const edit of edits) {
    const outcome = applyEdit(state, edit);
    if (!outcome.ok) return outcome;
    state = outcome.session;
    inverse.unshift(outcome.inverse);
  }
  return { ok: true, session: state, inverse };
}
