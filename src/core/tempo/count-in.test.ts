import { withoutCountIn } from './count-in';
import type { Role, Stream } from './streams';

const BAR = 2;
/** Pulses of so many bars of 4/4 at 120. */
const pulses = (bars: number): number[] => Array.from({ length: 4 * bars }, (_, i) => 1 + 0.5 * i);
const at = (bar: number, pulse = 0): number => 1 + BAR * (bar - 1) + 0.5 * pulse;
const stream = (role: Role, seconds: readonly number[], strength = 1): Stream => ({
  role,
  seconds,
  strength: seconds.map(() => strength),
  swells: false,
  own: [],
});
const bars = (n: number) => ({
  firstDownbeat: 0,
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
  begins: pulses(n).map((_, i) => Number(i % 4 === 0)),
});
/** A band from a bar on: kick and bass on one and three, snare on two and four, hats in eighths. */
const band = (from: number, to: number): Stream[] => {
  const own = Array.from({ length: to - from }, (_, k) => from + k);
  return [
    stream(
      'kick',
      own.flatMap((b) => [at(b), at(b, 2)]),
    ),
    stream(
      'bass',
      own.flatMap((b) => [at(b), at(b, 2)]),
    ),
    stream(
      'snare',
      own.flatMap((b) => [at(b, 1), at(b, 3)]),
    ),
    stream(
      'hat',
      own.flatMap((b) => Array.from({ length: 8 }, (_, i) => at(b, i / 2))),
    ),
  ];
};
const dropped = (streams: readonly Stream[]): number =>
  withoutCountIn(pulses(12), bars(12), streams).firstDownbeat / 4;

it.each<[string, readonly Stream[], number]>([
  ['nothing before the band', band(1, 12), 0],
  [
    'four strokes of the sticks',
    [
      stream(
        'hat',
        [0, 1, 2, 3].map((p) => at(1, p)),
      ),
      ...band(2, 12),
    ],
    1,
  ],
  [
    'one three, one two three four',
    [stream('snare', [at(1), at(1, 2), ...[0, 1, 2, 3].map((p) => at(2, p))]), ...band(3, 12)],
    2,
  ],
  [
    'a pickup of the bass on the last beat of the count',
    [
      stream(
        'hat',
        [0, 1, 2, 3].map((p) => at(1, p)),
      ),
      stream('bass', [at(1, 3)]),
      ...band(2, 12),
    ],
    1,
  ],
  [
    'faint hits in the kick’s microphone',
    [
      stream(
        'hat',
        [0, 1, 2, 3].map((p) => at(1, p)),
      ),
      stream(
        'kick',
        [0, 1, 2, 3].map((p) => at(1, p)),
        0.1,
      ),
      ...band(2, 12),
    ],
    1,
  ],
  ['a click that begins two bars before', [stream('click', pulses(12)), ...band(3, 12)], 2],
  // Music, not a count.
  [
    'hats in eighths alone',
    [
      stream(
        'hat',
        Array.from({ length: 8 }, (_, i) => at(1, i / 2)),
      ),
      ...band(2, 12),
    ],
    0,
  ],
  ['four bars of claps', [stream('snare', pulses(4)), ...band(5, 12)], 0],
  [
    'a guitar alone on the pulses',
    [
      stream(
        'chords',
        [0, 1, 2, 3].map((p) => at(1, p)),
      ),
      ...band(2, 12),
    ],
    0,
  ],
  ['one stroke', [stream('hat', [at(1)]), ...band(2, 12)], 0],
  ['sticks, and no band that could be heard to come in', [stream('hat', pulses(12))], 0],
])('%s', (_, streams, count) => expect(dropped(streams)).toBe(count));

it('bars of another length keep their places', () => {
  const laid = {
    ...bars(12),
    meters: [
      { bar: 1, numerator: 4, denominator: 4 },
      { bar: 5, numerator: 2, denominator: 4 },
      { bar: 6, numerator: 4, denominator: 4 },
    ],
  };
  const counted = [
    stream(
      'hat',
      [0, 1, 2, 3].map((p) => at(1, p)),
    ),
    ...band(2, 12),
  ];
  expect(withoutCountIn(pulses(12), laid, counted)).toMatchObject({
    firstDownbeat: 4,
    meters: [
      { bar: 1, numerator: 4 },
      { bar: 4, numerator: 2 },
      { bar: 5, numerator: 4 },
    ],
  });
});
