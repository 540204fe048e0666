import { readNames } from '../naming';
import { groupsByName } from './groups-by-name';

/** Names as the reader reads them. */
const named = (...names: string[]) =>
  groupsByName(
    readNames(names).map(({ input, family, part, isSilent, ...source }) => ({
      name: input,
      ...{ family, part, isSilent, source },
    })),
  );

it('takes are those that say so, and one that says nothing', () => {
  expect(named('Vox t2.wav', 'Vox t1.wav', 'Kick.wav').takes).toEqual([[1, 0]]);
  expect(named('Vox.wav', 'Vox alt.wav').takes).toEqual([[0, 1]]);
  expect(named('Vox comp.wav', 'Vox t1.wav', 'Vox t2.wav').takes).toEqual([[1, 2, 0]]);
  expect(named('Vox 1.wav', 'Vox 2.wav', 'Vox comp.wav').takes).toEqual([[0, 1, 2]]);
  expect(named('Vox 2026-04-17.wav', 'Vox 2026-04-18.wav').takes).toEqual([[0, 1]]);
});

it('takes of two sources are two tracks', () => {
  expect(named('Vox 1 take 1.wav', 'Vox 1 take 2.wav', 'Vox 2 take 1.wav', 'Vox 2 take 2.wav').takes).toEqual(
    [
      [0, 1],
      [2, 3],
    ],
  );
});

it('numbers say nothing', () => {
  expect(named('Vox 1.wav', 'Vox 2.wav')).toMatchObject({ takes: [], open: [[0, 1]], together: [] });
});

it('doubles stay apart from takes, and have takes of their own', () => {
  const { takes, together } = named('Vox t1.wav', 'Vox t2.wav', 'Vox dbl t1.wav', 'Vox dbl t2.wav');
  expect(takes).toEqual([
    [0, 1],
    [2, 3],
  ]);
  expect(together).toEqual([{ files: [0, 2], words: ['dbl'], isPlaces: false }]);
});

it('numbered doubles sound together', () => {
  expect(named('Vox dbl 1.wav', 'Vox dbl 2.wav').together).toEqual([
    { files: [0, 1], words: ['dbl'], isPlaces: false },
  ]);
});

it('microphones and sides are no takes', () => {
  expect(named('Gtr DI.wav', 'Gtr amp.wav').together).toEqual([
    { files: [0, 1], words: ['di', 'amp'], isPlaces: true },
  ]);
  // As the reader knows them, in whatever spelling.
  expect(named('KICK in_03.wav', 'kck OUT_03.wav').together).toMatchObject([{ isPlaces: true }]);
});

it('above and below are places of microphones, and voices', () => {
  const told = (...names: string[]) => named(...names).together.map((t) => t.isPlaces);
  expect(told('Snare top.wav', 'Snare bottom.wav')).toEqual([true]);
  expect(told('BV high.wav', 'BV low.wav')).toEqual([false]);
});

it('toms, guides and clicks have none', () => {
  const nothing = { takes: [], open: [], together: [] };
  expect(named('Kick.wav', 'Snare.wav', 'T1.wav', 'T2.wav', 'T3.wav').takes).toEqual([]);
  expect(named('Guide t1.wav', 'Guide t2.wav')).toMatchObject(nothing);
  expect(named('Click 1.wav', 'Click 2.wav')).toMatchObject(nothing);
});
