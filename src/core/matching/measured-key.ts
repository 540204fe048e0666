import { lanesOf, type Track } from '../session';
import { hashText } from '../units';

/** Says what of a track decides how loud it is before any gain: while it is the same, what was measured holds. */
export function measuredKey(track: Track): string {
  const known = KEYS.get(track) ?? keyOf(track);
  KEYS.set(track, known);
  return known;
}

/** Pages ask again whenever anything changes. */
const KEYS = new WeakMap<Track, string>();

function keyOf(track: Track): string {
  const lanes = lanesOf(track).map((l) => [l.id, l.recordingId, l.startFrames, l.monoFrom, l.keepsSamples]);
  const clips = track.clips.map((c) => [
    ...[c.laneId, c.fromFrames, c.toFrames, c.slipFrames, c.off],
    ...[c.fadeInFrames, c.fadeInShape, c.fadeOutFrames, c.fadeOutShape],
  ]);
  return hashText(JSON.stringify([lanes, clips]));
}

/** The track with no gain on its pieces. */
export const withoutGains = (track: Track): Track => ({
  ...track,
  clips: track.clips.map((c) => (c.gainDb === 0 ? c : { ...c, gainDb: 0 })),
});
