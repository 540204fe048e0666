import { applyEdit, type Edit, type EditFault, type EditKind, type EditMap } from './edits';
import { mergeLists, mergeSets, mergeValue, same, type ThreeWays } from './merge';
import { type ConformSettings, ROOT, type SessionState } from './state';

/** Whose value holds. */
export type Choice = 'mine' | 'theirs';

/** Something that two people changed differently. */
export interface Conflict {
  readonly record: {
    readonly kind:
      'session' | 'track' | 'folder' | 'bus' | 'group' | 'marker' | 'word' | 'kept map' | 'conforming';
    readonly id: string;
    readonly name: string;
  };
  /** Name of the field; `removed` = one side took the whole out, `place` = the folder it stands in. */
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

type Item = { readonly [field: string]: unknown };
type Subject = Conflict['record'];
type EditOf<K extends EditKind> = { readonly kind: K } & EditMap[K];
type Rule<K extends EditKind> = (at: Rebasing, edit: EditOf<K>) => Edit | null;

const SESSION: Subject = { kind: 'session', id: '', name: '' };
/** Said of a name besides what was asked: the last word holds. */
const LAST_WORD: ReadonlySet<string> = new Set(['confidence', 'evidence']);
const SETS: ReadonlySet<string> = new Set(['byHand', 'trackIds']);
/** A field that both left in contradiction and of which theirs was chosen. */
const DROPPED = Symbol('dropped');

/** One batch on its way from the state it was made on to the one it meets. */
class Rebasing {
  readonly conflicts: Conflict[] = [];

  constructor(
    public base: SessionState,
    public now: SessionState,
    readonly choose: ((conflict: Conflict) => Choice) | null,
  ) {}

  /** Whose value holds; mine as long as nobody was asked, so that all contradictions are found. */
  decide(conflict: Omit<Conflict, 'isDecided'>, isDecided = false): Choice {
    if (this.choose) return isDecided ? 'theirs' : this.choose({ ...conflict, isDecided });
    const isKnown = this.conflicts.some(
      (c) => c.record.id === conflict.record.id && c.field === conflict.field,
    );
    if (!isKnown) this.conflicts.push({ ...conflict, isDecided });
    return isDecided ? 'theirs' : 'mine';
  }

  value<T>(record: Subject, field: string, ways: ThreeWays<T>): T | typeof DROPPED {
    if (LAST_WORD.has(field)) return ways.mine;
    const merged = mergeValue(ways) ?? this.#together(record, field, ways);
    if (merged) return merged.value;
    const { mine, theirs } = ways;
    return this.decide({ record, field, mine, theirs }) === 'mine' ? mine : DROPPED;
  }

  /** A value that is set as one: the edit that sets what holds; null = theirs was chosen. */
  whole<T>(record: Subject, field: string, ways: ThreeWays<T>, setting: (value: T) => Edit): Edit | null {
    const value = this.value(record, field, ways);
    return value === DROPPED ? null : setting(value);
  }

  /** A value of the session that is set as one. */
  single<K extends 'sampleRateHz' | 'cutBars' | 'timekeepers' | 'style'>(
    field: K,
    mine: SessionState[K],
    setting: (value: SessionState[K]) => Edit,
  ): Edit | null {
    return this.whole(SESSION, field, { base: this.base[field], theirs: this.now[field], mine }, setting);
  }

  /** A list of the session that is set as a whole, record by record. */
  records<T extends object>(
    kind: Subject['kind'],
    field: 'groups' | 'keptMaps' | 'markers' | 'words',
    mine: readonly T[],
    keyOf: (item: T) => string,
  ): readonly T[] {
    const of = (s: SessionState): readonly T[] => s[field] as readonly object[] as readonly T[];
    const subject = (item: T): Subject => ({
      kind,
      id: keyOf(item),
      name: 'name' in item ? String(item.name) : keyOf(item),
    });
    return this.list(subject, { base: of(this.base), theirs: of(this.now), mine }, keyOf);
  }

  /** Values that are made of parts. */
  #together<T>(record: Subject, field: string, ways: ThreeWays<T>): { readonly value: T } | null {
    const { base, theirs, mine } = ways;
    if (typeof mine === 'boolean' && field === 'byHand') return { value: (mine || theirs) as T };
    if (!Array.isArray(base) || !Array.isArray(theirs) || !Array.isArray(mine)) return null;
    if (SETS.has(field)) return { value: mergeSets({ base, theirs, mine }) as T };
    if (field !== 'sends') return null;
    return {
      value: this.list(
        () => record,
        { base, theirs, mine },
        (send: Item) => String(send.busId),
      ) as T,
    };
  }

  /** The fields of an edit that still hold; null = none. */
  fields<F extends object>(
    record: Subject,
    base: object | undefined,
    theirs: object | undefined,
    mine: F,
  ): F | null {
    const kept = Object.entries(mine).flatMap(([field, value]: [string, unknown]) => {
      const at = (side: object | undefined): unknown => (side as Item | undefined)?.[field];
      const out = this.value(record, field, { base: at(base), theirs: at(theirs), mine: value });
      if (out === value) return [[field, out]];
      // Theirs holds: nothing is to be done.
      return out === DROPPED || (same(out, at(theirs)) && !same(out, value)) ? [] : [[field, out]];
    });
    return kept.length === 0 ? null : (Object.fromEntries(kept) as F);
  }

  /** Whether a record that the edit changes is still there. */
  isThere(record: Subject, there: unknown, mine: unknown): boolean {
    if (there !== undefined) return true;
    this.decide({ record, field: 'removed', mine, theirs: 'removed' }, true);
    return false;
  }

  /** Whether a record may be taken out: nobody changed it meanwhile, or mine was chosen. */
  mayRemove(record: Subject, base: object, theirs: object): boolean {
    const field = Object.keys(theirs).find(
      (f) => !LAST_WORD.has(f) && !same((base as Item)[f], (theirs as Item)[f]),
    );
    return (
      field === undefined ||
      this.decide({ record, field, mine: 'removed', theirs: (theirs as Item)[field] }) === 'mine'
    );
  }

  /** A list that is set as a whole; what stands under one key is merged for itself. */
  list<T extends object>(
    subject: (item: T) => Subject,
    ways: ThreeWays<readonly T[]>,
    keyOf: (item: T) => string,
  ): readonly T[] {
    return mergeLists(ways, keyOf, ({ base, theirs, mine }) => {
      if (!theirs || !mine) return this.#lone(subject, { base, theirs, mine });
      return this.record(subject(theirs), base, theirs, mine);
    });
  }

  /** A record that is set as a whole: what only one side changed or left out is as that side has it. */
  record<T extends object>(record: Subject, base: T | undefined, theirs: T, mine: T): T {
    const leftOut = Object.keys(base ?? {}).map((field) => [field, undefined] as const);
    const fields = this.fields(record, base, theirs, { ...Object.fromEntries(leftOut), ...mine });
    const all = Object.entries({ ...theirs, ...fields });
    return Object.fromEntries(all.filter(([, value]) => value !== undefined)) as T;
  }

  /** A record that not all sides have. */
  #lone<T extends object>(
    subject: (item: T) => Subject,
    { base, theirs, mine }: ThreeWays<T | undefined>,
  ): T | undefined {
    const kept = mine ?? theirs;
    if (!kept || !base) return kept;
    if (same(base, kept)) return undefined;
    const choice = this.decide({
      record: subject(kept),
      field: 'removed',
      mine: mine ? 'kept' : 'removed',
      theirs: theirs ? 'kept' : 'removed',
    });
    return choice === 'mine' ? mine : theirs;
  }

  node(id: string): Subject {
    const node = this.now.nodes[id] ?? this.base.nodes[id];
    return { kind: node?.kind ?? 'track', id, name: node?.name ?? '' };
  }

  bus(id: string): Subject {
    return { kind: 'bus', id, name: (this.now.buses[id] ?? this.base.buses[id])?.name ?? '' };
  }

  /** Where a row goes among what stands there now: behind what it went behind, the end stays the end. */
  place(
    parentId: string,
    index: number,
    id: string,
  ): { readonly parentId: string; readonly index: number } | null {
    const rest = (s: SessionState): readonly string[] => (s.children[parentId] ?? []).filter((x) => x !== id);
    if (!this.now.children[parentId]) {
      this.decide(
        { record: this.node(parentId), field: 'removed', mine: 'holds a row more', theirs: 'removed' },
        true,
      );
      return null;
    }
    return { parentId, index: besideSame(rest(this.base), rest(this.now), index) };
  }
}

/** Index in a list that changed meanwhile. */
function besideSame(before: readonly string[], now: readonly string[], index: number): number {
  if (index >= before.length) return Number.MAX_SAFE_INTEGER;
  for (let i = index - 1; i >= 0; i--) {
    const at = now.indexOf(before[i] as string);
    if (at >= 0) return at + 1;
  }
  return 0;
}

const parentOf = (s: SessionState, id: string): string | undefined =>
  Object.entries(s.children).find(([, ids]) => ids.includes(id))?.[0];
const folderName = (s: SessionState, id: string | undefined): string =>
  id === undefined || id === ROOT ? '' : (s.nodes[id]?.name ?? '');

const RULES: { readonly [K in EditKind]: Rule<K> } = {
  'session.describe': (at, { kind, ...mine }) => {
    const fields = at.fields(SESSION, at.base, at.now, mine);
    return fields && { kind, ...fields };
  },
  'session.rate': (at, { kind, sampleRateHz }) =>
    at.single('sampleRateHz', sampleRateHz, (value) => ({ kind, sampleRateHz: value })),
  'track.add': (at, edit) => {
    const place = at.place(edit.parentId, edit.index, edit.track.id);
    return place && { ...edit, ...place };
  },
  'track.remove': (at, edit) => removed(at, edit),
  'track.change': (at, edit) => changedNode(at, edit),
  'track.replace': (at, { kind, id, ...mine }) => {
    if (!at.isThere(at.node(id), at.now.nodes[id], mine.receivedName)) return null;
    const fields = at.fields(at.node(id), at.base.nodes[id], at.now.nodes[id], mine);
    // Both fields or none: the name is that of the recording.
    return fields && same(fields, mine) ? { kind, id, ...mine } : null;
  },
  'folder.add': (at, edit) => {
    const place = at.place(edit.parentId, edit.index, edit.folder.id);
    return place && { ...edit, ...place };
  },
  'folder.remove': (at, edit) => {
    const inside = at.now.children[edit.id]?.length ?? 0;
    if (inside === 0) return removed(at, edit);
    at.decide({ record: at.node(edit.id), field: 'rows', mine: 'removed', theirs: inside }, true);
    return null;
  },
  'folder.change': (at, edit) => changedNode(at, edit),
  'node.place': (at, edit) => {
    const { id, parentId } = edit;
    if (!at.isThere(at.node(id), at.now.nodes[id], 'place')) return null;
    const [before, now] = [parentOf(at.base, id), parentOf(at.now, id)];
    if (before !== now && now !== parentId && before !== parentId) {
      const conflict = { mine: folderName(at.base, parentId), theirs: folderName(at.now, now) };
      if (at.decide({ record: at.node(id), field: 'place', ...conflict }) === 'theirs') return null;
    }
    // Moved within the folder it stood in, while they moved it to another: there it stays.
    if (before !== now && before === parentId) return null;
    const place = at.place(parentId, edit.index, id);
    return place && { ...edit, ...place };
  },
  'bus.add': (at, edit) => ({ ...edit, index: besideSame(at.base.busOrder, at.now.busOrder, edit.index) }),
  'bus.remove': (at, edit) => {
    const [before, now] = [at.base.buses[edit.id], at.now.buses[edit.id]];
    return now && (!before || at.mayRemove(at.bus(edit.id), before, now)) ? edit : null;
  },
  'bus.change': (at, edit) => {
    if (!at.isThere(at.bus(edit.id), at.now.buses[edit.id], Object.values(edit.fields)[0])) return null;
    const fields = at.fields(at.bus(edit.id), at.base.buses[edit.id], at.now.buses[edit.id], edit.fields);
    return fields && { ...edit, fields };
  },
  'groups.set': (at, { kind, groups }) => ({ kind, groups: at.records('group', 'groups', groups, byId) }),
  'maps.keep': (at, { kind, maps }) => ({ kind, maps: at.records('kept map', 'keptMaps', maps, byId) }),
  'markers.set': (at, { kind, markers }) => ({
    kind,
    markers: at.records('marker', 'markers', markers, byId),
  }),
  'words.set': (at, { kind, words }) => ({ kind, words: at.records('word', 'words', words, (w) => w.text) }),
  'map.replace': (at, { kind, map, facts }) => {
    const ways = {
      base: { map: at.base.map, facts: at.base.mapFacts },
      theirs: { map: at.now.map, facts: at.now.mapFacts },
      mine: { map, facts },
    };
    return at.whole(SESSION, 'map', ways, (value) => ({ kind, ...value }));
  },
  'session.cut': (at, { kind, bars }) => at.single('cutBars', bars, (value) => ({ kind, bars: value })),
  'timekeepers.choose': (at, { kind, trackIds }) =>
    at.single('timekeepers', trackIds, (value) => ({ kind, trackIds: value })),
  'style.use': (at, { kind, style }) => at.single('style', style, (value) => ({ kind, style: value })),
  'conform.set': (at, edit) => conforming(at, edit),
};

const byId = ({ id }: { readonly id: string }): string => id;

function removed(at: Rebasing, edit: EditOf<'track.remove' | 'folder.remove'>): Edit | null {
  const [before, now] = [at.base.nodes[edit.id], at.now.nodes[edit.id]];
  // Both took it out.
  return now && (!before || at.mayRemove(at.node(edit.id), before, now)) ? edit : null;
}

function changedNode<K extends 'track.change' | 'folder.change'>(at: Rebasing, edit: EditOf<K>): Edit | null {
  const { id } = edit;
  if (!at.isThere(at.node(id), at.now.nodes[id], Object.values(edit.fields)[0])) return null;
  const fields = at.fields(at.node(id), at.base.nodes[id], at.now.nodes[id], edit.fields);
  return fields && ({ ...edit, fields } as Edit);
}

function conforming(at: Rebasing, edit: EditOf<'conform.set'>): Edit | null {
  const [base, theirs, mine] = [at.base.conform, at.now.conform, edit.conform];
  const record: Subject = { kind: 'conforming', id: '', name: '' };
  if (!base || !theirs || !mine)
    return at.whole(record, 'settings', { base, theirs, mine }, (conform) => ({
      kind: 'conform.set',
      conform,
    }));
  const [before, there, here] = [partsOf(base), partsOf(theirs), partsOf(mine)];
  const treatments = at.record(record, before.treatments, there.treatments, here.treatments);
  return {
    kind: 'conform.set',
    conform: { ...at.record(record, before.rest, there.rest, here.rest), treatments },
  };
}

const partsOf = ({ treatments, ...rest }: ConformSettings) => ({ treatments, rest });

/**
 * Lays edits that were made on `base` over `now`, where others went on from `base`. What both left in contradiction is
 * told field by field, or decided by `choose`. What nobody else touched is done as it was meant.
 */
export function rebase(
  edits: readonly Edit[],
  base: SessionState,
  now: SessionState,
  choose: ((conflict: Conflict) => Choice) | null = null,
): Rebased {
  const at = new Rebasing(base, now, choose);
  const out: Edit[] = [];
  let fault: EditFault | null = null;
  for (const edit of edits) {
    const laid = (RULES[edit.kind] as Rule<EditKind>)(at, edit as EditOf<EditKind>);
    const before = applyEdit(at.base, edit);
    if (!before.ok)
      return { ok: false, conflicts: at.conflicts, fault: { code: before.code, id: before.id } };
    at.base = before.session;
    if (!laid) continue;
    const after = applyEdit(at.now, laid);
    if (after.ok) {
      at.now = after.session;
      out.push(laid);
    } else fault ??= { code: after.code, id: after.id };
  }
  return at.conflicts.length > 0 || fault
    ? { ok: false, conflicts: at.conflicts, fault }
    : { ok: true, edits: out, session: at.now };
}

/** The state before the newest of `inverses`, which are in the order of the log. Throws RangeError if one does not fit. */
export function backTo(now: SessionState, inverses: readonly (readonly Edit[])[]): SessionState {
  let state = now;
  for (const inverse of [...inverses].reverse())
    for (const edit of inverse) {
      const outcome = applyEdit(state, edit);
      if (!outcome.ok) throw new RangeError(`${edit.kind} does not go back: ${outcome.code} ${outcome.id}`);
      state = outcome.session;
    }
  return state;
}
