import { type Track, wholeClip } from '@/core/session';
import { cutLane } from '@/core/tidy';

const KNOWN = new WeakMap<Track, Track>();

/** A track as if nothing of its lane were cut; the same object for the same track, so that what is drawn of it is kept. */
export function wholeTrack(track: Track): Track {
  const lane = cutLane(track);
  if (!lane) return track;
  const known = KNOWN.get(track) ?? { ...track, clips: wholeClip(lane.id) };
  KNOWN.set(track, known);
  return known;
}
