import { createRandom } from '../units';
import { createSongMap, mapFromCsv, mapToCsv, songMapToFile, type TempoPoint } from './index';

const meters = [{ bar: 1, numerator: 3, denominator: 4 }];

it('a map survives its table, ramps and all (seed 6)', () => {
  const random = createRandom(6);
  const points: TempoPoint[] = [{ quarters: -3, seconds: 0.25 }];
  for (let i = 0; i < 200; i++)
    points.push({
      quarters: (points.at(-1) as TempoPoint).quarters + 1 + random(),
      seconds: (points.at(-1) as TempoPoint).seconds + 0.4 + random(),
      ...(random() < 0.3 && i < 199 ? { ramp: 0.5 + random() } : {}),
    });
  const map = createSongMap(points, meters);
  const text = mapToCsv(map);
  expect(text.split('\r\n').slice(0, 2)).toEqual([
    'place,quarters,seconds,bpm,then',
    expect.stringMatching(/^0\.1,-3,0\.25,/),
  ]);
  expect(mapFromCsv(text, { meters })).toEqual({ ok: true, value: songMapToFile(map) });
});
it('reads tables of other hands: semicolons, decimal commas, other columns, a byte order mark', () => {
  const made = mapFromCsv('\uFEFFnote;Seconds;Quarters\r\nfirst;2,5;0\n;4,5;4\n\n', { meters });
  expect(made).toMatchObject({
    ok: true,
    value: {
      points: [
        { quarters: 0, seconds: 2.5 },
        { quarters: 4, seconds: 4.5 },
      ],
    },
  });
});
it('says the line and what is wrong with it', () => {
  expect(mapFromCsv('bar,time\n1,2', { meters })).toMatchObject({ ok: false, error: { line: 1 } });
  expect(mapFromCsv('quarters,seconds\n0,1\n4,x', { meters })).toMatchObject({
    ok: false,
    error: { line: 3 },
  });
  expect(mapFromCsv('quarters,seconds\n4,1\n0,3', { meters })).toMatchObject({
    ok: false,
    error: { line: null },
  });
  expect(mapFromCsv('', { meters })).toMatchObject({ ok: false });
});
