import { findGaps, findMicGroups, readNames } from './index';

const groups = (names: readonly string[]): string[] =>
  findMicGroups(readNames(names)).map((g) => g.map((i) => names[i]).join(' < '));
const gaps = (names: readonly string[]): string[] =>
  findGaps(readNames(names)).map((g) => `${names[g.near]}: ${g.missing}`);

describe('microphones of one source', () => {
  it('names that differ in the place alone; the nearest leads (common practice, no source)', () => {
    expect(
      groups([
        'Kick Out',
        'Kick In',
        'Snare Bottom',
        'Snare Top',
        'Bass Amp',
        'Bass DI',
        'OH L',
        'OH R',
        'Tom 1',
        'Tom 2',
      ]),
    ).toEqual(['Kick In < Kick Out', 'Snare Top < Snare Bottom', 'Bass DI < Bass Amp', 'OH L < OH R']);
  });
  it('doubles, takes, two alike and things unknown are none', () => {
    expect(
      groups(['Gtr 1 DI', 'Gtr 2 Amp', 'Vox', 'Vox Double', 'Snare Top', 'Snare Top', 'Thing A', 'Thing B']),
    ).toEqual([]);
    expect(groups([])).toEqual([]);
  });
});

describe('what a delivery seems to lack', () => {
  it('the other side of a pair', () => {
    expect(gaps(['OH L', 'Room L', 'Room R', 'Kick'])).toEqual(['OH L: the right side']);
  });
  it('a number left out of a row, not a row that begins late or a lone number', () => {
    expect(gaps(['Tom 1', 'Tom 3', 'Kick', 'Snare'])).toEqual(['Tom 3: number 2']);
    expect(gaps(['Tom 2', 'Tom 3', 'Gtr 57'])).toEqual([]);
  });
});
