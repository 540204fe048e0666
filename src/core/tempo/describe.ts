import { type Meter, pulseQuarters, tempoSegments } from '../time';
import { roundTo } from '../units';
import { readingToMap } from './adjust';
import { barOpenings } from './doubts';
import type { TempoReading } from './reading';

/** A reading in the words of the command line's contract (`tempo --json`). */
export function describeReading(reading: TempoReading) {
  const map = readingToMap(reading);
  const last = reading.beats.at(-1) ?? 0;
  const perPulse = pulseQuarters(reading.meters[0] as Meter);
  const downbeats: number[] = [];
  for (let bar = 1; ; bar++) {
    const t = map.tempo.toSeconds(map.meters.barToQuarters(bar));
    if (t > last + 0.01) break;
    downbeats.push(t);
  }
  const seconds = (x: number): number => roundTo(x, 6);
  return {
    beats: reading.beats.map(seconds),
    downbeats: downbeats.map(seconds),
    meters: reading.meters.map((m) => ({
      time: seconds(map.tempo.toSeconds(map.meters.barToQuarters(m.bar))),
      numerator: m.numerator,
      denominator: m.denominator,
    })),
    tempoSegments: tempoSegments(map.tempo).map((s) => ({
      time: seconds(s.time),
      bpm: roundTo(s.bpm / perPulse, 6),
    })),
    steady: reading.steady,
    bpm: reading.bpm === null ? null : roundTo(reading.bpm, 6),
    gridOffsetSeconds: reading.gridOffsetSeconds === null ? null : seconds(reading.gridOffsetSeconds),
    confidence: reading.confidence.map((c) => roundTo(c, 3)),
    barConfidence: reading.begins
      ? barOpenings(reading).map((i) => roundTo(reading.begins?.[i] ?? 0, 3))
      : null,
    timekeepers: reading.timekeepers.map((t) => ({
      file: t.id,
      chosen: t.chosen,
      weight: roundTo(t.weight, 4),
      reason: t.reason,
    })),
    alternatives: reading.alternatives.map((a) => ({
      reading: a.reading,
      confidence: roundTo(a.confidence, 3),
      ...(a.meter ? { meter: `${a.meter.numerator}/${a.meter.denominator}` } : {}),
    })),
  };
}
