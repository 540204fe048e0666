import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CallFault, print, readArguments } from './arguments';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-arguments-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('parts words, flags and values, in any order', () => {
  const args = readArguments([
    'a.wav',
    '--json',
    '--timekeeper',
    'k.wav',
    'b.wav',
    '--timekeeper',
    's.wav',
    '--out',
    'x',
  ]);
  expect(args.words).toEqual(['a.wav', 'b.wav']);
  expect(args.json).toBe(true);
  expect(args.all('timekeeper')).toEqual(['k.wav', 's.wav']);
  expect(args.one('out')).toBe('x');
  expect(args.one('map-out')).toBeNull();
  expect(args.has('session')).toBe(false);
});

it('refuses what it does not know, in words', () => {
  expect(() => readArguments(['--loud'])).toThrow(new CallFault('unknown option --loud'));
  expect(() => readArguments(['--out'])).toThrow(new CallFault('--out needs a value'));
  expect(() => readArguments(['--style', join(folder, 'none.yaml')])).toThrow(/cannot read the house style/);
});

it('reads a house style and says all that does not fit', () => {
  const path = join(folder, 'style.yaml');
  writeFileSync(path, 'name: Saltmarsh\nleadInBars: 3\n');
  expect(readArguments(['--style', path]).style).toMatchObject({
    name: 'Saltmarsh',
    leadInBars: 3,
    maxFileNameLength: 31,
  });
  writeFileSync(path, 'leadInBars: 99\nmaxFileNameLength: 2\n');
  expect(() => readArguments(['--style', path])).toThrow(
    /leadInBars[\s\S]*maxFileNameLength|maxFileNameLength[\s\S]*leadInBars/,
  );
});

it('prints JSON or a table with aligned columns', () => {
  const written: string[] = [];
  const spy = jest.spyOn(process.stdout, 'write').mockImplementation((text) => {
    written.push(String(text));
    return true;
  });
  print(true, { a: null }, []);
  print(false, null, [
    ['name', 'n'],
    ['kick', 1],
    ['a long one', null],
  ]);
  spy.mockRestore();
  expect(JSON.parse(written[0] as string)).toEqual({ a: null });
  expect(written.slice(1).join('')).toBe('name        n\nkick        1\na long one\n');
});
