import { createSongMap, type Meter, type SongMap } from '../time';
import type { TempoReading } from './reading';

/** A correction by ear. */
export type Adjustment =
  | { readonly kind: 'double' | 'half' | 'beat-later' | 'beat-earlier' }
  | { readonly kind: 'downbeat-at' | 'bar-line-at'; readonly seconds: number }
  | { readonly kind: 'bar-length'; readonly pulses: number };

/** The reading after a correction. Meter changes are kept where bars keep their length. Throws RangeError for bars of no pulses. */
export function adjustReading(reading: TempoReading, change: Adjustment): TempoReading {
  const { beats, confidence } = reading;
  switch (change.kind) {
    case 'double': {
      const twice = beats.flatMap((t, i) => (i + 1 < beats.length ? [t, (t + (beats[i + 1] as number)) / 2] : [t]));
      const sure = confidence.flatMap((c, i) => (i + 1 < beats.length ? [c, Math.min(c, 0.8)] : [c]));
      return { ...reading, beats: twice, confidence: sure, firstDownbeat: reading.firstDownbeat * 2, barLengths: reading.barLengths.slice(0, 1), bpm: reading.bpm === null ? null : reading.bpm * 2 };
    }
    case 'half': {
      const start = reading.firstDownbeat % 2;
      const keep = (_: unknown, i: number): boolean => i % 2 === start;
      return { ...reading, beats: beats.filter(keep), confidence: confidence.filter(keep), firstDownbeat: Math.floor(reading.firstDownbeat / 2), barLengths: reading.barLengths.slice(0, 1), bpm: reading.bpm === null ? null : reading.bpm / 2 };
    }
    case 'beat-later':
      return { ...reading, firstDownbeat: Math.min(beats.length - 1, reading.firstDownbeat + 1) };
    case 'beat-earlier': {
      const pulses = reading.barLengths[0]?.pulses ?? 4;
      return { ...reading, firstDownbeat: reading.firstDownbeat > 0 ? reading.firstDownbeat - 1 : pulses - 1 };
    }
    case 'downbeat-at':
      return { ...reading, firstDownbeat: nearestPulse(beats, change.seconds) };
    case 'bar-line-at':
      return { ...reading, barLengths: splitBar(reading, nearestPulse(beats, change.seconds)) };
    case 'bar-length':
      if (!(change.pulses >= 1)) throw new RangeError('a bar needs at least one pulse');
      return { ...reading, barLengths: [{ bar: 1, pulses: change.pulses }] };
  }
}

function nearestPulse(beats: readonly number[], seconds: number): number {
  let nearest = 0;
  beats.forEach((t, i) => { if (Math.abs(t - seconds) < Math.abs((beats[nearest] as number) - seconds)) nearest = i; });
  return nearest;
}

/** The bar that holds a pulse ends there (a 2/4 bar among 4/4); bars after it are as long as before. */
function splitBar(reading: TempoReading, pulse: number): TempoReading['barLengths'] {
  const { barLengths, firstDownbeat } = reading;
  const lengthOf = (bar: number): number => barLengths.findLast((b) => b.bar <= bar)?.pulses ?? 4;
  let bar = 1;
  let start = firstDownbeat;
  while (start + lengthOf(bar) <= pulse) start += lengthOf(bar++);
  const short = pulse - start;
  if (short <= 0) return barLengths;
  const before = barLengths.filter((b) => b.bar < bar);
  const after = barLengths.filter((b) => b.bar > bar);
  const next = after[0]?.bar === bar + 1 ? [] : [{ bar: bar + 1, pulses: lengthOf(bar) }];
  return [...before, { bar, pulses: short }, ...next, ...after];
}

/** Meters of a reading: its pulses are quarters. */
export const readingMeters = (reading: TempoReading): Meter[] => reading.barLengths.map(({ bar, pulses }) => ({ bar, numerator: pulses, denominator: 4 }));

/** The map of a reading: bar 1 at its first downbeat, an anchor at each pulse (two when steady). */
export function readingToMap(reading: TempoReading): SongMap {
  const points = reading.beats.map((seconds, i) => ({ quarters: i - reading.firstDownbeat, seconds }));
  const ends = reading.steady && points.length > 2 ? [points[0], points.at(-1)].filter((p) => p !== undefined) : points;
  return createSongMap(ends, readingMeters(reading));
}
