import { siblingsOf } from './index';

it.each<[string, readonly string[], readonly number[]]>([
  ['numbers', ['Jangle 1.wav', 'Jangle 2.wav', 'Jangle_03.wav', 'Jungle 1.wav'], [1, 2]],
  ['sides', ['Pluckery L.wav', 'Pluckery R.wav', 'Bass.wav'], [1]],
  ['words of an instrument', ['Gtr Rhy 1.wav', 'gtr_rhy_2.wav', 'Gtr Lead.wav'], [1]],
  ['a recorder says nothing', ['Audio 12_01.wav', 'Audio 12_02.wav', 'Audio 12_03.wav'], []],
  ['numbers alone', ['01.wav', '02.wav'], []],
  ['nobody else', ['Kick.wav', 'Snare.wav'], []],
])('%s', (_what, names, wanted) => {
  expect(siblingsOf(names, 0)).toEqual(wanted);
});
