import {
  type ColumnChoice,
  COLUMN_IDS,
  FIRST_CHOICE,
  keptText,
  layOut,
  moved,
  readChoice,
} from './sheet-columns';

const ALL: ColumnChoice = { ...FIRST_CHOICE, shown: new Set(COLUMN_IDS) };

it('fills the sheet, whatever its width, and gives names of the room a wide one offers', () => {
  for (const choice of [FIRST_CHOICE, ALL])
    for (const width of [512, 700, 812, 1100, 1400, 2092]) {
      const { columns, widths } = layOut(choice, width);
      expect(columns.reduce((sum, id) => sum + widths[id], 66 + 30)).toBeCloseTo(width, 9);
    }
  expect(layOut(FIRST_CHOICE, 812).before).toBe(66 + 232 + 150);
  expect(layOut(FIRST_CHOICE, 2092).before).toBeGreaterThan(66 + 400 + 150);
});

it('leaves out what has no room, says so, and keeps name and waveform', () => {
  const { columns, leftOut, wave } = layOut(ALL, 400);
  expect(columns).toEqual(['name', 'wave']);
  expect(leftOut).toEqual(['kind', 'role', 'position', 'bus', 'level', 'pan', 'peak']);
  expect(wave).toBe(72);
  expect(layOut(ALL, 1400).leftOut).toEqual([]);
});

it('keeps the columns that were chosen, in their order and width', () => {
  const choice = { ...moved(moved(ALL, 'peak', -1), 'name', 1), widths: { name: 300, level: 99 } };
  expect(choice.order.slice(0, 2)).toEqual(['kind', 'name']);
  expect(choice.order.slice(-2)).toEqual(['peak', 'wave']);
  expect(readChoice(keptText(choice))).toEqual(choice);
  expect(layOut(choice, 1400).widths).toMatchObject({ name: 300, level: 99 });
});

it('moves past what is not shown, and not beyond the ends', () => {
  expect(moved(FIRST_CHOICE, 'wave', -1).order.filter((id) => FIRST_CHOICE.shown.has(id))).toEqual([
    'name',
    'wave',
    'kind',
    'peak',
  ]);
  expect(moved(FIRST_CHOICE, 'name', -1)).toBe(FIRST_CHOICE);
  expect(moved(FIRST_CHOICE, 'peak', 1)).toBe(FIRST_CHOICE);
});

it.each([
  undefined,
  '',
  '{',
  'null',
  '[]',
  '{"order":5,"shown":[],"widths":{}}',
  '{"order":["name"],"shown":["x",3],"widths":{}}',
])('takes what cannot be read (%s) as it comes', (kept) => expect(readChoice(kept)).toEqual(FIRST_CHOICE));

it('reads what an older or newer page kept: unknown columns go, new ones come last, widths stay within reason', () => {
  const kept = JSON.stringify({
    order: ['peak', 'mood', 'peak', 'name'],
    shown: ['peak', 'mood', 'level'],
    widths: { name: 9, peak: 1e9, mood: 50, wave: 10, level: 70.4 },
  });
  const choice = readChoice(kept);
  expect(choice.order).toEqual([
    'peak',
    'name',
    ...COLUMN_IDS.filter((id) => id !== 'peak' && id !== 'name'),
  ]);
  expect([...choice.shown]).toEqual(['peak', 'level']);
  expect(choice.widths).toEqual({ name: 140, level: 70 });
});
