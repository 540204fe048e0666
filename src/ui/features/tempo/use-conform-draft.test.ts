import { joined } from './use-conform-draft';

it('ranges of bars stand in order; those that touch or overlap are one', () => {
  expect(joined([])).toEqual([]);
  expect(
    joined([
      { fromBar: 9, toBar: 12 },
      { fromBar: 1, toBar: 2 },
    ]),
  ).toEqual([
    { fromBar: 1, toBar: 2 },
    { fromBar: 9, toBar: 12 },
  ]);
  expect(
    joined([
      { fromBar: 1, toBar: 4 },
      { fromBar: 5, toBar: 6 },
      { fromBar: 3, toBar: 3 },
      { fromBar: 8, toBar: 8 },
    ]),
  ).toEqual([
    { fromBar: 1, toBar: 6 },
    { fromBar: 8, toBar: 8 },
  ]);
});
