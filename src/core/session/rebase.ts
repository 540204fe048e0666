import { type EditFault, faultIn } from './checks';
import {
  type AnyRecord,
  type Edit,
  ownedBy,
  type Patch,
  type Put,
  recordIn,
  recordsIn,
  RecordsDraft,
  type Remove,
} from './edits';
import { mergeSets, mergeValue, same, type ThreeWays } from './merge';
import { KINDS, type Merge, type RecordKind, type SessionRecords } from './records';
import { recordsOf, stateOf } from './state-of-records';
import type { SessionState } from './state';

/** Whose value holds. */
export type Choice = 'mine' | 'theirs';

/** Something that two people changed differently. */
export interface Conflict {
  readonly record: { readonly kind: RecordKind; readonly id: string; readonly name: string };
  /** Name of the field, of its part after a dot; `removed` = one side took the record out, `place` = the folder it stands in, `rows` = what stands in it. */
  readonly field: string;
  readonly mine: unknown;
  readonly theirs: unknown;
  /** Mine cannot be done any more. */
  readonly isDecided: boolean;
}

/** Edits laid anew over what others did, or what stands against it. */
export type Rebased =
  | { readonly ok: true; readonly edits: readonly Edit[]; readonly session: SessionState }
  | { readonly ok: false; readonly conflicts: readonly Conflict[]; readonly fault: EditFault | null };

type Subject = Conflict['record'];
type Values = Readonly<Record<string, unknown>>;

/** A field that both left in contradiction and of which theirs was chosen. */
const DROPPED = Symbol('dropped');

const isPlain = (value: unknown): value is Values =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** One batch on its way from the records it was made on to those it meets. */
class Rebasing {
  readonly conflicts: Conflict[] = [];

  readonly #base: RecordsDraft;
  readonly #now: RecordsDraft;

  constructor(
    base: SessionRecords,
    now: SessionRecords,
    readonly choose: ((conflict: Conflict) => Choice) | null,
  ) {
    this.#base = new RecordsDraft(base);
    this.#now = new RecordsDraft(now);
  }

  /** As they were where the batch was made. */
  get base(): SessionRecords {
    return this.#base.records;
  }

  /** As the batch meets them. */
  get now(): SessionRecords {
    return this.#now.records;
  }

  /** Goes on by one edit; `laid` = what it becomes, null = nothing is left of it. A fault = it does not fit. */
  step(edit: Edit): {
    readonly laid: Edit | null;
    readonly fault: EditFault | null;
    readonly isOwn: boolean;
  } {
    const laid = this.lay(edit);
    const own = this.#base.do(edit);
    if (!own.ok) return { laid: null, fault: own, isOwn: true };
    const met = laid && this.#now.do(laid);
    return met && !met.ok ? { laid: null, fault: met, isOwn: false } : { laid, fault: null, isOwn: false };
  }

  lay(edit: Edit): Edit | null {
    if (edit.kind === 'put') return this.#put(edit);
    return edit.kind === 'patch' ? this.#patch(edit) : this.#remove(edit);
  }

  #put(edit: Put): Edit | null {
    const { of, record } = edit;
    if (!recordIn(this.now, of, record.id)) return this.#stands(edit, of, record) ? (edit as Edit) : null;
    // Made on both sides, as a word or a map in force can be.
    const { id, ...fields } = record as AnyRecord;
    return this.#patched(of, id, fields);
  }

  #patch({ of, id, fields }: Patch): Edit | null {
    if (!recordIn(this.now, of, id)) {
      const mine = Object.values(fields)[0];
      this.#decide({ record: this.#subject(of, id), field: 'removed', mine, theirs: 'removed' }, true);
      return null;
    }
    return this.#patched(of, id, fields);
  }

  #patched(of: RecordKind, id: string, given: Values): Edit | null {
    const [base, theirs] = [recordIn(this.base, of, id), recordIn(this.now, of, id) as AnyRecord];
    const fields = this.#fields(this.#subject(of, id), base, theirs, this.#placed(base, theirs, given));
    if (Object.keys(fields).length === 0) return null;
    const edit = { kind: 'patch', of, id, fields } as Edit & Patch;
    return this.#stands(edit, of, { id, ...fields }) ? edit : null;
  }

  /** Moved within the folder it stood in, while they moved it to another: there it stays. */
  #placed(base: AnyRecord | undefined, theirs: AnyRecord, mine: Values): Values {
    const stays = !('parentId' in mine) || same(mine.parentId, base?.parentId);
    if (!('orderKey' in mine) || !stays || same(base?.parentId, theirs.parentId)) return mine;
    const { orderKey: _key, ...rest } = mine;
    return rest;
  }

  #remove(edit: Remove): Edit | null {
    const { of, id } = edit;
    const [base, theirs] = [recordIn(this.base, of, id), recordIn(this.now, of, id)];
    // Both took it out.
    if (!theirs) return null;
    const record = this.#subject(of, id);
    const inside = recordsIn(this.now, 'track')
      .concat(recordsIn(this.now, 'folder'))
      .filter((r) => of === 'folder' && r.parentId === id).length;
    if (inside > 0) {
      this.#decide({ record, field: 'rows', mine: 'removed', theirs: inside }, true);
      return null;
    }
    const changed = base && this.#changedOf(of, base, theirs);
    if (!changed) return edit as Edit;
    const choice = this.#decide({ record, field: changed.field, mine: 'removed', theirs: changed.value });
    return choice === 'mine' ? (edit as Edit) : null;
  }

  /** The first thing they changed of a record or of what goes with it; undefined = nothing. */
  #changedOf(
    of: RecordKind,
    base: AnyRecord,
    theirs: AnyRecord,
  ): { readonly field: string; readonly value: unknown } | undefined {
    const changedIn = (kind: RecordKind, a: AnyRecord, b: AnyRecord) =>
      Object.entries(KINDS[kind].fields)
        .filter(([field, { merge }]) => merge !== 'latest' && !same(a[field], b[field]))
        .map(([field]) => ({ field, value: b[field] }))[0];
    const own = changedIn(of, base, theirs);
    if (own) return own;
    const were = new Map(ownedBy(this.base, of, base.id).map((o) => [o.record.id, o]));
    const are = ownedBy(this.now, of, base.id);
    for (const { kind, record } of are) {
      const was = were.get(record.id);
      const changed = was ? changedIn(kind, was.record, record) : { field: 'removed', value: 'kept' };
      if (changed) return { field: kind === 'send' ? 'sends' : changed.field, value: changed.value };
      were.delete(record.id);
    }
    const gone = [...were.values()][0];
    return gone && { field: gone.kind === 'send' ? 'sends' : 'removed', value: 'removed' };
  }

  /** Whether what an edit names is there. What they took out while it was given something stands against it. */
  #stands(edit: Edit | Put, of: RecordKind, fields: Values): boolean {
    for (const [name, { refersTo }] of Object.entries(KINDS[of].fields)) {
      const id = fields[name];
      if (!refersTo || typeof id !== 'string' || id === refersTo.none) continue;
      if (recordIn(this.now, refersTo.kind, id) || !recordIn(this.base, refersTo.kind, id)) continue;
      const mine = refersTo.kind === 'folder' ? 'holds a row more' : this.#title(of, edit);
      this.#decide(
        { record: this.#subject(refersTo.kind, id), field: 'removed', mine, theirs: 'removed' },
        true,
      );
      return false;
    }
    return true;
  }

  #title(of: RecordKind, edit: Edit | Put): string {
    return edit.kind === 'put' ? KINDS[of].title(edit.record as never) : this.#subject(of, edit.id).name;
  }

  /** The fields that still are to be set. */
  #fields(record: Subject, base: AnyRecord | undefined, theirs: AnyRecord, mine: Values): Values {
    return Object.fromEntries(
      Object.entries(mine).flatMap(([field, value]) => {
        const merge = KINDS[record.kind].fields[field as never] as { readonly merge: Merge } | undefined;
        const ways = { base: base?.[field], theirs: theirs[field], mine: value };
        const out = this.#value(record, field, ways, merge?.merge ?? 'value');
        // Theirs holds: nothing is to be done.
        if (out === DROPPED || (same(out, theirs[field]) && !same(out, value))) return [];
        return [[field, out]];
      }),
    );
  }

  #value(record: Subject, field: string, ways: ThreeWays<unknown>, merge: Merge): unknown {
    const { base, theirs, mine } = ways;
    if (merge === 'latest') return mine;
    const merged = mergeValue(ways);
    if (merged) return merged.value;
    if (merge === 'either') return mine === true || theirs === true;
    if (merge === 'set' && [base, theirs, mine].every((x) => Array.isArray(x)))
      return mergeSets(ways as ThreeWays<readonly string[]>);
    if (merge === 'parts' && isPlain(base) && isPlain(theirs) && isPlain(mine))
      return this.#parts(record, field, { base, theirs, mine });
    return this.#decide(this.#told(record, field, mine, theirs)) === 'mine' ? mine : DROPPED;
  }

  /** Each key for itself: what only one side changed or left out is as that side has it. */
  #parts(record: Subject, field: string, { base, theirs, mine }: ThreeWays<Values>): Values {
    const keys = new Set([base, theirs, mine].flatMap((x) => Object.keys(x)));
    return Object.fromEntries(
      [...keys].flatMap((key) => {
        const ways = { base: base[key], theirs: theirs[key], mine: mine[key] };
        const value = this.#value(record, `${field}.${key}`, ways, 'parts');
        const kept = value === DROPPED ? theirs[key] : value;
        return kept === undefined ? [] : [[key, kept]];
      }),
    );
  }

  /** What a person is told of a contradiction: folders by name. */
  #told(record: Subject, field: string, mine: unknown, theirs: unknown): Omit<Conflict, 'isDecided'> {
    if (field !== 'parentId') return { record, field, mine, theirs };
    const name = (id: unknown): string =>
      typeof id === 'string' ? ((this.now.folder[id] ?? this.base.folder[id])?.name ?? '') : '';
    return { record, field: 'place', mine: name(mine), theirs: name(theirs) };
  }

  /** Whose value holds; mine as long as nobody was asked, so that all contradictions are found. */
  #decide(conflict: Omit<Conflict, 'isDecided'>, isDecided = false): Choice {
    if (this.choose) return isDecided ? 'theirs' : this.choose({ ...conflict, isDecided });
    const isKnown = this.conflicts.some(
      (c) => c.record.id === conflict.record.id && c.field === conflict.field,
    );
    if (!isKnown) this.conflicts.push({ ...conflict, isDecided });
    return isDecided ? 'theirs' : 'mine';
  }

  #subject(kind: RecordKind, id: string): Subject {
    const record = recordIn(this.now, kind, id) ?? recordIn(this.base, kind, id);
    const nameOf = (k: RecordKind, of: unknown): string =>
      typeof of === 'string' ? this.#subject(k, of).name : '';
    if (kind === 'lane') return { kind, id, name: nameOf('track', record?.trackId) };
    if (kind === 'clip') return { kind, id, name: nameOf('lane', record?.laneId) };
    if (kind === 'send') {
      const from = nameOf('track', record?.trackId) || nameOf('bus', record?.sourceBusId);
      return { kind, id, name: `${from} → ${nameOf('bus', record?.busId)}` };
    }
    return { kind, id, name: record ? KINDS[kind].title(record as never) : '' };
  }
}

/**
 * Lays edits that were made on `base` over `now`, where others went on from `base`, by record and field. What both left
 * in contradiction is told field by field, or decided by `choose`. What nobody else touched is done as it was meant.
 */
export function rebase(
  edits: readonly Edit[],
  base: SessionState,
  now: SessionState,
  choose: ((conflict: Conflict) => Choice) | null = null,
): Rebased {
  const before = recordsOf(now);
  const at = new Rebasing(recordsOf(base), before, choose);
  const out: Edit[] = [];
  let fault: EditFault | null = null;
  for (const edit of edits) {
    const step = at.step(edit);
    const found = step.fault && { code: step.fault.code, id: step.fault.id };
    if (step.isOwn) return { ok: false, conflicts: at.conflicts, fault: found };
    fault ??= found;
    if (step.laid) out.push(step.laid);
  }
  fault ??= faultIn(before, at.now);
  return at.conflicts.length > 0 || fault
    ? { ok: false, conflicts: at.conflicts, fault }
    : { ok: true, edits: out, session: stateOf(at.now, now) };
}

/** The state before the newest of `inverses`, which are in the order of the log. Throws RangeError if one does not fit. */
export function backTo(now: SessionState, inverses: readonly (readonly Edit[])[]): SessionState {
  const draft = new RecordsDraft(recordsOf(now));
  for (const inverse of [...inverses].reverse())
    for (const edit of inverse) {
      const outcome = draft.do(edit);
      if (!outcome.ok)
        throw new RangeError(`${edit.kind} ${edit.of} does not go back: ${outcome.code} ${outcome.id}`);
    }
  return stateOf(draft.records, now);
}
