import type { Change } from './moves';
import type { Edit } from './edits';
import { recordsOf } from './state-of-records';
import type { FieldsOf, RecordOf } from './records';
import type { Clip, SessionState, Track } from './state';

/** The sample rate most recordings have, Hz; a tie leaves the session as it is, else the lower wins; `current` when there are none. */
export function majorityRate(ratesHz: readonly number[], current: number | null): number | null {
  const counts = new Map<number, number>();
  for (const rate of ratesHz) counts.set(rate, (counts.get(rate) ?? 0) + 1);
  const [best] = [...counts].sort(
    (a, b) => b[1] - a[1] || Number(b[0] === current) - Number(a[0] === current) || a[0] - b[0],
  );
  return best?.[0] ?? current;
}

/** Edits that give records of a kind whose fields become others; none for what stays. */
function patchesOf<K extends 'lane' | 'clip' | 'comp'>(
  of: K,
  records: Readonly<Record<string, RecordOf<K>>>,
  change: (record: RecordOf<K>) => Partial<FieldsOf<K>>,
): Edit[] {
  return Object.values<RecordOf<K>>(records).flatMap((record) => {
    const fields = Object.fromEntries(
      Object.entries(change(record)).filter(([name, value]) => record[name as keyof RecordOf<K>] !== value),
    );
    return Object.keys(fields).length === 0 ? [] : [{ kind: 'patch', of, id: record.id, fields } as Edit];
  });
}

/** The session at another rate: every lane, edge and fade stays where it is in time, to the nearest frame. What is to be converted follows from it; files and recordings stay. */
export function rateEdits(session: SessionState, toHz: number): Change[] {
  const from = session.sampleRateHz;
  if (from === toHz) return [];
  const scaled = (frames: number): number => Math.round((frames * toHz) / (from ?? toHz)) + 0;
  const edge = (frames: number | null): number | null => (frames === null ? null : scaled(frames));
  const { lane, clip, comp } = recordsOf(session);
  const placed = (c: Omit<Clip, 'id' | 'laneId'>): Partial<Clip> => ({
    fromFrames: edge(c.fromFrames),
    toFrames: edge(c.toFrames),
    slipFrames: scaled(c.slipFrames),
    ...scaledFades(c, scaled),
  });
  return [
    { kind: 'session.rate', sampleRateHz: toHz },
    ...patchesOf('lane', lane, (l) => ({ startFrames: scaled(l.startFrames) })),
    ...patchesOf('clip', clip, placed),
    ...patchesOf('comp', comp, ({ clips }) => ({ clips: clips.map((c) => ({ ...c, ...placed(c) })) })),
  ];
}

/** Fades end where they ended: at one frame of the song, so that two that cross still do. */
function scaledFades(
  { fromFrames, toFrames, fadeInFrames, fadeOutFrames }: Omit<Clip, 'id' | 'laneId'>,
  scaled: (frames: number) => number,
): Pick<Clip, 'fadeInFrames' | 'fadeOutFrames'> {
  const fadeIn =
    fromFrames === null ? scaled(fadeInFrames) : scaled(fromFrames + fadeInFrames) - scaled(fromFrames);
  const fadeOut =
    toFrames === null ? scaled(fadeOutFrames) : scaled(toFrames) - scaled(toFrames - fadeOutFrames);
  return { fadeInFrames: fadeIn, fadeOutFrames: fadeOut };
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
    Object.values(recordsOf(session).lane)
      .filter((l) => l.keepsSamples)
      .map((l) => l.recordingId),
  );

/** What samples recorded at one rate become when they pass at another: speed as a factor, pitch in semitones (12 to the octave). */
export const repitch = (
  recordedHz: number,
  passingHz: number,
): { readonly factor: number; readonly semitones: number } => ({
  factor: passingHz / recordedHz,
  semitones: 12 * Math.log2(passingHz / recordedHz),
});

/** Keeps the samples of these recordings as they are, or has them converted again. A lane of theirs begins at the same frame as before. */
export const keepSamplesEdits = (
  session: SessionState,
  recordingIds: ReadonlySet<string>,
  keepsSamples: boolean,
): Edit[] =>
  patchesOf('lane', recordsOf(session).lane, (l) =>
    recordingIds.has(l.recordingId) && l.tiedTo === null ? { keepsSamples } : {},
  );
