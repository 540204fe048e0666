import { createSongMap } from '@/core/time';
import { histogramOf, timingRows } from './timing';

it('counts in steps of 4 ms, without what lies beyond', () => {
  const bins = histogramOf([0, 0.001, -0.003, 0.012, 0.2, -0.2]);
  expect(bins.filter((b) => b.hits > 0)).toEqual([
    { ms: -4, hits: 1 },
    { ms: 0, hits: 2 },
    { ms: 12, hits: 1 },
  ]);
});
it('rows of those that play enough, the most exact first', () => {
  const map = createSongMap(
    [
      { quarters: 0, seconds: 0 },
      { quarters: 2, seconds: 1 },
    ],
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
  const rows = timingRows(
    map,
    [
      { id: 'a', name: 'A', seconds: [0.51, 1.015, 1.505, 2.01] },
      { id: 'b', name: 'B', seconds: [0.5, 1] },
      { id: 'c', name: 'C', seconds: [0.49, 0.99, 1.49, 1.99, 2.49] },
    ],
    1,
  );
  expect(rows.map((r) => [r.id, r.hits, Number((1000 * r.late).toFixed(3))])).toEqual([
    ['c', 5, -10],
    ['a', 4, 10],
  ]);
});
