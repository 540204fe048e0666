import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ZipFile } from 'yazl';
import { createRandom, type Random } from '@/core/units';
import { openSound, unpackArchive } from '@/engine';
import { run } from '../support/programs';
import { tone, writeWav } from '../support/recordings';

// Damaged files of the containers that are opened by ffmpeg or taken apart: a result or a typed fault, soon, and nothing left behind. FERNMOSS_MUTATIONS=20000 for the long run (the readers of our own have theirs in core/audio).
const ROUNDS = Number(process.env.FERNMOSS_MUTATIONS ?? 10);
/** Long runs can be done in parts, each with a seed of its own. */
const SEED = Number(process.env.FERNMOSS_MUTATIONS_SEED ?? 31);
/** A decoder's start takes most of it; on a machine busy with a whole suite only a hang is told from a wait. */
const LONGEST_MS = process.env.FERNMOSS_MUTATIONS ? 2000 : 15_000;
const MOST_MB = 200;
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-mutations-'));
const work = join(folder, 'work');
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const CONTAINERS = [
  ['flac', ['-c:a', 'flac']],
  ['caf', ['-c:a', 'pcm_s24le']],
  ['w64', ['-c:a', 'pcm_s24le']],
  ['alac.m4a', ['-c:a', 'alac']],
  ['aac.m4a', ['-c:a', 'aac']],
  ['aac', ['-c:a', 'aac']],
  ['mp3', ['-c:a', 'libmp3lame']],
  ['ogg', ['-c:a', 'libvorbis']],
  ['opus', ['-c:a', 'libopus']],
] as const;

beforeAll(async () => {
  mkdirSync(work);
  await writeWav(join(folder, 'source.wav'), [tone(440, 0.3)]);
  for (const [name, args] of CONTAINERS)
    run('ffmpeg', [
      '-nostdin',
      '-v',
      'error',
      '-y',
      '-i',
      join(folder, 'source.wav'),
      ...args,
      join(folder, `whole.${name}`),
    ]);
  const zip = new ZipFile();
  for (const name of ['Kick.wav', 'in/Snare.wav']) zip.addFile(join(folder, 'source.wav'), name);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  writeFileSync(join(folder, 'whole.zip'), Buffer.concat(parts));
});

/** Cuts, overwrites or doubles; the head is hit more often than the rest. */
function damaged(whole: Buffer, random: Random): Buffer {
  const n = (most: number): number => Math.floor(random() * most);
  const out = Buffer.from(random() < 0.3 ? whole.subarray(0, n(whole.length)) : whole);
  for (let k = n(10); k >= 0 && out.length > 0; k--)
    out[n(random() < 0.6 ? Math.min(out.length, 200) : out.length)] =
      random() < 0.5 ? n(256) : ([0, 1, 0x7f, 0x80, 0xff][n(5)] as number);
  return random() < 0.1 ? Buffer.concat([out, out.subarray(0, n(400))]) : out;
}

/** Milliseconds until the file was opened, or refused with one of the faults that have words; what it made is removed. */
async function timeToOpen(name: string, path: string, temporaryPath: () => Promise<string>): Promise<number> {
  const begun = performance.now();
  if (name === 'zip') {
    const out = await unpackArchive(path, temporaryPath, { mostEntries: 100, mostBytes: 1e8 });
    if (!out.ok) expect(out.error.code).toMatch(/^(archive\.|store\.no_room$)/);
    else for (const f of out.value.files) rmSync(f.path, { force: true });
  } else {
    const out = await openSound(path, {
      temporaryPath,
      threadPath: process.env.FERNMOSS_THREAD ?? '',
      split: true,
    });
    if (out.ok) for (const p of out.value.made) rmSync(p, { force: true });
    else expect(out.error.code).toMatch(/^(sound|decoder|file)\./);
  }
  return performance.now() - begun;
}

it.each([...CONTAINERS.map(([name]) => name), 'zip'])(
  '%s',
  async (name) => {
    const random = createRandom(SEED + name.length);
    const whole = readFileSync(join(folder, `whole.${name}`));
    const before = process.memoryUsage().rss;
    let n = 0;
    const temporaryPath = (): Promise<string> => Promise.resolve(join(work, `t${n++}`));
    let slowest = 0;
    for (let round = 0; round < ROUNDS; round++) {
      const path = join(work, 'damaged');
      writeFileSync(path, damaged(whole, random));
      // A wait of the machine is not a hang: what took long is tried again, and counts with its shortest time.
      let took = Infinity;
      for (let attempt = 0; attempt < 4 && took > LONGEST_MS; attempt++)
        took = Math.min(took, await timeToOpen(name, path, temporaryPath));
      slowest = Math.max(slowest, took);
      expect(readdirSync(work).filter((f) => f !== 'damaged')).toEqual([]);
    }
    expect(slowest).toBeLessThan(LONGEST_MS);
    if (process.env.FERNMOSS_MUTATIONS)
      console.log(`${name}: ${ROUNDS} damaged files, slowest ${Math.round(slowest)} ms`);
    expect((process.memoryUsage().rss - before) / 2 ** 20).toBeLessThan(MOST_MB);
  },
  Math.max(60_000, ROUNDS * 2000),
);
