import { type Track, wholeClip } from '../session';
import { cutLane } from './cut-clips';

const KNOWN = new WeakMap<Track, Track>();

/** A track as if nothing of its lane were cut; of one that is arranged otherwise all its pieces, silenced or not. The same object for the same track, so that what is drawn of it is kept. */
export function wholeTrack(track: Track): Track {
  const lane = cutLane(track);
  if (!lane && track.clips.every((c) => !c.off)) return track;
  const known = KNOWN.get(track) ?? {
    ...track,
    clips: lane ? wholeClip(lane.id) : track.clips.map((c) => ({ ...c, off: false })),
  };
  KNOWN.set(track, known);
  return known;
}
