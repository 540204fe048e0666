import { applyEdit, type Edit } from './edits';
import { same } from './merge';
import {
  type Bus,
  BUS_FIELDS,
  isFolder,
  isTrack,
  ROOT,
  type SessionState,
  type TrackFields,
  TRACK_FIELDS,
} from './state';

/** Those of `keys` in which `b` differs from `a`, with the values of `b`. */
function changed<T extends object, K extends keyof T>(
  a: T,
  b: T,
  keys: readonly K[],
): Partial<Pick<T, K>> | null {
  const fields = keys.filter((k) => !same(a[k], b[k]));
  return fields.length === 0
    ? null
    : (Object.fromEntries(fields.map((k) => [k, b[k]])) as Partial<Pick<T, K>>);
}

/** A session being led towards another, with the edits that led there. Throws RangeError if one does not fit: a bug here. */
class Course {
  readonly edits: Edit[] = [];
  constructor(public at: SessionState) {}

  take(edit: Edit): void {
    const outcome = applyEdit(this.at, edit);
    if (!outcome.ok) throw new RangeError(`${edit.kind} does not fit: ${outcome.code} ${outcome.id}`);
    this.at = outcome.session;
    this.edits.push(edit);
  }
}

/** Edits that turn one state of a session into another, as one step that can be undone. */
export function difference(from: SessionState, to: SessionState): Edit[] {
  const course = new Course(from);
  const described = changed(from, to, ['name', 'artist', 'notes']);
  if (described) course.take({ kind: 'session.describe', ...described });
  if (from.sampleRateHz !== to.sampleRateHz)
    course.take({ kind: 'session.rate', sampleRateHz: to.sampleRateHz });
  addBuses(course, to);
  addNodes(course, to);
  changeNodes(course, to);
  changeBuses(course, to);
  placeNodes(course, to);
  removeRest(course, to);
  if (!same(from.groups, to.groups)) course.take({ kind: 'groups.set', groups: to.groups });
  if (!same(from.map, to.map) || !same(from.mapFacts, to.mapFacts))
    course.take({ kind: 'map.replace', map: to.map, facts: to.mapFacts });
  if (!same(from.keptMaps, to.keptMaps)) course.take({ kind: 'maps.keep', maps: to.keptMaps });
  if (from.cutBars !== to.cutBars) course.take({ kind: 'session.cut', bars: to.cutBars });
  if (!same(from.timekeepers, to.timekeepers))
    course.take({ kind: 'timekeepers.choose', trackIds: to.timekeepers });
  if (!same(from.words, to.words)) course.take({ kind: 'words.set', words: to.words });
  if (!same(from.style, to.style)) course.take({ kind: 'style.use', style: to.style });
  if (!same(from.markers, to.markers)) course.take({ kind: 'markers.set', markers: to.markers });
  if (!same(from.conform, to.conform)) course.take({ kind: 'conform.set', conform: to.conform });
  return course.edits;
}

/** A bus that goes straight to the mix bus. */
const UNROUTED = { outputBusId: null, sends: [] } as const;

function addBuses(course: Course, to: SessionState): void {
  const { buses, busOrder } = course.at;
  // No edit moves a bus: in another order they are all taken out, for which nothing may refer to them.
  if (
    !same(
      busOrder.filter((id) => to.buses[id]),
      to.busOrder.filter((id) => buses[id]),
    )
  ) {
    for (const node of Object.values(course.at.nodes))
      if (node.busId !== null || (node.kind === 'track' && node.sends.length > 0))
        course.take({
          kind: node.kind === 'track' ? 'track.change' : 'folder.change',
          id: node.id,
          fields: { busId: null, ...(node.kind === 'track' && node.sends.length > 0 ? { sends: [] } : {}) },
        });
    for (const id of busOrder) course.take({ kind: 'bus.change', id, fields: UNROUTED });
    for (const id of busOrder) course.take({ kind: 'bus.remove', id });
  }
  to.busOrder.forEach((id, i) => {
    if (course.at.buses[id]) return;
    course.take({
      kind: 'bus.add',
      bus: { ...(to.buses[id] as Bus), ...UNROUTED },
      index: i === 0 ? 0 : course.at.busOrder.indexOf(to.busOrder[i - 1] as string) + 1,
    });
  });
}

function addNodes(course: Course, to: SessionState): void {
  for (const node of Object.values(to.nodes)) {
    const here = course.at.nodes[node.id];
    if (here && here.kind !== node.kind) removeNode(course, node.id);
    if (course.at.nodes[node.id]) continue;
    const place = { parentId: ROOT, index: Number.MAX_SAFE_INTEGER };
    course.take(
      node.kind === 'track'
        ? { kind: 'track.add', track: node, ...place }
        : { kind: 'folder.add', folder: node, ...place },
    );
  }
}

function changeNodes(course: Course, to: SessionState): void {
  for (const node of Object.values(to.nodes)) {
    const here = course.at.nodes[node.id];
    if (isTrack(node) && isTrack(here)) {
      const { recordingId, receivedName } = node;
      if (here.recordingId !== recordingId || here.receivedName !== receivedName)
        course.take({ kind: 'track.replace', id: node.id, recordingId, receivedName });
      const fields = changed<TrackFields, keyof TrackFields>(here, node, TRACK_FIELDS);
      if (fields) course.take({ kind: 'track.change', id: node.id, fields });
    } else if (isFolder(node) && isFolder(here)) {
      const fields = changed(here, node, ['name', 'color', 'busId']);
      if (fields) course.take({ kind: 'folder.change', id: node.id, fields });
    }
  }
}

function changeBuses(course: Course, to: SessionState): void {
  // All ways that change are opened first: no bus ever runs into itself on the way.
  for (const bus of Object.values(course.at.buses))
    if (changed<Bus, keyof Bus>(bus, to.buses[bus.id] ?? { ...bus, ...UNROUTED }, ['outputBusId', 'sends']))
      course.take({ kind: 'bus.change', id: bus.id, fields: UNROUTED });
  for (const bus of Object.values(to.buses)) {
    const fields = changed<Bus, (typeof BUS_FIELDS)[number]>(course.at.buses[bus.id] as Bus, bus, BUS_FIELDS);
    if (fields) course.take({ kind: 'bus.change', id: bus.id, fields });
  }
}

/** From the top down, so that a folder stands where it belongs before anything goes into it. */
function placeNodes(course: Course, to: SessionState, parentId: string = ROOT): void {
  (to.children[parentId] ?? []).forEach((id, index) => {
    if (course.at.children[parentId]?.[index] !== id)
      course.take({ kind: 'node.place', id, parentId, index });
    if (isFolder(to.nodes[id])) placeNodes(course, to, id);
  });
}

function removeNode(course: Course, id: string): void {
  for (const child of course.at.children[id] ?? [])
    course.take({ kind: 'node.place', id: child, parentId: ROOT, index: Number.MAX_SAFE_INTEGER });
  course.take(isTrack(course.at.nodes[id]) ? { kind: 'track.remove', id } : { kind: 'folder.remove', id });
}

function removeRest(course: Course, to: SessionState): void {
  for (const id of Object.keys(course.at.nodes)) if (!to.nodes[id]) removeNode(course, id);
  const extra = course.at.busOrder.filter((id) => !to.buses[id]);
  for (const id of extra) course.take({ kind: 'bus.change', id, fields: UNROUTED });
  for (const id of extra) course.take({ kind: 'bus.remove', id });
}

/** What a list of edits would do, counted for people. */
export interface EditSummary {
  readonly renamed: readonly { readonly from: string; readonly to: string }[];
  /** Tracks and folders of which something else changes: family, colour, level, routing, mute. */
  readonly changed: number;
  /** Rows that move. */
  readonly moved: number;
  readonly tracksAdded: number;
  readonly tracksRemoved: number;
  readonly foldersAdded: number;
  readonly foldersRemoved: number;
  readonly busesAdded: number;
  readonly busesRemoved: number;
  readonly rate: boolean;
  readonly described: boolean;
  readonly map: 'set' | 'removed' | null;
  /** How many maps are put by after it; null = untouched. */
  readonly keptMaps: number | null;
  readonly conform: 'set' | 'removed' | null;
  /** How many hold after it; null = untouched. */
  readonly markers: number | null;
  /** The same of words. */
  readonly words: number | null;
  /** Groups, what is in them, or their levels. */
  readonly groups: boolean;
  /** Another house style, or another version of it. */
  readonly style: boolean;
  /** Whether what is handed over begins elsewhere. */
  readonly cut: boolean;
}

/** Counts what edits do to a session. */
export function summarizeEdits(from: SessionState, edits: readonly Edit[]): EditSummary {
  const ids = (...kinds: Edit['kind'][]): Set<string> =>
    new Set(edits.flatMap((e) => (kinds.includes(e.kind) && 'id' in e ? [e.id] : [])));
  const count = (kind: Edit['kind']): number => edits.filter((e) => e.kind === kind).length;
  const renamed = edits.flatMap((e) => {
    const name = e.kind === 'track.change' || e.kind === 'folder.change' ? e.fields.name : undefined;
    return name === undefined || !('id' in e) ? [] : [{ from: from.nodes[e.id]?.name ?? '', to: name }];
  });
  const map = edits.find((e) => e.kind === 'map.replace');
  const conform = edits.find((e) => e.kind === 'conform.set');
  return {
    renamed,
    changed: ids('track.change', 'track.replace', 'folder.change').size,
    moved: [...ids('node.place')].filter((id) => from.nodes[id]).length,
    tracksAdded: count('track.add'),
    tracksRemoved: count('track.remove'),
    foldersAdded: count('folder.add'),
    foldersRemoved: count('folder.remove'),
    busesAdded: count('bus.add'),
    busesRemoved: count('bus.remove'),
    rate: count('session.rate') > 0,
    described: count('session.describe') > 0,
    map: map ? (map.map ? 'set' : 'removed') : null,
    conform: conform ? (conform.conform ? 'set' : 'removed') : null,
    keptMaps: edits.findLast((e) => e.kind === 'maps.keep')?.maps.length ?? null,
    markers: edits.findLast((e) => e.kind === 'markers.set')?.markers.length ?? null,
    words: edits.findLast((e) => e.kind === 'words.set')?.words.length ?? null,
    groups: count('groups.set') > 0,
    style: count('style.use') > 0,
    cut: count('session.cut') > 0,
  };
}
