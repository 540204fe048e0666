import { createRandom, dbToGain, gainToDb, growing, roundTo, utf8Bytes, utf8Text } from './index';

it('keeps a growing list in order over its parts (seed 1)', () => {
  const random = createRandom(1);
  const list = growing((n) => new Float32Array(n));
  const all = Array.from({ length: 140_001 }, () => Math.fround(random()));
  all.forEach((x) => list.push(x));
  expect(list.toArray()).toEqual(Float32Array.from(all));
  expect(growing((n) => new Int16Array(n)).toArray()).toHaveLength(0);
});
it('writes and reads UTF-8 as the platform does (seed 2)', () => {
  const random = createRandom(2);
  for (let i = 0; i < 300; i++) {
    const text =
      Array.from({ length: 20 }, () =>
        String.fromCodePoint(Math.floor(random() * (random() < 0.5 ? 0x250 : 0xd7ff)) + 1),
      ).join('') + '🥁';
    expect(Buffer.from(utf8Bytes(text)).equals(Buffer.from(text, 'utf8'))).toBe(true);
    expect(utf8Text(Buffer.from(text, 'utf8'))).toBe(text);
  }
  expect(utf8Text(Uint8Array.of(0x61, 0xff, 0xc3, 0x62))).toBe('a\ufffd\ufffdb');
});
it('turns dB into gain and back', () => {
  expect(dbToGain(-6.0206)).toBeCloseTo(0.5, 5);
  expect(gainToDb(0.5)).toBeCloseTo(-6.0206, 4);
  expect(gainToDb(0)).toBe(-Infinity);
  expect(roundTo(1.23456, 2)).toBe(1.23);
});
