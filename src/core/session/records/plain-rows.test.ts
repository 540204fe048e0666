import * as yup from 'yup';
import { createRandom } from '@/core/units';
import { ids, isOwnId, numbers, rows } from './plain-rows';

interface Pulse {
  readonly seconds: number;
  readonly confidence: number;
  readonly pinned?: boolean;
}
const fast = rows<Pulse>({
  seconds: numbers(-10, 10),
  confidence: numbers(0, 1),
  pinned: { type: 'boolean', optional: true },
}).required();
/** The same, a schema for each cell. */
const plain = yup
  .array(
    yup
      .object({
        seconds: yup.number().strict().min(-10).max(10).required(),
        confidence: yup.number().strict().min(0).max(1).required(),
        pinned: yup.boolean().strict(),
      })
      .strict()
      .noUnknown()
      .required(),
  )
  .strict()
  .max(100_000)
  .required();

it.each([1, 2, 3])('says yes and no as a schema for each cell does (seed %i)', (seed) => {
  const random = createRandom(seed);
  const pick = <T>(...from: T[]): T => from[Math.floor(random() * from.length)] as T;
  const cell = (): unknown => pick<unknown>(0, 0.5, 1, -0, 3, 11, -11, NaN, '1', null, true, {}, []);
  let good = 0;
  for (let n = 0; n < 400; n++) {
    const list = Array.from({ length: Math.floor(random() * 3) }, () => {
      const row: Record<string, unknown> = { seconds: random(), confidence: random() };
      if (random() < 0.3) row[pick('seconds', 'confidence', 'pinned', 'more')] = cell();
      if (random() < 0.1) delete row[pick('seconds', 'confidence')];
      return row;
    });
    const want = plain.isValidSync(list);
    expect([JSON.stringify(list), fast.isValidSync(list)]).toEqual([JSON.stringify(list), want]);
    if (want) good++;
  }
  expect(good).toBeGreaterThan(50);
});

it('names the first fault and its place', () => {
  const say = (value: unknown): string => {
    try {
      yup.object({ pulses: fast }).validateSync({ pulses: value });
      return '';
    } catch (error) {
      return (error as Error).message;
    }
  };
  expect(say([{ seconds: 1, confidence: 2 }])).toBe('pulses[0].confidence must be at most 1');
  expect(say([{ seconds: 1, confidence: 1 }, { seconds: 1 }])).toBe(
    'pulses[1].confidence is a required field',
  );
  expect(say([{ seconds: 1, confidence: 1, odd: 1 }])).toBe('pulses[0] has an unknown field');
  expect(say([1])).toBe('pulses[0] must be an object');
});

it('a name that every object answers to is no id', () => {
  for (const name of ['constructor', '__proto__', 'toString', 'hasOwnProperty', '', 'a b', 'x'.repeat(65)])
    expect([name, isOwnId(name)]).toEqual([name, false]);
  expect(isOwnId('t-1_A')).toBe(true);
  expect(ids(2).isValidSync(['a', 'b'])).toBe(true);
  expect(ids(2).isValidSync(['a', 'constructor'])).toBe(false);
  expect(ids(2).isValidSync(['a', 'b', 'c'])).toBe(false);
});
