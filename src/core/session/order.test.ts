import { createRandom } from '../units';
import { byOrder, keysInOrder, type Ordered } from './order';

const keyed = (ids: string, keys: readonly (string | undefined)[]) =>
  [...ids].map((id, i) => ({ id, orderKey: keys[i] }));

describe('keys of an order', () => {
  it('leaves what stands in order as it is', () => {
    expect(keysInOrder(keyed('abc', ['a0', 'a1', 'a2']))).toEqual(['a0', 'a1', 'a2']);
  });

  it('moves one thing when one thing moved', () => {
    const keys = keysInOrder(keyed('cab', ['a2', 'a0', 'a1']));
    expect(keys.slice(1)).toEqual(['a0', 'a1']);
    expect((keys[0] as string) < 'a0').toBe(true);
  });

  it('puts things in where two have one key', () => {
    const list = keyed('axb', ['a0', undefined, 'a0']);
    const keys = keysInOrder(list);
    expect(keys[0]).toBe('a0');
    expect((keys[1] as string) > 'a0' && (keys[1] as string) < (keys[2] as string)).toBe(true);
  });

  it('stays short, however often something is put in at one place', () => {
    let list = [
      { id: 'first', orderKey: 'a0' },
      { id: 'last', orderKey: 'a1' },
    ];
    let longest = 0;
    for (let n = 0; n < 1500; n++) {
      const next = [list[0], { id: `n${n}`, orderKey: undefined }, ...list.slice(1, 40)].map(
        (x) => x as Ordered,
      );
      const keys = keysInOrder(next);
      list = next.map((x, i) => ({ id: x.id, orderKey: keys[i] as string }));
      if (n % 100 === 0) expect([...list].sort(byOrder)).toEqual(list);
      longest = Math.max(longest, ...keys.map((k) => k.length));
    }
    expect(longest).toBeLessThanOrEqual(48);
  });

  it('gives keys that sort as the list, and keeps as many as can be, for any list', () => {
    const random = createRandom(19);
    for (let round = 0; round < 500; round++) {
      const list = Array.from({ length: Math.floor(random() * 12) }, (_, i) => ({
        id: String.fromCharCode(97 + i),
        orderKey:
          random() < 0.2 ? undefined : ['a0', 'a1', 'a2', 'a3', 'a4', 'a5', 'a1V'][Math.floor(random() * 7)],
      })).sort(() => random() - 0.5);
      const out = list.map((x, i) => ({ id: x.id, orderKey: keysInOrder(list)[i] as string }));
      expect([...out].sort(byOrder).map((x) => x.id)).toEqual(list.map((x) => x.id));
    }
  });
});
