import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readSoundBlocks, readSoundHeader } from '@/core/audio';
import type { Peg } from '@/core/conform';
import type { Treatment } from '@/core/session';
import { knocks, tone, writeWav } from '../../tests/support/recordings';
import { conformGroup } from './conform-group';
import { fileSource } from './files';
import { relateMicFiles } from './relate-mics';
import { createVocoder } from './vocoder';

const RATE = 48_000;
const folder = mkdtempSync(join(tmpdir(), 'conform-group-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function readAll(path: string): Promise<Float32Array[]> {
  const file = await fileSource(path);
  try {
    const header = await readSoundHeader(file.bytes);
    if (!header.ok) throw new Error(header.error.code);
    const out = Array.from(
      { length: header.value.channels },
      () => new Float32Array(header.value.lengthFrames),
    );
    for await (const b of readSoundBlocks(file.bytes, header.value))
      b.channels.forEach((c, n) => out[n]?.set(c, b.startFrames));
    return out;
  } finally {
    await file.close();
  }
}

let run = 0;
async function conform(
  paths: readonly string[],
  pegs: readonly Peg[],
  treatment: Treatment,
  more: { excerpt?: { from: number; to: number }; startFrames?: number } = {},
) {
  run++;
  const sources = paths.map((path, i) => ({
    path,
    outPath: join(folder, `out-${run}-${i}.wav`),
    startFrames: more.startFrames ?? 0,
    rank: 0,
  }));
  const done = await conformGroup(
    { ...treatment, pegs, excerpt: more.excerpt ?? null, sources },
    () => undefined,
  );
  return { done, outputs: await Promise.all(sources.map((s) => readAll(s.outPath))) };
}

const HELD: Treatment = { method: 'held', block: 'middle' };
const SLICES: Treatment = { method: 'slices', block: 'short' };
const stretch = (seconds: number, ratio: number): Peg[] => [
  { played: 0, conformed: 0 },
  { played: seconds, conformed: seconds * ratio },
];

/** Power at one frequency over the samples' power: 1 for a pure tone (Goertzel 1958, from memory). */
function share(x: Float32Array, hz: number): number {
  const { cos, sin, PI } = Math;
  let [c, s, e] = [0, 0, 0];
  x.forEach((v, i) => {
    c += v * cos((2 * PI * hz * i) / RATE);
    s += v * sin((2 * PI * hz * i) / RATE);
    e += v * v;
  });
  return (2 * (c * c + s * s)) / (x.length * e);
}

describe('the phase vocoder', () => {
  it.each([0.9, 1.02, 1.2])('at ratio %d: the planned length to the frame, the pitch kept', async (ratio) => {
    const path = await writeWav(join(folder, `tone-${ratio}.wav`), [tone(220, 4)]);
    const { done, outputs } = await conform([path], stretch(4, ratio), HELD);
    const [out] = outputs[0] as [Float32Array];
    expect([out.length, done.files[0]?.writtenFrames]).toEqual([
      Math.round(4 * ratio * RATE),
      done.files[0]?.plannedFrames,
    ]);
    expect(done.files[0]?.ratioMax).toBeCloseTo(ratio, 9);
    expect(share(out.slice(RATE, 2.5 * RATE), 220)).toBeGreaterThan(0.999);
  });
  it('keeps the channels of a group together: two files and a stereo one stay alike', async () => {
    const sound = tone(330, 3);
    const mono = await writeWav(join(folder, 'mono.wav'), [sound]);
    const stereo = await writeWav(join(folder, 'stereo.wav'), [sound, sound.map((v) => v / 2)]);
    const { outputs } = await conform([mono, stereo], stretch(3, 1.05), HELD);
    const [a, b, c] = outputs.flat() as [Float32Array, Float32Array, Float32Array];
    let most = 0;
    a.forEach((v, i) => {
      most = Math.max(most, Math.abs(v - (b[i] as number)), Math.abs(v - 2 * (c[i] as number)));
    });
    expect(most).toBeLessThan(1e-3);
  });
  it.each([
    ['held', HELD],
    ['slices', SLICES],
  ] as const)('says how to hear an excerpt as loud as what was played: %s', async (_name, treatment) => {
    const sound = knocks(
      Array.from({ length: 20 }, (_, i) => 0.2 + 0.4 * i),
      9,
      180,
    );
    const path = await writeWav(join(folder, `loud-${treatment.method}.wav`), [sound]);
    const { done, outputs } = await conform([path], stretch(9, 1.1), treatment, {
      excerpt: { from: Math.round(2.2 * RATE), to: Math.round(6.6 * RATE) },
    });
    const power = (x: Float32Array): number => x.reduce((n, v) => n + v * v, 0) / x.length;
    const made = outputs[0]?.[0] as Float32Array;
    const played = sound.subarray(2 * RATE, 6 * RATE);
    const { matchDb } = done.files[0] as { matchDb: number };
    expect(10 * Math.log10(power(played) / power(made))).toBeCloseTo(matchDb, 3);
    // A tenth slower, slices fill the time less densely (10·log10(1.1) = 0.4 dB); what is stretched fills it as before.
    expect(Math.abs(matchDb - (treatment.method === 'slices' ? 0.41 : 0))).toBeLessThan(0.2);
    expect((await conform([path], stretch(9, 1.1), treatment)).done.files[0]?.matchDb).toBe(0);
  });
  it('an excerpt has its own length and the same pitch', async () => {
    const path = await writeWav(join(folder, 'excerpt.wav'), [tone(220, 6)]);
    const { outputs } = await conform([path], stretch(6, 1.04), HELD, {
      excerpt: { from: 2 * RATE, to: 4 * RATE },
    });
    expect(outputs[0]?.[0]?.length).toBe(2 * RATE);
    expect(share(outputs[0]?.[0]?.slice(4800) as Float32Array, 220)).toBeGreaterThan(0.999);
  });
  it('refuses steps beyond its buffers', () => {
    const vocoder = createVocoder({ channels: 1, sampleRateHz: RATE, blockSeconds: 0.12 });
    expect(() => vocoder.process([new Float32Array(10)], vocoder.maxFrames + 1)).toThrow(RangeError);
    expect(() => vocoder.seek([new Float32Array(vocoder.maxFrames + 1)], 1)).toThrow(RangeError);
  });
});

describe('other ways to follow', () => {
  const moments = [0.5, 1, 1.5, 2, 2.5, 3];
  it('slices: the hits are found and moved; the rest of the report is true', async () => {
    const path = await writeWav(join(folder, 'hits.wav'), [knocks(moments, 4, 180)]);
    const { done, outputs } = await conform([path], stretch(4, 0.95), SLICES);
    expect(done.attacks).toBe(moments.length);
    expect(outputs[0]?.[0]?.length).toBe(Math.round(4 * 0.95 * RATE));
  });
  it('a recording that begins later in the session comes out from the common zero', async () => {
    const path = await writeWav(join(folder, 'late.wav'), [tone(220, 1)]);
    const { outputs } = await conform(
      [path],
      [{ played: 0, conformed: 0 }],
      { method: 'still', block: 'middle' },
      { startFrames: RATE },
    );
    const [out] = outputs[0] as [Float32Array];
    expect(out.length).toBe(2 * RATE);
    expect(out.subarray(0, RATE).every((v) => v === 0)).toBe(true);
    expect(Math.max(...out.subarray(RATE, RATE + 2000))).toBeGreaterThan(0.4);
  });
  it('moved: each stretch of sound keeps its samples', async () => {
    const sound = new Float32Array(4 * RATE);
    sound.set(tone(440, 0.5), RATE);
    sound.set(tone(660, 0.5), 3 * RATE);
    const path = await writeWav(join(folder, 'phrases.wav'), [sound]);
    const { outputs } = await conform([path], stretch(4, 1.1), { method: 'none', block: 'middle' });
    const [out] = outputs[0] as [Float32Array];
    for (const [at, hz] of [
      [1.1, 440],
      [3.3, 660],
    ] as const)
      expect(share(out.slice((at + 0.02) * RATE, (at + 0.45) * RATE), hz)).toBeGreaterThan(0.999);
    expect(out.subarray(1.75 * RATE, 3.2 * RATE).every((v) => v === 0)).toBe(true);
  });
  it('what cannot be read is said, with its reason', async () => {
    const path = join(folder, 'letter.wav');
    writeFileSync(path, 'Dear mixer');
    await expect(conform([path], stretch(4, 1.1), HELD)).rejects.toThrow('sound.unknown');
  });
});

describe('microphones of one source, from files', () => {
  it('are compared where the leader is loudest; another rate or no sound gives no relation', async () => {
    const near = knocks([1, 2.2, 3.1], 5, 200);
    const far = new Float32Array(near.length);
    near.forEach((v, i) => {
      if (i + 61 < far.length) far[i + 61] = 0.3 * v;
    });
    const paths = [
      await writeWav(join(folder, 'near.wav'), [near]),
      await writeWav(join(folder, 'far.wav'), [far]),
      await writeWav(join(folder, 'silent.wav'), [new Float32Array(RATE)]),
      await writeWav(join(folder, 'other-rate.wav'), [tone(100, 1, 0.5, 44_100)], { rateHz: 44_100 }),
    ];
    const [relation, silent, otherRate] = await relateMicFiles({ paths });
    expect(relation?.polarity).toBe(1);
    expect(Math.abs((relation?.delaySamples ?? 0) - 61)).toBeLessThan(1);
    expect([silent, otherRate]).toEqual([null, null]);
    expect(await relateMicFiles({ paths: [] })).toEqual([]);
  });
});
