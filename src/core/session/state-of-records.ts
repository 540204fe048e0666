import { hashText } from '../units';
import { byOrder, keysInOrder } from './order';
import {
  type FieldsOf,
  KINDS,
  type RecordKind,
  type RecordOf,
  type SessionRecords,
  SONG_ID,
} from './records';
import {
  type Bus,
  type Folder,
  type Group,
  type KeptMap,
  ROOT,
  type Send,
  type SessionState,
  type Track,
} from './state';

/** Id of the map in force where it was made as such. */
const MAP_IN_FORCE = 'map-in-force';
/** Ids of records that rows do not name; made of what they belong to, two people make the same. */
const laneId = (trackId: string): string =>
  trackId.length < 56 ? `lane-${trackId}` : `lane-${hashText(trackId)}`;
const sendId = (from: string, busId: string): string => `send-${hashText(`${from} ${busId}`)}`;
const wordId = (text: string): string => `word-${hashText(text)}`;

const STATES = new WeakMap<SessionRecords, SessionState>();
const RECORDS = new WeakMap<SessionState, SessionRecords>();

/** What a row, or an entry of a list, was made of or into: the same records as long as it is and stands there. */
const MADE = new WeakMap<object, { readonly place: string; readonly records: object }>();
const placeOf = ({
  parentId,
  orderKey,
}: {
  readonly parentId: string | null;
  readonly orderKey: string;
}): string => `${orderKey} ${parentId}`;

/** The fields of a kind that something has. */
const fieldsOf = <K extends RecordKind>(kind: K, from: object): FieldsOf<K> =>
  Object.fromEntries(
    Object.entries(KINDS[kind].fields).map(([name, { initial }]) => {
      const value = (from as Readonly<Record<string, unknown>>)[name];
      return [name, value === undefined ? initial : value];
    }),
  ) as FieldsOf<K>;

const ordered = <T extends { readonly id: string; readonly orderKey: string }>(
  records: Readonly<Record<string, T>>,
): T[] => Object.values(records).sort(byOrder);

interface TrackParts {
  readonly lane: RecordOf<'lane'>;
  readonly sends: readonly RecordOf<'send'>[];
  readonly track: Track;
}
const TRACKS = new WeakMap<RecordOf<'track'>, TrackParts>();

/** The row of a track; the same object as long as its records are. */
function trackOf(
  record: RecordOf<'track'>,
  lane: RecordOf<'lane'>,
  sends: readonly RecordOf<'send'>[],
): Track {
  const known = TRACKS.get(record);
  if (
    known?.lane === lane &&
    known.sends.length === sends.length &&
    sends.every((s, i) => s === known.sends[i])
  )
    return known.track;
  const { parentId: _parent, orderKey: _key, ...fields } = record;
  const { id: _laneId, trackId: _track, ...laneFields } = lane;
  const track: Track = { kind: 'track', ...fields, ...laneFields, sends: sends.map(toSend) };
  TRACKS.set(record, { lane, sends, track });
  MADE.set(track, { place: placeOf(record), records: { track: record, lane, sends } });
  return track;
}

const FOLDERS = new WeakMap<RecordOf<'folder'>, Folder>();
function folderOf(record: RecordOf<'folder'>): Folder {
  const known = FOLDERS.get(record);
  if (known) return known;
  const { parentId: _parent, orderKey: _key, ...fields } = record;
  const folder: Folder = { kind: 'folder', ...fields };
  FOLDERS.set(record, folder);
  MADE.set(folder, { place: placeOf(record), records: record });
  return folder;
}

const toSend = ({ busId, gainDb, pan, before }: RecordOf<'send'>): Send => ({ busId, gainDb, pan, before });

/** What each track and bus sends, in order. */
function sendsBySource(records: SessionRecords): ReadonlyMap<string, RecordOf<'send'>[]> {
  const sends = new Map<string, RecordOf<'send'>[]>();
  for (const send of ordered(records.send)) {
    const from = send.trackId ?? send.sourceBusId ?? '';
    const list = sends.get(from);
    if (list) list.push(send);
    else sends.set(from, [send]);
  }
  return sends;
}

const NO_SENDS: readonly RecordOf<'send'>[] = [];

type RowParts = Pick<SessionState, 'nodes' | 'children'>;

function rowsOf(records: SessionRecords, sends: ReturnType<typeof sendsBySource>): RowParts {
  const lanes = new Map(Object.values(records.lane).map((l) => [l.trackId, l]));
  const nodes: Record<string, Track | Folder> = {};
  const children: Record<string, string[]> = { [ROOT]: [] };
  for (const folder of Object.values(records.folder)) {
    nodes[folder.id] = folderOf(folder);
    children[folder.id] = [];
  }
  for (const track of Object.values(records.track)) {
    const lane = lanes.get(track.id);
    if (!lane) throw new RangeError(`track ${track.id} has no lane`);
    nodes[track.id] = trackOf(track, lane, sends.get(track.id) ?? NO_SENDS);
  }
  for (const row of [...Object.values(records.folder), ...Object.values(records.track)].sort(byOrder)) {
    const siblings = children[row.parentId ?? ROOT];
    // Passed by, it would be missing from every list and every package without a word.
    if (!siblings) throw new RangeError(`${row.id} stands in ${row.parentId}, which is not there`);
    siblings.push(row.id);
  }
  return { nodes, children };
}

function busesOf(records: SessionRecords, sends: ReturnType<typeof sendsBySource>): Bus[] {
  return ordered(records.bus).map(({ orderKey: _key, ...bus }) => ({
    ...bus,
    sends: (sends.get(bus.id) ?? NO_SENDS).map(toSend),
  }));
}

function mapsOf(records: SessionRecords): Pick<SessionState, 'map' | 'mapFacts' | 'keptMaps'> {
  const inForce = Object.values(records.map).find((m) => m.inForce)?.content;
  return {
    map: inForce?.map ?? null,
    mapFacts: inForce?.facts ?? null,
    keptMaps: ordered(records.map)
      .filter((m) => !m.inForce)
      .map(({ id, name, content, played }): KeptMap => ({
        id,
        name: name ?? '',
        ...content,
        ...(played ? { played } : {}),
      })),
  };
}

/** A session as its rows stand. Throws RangeError if a record stands in nothing: edits refuse that. */
export function stateOf(records: SessionRecords): SessionState {
  const known = STATES.get(records);
  if (known) return known;
  const { id: _song, ...song } = records.song[SONG_ID] as RecordOf<'song'>;
  const sends = sendsBySource(records);
  const buses = busesOf(records, sends);
  const orderKeys: Record<string, string> = {};
  for (const kind of ['folder', 'track', 'bus', 'send', 'group', 'word', 'map'] as const)
    for (const { id, orderKey } of Object.values<{ id: string; orderKey: string }>(records[kind]))
      orderKeys[id] = orderKey;
  const state: SessionState = {
    ...song,
    ...rowsOf(records, sends),
    buses: Object.fromEntries(buses.map((b) => [b.id, b])),
    busOrder: buses.map((b) => b.id),
    groups: ordered(records.group).map(({ orderKey: _key, ...group }): Group => group),
    ...mapsOf(records),
    words: ordered(records.word).map(({ text, family, part }) => ({ text, family, part })),
    markers: Object.values(records.marker).sort((a, b) => a.seconds - b.seconds || (a.id < b.id ? -1 : 1)),
    orderKeys,
  };
  STATES.set(records, state);
  RECORDS.set(state, records);
  return state;
}

/** Records by their ids. */
const byId = <T extends { readonly id: string }>(list: readonly T[]): Readonly<Record<string, T>> =>
  Object.fromEntries(list.map((r) => [r.id, r]));

function made<T extends object>(from: object, place: string, make: () => T): T {
  const known = MADE.get(from);
  if (known?.place === place) return known.records as T;
  const records = make();
  MADE.set(from, { place, records });
  return records;
}

function sendRecords(
  sends: readonly Send[],
  source: Pick<RecordOf<'send'>, 'trackId' | 'sourceBusId'>,
  orderKeys: SessionState['orderKeys'],
): RecordOf<'send'>[] {
  const ids = sends.map((send) => sendId(source.trackId ?? source.sourceBusId ?? '', send.busId));
  const keys = keysInOrder(ids.map((id) => ({ id, orderKey: orderKeys[id] })));
  return sends.map((send, i) => ({
    id: ids[i] as string,
    ...fieldsOf('send', { ...send, ...source, orderKey: keys[i] }),
  }));
}

interface TrackRecords {
  readonly track: RecordOf<'track'>;
  readonly lane: RecordOf<'lane'>;
  readonly sends: readonly RecordOf<'send'>[];
}

const trackRecords = (
  row: Track,
  parentId: string | null,
  orderKey: string,
  orderKeys: SessionState['orderKeys'],
): TrackRecords =>
  made(row, placeOf({ parentId, orderKey }), () => ({
    track: { id: row.id, ...fieldsOf('track', { ...row, parentId, orderKey }) },
    lane: { id: laneId(row.id), ...fieldsOf('lane', { ...row, trackId: row.id }) },
    sends: sendRecords(row.sends ?? [], { trackId: row.id, sourceBusId: null }, orderKeys),
  }));

interface RowRecords {
  readonly folders: RecordOf<'folder'>[];
  readonly tracks: TrackRecords[];
}

function rowRecords(state: SessionState): RowRecords {
  const out: RowRecords = { folders: [], tracks: [] };
  for (const [parent, ids] of Object.entries(state.children)) {
    const parentId = parent === ROOT ? null : parent;
    const keys = keysInOrder(ids.map((id) => ({ id, orderKey: state.orderKeys[id] })));
    ids.forEach((id, i) => {
      const row = state.nodes[id];
      const orderKey = keys[i] as string;
      if (row?.kind === 'track') out.tracks.push(trackRecords(row, parentId, orderKey, state.orderKeys));
      else if (row)
        out.folders.push(
          made(row, placeOf({ parentId, orderKey }), () => ({
            id,
            ...fieldsOf('folder', { ...row, parentId, orderKey }),
          })),
        );
    });
  }
  return out;
}

function mapRecords({ map, mapFacts, keptMaps, orderKeys }: SessionState): RecordOf<'map'>[] {
  const keys = keysInOrder(keptMaps.map(({ id }) => ({ id, orderKey: orderKeys[id] })));
  const kept = keptMaps.map((k, i): RecordOf<'map'> => ({
    id: k.id,
    orderKey: keys[i] as string,
    name: k.name,
    content: { map: k.map, facts: k.facts },
    inForce: false,
    played: k.played ?? false,
  }));
  const content = map && { map, facts: mapFacts };
  const inForce = content && {
    id: MAP_IN_FORCE,
    orderKey: orderKeys[MAP_IN_FORCE] ?? 'a0',
    name: null,
    content,
    inForce: true,
    played: false,
  };
  return [...kept, ...(inForce ? [inForce] : [])];
}

/** What stands in a list, with the keys of its order. */
function listed<K extends 'bus' | 'group' | 'word'>(
  kind: K,
  list: readonly object[],
  idOf: (item: never) => string,
  orderKeys: Readonly<Record<string, string>>,
): RecordOf<K>[] {
  const ids = list.map((item) => idOf(item as never));
  const keys = keysInOrder(ids.map((id) => ({ id, orderKey: orderKeys[id] })));
  return list.map((item, i) =>
    made(item, keys[i] as string, () => ({
      id: ids[i] as string,
      ...fieldsOf(kind, { ...item, orderKey: keys[i] }),
    })),
  ) as RecordOf<K>[];
}

const idOf = ({ id }: { readonly id: string }): string => id;

/** A session as records: what stands in a list has a key of its order, its own one where it has one. */
export function recordsOf(state: SessionState): SessionRecords {
  const known = RECORDS.get(state);
  if (known) return known;
  const { orderKeys } = state;
  const rows = rowRecords(state);
  const buses = state.busOrder.map((id) => state.buses[id] as Bus);
  const records: SessionRecords = {
    song: { [SONG_ID]: { id: SONG_ID, ...fieldsOf('song', state) } },
    folder: byId(rows.folders),
    track: byId(rows.tracks.map((t) => t.track)),
    lane: byId(rows.tracks.map((t) => t.lane)),
    bus: byId(listed('bus', buses, idOf, orderKeys)),
    send: byId([
      ...rows.tracks.flatMap((t) => t.sends),
      ...buses.flatMap((b) => sendRecords(b.sends ?? [], { trackId: null, sourceBusId: b.id }, orderKeys)),
    ]),
    group: byId(listed('group', state.groups, idOf, orderKeys)),
    marker: byId(state.markers),
    word: byId(listed('word', state.words, (w: { readonly text: string }) => wordId(w.text), orderKeys)),
    map: byId(mapRecords(state)),
  };
  RECORDS.set(state, records);
  return records;
}
