import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { FolderStore, readRange } from './blob-store';
import { TemporaryFolder } from './temporary';

const root = mkdtempSync(join(tmpdir(), 'fernmoss-store-'));
afterAll(() => rmSync(root, { recursive: true, force: true }));
const temporary = new TemporaryFolder(root);
const store = new FolderStore(temporary);
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const sha = (text: string): string => createHash('sha256').update(text).digest('hex');

it('keeps bytes under their hash and gives them back, whole and in part', async () => {
  const name = await store.put(bytes('harbour'));
  expect(name).toBe(sha('harbour'));
  expect(await store.has(name)).toBe(true);
  expect(String(await store.get(name))).toBe('harbour');
  expect(Buffer.from(await readRange(await store.localCopy(name), 2, 5)).toString()).toBe('rbo');
  expect(Buffer.from(await readRange(await store.localCopy(name), 5, 99)).toString()).toBe('ur');
  expect(await readRange(await store.localCopy(name), 5, 2)).toHaveLength(0);
});

it('stores the same content once and leaves nothing temporary', async () => {
  await store.put(bytes('twice'));
  await store.put(bytes('twice'));
  const name = sha('twice');
  expect(readdirSync(join(root, 'blobs', name.slice(0, 2))).filter((n) => n === name)).toHaveLength(1);
  expect(readdirSync(dirname(await temporary.path()))).toEqual([]);
});

it('adopts a finished file; the caller removes the first name', async () => {
  const path = await temporary.path();
  writeFileSync(path, 'tide');
  await store.adopt(path, sha('tide'));
  expect(existsSync(path)).toBe(true);
  rmSync(path);
  expect(String(await store.get(sha('tide')))).toBe('tide');
  // A repeated job adopts again: no fault, same bytes.
  writeFileSync(path, 'tide');
  await store.adopt(path, sha('tide'));
  expect(String(await store.get(sha('tide')))).toBe('tide');
});

it('takes nothing for a name that is not a hash', async () => {
  for (const name of ['', '..', '../../etc/passwd', 'A'.repeat(64), 'a'.repeat(63), `${'a'.repeat(63)}/`]) {
    await expect(store.localCopy(name)).rejects.toThrow(RangeError);
    await expect(Promise.resolve().then(() => store.has(name))).rejects.toThrow(RangeError);
  }
});

it('deletes without complaint, and sweeps what a killed process left', async () => {
  const name = await store.put(bytes('gone'));
  await store.delete(name);
  await store.delete(name);
  expect(await store.has(name)).toBe(false);
  // Of a dead process, of dead and living workers, of another machine, and from before there were folders.
  const dead = `${hostname()}-${2 ** 22 + 1}`;
  const others = ['another-machine-1', dead, 'worker-3', 'worker-4'].map((n) => new TemporaryFolder(root, n));
  for (const folder of [temporary, ...others]) writeFileSync(await folder.path(), 'half');
  writeFileSync(join(root, 'temporary', 'older'), 'half');
  await temporary.sweep(new Set(['worker-4']));
  expect(readdirSync(join(root, 'temporary')).sort()).toEqual(
    ['another-machine-1', `${hostname()}-${process.pid}`, 'worker-4'].sort(),
  );
});
