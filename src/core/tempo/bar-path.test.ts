import { everySeconds, madeStreams } from '../../../tests/support/made-streams';
import { createRandom } from '../units';
import {
  barsOf,
  beginnings,
  eachStep,
  type Lane,
  layBars,
  layEighths,
  OVERSURE,
  withOtherBars,
} from './bar-path';
import { type BarReading, EVEN_STRUCTURES, IN_EIGHTHS, readBars } from './bar-readings';
import type { Role } from './streams';

const FOUR: BarReading = {
  structure: EVEN_STRUCTURES[0] as BarReading['structure'],
  offset: 0,
  score: 0,
  margin: 0,
};
const THREE = EVEN_STRUCTURES.filter((s) => s.name === '3/4');
const IN_FOUR: Partial<Record<Role, string>> = {
  kick: 'X...X...',
  snare: '..X...X.',
  hat: 'xxxxxxxx',
  bass: 'X...x...',
  harmony: 'X.......',
};
const IN_TWO: Partial<Record<Role, string>> = {
  kick: 'X...',
  snare: '..X.',
  hat: 'xxxx',
  bass: 'X...',
  harmony: 'X...',
};
const IN_THREE: Partial<Record<Role, string>> = {
  kick: 'X.....',
  snare: '..x.x.',
  hat: 'x.x.x.',
  bass: 'X.....',
  harmony: 'X.....',
};

/** Bars of so many pulses of half a second, and all their pulses. */
function song(lengths: readonly number[]) {
  const lines = lengths.reduce((all, n) => [...all, (all.at(-1) as number) + 0.5 * n], [1]);
  const streams = madeStreams(
    lines,
    (bar) => (lengths[bar] === 2 ? IN_TWO : lengths[bar] === 3 ? IN_THREE : IN_FOUR),
    6,
    21,
  );
  return {
    streams,
    pulses: everySeconds(
      1,
      0.5,
      lengths.reduce((a, n) => a + n, 0),
    ),
  };
}
const fours = (n: number): number[] => new Array<number>(n).fill(4);

it('finds single half bars, and none where there are none', () => {
  const { streams, pulses } = song([...fours(9), 2, ...fours(11), 2, ...fours(8)]);
  expect(layBars(pulses, streams, FOUR, THREE).meters).toEqual([
    { bar: 1, numerator: 4, denominator: 4 },
    { bar: 10, numerator: 2, denominator: 4 },
    { bar: 11, numerator: 4, denominator: 4 },
    { bar: 22, numerator: 2, denominator: 4 },
    { bar: 23, numerator: 4, denominator: 4 },
  ]);
  const plain = song(fours(30));
  expect(layBars(plain.pulses, plain.streams, FOUR, THREE).meters).toEqual([
    { bar: 1, numerator: 4, denominator: 4 },
  ]);
});

it('finds a passage in another meter, but not one of a bar or two', () => {
  const { streams, pulses } = song([...fours(12), ...new Array<number>(8).fill(3), ...fours(12)]);
  expect(layBars(pulses, streams, FOUR, THREE).meters).toEqual([
    { bar: 1, numerator: 4, denominator: 4 },
    { bar: 13, numerator: 3, denominator: 4 },
    { bar: 21, numerator: 4, denominator: 4 },
  ]);
  const short = song([...fours(20), 3, 3]);
  expect(layBars(short.pulses, short.streams, FOUR, THREE).meters.slice(0, 1)).toEqual([
    { bar: 1, numerator: 4, denominator: 4 },
  ]);
});

it('begins with the bar the song begins with when it was told another', () => {
  const { streams, pulses } = song(fours(24));
  expect(layBars(pulses, streams, FOUR, []).firstDownbeat).toBe(0);
});

it('says how sure a bar begins at each pulse: nearly sure where all say so, hardly where nothing tells one pulse from another', () => {
  const { streams, pulses } = song(fours(24));
  const { begins } = layBars(pulses, streams, FOUR, []);
  begins.forEach((p, i) => {
    if (i % 4 === 0) expect(p).toBeGreaterThan(0.9);
    else expect(p).toBeLessThan(0.15);
  });
  const alike = madeStreams(
    Array.from({ length: 25 }, (_, i) => 1 + 2 * i),
    () => ({ hat: 'x.x.x.x.' }),
    6,
    5,
  );
  layBars(pulses, alike, FOUR, []).begins.forEach((p) => expect(p).toBeLessThan(0.8));
});

it('sums over all ways through as plain counting of every one does', () => {
  const random = createRandom(11);
  const lanes: Lane[] = [
    { structure: FOUR.structure, places: 4, first: 0 },
    { structure: THREE[0] as Lane['structure'], places: 3, first: 4 },
  ];
  const several: { from: number; to: number; cost: number }[] = [];
  eachStep(lanes, (from, to, cost) => several.push({ from, to, cost }));
  const values = Array.from({ length: 5 }, () => Float64Array.from({ length: 7 }, () => 6 * random()));
  const total = new Array<number>(5).fill(0);
  let all = 0;
  const walk = (way: readonly number[], weight: number): void => {
    const at = way.length - 1;
    const here = weight * Math.exp(((values[at] as Float64Array)[way[at] as number] as number) / OVERSURE);
    if (way.length === values.length) {
      all += here;
      way.forEach((s, i) => {
        if (s === 0 || s === 4) total[i] = (total[i] as number) + here;
      });
      return;
    }
    for (const { from, to, cost } of several)
      if (from === way[at]) walk([...way, to], here * Math.exp(-cost / OVERSURE));
  };
  for (let s = 0; s < 7; s++) walk([s], 1);
  beginnings({ values, lanes, count: 7 }).forEach((p, i) =>
    expect(p).toBeCloseTo((total[i] as number) / all, 10),
  );
});

/** Bars of so many eighths of 0.2 s, the eighths, and the best reading of them in that structure. */
function inEighths(lengths: readonly number[], name: string) {
  const patterns = (n: number | undefined): Partial<Record<Role, string>> =>
    n === 7
      ? { kick: 'X...x..', snare: '..X...X', hat: 'xoxoxoo', bass: 'X...x..', harmony: 'X......' }
      : n === 6
        ? { kick: 'X.....', snare: '..x.x.', hat: 'xoxoxo', bass: 'X.....', harmony: 'X.....' }
        : { kick: 'X...X...', snare: '..X...X.', hat: 'xoxoxoxo', bass: 'X...x...', harmony: 'X.......' };
  const lines = lengths.reduce((all, n) => [...all, (all.at(-1) as number) + 0.2 * n], [1]);
  const streams = madeStreams(lines, (bar) => patterns(lengths[bar]), 6, 33);
  const units = everySeconds(
    1,
    0.2,
    lengths.reduce((a, n) => a + n, 0),
  );
  return {
    streams,
    units,
    reading: readBars(units, streams, IN_EIGHTHS).find((r) => r.structure.name === name) as BarReading,
  };
}
const sevens = (n: number): number[] => new Array<number>(n).fill(7);
const eights = (n: number): number[] => new Array<number>(n).fill(8);

it('finds single bars of four and three among bars of seven', () => {
  const { streams, units, reading } = inEighths([...sevens(9), 8, ...sevens(8), 6, ...sevens(9)], '7/8');
  const whole = withOtherBars(reading, units, streams) as BarReading;
  expect(whole.score).toBeGreaterThan(reading.score);
  const laid = layEighths(units, streams, whole);
  const seven = { numerator: 7, denominator: 8, groups: [2, 2, 3] };
  expect(barsOf(laid)).toMatchObject({
    firstDownbeat: 0,
    meters: [
      { bar: 1, ...seven },
      { bar: 10, numerator: 4, denominator: 4 },
      { bar: 11, ...seven },
      { bar: 19, numerator: 3, denominator: 4 },
      { bar: 20, ...seven },
    ],
  });
  // Pulses by hand: three a bar of seven (2 + 2 + 3), four of four, three of three.
  expect(laid).toHaveLength(26 * 3 + 4 + 3);
  expect(laid.reduce((a, p) => a + p.units, 0)).toBe(units.length);
});

it('finds single bars of seven eighths among bars of four, and says nothing where there are none', () => {
  const { streams, units, reading } = inEighths([...eights(8), 7, ...eights(9), 7, ...eights(8)], '4/4');
  const whole = withOtherBars(reading, units, streams) as BarReading;
  expect(
    barsOf(layEighths(units, streams, whole)).meters.map((m) => `${m.bar} ${m.numerator}/${m.denominator}`),
  ).toEqual(['1 4/4', '9 7/8', '10 4/4', '19 7/8', '20 4/4']);
  for (const [lengths, name] of [
    [eights(26), '4/4'],
    [sevens(26), '7/8'],
  ] as const) {
    const plain = inEighths(lengths, name);
    expect(withOtherBars(plain.reading, plain.units, plain.streams)).toBeNull();
  }
});
