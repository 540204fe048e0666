import { CONTROL, framesToJump, type Loop, type MixTrack, RING_FRAMES, songFrame } from './transport';

interface MixerUnderTest { process(inputs: unknown, outputs: Float32Array[][]): boolean; port: { onmessage: (event: { data: unknown }) => void } }
let made: new () => MixerUnderTest;
beforeAll(async () => {
  Object.assign(globalThis, { sampleRate: 48_000, AudioWorkletProcessor: class { port = {}; }, registerProcessor: (_name: string, type: new () => MixerUnderTest) => { made = type; } });
  await import('./mixer.worklet');
});

/** A mixer with tracks whose rings hold `value(track, frame)` for the first `filled` frames. */
function mixer(channels: readonly number[], value: (track: number, frame: number) => number, filled: number, start: { readonly startFrames?: number; readonly loop?: Loop | null } = {}) {
  const control = new SharedArrayBuffer(CONTROL.words * 4);
  const watermarks = new SharedArrayBuffer(channels.length * 4);
  const tracks: MixTrack[] = channels.map((count, t) => {
    const rings = new SharedArrayBuffer(count * RING_FRAMES * 4);
    for (let c = 0; c < count; c++) new Float32Array(rings, c * RING_FRAMES * 4, RING_FRAMES).forEach((_, i, ring) => { if (i < filled) ring[i] = value(t, i); });
    return { audio: `/api/recordings/r${t}`, channels: count, lengthFrames: 1e6, startFrames: 0, rings };
  });
  const node = new made();
  const send = (data: unknown): void => node.port.onmessage({ data });
  send({ kind: 'tracks', control, watermarks, tracks });
  const ones = Float32Array.from(channels, () => 1);
  send({ kind: 'gains', left: ones, right: ones });
  const state = new Int32Array(control);
  const marks = new Int32Array(watermarks);
  const begin = (): void => {
    send({ kind: 'start', epoch: 1, startFrames: start.startFrames ?? 0, loop: start.loop ?? null });
    Atomics.store(state, CONTROL.feederEpoch, 1);
  };
  const pull = (): Float32Array => {
    const out = [[new Float32Array(128), new Float32Array(128)]];
    node.process([], out);
    return out[0]?.[0] as Float32Array;
  };
  return { send, begin, pull, state, marks };
}

it('adds all tracks frame by frame: none runs ahead of another', () => {
  const m = mixer([1, 1, 2], (t, i) => (t + 1) * 1e-4 * (i % 1000), 4096);
  m.marks.fill(4096);
  m.begin();
  for (let block = 0; block < 30; block++) {
    const out = m.pull();
    // The first block fades the gains in.
    if (block > 1) out.forEach((x, i) => expect(x).toBeCloseTo(6e-4 * ((block * 128 + i) % 1000), 6));
  }
  expect(m.state[CONTROL.streamed]).toBe(30 * 128);
});

it('waits as a whole while one track is starved, counts it, then goes on without a skipped frame', () => {
  const m = mixer([1, 1], (_t, i) => i * 1e-5, 4096);
  m.marks[0] = 4096;
  m.marks[1] = 256;
  m.begin();
  m.pull();
  m.pull();
  expect(m.pull().every((x) => x === 0)).toBe(true);
  expect(m.state[CONTROL.starved]).toBe(128);
  m.marks[1] = 4096;
  m.pull().forEach((x, i) => expect(x).toBeCloseTo(2 * (256 + i) * 1e-5, 6));
});

it('is silent until the feeder speaks of the same start, and after a stop', () => {
  const m = mixer([1], () => 0.5, 4096);
  m.marks.fill(4096);
  m.send({ kind: 'start', epoch: 7, startFrames: 0, loop: null });
  expect(m.pull().every((x) => x === 0)).toBe(true);
  expect(m.state[CONTROL.starved]).toBe(0);
  m.begin();
  expect(m.pull().some((x) => x !== 0)).toBe(true);
  m.send({ kind: 'stop' });
  expect(m.pull().every((x) => x === 0)).toBe(true);
});

it('changes gain without a step louder than one part in a hundred a frame', () => {
  const m = mixer([1], () => 1, 8192);
  m.marks.fill(8192);
  m.begin();
  for (let i = 0; i < 4; i++) m.pull();
  m.send({ kind: 'gains', left: Float32Array.of(0), right: Float32Array.of(0) });
  const out = m.pull();
  for (let i = 1; i < 128; i++) expect(Math.abs((out[i] as number) - (out[i - 1] as number))).toBeLessThan(0.0101);
  expect(out[127]).toBe(0);
});

it('clicks at the very frame, accents higher', () => {
  const m = mixer([1], () => 0, 4096);
  m.marks.fill(4096);
  m.send({ kind: 'click', frames: Float64Array.of(200, 4000), accents: Uint8Array.of(1, 0), gain: 0.5 });
  m.begin();
  const first = m.pull();
  const second = m.pull();
  expect(first.every((x) => x === 0)).toBe(true);
  expect(second.slice(0, 72).every((x) => x === 0)).toBe(true);
  expect(second.slice(73, 128).some((x) => Math.abs(x) > 0.1)).toBe(true);
});

describe('places in a loop', () => {
  const loop = { startFrames: 1000, endFrames: 1500 };
  it('come back to its start, to the frame, for ever', () => {
    expect([0, 499, 500, 999, 1000, 1499, 1500].map((s) => songFrame(1000, s, loop))).toEqual([1000, 1499, 1000, 1499, 1000, 1499, 1000]);
    expect(songFrame(400, 1100, loop)).toBe(1000);
    expect(framesToJump(1000, 499, loop)).toBe(1);
  });
  it('are plain without a loop or from behind it', () => {
    expect(songFrame(10, 5, null)).toBe(15);
    expect(songFrame(2000, 5, loop)).toBe(2005);
    expect(framesToJump(2000, 5, loop)).toBe(Infinity);
  });
});
