import { faultIn, type EditFault } from './checks';
import {
  type FieldsOf,
  KINDS,
  RECORD_KINDS,
  type RecordKind,
  type RecordOf,
  type SessionRecords,
} from './records';
import { stateOf, recordsOf } from './state-of-records';
import type { SessionState } from './state';

/** A new record. */
export type Put<K extends RecordKind = RecordKind> = {
  readonly kind: 'put';
  readonly of: K;
  readonly record: RecordOf<K>;
};

/** Some fields of a record that is there. */
export type Patch<K extends RecordKind = RecordKind> = {
  readonly kind: 'patch';
  readonly of: K;
  readonly id: string;
  readonly fields: Partial<FieldsOf<K>>;
};

/** A record goes, with those it owns. */
export type Remove<K extends RecordKind = RecordKind> = {
  readonly kind: 'remove';
  readonly of: K;
  readonly id: string;
};

/** One edit: plain JSON. */
export type Edit = { [K in RecordKind]: Put<K> | Patch<K> | Remove<K> }[RecordKind];

/** What all records have. */
export type AnyRecord = { readonly id: string } & Readonly<Record<string, unknown>>;
type AnyRecords = Readonly<Record<RecordKind, Readonly<Record<string, AnyRecord>>>>;

/** Records with what one edit does to them, and the edits that take it back, in their order. */
export type Edited =
  | { readonly ok: true; readonly records: SessionRecords; readonly inverse: readonly Edit[] }
  | ({ readonly ok: false } & EditFault);

const any = (records: SessionRecords): AnyRecords => records as unknown as AnyRecords;

/** A record of any kind; undefined = it is not there. */
export const recordIn = (records: SessionRecords, kind: RecordKind, id: string): AnyRecord | undefined =>
  any(records)[kind][id];

/** All records of any kind. */
export const recordsIn = (records: SessionRecords, kind: RecordKind): readonly AnyRecord[] =>
  Object.values(any(records)[kind]);

const withRecord = (records: SessionRecords, kind: RecordKind, record: AnyRecord): SessionRecords =>
  ({ ...records, [kind]: { ...any(records)[kind], [record.id]: record } }) as unknown as SessionRecords;

function without(records: SessionRecords, kind: RecordKind, id: string): SessionRecords {
  const { [id]: _gone, ...rest } = any(records)[kind];
  return { ...records, [kind]: rest };
}

/** Kind → fields of which kinds own-refer to it. */
const OWNED = new Map(
  RECORD_KINDS.map((owner) => [
    owner,
    RECORD_KINDS.flatMap((kind) =>
      Object.entries(KINDS[kind].fields).flatMap(([field, { refersTo }]) =>
        refersTo?.isOwner && refersTo.kind === owner ? [{ kind, field }] : [],
      ),
    ),
  ]),
);

/** Records that go with another. */
export const ownedBy = (
  records: SessionRecords,
  kind: RecordKind,
  id: string,
): readonly { readonly kind: RecordKind; readonly record: AnyRecord }[] =>
  (OWNED.get(kind) ?? []).flatMap(({ kind: owned, field }) =>
    recordsIn(records, owned)
      .filter((r) => r[field] === id)
      .flatMap((record) => [{ kind: owned, record }, ...ownedBy(records, owned, record.id)]),
  );

/** A record with all fields of its kind, and no others: what was not said is as it is at first. */
function completed(kind: RecordKind, given: AnyRecord): AnyRecord | null {
  const fields = Object.entries(KINDS[kind].fields).map(([name, { initial, schema }]) => {
    const value = given[name] === undefined ? initial : given[name];
    return [name, value === undefined && schema.spec.nullable ? null : value] as const;
  });
  return fields.some(([, value]) => value === undefined)
    ? null
    : { id: given.id, ...Object.fromEntries(fields) };
}

/** Does one edit; what spans records is not looked at. */
export function editRecords(records: SessionRecords, edit: Edit): Edited {
  if (edit.kind === 'put') {
    const { of, record } = edit;
    if (RECORD_KINDS.some((k) => recordIn(records, k, record.id)))
      return { ok: false, code: 'edit.id_taken', id: record.id };
    const whole = completed(of, record as AnyRecord);
    if (!whole) return { ok: false, code: 'edit.incomplete', id: record.id };
    return {
      ok: true,
      records: withRecord(records, of, whole),
      inverse: [{ kind: 'remove', of, id: record.id }],
    };
  }
  const { of, id } = edit;
  const there = recordIn(records, of, id);
  if (!there) return { ok: false, code: 'edit.unknown_id', id };
  if (edit.kind === 'patch') {
    const known = Object.entries(edit.fields).filter(([name]) => Object.hasOwn(KINDS[of].fields, name));
    return {
      ok: true,
      records: withRecord(records, of, { ...there, ...Object.fromEntries(known) }),
      inverse: [
        { kind: 'patch', of, id, fields: Object.fromEntries(known.map(([name]) => [name, there[name]])) },
      ],
    };
  }
  const owned = ownedBy(records, of, id);
  return {
    ok: true,
    records: owned.reduce((r, x) => without(r, x.kind, x.record.id), without(records, of, id)),
    inverse: [{ kind: of, record: there }, ...owned].map(
      ({ kind, record }) => ({ kind: 'put', of: kind, record }) as unknown as Edit,
    ),
  };
}

/** Applies edits to a session, all or none; what spans records must hold at their end. `inverse` takes them back, in its order. */
export function applyEdits(
  session: SessionState,
  edits: readonly Edit[],
):
  | { readonly ok: true; readonly session: SessionState; readonly inverse: readonly Edit[] }
  | ({ readonly ok: false } & EditFault) {
  const before = recordsOf(session);
  let records = before;
  const inverses: (readonly Edit[])[] = [];
  for (const edit of edits) {
    const outcome = editRecords(records, edit);
    if (!outcome.ok) return outcome;
    records = outcome.records;
    inverses.push(outcome.inverse);
  }
  const fault = faultIn(before, records);
  return fault
    ? { ok: false, ...fault }
    : { ok: true, session: stateOf(records), inverse: inverses.reverse().flat() };
}

/** Whether edits change a field of some record of a kind that is there, or with no field named, anything of that kind. */
export const concerns = <K extends RecordKind>(
  edits: readonly Edit[],
  of: K,
  field?: keyof FieldsOf<K>,
): boolean =>
  edits.some(
    (e) => e.of === of && (field === undefined || (e.kind === 'patch' && Object.hasOwn(e.fields, field))),
  );
