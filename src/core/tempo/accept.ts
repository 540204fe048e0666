import type { Move, MapFacts, SessionState } from '../session';
import { createMeterMap, createSongMap, type Meter, type SongMapFile, songMapToFile } from '../time';
import { roundTo } from '../units';
import { pulsePositions, readingToMap } from './adjust';
import type { TempoReading } from './reading';

/** The edit that makes a reading the session's map; `foundBy` = job of the detection, null when there was none. */
export const acceptEdit = (reading: TempoReading, foundBy: string | null): Move => ({
  kind: 'map.replace',
  map: songMapToFile(readingToMap(reading)),
  facts: {
    ...sayable(reading.steady, reading.bpm),
    ...(reading.endErrorSeconds === undefined ? {} : { endErrorSeconds: reading.endErrorSeconds }),
    foundBy,
    pulses: mapPulses(reading),
    ...(reading.checked ? { checked: reading.checked } : {}),
  },
});

/** The pulses of a reading as a map keeps them. */
export const mapPulses = (reading: TempoReading): MapFacts['pulses'] =>
  reading.beats.map((seconds, i) => ({
    seconds,
    confidence: reading.confidence[i] ?? 0,
    ...(reading.begins ? { begins: roundTo(reading.begins[i] ?? 0, 4) } : {}),
    ...(reading.pinned?.[i] ? { pinned: true } : {}),
  }));

/** Tempi a session can be said to have, pulses a minute; with others a map holds all the same, but is not called steady. */
const SLOWEST_SAID = 10;
const FASTEST_SAID = 500;
const sayable = (steady: boolean, bpm: number | null): Pick<MapFacts, 'steady' | 'bpm'> =>
  bpm !== null && (bpm < SLOWEST_SAID || bpm > FASTEST_SAID) ? { steady: false, bpm: null } : { steady, bpm };

/** As many as an edit takes: days of music. */
const MOST_PULSES = 100_000;

/** The edit that makes a map from elsewhere (a MIDI file) the session's, with pulses to its end; they are given, not measured. `foundBy` = the newest detection, which it was preferred to. */
export function mapEdit(file: SongMapFile, endSeconds: number, foundBy: string | null = null): Move {
  const { tempo, meters } = createSongMap(file.points, file.meters);
  const pulses: { seconds: number; confidence: number }[] = [];
  const end = Math.max(endSeconds, tempo.toSeconds(meters.barToQuarters(2)));
  for (let bar = 1; pulses.length < MOST_PULSES && tempo.toSeconds(meters.barToQuarters(bar)) <= end; bar++)
    for (const q of meters.pulsesIn(bar))
      if (tempo.toSeconds(q) <= end && pulses.length < MOST_PULSES)
        pulses.push({ seconds: tempo.toSeconds(q), confidence: 1 });
  return { kind: 'map.replace', map: file, facts: { ...steadiness(pulses), foundBy, pulses } };
}

/** What of an old pulse a new one so near to it takes over, s. */
const SAME_SECONDS = 0.03;

/** The edit that makes a map written by hand the session's. Its pulses go as far in the music as those of `before`; where they sound as they did, they are as sure, elsewhere they are given. */
export function writtenEdit(file: SongMapFile, before: TempoReading, foundBy: string | null): Move {
  const { tempo, meters } = createSongMap(file.points, file.meters);
  const places = pulsePositions(before);
  const [from, to] = [places[0] ?? 0, places.at(-1) ?? 0];
  const pulses: MapFacts['pulses'][number][] = [];
  let near = 0;
  for (
    let bar = meters.toBar(from).bar;
    pulses.length < MOST_PULSES && meters.barToQuarters(bar) <= to + 1e-6;
    bar++
  )
    for (const q of meters.pulsesIn(bar)) {
      if (q < from - 1e-6 || q > to + 1e-6) continue;
      const seconds = tempo.toSeconds(q);
      while (
        near + 1 < before.beats.length &&
        Math.abs((before.beats[near + 1] as number) - seconds) <=
          Math.abs((before.beats[near] as number) - seconds)
      )
        near++;
      const isSame = Math.abs((before.beats[near] ?? Infinity) - seconds) < SAME_SECONDS;
      pulses.push({
        seconds,
        confidence: isSame ? (before.confidence[near] ?? 1) : 1,
        ...(isSame && before.pinned?.[near] ? { pinned: true } : {}),
      });
    }
  return {
    kind: 'map.replace',
    map: file,
    facts: { ...steadiness(pulses), foundBy, pulses, ...(before.checked ? { checked: before.checked } : {}) },
  };
}

/** Whether pulses are as long as each other, and how many a minute. */
function steadiness(pulses: readonly { readonly seconds: number }[]): Pick<MapFacts, 'steady' | 'bpm'> {
  let [shortest, longest] = [Infinity, 0];
  pulses.slice(1).forEach((p, i) => {
    const gap = p.seconds - (pulses[i] as { seconds: number }).seconds;
    shortest = Math.min(shortest, gap);
    longest = Math.max(longest, gap);
  });
  const steady = longest - shortest < 1e-5;
  return sayable(steady, steady ? 60 / shortest : null);
}

/** How far a pulse that was measured may lie from the place its map gives it, quarters. */
const OFF_QUARTERS = 0.2;

/** How many pulses lie from a place to the downbeat of bar 1; negative when it lies behind. */
function pulsesBefore(meters: readonly Meter[], quarters: number): number {
  const map = createMeterMap(meters);
  let count = 0;
  for (let bar = 1; map.barToQuarters(bar) < quarters - OFF_QUARTERS; bar++)
    count -= map.pulsesIn(bar).filter((q) => q < quarters - OFF_QUARTERS).length;
  for (let bar = 0; map.barToQuarters(bar + 1) > quarters + OFF_QUARTERS; bar--)
    count += map.pulsesIn(bar).filter((q) => q >= quarters - OFF_QUARTERS).length;
  return count;
}

/** The accepted map as a reading again, so that it can be corrected further; timekeepers and alternatives are those of `found`. Null without a map. */
export function acceptedReading(session: SessionState, found: TempoReading | null): TempoReading | null {
  const { map, mapFacts } = session;
  if (!map || !mapFacts || mapFacts.pulses.length === 0) return null;
  const first = createSongMap(map.points, map.meters).tempo.toQuarters(
    (mapFacts.pulses[0] as { seconds: number }).seconds,
  );
  const firstDownbeat = pulsesBefore(map.meters, first);
  // Corrected, the map is no longer what these belong to.
  const asFound =
    found && firstDownbeat === found.firstDownbeat && isAsFound(mapFacts.pulses, map.meters, found)
      ? found
      : null;
  return {
    beats: mapFacts.pulses.map((p) => p.seconds),
    confidence: mapFacts.pulses.map((p) => p.confidence),
    ...(mapFacts.pulses.some((p) => p.pinned)
      ? { pinned: mapFacts.pulses.map((p) => p.pinned === true) }
      : {}),
    ...(mapFacts.pulses.every((p) => p.begins !== undefined)
      ? { begins: mapFacts.pulses.map((p) => p.begins as number) }
      : {}),
    ...(mapFacts.checked ? { checked: mapFacts.checked } : {}),
    firstDownbeat,
    meters: map.meters,
    steady: mapFacts.steady,
    bpm: mapFacts.bpm,
    ...(mapFacts.endErrorSeconds === undefined ? {} : { endErrorSeconds: mapFacts.endErrorSeconds }),
    gridOffsetSeconds: mapFacts.steady ? (mapFacts.pulses[0]?.seconds ?? null) : null,
    timekeepers: found?.timekeepers ?? [],
    ...(asFound?.loose ? { loose: asFound.loose } : {}),
    alternatives: asFound?.alternatives ?? [],
  };
}

/** Whether a map has the pulses and bars of a detection; single pulses may have been moved by hand. */
function isAsFound(pulses: MapFacts['pulses'], meters: readonly Meter[], found: TempoReading): boolean {
  const bars = (list: readonly Meter[]): string =>
    list.map((m) => `${m.bar}:${m.numerator}/${m.denominator}`).join();
  return (
    pulses.length === found.beats.length &&
    bars(meters) === bars(found.meters) &&
    pulses.every((p, i) => p.pinned || Math.abs(p.seconds - (found.beats[i] as number)) < SAME_SECONDS)
  );
}
