import { type Change, type Lane, type SessionState, soundTracks } from '../session';
import { hashText, roundTo } from '../units';
import type { BeforeSong } from './before-song';
import { muteAt, splitAt } from './hand-clips';
import { sessionFrame } from './song-span';

/** Name of the marker at what was said before the song. */
const MARKER = 'Talk before the first note';

/** Where what is heard before the song lies, frames of the session. */
export function talkIn(session: SessionState, { from, to }: BeforeSong) {
  const rateHz = session.sampleRateHz ?? 48_000;
  return { fromFrames: sessionFrame(session, from), toFrames: sessionFrame(session, to), rateHz };
}

/** What is heard before the song is kept in every track, silent, under a marker; the mix of the sender stays as it is. Empty where there is nothing to do. */
export function talkApart(
  session: SessionState,
  lengthOf: (lane: Lane) => number,
  before: BeforeSong,
): Change[] {
  const { fromFrames, toFrames, rateHz } = talkIn(session, before);
  const cuts = soundTracks(session).flatMap((track): Change[] => {
    if (track.family === 'reference' || track.family === 'click') return [];
    const split = splitAt({ track, lengthOf }, toFrames);
    const silent = split && muteAt({ track: { ...track, clips: split }, lengthOf }, toFrames - 1);
    return silent ? [{ kind: 'track.cut', id: track.id, clips: silent }] : [];
  });
  const { markers } = session;
  if (cuts.length === 0 || markers.some((m) => m.name === MARKER)) return cuts;
  const marker = { id: `marker-${hashText(MARKER)}`, name: MARKER, seconds: roundTo(fromFrames / rateHz, 4) };
  return [
    ...cuts,
    { kind: 'markers.set', markers: [...markers, marker].sort((a, b) => a.seconds - b.seconds) },
  ];
}
