import { displayName, type Evidence, type Family, type NameReading, numberDoubles, type OwnWord, readNames, stripExtension, toSafeText } from '../naming';
import { isFolder, isTrack, ROOT, tracksInOrder, type Edit, type SessionState, type Track, type TrackFields } from '../session';
import type { FolderRule, HouseStyle } from './house-style';

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
  /** Name it would have, changed or not. */
  readonly name: string;
  /** Key of the folder it belongs to; null = top level. */
  readonly folderKey: string | null;
  /** True when its folder or order would change. */
  readonly moves: boolean;
}

/** A proposal for a whole session. */
export interface SortProposal {
  /** In the order the style would put the tracks. */
  readonly rows: readonly SortRow[];
}

const DOUBTFUL_BELOW = 0.7;
const POSITION_ORDER = ['in', 'out', 'sub', 'trigger', 'top', 'bottom', 'side', 'rack', 'high', 'mid', 'low', 'floor', 'close', 'near', 'far', 'di', 'amp', 'mic'];

/** Own words in force: the house's, then the delivery's. */
export const wordsFor = (session: SessionState, style: HouseStyle): readonly OwnWord[] => (session.words.length === 0 ? style.words : [...style.words, ...session.words]);

/** Reads all names together and proposes name, family, colour, bus, folder and place; what a person set is kept. */
export function proposeSort(session: SessionState, style: HouseStyle): SortProposal {
  const tracks = tracksInOrder(session);
  const readings = readNames(tracks.map((t) => t.receivedName), wordsFor(session, style));
  const doubles = numberDoubles(readings.map((r, i) => `${displayName(asSaid(r, tracks[i])) ?? fallbackName(r.input)}${tracks[i]?.tiedTo ? ' Notes' : ''}`));
  const drafts = tracks.map((track, i) => {
    const reading = readings[i] as (typeof readings)[number];
    const kept = (field: keyof TrackFields): boolean => track.byHand.includes(field);
    const family: Family = kept('family') ? track.family : reading.family;
    const name = kept('name') ? track.name : (doubles[i] as string);
    const confidence = kept('family') ? 1 : reading.confidence;
    const rule = style.folders.find((f) => f.families.includes(family)) ?? null;
    const wanted: Partial<TrackFields> = {
      name,
      family,
      ...(kept('family') ? {} : { part: reading.part, role: reading.role, position: reading.position, side: reading.side, number: reading.number }),
      color: kept('color') ? track.color : style.colors[family],
      busId: kept('busId') ? track.busId : rule?.bus ? busId(rule) : null,
      pan: kept('pan') ? track.pan : reading.side === 'left' ? -1 : reading.side === 'right' ? 1 : 0,
      muted: kept('muted') ? track.muted : style.muted.includes(family),
      confidence,
      evidence: reading.evidence,
    };
    const group = kept('family') ? 'certain' : family === 'unknown' ? 'unmatched' : confidence < DOUBTFUL_BELOW ? 'doubtful' : 'certain';
    return { track, wanted: { ...track, ...wanted } as Track, rule, group, confidence, evidence: reading.evidence } as const;
  });
  const counts = new Map<FolderRule | null, number>();
  drafts.forEach((d) => counts.set(d.rule, (counts.get(d.rule) ?? 0) + 1));
  const sorted = drafts.map((d) => ({ ...d, rule: d.rule && (counts.get(d.rule) ?? 0) >= d.rule.atLeast ? d.rule : null })).sort((a, b) => compare(style, a, b));
  const before = new Map(tracks.map((t, i) => [t.id, i]));
  const parents = new Map(Object.entries(session.children).flatMap(([parent, ids]) => ids.map((id) => [id, parent] as const)));
  return {
    rows: sorted.map((d, i) => ({
      trackId: d.track.id,
      group: d.group,
      confidence: d.confidence,
      evidence: d.evidence,
      fields: changed(d.track, d.wanted),
      family: d.wanted.family,
      name: d.wanted.name,
      folderKey: d.rule?.key ?? null,
      moves: before.get(d.track.id) !== i || parents.get(d.track.id) !== (d.rule ? folderId(d.rule) : ROOT),
    })),
  };
}

/** A reading with what a person said of family and part in its place. */
const asSaid = (reading: NameReading, track: Track | undefined): NameReading => (track?.byHand.includes('part') && track.part !== null ? { ...reading, family: track.family, part: track.part } : reading);

const fallbackName = (input: string): string => toSafeText(stripExtension(input.split(/[\\/]/).at(-1) ?? ''), 60) || 'Unnamed';
const folderId = (rule: FolderRule): string => `folder-${rule.key}`;
const busId = (rule: FolderRule): string => `bus-${rule.key}`;

function changed(track: Track, wanted: Track): Partial<TrackFields> {
  const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
  return Object.fromEntries(Object.entries(wanted).filter(([k, v]) => !same(v, track[k as keyof Track]))) as Partial<TrackFields>;
}

/** Numbered toms stand with the rack, before the floor tom. */
const placeOf = (t: Track): string | null => (t.part === 'tom' && t.position === null ? 'rack' : t.position);

interface Sortable {
  readonly wanted: Track;
  readonly rule: FolderRule | null;
}

/** Families without a folder stand before the reference folder, which is last. */
function compare(style: HouseStyle, a: Sortable, b: Sortable): number {
  const rank = (list: readonly string[], value: string | null): number => {
    const i = value === null ? -1 : list.indexOf(value);
    return i < 0 ? list.length : i;
  };
  const folder = (d: Sortable): number => (d.rule ? style.folders.indexOf(d.rule) : style.folders.length - 1.5);
  const family = (d: Sortable): number => d.rule?.families.indexOf(d.wanted.family) ?? 0;
  return (
    folder(a) - folder(b) ||
    family(a) - family(b) ||
    rank(style.partOrder, a.wanted.part) - rank(style.partOrder, b.wanted.part) ||
    (a.wanted.part ?? '').localeCompare(b.wanted.part ?? '', 'en') ||
    rank(POSITION_ORDER, placeOf(a.wanted)) - rank(POSITION_ORDER, placeOf(b.wanted)) ||
    (a.wanted.number ?? 0) - (b.wanted.number ?? 0) ||
    rank(['left', 'right'], a.wanted.side) - rank(['left', 'right'], b.wanted.side) ||
    a.wanted.name.localeCompare(b.wanted.name, 'en', { numeric: true })
  );
}

/**
 * The edits that carry out the ticked rows: buses and folders where missing, fields, then places; emptied folders go.
 * Rows not ticked keep their fields and stay where they are, after the sorted ones.
 */
export function proposalEdits(session: SessionState, style: HouseStyle, proposal: SortProposal, tickedTrackIds: ReadonlySet<string>): Edit[] {
  const edits: Edit[] = [];
  const ticked = proposal.rows.filter((r) => tickedTrackIds.has(r.trackId) && isTrack(session.nodes[r.trackId]));
  const rules = style.folders.filter((f) => ticked.some((r) => r.folderKey === f.key));
  let busCount = session.busOrder.length;
  for (const rule of rules) {
    const color = style.colors[rule.families[0] as Family];
    if (rule.bus && !session.buses[busId(rule)]) edits.push({ kind: 'bus.add', bus: { id: busId(rule), name: rule.bus, color, outputBusId: null }, index: busCount++ });
    if (!isFolder(session.nodes[folderId(rule)])) edits.push({ kind: 'folder.add', folder: { kind: 'folder', id: folderId(rule), name: rule.name, color, busId: rule.bus ? busId(rule) : null }, parentId: ROOT, index: Number.MAX_SAFE_INTEGER });
  }
  for (const row of ticked) if (Object.keys(row.fields).length > 0) edits.push({ kind: 'track.change', id: row.trackId, fields: row.fields });
  edits.push(...placements(session, style, proposal, ticked, rules));
  return edits;
}

function placements(session: SessionState, style: HouseStyle, proposal: SortProposal, ticked: readonly SortRow[], rules: readonly FolderRule[]): Edit[] {
  const edits: Edit[] = [];
  // Folders in the style's order first, then loose rows as they were, the reference folder last.
  const own = new Set(style.folders.map(folderId));
  const present = style.folders.filter((f) => rules.includes(f) || isFolder(session.nodes[folderId(f)]));
  present.filter((f) => f.bus !== null).forEach((f, i) => edits.push({ kind: 'node.place', id: folderId(f), parentId: ROOT, index: i }));
  for (const f of present.filter((f) => f.bus === null)) edits.push({ kind: 'node.place', id: folderId(f), parentId: ROOT, index: Number.MAX_SAFE_INTEGER });
  const order = new Map(proposal.rows.map((r, i) => [r.trackId, i]));
  const lists = new Map<string, string[]>();
  const waiting = new Set(ticked.map((r) => r.trackId));
  for (const row of ticked) {
    waiting.delete(row.trackId);
    if (row.folderKey === null) continue;
    const parentId = `folder-${row.folderKey}`;
    // Behind the last that the style puts before it; those still to be placed do not count.
    const list = (lists.get(parentId) ?? [...(session.children[parentId] ?? [])]).filter((id) => id !== row.trackId);
    const own = order.get(row.trackId) as number;
    const index = list.findLastIndex((id) => !waiting.has(id) && (order.get(id) ?? Infinity) < own) + 1;
    list.splice(index, 0, row.trackId);
    lists.set(parentId, list);
    edits.push({ kind: 'node.place', id: row.trackId, parentId, index });
  }
  const leaving = new Set(ticked.filter((r) => r.folderKey !== null).map((r) => r.trackId));
  for (const [parent, ids] of Object.entries(session.children))
    if (parent !== ROOT && own.has(parent) && ids.length > 0 && ids.every((id) => leaving.has(id)) && !lists.has(parent)) edits.push({ kind: 'folder.remove', id: parent });
  return edits;
}
