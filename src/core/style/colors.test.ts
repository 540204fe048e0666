import { createRandom } from '../units';
import {
  DEFAULT_STYLE,
  doubtsOfColors,
  freeColor,
  hexOf,
  lchOf,
  readableColor,
  shadeOf,
  spreadColors,
} from './index';

// Björn Ottosson, "A perceptual color space for image processing" (2020): sRGB red, lime, blue in OKLCH, hue in degrees; figures from memory.
it.each([
  ['#ff0000', 0.628, 0.2577, 29.23],
  ['#00ff00', 0.8664, 0.2948, 142.5],
  ['#0000ff', 0.452, 0.3132, 264.05],
  ['#ffffff', 1, 0, 0],
])('%s', (hex, l, c, h) => {
  const got = lchOf(hex);
  expect(got.lightness).toBeCloseTo(l, 3);
  expect(got.chroma).toBeCloseTo(c, 3);
  if (c > 0) expect(got.hue).toBeCloseTo(h, 1);
});

it('goes there and back (seed 6), and brings what no screen shows into reach', () => {
  const random = createRandom(6);
  for (let i = 0; i < 500; i++) {
    const hex = `#${Math.floor(random() * 0x1000000)
      .toString(16)
      .padStart(6, '0')}`;
    expect(hexOf(lchOf(hex))).toBe(hex);
    expect(hexOf({ lightness: random() * 1.4 - 0.2, chroma: random(), hue: random() * 900 - 400 })).toMatch(
      /^#[0-9a-f]{6}$/,
    );
  }
});

it('steps go from darker to lighter in one hue; a spread keeps its lightness', () => {
  const steps = Array.from({ length: 5 }, (_, i) => lchOf(shadeOf('#8a6cb4', 'steps', i, 5)));
  for (let i = 1; i < 5; i++)
    expect((steps[i] as { lightness: number }).lightness).toBeGreaterThan(
      (steps[i - 1] as { lightness: number }).lightness + 0.01,
    );
  expect(new Set(Array.from({ length: 12 }, (_, i) => shadeOf('#8a6cb4', 'spread', i, 12))).size).toBe(12);
  expect(shadeOf('#8a6cb4', 'folder', 3, 12)).toBe('#8a6cb4');
  expect(shadeOf('#8a6cb4', 'steps', 0, 1)).toBe('#8a6cb4');
});

it('doubts colours that vanish in a ground, and neighbours that look alike to some', () => {
  expect(
    doubtsOfColors([{ key: 'a', color: '#f0efe8' }]).map((d) => d.kind === 'contrast' && d.ground),
  ).toEqual(['paper']);
  expect(
    doubtsOfColors([{ key: 'a', color: '#222222' }]).map((d) => d.kind === 'contrast' && d.ground),
  ).toEqual(['dusk']);
  expect(
    doubtsOfColors([
      { key: 'a', color: '#3f7d4e' },
      { key: 'b', color: '#407c4f' },
    ]),
  ).toContainEqual({ kind: 'alike', key: 'a', other: 'b', sight: 'all' });
  // Red and green of one lightness: the classic pair (common practice, no source).
  const pair = [
    { key: 'a', color: hexOf({ lightness: 0.58, chroma: 0.12, hue: 35 }) },
    { key: 'b', color: hexOf({ lightness: 0.58, chroma: 0.12, hue: 120 }) },
  ];
  expect(doubtsOfColors(pair).filter((d) => d.kind === 'alike')).toMatchObject([{ sight: 'deuter' }]);
});

it('the colours we begin with, their steps, and hues spread over any number are clear to all', () => {
  const order = [...new Set([...DEFAULT_STYLE.folders.flatMap((f) => f.families), 'unknown' as const])];
  expect(doubtsOfColors(order.map((key) => ({ key, color: DEFAULT_STYLE.colors[key] })))).toEqual([]);
  for (const n of [2, 5, 8, 11, 14])
    expect(doubtsOfColors(spreadColors(n).map((color, i) => ({ key: String(i), color })))).toEqual([]);
  for (const color of Object.values(DEFAULT_STYLE.colors))
    expect(
      doubtsOfColors(
        [0, 1, 2, 3, 4, 5].map((i) => ({ key: String(i), color: shadeOf(color, 'steps', i, 6) })),
      ).filter((d) => d.kind === 'contrast'),
    ).toEqual([]);
});

it('moves a colour no further than it takes to stand out', () => {
  expect(readableColor('#71995f')).toBe('#71995f');
  for (const hex of ['#ffffff', '#000000', '#ffee00', '#00008b'])
    expect(doubtsOfColors([{ key: 'a', color: readableColor(hex) }])).toEqual([]);
});

it('a free colour is none that is taken, and one after the other they are told apart by eyes that see all hues', () => {
  const taken: string[] = [];
  for (let i = 0; i < 12; i++) taken.push(freeColor([null, ...taken]));
  expect(new Set(taken).size).toBe(12);
  const pairs = taken.flatMap((a, i) =>
    taken.slice(i + 1).map((b) => {
      const [x, y] = [lchOf(a), lchOf(b)];
      return Math.hypot(
        x.lightness - y.lightness,
        x.chroma - y.chroma,
        2 * Math.sqrt(x.chroma * y.chroma) * Math.sin(((x.hue - y.hue) * Math.PI) / 360),
      );
    }),
  );
  // 0.02 in OKLab is what an eye just tells apart side by side (own reading of its papers, from memory).
  expect(Math.min(...pairs)).toBeGreaterThan(0.05);
});
