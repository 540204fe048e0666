import type { SongMapFile } from '../time';
import { hashText } from '../units';
import { byTime, firstLaneId, lanesOf, wholeClip } from './clips';
import { byOrder, keysInOrder } from './order';
import {
  type FieldsOf,
  KINDS,
  type MapContent,
  type MapFacts,
  type RecordKind,
  type RecordOf,
  type SessionRecords,
  SONG_ID,
} from './records';
import {
  type Bus,
  type Clip,
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
const sendId = (from: string, busId: string): string => `send-${hashText(`${from} ${busId}`)}`;
const wordId = (text: string): string => `word-${hashText(text)}`;

const STATES = new WeakMap<SessionRecords, SessionState>();
const RECORDS = new WeakMap<SessionState, SessionRecords>();
/** The records a state was made of, found by what all states that come from it keep. */
const ORIGINS = new WeakMap<SessionState['orderKeys'], SessionRecords>();

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

/** What a row of a track is made of beside its own record. */
interface TrackParts {
  /** By their numbers. */
  readonly lanes: readonly RecordOf<'lane'>[];
  /** In order of time. */
  readonly clips: readonly Clip[];
  readonly sends: readonly RecordOf<'send'>[];
  /** By name. */
  readonly comps: readonly RecordOf<'comp'>[];
}
const TRACKS = new WeakMap<RecordOf<'track'>, TrackParts & { readonly track: Track }>();

const sameList = (a: readonly object[], b: readonly object[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i]);

/** The row of a track; the same object as long as its records are. */
function trackOf(record: RecordOf<'track'>, parts: TrackParts): Track {
  const { lanes, clips, sends, comps } = parts;
  const known = TRACKS.get(record);
  const isKnown = (part: keyof TrackParts): boolean =>
    known !== undefined && sameList(known[part], parts[part]);
  if (known && isKnown('lanes') && isKnown('clips') && isKnown('sends') && isKnown('comps'))
    return known.track;
  const { parentId: _parent, orderKey: _key, ...fields } = record;
  const [first, ...others] = lanes;
  if (!first) throw new RangeError(`track ${record.id} has no lane`);
  const { id: laneId, trackId: _track, ...laneFields } = first;
  const track: Track = {
    kind: 'track',
    ...fields,
    ...laneFields,
    laneId,
    otherLanes: others.map(({ trackId: _owner, ...lane }) => lane),
    clips,
    sends: sends.map(toSend),
    comps: comps.map(({ trackId: _owner, ...comp }) => comp),
  };
  TRACKS.set(record, { ...parts, track });
  const made: TrackRecords = { track: record, ...parts };
  MADE.set(track, { place: placeOf(record), records: made });
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

function grouped<T>(list: readonly T[], keyOf: (item: T) => string): ReadonlyMap<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

/** What each track and bus sends, in order. */
const sendsBySource = (records: SessionRecords): ReadonlyMap<string, RecordOf<'send'>[]> =>
  grouped(ordered(records.send), (send) => send.trackId ?? send.sourceBusId ?? '');

const byTake = (a: RecordOf<'lane'>, b: RecordOf<'lane'>): number =>
  a.takeNumber - b.takeNumber || (a.id < b.id ? -1 : 1);

/** The lane that most pieces are of stands for the track: what is asked of the track is answered for what sounds. */
function soundingFirst(
  lanes: readonly RecordOf<'lane'>[],
  clips: readonly Clip[],
): readonly RecordOf<'lane'>[] {
  if (lanes.length < 2) return lanes;
  const pieces = (lane: RecordOf<'lane'>): number =>
    clips.filter((c) => !c.off && c.laneId === lane.id).length;
  const most = Math.max(...lanes.map(pieces));
  const main = lanes.find((lane) => pieces(lane) === most) as RecordOf<'lane'>;
  return [main, ...lanes.filter((lane) => lane !== main)];
}

const NO_SENDS: readonly RecordOf<'send'>[] = [];
const NO_COMPS: readonly RecordOf<'comp'>[] = [];

const byName = (a: RecordOf<'comp'>, b: RecordOf<'comp'>): number =>
  a.name.localeCompare(b.name, 'en', { numeric: true }) || (a.id < b.id ? -1 : 1);

type RowParts = Pick<SessionState, 'nodes' | 'children'>;

function rowsOf(records: SessionRecords, sends: ReturnType<typeof sendsBySource>): RowParts {
  const lanes = grouped(Object.values(records.lane), (l) => l.trackId);
  const clips = grouped(Object.values(records.clip), (c) => records.lane[c.laneId]?.trackId ?? '');
  const comps = grouped(Object.values(records.comp), (c) => c.trackId);
  const nodes: Record<string, Track | Folder> = {};
  const children: Record<string, string[]> = { [ROOT]: [] };
  for (const folder of Object.values(records.folder)) {
    nodes[folder.id] = folderOf(folder);
    children[folder.id] = [];
  }
  for (const track of Object.values(records.track)) {
    nodes[track.id] = trackOf(track, {
      lanes: soundingFirst((lanes.get(track.id) ?? []).sort(byTake), clips.get(track.id) ?? []),
      clips: (clips.get(track.id) ?? []).sort(byTime),
      sends: sends.get(track.id) ?? NO_SENDS,
      comps: comps.get(track.id)?.sort(byName) ?? NO_COMPS,
    });
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

/** What was found with a map, by the map: a song's worth of pulses is compared only where it is another. */
const CONTENTS = new WeakMap<SongMapFile, MapContent>();
function contentOf(map: SongMapFile, facts: MapFacts | null): MapContent {
  const known = CONTENTS.get(map);
  if (known?.facts === facts) return known;
  const content = { map, facts };
  CONTENTS.set(map, content);
  return content;
}

function mapsOf(records: SessionRecords): Pick<SessionState, 'map' | 'mapFacts' | 'keptMaps'> {
  const inForce = Object.values(records.map).find((m) => m.inForce)?.content;
  if (inForce) CONTENTS.set(inForce.map, inForce);
  return {
    map: inForce?.map ?? null,
    mapFacts: inForce?.facts ?? null,
    keptMaps: ordered(records.map)
      .filter((m) => !m.inForce)
      .map((record): KeptMap => {
        const { id, name, content, played, orderKey } = record;
        const kept = { id, name: name ?? '', ...content, ...(played ? { played } : {}) };
        MADE.set(kept, { place: orderKey, records: record });
        CONTENTS.set(content.map, content);
        return kept;
      }),
  };
}

const ORDERED = ['folder', 'track', 'bus', 'send', 'group', 'word', 'map'] as const;

function orderKeysOf(records: SessionRecords): Readonly<Record<string, string>> {
  const keys: Record<string, string> = {};
  for (const kind of ORDERED)
    for (const { id, orderKey } of Object.values<{ id: string; orderKey: string }>(records[kind]))
      keys[id] = orderKey;
  return keys;
}

/** What is derived from records of some kinds: that of before, as long as those are the same. */
const DERIVED: readonly (readonly [
  kinds: readonly RecordKind[],
  make: (records: SessionRecords) => Partial<SessionState>,
])[] = [
  [['folder', 'track', 'lane', 'clip', 'send', 'comp'], (r) => rowsOf(r, sendsBySource(r))],
  [
    ['bus', 'send'],
    (r) => {
      const buses = busesOf(r, sendsBySource(r));
      return { buses: Object.fromEntries(buses.map((b) => [b.id, b])), busOrder: buses.map((b) => b.id) };
    },
  ],
  [['group'], (r) => ({ groups: ordered(r.group).map(({ orderKey: _key, ...group }): Group => group) })],
  [['map'], mapsOf],
  [['word'], (r) => ({ words: ordered(r.word).map(({ text, family, part }) => ({ text, family, part })) })],
  [
    ['marker'],
    (r) => ({
      markers: Object.values(r.marker).sort((a, b) => a.seconds - b.seconds || (a.id < b.id ? -1 : 1)),
    }),
  ],
  [ORDERED, (r) => ({ orderKeys: orderKeysOf(r) })],
];

/** A session as its rows stand; `before` = one whose parts are taken over where they are the same. Throws RangeError if a record stands in nothing: edits refuse that. */
export function stateOf(records: SessionRecords, before: SessionState | null = null): SessionState {
  const known = STATES.get(records);
  if (known) return known;
  const { id: _song, ...song } = records.song[SONG_ID] as RecordOf<'song'>;
  const were = before && RECORDS.get(before);
  // What was written by hand may be in no order: only what was made here is taken over.
  const isOurs = were !== undefined && were !== null && STATES.get(were) === before;
  const parts = DERIVED.map(([kinds, make]) =>
    isOurs && kinds.every((k) => were[k] === records[k]) ? {} : make(records),
  );
  const state = Object.assign({}, isOurs ? before : {}, song, ...parts) as SessionState;
  STATES.set(records, state);
  RECORDS.set(state, records);
  ORIGINS.set(state.orderKeys, records);
  return state;
}

/** Records by their ids: those of before, as long as they are the same. */
function byId<T extends { readonly id: string }>(
  list: readonly T[],
  before: Readonly<Record<string, T>> | undefined,
): Readonly<Record<string, T>> {
  if (before && list.every((r) => before[r.id] === r) && list.length === Object.keys(before).length)
    return before;
  const made: Record<string, T> = {};
  for (const record of list) made[record.id] = record;
  return made;
}

/** Records made anew of something are the same objects as long as it is. */
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

interface TrackRecords extends TrackParts {
  readonly track: RecordOf<'track'>;
}

const trackRecords = (
  row: Track,
  parentId: string | null,
  orderKey: string,
  orderKeys: SessionState['orderKeys'],
): TrackRecords =>
  made(row, placeOf({ parentId, orderKey }), () => {
    const laneId = row.laneId ?? firstLaneId(row.id);
    return {
      track: { id: row.id, ...fieldsOf('track', { ...row, parentId, orderKey }) },
      lanes: lanesOf({ ...row, laneId, otherLanes: row.otherLanes ?? [] }).map((lane) => ({
        id: lane.id,
        ...fieldsOf('lane', { ...lane, trackId: row.id }),
      })),
      clips: row.clips ?? wholeClip(laneId),
      sends: sendRecords(row.sends ?? [], { trackId: row.id, sourceBusId: null }, orderKeys),
      comps: (row.comps ?? []).map((comp) => ({ ...comp, trackId: row.id })),
    };
  });

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
  const kept = keptMaps.map((k, i) =>
    made(k, keys[i] as string, (): RecordOf<'map'> => ({
      id: k.id,
      orderKey: keys[i] as string,
      name: k.name,
      content: contentOf(k.map, k.facts),
      inForce: false,
      played: k.played ?? false,
    })),
  );
  const inForce = map && {
    id: MAP_IN_FORCE,
    orderKey: orderKeys[MAP_IN_FORCE] ?? 'a0',
    name: null,
    content: contentOf(map, mapFacts),
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
  const before = ORIGINS.get(orderKeys);
  const rows = rowRecords(state);
  const buses = state.busOrder.map((id) => state.buses[id] as Bus);
  const word = ({ text }: { readonly text: string }): string => wordId(text);
  const records: SessionRecords = {
    song: songRecord(state, before?.song),
    folder: byId(rows.folders, before?.folder),
    track: byId(
      rows.tracks.map((t) => t.track),
      before?.track,
    ),
    lane: byId(
      rows.tracks.flatMap((t) => t.lanes),
      before?.lane,
    ),
    clip: byId(
      rows.tracks.flatMap((t) => t.clips),
      before?.clip,
    ),
    comp: byId(
      rows.tracks.flatMap((t) => t.comps),
      before?.comp,
    ),
    bus: byId(listed('bus', buses, idOf, orderKeys), before?.bus),
    send: byId(
      [
        ...rows.tracks.flatMap((t) => t.sends),
        ...buses.flatMap((b) => made(b.sends, b.id, () => busSends(b, orderKeys))),
      ],
      before?.send,
    ),
    group: byId(listed('group', state.groups, idOf, orderKeys), before?.group),
    marker: byId(state.markers, before?.marker),
    word: byId(listed('word', state.words, word, orderKeys), before?.word),
    map: byId(mapRecords(state), before?.map),
  };
  RECORDS.set(state, records);
  return records;
}

const busSends = (bus: Bus, orderKeys: SessionState['orderKeys']): RecordOf<'send'>[] =>
  sendRecords(bus.sends, { trackId: null, sourceBusId: bus.id }, orderKeys);

function songRecord(state: SessionState, before: SessionRecords['song'] | undefined): SessionRecords['song'] {
  const song = { id: SONG_ID, ...fieldsOf('song', state) };
  const known = before?.[SONG_ID];
  const isSame =
    known && Object.keys(KINDS.song.fields).every((f) => known[f as 'name'] === song[f as 'name']);
  return isSame ? before : { [SONG_ID]: song };
}
