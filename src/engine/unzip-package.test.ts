import {
  createWriteStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { NotAPackage, unzipPackage, zipFolder } from './index';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-zip-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
let count = 0;
const fresh = (): string => {
  const path = join(folder, `d${count++}`);
  mkdirSync(path);
  return path;
};

/** A ZIP of entries; names of equal length can be swapped in its bytes to make what no honest writer makes. */
async function zipOf(
  entries: Readonly<Record<string, string>>,
  swap?: readonly [string, string],
): Promise<string> {
  const zip = new ZipFile();
  for (const [name, text] of Object.entries(entries))
    zip.addBuffer(Buffer.from(text), name, { compress: false });
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  let bytes = Buffer.concat(parts);
  if (swap) bytes = Buffer.from(bytes.toString('latin1').replaceAll(swap[0], swap[1]), 'latin1');
  const path = join(folder, `z${count++}.zip`);
  writeFileSync(path, bytes);
  return path;
}

it('brings a folder through a ZIP and back unchanged', async () => {
  const source = fresh();
  mkdirSync(join(source, 'data/audio'), { recursive: true });
  writeFileSync(join(source, 'bagit.txt'), 'bag');
  writeFileSync(join(source, 'data/audio/01_Ä.wav'), Buffer.alloc(100_000, 7));
  const zip = join(folder, 'whole.zip');
  await pipeline(await zipFolder(source, 'Song_v1'), createWriteStream(zip));
  const root = await unzipPackage(zip, fresh());
  expect(root.endsWith('/Song_v1')).toBe(true);
  expect(readFileSync(join(root, 'bagit.txt'), 'utf8')).toBe('bag');
  expect(readFileSync(join(root, 'data/audio/01_Ä.wav')).equals(Buffer.alloc(100_000, 7))).toBe(true);
});

it('never writes outside its folder', async () => {
  const into = fresh();
  const zip = await zipOf({ 'top/aaaaaaaa.txt': 'x' }, ['top/aaaaaaaa.txt', '../../evil000.tx']);
  await expect(unzipPackage(zip, into)).rejects.toThrow(NotAPackage);
  const absolute = await zipOf({ 'top/aaaaaaaa.txt': 'x' }, ['top/aaaaaaaa.txt', '/tmp/fernevil.tx']);
  await expect(unzipPackage(absolute, into)).rejects.toThrow(NotAPackage);
  expect(existsSync(join(folder, '../evil000.tx'))).toBe(false);
  expect(existsSync('/tmp/fernevil.tx')).toBe(false);
});

it('wants one top folder', async () => {
  await expect(unzipPackage(await zipOf({ 'a/x.txt': '1', 'b/y.txt': '2' }), fresh())).rejects.toThrow(
    'no single top folder',
  );
  await expect(unzipPackage(await zipOf({ 'x.txt': '1' }), fresh())).rejects.toThrow('no single top folder');
});

it('says so of what is no ZIP, and of a damaged one', async () => {
  const text = join(folder, 'text.zip');
  writeFileSync(text, 'Dear mixer');
  await expect(unzipPackage(text, fresh())).rejects.toThrow('cannot be read as a ZIP');
  const whole = readFileSync(await zipOf({ 'top/x.txt': 'hello' }));
  writeFileSync(text, whole.subarray(0, whole.length - 10));
  await expect(unzipPackage(text, fresh())).rejects.toThrow(NotAPackage);
});
