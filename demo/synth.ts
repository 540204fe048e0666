import { spawn } from 'node:child_process';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readSoundBlocks, readSoundHeader } from '@/core/audio';
import { bytesSource } from '@/core/units';
import type { Note } from './score';

const FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
const TICKS_PER_SECOND = 2000; // 1000 ticks a quarter at 120

/** Plays notes through one General MIDI program (or the kit); mono at `rateHz`, `frames` long. Throws if the synthesiser fails. */
export async function playNotes(
  notes: readonly Note[],
  program: number | 'kit',
  rateHz: number,
  frames: number,
  folder: string,
): Promise<Float32Array> {
  const stem = join(
    folder,
    `part-${typeof program === 'number' ? program : 'kit'}-${notes[0]?.pitch ?? 0}-${notes.length}`,
  );
  await writeFile(`${stem}.mid`, noteFile(notes, program));
  await run('fluidsynth', [
    '-ni',
    '-q',
    '-R',
    '0',
    '-C',
    '0',
    '-g',
    '0.6',
    '-r',
    String(rateHz),
    '-O',
    'float',
    '-T',
    'wav',
    '-F',
    `${stem}.wav`,
    FONT,
    `${stem}.mid`,
  ]);
  const source = bytesSource(await readFile(`${stem}.wav`));
  const header = await readSoundHeader(source);
  if (!header.ok) throw new Error(`the synthesiser wrote no audio: ${header.error.code}`);
  const out = new Float32Array(frames);
  for await (const block of readSoundBlocks(source, header.value))
    for (const channel of block.channels)
      for (let i = 0; i < channel.length && block.startFrames + i < frames; i++)
        out[block.startFrames + i] =
          (out[block.startFrames + i] as number) + (channel[i] as number) / block.channels.length;
  await rm(`${stem}.mid`);
  await rm(`${stem}.wav`);
  return out;
}

function noteFile(notes: readonly Note[], program: number | 'kit'): Uint8Array {
  const channel = program === 'kit' ? 9 : 0;
  const events: { tick: number; order: number; bytes: number[] }[] = [];
  if (program !== 'kit') events.push({ tick: 0, order: 0, bytes: [0xc0 | channel, program] });
  for (const n of notes) {
    events.push({
      tick: Math.round(n.seconds * TICKS_PER_SECOND),
      order: 2,
      bytes: [0x90 | channel, n.pitch, n.velocity],
    });
    events.push({
      tick: Math.round((n.seconds + n.lengthSeconds) * TICKS_PER_SECOND),
      order: 1,
      bytes: [0x80 | channel, n.pitch, 0],
    });
  }
  events.sort((a, b) => a.tick - b.tick || a.order - b.order);
  const body: number[] = [];
  let last = 0;
  const variable = (value: number): number[] => {
    const out = [value & 127];
    for (let v = value >> 7; v > 0; v >>= 7) out.unshift((v & 127) | 128);
    return out;
  };
  for (const e of events) {
    body.push(...variable(e.tick - last), ...e.bytes);
    last = e.tick;
  }
  body.push(0, 0xff, 0x2f, 0);
  const size = body.length;
  return Uint8Array.from([
    0x4d,
    0x54,
    0x68,
    0x64,
    0,
    0,
    0,
    6,
    0,
    0,
    0,
    1,
    0x03,
    0xe8,
    0x4d,
    0x54,
    0x72,
    0x6b,
    size >>> 24,
    (size >> 16) & 255,
    (size >> 8) & 255,
    size & 255,
    ...body,
  ]);
}

function run(command: string, args: readonly string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'ignore', 'ignore'] });
    const end = (): void => void child.kill();
    process.once('exit', end);
    child.once('exit', () => process.removeListener('exit', end));
    child.on('error', reject);
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${command} ended with ${code}`))));
  });
}
