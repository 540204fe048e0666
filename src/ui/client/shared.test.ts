import { createRandom } from '@/core/units';
import { shared } from './shared';

it('keeps what did not change, by identity, and shows what did', () => {
  const before = {
    a: [
      { id: 1, x: [1, 2] },
      { id: 2, x: [] },
    ],
    b: { c: null },
    d: 'text',
  };
  const after = {
    a: [
      { id: 1, x: [1, 2] },
      { id: 2, x: [3] },
      { id: 3, x: [] },
    ],
    b: { c: null },
    d: 'text',
  };
  const out = shared(before, after);
  expect(out).toEqual(after);
  expect(out.a[0]).toBe(before.a[0]);
  expect(out.b).toBe(before.b);
  expect(out.a[1]).not.toBe(before.a[1]);
  expect(shared(before, JSON.parse(JSON.stringify(before)))).toBe(before);
});

it('tells apart what only looks alike', () => {
  expect(shared({ a: undefined }, { b: undefined })).toEqual({ b: undefined });
  expect(shared([1], { 0: 1 })).toEqual({ 0: 1 });
  expect(shared({ a: 1, b: 2 }, { a: 1 })).toEqual({ a: 1 });
  expect(shared([1, 2], [1])).toEqual([1]);
  expect(shared(null, {})).toEqual({});
  expect(shared({ a: {} }, { a: null })).toEqual({ a: null });
});

it('always equals the newer value (seed 9)', () => {
  const random = createRandom(9);
  const value = (depth: number): unknown => {
    const kind = random();
    if (depth === 0 || kind < 0.4) return [null, 0, 1, '', 'x', true][Math.floor(random() * 6)];
    const n = Math.floor(random() * 4);
    return kind < 0.7
      ? Array.from({ length: n }, () => value(depth - 1))
      : Object.fromEntries(Array.from({ length: n }, (_, i) => ['abcd'[i], value(depth - 1)]));
  };
  for (let n = 0; n < 3000; n++) {
    const after = value(4);
    expect(shared(value(4), after)).toEqual(after);
  }
});
