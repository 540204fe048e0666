import type { PlayedHits } from '@/contracts';
import type { MapFacts } from '@/core/session';
import { mapPulses, pulsePositions, readingToMap, type TempoReading } from '@/core/tempo';
import { doubtsOf } from '@/ui/client';
import {
  formatBarPulse,
  type Meter,
  pulseQuarters,
  type SongMap,
  type SongMapFile,
  songMapToFile,
} from '@/core/time';

/** What the stage draws: a map and how sure each pulse of it is. */
export interface TempoModel {
  readonly reading: TempoReading;
  /** Bars are called as in the package. */
  readonly map: SongMap;
  /** The map as it is kept; what is written is made from this. */
  readonly file: SongMapFile;
  readonly pulses: MapFacts['pulses'];
}

/** A reading as something to draw. */
export function tempoModel(reading: TempoReading): TempoModel {
  const map = readingToMap(reading);
  return { reading, map, file: songMapToFile(map), pulses: mapPulses(reading) };
}

/** Local tempo after each pulse, in pulses of the usual length a minute (uneven bars do not jump), and its mean over a bar. */
export function tempoCurve({ reading, pulses }: TempoModel): {
  readonly seconds: number;
  readonly bpm: number;
  readonly smooth: number;
  readonly confidence: number;
}[] {
  const places = pulsePositions(reading);
  const usual = pulseQuarters(reading.meters[0] as Meter);
  const raw = pulses
    .slice(0, -1)
    .map(
      (p, i) =>
        ((60 / usual) * ((places[i + 1] as number) - (places[i] as number))) /
        ((pulses[i + 1] as { seconds: number }).seconds - p.seconds),
    );
  return raw.map((bpm, i) => {
    const around = raw.slice(Math.max(0, i - 2), i + 3);
    return {
      seconds: (pulses[i] as { seconds: number }).seconds,
      bpm,
      smooth: around.reduce((a, b) => a + b, 0) / around.length,
      confidence: (pulses[i] as { confidence: number }).confidence,
    };
  });
}

/** A place of a map worth a listen. */
export interface DoubtfulPlace {
  readonly seconds: number;
  readonly confidence: number;
  readonly isBarLine: boolean;
  readonly place: string;
}

/** The least certain places of a map, named as people read them. */
export const doubtfulPlaces = (model: TempoModel): DoubtfulPlace[] =>
  doubtsOf(model.reading).map((p) => ({
    ...p,
    place: formatBarPulse(model.map, p.seconds + 0.01),
  }));

/** A hit beside a pulse. */
export interface NearHit {
  readonly trackId: string;
  /** s; negative = before the pulse. */ readonly late: number;
  readonly strength: number;
}

/** The nearest hit of each track within a quarter of the pulse to both sides, nearest first. */
export function hitsNear(pulses: TempoModel['pulses'], pulse: number, hits: Iterable<PlayedHits>): NearHit[] {
  const at = pulses[pulse]?.seconds;
  if (at === undefined) return [];
  const reach =
    0.25 *
    Math.min(
      (pulses[pulse + 1]?.seconds ?? Infinity) - at,
      at - (pulses[pulse - 1]?.seconds ?? -Infinity),
      2,
    );
  return [...hits]
    .flatMap(({ trackId, seconds, strength }): NearHit[] => {
      const from = seconds.findIndex((t) => t >= at - reach);
      let best = -1;
      for (let i = from; i >= 0 && i < seconds.length && (seconds[i] as number) <= at + reach; i++)
        if (best < 0 || Math.abs((seconds[i] as number) - at) < Math.abs((seconds[best] as number) - at))
          best = i;
      return best < 0
        ? []
        : [{ trackId, late: (seconds[best] as number) - at, strength: strength[best] ?? 0 }];
    })
    .sort((a, b) => Math.abs(a.late) - Math.abs(b.late));
}

/** Seconds of “m:ss.mmm” or plain seconds; null for anything else. */
export function parseClock(text: string): number | null {
  const hit = /^\s*(?:(\d{1,4}):)?(\d{1,5}(?:[.,]\d{1,6})?)\s*$/.exec(text);
  return hit ? 60 * Number(hit[1] ?? 0) + Number((hit[2] as string).replace(',', '.')) : null;
}

/** Index of the pulse nearest to a moment; 0 for none. */
export function nearestPulse(pulses: TempoModel['pulses'], seconds: number): number {
  let [low, high] = [0, pulses.length - 1];
  while (high - low > 1) {
    const mid = (low + high) >> 1;
    if ((pulses[mid] as { seconds: number }).seconds <= seconds) low = mid;
    else high = mid;
  }
  return high > 0 &&
    Math.abs((pulses[high] as { seconds: number }).seconds - seconds) <
      Math.abs((pulses[low] as { seconds: number }).seconds - seconds)
    ? high
    : Math.max(0, low);
}

/** Bar and pulse lines within a stretch of time; bars as people call them. */
export function gridLines(
  map: SongMap,
  fromSeconds: number,
  toSeconds: number,
): { readonly seconds: number; readonly bar: number | null }[] {
  const first = Math.max(1, map.meters.toBar(map.tempo.toQuarters(fromSeconds)).bar);
  const lines: { seconds: number; bar: number | null }[] = [];
  for (let bar = first; bar < first + 2000; bar++) {
    const start = map.meters.barToQuarters(bar);
    if (map.tempo.toSeconds(start) > toSeconds) break;
    for (const q of map.meters.pulsesIn(bar)) {
      const seconds = map.tempo.toSeconds(q);
      if (seconds >= fromSeconds && seconds <= toSeconds)
        lines.push({ seconds, bar: q === start ? map.meters.numberOf(bar) : null });
    }
  }
  return lines;
}
