import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeFile } from '@/engine/decode-file';
import { run } from '../support/programs';
import { tone, writeWav } from '../support/recordings';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-flac-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let count = 0;
/** A FLAC file by the reference encoder, changed. */
async function flac(bitDepth: 16 | 24, change: (bytes: Buffer) => void = () => undefined): Promise<string> {
  const stem = join(folder, `f${++count}`);
  await writeWav(`${stem}.wav`, [tone(440, 2, 0.5), tone(441, 2, 0.4)], { bitDepth });
  run('flac', ['--silent', '-f', '-o', `${stem}.flac`, `${stem}.wav`]);
  const bytes = readFileSync(`${stem}.flac`);
  change(bytes);
  writeFileSync(`${stem}.flac`, bytes);
  return `${stem}.flac`;
}
const complaintOf = async (path: string): Promise<string | null> => {
  const decoded = await decodeFile(path, 'flac', `${path}.out.wav`);
  if (!decoded.ok) throw new Error(decoded.error.code);
  return decoded.value.complaint;
};

it.each([16, 24] as const)('a sound file of %i bit is good', async (bitDepth) => {
  expect(await complaintOf(await flac(bitDepth))).toBeNull();
});
it('a flipped byte in the sound is found', async () => {
  for (const share of [0.3, 0.5, 0.7, 0.9]) {
    const path = await flac(24, (b) => {
      const at = Math.floor(b.length * share);
      b[at] = (b[at] ?? 0) ^ 0x10;
    });
    expect([share, await complaintOf(path)]).toEqual([share, expect.any(String)]);
  }
});
it('an MD5 of other samples is found; none at all is nothing to complain of', async () => {
  const wrong = await flac(16, (b) => {
    b[30] = (b[30] ?? 0) ^ 1;
  });
  expect(await complaintOf(wrong)).toBe('its samples are not those its MD5 was made of');
  expect(await complaintOf(await flac(16, (b) => b.fill(0, 26, 42)))).toBeNull();
});
it('with a tag in front it is read all the same', async () => {
  const path = await flac(16, (b) => {
    b[30] = (b[30] ?? 0) ^ 1;
  });
  const tag = Buffer.concat([Buffer.from('ID3'), Buffer.from([4, 0, 0, 0, 0, 1, 0]), Buffer.alloc(128)]);
  writeFileSync(path, Buffer.concat([tag, readFileSync(path)]));
  expect(await complaintOf(path)).toBe('its samples are not those its MD5 was made of');
});
