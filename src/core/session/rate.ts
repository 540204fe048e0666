import type { Move } from './moves';
import { isTrack, type SessionState, type Track } from './state';
import { tracksInOrder } from './views';

/** The sample rate most recordings have, Hz; a tie leaves the session as it is, else the lower wins; `current` when there are none. */
export function majorityRate(ratesHz: readonly number[], current: number | null): number | null {
  const counts = new Map<number, number>();
  for (const rate of ratesHz) counts.set(rate, (counts.get(rate) ?? 0) + 1);
  const [best] = [...counts].sort(
    (a, b) => b[1] - a[1] || Number(b[0] === current) - Number(a[0] === current) || a[0] - b[0],
  );
  return best?.[0] ?? current;
}

/** The session at another rate: every track stays where it is in time, to the nearest frame. What is to be converted follows from it; files and recordings stay. */
export function rateEdits(session: SessionState, toHz: number): Move[] {
  const from = session.sampleRateHz;
  if (from === toHz) return [];
  const moved = from === null ? [] : tracksInOrder(session).filter((t) => t.startFrames !== 0);
  return [
    { kind: 'session.rate', sampleRateHz: toHz },
    ...moved.map((t): Move => ({
      kind: 'track.change',
      id: t.id,
      fields: { startFrames: Math.round((t.startFrames * toHz) / (from as number)) },
    })),
  ];
}

/** Rate at which the samples of a recording pass in the session, Hz: its own, whether converted or not, unless they are kept as they are. */
export const passingRate = (
  track: Pick<Track, 'keepsSamples'> | undefined,
  recordedHz: number,
  sessionHz: number | null,
): number => (track?.keepsSamples ? (sessionHz ?? recordedHz) : recordedHz);

/** Recordings whose samples are kept. */
export const keptRecordings = (session: SessionState): ReadonlySet<string> =>
  new Set(
    Object.values(session.nodes)
      .filter(isTrack)
      .filter((t) => t.keepsSamples)
      .map((t) => t.recordingId),
  );

/** What samples recorded at one rate become when they pass at another: speed as a factor, pitch in semitones (12 to the octave). */
export const repitch = (
  recordedHz: number,
  passingHz: number,
): { readonly factor: number; readonly semitones: number } => ({
  factor: passingHz / recordedHz,
  semitones: 12 * Math.log2(passingHz / recordedHz),
});

/** Keeps the samples of these recordings as they are, or has them converted again. A track of theirs begins at the same frame as before. */
export const keepSamplesEdits = (
  session: SessionState,
  recordingIds: ReadonlySet<string>,
  keepsSamples: boolean,
): Move[] =>
  tracksInOrder(session)
    .filter((t) => recordingIds.has(t.recordingId) && t.tiedTo === null && t.keepsSamples !== keepsSamples)
    .map((t): Move => ({ kind: 'track.change', id: t.id, fields: { keepsSamples } }));
