import { createRandom } from '../units';
import { clickGrid, dialled, pulsesOfClick, strokesAt } from './click-grid';
import type { Stream } from './streams';

const click = (seconds: readonly number[], strength = seconds.map(() => 1)): Stream => ({
  role: 'click',
  seconds,
  strength,
  swells: false,
  own: [],
});
const places = Array.from({ length: 64 }, (_, i) => i);

it('a click decides tempo and place, however the band leans on it, to the sample', () => {
  const random = createRandom(5);
  for (const bpm of [97.37, 120, 111.5, 66.6]) {
    const exact = places.map((q) => 3.21 + (60 * q) / bpm);
    const strokes = exact.map((t) => Math.round(t * 48_000) / 48_000);
    // The band drags by 24 ms, and not evenly; faint echoes follow the strokes.
    const band = exact.map((t) => t + 0.024 + 0.01 * (random() - 0.5));
    const heard = strokes.flatMap((t) => [t, t + 0.03]);
    const found = strokesAt(band, [
      click(
        heard,
        heard.map((_, i) => (i % 2 === 0 ? 1 : 0.2)),
      ),
    ]);
    expect(found).toEqual(strokes);
    const grid = clickGrid(places, found ?? []);
    if (!grid) throw new Error('no grid');
    const taken = dialled(grid, 1, 31.5);
    expect(60 / taken.quarterSeconds).toBeCloseTo(bpm, 9);
    for (const q of [0, 63])
      expect(Math.abs(taken.offsetSeconds + q * taken.quarterSeconds - (exact[q] as number))).toBeLessThan(
        1 / 48_000,
      );
  }
});

it('a click on every other pulse, in eighths, or that stops, is enough', () => {
  const grid = (strokes: readonly number[]) => {
    const found = strokesAt(
      places.map((q) => 1 + 0.5 * q + 0.015),
      [click(strokes)],
    );
    return found && clickGrid(places, found);
  };
  const of = (list: readonly number[]) => list.map((q) => 1 + 0.5 * q);
  for (const strokes of [
    of(places.filter((q) => q % 2 === 0)),
    of(Array.from({ length: 127 }, (_, i) => i / 2)),
    of(places.slice(0, 20)),
  ])
    expect(grid(strokes)?.quarterSeconds).toBeCloseTo(0.5, 6);
  // Too few strokes, or far from every pulse: the band's own time.
  expect(grid(of(places.slice(0, 10)))).toBeNull();
  expect(grid(places.map((q) => 1.2 + 0.5 * q))).toBeNull();
});

it('a click that follows a map gives the pulses themselves', () => {
  const moving = places.map((q) => 1 + 0.5 * q + 0.2 * Math.sin(q / 8));
  const band = moving.map((t) => t - 0.02);
  const found = strokesAt(band, [click(moving)]) ?? [];
  expect(clickGrid(places, found)).toBeNull();
  expect(pulsesOfClick(band, found)).toEqual(moving);
  const half = moving.filter((_, i) => i < 30);
  expect(pulsesOfClick(band, strokesAt(band, [click(half)]) ?? [])).toBeNull();
});
