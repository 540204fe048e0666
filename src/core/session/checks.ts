import { songMapFromFile } from '../time';
import {
  type Field,
  KINDS,
  NOWHERE,
  RECORD_KINDS,
  type RecordKind,
  type SessionRecords,
  SONG_ID,
} from './records';
import { byTime, isWhole } from './clips';
import { type Clip, ROOT } from './state';

/** Why edits do not fit the session they meet. */
export interface EditFault {
  readonly code:
    | 'edit.unknown_id'
    | 'edit.id_taken'
    | 'edit.not_empty'
    | 'edit.in_use'
    | 'edit.into_itself'
    | 'edit.incomplete'
    | 'edit.too_many'
    | 'edit.clips_overlap'
    | 'edit.clip_too_short'
    | 'edit.mixed_lanes'
    | 'edit.cut_notes'
    | 'map.invalid';
  /** The id it failed on. */
  readonly id: string;
}

type Check = (after: SessionRecords, before: SessionRecords) => EditFault | null;

const fault = (code: EditFault['code'], id: string): EditFault => ({ code, id });
const all = (records: SessionRecords, kind: RecordKind): readonly Readonly<Record<string, unknown>>[] =>
  Object.values(records[kind]);
const firstOf = <T, R>(list: Iterable<T>, check: (item: T) => R | null): R | null => {
  for (const item of list) {
    const found = check(item);
    if (found !== null) return found;
  }
  return null;
};
/** The first of a list whose key one before it has. */
function firstDouble<T>(list: Iterable<T>, keyOf: (item: T) => string): T | null {
  const seen = new Set<string>();
  return firstOf(list, (item) => {
    const key = keyOf(item);
    if (seen.has(key)) return item;
    seen.add(key);
    return null;
  });
}

const REFERENCES = RECORD_KINDS.flatMap((kind) =>
  Object.entries<Field<unknown>>(KINDS[kind].fields).flatMap(([field, { refersTo }]) =>
    refersTo ? [{ kind, field, to: refersTo.kind, none: refersTo.none }] : [],
  ),
);

/** What is named is there: nothing goes that something else needs. */
const references: Check = (after, before) =>
  firstOf(REFERENCES, ({ kind, field, to, none }) =>
    after[kind] === before[kind] && after[to] === before[to]
      ? null
      : firstOf(all(after, kind), (record) => {
          const id = record[field] as string | null;
          if (id === null || id === none || after[to][id]) return null;
          if (!before[to][id]) return fault('edit.unknown_id', id);
          return fault(to === 'folder' ? 'edit.not_empty' : 'edit.in_use', id);
        }),
  );

/** There is one song. */
const song: Check = (after) =>
  after.song[SONG_ID] && Object.keys(after.song).length === 1 ? null : fault('edit.in_use', SONG_ID);

/** Nothing is called what stands for something else. */
const reserved: Check = (after) =>
  after.bus[NOWHERE]
    ? fault('edit.id_taken', NOWHERE)
    : after.folder[ROOT]
      ? fault('edit.id_taken', ROOT)
      : null;

const enough: Check = (after, before) =>
  firstOf(RECORD_KINDS, (kind) => {
    if (after[kind] === before[kind]) return null;
    const ids = Object.keys(after[kind]);
    return ids.length > KINDS[kind].most ? fault('edit.too_many', ids.at(-1) as string) : null;
  });

/** No folder stands in itself. */
const folders: Check = (after) =>
  firstOf(Object.values(after.folder), ({ id }) => {
    const seen = new Set<string>();
    for (let at: string | null = id; at !== null; at = after.folder[at]?.parentId ?? null) {
      if (seen.has(at)) return fault('edit.into_itself', id);
      seen.add(at);
    }
    return null;
  });

/** What a bus puts out never comes back to it. */
const buses: Check = (after) => {
  const ways = new Map(Object.values(after.bus).map((b) => [b.id, [b.outputBusId]]));
  for (const { sourceBusId, busId } of Object.values(after.send))
    if (sourceBusId !== null) ways.get(sourceBusId)?.push(busId);
  const safe = new Set<string>();
  const loops = (id: string, above: ReadonlySet<string>): boolean => {
    if (above.has(id)) return true;
    if (safe.has(id)) return false;
    const here = new Set(above).add(id);
    if ((ways.get(id) ?? []).some((to) => to !== null && loops(to, here))) return true;
    safe.add(id);
    return false;
  };
  return firstOf(ways.keys(), (id) => (loops(id, new Set()) ? fault('edit.into_itself', id) : null));
};

/** One thing sends, and to a bus once. */
const sends: Check = (after) => {
  const list = Object.values(after.send);
  const unfit = list.find((s) => (s.trackId === null) === (s.sourceBusId === null));
  if (unfit) return fault('edit.incomplete', unfit.id);
  const double = firstDouble(list, (s) => `${s.trackId ?? s.sourceBusId} ${s.busId}`);
  return double && fault('edit.id_taken', double.busId);
};

/** A track has a lane; all its lanes are sound, or all are notes. */
const lanes: Check = (after) => {
  const isNotes = new Map<string, boolean>();
  for (const { id, trackId, tiedTo } of Object.values(after.lane)) {
    const known = isNotes.get(trackId);
    if (known !== undefined && known !== (tiedTo !== null)) return fault('edit.mixed_lanes', id);
    isNotes.set(trackId, tiedTo !== null);
  }
  return firstOf(Object.keys(after.track), (id) => (isNotes.has(id) ? null : fault('edit.incomplete', id)));
};

/** Clips end after they begin, hold their fades, and of one track overlap only where both fade; notes are not cut. */
const clips: Check = (after) => {
  const tracks = new Map<string, Clip[]>();
  for (const clip of Object.values(after.clip)) {
    const unfit = unfitClip(clip);
    if (unfit) return unfit;
    const lane = after.lane[clip.laneId];
    if (lane && lane.tiedTo !== null && !isWhole(clip)) return fault('edit.cut_notes', clip.id);
    const trackId = lane?.trackId ?? '';
    const list = tracks.get(trackId);
    if (list) list.push(clip);
    else tracks.set(trackId, [clip]);
  }
  return firstOf(tracks.values(), (list) => {
    list.sort(byTime);
    return firstOf(list.slice(1).entries(), ([i, clip]) => overlapFault(list[i] as Clip, clip));
  });
};

function unfitClip({ id, fromFrames, toFrames, fadeInFrames, fadeOutFrames }: Clip): EditFault | null {
  if (fromFrames === null || toFrames === null) return null;
  return toFrames <= fromFrames || fadeInFrames + fadeOutFrames > toFrames - fromFrames
    ? fault('edit.clip_too_short', id)
    : null;
}

function overlapFault(one: Clip, next: Clip): EditFault | null {
  // Where a lane ends is not known here: nothing follows on it.
  const overlap = (one.toFrames ?? Infinity) - (next.fromFrames ?? -Infinity);
  return overlap > Math.min(one.fadeOutFrames, next.fadeInFrames) && overlap > 0
    ? fault('edit.clips_overlap', next.id)
    : null;
}

const maps: Check = (after, before) => {
  const list = Object.values(after.map);
  const broken = list.find(
    (m) => m.content !== before.map[m.id]?.content && !songMapFromFile(m.content.map).ok,
  );
  if (broken) return fault('map.invalid', broken.id);
  const unnamed = list.find((m) => !m.inForce && m.name === null);
  if (unnamed) return fault('edit.incomplete', unnamed.id);
  const [, second] = list.filter((m) => m.inForce);
  return second ? fault('edit.id_taken', second.id) : null;
};

const words: Check = (after) => {
  const double = firstDouble(Object.values(after.word), (w) => w.text);
  return double && fault('edit.id_taken', double.id);
};

/** What spans records, and the kinds that can break it. */
const CHECKS: readonly (readonly [Check, readonly RecordKind[]])[] = [
  [song, ['song']],
  [reserved, ['bus', 'folder']],
  [enough, RECORD_KINDS],
  [references, RECORD_KINDS],
  [folders, ['folder']],
  [buses, ['bus', 'send']],
  [sends, ['send']],
  [lanes, ['track', 'lane']],
  [clips, ['lane', 'clip']],
  [maps, ['map']],
  [words, ['word']],
];

/** The first rule that records break which span them; null = all hold, as they did before. */
export const faultIn = (before: SessionRecords, after: SessionRecords): EditFault | null =>
  firstOf(CHECKS, ([check, kinds]) =>
    kinds.some((k) => before[k] !== after[k]) ? check(after, before) : null,
  );
