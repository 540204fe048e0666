import { type AnyRecord, type Edit, ownedBy, recordIn, recordsIn } from './edits';
import { same } from './merge';
import { type Field, KINDS, RECORD_KINDS, type RecordKind, type SessionRecords } from './records';
import { recordsOf } from './state-of-records';
import type { SessionState } from './state';

/** Edits that turn one state of a session into another, as one step that can be undone. */
export function difference(from: SessionState, to: SessionState): Edit[] {
  const [before, after] = [recordsOf(from), recordsOf(to)];
  const kinds = RECORD_KINDS.filter((k) => before[k] !== after[k]);
  const changed = kinds.flatMap((k) => patches(k, before, after));
  const made = kinds.flatMap((of) =>
    recordsIn(after, of)
      .filter((r) => !recordIn(before, of, r.id))
      .map((record) => ({ kind: 'put', of, record }) as unknown as Edit),
  );
  // What goes over to an owner that is new follows it, and comes before its former owner goes: the way back is the same.
  const owners = new Set(changed.flatMap((e) => newOwners(e, before)));
  const isLate = (edit: Edit): boolean => newOwners(edit, before).length > 0;
  const isOwner = (edit: Edit): boolean => owners.has(idOf(edit));
  return [
    ...changed.filter((e) => !isLate(e)),
    ...made.filter(isOwner),
    ...changed.filter(isLate),
    ...removals(kinds, before, after),
    ...made.filter((e) => !isOwner(e)),
  ];
}

/** Owners to which a record goes over by a patch and which are not there yet. */
function newOwners(edit: Edit, before: SessionRecords): string[] {
  if (edit.kind !== 'patch') return [];
  const known = KINDS[edit.of].fields as Readonly<Record<string, Pick<Field<unknown>, 'refersTo'>>>;
  return Object.entries(edit.fields).flatMap(([name, id]) => {
    const to = known[name]?.refersTo;
    return to?.isOwner && typeof id === 'string' && !recordIn(before, to.kind, id) ? [id] : [];
  });
}

function patches(of: RecordKind, before: SessionRecords, after: SessionRecords): Edit[] {
  const names = Object.keys(KINDS[of].fields);
  return recordsIn(after, of).flatMap((record) => {
    const there = recordIn(before, of, record.id);
    if (!there || there === record) return [];
    const changed = names.filter((name) => !same(there[name], record[name]));
    const fields = Object.fromEntries(changed.map((name) => [name, record[name]]));
    return changed.length === 0 ? [] : [{ kind: 'patch', of, id: record.id, fields } as Edit];
  });
}

/** What goes with its owner is not said; what has found another owner by then does not go with the former. */
function removals(kinds: readonly RecordKind[], before: SessionRecords, after: SessionRecords): Edit[] {
  const patched = Object.fromEntries(
    RECORD_KINDS.map((of) => [
      of,
      kinds.includes(of)
        ? Object.fromEntries(recordsIn(before, of).map((r) => [r.id, recordIn(after, of, r.id) ?? r]))
        : before[of],
    ]),
  ) as unknown as SessionRecords;
  const gone = kinds.flatMap((of) =>
    recordsIn(before, of)
      .filter((r) => !recordIn(after, of, r.id))
      .map(({ id }) => ({ of, id })),
  );
  const owned = new Set(gone.flatMap(({ of, id }) => ownedBy(patched, of, id).map((o) => o.record.id)));
  return gone.filter(({ id }) => !owned.has(id)).map((x) => ({ kind: 'remove', ...x }) as Edit);
}

/** What a list of edits would do, counted for people. */
export interface EditSummary {
  readonly renamed: readonly { readonly from: string; readonly to: string }[];
  /** Tracks and folders of which something changes: name, family, colour, level, routing, mute. */
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
  /** How many saved maps there are after it; null = untouched. */
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

const PLACE: ReadonlySet<string> = new Set(['parentId', 'orderKey']);
const idOf = (edit: Edit): string => (edit.kind === 'put' ? edit.record.id : edit.id);

/** Counts what edits do to a session. */
export function summarizeEdits(from: SessionState, edits: readonly Edit[]): EditSummary {
  const before = recordsOf(from);
  const patchesOf = (...kinds: RecordKind[]) =>
    edits.flatMap((e) => (e.kind === 'patch' && kinds.includes(e.of) ? [e] : []));
  const count = (kind: 'put' | 'remove', of: RecordKind): number =>
    edits.filter((e) => e.kind === kind && e.of === of).length;
  const touches = (of: RecordKind): boolean => edits.some((e) => e.of === of);
  const after = (of: RecordKind): number | null =>
    touches(of) ? recordsIn(before, of).length + count('put', of) - count('remove', of) : null;
  const song = Object.assign({}, ...patchesOf('song').map((e) => e.fields)) as Partial<SessionState>;
  const rows = patchesOf('track', 'folder');
  const isPlaced = (fields: object): boolean => Object.keys(fields).some((f) => PLACE.has(f));
  return {
    renamed: rows.flatMap((e) => {
      const { name } = e.fields as { readonly name?: string };
      const was = recordIn(before, e.of, e.id)?.name as string | undefined;
      return name === undefined ? [] : [{ from: was ?? '', to: name }];
    }),
    changed: changedRows(before, edits).size,
    moved: rows.filter((e) => isPlaced(e.fields)).length,
    tracksAdded: count('put', 'track'),
    tracksRemoved: count('remove', 'track'),
    foldersAdded: count('put', 'folder'),
    foldersRemoved: count('remove', 'folder'),
    busesAdded: count('put', 'bus'),
    busesRemoved: count('remove', 'bus'),
    rate: song.sampleRateHz !== undefined,
    described: ['name', 'artist', 'notes', 'key'].some((f) => f in song),
    ...summaryOfMaps(before, edits),
    conform: song.conform === undefined ? null : song.conform ? 'set' : 'removed',
    markers: after('marker'),
    words: after('word'),
    groups: touches('group'),
    style: song.style !== undefined,
    cut: song.cutBars !== undefined,
  };
}

/** Rows of which more changes than where they stand, with what belongs to them. */
function changedRows(before: SessionRecords, edits: readonly Edit[]): ReadonlySet<string> {
  const added = new Set(edits.flatMap((e) => (e.kind === 'put' && e.of === 'track' ? [e.record.id] : [])));
  const ids = edits.flatMap((e): (string | null)[] => {
    if (e.of === 'track' || e.of === 'folder')
      return e.kind === 'patch' && Object.keys(e.fields).some((f) => !PLACE.has(f)) ? [e.id] : [];
    if (e.of !== 'lane' && e.of !== 'clip' && e.of !== 'send') return [];
    const record = e.kind === 'put' ? (e.record as AnyRecord) : recordIn(before, e.of, e.id);
    const owner = e.of === 'clip' ? recordIn(before, 'lane', String(record?.laneId)) : record;
    return [(owner?.trackId as string | undefined) ?? null];
  });
  return new Set(ids.filter((id) => id !== null && !added.has(id)) as string[]);
}

function summaryOfMaps(
  before: SessionRecords,
  edits: readonly Edit[],
): Pick<EditSummary, 'map' | 'keptMaps'> {
  const isInForce = (e: Edit): boolean =>
    e.kind === 'put' && e.of === 'map' ? e.record.inForce : before.map[idOf(e)]?.inForce === true;
  const all = edits.filter((e) => e.of === 'map');
  const own = all.filter(isInForce).at(-1);
  const kept = all.filter((e) => !isInForce(e));
  const change = (kind: Edit['kind']): number => kept.filter((e) => e.kind === kind).length;
  const were = Object.values(before.map).filter((m) => !m.inForce).length;
  return {
    map: own ? (own.kind === 'remove' ? 'removed' : 'set') : null,
    keptMaps: kept.length > 0 ? were + change('put') - change('remove') : null,
  };
}
