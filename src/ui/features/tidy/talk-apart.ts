import type { SessionView } from '@/contracts';
import { LEVELS_PER_SECOND } from '@/core/analysis';
import { type Change, type Lane, soundTracks } from '@/core/session';
import { type BeforeSong, muteAt, splitAt } from '@/core/tidy';
import { roundTo } from '@/core/units';
import { originOf } from './tidy-rows';

/** Name of the marker at what was said before the song. */
const MARKER = 'Talk before the first note';

/** Where what is heard before the song lies, frames of the session. */
export function talkIn({ session }: Pick<SessionView, 'session'>, { from, to }: BeforeSong) {
  const rateHz = session.sampleRateHz ?? 48_000;
  const origin = originOf(soundTracks(session));
  const frames = (at: number): number => Math.round(origin + (at * rateHz) / LEVELS_PER_SECOND);
  return { fromFrames: frames(from), toFrames: frames(to), rateHz };
}

/** What is heard before the song is kept in every track, silent, under a marker; the mix of the sender stays as it is. */
export function talkApart(
  { session, recordings }: Pick<SessionView, 'session' | 'recordings'>,
  before: BeforeSong,
): Change[] {
  const { fromFrames, toFrames, rateHz } = talkIn({ session }, before);
  const lengths = new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
  const lengthOf = ({ recordingId }: Lane): number => lengths.get(recordingId) ?? 0;
  const cuts = soundTracks(session).flatMap((track): Change[] => {
    if (track.family === 'reference' || track.family === 'click') return [];
    const split = splitAt({ track, lengthOf }, toFrames);
    if (!split) return [];
    const silent = muteAt({ track: { ...track, clips: split }, lengthOf }, toFrames - 1);
    return silent ? [{ kind: 'track.cut', id: track.id, clips: silent }] : [];
  });
  if (cuts.length === 0) return [];
  const marker = {
    id: crypto.randomUUID(),
    name: MARKER,
    seconds: roundTo(fromFrames / rateHz, 4),
  };
  const { markers } = session;
  return markers.some((m) => m.name === MARKER)
    ? cuts
    : [...cuts, { kind: 'markers.set', markers: [...markers, marker].sort((a, b) => a.seconds - b.seconds) }];
}
