import { readNames } from '../naming';
import { createRandom } from '../units';
import { DEFAULT_STYLE, numberEqual, sessionName, TEMPLATE, tidyName, tryNames } from './index';

const rules = DEFAULT_STYLE.names;
const nameOf = (input: string, own: Partial<typeof rules> = {}): string | null =>
  sessionName(
    { ...rules, ...own },
    DEFAULT_STYLE.fileWords,
    readNames([input])[0] as ReturnType<typeof readNames>[number],
  );

it('builds names people read', () => {
  expect(
    ['DB di bright', 'bv hi 1', 'HH_tk3', 'Snare Top', 'Floor Tom', 'Lead Vox dbl', 'Gtr 2 L', 'rec0011'].map(
      (n) => nameOf(n),
    ),
  ).toEqual([
    'Double Bass DI',
    'Backing Vocal High 1',
    'Hat',
    'Snare Top',
    'Floor Tom',
    'Lead Vocal Double',
    'Guitar 2 L',
    null,
  ]);
});

it('follows a template: order, separators, group word, case, length, own words, numbers', () => {
  expect(nameOf('Gtr 2 L', { template: '{group}_{part}-{side}{number}' })).toBe('Gtr_Guitar-L2');
  // What a field that says nothing would have brought goes with it.
  expect(nameOf('Gtr', { template: '{side} {number}_{part}' })).toBe('Guitar');
  expect(nameOf('Kick In', { case: 'upper' })).toBe('KICK IN');
  expect(nameOf('Kick In', { longest: 5 })).toBe('Kick');
  expect(nameOf('Kick In', { words: { kick: 'BD', 'drums.in': 'i' } })).toBe('BD i');
  expect(nameOf('Tom 2', { numbers: 'letters' })).toBe('Tom B');
  expect(nameOf('Tom 2', { numbers: 'two-digits' })).toBe('Tom 02');
  expect(nameOf('Kick In', { parts: { kick: '{position}' } })).toBe('In');
  expect(nameOf('Lead Vox', { families: { 'lead-vocal': '{group}' } })).toBe('LeadVox');
  expect(tidyName({ ...rules, forbidden: '/:' }, 'Nine  A/B: one')).toBe('Nine AB one');
});

it('takes only separators between fields', () => {
  expect(['{part}', '{part} {side}', '{group}_{part}-{number}'].every((t) => TEMPLATE.test(t))).toBe(true);
  expect(
    ['', 'Kick', '{part}{', '{what}', '{part}/{side}', '{part} x', '<b>{part}'].some((t) => TEMPLATE.test(t)),
  ).toBe(false);
});

it('numbers equal names where the template has the number, and passes by what is taken', () => {
  const named = (names: readonly string[]): string[] => tryNames(names, DEFAULT_STYLE).map((t) => t.name);
  expect(
    named([
      'Horn.wav',
      'Horn_take.wav',
      'Gtr L.wav',
      'Gtr R.wav',
      'Gtr L b.wav',
      'Gtr R b.wav',
      'Horn 1.wav',
    ]),
  ).toEqual(['Horn 2', 'Horn 3', 'Guitar 1 L', 'Guitar 1 R', 'Guitar 2 L', 'Guitar 2 R', 'Horn 1']);
  expect(
    numberEqual(
      3,
      () => 'Same',
      (name, n) => `${name}.${n}`,
    ),
  ).toEqual(['Same.1', 'Same.2', 'Same.3']);
});

it('never gives one name twice, whatever is delivered (seed 8)', () => {
  const random = createRandom(8);
  const words = ['Kick', 'Snare', 'Gtr', 'L', 'R', '1', '2', 'Vox', 'rec', 'In', '__'];
  for (let round = 0; round < 60; round++) {
    const names = Array.from({ length: 30 }, () =>
      Array.from(
        { length: 1 + Math.floor(random() * 3) },
        () => words[Math.floor(random() * words.length)],
      ).join(' '),
    );
    const made = tryNames(names, {
      ...DEFAULT_STYLE,
      names: { ...rules, numbers: round % 2 ? 'letters' : 'digits' },
    }).map((t) => t.name);
    expect(new Set(made).size).toBe(made.length);
  }
});
