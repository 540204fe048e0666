import { emptySession, applyChanges } from '../session';
import { createRandom } from '../units';
import {
  acceptEdit,
  acceptedReading,
  adjustReading,
  writtenEdit,
  type Adjustment,
  barOfPulse,
  readingToMap,
  type TempoReading,
} from './index';

const reading = (count = 40, gap = 0.5, over: Partial<TempoReading> = {}): TempoReading => ({
  beats: Array.from({ length: count }, (_, i) => 2 + gap * i),
  confidence: new Array<number>(count).fill(0.9),
  firstDownbeat: 0,
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
  steady: false,
  bpm: null,
  gridOffsetSeconds: null,
  timekeepers: [],
  alternatives: [],
  ...over,
});
const gaps = (r: TempoReading): number[] => r.beats.slice(1).map((t, i) => t - (r.beats[i] as number));
const change = (r: TempoReading, ...list: Adjustment[]): TempoReading => list.reduce(adjustReading, r);

describe('a moved pulse', () => {
  it('is pinned, and its neighbours follow smoothly as far as eight pulses', () => {
    const after = change(reading(), { kind: 'move', pulse: 20, seconds: 12.06 });
    expect(after.beats[20]).toBeCloseTo(12.06, 9);
    expect(after.pinned?.[20]).toBe(true);
    expect(after.confidence[20]).toBe(1);
    expect([after.beats[12], after.beats[28], after.beats[11]]).toEqual([8, 16, 7.5]);
    // Half a cosine, by hand: four pulses away half the way.
    expect(after.beats[16]).toBeCloseTo(10 + 0.03, 9);
    const steps = gaps(after);
    expect(Math.max(...steps.slice(1).map((g, i) => Math.abs(g - (steps[i] as number))))).toBeLessThan(0.03);
  });
  it('leaves what is pinned where it is', () => {
    const after = change(
      reading(),
      { kind: 'pin', pulse: 18, on: true },
      { kind: 'move', pulse: 20, seconds: 12.1 },
    );
    expect(after.beats[18]).toBe(11);
    expect(after.beats[19]).toBeCloseTo(11.55, 9);
  });
  it('cannot pass another', () => {
    expect(() => change(reading(), { kind: 'move', pulse: 20, seconds: 20 })).toThrow('would come before');
    expect(() => change(reading(), { kind: 'move', pulse: 99, seconds: 20 })).toThrow('no such pulse');
  });
  it('of a steady song moves the whole grid, and with a pin changes its tempo', () => {
    const steady = reading(41, 0.5, { steady: true, bpm: 120, gridOffsetSeconds: 2 });
    const moved = change(steady, { kind: 'move', pulse: 0, seconds: 2.03 });
    expect(moved).toMatchObject({ steady: true, bpm: 120 });
    expect(moved.gridOffsetSeconds).toBeCloseTo(2.03, 9);
    expect(moved.beats[40]).toBeCloseTo(22.03, 9);
    // 40 pulses in 19.8 s instead of 20: 120 · 20 / 19.8 = 121.2121 a minute.
    const faster = change(moved, { kind: 'move', pulse: 40, seconds: 21.83 });
    expect(faster.bpm).toBeCloseTo(121.2121, 3);
    expect(faster.beats[20]).toBeCloseTo(11.93, 9);
    expect(faster.beats[0]).toBeCloseTo(2.03, 9);
  });
});

describe('from a bar on', () => {
  const withShort = reading(42, 0.5, {
    meters: [
      { bar: 1, numerator: 4, denominator: 4 },
      { bar: 5, numerator: 2, denominator: 4 },
      { bar: 6, numerator: 4, denominator: 4 },
    ],
  });
  it('twice as fast: the pulses between come in, what follows has other bar numbers', () => {
    const twice = change(withShort, { kind: 'double-from', bar: 3 });
    expect(twice.beats.slice(0, 12)).toEqual([2, 2.5, 3, 3.5, 4, 4.5, 5, 5.5, 6, 6.25, 6.5, 6.75]);
    expect(twice.meters.map((m) => [m.bar, m.numerator])).toEqual([
      [1, 4],
      [7, 2],
      [9, 4],
    ]);
    const back = change(twice, { kind: 'half-from', bar: 3 });
    expect(back.beats).toEqual(withShort.beats);
    expect(back.meters).toEqual(withShort.meters);
  });
  it('another meter, for some bars or on', () => {
    const three = change(reading(), { kind: 'meter-from', bar: 3, bars: 2, numerator: 3, denominator: 4 });
    expect(three.meters.map((m) => [m.bar, m.numerator])).toEqual([
      [1, 4],
      [3, 3],
      [5, 4],
    ]);
    // Bars 1 and 2 have 8 pulses, 3 and 4 six: bar 5 opens with pulse 14.
    expect(barOfPulse(three, 14)).toEqual({ bar: 5, start: 14, pulses: 4 });
    expect(
      change(three, { kind: 'meter-from', bar: 2, bars: null, numerator: 4, denominator: 4 }).meters.map(
        (m) => [m.bar, m.numerator],
      ),
    ).toEqual([
      [1, 4],
      [3, 3],
      [5, 4],
    ]);
    expect(
      change(three, { kind: 'meter-from', bar: 3, bars: 2, numerator: 4, denominator: 4 }).meters.length,
    ).toBe(1);
    expect(() =>
      change(reading(), { kind: 'meter-from', bar: 3, bars: null, numerator: 5, denominator: 7 }),
    ).toThrow('impossible');
  });
  it('past the end there is nothing to change', () => {
    expect(() => change(reading(), { kind: 'half-from', bar: 30 })).toThrow('no pulses');
  });
});

describe('a bar more or fewer', () => {
  const pinned = change(reading(), { kind: 'pin', pulse: 8, on: true }, { kind: 'pin', pulse: 20, on: true });
  it('is spread between the pins, and comes out again', () => {
    const more = change(pinned, { kind: 'bar-more', pulse: 13 });
    expect(more.beats.length).toBe(44);
    expect([more.beats[8], more.beats[24]]).toEqual([6, 12]);
    gaps(more)
      .slice(8, 24)
      .forEach((g) => expect(g).toBeCloseTo(0.375, 9));
    const back = change(more, { kind: 'bar-fewer', pulse: 13 });
    back.beats.forEach((t, i) => expect(t).toBeCloseTo(pinned.beats[i] as number, 9));
  });
  it('without pins stays in the bar at hand', () => {
    expect(change(reading(), { kind: 'bar-more', pulse: 9 }).beats.slice(8, 17)).toEqual([
      6, 6.25, 6.5, 6.75, 7, 7.25, 7.5, 7.75, 8,
    ]);
    expect(change(reading(), { kind: 'bar-fewer', pulse: 9 }).beats.slice(8, 13)).toEqual([6, 7, 8, 9, 10]);
  });
  it('not where too few pulses lie', () => {
    const tight = change(
      reading(),
      { kind: 'pin', pulse: 8, on: true },
      { kind: 'pin', pulse: 10, on: true },
    );
    expect(() => change(tight, { kind: 'bar-fewer', pulse: 9 })).toThrow('too few');
  });
});

it('whatever is corrected: pins hold, pulses rise, a map comes of it, and it survives being accepted (2,000 corrections, seed 21)', () => {
  const random = createRandom(21);
  let now = reading();
  for (let n = 0; n < 2000; n++) {
    if (n % 40 === 0)
      now = reading(30 + Math.floor(40 * random()), 0.4 + 0.2 * random(), {
        firstDownbeat: Math.floor(4 * random()),
      });
    const pulse = Math.floor(random() * now.beats.length);
    const bar = 1 + Math.floor(random() * 8);
    const kinds: Adjustment[] = [
      { kind: 'move', pulse, seconds: (now.beats[pulse] as number) + 0.3 * (random() - 0.5) },
      { kind: 'move', pulse, seconds: (now.beats[pulse] as number) + 0.05 * (random() - 0.5) },
      { kind: 'pin', pulse, on: random() < 0.6 },
      { kind: 'double-from', bar },
      { kind: 'half-from', bar },
      { kind: 'bar-more', pulse },
      { kind: 'bar-fewer', pulse },
      {
        kind: 'meter-from',
        bar,
        bars: random() < 0.5 ? null : 1 + Math.floor(3 * random()),
        numerator: 2 + Math.floor(4 * random()),
        denominator: 4,
      },
      { kind: 'bar-line-at', seconds: now.beats[pulse] as number },
    ];
    const chosen = kinds[Math.floor(random() * kinds.length)] as Adjustment;
    if (now.beats.length > 300 && chosen.kind === 'double-from') continue;
    let next: TempoReading;
    try {
      next = adjustReading(now, chosen);
    } catch (cause) {
      expect(cause).toBeInstanceOf(RangeError);
      continue;
    }
    expect(next.confidence.length).toBe(next.beats.length);
    expect(next.pinned === undefined || next.pinned.length === next.beats.length).toBe(true);
    expect(gaps(next).filter((g) => !(g > 0))).toEqual([]);
    const pinned = now.beats.map((t, i) => ({ t, i })).filter(({ i }) => now.pinned?.[i]);
    if (chosen.kind === 'move')
      expect(pinned.filter(({ t, i }) => i !== pulse && next.beats[i] !== t)).toEqual([]);
    if (chosen.kind.startsWith('bar-') && chosen.kind !== 'bar-line-at')
      expect(pinned.filter(({ t }) => !next.beats.some((x) => Math.abs(x - t) < 1e-9))).toEqual([]);
    if (next.beats.length >= 2) expect(readingToMap(next).tempo.points.length).toBeGreaterThan(1);
    const kept = applyChanges(emptySession('x'), [acceptEdit(next, null)]);
    if (kept.ok) expect(acceptedReading(kept.session, null)?.beats).toEqual(next.beats);
    now = next.beats.length < 12 ? reading() : next;
  }
});

describe('other readings', () => {
  it('three for two and back, half a pulse later; the downbeat stays', () => {
    const two = reading(41, 0.5, { firstDownbeat: 4, steady: true, bpm: 120, gridOffsetSeconds: 2 });
    const faster = change(two, { kind: 'three-halves' });
    expect(faster.bpm).toBeCloseTo(180, 9);
    expect(faster.beats[faster.firstDownbeat]).toBeCloseTo(4, 9);
    gaps(faster).forEach((g) => expect(g).toBeCloseTo(1 / 3, 9));
    const slower = change(two, { kind: 'two-thirds' });
    expect(slower.bpm).toBeCloseTo(80, 9);
    expect(slower.beats[slower.firstDownbeat]).toBeCloseTo(4, 9);
    gaps(slower).forEach((g) => expect(g).toBeCloseTo(0.75, 9));
    const later = change(two, { kind: 'between' });
    expect(later.beats[later.firstDownbeat]).toBeCloseTo(4.25, 9);
    expect(later.confidence.length).toBe(later.beats.length);
  });
});

it('a tempo nobody can play is a map like others, but is not said to be the session’s', () => {
  const fast = change(
    reading(40, 0.25, { steady: true, bpm: 240, gridOffsetSeconds: 2 }),
    { kind: 'double' },
    { kind: 'double' },
  );
  expect(acceptEdit(fast, null)).toMatchObject({ facts: { steady: false, bpm: null } });
  const slow = writtenEdit(
    {
      schemaVersion: 1,
      points: [
        { quarters: 0, seconds: 0 },
        { quarters: 1, seconds: 12 },
      ],
      meters: [{ bar: 1, numerator: 4, denominator: 4 }],
    },
    reading(8),
    null,
  );
  expect(slow).toMatchObject({ facts: { steady: false, bpm: null } });
});
