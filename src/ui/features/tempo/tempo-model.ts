import type { MapFacts } from '@/core/session';
import { leastCertain, pulsePlaces, readingToMap, type TempoReading } from '@/core/tempo';
import { formatBarPulse, type Meter, pulseQuarters, type SongMap } from '@/core/time';

/** What the stage draws: a map and how sure each pulse of it is. */
export interface TempoModel {
  readonly reading: TempoReading;
  readonly map: SongMap;
  readonly pulses: MapFacts['pulses'];
}

/** A reading as something to draw. */
export const tempoModel = (reading: TempoReading): TempoModel => ({
  reading,
  map: readingToMap(reading),
  pulses: reading.beats.map((seconds, i) => ({ seconds, confidence: reading.confidence[i] ?? 0 })),
});

/** Local tempo after each pulse, in pulses of the usual length a minute (uneven bars do not jump), and its mean over a bar. */
export function tempoCurve({ reading, pulses }: TempoModel): { readonly seconds: number; readonly bpm: number; readonly smooth: number; readonly confidence: number }[] {
  const places = pulsePlaces(reading);
  const usual = pulseQuarters(reading.meters[0] as Meter);
  const raw = pulses.slice(0, -1).map((p, i) => ((60 / usual) * ((places[i + 1] as number) - (places[i] as number))) / ((pulses[i + 1] as { seconds: number }).seconds - p.seconds));
  return raw.map((bpm, i) => {
    const around = raw.slice(Math.max(0, i - 2), i + 3);
    return { seconds: (pulses[i] as { seconds: number }).seconds, bpm, smooth: around.reduce((a, b) => a + b, 0) / around.length, confidence: (pulses[i] as { confidence: number }).confidence };
  });
}

/** The least certain places of a map, named as people read them. */
export const doubtfulPlaces = (model: TempoModel): { readonly seconds: number; readonly confidence: number; readonly place: string }[] =>
  leastCertain(model.pulses).map((p) => ({ ...p, place: formatBarPulse(model.map, p.seconds + 0.01) }));

/** Bar and pulse lines within a stretch of time. */
export function gridLines(map: SongMap, fromSeconds: number, toSeconds: number): { readonly seconds: number; readonly bar: number | null }[] {
  const first = Math.max(1, map.meters.toBar(map.tempo.toQuarters(fromSeconds)).bar);
  const lines: { seconds: number; bar: number | null }[] = [];
  for (let bar = first; bar < first + 2000; bar++) {
    const start = map.meters.barToQuarters(bar);
    if (map.tempo.toSeconds(start) > toSeconds) break;
    for (const q of map.meters.pulsesIn(bar)) {
      const seconds = map.tempo.toSeconds(q);
      if (seconds >= fromSeconds && seconds <= toSeconds) lines.push({ seconds, bar: q === start ? bar : null });
    }
  }
  return lines;
}
