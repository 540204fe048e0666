import { wholePiece } from '../../../tests/support/pieces';
import { mixDown, stripGains } from '@/core/render';
import { createRandom } from '@/core/units';
import {
  CONTROL,
  FADE_FRAMES,
  framesToJump,
  type Loop,
  type MixTrack,
  ringFrames,
  songFrame,
  turnFrames,
} from './transport';

interface MixerUnderTest {
  process(inputs: unknown, outputs: Float32Array[][]): boolean;
  port: { onmessage: (event: { data: unknown }) => void; postMessage(data: unknown): void };
}
let made: new () => MixerUnderTest;
const told: unknown[] = [];
beforeAll(async () => {
  Object.assign(globalThis, {
    sampleRate: 48_000,
    AudioWorkletProcessor: class {
      port = { postMessage: (m: unknown): void => void told.push(m) };
    },
    registerProcessor: (_name: string, type: new () => MixerUnderTest) => {
      made = type;
    },
  });
  await import('./mixer.worklet');
});

const SIZE = 1 << 16;
const ENOUGH = 20_000;

/** A mixer with tracks whose rings hold `value(track, frame, channel)`. */
function mixer(
  channels: readonly number[],
  value: (track: number, frame: number, channel: number) => number,
  start: {
    readonly startFrames?: number;
    readonly loop?: Loop | null;
    readonly base?: number;
    readonly countFrames?: number;
  } = {},
) {
  const control = new SharedArrayBuffer(CONTROL.words * 4);
  const watermarks = new SharedArrayBuffer(channels.length * 4);
  const base = start.base ?? 0;
  const tracks: MixTrack[] = channels.map((count, t) => {
    const rings = new SharedArrayBuffer(count * SIZE * 4);
    for (let c = 0; c < count; c++) {
      const ring = new Float32Array(rings, c * SIZE * 4, SIZE);
      for (let i = 0; i < SIZE; i++) ring[(base + i) % SIZE] = value(t, i, c);
    }
    return { channels: count, pieces: [], rings };
  });
  const node = new made();
  const send = (data: unknown): void => node.port.onmessage({ data });
  send({ kind: 'tracks', control, watermarks, ringFrames: SIZE, tracks });
  const ones = Float32Array.from(channels, () => 1);
  send({ kind: 'gains', left: ones, right: ones });
  const state = new Int32Array(control);
  const marks = new Int32Array(watermarks);
  const fillTo = (frames: number): void => void marks.fill(base + frames);
  const begin = (epoch = 1): void => {
    send({
      kind: 'start',
      epoch,
      startFrames: start.startFrames ?? 0,
      loop: start.loop ?? null,
      countFrames: start.countFrames,
    });
    Atomics.store(state, CONTROL.base, base);
    Atomics.store(state, CONTROL.feederEpoch, epoch);
  };
  const pull = (blocks = 1): Float32Array => {
    const all = new Float32Array(blocks * 128);
    for (let b = 0; b < blocks; b++) {
      const out = [[new Float32Array(128), new Float32Array(128)]];
      node.process([], out);
      all.set(out[0]?.[0] as Float32Array, b * 128);
    }
    return all;
  };
  return { send, begin, pull, fillTo, state, meter: new Float32Array(control), marks };
}

const largestStep = (x: Float32Array, before = 0): number =>
  x.reduce((most, v, i) => Math.max(most, Math.abs(v - (i === 0 ? before : (x[i - 1] as number)))), 0);

it('adds all tracks frame by frame: none runs ahead of another', () => {
  const m = mixer([1, 1, 2], (t, i) => (t + 1) * 1e-4 * (i % 1000), { base: SIZE - 300 });
  m.fillTo(ENOUGH);
  m.begin();
  const out = m.pull(30);
  for (let i = FADE_FRAMES; i < out.length; i++) expect(out[i]).toBeCloseTo(6e-4 * (i % 1000), 6);
  expect(m.state[CONTROL.streamed]).toBe(SIZE - 300 + 30 * 128);
  expect(told.at(-1)).toEqual({ kind: 'sounding', epoch: 1 });
});

it('equals the mix of the core to −120 dBFS: 64 tracks of noise, mono and stereo, with level and pan (seed 5)', () => {
  const random = createRandom(5);
  const strips = Array.from({ length: 64 }, (_, t) => ({
    channels: t % 3 === 0 ? 2 : 1,
    gainDb: -12 * random() - 18,
    inverted: false,
    pan: 2 * random() - 1,
    sound: [] as Float32Array[],
  }));
  for (const s of strips)
    s.sound = Array.from({ length: s.channels }, () =>
      Float32Array.from({ length: SIZE }, () => 2 * random() - 1),
    );
  const m = mixer(
    strips.map((s) => s.channels),
    (t, i, c) => strips[t]?.sound[c]?.[i] as number,
  );
  m.send({
    kind: 'gains',
    left: Float32Array.from(strips, (s) => stripGains(s).left),
    right: Float32Array.from(strips, (s) => stripGains(s).right),
  });
  m.fillTo(SIZE - 1000);
  m.begin();
  const out = m.pull(400);
  const tracks = strips.map((s) => ({ ...s, pieces: [wholePiece(s.sound, SIZE)] }));
  const [want] = mixDown(tracks, 0, out.length);
  let worst = 0;
  for (let i = FADE_FRAMES; i < out.length; i++)
    worst = Math.max(worst, Math.abs((out[i] as number) - (want[i] as number)));
  expect(20 * Math.log10(worst)).toBeLessThan(-120);
  expect(want.some((x) => Math.abs(x) > 0.1)).toBe(true);
});

it('waits as a whole while one track is late, counts it, then goes on in step', () => {
  const m = mixer([1, 1], (_t, i) => i * 1e-5);
  m.fillTo(ENOUGH);
  m.marks[1] = 6000;
  m.begin();
  const before = m.pull(100);
  const heard = m.state[CONTROL.streamed] as number;
  expect(heard).toBeLessThanOrEqual(6000);
  expect(before.slice(heard).every((x) => x === 0)).toBe(true);
  expect(m.state[CONTROL.late]).toBe(12_800 - heard);
  m.marks[1] = ENOUGH;
  const after = m.pull(10);
  expect(after[1000]).toBeCloseTo(2 * (heard + 1000) * 1e-5, 6);
});

it('is silent until the feeder speaks of the same start, without counting that as late', () => {
  const m = mixer([1], () => 0.5);
  m.fillTo(ENOUGH);
  m.send({ kind: 'start', epoch: 7, startFrames: 0, loop: null });
  expect(m.pull(3).every((x) => x === 0)).toBe(true);
  expect(m.state[CONTROL.late]).toBe(0);
  m.begin();
  expect(m.pull(3).some((x) => x !== 0)).toBe(true);
});

it('a start that takes longer than half a second is counted as late: a page that stays silent says why', () => {
  const m = mixer([1], () => 0.5);
  m.send({ kind: 'start', epoch: 7, startFrames: 0, loop: null });
  m.pull(187);
  expect(m.state[CONTROL.late]).toBe(0);
  m.pull(100);
  expect(m.state[CONTROL.late]).toBeGreaterThan(12_000);
});

describe('no click', () => {
  const STEP = 1.05 / FADE_FRAMES;
  it('at start, stop and start again', () => {
    const m = mixer([1], () => 1);
    m.fillTo(ENOUGH);
    m.begin();
    expect(largestStep(m.pull(5))).toBeLessThan(STEP);
    m.send({ kind: 'stop' });
    const out = m.pull(5);
    expect(largestStep(out, 1)).toBeLessThan(STEP);
    expect(out.at(-1)).toBe(0);
    expect(m.state[CONTROL.late]).toBe(0);
  });
  it('at a jump to another place: the old one fades before the new one comes', () => {
    const m = mixer([1], () => 1);
    m.fillTo(ENOUGH);
    m.begin();
    m.pull(5);
    m.begin(2);
    const out = m.pull(8);
    expect(largestStep(out, 1)).toBeLessThan(STEP);
    expect(Math.min(...out)).toBe(0);
    expect(out.at(-1)).toBe(1);
  });
  it('where sound is late', () => {
    const m = mixer([1], () => 1);
    m.fillTo(6000);
    m.begin();
    const out = m.pull(100);
    expect(largestStep(out)).toBeLessThan(STEP);
    expect(m.state[CONTROL.late]).toBeGreaterThan(0);
  });
  it('at a change of level, solo or mute', () => {
    const m = mixer([1], () => 1);
    m.fillTo(ENOUGH);
    m.begin();
    m.pull(4);
    m.send({ kind: 'gains', left: Float32Array.of(0), right: Float32Array.of(0) });
    const out = m.pull();
    expect(largestStep(out, 1)).toBeLessThan(0.0101);
    expect(out[127]).toBe(0);
  });
});

describe('the meter', () => {
  it('counts every frame over full scale, once for both sides, and keeps the highest', () => {
    const m = mixer([2], (_t, i, c) =>
      i >= 1000 && i < 1007 ? (c === 0 ? 1.5 : -1.2) : i === 2000 ? 1 : 0.25,
    );
    m.fillTo(ENOUGH);
    m.begin();
    m.pull(40);
    expect(m.state[CONTROL.overs]).toBe(7);
    expect(m.meter[CONTROL.highest]).toBe(1.5);
    expect(m.meter[CONTROL.peak]).toBeLessThan(1);
  });
  it('shows what leaves: dimmed, nothing is over', () => {
    const m = mixer([1], () => 4);
    m.fillTo(ENOUGH);
    m.send({ kind: 'level', gain: 0.1 });
    m.begin();
    const out = m.pull(40);
    expect(out.at(-1)).toBeCloseTo(0.4, 6);
    expect(m.state[CONTROL.overs]).toBe(0);
  });
});

it('clicks at the very frame, accents higher', () => {
  const m = mixer([1], () => 0);
  m.fillTo(ENOUGH);
  m.send({
    kind: 'click',
    frames: Float64Array.of(300, 4000),
    strokes: Uint8Array.of(2, 1),
    sound: 'tone',
    gain: 0.5,
  });
  m.begin();
  const out = m.pull(4);
  expect(out.slice(0, 300).every((x) => x === 0)).toBe(true);
  expect(out[300]).toBeGreaterThan(0.4);
  expect(out.slice(301, 384).some((x) => Math.abs(x) > 0.1)).toBe(true);
});

it('is counted in: the click alone first, then the song from its very frame', () => {
  const m = mixer([1], (_t, i) => 1e-4 * (i + 1), { countFrames: 1000 });
  m.fillTo(ENOUGH);
  m.send({
    kind: 'click',
    frames: Float64Array.of(-1000, -500, 0),
    strokes: Uint8Array.of(2, 1, 2),
    sound: 'tone',
    gain: 0.5,
  });
  m.begin();
  // A thousand frames are eight whole blocks: 1024.
  const out = m.pull(12);
  expect(out.slice(0, 24).every((x) => x === 0)).toBe(true);
  expect(out[524]).toBeGreaterThan(0.25);
  m.send({ kind: 'click', frames: new Float64Array(0), strokes: new Uint8Array(0), sound: 'tone', gain: 0 });
  const after = m.pull(2);
  expect(after[0]).toBeCloseTo(1e-4 * (12 * 128 - 1024 + 1), 6);
});

it('rings keep their memory within bounds: long for few channels, short for many', () => {
  expect([1, 64, 65, 128, 300, 2000].map(ringFrames)).toEqual([
    1 << 18,
    1 << 18,
    1 << 17,
    1 << 17,
    1 << 16,
    1 << 16,
  ]);
});

it('a turn is never longer than half its loop or than there is before it', () => {
  expect([
    turnFrames({ startFrames: 9000, endFrames: 19_000 }),
    turnFrames({ startFrames: 100, endFrames: 9000 }),
    turnFrames({ startFrames: 0, endFrames: 9000 }),
    turnFrames({ startFrames: 9000, endFrames: 9101 }),
  ]).toEqual([FADE_FRAMES, 100, 0, 50]);
});

describe('places in a loop', () => {
  const loop = { startFrames: 1000, endFrames: 1500 };
  it('come back to its start, to the frame, for ever', () => {
    expect([0, 499, 500, 999, 1000, 1499, 1500].map((s) => songFrame(1000, s, loop))).toEqual([
      1000, 1499, 1000, 1499, 1000, 1499, 1000,
    ]);
    expect(songFrame(400, 1100, loop)).toBe(1000);
    expect(framesToJump(1000, 499, loop)).toBe(1);
  });
  it('are plain without a loop or from behind it', () => {
    expect(songFrame(10, 5, null)).toBe(15);
    expect(songFrame(2000, 5, loop)).toBe(2005);
    expect(framesToJump(2000, 5, loop)).toBe(Infinity);
  });
});
