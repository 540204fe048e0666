import { namesTellTakes } from './groups-by-name';
import { takeName } from './take-name';

it.each([
  // Common practice, no source.
  ['Lead Vox t1.wav', 'lead vox', 1, 'take'],
  ['LeadVox_tk03.wav', 'lead vox', 3, 'take'],
  ['Lead Vox take 12.aif', 'lead vox', 12, 'take'],
  ['Lead Vox alt.wav', 'lead vox', null, 'take'],
  ['Lead Vox ALT2.wav', 'lead vox', 2, 'take'],
  ['Lead Vox comp.wav', 'lead vox', null, 'comp'],
  ['Lead Vox master take.wav', 'lead vox', null, 'comp'],
  ['Lead Vox punch 2.wav', 'lead vox', 2, 'punch'],
  ['Lead Vox drop-in.wav', 'lead vox', null, 'punch'],
  ['LeadVox_2026-04-17.wav', 'lead vox', null, 'day'],
  ['LeadVox 17.04.2026 14h32.wav', 'lead vox', null, 'day'],
  ['Gesang Versuch 2.wav', 'gesang', 2, 'take'],
  ['Chant prise 3.wav', 'chant', 3, 'take'],
  ['Voz toma 4.wav', 'voz', 4, 'take'],
  ['Lead Vox v2.wav', 'lead vox', 2, 'take'],
  ['Lead Vox.wav', 'lead vox', null, undefined],
])('%s', (name, stem, take, as) => {
  const read = takeName(name);
  expect([read.stem, read.take, read.says?.as]).toEqual([stem, take, as]);
});

it.each([
  ['Lead Vox 2.wav', 'lead vox', 'lead vox', 2, null],
  ['Lead Vox dbl.wav', 'lead vox dbl', 'lead vox', null, 'dbl'],
  ['Lead Vox 3rd harm.wav', 'lead vox 3rd harm', 'lead vox', null, '3rd'],
  ['Lead Vox ad lib.wav', 'lead vox ad lib', 'lead vox', null, 'ad lib'],
  ['Vox Oktave.wav', 'vox oktave', 'vox', null, 'oktave'],
  ['Gtr DI.wav', 'gtr di', 'gtr', null, null],
  ['Gtr L.wav', 'gtr l', 'gtr', null, null],
])('%s is no take', (name, stem, root, number, together) => {
  const read = takeName(name);
  expect([read.stem, read.root, read.number, read.together, read.says]).toEqual([
    stem,
    root,
    number,
    together,
    null,
  ]);
});

it('a double has takes of its own', () => {
  expect(takeName('Lead Vox dbl take 2.wav')).toMatchObject({
    stem: 'lead vox dbl',
    root: 'lead vox',
    take: 2,
  });
});

it.each<[string[], boolean]>([
  [['Lead Vox t1.wav', 'Lead Vox t2.wav', 'Kick.wav'], true],
  [['Gtr tk 3.aif', 'Gtr tk 11.aif'], true],
  [['Vox 1.wav', 'Vox 2.wav', 'Vox comp.wav'], true],
  [['Kick.wav', 'Snare.wav', 'rec0011 t2.wav'], false],
  [['Gtr L.wav', 'Gtr R.wav', 'Vox.wav', 'Vox dbl.wav'], false],
  [['Bass 2026-03-02.wav', 'Bass 2026-03-04.wav'], false],
])('whether names alone tell takes: %j', (names, told) => expect(namesTellTakes(names)).toBe(told));
