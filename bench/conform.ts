// Quality and speed of conforming, each figure beside the same material through a reference stretcher (Debian's rubberband-cli, only here).
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createWavWriter, readSoundBlocks, readSoundHeader } from '@/core/audio';
import type { Peg } from '@/core/conform';
import type { BlockLength, ConformMethod } from '@/core/session';
import { createRandom } from '@/core/units';
import { conformGroup, fileSink, fileSource, runTask } from '@/engine';
import { playNotes } from '../demo/synth';

const RATE = 48_000;
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-conform-'));
const { sin, cos, PI, log10, sqrt, abs, round, max, min, exp } = Math;

async function write(name: string, samples: Float32Array, times = 1): Promise<string> {
  const path = join(folder, name);
  rmSync(path, { force: true });
  const file = await fileSink(path);
  const writer = await createWavWriter(file.bytes, { sampleRateHz: RATE, channels: 1, bitDepth: 32 });
  for (let n = 0; n < times; n++) await writer.write([samples]);
  await writer.finish();
  await file.close();
  return path;
}

async function readMono(path: string): Promise<Float32Array> {
  const file = await fileSource(path);
  const header = await readSoundHeader(file.bytes);
  if (!header.ok) throw new Error(header.error.code);
  const out = new Float32Array(header.value.lengthFrames);
  for await (const b of readSoundBlocks(file.bytes, header.value))
    out.set(b.channels[0] as Float32Array, b.startFrames);
  await file.close();
  return out;
}

/** Conforms these channels as one group; ranks all alike unless given. */
async function conform(
  channels: readonly Float32Array[],
  pegs: readonly Peg[],
  method: ConformMethod,
  block: BlockLength = 'middle',
  ranks: readonly number[] = [],
): Promise<{ outputs: Float32Array[]; attacks: number | null }> {
  const sources = [];
  for (const [i, c] of channels.entries()) {
    const outPath = join(folder, `out${i}.wav`);
    rmSync(outPath, { force: true });
    sources.push({ path: await write(`in${i}.wav`, c), outPath, startFrames: 0, rank: ranks[i] ?? 0 });
  }
  const done = await conformGroup({ method, block, pegs, excerpt: null, sources }, () => undefined);
  for (const f of done.files)
    if (f.plannedFrames !== f.writtenFrames)
      console.log(`LENGTH: planned ${f.plannedFrames}, written ${f.writtenFrames}`);
  return { outputs: await Promise.all(done.files.map((f) => readMono(f.outPath))), attacks: done.attacks };
}

/** The reference: R3 engine, offline, one constant ratio. */
async function reference(samples: Float32Array, ratio: number): Promise<Float32Array> {
  const out = join(folder, 'reference.wav');
  spawnSync('rubberband', [
    '-q',
    '-3',
    '--ignore-clipping',
    '-t',
    String(ratio),
    await write('reference-in.wav', samples),
    out,
  ]);
  return readMono(out);
}
const haveReference = spawnSync('sh', ['-c', 'command -v rubberband']).status === 0;

// ---- drums

interface Hit {
  readonly beat: number;
  readonly pitch: number;
  readonly gain: number;
}
const random = createRandom(11);
const PATTERN: Hit[] = Array.from({ length: 32 }, (_, b) => b).flatMap((b) => [
  ...(b % 2 === 0 ? [{ beat: b, pitch: 36, gain: 1 }] : [{ beat: b, pitch: 38, gain: 0.9 }]),
  ...(b % 8 === 3 ? [{ beat: b + 0.75, pitch: 36, gain: 0.7 }] : []),
  { beat: b, pitch: 42, gain: 0.5 + 0.1 * random() },
  { beat: b + 0.5, pitch: 42, gain: 0.35 + 0.1 * random() },
  ...(b % 16 === 15 ? [0, 0.25, 0.5, 0.75].map((x) => ({ beat: b + x, pitch: 45, gain: 0.7 })) : []),
  ...(b % 32 === 0 ? [{ beat: b, pitch: 49, gain: 0.6 }] : []),
]);
const PITCHES = [36, 38, 42, 45, 49];
const RANKS = [0, 0, 1, 1, 2];

async function oneShots(): Promise<Map<number, Float32Array>> {
  const shots = new Map<number, Float32Array>();
  for (const pitch of PITCHES) {
    const x = await playNotes(
      [{ seconds: 0.1, lengthSeconds: 1, pitch, velocity: 110 }],
      'kit',
      RATE,
      2 * RATE,
      folder,
    );
    const peak = x.reduce((a, v) => max(a, abs(v)), 0);
    const begin = x.findIndex((v) => abs(v) > 0.02 * peak);
    shots.set(
      pitch,
      x.slice(begin - 4).map((v) => v / peak / 2),
    );
  }
  return shots;
}

/** The kit at given moments of the beats, one channel a piece, each hit at a whole sample. */
function playKit(
  shots: Map<number, Float32Array>,
  at: (beat: number) => number,
  seconds: number,
): Float32Array[] {
  return PITCHES.map((pitch) => {
    const out = new Float32Array(round(seconds * RATE));
    for (const hit of PATTERN.filter((h) => h.pitch === pitch)) {
      const from = round(at(hit.beat) * RATE);
      const shot = shots.get(pitch) as Float32Array;
      for (let i = 0; i < shot.length && from + i < out.length; i++)
        out[from + i] = (out[from + i] as number) + hit.gain * (shot[i] as number);
    }
    return out;
  });
}

/** −12 dB of everything else on every microphone, and a room that dies away in 0.4 s. */
function inRoom(kit: readonly Float32Array[]): Float32Array[] {
  const r = createRandom(5);
  const taps = Array.from({ length: 60 }, () => ({
    delay: round((0.004 + 0.4 * r() ** 1.5) * RATE),
    sign: r() < 0.5 ? -1 : 1,
  }));
  return kit.map((own, c) => {
    const dry = own.map(
      (v, i) => v + 0.25 * kit.reduce((s, other, k) => (k === c ? s : s + (other[i - 60] ?? 0)), 0),
    );
    const out = Float32Array.from(dry);
    for (const { delay, sign } of taps) {
      const gain = 0.11 * sign * exp((-6.9 * delay) / (0.4 * RATE));
      for (let i = delay; i < out.length; i++)
        out[i] = (out[i] as number) + gain * (dry[i - delay] as number);
    }
    return out;
  });
}

/** Correlation of the levels in dB of 4 ms steps, down to 60 dB below the loudest; of the first difference when `bright`. */
function envelopeCorrelation(a: Float32Array, b: Float32Array, bright: boolean): number {
  const step = round(0.004 * RATE);
  const levels = (x: Float32Array): number[] => {
    const out: number[] = [];
    for (let k = 0; (k + 1) * step <= min(a.length, b.length); k++) {
      let e = 0;
      for (let i = k * step; i < (k + 1) * step; i++) {
        const v = bright ? (x[i] as number) - (x[i - 1] ?? 0) : (x[i] as number);
        e += v * v;
      }
      out.push(e);
    }
    const top = out.reduce((m, v) => max(m, v), 1e-20);
    return out.map((e) => 10 * log10(max(e / top, 1e-6)));
  };
  const [p, q] = [levels(a), levels(b)];
  const mean = (x: readonly number[]): number => x.reduce((s, v) => s + v, 0) / x.length;
  const [mp, mq] = [mean(p), mean(q)];
  let [pq, pp, qq] = [0, 0, 0];
  p.forEach((v, i) => {
    const w = q[i] as number;
    pq += (v - mp) * (w - mq);
    pp += (v - mp) ** 2;
    qq += (w - mq) ** 2;
  });
  return pq / sqrt(pp * qq);
}

async function benchDrums(): Promise<void> {
  const shots = await oneShots();
  const [bpm, start] = [104, 1.5];
  const at = (b: number): number => start + (b * 60) / bpm;
  for (const [name, shape] of [
    ['dry', (k: Float32Array[]) => k],
    ['bleed and room', inRoom],
  ] as const) {
    for (const percent of [2, -2, 10, -10]) {
      const ratio = 1 + percent / 100;
      const to = (b: number): number => start + ((b * 60) / bpm) * ratio;
      const seconds = at(32) + 2;
      const kit = shape(playKit(shots, at, seconds));
      const ideal = shape(playKit(shots, to, seconds * max(1, ratio) + 1));
      const pegs = Array.from({ length: 33 }, (_, b) => ({ played: at(b), conformed: to(b) }));
      const { outputs, attacks } = await conform(kit, pegs, 'slices', 'short', RANKS);
      const mix = (x: readonly Float32Array[]): Float32Array =>
        (x[0] as Float32Array).map((_, i) => x.reduce((s, c) => s + (c[i] ?? 0), 0));
      const score = (x: Float32Array, y: Float32Array): number =>
        min(envelopeCorrelation(x, y, false), envelopeCorrelation(x, y, true));
      const each = outputs.map((o, c) => score(o, ideal[c] as Float32Array));
      const whole = score(mix(outputs), mix(ideal));
      const r3 = haveReference
        ? score(await reference(mix(kit), ratio), mix(playKitShift(ideal, ratio, start)))
        : NaN;
      const { outputs: held } = await conform([mix(kit)], pegs, 'held', 'short');
      console.log(
        `drums ${name} ${percent > 0 ? '+' : ''}${percent} %: kit mix ${whole.toFixed(4)}, channels ${each.map((v) => v.toFixed(3)).join(' ')} (${attacks} hits); short block ${score(held[0] as Float32Array, mix(ideal)).toFixed(4)}; reference ${r3.toFixed(4)}`,
      );
    }
  }
}

/** The reference stretches the lead-in too: its ideal begins later. */
function playKitShift(ideal: readonly Float32Array[], ratio: number, start: number): Float32Array[] {
  const shift = round(start * (ratio - 1) * RATE);
  return ideal.map((c) => Float32Array.from({ length: c.length }, (_, i) => c[i - shift] ?? 0));
}

// ---- timing

async function benchImpulses(): Promise<void> {
  const beats: number[] = [];
  for (let t = 2, b = 0; b < 96; b++) {
    beats.push(t);
    t += (60 / 112) * (1 + 0.05 * sin(b / 7) + 0.01 * (random() - 0.5));
  }
  const pegs = beats.map((t, b) => ({ played: t, conformed: 2 + (b * 60) / 112 }));
  const length = round(((beats.at(-1) as number) + 2) * RATE);
  const x = new Float32Array(length);
  for (const t of beats) x[round(t * RATE)] = 0.8;
  const errors = (out: Float32Array): number[] =>
    pegs.map((p) => {
      const centre = round(p.conformed * RATE);
      let best = 0;
      for (let i = -600; i <= 600; i++)
        if (abs(out[centre + i] ?? 0) > abs(out[centre + best] ?? 0)) best = i;
      return abs(centre + best - p.conformed * RATE) / RATE;
    });
  const worst = (e: readonly number[]): string => `${(1000 * max(...e)).toFixed(3)} ms`;
  console.log(
    `impulses, map wandering ±5 %: slices ${worst(errors((await conform([x], pegs, 'slices')).outputs[0] as Float32Array))}; held long ${worst(errors((await conform([x], pegs, 'held', 'long')).outputs[0] as Float32Array))}, middle ${worst(errors((await conform([x], pegs, 'held', 'middle')).outputs[0] as Float32Array))}, short ${worst(errors((await conform([x], pegs, 'held', 'short')).outputs[0] as Float32Array))}`,
  );
  const shifted = Float32Array.from({ length }, (_, i) => x[i - 37] ?? 0);
  const sliced = (await conform([x, shifted], pegs, 'slices')).outputs as [Float32Array, Float32Array];
  let same = 0;
  for (let i = 37; i < sliced[0].length; i++)
    same = max(same, abs((sliced[1][i] as number) - (sliced[0][i - 37] as number)));
  const noise = Float32Array.from({ length }, () => random() - 0.5);
  const held = (
    await conform(
      [noise, Float32Array.from({ length }, (_, i) => 0.5 * (noise[i] as number))],
      pegs,
      'held',
      'middle',
    )
  ).outputs as [Float32Array, Float32Array];
  let apart = 0;
  for (let i = 0; i < held[0].length; i++)
    apart = max(apart, abs((held[0][i] as number) - 2 * (held[1][i] as number)));
  console.log(
    `mutual delay: slices differ by ${same} after shifting back; held channels differ by ${(20 * log10(apart + 1e-12)).toFixed(0)} dBFS`,
  );
}

// ---- tones

/** SNR in dB of a sum of known partials after a least-squares fit of each one's amplitude and phase. */
function fitSnr(x: Float32Array, hz: readonly number[]): number {
  const rest = Float64Array.from(x);
  // The partials are orthogonal over many periods; three rounds settle what is left of their overlap.
  for (let turn = 0; turn < 4; turn++)
    for (const f of hz) {
      let [cs, ss, cc, s2, sc] = [0, 0, 0, 0, 0];
      for (let i = 0; i < rest.length; i++) {
        const c = cos((2 * PI * f * i) / RATE);
        const s = sin((2 * PI * f * i) / RATE);
        cs += c * (rest[i] as number);
        ss += s * (rest[i] as number);
        cc += c * c;
        s2 += s * s;
        sc += s * c;
      }
      const d = cc * s2 - sc * sc;
      const [a, b] = [(cs * s2 - ss * sc) / d, (ss * cc - cs * sc) / d];
      for (let i = 0; i < rest.length; i++)
        rest[i] = (rest[i] as number) - a * cos((2 * PI * f * i) / RATE) - b * sin((2 * PI * f * i) / RATE);
    }
  const energy = (y: ArrayLike<number>): number => {
    let e = 0;
    for (let i = 0; i < y.length; i++) e += (y[i] as number) ** 2;
    return e;
  };
  return 10 * log10(energy(x) / energy(rest));
}

/** Strongest amplitude modulation in percent of a steady sum of tones: ripple of the level over 50 ms windows. */
function modulation(x: Float32Array): number {
  const window = round(0.05 * RATE);
  const levels: number[] = [];
  for (let k = 0; (k + 1) * window <= x.length; k++) {
    let e = 0;
    for (let i = k * window; i < (k + 1) * window; i++) e += (x[i] as number) ** 2;
    levels.push(sqrt(e / window));
  }
  const mean = levels.reduce((a, b) => a + b, 0) / levels.length;
  return (100 * sqrt(levels.reduce((a, l) => a + (l - mean) ** 2, 0) / levels.length)) / mean;
}

async function benchTones(): Promise<void> {
  const tones = (hz: readonly number[], seconds = 14): Float32Array =>
    Float32Array.from(
      { length: seconds * RATE },
      (_, i) => hz.reduce((s, f, n) => s + sin((2 * PI * f * i) / RATE + n) / (n + 1), 0) * 0.3,
    );
  const middle = (x: Float32Array): Float32Array => x.slice(4 * RATE, 10 * RATE);
  for (const ratio of [1.02, 0.98]) {
    const pegs = [
      { played: 0, conformed: 0 },
      { played: 14, conformed: 14 * ratio },
    ];
    const partials = [1, 2, 3, 4, 5].map((n) => 41.2 * n);
    const bass = tones(partials);
    const out = (await conform([bass], pegs, 'held', 'long')).outputs[0] as Float32Array;
    console.log(
      `bass 41.2 Hz at ${ratio}: SNR ${fitSnr(middle(out), partials).toFixed(1)} dB; reference ${haveReference ? fitSnr(middle(await reference(bass, ratio)), partials).toFixed(1) : '–'} dB`,
    );
    const chord = tones([220, 277.18, 329.63]);
    const held = (await conform([chord], pegs, 'held', 'middle')).outputs[0] as Float32Array;
    console.log(
      `chord at ${ratio}: modulation ${modulation(middle(held)).toFixed(2)} % beside ${modulation(middle(chord)).toFixed(2)} % before; reference ${haveReference ? modulation(middle(await reference(chord, ratio))).toFixed(2) : '–'} %`,
    );
  }
}

// ---- speed

async function benchSpeed(): Promise<void> {
  const seconds = Number(process.env.FERNMOSS_BENCH_SECONDS ?? 240);
  const r = createRandom(2);
  const hit = Float32Array.from({ length: RATE }, (_, i) =>
    i % 12_857 < 9000 ? (r() - 0.5) * exp(-(i % 12_857) / 2000) : 0,
  );
  const note = Float32Array.from(
    { length: RATE },
    (_, i) =>
      0.2 * sin((2 * PI * 110 * i) / RATE) + 0.1 * sin((2 * PI * 331 * i) / RATE) + 0.2 * (hit[i] as number),
  );
  const pegs = Array.from({ length: Math.floor(seconds / 0.5) }, (_, b) => ({
    played: 0.5 + b * 0.5 * (1 + 0.01 * sin(b / 9)),
    conformed: 0.5 + b * 0.5,
  }));
  const [kit, other] = [
    await write('speed-kit.wav', hit, seconds),
    await write('speed-other.wav', note, seconds),
  ];
  const outDir = join(folder, 'speed');
  mkdirSync(outDir);
  // As a song has them: ten kit microphones together, then bass, pairs and single tracks.
  const groups = [
    { method: 'slices' as const, block: 'short' as const, path: kit, count: 10 },
    ...Array.from({ length: 2 }, () => ({
      method: 'held' as const,
      block: 'long' as const,
      path: other,
      count: 1,
    })),
    ...Array.from({ length: 5 }, () => ({
      method: 'held' as const,
      block: 'middle' as const,
      path: other,
      count: 2,
    })),
    ...Array.from({ length: 8 }, () => ({
      method: 'held' as const,
      block: 'middle' as const,
      path: other,
      count: 1,
    })),
  ];
  let next = 0;
  const begin = process.hrtime.bigint();
  const work = async (): Promise<void> => {
    for (let i = next++; i < groups.length; i = next++) {
      const g = groups[i] as (typeof groups)[number];
      await runTask(
        'conform',
        {
          method: g.method,
          block: g.block,
          pegs,
          excerpt: null,
          sources: Array.from({ length: g.count }, (_, k) => ({
            path: g.path,
            outPath: join(outDir, `${i}-${k}.wav`),
            startFrames: 0,
            rank: 0,
          })),
        },
        { threadPath: join(process.cwd(), 'dist/compute.mjs') },
      );
    }
  };
  await Promise.all([work(), work()]);
  const wall = Number(process.hrtime.bigint() - begin) / 1e9;
  const one = process.hrtime.bigint();
  if (haveReference)
    spawnSync('rubberband', ['-q', '-3', '-t', '1.01', other, join(folder, 'reference-speed.wav')]);
  const ref = Number(process.hrtime.bigint() - one) / 1e9;
  console.log(
    `speed · 30 mono tracks × ${seconds} s on two threads: ${wall.toFixed(0)} s (goal ≤ ${((180 * seconds) / 240).toFixed(0)}); the reference takes ${ref.toFixed(0)} s for one of them · peak ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB resident (goal ≤ 400)`,
  );
}

try {
  const only = process.argv[2];
  for (const [name, run] of Object.entries({
    impulses: benchImpulses,
    tones: benchTones,
    drums: benchDrums,
    speed: benchSpeed,
  }))
    if (only === undefined || only === name) await run();
} finally {
  rmSync(folder, { recursive: true, force: true });
}
process.exit(0);
