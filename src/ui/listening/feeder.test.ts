import { wholePiece } from '../../../tests/support/pieces';
import { plainTrack } from '../../../tests/support/random-edits';
import { type Piece, piecesOf } from '@/core/arrange';
import { mixDown } from '@/core/render';
import { type Clip, type Track, wholeClip } from '@/core/session';
import { createRandom } from '@/core/units';
import { soundHead, soundParts } from '@/core/audio';
import { CONTROL, type FeederMessage, type Loop, songFrame, turnFrames } from './transport';

const SIZE = 1 << 16;
const asked: { sound: string; from: number; count: number }[][] = [];
let down = false;
const feeder: { onmessage?: (event: { data: FeederMessage }) => void } = {};
/** Frame `i` of every sound is i / 2^20: exact in float32. */
const sampleAt = (frame: number): number => frame / (1 << 20);
const LENGTH = 200_000;
beforeAll(async () => {
  Object.assign(globalThis, {
    self: feeder,
    fetch: async (_url: string, { body }: { body: string }): Promise<unknown> => {
      if (down) throw new TypeError('refused');
      const { pieces } = JSON.parse(body) as { pieces: { sound: string; from: number; count: number }[] };
      asked.push(pieces);
      const parts = pieces.flatMap(({ sound, from, count }) => {
        if (sound === 'recordings/gone')
          return [soundHead({ bytes: new Uint8Array(0), encoding: 'f32', channels: 0 })];
        const bytes = new Uint8Array(
          Float32Array.from({ length: Math.min(count, LENGTH - from) }, (_, i) => sampleAt(from + i)).buffer,
        );
        return [soundHead({ bytes, encoding: 'f32', channels: 1 }), bytes];
      });
      return { ok: true, arrayBuffer: async () => Buffer.concat(parts) };
    },
  });
  await import('./feeder.worker');
});
afterEach(() => {
  down = false;
  send({ kind: 'stop' });
  asked.length = 0;
});

const send = (data: FeederMessage): void => feeder.onmessage?.({ data });

const load = (tracks: readonly { readonly sound: string; readonly startFrames?: number }[]) =>
  loadPieces(tracks.map(({ sound, startFrames = 0 }) => [wholePiece(sound, LENGTH, startFrames)]));

function loadPieces(tracks: readonly (readonly Piece<string>[])[]) {
  const control = new SharedArrayBuffer(CONTROL.words * 4);
  const watermarks = new SharedArrayBuffer(tracks.length * 4);
  const made = tracks.map((pieces) => ({
    channels: 1,
    pieces,
    rings: new SharedArrayBuffer(SIZE * 4),
  }));
  send({ kind: 'tracks', control, watermarks, ringFrames: SIZE, tracks: made });
  const state = new Int32Array(control);
  const marks = new Int32Array(watermarks);
  const reach = async (frames: number): Promise<void> => {
    for (let i = 0; i < 200 && Math.min(...marks) < (state[CONTROL.base] as number) + frames; i++)
      await new Promise((resolve) => setTimeout(resolve, 10));
    expect(Math.min(...marks)).toBeGreaterThanOrEqual((state[CONTROL.base] as number) + frames);
  };
  const at = (track: number, streamed: number): number =>
    new Float32Array(made[track]?.rings as SharedArrayBuffer)[
      ((state[CONTROL.base] as number) + streamed) % SIZE
    ] as number;
  return { state, marks, reach, at };
}

it('fills all rings alike, in one request, silence before a track begins and for sound that is gone', async () => {
  const f = load([
    { sound: 'recordings/a' },
    { sound: 'recordings/b', startFrames: 5000 },
    { sound: 'recordings/gone' },
  ]);
  send({ kind: 'start', epoch: 3, startFrames: 1000, loop: null, ahead: false });
  await f.reach(30_000);
  expect(f.state[CONTROL.feederEpoch]).toBe(3);
  for (const s of [0, 1, 3999, 4000, 4001, 20_000]) {
    expect(f.at(0, s)).toBe(sampleAt(1000 + s));
    expect(f.at(1, s)).toBe(s < 4000 ? 0 : sampleAt(s - 4000));
    expect(f.at(2, s)).toBe(0);
  }
  expect(asked[0]?.map((p) => p.sound)).toEqual(['recordings/a', 'recordings/b', 'recordings/gone']);
});

it('fills what clips come to, cut, slipped, faded and crossed over: 64 tracks of 200, against the core’s own sum (seed 6)', async () => {
  const random = createRandom(6);
  const sound = [Float32Array.from({ length: LENGTH }, (_, i) => sampleAt(i))];
  const cut = Array.from({ length: 64 }, (_, t): Track => {
    const length = 300 + Math.floor(random() * 500);
    const clips = Array.from({ length: 200 }, (_c, i): Clip => ({
      ...wholeClip('lane-t')[0],
      id: `c${i}`,
      fromFrames: i * length + t,
      toFrames: (i + 1) * length + t + (random() < 0.2 ? -50 : 60),
      fadeInFrames: 60,
      fadeInShape: i % 2 === 0 ? 'equal-gain' : 'equal-power',
      fadeOutFrames: 60,
      gainDb: random() < 0.3 ? random() * 6 - 3 : 0,
      slipFrames: Math.floor(random() * 40) - 20,
      off: random() < 0.05,
    }));
    return { ...plainTrack('t'), inverted: t % 7 === 0, clips };
  });
  const f = loadPieces(cut.map((t) => piecesOf(t, () => ({ sound: 'recordings/a', lengthFrames: LENGTH }))));
  send({ kind: 'start', epoch: 3, startFrames: 700, loop: null, ahead: false });
  await f.reach(30_000);
  cut.forEach((t, n) => {
    const pieces = piecesOf(t, () => ({ sound, lengthFrames: LENGTH }));
    const [want] = mixDown([{ channels: 2, gainDb: 0, pan: 0, inverted: false, pieces }], 700, 30_000);
    let worst = 0;
    want.forEach((x, i) => {
      worst = Math.max(worst, Math.abs(x - f.at(n, i)));
    });
    expect(20 * Math.log10(worst)).toBeLessThan(-120);
  });
}, 60_000);

it('makes a second ready and no more until told to go', async () => {
  const f = load([{ sound: 'recordings/a' }]);
  send({ kind: 'start', epoch: 1, startFrames: 0, loop: null, ahead: true });
  await f.reach(48_000);
  await new Promise((resolve) => setTimeout(resolve, 100));
  const ready = f.marks[0];
  Atomics.store(f.state, CONTROL.mixerEpoch, 1);
  Atomics.add(f.state, CONTROL.streamed, 20_000);
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect(f.marks[0]).toBe(ready);
  send({ kind: 'go' });
  await f.reach(60_000);
});

it('goes round a loop to the frame; its end fades over into what leads to its start', async () => {
  const loop: Loop = { startFrames: 4000, endFrames: 24_000 };
  const f = load([{ sound: 'recordings/a' }]);
  send({ kind: 'start', epoch: 1, startFrames: 10_000, loop, ahead: false });
  await f.reach(30_000);
  const turn = turnFrames(loop);
  for (const s of [0, 13_000, 14_000, 14_001, 29_000])
    expect(f.at(0, s)).toBe(sampleAt(songFrame(10_000, s, loop)));
  let step = 0;
  for (let s = 13_990 - turn; s < 14_010; s++) step = Math.max(step, Math.abs(f.at(0, s + 1) - f.at(0, s)));
  // Without the fade it would be 20000 / 2^20; spread over the turn it is a few parts of that.
  expect(step).toBeLessThan((1.2 * 20_000) / turn / (1 << 20));
});

it('tries again when the server does not answer, and loses nothing', async () => {
  down = true;
  const f = load([{ sound: 'recordings/a' }]);
  send({ kind: 'start', epoch: 1, startFrames: 0, loop: null, ahead: false });
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(f.marks[0]).toBe(f.state[CONTROL.base]);
  down = false;
  await f.reach(30_000);
  expect(f.at(0, 777)).toBe(sampleAt(777));
});

it('an answer that was cut off is no answer', () => {
  const bytes = new Uint8Array(40);
  const whole = Buffer.concat([soundHead({ bytes, encoding: 's24', channels: 2 }), bytes]);
  expect(soundParts(whole)).toEqual([{ bytes: Buffer.from(bytes), encoding: 's24', channels: 2 }]);
  expect(() => soundParts(whole.subarray(0, 20))).toThrow('cut off');
  expect(() => soundParts(whole.subarray(0, 3))).toThrow('cut off');
});
