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

/** What became of one edit: the edits that take it back, in their order. */
export type Edited =
  { readonly ok: true; readonly inverse: readonly Edit[] } | ({ readonly ok: false } & EditFault);

const any = (records: SessionRecords): AnyRecords => records as unknown as AnyRecords;

/** A record of any kind; undefined = it is not there. */
export const recordIn = (records: SessionRecords, kind: RecordKind, id: string): AnyRecord | undefined =>
  any(records)[kind][id];

/** All records of any kind. */
export const recordsIn = (records: SessionRecords, kind: RecordKind): readonly AnyRecord[] =>
  Object.values(any(records)[kind]);

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

/** Records as they were written some time ago: fields and kinds that came later are as at first. Throws RangeError if one misses what it needs. */
export function recordsWrittenAs(
  written: Readonly<Record<string, Readonly<Record<string, { readonly id: string }>>>>,
): SessionRecords {
  const kinds = RECORD_KINDS.map((kind) => {
    const records = Object.values(written[kind] ?? {}).map((record) => {
      const whole = completed(kind, record as AnyRecord);
      if (!whole) throw new RangeError(`${kind} ${record.id} misses what it needs`);
      return [record.id, whole] as const;
    });
    return [kind, Object.fromEntries(records)] as const;
  });
  return Object.fromEntries(kinds) as unknown as SessionRecords;
}

/** Records that are being changed: those it began with stay as they are. */
export class RecordsDraft {
  #records: SessionRecords;
  readonly #own = new Set<RecordKind>();

  constructor(records: SessionRecords) {
    this.#records = records;
  }

  /** As they are now; to be read before the next edit. */
  get records(): SessionRecords {
    return this.#records;
  }

  /** Does one edit; what spans records is not looked at. */
  do(edit: Edit): Edited {
    if (edit.kind === 'put') return this.#put(edit.of, edit.record as AnyRecord);
    const { of, id } = edit;
    const there = recordIn(this.#records, of, id);
    if (!there) return { ok: false, code: 'edit.unknown_id', id };
    if (edit.kind === 'patch') {
      const known = Object.entries(edit.fields).filter(([name]) => Object.hasOwn(KINDS[of].fields, name));
      this.#changed(of)[id] = { ...there, ...Object.fromEntries(known) };
      const fields = Object.fromEntries(known.map(([name]) => [name, there[name]]));
      return { ok: true, inverse: [{ kind: 'patch', of, id, fields }] };
    }
    const gone = [{ kind: of, record: there }, ...ownedBy(this.#records, of, id)];
    for (const { kind, record } of gone) delete this.#changed(kind)[record.id];
    return {
      ok: true,
      inverse: gone.map(({ kind, record }) => ({ kind: 'put', of: kind, record }) as unknown as Edit),
    };
  }

  #put(of: RecordKind, record: AnyRecord): Edited {
    if (RECORD_KINDS.some((k) => recordIn(this.#records, k, record.id)))
      return { ok: false, code: 'edit.id_taken', id: record.id };
    const whole = completed(of, record);
    if (!whole) return { ok: false, code: 'edit.incomplete', id: record.id };
    this.#changed(of)[record.id] = whole;
    return { ok: true, inverse: [{ kind: 'remove', of, id: record.id }] };
  }

  /** The records of a kind, to be written to. */
  #changed(kind: RecordKind): Record<string, AnyRecord> {
    if (!this.#own.has(kind)) {
      this.#own.add(kind);
      this.#records = { ...this.#records, [kind]: { ...this.#records[kind] } };
    }
    return any(this.#records)[kind] as Record<string, AnyRecord>;
  }
}

/** Applies edits to a session, all or none; what spans records must hold at their end. `inverse` takes them back, in its order. */
export function applyEdits(
  session: SessionState,
  edits: readonly Edit[],
):
  | { readonly ok: true; readonly session: SessionState; readonly inverse: readonly Edit[] }
  | ({ readonly ok: false } & EditFault) {
  const before = recordsOf(session);
  const draft = new RecordsDraft(before);
  const inverses: (readonly Edit[])[] = [];
  for (const edit of edits) {
    const outcome = draft.do(edit);
    if (!outcome.ok) return outcome;
    inverses.push(outcome.inverse);
  }
  const fault = faultIn(before, draft.records);
  return fault
    ? { ok: false, ...fault }
    : { ok: true, session: stateOf(draft.records, session), inverse: inverses.reverse().flat() };
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
