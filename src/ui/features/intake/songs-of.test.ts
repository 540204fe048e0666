import { songsOf } from './songs-of';

const files = (...paths: readonly string[]): File[] =>
  paths.map((p) => ({ name: p.split('/').at(-1), webkitRelativePath: p }) as unknown as File);
const three = (folder: string): string[] => ['Kick.wav', 'Snare.wav', 'Vox.wav'].map((n) => `${folder}/${n}`);
const found = (...paths: readonly string[]): unknown => {
  const s = songsOf(files(...paths));
  return s && [s.project, s.songs.map((x) => [x.name, x.files.length])];
};

it('sees a folder a song, with or without a folder around them, deeper folders inside', () => {
  expect(
    found(...three('Album/Low Water'), ...three('Album/Slack Tide'), 'Album/Slack Tide/notes.txt'),
  ).toEqual([
    'Album',
    [
      ['Low Water', 3],
      ['Slack Tide', 4],
    ],
  ]);
  expect(found(...three('Low Water'), ...three('Slack Tide'))).toEqual([
    '',
    [
      ['Low Water', 3],
      ['Slack Tide', 3],
    ],
  ]);
  expect(
    found(...three('A/B/Low Water/Drums'), 'A/B/Low Water/Vocals/v.wav', ...three('A/B/Slack Tide')),
  ).toEqual([
    'B',
    [
      ['Low Water', 4],
      ['Slack Tide', 3],
    ],
  ]);
});
it.each<[string, string[]]>([
  ['one song in one folder', three('Low Water')],
  ['loose files', ['Kick.wav', 'Snare.wav', 'Vox.wav']],
  ['folders of instruments', [...three('Low Water/Drums'), ...three('Low Water/02 Vocals')]],
  ['recordings beside the folders', [...three('A/Low Water'), ...three('A/Slack Tide'), 'A/Bass.wav']],
  ['a folder with hardly anything in it', [...three('A/Low Water'), 'A/extras/x.wav']],
  ['nothing', []],
])('leaves together: %s', (_name, paths) => {
  expect(songsOf(files(...paths))).toBeNull();
});
