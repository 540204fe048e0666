import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { type CopyInput, copyPackage, halfCopyPath } from './copy-package';
import { verifyPackage } from './verify-package';

// What a package has to hold is checked elsewhere: here it is enough that it is read back where it lies.
jest.mock('./verify-package', () => ({ verifyPackage: jest.fn(async () => []) }));
const verify = verifyPackage as jest.MockedFunction<typeof verifyPackage>;

const FILES: Readonly<Record<string, string>> = {
  'bagit.txt': 'bag',
  'data/audio/01_Kick.wav': 'k'.repeat(100_000),
  'data/audio/02_Snare.wav': 's',
};
let folder: string;
let input: CopyInput;
const put = (root: string, files: Readonly<Record<string, string>>): void => {
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(root, path)), { recursive: true });
    writeFileSync(join(root, path), text);
  }
};
const hashes = (root: string): string[] =>
  Object.keys(FILES).map((p) =>
    createHash('sha256')
      .update(readFileSync(join(root, p)))
      .digest('hex'),
  );

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'fernmoss-copy-'));
  mkdirSync(join(folder, 'to'));
  input = { from: join(folder, 'from'), to: join(folder, 'to'), name: 'Slip_v1', mark: '12345678-x' };
  put(input.from, FILES);
  verify.mockClear();
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

it('copies every file, reads the copy back before it gets its name, and leaves nothing else', async () => {
  verify.mockImplementationOnce(async (root) => {
    expect(root).toBe(halfCopyPath(input));
    expect(readdirSync(input.to)).toEqual(['.Slip_v1.12345678.part']);
    return [];
  });
  const shares: number[] = [];
  expect(await copyPackage(input, (s) => shares.push(s))).toEqual({ state: 'done' });
  expect(readdirSync(input.to)).toEqual(['Slip_v1']);
  expect(hashes(join(input.to, 'Slip_v1'))).toEqual(hashes(input.from));
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
});

it('removes what a killed attempt left, and is content with what one finished', async () => {
  put(halfCopyPath(input), { 'data/audio/01_Kick.wav': 'half' });
  expect(await copyPackage(input)).toEqual({ state: 'done' });
  expect(await copyPackage(input)).toEqual({ state: 'done' });
  expect(readdirSync(input.to)).toEqual(['Slip_v1']);
});

it('leaves alone what is in the way, even if only one byte differs', async () => {
  put(join(input.to, 'Slip_v1'), { ...FILES, 'data/audio/02_Snare.wav': 'S' });
  expect(await copyPackage(input)).toEqual({ state: 'taken', reason: 'EEXIST' });
  expect(readFileSync(join(input.to, 'Slip_v1/data/audio/02_Snare.wav'), 'utf8')).toBe('S');
});

it('throws away a copy that reads back wrong, and says so', async () => {
  verify.mockResolvedValueOnce([{ code: 'unchanged', pass: false, title: 'x', figure: 'y' }]);
  expect(await copyPackage(input)).toMatchObject({ state: 'failed' });
  expect(readdirSync(input.to)).toEqual([]);
});

it('a place where nothing can be written is a failure with its reason', async () => {
  writeFileSync(join(folder, 'a file'), '');
  expect(await copyPackage({ ...input, to: join(folder, 'a file') })).toMatchObject({
    state: 'failed',
    reason: 'ENOTDIR',
  });
});
