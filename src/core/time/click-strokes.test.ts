import { clickStrokes } from './click-strokes';
import { createSongMap } from './song-map';

const LETTER = { accent: 'D', pulse: 'p', part: 'x' } as const;
/** D = downbeat, p = pulse, x = part. */
const strokes = (list: ReturnType<typeof clickStrokes>): string =>
  list.map((s) => `${LETTER[s.stroke]}${Number(s.seconds.toFixed(4))}`).join(' ');

it('counts pulses with a downbeat, by hand: 3/4 at 120, one bar counted in', () => {
  const map = createSongMap(
    [
      { quarters: 0, seconds: 2 },
      { quarters: 3, seconds: 3.5 },
    ],
    [{ bar: 1, numerator: 3, denominator: 4 }],
  );
  expect(strokes(clickStrokes(map, 1, 0, 3.5))).toBe('D0.5 p1 p1.5 D2 p2.5 p3');
  expect(strokes(clickStrokes(map, 2, 1, 3))).toBe('D2 x2.25 p2.5 x2.75');
});

it('divides pulses where they lie in the music: dotted quarters in 6/8, through a change of tempo', () => {
  // 6/8 from 0 s: a dotted quarter lasts 0.75 s, then 1.5 s; thirds of it 0.25 and 0.5 s.
  const map = createSongMap(
    [
      { quarters: 0, seconds: 0 },
      { quarters: 1.5, seconds: 0.75 },
      { quarters: 3, seconds: 2.25 },
    ],
    [{ bar: 1, numerator: 6, denominator: 8 }],
  );
  expect(strokes(clickStrokes(map, 3, 1, 2.25))).toBe('D0 x0.25 x0.5 p0.75 x1.25 x1.75');
});

it('ends before a moment and gives nothing past it', () => {
  const map = createSongMap(
    [
      { quarters: 0, seconds: 1 },
      { quarters: 1, seconds: 1.5 },
    ],
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
  expect(clickStrokes(map, 4, 1, 1)).toEqual([]);
});
