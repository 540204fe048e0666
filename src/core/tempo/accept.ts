import type { Edit, SessionState } from '../session';
import { createMeterMap, createSongMap, type Meter, type SongMapFile, songMapToFile } from '../time';
import { readingToMap } from './adjust';
import type { TempoReading } from './reading';

/** The edit that makes a reading the session's map; `foundBy` = job of the detection, null when there was none. */
export const acceptEdit = (reading: TempoReading, foundBy: string | null): Edit => ({
  kind: 'map.replace',
  map: songMapToFile(readingToMap(reading)),
  facts: { steady: reading.steady, bpm: reading.bpm, foundBy, pulses: reading.beats.map((seconds, i) => ({ seconds, confidence: reading.confidence[i] ?? 0, ...(reading.pinned?.[i] ? { pinned: true } : {}) })), ...(reading.checked ? { checked: reading.checked } : {}) },
});

/** As many as an edit takes: days of music. */
const MOST_PULSES = 100_000;

/** The edit that makes a map from elsewhere (a MIDI file) the session's, with pulses to its end; they are given, not measured. */
export function mapEdit(file: SongMapFile, endSeconds: number): Edit {
  const { tempo, meters } = createSongMap(file.points, file.meters);
  const pulses: { seconds: number; confidence: number }[] = [];
  const end = Math.max(endSeconds, tempo.toSeconds(meters.barToQuarters(2)));
  for (let bar = 1; pulses.length < MOST_PULSES && tempo.toSeconds(meters.barToQuarters(bar)) <= end; bar++)
    for (const q of meters.pulsesIn(bar)) if (tempo.toSeconds(q) <= end && pulses.length < MOST_PULSES) pulses.push({ seconds: tempo.toSeconds(q), confidence: 1 });
  let [shortest, longest] = [Infinity, 0];
  pulses.slice(1).forEach((p, i) => {
    const gap = p.seconds - (pulses[i] as { seconds: number }).seconds;
    shortest = Math.min(shortest, gap);
    longest = Math.max(longest, gap);
  });
  const steady = longest - shortest < 1e-5;
  return { kind: 'map.replace', map: file, facts: { steady, bpm: steady ? 60 / shortest : null, foundBy: null, pulses } };
}

/** How many pulses lie from a place to the downbeat of bar 1; negative when it lies behind. */
function pulsesBefore(meters: readonly Meter[], quarters: number): number {
  const map = createMeterMap(meters);
  let count = 0;
  for (let bar = 1; map.barToQuarters(bar) < quarters - 1e-6; bar++) count -= map.pulsesIn(bar).filter((q) => q < quarters - 1e-6).length;
  for (let bar = 0; map.barToQuarters(bar + 1) > quarters + 1e-6; bar--) count += map.pulsesIn(bar).filter((q) => q >= quarters - 1e-6).length;
  return count;
}

/** The accepted map as a reading again, so that it can be corrected further; timekeepers and alternatives are those of `found`. Null without a map. */
export function acceptedReading(session: SessionState, found: TempoReading | null): TempoReading | null {
  const { map, mapFacts } = session;
  if (!map || !mapFacts || mapFacts.pulses.length === 0) return null;
  const first = map.points[0] as { quarters: number };
  return {
    beats: mapFacts.pulses.map((p) => p.seconds),
    confidence: mapFacts.pulses.map((p) => p.confidence),
    ...(mapFacts.pulses.some((p) => p.pinned) ? { pinned: mapFacts.pulses.map((p) => p.pinned === true) } : {}),
    ...(mapFacts.checked ? { checked: mapFacts.checked } : {}),
    firstDownbeat: pulsesBefore(map.meters, first.quarters),
    meters: map.meters,
    steady: mapFacts.steady,
    bpm: mapFacts.bpm,
    gridOffsetSeconds: mapFacts.steady ? (mapFacts.pulses[0]?.seconds ?? null) : null,
    timekeepers: found?.timekeepers ?? [],
    alternatives: found?.alternatives ?? [],
  };
}
