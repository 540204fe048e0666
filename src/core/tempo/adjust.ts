import { createMeterMap, createSongMap, type Meter, pulseLengths, type SongMap } from '../time';
import type { TempoReading } from './reading';

/** A correction by ear or eye. Pulses are named by their index, bars by their number. */
export type Adjustment =
  | {
      readonly kind:
        'double' | 'half' | 'three-halves' | 'two-thirds' | 'between' | 'beat-later' | 'beat-earlier';
    }
  | { readonly kind: 'downbeat-at' | 'bar-line-at'; readonly seconds: number }
  | { readonly kind: 'meter'; readonly numerator: number; readonly denominator: number }
  /** From a bar on, for so many bars (null = to the next change). */
  | {
      readonly kind: 'meter-from';
      readonly bar: number;
      readonly bars: number | null;
      readonly numerator: number;
      readonly denominator: number;
    }
  /** The pulse sounds there; it is pinned, and its neighbours follow smoothly up to those that are pinned. */
  | { readonly kind: 'move'; readonly pulse: number; readonly seconds: number }
  | { readonly kind: 'pin'; readonly pulse: number; readonly on: boolean }
  | { readonly kind: 'double-from' | 'half-from'; readonly bar: number }
  /** One bar more or fewer between the pinned pulses around one (without pins: within its bar, or it and the next). */
  | { readonly kind: 'bar-more' | 'bar-fewer'; readonly pulse: number }
  /** The first bar is called by a number; null = as in the package, where the bars that lead in count. */
  | { readonly kind: 'number'; readonly number: number | null };

/** The reading after a correction. Throws RangeError, with the reason in words, for what cannot be. */
export function adjustReading(reading: TempoReading, change: Adjustment): TempoReading {
  // What bars are called has nothing to do with where they lie.
  const after = withNumber(
    adjusted(withNumber(reading), change),
    change.kind === 'number' ? (change.number ?? undefined) : reading.meters[0]?.number,
  );
  // What was measured holds for the pulses it was measured of, what was found about bars for the bars that were found.
  const measured = after.beats === reading.beats ? after : { ...after, endErrorSeconds: undefined };
  return change.kind === 'move' || change.kind === 'pin' || change.kind === 'number'
    ? measured
    : { ...measured, begins: undefined };
}

/** The same reading; its first bar is called by a number, or as it comes. */
function withNumber(reading: TempoReading, number?: number): TempoReading {
  if (number !== undefined && !Number.isInteger(number))
    throw new RangeError('a bar number is a whole number');
  const { number: before, ...first } = meterOf(reading, 1);
  return before === number
    ? reading
    : {
        ...reading,
        meters: [number === undefined ? first : { ...first, number }, ...reading.meters.slice(1)],
      };
}

function adjusted(reading: TempoReading, change: Adjustment): TempoReading {
  const { beats } = reading;
  switch (change.kind) {
    case 'double':
      return {
        ...doubled(reading, 0),
        firstDownbeat: reading.firstDownbeat * 2,
        meters: reading.meters.slice(0, 1),
        steady: reading.steady,
        bpm: reading.bpm === null ? null : reading.bpm * 2,
        gridOffsetSeconds: reading.gridOffsetSeconds,
      };
    case 'half':
      return {
        ...halved(reading, reading.firstDownbeat % 2),
        firstDownbeat: Math.floor(reading.firstDownbeat / 2),
        meters: reading.meters.slice(0, 1),
        steady: reading.steady,
        bpm: reading.bpm === null ? null : reading.bpm / 2,
        gridOffsetSeconds: reading.gridOffsetSeconds,
      };
    case 'three-halves':
      return resampled(reading, 2 / 3);
    case 'two-thirds':
      return resampled(reading, 3 / 2);
    case 'between':
      return resampled(reading, 1, 0.5);
    case 'beat-later':
      return { ...reading, firstDownbeat: Math.min(beats.length - 1, reading.firstDownbeat + 1) };
    case 'beat-earlier':
      return {
        ...reading,
        firstDownbeat:
          reading.firstDownbeat > 0
            ? reading.firstDownbeat - 1
            : pulseLengths(meterOf(reading, 1)).length - 1,
      };
    case 'downbeat-at':
      return { ...reading, firstDownbeat: nearestPulse(beats, change.seconds) };
    case 'bar-line-at':
      return { ...reading, meters: splitBar(reading, nearestPulse(beats, change.seconds)) };
    case 'meter':
      return {
        ...reading,
        meters: createMeterMap([{ bar: 1, numerator: change.numerator, denominator: change.denominator }])
          .meters,
      };
    case 'meter-from':
      return { ...reading, meters: metersWith(reading, change) };
    case 'move':
      return moved(reading, change.pulse, change.seconds);
    case 'pin':
      return withPins(reading, (pinned, i) => (i === change.pulse ? change.on : pinned));
    case 'double-from':
    case 'half-from': {
      const start = barStart(reading, change.bar);
      const isDouble = change.kind === 'double-from';
      const meters = reading.meters.map((m) =>
        m.bar > change.bar
          ? {
              ...m,
              bar: change.bar + (isDouble ? 2 * (m.bar - change.bar) : Math.ceil((m.bar - change.bar) / 2)),
            }
          : m,
      );
      return {
        ...(isDouble ? doubled(reading, start) : halved(reading, start, start)),
        meters: meters.filter((m, i) => m.bar !== meters[i + 1]?.bar),
      };
    }
    case 'number':
      return reading;
    case 'bar-more':
    case 'bar-fewer':
      return respaced(reading, change.pulse, change.kind === 'bar-more' ? 1 : -1);
  }
}

/** The same pulses with other pins. */
function withPins(reading: TempoReading, pin: (pinned: boolean, pulse: number) => boolean): TempoReading {
  const pinned = reading.beats.map((_, i) => pin(reading.pinned?.[i] ?? false, i));
  return { ...reading, pinned: pinned.some(Boolean) ? pinned : undefined };
}

/** Pulses at every `step` of the old ones, one of them `off` after the first downbeat; as steady as before. Pins go with their pulses. */
function resampled(reading: TempoReading, step: number, off = 0): TempoReading {
  const { beats, confidence, firstDownbeat } = reading;
  const before = Math.floor((firstDownbeat + off) / step + 1e-9);
  const start = firstDownbeat + off - before * step;
  const at = (x: number): number => {
    const i = Math.min(beats.length - 2, Math.floor(x));
    return (beats[i] as number) + (x - i) * ((beats[i + 1] as number) - (beats[i] as number));
  };
  const places = Array.from(
    { length: Math.floor((beats.length - 1 - start) / step + 1e-9) + 1 },
    (_, k) => start + k * step,
  );
  return {
    ...reading,
    beats: places.map(at),
    confidence: places.map((x) => Math.min(0.8, confidence[Math.round(x)] ?? 0)),
    pinned: undefined,
    firstDownbeat: before,
    meters: reading.meters.slice(0, 1),
    bpm: reading.bpm === null ? null : reading.bpm / step,
    gridOffsetSeconds: reading.gridOffsetSeconds === null ? null : at(start),
  };
}

/** Twice as many pulses from one on; the tempo is another there. */
function doubled(reading: TempoReading, from: number): TempoReading {
  const { beats, confidence, pinned } = reading;
  const twice = <T>(list: readonly T[], between: (i: number) => T): T[] =>
    list.flatMap((x, i) => (i >= from && i + 1 < list.length ? [x, between(i)] : [x]));
  return {
    ...reading,
    ...AS_HAND,
    beats: twice(beats, (i) => ((beats[i] as number) + (beats[i + 1] as number)) / 2),
    confidence: twice(confidence, (i) => Math.min(confidence[i] as number, 0.8)),
    pinned: pinned && twice(pinned, () => false),
  };
}

/** Every other pulse from one on, beginning with pulse `start`; pinned ones that go are gone. */
function halved(reading: TempoReading, start: number, from = 0): TempoReading {
  const kept = <T>(list: readonly T[]): T[] => list.filter((_, i) => i < from || (i - start) % 2 === 0);
  return {
    ...reading,
    ...AS_HAND,
    beats: kept(reading.beats),
    confidence: kept(reading.confidence),
    pinned: reading.pinned && kept(reading.pinned),
  };
}

/** No single tempo is known to hold after that. */
const AS_HAND = { steady: false, bpm: null, gridOffsetSeconds: null } as const;

/** How many pulses either side a move reaches where none is pinned. */
const REACH = 8;

function moved(reading: TempoReading, pulse: number, seconds: number): TempoReading {
  const { beats } = reading;
  if (beats[pulse] === undefined) throw new RangeError('there is no such pulse');
  const pins = beats.flatMap((_, i) => (i !== pulse && reading.pinned?.[i] ? [i] : []));
  const sure = (r: TempoReading): TempoReading => ({
    ...withPins(r, (p, i) => p || i === pulse),
    confidence: r.confidence.map((c, i) => (i === pulse ? 1 : c)),
  });
  if (reading.steady) return sure(movedGrid(reading, pulse, seconds, pins));
  const left = Math.max(-1, pulse - REACH, ...pins.filter((i) => i < pulse));
  const right = Math.min(beats.length, pulse + REACH, ...pins.filter((i) => i > pulse));
  const by = seconds - (beats[pulse] as number);
  // Half a cosine: no corner where the moved pulses meet those that stay.
  const share = (i: number): number => {
    const x = i <= pulse ? (i - left) / (pulse - left) : (right - i) / (right - pulse);
    return 0.5 - 0.5 * Math.cos(Math.PI * Math.max(0, Math.min(1, x)));
  };
  return sure({
    ...reading,
    beats: rising(beats.map((t, i) => (i > left && i < right ? t + by * share(i) : t))),
  });
}

/** A steady grid stays one: without pins all of it moves, with pins its tempo changes so that the farthest pin holds. */
function movedGrid(
  reading: TempoReading,
  pulse: number,
  seconds: number,
  pins: readonly number[],
): TempoReading {
  const { beats } = reading;
  const far =
    pins.length > 0 ? pins.reduce((a, b) => (Math.abs(b - pulse) > Math.abs(a - pulse) ? b : a)) : null;
  const places = pulsePositions(reading);
  const [own, at] = [places[pulse] as number, beats[pulse] as number];
  if (far === null)
    return {
      ...reading,
      beats: beats.map((t) => t + seconds - at),
      gridOffsetSeconds: reading.gridOffsetSeconds === null ? null : reading.gridOffsetSeconds + seconds - at,
    };
  const [pin, pinAt] = [places[far] as number, beats[far] as number];
  const perQuarter = (seconds - pinAt) / (own - pin);
  const factor = perQuarter / ((at - pinAt) / (own - pin));
  if (!(factor > 0.5 && factor < 2))
    throw new RangeError('that is too far from where it was: the tempo would be another altogether');
  const grid = places.map((q) => pinAt + (q - pin) * perQuarter);
  return {
    ...reading,
    beats: grid,
    bpm: reading.bpm === null ? null : reading.bpm / factor,
    gridOffsetSeconds: grid[0] as number,
  };
}

/** Pulses that still come one after the other. Throws RangeError where they would not. */
function rising(beats: readonly number[]): readonly number[] {
  const crossed = beats.findIndex((t, i) => i > 0 && t - (beats[i - 1] as number) < 0.02);
  if (crossed >= 0) throw new RangeError('it would come before the pulse before it, or after the one after');
  return beats;
}

/** Index of the pulse that opens a bar; pulses from bar 1 on. Throws RangeError past the end. */
function barStart(reading: TempoReading, bar: number): number {
  let start = reading.firstDownbeat;
  for (let b = 1; b < bar; b++) start += pulseLengths(meterOf(reading, b)).length;
  if (bar < 1 || start >= reading.beats.length) throw new RangeError(`bar ${bar} has no pulses`);
  return start;
}

/** The bar a pulse lies in, and the pulse that opens it; bars before the first count as it. */
export function barOfPulse(
  reading: Pick<TempoReading, 'firstDownbeat' | 'meters'>,
  pulse: number,
): { readonly bar: number; readonly start: number; readonly pulses: number } {
  let [bar, start] = [1, reading.firstDownbeat];
  for (
    let n = pulseLengths(meterOf(reading, bar)).length;
    start + n <= pulse;
    n = pulseLengths(meterOf(reading, ++bar)).length
  )
    start += n;
  return { bar, start, pulses: pulseLengths(meterOf(reading, bar)).length };
}

function respaced(reading: TempoReading, pulse: number, bars: 1 | -1): TempoReading {
  const { beats, confidence } = reading;
  const { bar, start, pulses } = barOfPulse(reading, pulse);
  const next = bars < 0 ? pulseLengths(meterOf(reading, bar + 1)).length : 0;
  const pins = beats.flatMap((_, i) => (reading.pinned?.[i] ? [i] : []));
  const left = pins.findLast((i) => i <= pulse) ?? start;
  const right = pins.find((i) => i > pulse) ?? Math.min(beats.length - 1, start + pulses + next);
  const count = right - left + bars * pulses;
  if (right <= left || count < 1) throw new RangeError('too few pulses lie between the pins for that');
  // Read off along the old pulses: what they said about the tempo stays.
  const at = (x: number): number => {
    const i = Math.min(right - 1, Math.floor(x));
    return (beats[i] as number) + (x - i) * ((beats[i + 1] as number) - (beats[i] as number));
  };
  const inside = Array.from({ length: count - 1 }, (_, k) => at(left + ((k + 1) * (right - left)) / count));
  const joined = <T>(list: readonly T[], fresh: readonly T[]): T[] => [
    ...list.slice(0, left + 1),
    ...fresh,
    ...list.slice(right),
  ];
  const meters = reading.meters.map((m) => (m.bar > bar ? { ...m, bar: m.bar + bars } : m));
  return {
    ...reading,
    ...AS_HAND,
    beats: joined(beats, inside),
    confidence: joined(
      confidence,
      inside.map(() => 0.5),
    ),
    pinned:
      reading.pinned &&
      joined(
        reading.pinned,
        inside.map(() => false),
      ),
    meters: meters.filter((m, i) => m.bar !== meters[i + 1]?.bar),
  };
}

/** Meters with another from a bar on; after `bars` of them what held before holds again. */
function metersWith(
  reading: TempoReading,
  {
    bar,
    bars,
    numerator,
    denominator,
  }: {
    readonly bar: number;
    readonly bars: number | null;
    readonly numerator: number;
    readonly denominator: number;
  },
): readonly Meter[] {
  if (bar < 1) throw new RangeError('the first bar with a meter of its own is bar 1');
  const { meters } = reading;
  const end = bars === null ? (meters.find((m) => m.bar > bar)?.bar ?? Infinity) : bar + bars;
  const back =
    bars !== null && !meters.some((m) => m.bar === end) ? [{ ...meterOf(reading, end), bar: end }] : [];
  const list = [
    ...meters.filter((m) => m.bar < bar),
    { bar, numerator, denominator },
    ...back,
    ...meters.filter((m) => m.bar >= end),
  ];
  const alike = (a: Meter | undefined, b: Meter): boolean =>
    a?.numerator === b.numerator &&
    a.denominator === b.denominator &&
    JSON.stringify(a.groups) === JSON.stringify(b.groups);
  return createMeterMap(list.filter((m, i) => i === 0 || !alike(list[i - 1], m))).meters;
}

function nearestPulse(beats: readonly number[], seconds: number): number {
  let nearest = 0;
  beats.forEach((t, i) => {
    if (Math.abs(t - seconds) < Math.abs((beats[nearest] as number) - seconds)) nearest = i;
  });
  return nearest;
}

/** The meter of a bar. */
export const meterOf = (reading: Pick<TempoReading, 'meters'>, bar: number): Meter =>
  reading.meters.findLast((m) => m.bar <= bar) ?? { bar: 1, numerator: 4, denominator: 4 };

/** A bar of the first pulses of another. */
export function shortened(meter: Meter, pulses: number): Meter {
  const quarters = pulseLengths(meter)
    .slice(0, pulses)
    .reduce((a, q) => a + q, 0);
  return {
    bar: meter.bar,
    numerator: Math.round((quarters * meter.denominator) / 4),
    denominator: meter.denominator,
  };
}

/** The bar that holds a pulse ends there (a 2/4 bar among 4/4); bars after it are as long as before. */
function splitBar(reading: TempoReading, pulse: number): Meter[] {
  const { meters } = reading;
  const { bar, start } = barOfPulse(reading, pulse);
  const short = pulse - start;
  if (short <= 0) return [...meters];
  const before = meters.filter((m) => m.bar < bar);
  const after = meters.filter((m) => m.bar > bar);
  const next = after[0]?.bar === bar + 1 ? [] : [{ ...meterOf(reading, bar), bar: bar + 1 }];
  return [...before, { ...shortened(meterOf(reading, bar), short), bar }, ...next, ...after];
}

/** Quarters of each pulse of a reading from bar 1; before it the first meter's bars go on backwards. */
export function pulsePositions(reading: Pick<TempoReading, 'beats' | 'firstDownbeat' | 'meters'>): number[] {
  const map = createMeterMap(reading.meters);
  const places = new Array<number>(reading.beats.length);
  const ahead: number[] = [];
  for (let bar = 1; ahead.length < reading.beats.length - reading.firstDownbeat; bar++)
    ahead.push(...map.pulsesIn(bar));
  const behind: number[] = [];
  for (let bar = 0; behind.length < reading.firstDownbeat; bar--) behind.unshift(...map.pulsesIn(bar));
  for (let i = 0; i < places.length; i++)
    places[i] =
      i >= reading.firstDownbeat
        ? (ahead[i - reading.firstDownbeat] as number)
        : (behind[behind.length + i - reading.firstDownbeat] as number);
  return places;
}

/** The map of a reading: bar 1 at its first downbeat, an anchor at each pulse (two when steady). */
export function readingToMap(reading: TempoReading): SongMap {
  const places = pulsePositions(reading);
  const points = reading.beats.map((seconds, i) => ({ quarters: places[i] as number, seconds }));
  const ends =
    reading.steady && points.length > 2 ? [points[0], points.at(-1)].filter((p) => p !== undefined) : points;
  return createSongMap(ends, reading.meters);
}
