import type { Edit, SessionState } from '../session';
import { songMapToFile } from '../time';
import { readingToMap } from './adjust';
import type { TempoReading } from './reading';

/** The edit that makes a reading the session's map; `foundBy` = job of the detection, null when there was none. */
export const acceptEdit = (reading: TempoReading, foundBy: string | null): Edit => ({
  kind: 'map.replace',
  map: songMapToFile(readingToMap(reading)),
  facts: { steady: reading.steady, bpm: reading.bpm, foundBy, pulses: reading.beats.map((seconds, i) => ({ seconds, confidence: reading.confidence[i] ?? 0 })) },
});

/** The accepted map as a reading again, so that it can be corrected further; timekeepers and alternatives are those of `found`. Null without a map. */
export function acceptedReading(session: SessionState, found: TempoReading | null): TempoReading | null {
  const { map, mapFacts } = session;
  if (!map || !mapFacts || mapFacts.pulses.length === 0) return null;
  const first = map.points[0] as { quarters: number };
  return {
    beats: mapFacts.pulses.map((p) => p.seconds),
    confidence: mapFacts.pulses.map((p) => p.confidence),
    firstDownbeat: -first.quarters,
    barLengths: map.meters.map((m) => ({ bar: m.bar, pulses: m.numerator })),
    steady: mapFacts.steady,
    bpm: mapFacts.bpm,
    gridOffsetSeconds: mapFacts.steady ? (mapFacts.pulses[0]?.seconds ?? null) : null,
    timekeepers: found?.timekeepers ?? [],
    alternatives: found?.alternatives ?? [],
  };
}
