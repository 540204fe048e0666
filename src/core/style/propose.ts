import {
  type Evidence,
  type Family,
  type NameReading,
  type OwnWord,
  type ReadNames,
  stripExtension,
  toSafeText,
} from '../naming';
import type { SoundLikeness } from '../analysis';
import { ROOT, tracksInOrder, type SessionState, type Track, type TrackFields } from '../session';
import { shadeOf } from './colors';
import { meets, type RowKind, type Subject } from './conditions';
import { busId, folderColor, folderId, type FolderTree, treeOf } from './folders';
import { changedSums, groupId, isStyleGroup, isStyleReturn, sendsFor } from './routing';
import { CLICK, type LikenessReading, MIX, withLikeness } from './sound-reading';
import type { FolderRule, HouseStyle } from './house-style';
import { kindName, numberEqual, numberText, sessionName, tidyName } from './names';
import { type Ruled, runRules } from './rules';

/** What the house style would make of one track. */
export interface SortRow {
  readonly trackId: string;
  /** `certain` from 0.7 on, `doubtful` below, `unmatched` when nothing spoke. */
  readonly group: 'certain' | 'doubtful' | 'unmatched';
  readonly confidence: number;
  readonly evidence: readonly Evidence[];
  /** Only what would change. */
  readonly fields: Partial<TrackFields>;
  /** Family it would have, changed or not. */
  readonly family: Family;
  /** What makes the sound, changed or not. */
  readonly part: string | null;
  /** Name it would have, changed or not. */
  readonly name: string;
  /** What it is was heard: its name does not say. */
  readonly isByEar: boolean;
  /** Key of the folder it belongs to; null = top level. */
  readonly folderKey: string | null;
  /** True when its folder or order would change. */
  readonly moves: boolean;
  /** A person put it where it is: it stays there. */
  readonly stays: boolean;
  /** Ids of the groups of the style it would be in. */
  readonly groups: readonly string[];
  /** True when it would come into a group of the style, or go out of one. */
  readonly regroups: boolean;
  /** Fields set by hand that would be overwritten. */
  readonly overwrites: readonly string[];
}

/** Whether a proposal would change anything a person sees (its reasons alone do not count). */
export const changesSomething = (row: SortRow): boolean =>
  row.moves || row.regroups || Object.keys(row.fields).some((k) => !['evidence', 'confidence'].includes(k));

/** A proposal for a whole session. */
export interface SortProposal {
  /** In the order the style would put the tracks. */
  readonly rows: readonly SortRow[];
  /** Ids of sums of the session that the style wants to go or to send elsewhere. */
  readonly sums: readonly string[];
  /** Rule → tracks it met. */
  readonly hits: ReadonlyMap<string, readonly string[]>;
  /** Made also over what was set by hand. */
  readonly overHand: boolean;
}

/** What is known of a track besides its name. */
export interface TrackFacts {
  readonly channels: number | null;
  /** Codes of its open findings. */
  readonly findings: readonly string[];
  /** What it sounds like; null = not heard, or nothing clear. */
  readonly heard: SoundLikeness | null;
}

/** How a proposal is made. */
export interface ProposeOptions {
  /** Default: nothing is known. */
  readonly factsOf?: (track: Track) => TrackFacts;
  /** Also over what was set by hand; default false. */
  readonly overHand?: boolean;
}

/** 2 before 10. */
const collator = new Intl.Collator('en', { numeric: true });
const DOUBTFUL_BELOW = 0.7;
/** A rule of the house leaves no doubt. */
const RULED = 0.95;
/** What the style decides, unless a person has; `place` stands for folder and order. */
const DECIDED: readonly string[] = [
  'name',
  'family',
  'part',
  'role',
  'position',
  'side',
  'number',
  'color',
  'busId',
  'sends',
  'pan',
  'muted',
  'place',
];
/** Nothing but the name is known. */
export const NO_FACTS: TrackFacts = { channels: null, findings: [], heard: null };

/** Own words in force: the house's, then the delivery's. */
export const wordsFor = (session: SessionState, style: HouseStyle): readonly OwnWord[] =>
  session.words.length === 0 ? style.words : [...style.words, ...session.words];

/** What is read for a proposal: the names in the session's order, with the words in force. */
export const namesFor = (session: SessionState, style: HouseStyle): Parameters<ReadNames> => [
  tracksInOrder(session).map((t) => t.receivedName),
  wordsFor(session, style),
  style.junk,
];

/** What a track is after names and rules, before its name, colour and place. */
type Said = Pick<TrackFields, 'family' | 'part' | 'role' | 'position' | 'side' | 'number'>;

interface Draft {
  readonly track: Track;
  readonly said: Said;
  /** What its name is made of: the reading, but for a part by hand. */
  readonly named: Said;
  readonly ruled: Ruled;
  readonly confidence: number;
  readonly evidence: readonly Evidence[];
  readonly kept: (field: string) => boolean;
  /** Nothing in its name is a word: what it is called may go. */
  readonly isOpaque: boolean;
  readonly isByEar: boolean;
}

/** Proposes name, family, colour, bus, folder and place by the names, read together in the session's order; what a person set is kept. */
export function proposeBy(
  readings: readonly NameReading[],
  session: SessionState,
  style: HouseStyle,
  options: ProposeOptions = {},
): SortProposal {
  const tree = treeOf(style);
  const tracks = tracksInOrder(session);
  const parents = new Map(
    Object.entries(session.children).flatMap(([parent, ids]) => ids.map((id) => [id, parent] as const)),
  );
  const drafts = tracks.map((track, i) =>
    draftOf(track, ofWholeTrack(track, readings[i] as NameReading), {
      style,
      tree,
      options,
      isChild: parents.get(track.id) !== ROOT,
      isOpaque: (readings[i] as NameReading).isSilent,
    }),
  );
  const names = namesOf(style, drafts);
  const folders = tree.settle(drafts.map((d) => d.ruled.subject.folder));
  const sorted = drafts
    .map((d, i) => ({
      ...d,
      name: d.kept('name') ? d.track.name : (names[i] as string),
      rule: folders[i] ?? null,
    }))
    .sort((a, b) => compare(style, tree, a, b));
  const colors = colorsOf(style, tree, sorted);
  const wanted = sorted.map((d, i) => ({
    ...d,
    wanted: wantedTrack(d, colors[i] as string, { tree, style, overHand: options.overHand ?? false }),
  }));
  // What a person has put somewhere neither moves nor counts for the order of the rest.
  const placed = (t: Track): boolean => !t.byHand.includes('place') || options.overHand === true;
  const before = new Map(tracks.filter(placed).map((t, i) => [t.id, i]));
  const after = new Map(wanted.filter((d) => placed(d.track)).map((d, i) => [d.track.id, i]));
  const grouped = groupsFor(session, style, wanted, options.overHand === true);
  const hits = new Map<string, string[]>();
  for (const d of wanted)
    for (const name of d.ruled.hits) hits.set(name, [...(hits.get(name) ?? []), d.track.id]);
  return {
    rows: wanted.map((d): SortRow => {
      const stays = !placed(d.track);
      const isSure = d.kept('family');
      return {
        trackId: d.track.id,
        group: isSure
          ? 'certain'
          : d.wanted.family === 'unknown'
            ? 'unmatched'
            : d.confidence < DOUBTFUL_BELOW
              ? 'doubtful'
              : 'certain',
        confidence: d.wanted.confidence,
        evidence: d.evidence,
        fields: changed(d.track, d.wanted),
        family: d.wanted.family,
        part: d.wanted.part,
        name: d.wanted.name,
        isByEar: d.isByEar,
        folderKey: d.rule?.key ?? null,
        stays,
        groups: grouped.wantedBy(d.track.id),
        regroups: grouped.isChanged(d.track.id),
        moves:
          !stays &&
          (before.get(d.track.id) !== after.get(d.track.id) ||
            parents.get(d.track.id) !== (d.rule ? folderId(d.rule.key) : ROOT)),
        overwrites: options.overHand ? d.track.byHand.filter((f) => DECIDED.includes(f)) : [],
      };
    }),
    sums: changedSums(session, style, options.overHand === true),
    hits,
    overHand: options.overHand === true,
  };
}

/** The number in the name of one take is not that of its track. */
const ofWholeTrack = (track: Track, reading: NameReading): NameReading =>
  track.otherLanes.length === 0 ? reading : { ...reading, number: null, take: null };

/** Findings about a whole recording that say what it is by its sound. */
const SOUNDS_WHOLE = [
  { code: 'heard-mix', is: MIX, means: 'sounds like a mix of the others' },
  { code: 'heard-click', is: CLICK, means: 'pulses like a click' },
] as const;

/** What the ear says of a reading. What sounds like the mix of the others, or like a click, is proposed as that where its name is silent or doubtful (a song's title); a clear name on it is to be checked. */
function earOf({ family, confidence }: NameReading, { findings, heard }: TrackFacts): LikenessReading | null {
  const whole = SOUNDS_WHOLE.find((w) => findings.includes(w.code));
  if (!whole) return withLikeness(family, confidence, heard);
  const isNamed = family !== 'unknown' && confidence >= CLEAR;
  const named = isNamed ? `named ${family.replaceAll('-', ' ')}, ` : '';
  return {
    family: isNamed ? family : whole.is.family,
    by: isNamed ? null : whole.is,
    confidence: Math.min(confidence, WHOLE_NOT_NAMED),
    evidence: { kind: 'sound', text: 'heard', means: `${named}${whole.means}: check` },
  };
}

/** How sure a name can be of what sounds like something else as a whole. */
const WHOLE_NOT_NAMED = 0.5;
/** From here on a name is believed. */
const CLEAR = 0.7;

/** What a name says, or the ear in its place: but for its side nothing of what the name says holds then. */
const withEar = (reading: NameReading, ear: LikenessReading | null): Said =>
  ear?.by ? { ...ear.by, position: null, side: reading.side, number: null } : pick(reading);

/** What a name says, with what the ear, a person and the rules say in its place. */
function draftOf(
  track: Track,
  reading: NameReading,
  {
    style,
    tree,
    options,
    isChild,
    isOpaque,
  }: {
    readonly style: HouseStyle;
    readonly tree: FolderTree;
    readonly options: ProposeOptions;
    readonly isChild: boolean;
    readonly isOpaque: boolean;
  },
): Draft {
  const kept = (field: string): boolean => options.overHand !== true && track.byHand.includes(field);
  const handFamily = kept('family');
  const facts = options.factsOf?.(track) ?? NO_FACTS;
  const own: Said = {
    family: track.family,
    part: track.part,
    role: track.role,
    position: track.position,
    side: track.side,
    number: track.number,
  };
  const ear = handFamily || track.tiedTo !== null ? null : earOf(reading, facts);
  const heard = withEar(reading, ear);
  const read: Said = handFamily ? own : { ...heard, part: kept('part') ? track.part : heard.part };
  const start: Omit<Subject, 'folder'> = {
    name: stripExtension(track.receivedName),
    rows: rowsOf(track, isChild, reading.family === 'unknown'),
    family: read.family,
    part: read.part,
    role: read.role,
    position: read.position,
    channels: facts.channels,
    color: track.color?.toLowerCase() ?? null,
    findings: facts.findings,
    heard: facts.heard,
  };
  const ruled = runRules(style.rules, start, (s) =>
    tree.folderOf(handFamily ? { ...s, family: track.family } : s),
  );
  const { result, subject } = ruled;
  const said: Said = handFamily
    ? read
    : {
        family: subject.family ?? 'unknown',
        part: kept('part') ? track.part : subject.part,
        role: subject.role,
        position: subject.position,
        side: result.side !== undefined ? result.side : read.side,
        number: read.number,
      };
  const named = namedBy(track, { reading, said, handFamily, handPart: kept('part') });
  const isRuled = result.family !== undefined || (result.part !== undefined && reading.family !== 'unknown');
  return {
    track,
    said,
    named,
    ruled,
    kept,
    confidence: handFamily ? 1 : isRuled ? RULED : (ear?.confidence ?? reading.confidence),
    evidence: [...reading.evidence, ...(ear ? [ear.evidence] : []), ...ruled.evidence],
    isOpaque,
    isByEar: ear !== null && ear.by !== null && result.family === undefined,
  };
}

/** What a name is made of: where the family is set by hand still what the name says, if it says anything; with the part by hand. */
function namedBy(
  track: Track,
  {
    reading,
    said,
    handFamily,
    handPart,
  }: {
    readonly reading: NameReading;
    readonly said: Said;
    readonly handFamily: boolean;
    readonly handPart: boolean;
  },
): Said {
  const unsaid = handFamily && reading.family !== 'unknown' ? pick(reading) : said;
  return handPart && track.part !== null ? { ...unsaid, family: track.family, part: track.part } : unsaid;
}

/** What a track is as a row. */
export const rowsOf = (track: Track, isChild: boolean, isUnnamed: boolean): RowKind[] => [
  track.tiedTo === null ? 'track' : 'notes',
  ...(isChild ? (['child'] as const) : []),
  ...(isUnnamed ? (['unnamed'] as const) : []),
];

const pick = ({ family, part, role, position, side, number }: Said): Said => ({
  family,
  part,
  role,
  position,
  side,
  number,
});

/** Names by template or rule; of equal ones the first by received name is 1, so that the order of arrival does not count. */
function namesOf(style: HouseStyle, drafts: readonly Draft[]): string[] {
  const order = drafts
    .map((_, i) => i)
    .sort(
      (a, b) =>
        collator.compare(
          stripExtension((drafts[a] as Draft).track.receivedName),
          stripExtension((drafts[b] as Draft).track.receivedName),
        ) || a - b,
    );
  const named = (d: Draft, number: number | null): string => {
    const { result } = d.ruled;
    const said = number === null || d.named.number !== null ? d.named : { ...d.named, number };
    const name =
      result.name === undefined
        ? ((d.isOpaque ? kindName(style, said) : sessionName(style.names, style.fileWords, said)) ??
          tidyName(style.names, fallbackName(d.track.receivedName)))
        : tidyName(style.names, result.name);
    return `${name}${d.track.tiedTo ? ' Notes' : ''}`;
  };
  const made = numberEqual(
    order.length,
    (i, n) => named(drafts[order[i] as number] as Draft, n),
    (name, n) => `${name} ${numberText(style.names, n)}`,
  );
  const names = new Array<string>(drafts.length);
  order.forEach((at, i) => {
    names[at] = made[i] as string;
  });
  return names;
}

const fallbackName = (input: string): string =>
  toSafeText(stripExtension(input.split(/[\\/]/).at(-1) ?? ''), 60) || 'Unnamed';

type PlacedDraft = Draft & { readonly name: string; readonly rule: FolderRule | null };

function wantedTrack(
  d: PlacedDraft,
  color: string,
  {
    tree,
    style,
    overHand,
  }: { readonly tree: FolderTree; readonly style: HouseStyle; readonly overHand: boolean },
): Track {
  const { track, said, kept } = d;
  const { result } = d.ruled;
  const sum = tree.busOf(d.rule);
  return {
    ...track,
    name: d.name,
    family: said.family,
    ...(kept('family')
      ? {}
      : { part: said.part, role: said.role, position: said.position, side: said.side, number: said.number }),
    color: kept('color') ? track.color : color,
    busId: kept('busId') ? track.busId : sum === null ? null : busId(sum),
    sends:
      kept('sends') || style.sends.length + track.sends.length === 0
        ? track.sends
        : [
            ...track.sends.filter((x) => !isStyleReturn(x.busId)),
            ...sendsFor(style, 'tracks', wantedSubject(d, color)),
          ],
    pan: kept('pan')
      ? track.pan
      : (result.pan ?? (said.side === 'left' ? -1 : said.side === 'right' ? 1 : 0)),
    muted: kept('muted') ? track.muted : (result.muted ?? style.muted.includes(said.family)),
    confidence: d.confidence,
    evidence: d.evidence,
    byHand: overHand ? track.byHand.filter((f) => !DECIDED.includes(f)) : track.byHand,
  };
}

/** A track as conditions see it once it is named and placed. */
const wantedSubject = (d: PlacedDraft, color: string | null): Subject => ({
  ...d.ruled.subject,
  name: d.name,
  family: d.said.family,
  part: d.said.part,
  role: d.said.role,
  position: d.said.position,
  color: color?.toLowerCase() ?? null,
  folder: d.rule?.key ?? null,
  rows: rowsOf(d.track, d.rule !== null, d.said.family === 'unknown'),
});

/** Which tracks the groups of the style take, and which of them that changes; groups a person has changed are left alone. */
function groupsFor(
  session: SessionState,
  style: HouseStyle,
  sorted: readonly (PlacedDraft & { readonly wanted: Track })[],
  overHand: boolean,
): { readonly wantedBy: (id: string) => string[]; readonly isChanged: (id: string) => boolean } {
  const wanted = new Map<string, ReadonlySet<string>>();
  for (const { key, when } of style.groups) {
    const there = session.groups.find((g) => g.id === groupId(key));
    if (there?.byHand && !overHand) continue;
    const ids = sorted.filter((d) => meets(when, wantedSubject(d, d.wanted.color))).map((d) => d.track.id);
    wanted.set(groupId(key), new Set(ids.length < 2 ? [] : ids));
  }
  for (const g of session.groups)
    if (isStyleGroup(g.id) && (!g.byHand || overHand) && !wanted.has(g.id)) wanted.set(g.id, new Set());
  return {
    wantedBy: (id) => [...wanted].flatMap(([group, ids]) => (ids.has(id) ? [group] : [])),
    isChanged: (id) =>
      [...wanted].some(
        ([group, ids]) =>
          ids.has(id) !== (session.groups.find((g) => g.id === group)?.trackIds.includes(id) ?? false),
      ),
  };
}

function colorsOf(style: HouseStyle, tree: FolderTree, sorted: readonly PlacedDraft[]): string[] {
  const members = new Map<FolderRule, number>();
  for (const { rule } of sorted) if (rule) members.set(rule, (members.get(rule) ?? 0) + 1);
  const seen = new Map<FolderRule, number>();
  return sorted.map(({ rule, said, ruled }) => {
    const own = (said.part === null ? undefined : style.partColors[said.part]) ?? style.colors[said.family];
    const index = rule ? (seen.get(rule) ?? 0) : 0;
    if (rule) seen.set(rule, index + 1);
    // A folder's shade holds for what is in it, however deep, until a folder says otherwise.
    const shaded = rule ? tree.pathOf(rule).findLast((f) => f.shades !== 'own') : undefined;
    return (
      ruled.result.color ??
      (rule && shaded && shaded.shades !== 'own'
        ? shadeOf(folderColor(style, shaded, 'folder'), shaded.shades, index, members.get(rule) ?? 1)
        : own)
    );
  });
}

function changed(track: Track, wanted: Track): Partial<TrackFields> {
  const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
  return Object.fromEntries(
    Object.entries(wanted).filter(([k, v]) => !same(v, track[k as keyof Track])),
  ) as Partial<TrackFields>;
}

/** Numbered toms stand with the rack, before the floor tom. */
const placeOf = (t: Said): string | null => (t.part === 'tom' && t.position === null ? 'rack' : t.position);

function compare(style: HouseStyle, tree: FolderTree, a: PlacedDraft, b: PlacedDraft): number {
  const rank = (list: readonly string[], value: string | null): number => {
    const i = value === null ? -1 : list.indexOf(value);
    return i < 0 ? list.length : i;
  };
  const family = (d: PlacedDraft): number => (d.rule ? rank(d.rule.families, d.said.family) : 0);
  return (
    tree.rankOf(a.rule) - tree.rankOf(b.rule) ||
    family(a) - family(b) ||
    rank(style.partOrder, a.said.part) - rank(style.partOrder, b.said.part) ||
    collator.compare(a.said.part ?? '', b.said.part ?? '') ||
    rank(style.positionOrder, placeOf(a.said)) - rank(style.positionOrder, placeOf(b.said)) ||
    (a.said.number ?? 0) - (b.said.number ?? 0) ||
    rank(['left', 'right'], a.said.side) - rank(['left', 'right'], b.said.side) ||
    collator.compare(a.name, b.name) ||
    collator.compare(a.track.receivedName, b.track.receivedName)
  );
}
