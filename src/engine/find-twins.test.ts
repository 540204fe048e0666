import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { knocks, writeWav } from '../../tests/support/recordings';
import { findTwins, pairName } from './find-twins';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-twins-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const files = ['a', 'b', 'c', 'other'].map((id) => ({
  id,
  path: join(folder, `${id}.wav`),
  peaksPath: null,
}));

beforeAll(async () => {
  for (const [i, f] of files.entries())
    await writeWav(f.path, [
      knocks(f.id === 'other' ? [0.3, 1.1] : [0.2, 0.9, 1.2], 2, 180).map((x) => (0.8 * x) / (1 + i)),
    ]);
});

it('of three that hold one take each is named once, against the first', async () => {
  const found = await findTwins(files, new Set());
  expect(found.map(({ a, b }) => [a, b])).toEqual([
    ['a', 'b'],
    ['a', 'c'],
  ]);
  expect(found[0]?.gainDb).toBeCloseTo(-6.02, 1);
});
it('what was found before is not said again, nor against another of the same', async () => {
  expect((await findTwins(files, new Set([pairName('a', 'b')]))).map(({ a, b }) => [a, b])).toEqual([
    ['a', 'c'],
  ]);
  expect(await findTwins(files, new Set([pairName('b', 'a'), pairName('a', 'c')]))).toEqual([]);
});
