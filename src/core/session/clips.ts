import { hashText } from '../units';
import { WHOLE_CLIP } from './records';
import type { Clip, Lane, NewTrack, Track } from './state';

/** Ids of our own hold 64 characters. */
const LONGEST_ID = 64;
const derivedId = (prefix: string, from: string): string =>
  prefix.length + from.length <= LONGEST_ID ? `${prefix}${from}` : `${prefix}${hashText(from)}`;

/** Id of the lane a track comes with. */
export const firstLaneId = (trackId: string): string => derivedId('lane-', trackId);

const WHOLE_CLIPS = new Map<string, readonly [Clip]>();

/** The one clip of a lane that sounds from end to end. */
export function wholeClip(laneId: string): readonly [Clip] {
  const known = WHOLE_CLIPS.get(laneId);
  if (known) return known;
  const made = [{ id: derivedId('clip-', laneId), laneId, ...WHOLE_CLIP }] as const;
  WHOLE_CLIPS.set(laneId, made);
  return made;
}

/** Whether a clip is all of its lane, as it is. */
export const isWhole = (clip: Clip): boolean =>
  Object.entries(WHOLE_CLIP).every(
    ([field, value]) => clip[field as keyof Clip] === value || field.endsWith('Shape'),
  );

/** Whether one lane of a track sounds from end to end, as it is, and nothing else does. */
export function isUncut({ laneId, clips }: Pick<Track, 'laneId' | 'clips'>): boolean {
  const [clip, second] = clips;
  return clip !== undefined && second === undefined && clip.laneId === laneId && isWhole(clip);
}

/** Whether one lane of a track sounds from end to end in its place, at whatever level, and nothing else does. */
export function isEntire({ laneId, clips }: Pick<Track, 'laneId' | 'clips'>): boolean {
  const [clip, second] = clips;
  return clip !== undefined && isUncut({ laneId, clips: second ? clips : [{ ...clip, gainDb: 0 }] });
}

/** All lanes of a track, the one that stands for it first: most pieces are of it. */
export function lanesOf(track: Track): readonly Lane[] {
  const { laneId, recordingId, receivedName, startFrames, inverted, monoFrom, keepsSamples, tiedTo } = track;
  const { takeNumber, takeName, takeRating, takeNote, takeAside } = track;
  const own = {
    recordingId,
    receivedName,
    startFrames,
    inverted,
    monoFrom,
    keepsSamples,
    tiedTo,
    takeNumber,
    takeName,
    takeRating,
    takeNote,
    takeAside,
  };
  return [{ id: laneId, ...own }, ...track.otherLanes];
}

/** In order of time; a lane's own beginning comes first. */
export const byTime = (a: Clip, b: Clip): number =>
  (a.fromFrames ?? -Infinity) - (b.fromFrames ?? -Infinity) || (a.id < b.id ? -1 : 1);

/** Clips with their edges put elsewhere. */
export const withEdges = (clips: readonly Clip[], move: (frames: number) => number): readonly Clip[] =>
  clips.map((c) => ({
    ...c,
    fromFrames: c.fromFrames === null ? null : move(c.fromFrames),
    toFrames: c.toFrames === null ? null : move(c.toFrames),
  }));

/** What is said of all takes of a track at once: polarity turns over in each, the side that stands for both is one. */
export const alsoInOthers = (
  track: Track,
  { inverted, monoFrom }: Partial<Pick<Track, 'inverted' | 'monoFrom'>>,
): Pick<Track, 'otherLanes'> => ({
  otherLanes:
    track.otherLanes.length === 0 || (inverted === undefined && monoFrom === undefined)
      ? track.otherLanes
      : track.otherLanes.map((lane) => ({
          ...lane,
          inverted: (inverted ?? track.inverted) === track.inverted ? lane.inverted : !lane.inverted,
          monoFrom: monoFrom === undefined ? lane.monoFrom : monoFrom,
        })),
});

/** A track that begins elsewhere: all its lanes and clips go with it. */
export function movedTo(track: Track, startFrames: number): Track {
  const by = startFrames - track.startFrames;
  if (by === 0) return track;
  const isBare =
    track.otherLanes.length === 0 &&
    track.comps.length === 0 &&
    track.clips.every((c) => (c.fromFrames ?? c.toFrames) === null);
  if (isBare) return { ...track, startFrames };
  return {
    ...track,
    startFrames,
    otherLanes: track.otherLanes.map((l) => ({ ...l, startFrames: l.startFrames + by })),
    clips: withEdges(track.clips, (frames) => frames + by),
    comps: track.comps.map((c) => ({ ...c, clips: withEdges(c.clips, (frames) => frames + by) })),
  };
}

/** The lanes and clips of a track under ids of its own, made of its id: those it was copied from keep theirs. */
export function ownParts(
  track: NewTrack,
): Pick<Track, 'laneId' | 'otherLanes' | 'clips' | 'comps' | 'compId' | 'takeNumber'> {
  const laneId = firstLaneId(track.id);
  const { takeNumber = 1, otherLanes: others = [], laneId: was } = track;
  if (was === undefined || !track.clips)
    return { laneId, takeNumber, otherLanes: [], clips: wholeClip(laneId), comps: [], compId: null };
  const ids = new Map([[was, laneId]]);
  const otherLanes = others.map((lane, i) => {
    const id = derivedId('lane-', hashText(`${track.id} ${i}`));
    ids.set(lane.id, id);
    return { ...lane, id };
  });
  const clips = track.clips.map((clip, i) => ({
    ...clip,
    id: derivedId('clip-', hashText(`${track.id} ${i}`)),
    laneId: ids.get(clip.laneId) as string,
  }));
  return {
    laneId,
    takeNumber,
    otherLanes,
    clips: isUncut({ laneId, clips }) ? wholeClip(laneId) : clips,
    ...ownComps(track, ids),
  };
}

/** Kept comps of a copied track, under ids of its own. */
function ownComps(
  { id, comps = [], compId = null }: NewTrack,
  laneIds: ReadonlyMap<string, string>,
): Pick<Track, 'comps' | 'compId'> {
  const own = (from: string): string => derivedId('comp-', hashText(`${id} ${from}`));
  return {
    compId: compId !== null && comps.some((c) => c.id === compId) ? own(compId) : null,
    comps: comps.map((comp) => ({
      ...comp,
      id: own(comp.id),
      clips: comp.clips.map((c) => ({ ...c, laneId: laneIds.get(c.laneId) ?? c.laneId })),
    })),
  };
}

const LANE_TRACKS = new WeakMap<Track, readonly Track[]>();

/** Each lane of a track as a track of its own that sounds from end to end, by the numbers of the takes; ids are those of no row. The same objects for the same track. */
export function laneTracks(track: Track): readonly Track[] {
  const known = LANE_TRACKS.get(track);
  if (known) return known;
  const made = [...lanesOf(track)]
    .sort((a, b) => a.takeNumber - b.takeNumber || (a.id < b.id ? -1 : 1))
    .map(({ id, ...lane }): Track => ({
      ...track,
      ...lane,
      id: laneTrackId(track.id, id),
      laneId: id,
      otherLanes: [],
      comps: [],
      compId: null,
      clips: wholeClip(id),
    }));
  LANE_TRACKS.set(track, made);
  return made;
}

/** Id of a lane as {@link laneTracks} has it: no id of a row holds a colon. */
export const laneTrackId = (trackId: string, laneId: string): string => `${trackId}:${laneId}`;
