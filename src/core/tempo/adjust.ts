import { createMeterMap, createSongMap, type Meter, pulseLengths, type SongMap } from '../time';
import type { TempoReading } from './reading';

/** A correction by ear. */
export type Adjustment =
  | { readonly kind: 'double' | 'half' | 'beat-later' | 'beat-earlier' }
  | { readonly kind: 'downbeat-at' | 'bar-line-at'; readonly seconds: number }
  | { readonly kind: 'meter'; readonly numerator: number; readonly denominator: number };

/** The reading after a correction. Meter changes are kept where bars keep their length. Throws RangeError for an impossible meter. */
export function adjustReading(reading: TempoReading, change: Adjustment): TempoReading {
  const { beats, confidence } = reading;
  switch (change.kind) {
    case 'double': {
      const twice = beats.flatMap((t, i) => (i + 1 < beats.length ? [t, (t + (beats[i + 1] as number)) / 2] : [t]));
      const sure = confidence.flatMap((c, i) => (i + 1 < beats.length ? [c, Math.min(c, 0.8)] : [c]));
      return { ...reading, beats: twice, confidence: sure, firstDownbeat: reading.firstDownbeat * 2, meters: reading.meters.slice(0, 1), bpm: reading.bpm === null ? null : reading.bpm * 2 };
    }
    case 'half': {
      const start = reading.firstDownbeat % 2;
      const keep = (_: unknown, i: number): boolean => i % 2 === start;
      return { ...reading, beats: beats.filter(keep), confidence: confidence.filter(keep), firstDownbeat: Math.floor(reading.firstDownbeat / 2), meters: reading.meters.slice(0, 1), bpm: reading.bpm === null ? null : reading.bpm / 2 };
    }
    case 'beat-later':
      return { ...reading, firstDownbeat: Math.min(beats.length - 1, reading.firstDownbeat + 1) };
    case 'beat-earlier':
      return { ...reading, firstDownbeat: reading.firstDownbeat > 0 ? reading.firstDownbeat - 1 : pulseLengths(meterOf(reading, 1)).length - 1 };
    case 'downbeat-at':
      return { ...reading, firstDownbeat: nearestPulse(beats, change.seconds) };
    case 'bar-line-at':
      return { ...reading, meters: splitBar(reading, nearestPulse(beats, change.seconds)) };
    case 'meter':
      return { ...reading, meters: createMeterMap([{ bar: 1, numerator: change.numerator, denominator: change.denominator }]).meters };
  }
}

function nearestPulse(beats: readonly number[], seconds: number): number {
  let nearest = 0;
  beats.forEach((t, i) => { if (Math.abs(t - seconds) < Math.abs((beats[nearest] as number) - seconds)) nearest = i; });
  return nearest;
}

const meterOf = (reading: TempoReading, bar: number): Meter => reading.meters.findLast((m) => m.bar <= bar) ?? { bar: 1, numerator: 4, denominator: 4 };

/** A bar of the first pulses of another. */
export function shortened(meter: Meter, pulses: number): Meter {
  const quarters = pulseLengths(meter).slice(0, pulses).reduce((a, q) => a + q, 0);
  return { bar: meter.bar, numerator: Math.round((quarters * meter.denominator) / 4), denominator: meter.denominator };
}

/** The bar that holds a pulse ends there (a 2/4 bar among 4/4); bars after it are as long as before. */
function splitBar(reading: TempoReading, pulse: number): Meter[] {
  const { meters, firstDownbeat } = reading;
  let bar = 1;
  let start = firstDownbeat;
  for (let n = pulseLengths(meterOf(reading, bar)).length; start + n <= pulse; n = pulseLengths(meterOf(reading, ++bar)).length) start += n;
  const short = pulse - start;
  if (short <= 0) return [...meters];
  const before = meters.filter((m) => m.bar < bar);
  const after = meters.filter((m) => m.bar > bar);
  const next = after[0]?.bar === bar + 1 ? [] : [{ ...meterOf(reading, bar), bar: bar + 1 }];
  return [...before, { ...shortened(meterOf(reading, bar), short), bar }, ...next, ...after];
}

/** Quarters of each pulse of a reading from bar 1; before it the first meter's bars go on backwards. */
export function pulsePlaces(reading: Pick<TempoReading, 'beats' | 'firstDownbeat' | 'meters'>): number[] {
  const map = createMeterMap(reading.meters);
  const places = new Array<number>(reading.beats.length);
  const ahead: number[] = [];
  for (let bar = 1; ahead.length < reading.beats.length - reading.firstDownbeat; bar++) ahead.push(...map.pulsesIn(bar));
  const behind: number[] = [];
  for (let bar = 0; behind.length < reading.firstDownbeat; bar--) behind.unshift(...map.pulsesIn(bar));
  for (let i = 0; i < places.length; i++) places[i] = i >= reading.firstDownbeat ? (ahead[i - reading.firstDownbeat] as number) : (behind[behind.length + i - reading.firstDownbeat] as number);
  return places;
}

/** The map of a reading: bar 1 at its first downbeat, an anchor at each pulse (two when steady). */
export function readingToMap(reading: TempoReading): SongMap {
  const places = pulsePlaces(reading);
  const points = reading.beats.map((seconds, i) => ({ quarters: places[i] as number, seconds }));
  const ends = reading.steady && points.length > 2 ? [points[0], points.at(-1)].filter((p) => p !== undefined) : points;
  return createSongMap(ends, reading.meters);
}
