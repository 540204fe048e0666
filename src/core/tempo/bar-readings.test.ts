import { everySeconds, madeStreams } from '../../../tests/support/made-streams';
import { EVEN_STRUCTURES, gridGain, readBars, UNEVEN_STRUCTURES } from './bar-readings';
import type { Role } from './streams';

const read = (barSeconds: number, unitSeconds: number, patterns: Partial<Record<Role, string>>, lead = 0) => {
  const bars = everySeconds(2, barSeconds, 33);
  const path = everySeconds(
    2 - lead * unitSeconds,
    unitSeconds,
    Math.floor((32 * barSeconds) / unitSeconds) + lead,
  );
  return readBars(
    path,
    madeStreams(bars, () => patterns, 7, 11),
    [...EVEN_STRUCTURES, ...UNEVEN_STRUCTURES],
  );
};

it.each<[string, number, number, Partial<Record<Role, string>>]>([
  [
    '4/4',
    2,
    0.5,
    { kick: 'X.......X.x.....', snare: '....X.......X...', hat: 'x.x.x.x.x.x.x.x.', harmony: 'X...' },
  ],
  [
    '4/4 half-time',
    1.76,
    0.44,
    { kick: 'X.....x.........', snare: '........X.......', hat: 'x.x.x.x.x.x.x.x.', harmony: 'X...' },
  ],
  ['3/4', 1.5, 0.5, { kick: 'X..', snare: '.xx', hat: 'xxxxxx', bass: 'X..', harmony: 'X..' }],
  [
    '5/4',
    2.4,
    0.48,
    { kick: 'X..x..X...', snare: '....X...X.', hat: 'xxxxxxxxxx', bass: 'X..x..X...', harmony: 'X....' },
  ],
  ['6/8', 2, 1, { kick: 'X.....', snare: '...X..', hat: 'xxxxxx', bass: 'X..x..', harmony: 'X.....' }],
  [
    '7/8',
    1.47,
    0.21,
    { kick: 'X...x..', snare: '..X...X', hat: 'xoxoxoo', bass: 'X...x..', harmony: 'X......' },
  ],
])('reads %s, its downbeat and nothing else', (name, bar, unit, patterns) => {
  const best = read(bar, unit, patterns, 2)[0];
  expect(best?.structure.name).toBe(name);
  const units = (best?.structure.pulses ?? []).reduce((a, p) => a + p, 0);
  expect(best?.offset).toBeCloseTo(2 % units, 6);
});

it('sees that a path runs between the pulses', () => {
  const bars = everySeconds(2, 2, 33);
  const path = everySeconds(2.25, 0.5, 126);
  const best = readBars(
    path,
    madeStreams(
      bars,
      () => ({ kick: 'X...X...', snare: '..X...X.', bass: 'X...X...', harmony: 'X.......' }),
      6,
      12,
    ),
    EVEN_STRUCTURES,
  )[0];
  expect((best?.offset ?? 0) % 1).toBeCloseTo(0.5, 6);
});

it('hits by chance are worth little more than nothing', () => {
  const even = Float64Array.from({ length: 1000 }, (_, i) => -0.1 + (0.2 * ((i * 377) % 1000)) / 1000);
  const near = Float64Array.from({ length: 1000 }, (_, i) => 0.01 * Math.sin(i));
  const strength = new Float32Array(1000).fill(1);
  expect(gridGain(even, strength, 0.2)).toBeLessThan(10);
  // By hand: a normal spread of about 7 ms in cells of 200 ms gains ln(0.2 / (0.007 · √(2πe))) = 1.93 a hit.
  expect(gridGain(near, strength, 0.2) / 1000).toBeGreaterThan(1.6);
});

it('of two levels that fit alike the one whose bar is as long as a chord is likelier', () => {
  const streams = madeStreams(
    everySeconds(2, 3.4, 25),
    () => ({ chords: 'xxxxxxxx', harmony: 'X.......' }),
    6,
    13,
  );
  const best = (unit: number) =>
    readBars(everySeconds(2, unit, Math.floor((24 * 3.4) / unit)), streams, EVEN_STRUCTURES)[0];
  const [slow, fast] = [best(0.85), best(0.425)];
  expect(slow?.score).toBeGreaterThan((fast?.score ?? 0) + 3);
});

it('eighths on all thirds of the pulse are a compound meter, on the last third only they swing', () => {
  const bar = { kick: 'X.....X.....', snare: '...X.....X..', bass: 'X.....X.....', harmony: 'X...........' };
  const best = (hat: string): string | undefined =>
    readBars(
      everySeconds(2, 0.6, 97),
      madeStreams(everySeconds(2, 2.4, 25), () => ({ ...bar, hat }), 7, 14),
      EVEN_STRUCTURES,
    )[0]?.structure.name;
  expect(best('xooxooxooxoo')).not.toBe('4/4 swung');
  expect(best('x.xx.xx.xx.x')).toBe('4/4 swung');
});
