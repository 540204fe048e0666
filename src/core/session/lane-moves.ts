import { byTime, lanesOf, wholeClip } from './clips';
import { commonName } from './pairs';
import { isTrack, type Lane, type SessionState, type Track } from './state';

/** A track that becomes a lane, and the number its take gets. */
export interface PackedLane {
  readonly trackId: string;
  readonly takeNumber: number;
}

/** Why tracks cannot become lanes of one; null = they can. Recordings go with recordings, notes stay what they are. */
export function packFault(session: SessionState, lanes: readonly PackedLane[]): string | null {
  const numbers = new Set(lanes.map((l) => l.takeNumber));
  const ids = new Set(lanes.map((l) => l.trackId));
  const unfit = lanes.find(({ trackId }) => {
    const track = session.nodes[trackId];
    return !isTrack(track) || track.tiedTo !== null;
  });
  if (unfit) return unfit.trackId;
  return lanes.length < 2 || numbers.size < lanes.length || ids.size < lanes.length
    ? (lanes[0]?.trackId ?? '')
    : null;
}

/** The track that is left where others become its lanes: what sounded of it sounds on, the others wait. */
export function packedTrack(session: SessionState, id: string, lanes: readonly PackedLane[]): Track {
  const kept = session.nodes[id] as Track;
  const first = lanes.map(({ trackId, takeNumber }): Lane => {
    const [own] = lanesOf(session.nodes[trackId] as Track) as [Lane];
    return { ...own, takeNumber };
  });
  let number = Math.max(...first.map((l) => l.takeNumber));
  const more = lanes.flatMap(({ trackId }) =>
    (session.nodes[trackId] as Track).otherLanes.map((lane): Lane => ({ ...lane, takeNumber: ++number })),
  );
  return withLanes(kept, [...first, ...more]);
}

/** A track with these lanes; which stands for it shows once its records are read. */
function withLanes(track: Track, lanes: readonly Lane[]): Track {
  const [{ id: laneId, ...own }, ...otherLanes] = [...lanes].sort((a, b) => a.takeNumber - b.takeNumber) as [
    Lane,
    ...Lane[],
  ];
  return { ...track, ...own, laneId, otherLanes };
}

/** A track for each lane of a track: the one that sounds most stays, the others sound as they were recorded. */
export function unpackedTracks(
  session: SessionState,
  id: string,
): { readonly stays: Track; readonly others: readonly Track[] } {
  const track = session.nodes[id] as Track;
  const lanes = lanesOf(track);
  const sounding = track.clips.filter((c) => !c.off);
  const times = (lane: Lane): number => sounding.filter((c) => c.laneId === lane.id).length;
  const main = [...lanes].sort((a, b) => times(b) - times(a))[0] as Lane;
  const taken = new Set(Object.keys(session.nodes));
  const single = (lane: Lane): Track => {
    const own = track.clips.filter((c) => c.laneId === lane.id);
    const isAlone = own.length === track.clips.length;
    return {
      ...withLanes(track, [lane]),
      comps: [],
      compId: null,
      name: `${track.name} ${lane.takeNumber}`,
      clips: isAlone ? [...own].sort(byTime) : wholeClip(lane.id),
    };
  };
  return {
    stays: single(main),
    others: lanes
      .filter((lane) => lane !== main)
      .map((lane) => {
        const free = freeId(lane.recordingId, taken);
        taken.add(free);
        return { ...single(lane), id: free };
      }),
  };
}

function freeId(wanted: string, taken: ReadonlySet<string>): string {
  let id = wanted;
  for (let n = 2; taken.has(id); n++) id = `${wanted}-${n}`;
  return id;
}

/** What names of takes have in common: `Lead Vocal 1`, `Lead Vocal 2` → `Lead Vocal`. */
export function packedName(names: readonly string[]): string {
  const [first = ''] = names;
  const common = names.reduce((a, b) => (a === b ? a : commonName(a, b)), first);
  const bare = common.replace(/[\s_.·-]+(take|tk|t)?[\s_.·-]*\d*$/i, '').replace(/\d+$/, '');
  return bare.trim() === '' ? first : bare;
}
