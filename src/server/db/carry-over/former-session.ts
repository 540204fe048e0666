// A session as logs and rows told it before there were records. Frozen: it reads what was written then, and nothing else.

type Json = Readonly<Record<string, unknown>>;

/** A row of those days: a track with its recording in it, or a folder. */
export interface FormerRow {
  readonly kind: 'track' | 'folder';
  readonly id: string;
  readonly [field: string]: unknown;
}

/** A session of those days. */
export interface FormerSession {
  readonly name: string;
  readonly artist: string;
  readonly notes: string;
  readonly sampleRateHz: number | null;
  readonly nodes: Readonly<Record<string, FormerRow>>;
  readonly children: Readonly<Record<string, readonly string[]>>;
  readonly buses: Readonly<Record<string, Json & { readonly id: string }>>;
  readonly busOrder: readonly string[];
  readonly groups: readonly Json[];
  readonly map: unknown;
  readonly mapFacts: unknown;
  readonly keptMaps: readonly Json[];
  readonly timekeepers: readonly string[] | null;
  readonly cutBars: number | null;
  readonly words: readonly Json[];
  readonly style: unknown;
  readonly markers: readonly { readonly id: string; readonly seconds: number; readonly name: string }[];
  readonly conform: unknown;
}

/** One line of what was done. */
export interface FormerEdit {
  readonly kind: string;
  readonly [field: string]: unknown;
}

/** What tracks were before these fields were known. */
const LATER_TRACK_FIELDS: Json = {
  sends: [],
  inverted: false,
  monoFrom: null,
  keepsSamples: false,
  tiedTo: null,
};
/** What buses were before these fields were known. */
const LATER_BUS_FIELDS: Json = { kind: 'sum', sends: [], byHand: [] };

/** A session with nothing in it. */
export const formerSession = (name: string, artist: string, notes: string): FormerSession => ({
  name,
  artist,
  notes,
  sampleRateHz: null,
  nodes: {},
  children: { root: [] },
  buses: {},
  busOrder: [],
  groups: [],
  map: null,
  mapFacts: null,
  keptMaps: [],
  timekeepers: null,
  cutBars: null,
  words: [],
  style: null,
  markers: [],
  conform: null,
});

const without = <T>(record: Readonly<Record<string, T>>, id: string): Record<string, T> => {
  const { [id]: _gone, ...rest } = record;
  return rest;
};
const insert = (list: readonly string[], index: number, id: string): string[] => {
  const at = Math.max(0, Math.min(list.length, index));
  return [...list.slice(0, at), id, ...list.slice(at)];
};
const lifted = (s: FormerSession, id: string): Record<string, readonly string[]> =>
  Object.fromEntries(
    Object.entries(s.children).map(([parent, ids]) => [parent, ids.filter((x) => x !== id)]),
  );

function placed(s: FormerSession, id: string, { parentId, index }: FormerEdit): FormerSession['children'] {
  const children = lifted(s, id);
  const parent = parentId as string;
  return { ...children, [parent]: insert(children[parent] ?? [], index as number, id) };
}

const withRow = (s: FormerSession, row: FormerRow): FormerSession['nodes'] => ({ ...s.nodes, [row.id]: row });

const changedRow = (s: FormerSession, id: string, fields: Json): FormerSession => {
  const row = s.nodes[id];
  return row ? { ...s, nodes: withRow(s, { ...row, ...fields }) } : s;
};

type Handler = (s: FormerSession, edit: FormerEdit) => FormerSession;

const HANDLERS: Readonly<Record<string, Handler>> = {
  'session.describe': (s, { kind: _kind, ...fields }) => ({ ...s, ...fields }),
  'session.rate': (s, { sampleRateHz }) => ({ ...s, sampleRateHz: sampleRateHz as number | null }),
  'track.add': (s, edit) => {
    const row = { ...LATER_TRACK_FIELDS, ...(edit.track as FormerRow) };
    return { ...s, nodes: withRow(s, row), children: placed(s, row.id, edit) };
  },
  'track.remove': (s, { id }) => ({
    ...s,
    nodes: without(s.nodes, id as string),
    children: lifted(s, id as string),
  }),
  'track.change': (s, { id, fields }) => changedRow(s, id as string, fields as Json),
  'track.replace': (s, { id, recordingId, receivedName }) =>
    changedRow(s, id as string, { recordingId, receivedName }),
  'folder.add': (s, edit) => {
    const row = edit.folder as FormerRow;
    return { ...s, nodes: withRow(s, row), children: { ...placed(s, row.id, edit), [row.id]: [] } };
  },
  'folder.remove': (s, { id }) => ({
    ...s,
    nodes: without(s.nodes, id as string),
    children: without(lifted(s, id as string), id as string),
  }),
  'folder.change': (s, { id, fields }) => changedRow(s, id as string, fields as Json),
  'node.place': (s, edit) => ({ ...s, children: placed(s, edit.id as string, edit) }),
  'bus.add': (s, { bus: given, index }) => {
    const bus = { ...LATER_BUS_FIELDS, ...(given as Json & { readonly id: string }) };
    return {
      ...s,
      buses: { ...s.buses, [bus.id]: bus },
      busOrder: insert(
        s.busOrder.filter((x) => x !== bus.id),
        index as number,
        bus.id,
      ),
    };
  },
  'bus.remove': (s, { id }) => ({
    ...s,
    buses: without(s.buses, id as string),
    busOrder: s.busOrder.filter((x) => x !== id),
  }),
  'bus.change': (s, { id, fields }) => {
    const bus = s.buses[id as string];
    return bus ? { ...s, buses: { ...s.buses, [bus.id]: { ...bus, ...(fields as Json) } } } : s;
  },
  'groups.set': (s, { groups }) => ({ ...s, groups: groups as FormerSession['groups'] }),
  'map.replace': (s, { map, facts }) => ({ ...s, map, mapFacts: facts }),
  'maps.keep': (s, { maps }) => ({ ...s, keptMaps: maps as FormerSession['keptMaps'] }),
  'session.cut': (s, { bars }) => ({ ...s, cutBars: bars as number | null }),
  'timekeepers.choose': (s, { trackIds }) => ({
    ...s,
    timekeepers: trackIds as FormerSession['timekeepers'],
  }),
  'words.set': (s, { words }) => ({ ...s, words: words as FormerSession['words'] }),
  'style.use': (s, { style }) => ({ ...s, style }),
  'markers.set': (s, { markers }) => ({ ...s, markers: markers as FormerSession['markers'] }),
  'conform.set': (s, { conform }) => ({ ...s, conform }),
};

/** Does what a line of a log of those days did. What it names and is not there is passed by: the lines were checked when they were written. */
export const formerlyDone = (session: FormerSession, edits: readonly FormerEdit[]): FormerSession =>
  edits.reduce((s, edit) => HANDLERS[edit.kind]?.(s, edit) ?? s, session);
