import { sheetColumns } from './sheet-columns';

it('fills the sheet, whatever its width, and gives names of the room a wide one offers', () => {
  for (const width of [512, 700, 812, 1100, 1400, 2092]) {
    const { before, wave } = sheetColumns(width);
    expect(before + wave + 92).toBeCloseTo(width, 9);
  }
  expect(sheetColumns(812).before).toBe(66 + 232 + 150);
  expect(sheetColumns(2092).before).toBeGreaterThan(66 + 400 + 150);
});

it('keeps a waveform one can see where there is no room', () => {
  expect(sheetColumns(400)).toEqual({ before: 298, wave: 60 });
});
