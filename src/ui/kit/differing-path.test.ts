import { differingPath } from './differing-path';

it.each([
  [['Song/Drums/Kick.wav', 'Song/Drums/Snare.wav'], 'Song/Drums/Kick.wav', '', 'Kick.wav'],
  [['Song/Drums/1.wav', 'Song/Vox/1.wav'], 'Song/Vox/1.wav', 'Vox/', '1.wav'],
  [['a/b/c/1.wav', 'a/b/2.wav'], 'a/b/c/1.wav', 'c/', '1.wav'],
  // Half a folder's name is not shared.
  [['Takes 1/x.wav', 'Takes 2/x.wav'], 'Takes 2/x.wav', 'Takes 2/', 'x.wav'],
  [['x.wav'], 'x.wav', '', 'x.wav'],
])('of %j: %s', (names, name, folder, file) => {
  expect(differingPath(names)(name)).toEqual({ folder, file });
});
