import { wholePiece } from '../../../tests/support/pieces';
import { Player, type PlayerTrack } from './player';

// The audio device is not there in tests: what is tested is what the player tells mixer and feeder, and what it shows.
type Message = { readonly kind: string; readonly [fact: string]: unknown };
const toMixer: Message[] = [];
const toFeeder: Message[] = [];
const contexts: { readonly state: string }[] = [];
let away = false;
class FakeContext {
  readonly audioWorklet = {
    addModule: async (): Promise<void> => {
      if (away) throw new Error('server away');
    },
  };
  readonly destination = {};
  // Browsers that allow it begin running; a change of state takes effect a moment later, in the order asked for.
  state = 'running';
  private last: Promise<void> = Promise.resolve();
  private later(state: string): Promise<void> {
    return (this.last = this.last
      .then(() => new Promise((resolve) => setTimeout(resolve, 5)))
      .then(() => {
        this.state = state;
      }));
  }
  constructor() {
    contexts.push(this);
  }
  resume(): Promise<void> {
    return this.later('running');
  }
  suspend(): Promise<void> {
    return this.later('suspended');
  }
  async close(): Promise<void> {
    /* nothing to free */
  }
}
class FakeNode {
  readonly port = { postMessage: (m: Message) => void toMixer.push(m), onmessage: null };
  connect(): void {
    /* no device */
  }
}
class FakeWorker {
  postMessage(m: Message): void {
    toFeeder.push(m);
  }
  terminate(): void {
    /* nothing runs */
  }
}
beforeAll(() =>
  Object.assign(globalThis, {
    AudioContext: FakeContext,
    AudioWorkletNode: FakeNode,
    Worker: FakeWorker,
    window: globalThis,
    document: { hidden: false },
    requestAnimationFrame: () => 1,
    cancelAnimationFrame: () => undefined,
  }),
);
const opened: Player[] = [];
const open = (): Player => {
  const player = new Player();
  opened.push(player);
  return player;
};
afterEach(async () => {
  for (const player of opened.splice(0)) await player.dispose();
});
beforeEach(() => {
  toMixer.length = 0;
  toFeeder.length = 0;
});

const track = (
  id: string,
  {
    sound = `recordings/${id}`,
    lengthFrames = 480_000,
    startFrames = 0,
    ...more
  }: Partial<PlayerTrack> & {
    readonly sound?: string;
    readonly lengthFrames?: number;
    readonly startFrames?: number;
  } = {},
): PlayerTrack => ({
  id,
  channels: 1,
  pieces: [wholePiece(sound, lengthFrames, startFrames)],
  gainDb: 0,
  pan: 0,
  inverted: false,
  muted: false,
  ...more,
});
const last = (kind: string, of: readonly Message[] = toMixer): Message | undefined =>
  of.filter((m) => m.kind === kind).at(-1);
/** Twice as long as played, from a second on. */
const HALF_SPEED = { toPlayback: (s: number) => 1 + 2 * (s - 1), toPlayed: (s: number) => 1 + (s - 1) / 2 };

describe('playing the session', () => {
  it('begins where it is told, in frames of the session, for mixer and feeder alike', async () => {
    const player = open();
    player.setTracks([track('a'), track('b')], 48_000);
    player.seek(2.5);
    await player.play();
    expect(last('start')).toMatchObject({ startFrames: 120_000, loop: null });
    expect(last('start', toFeeder)).toEqual({ ...last('start'), ahead: false });
    expect((last('tracks')?.tracks as PlayerTrack[]).map((t) => t.pieces[0]?.sound)).toEqual([
      'recordings/a',
      'recordings/b',
    ]);
    expect(player.state.getState().status).toBe('playing');
    await player.toggle();
    expect(player.state.getState()).toMatchObject({ status: 'idle', positionSeconds: 2.5 });
  });
  it('is counted in where the click is on; a stop while it counts keeps the place, a jump while it plays does not count', async () => {
    const player = open();
    player.setTracks([track('a', { lengthFrames: 2_000_000 })], 48_000);
    player.seek(10);
    player.setCountIn(() => 2);
    await player.play();
    expect(last('start')?.countFrames).toBeUndefined();
    player.stop();
    player.toggleClick();
    await player.play();
    expect(last('start')).toMatchObject({ startFrames: 480_000, countFrames: 96_000 });
    player.state.setState({ positionSeconds: 8.7 });
    player.stop();
    expect(player.state.getState().positionSeconds).toBe(10);
    await player.play();
    player.seek(20);
    expect(last('start')?.countFrames).toBeUndefined();
  });
  it('counts in played time while something conformed is heard: place, loop and click are turned over', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000, HALF_SPEED);
    player.setClicks([1, 2], ['accent', 'pulse']);
    player.seek(2);
    player.setLoop({ fromSeconds: 2, toSeconds: 3 });
    await player.play();
    expect(last('start')).toMatchObject({
      startFrames: 3 * 48_000,
      loop: { startFrames: 3 * 48_000, endFrames: 5 * 48_000 },
    });
    expect([...(last('click')?.frames as Float64Array)]).toEqual([48_000, 3 * 48_000]);
    expect(player.state.getState()).toMatchObject({
      positionSeconds: 2,
      loop: { startFrames: 96_000, endFrames: 144_000 },
    });
  });
  it('goes over to other sound while it plays, at the same place of the music', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    player.seek(3);
    await player.play();
    player.setTracks([track('a', { sound: 'conformed/k', lengthFrames: 960_000 })], 48_000, HALF_SPEED);
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect((last('tracks')?.tracks as PlayerTrack[])[0]?.pieces[0]?.sound).toBe('conformed/k');
    expect(last('start')).toMatchObject({ startFrames: 5 * 48_000 });
  });
  it('changes of level alone load nothing again', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    await player.play();
    const loads = toMixer.filter((m) => m.kind === 'tracks').length;
    player.setTracks([track('a', { gainDb: -6, pan: 1 })], 48_000);
    expect(toMixer.filter((m) => m.kind === 'tracks')).toHaveLength(loads);
    expect((last('gains')?.left as Float32Array)[0]).toBeCloseTo(0, 6);
    expect((last('gains')?.right as Float32Array)[0]).toBeCloseTo(10 ** (-6 / 20), 5);
  });
  it('solo is heard even when muted, and silences the rest; of something without sound it silences nobody', async () => {
    const player = open();
    player.setTracks([track('a'), track('b', { muted: true })], 48_000);
    await player.play();
    const audible = (): boolean[] => [...(last('gains')?.left as Float32Array)].map((g) => g > 0);
    expect(audible()).toEqual([true, false]);
    player.setSolo(new Set(['b']));
    expect(audible()).toEqual([false, true]);
    player.setSolo(new Set(['notes']));
    expect(audible()).toEqual([true, false]);
  });
});

it('takes are silent until one is heard in the place of its track: gains alone change, nothing is loaded again', async () => {
  const player = open();
  const takes = Array.from({ length: 8 }, (_, i) => track(`a:${i}`, { takeOf: 'a' }));
  player.setTracks([track('a'), ...takes, track('b')], 48_000);
  await player.play();
  const order = ['a', ...takes.map((t) => t.id), 'b'];
  const audible = (): string[] =>
    [...(last('gains')?.left as Float32Array)].flatMap((g, i) => (g > 0 ? [order[i] as string] : []));
  expect(audible()).toEqual(['a', 'b']);
  const count = (kind: string): number => toMixer.filter((m) => m.kind === kind).length;
  const [loads, starts] = [count('tracks'), count('start')];
  for (const { id } of takes) {
    player.hearTake(id);
    expect(audible()).toEqual([id, 'b']);
  }
  player.setSolo(new Set(['a']));
  expect(audible()).toEqual(['a:7']);
  player.setSolo(new Set(['b']));
  expect(audible()).toEqual(['b']);
  player.setSolo(new Set());
  player.hearTake(null);
  expect(audible()).toEqual(['a', 'b']);
  // Of a track that is not there any more nothing is heard, and nothing is missing.
  player.hearTake('gone:1');
  expect(audible()).toEqual(['a', 'b']);
  expect([count('tracks'), count('start')]).toEqual([loads, starts]);
});

describe('made ready before anyone plays', () => {
  const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 260));
  it('is what play begins with: the feeder only has to go on', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    player.seek(2);
    await settled();
    expect(last('start', toFeeder)).toMatchObject({ startFrames: 96_000, ahead: true });
    const { epoch } = last('start', toFeeder) as unknown as { epoch: number };
    await player.play();
    expect(last('start')).toMatchObject({ epoch, startFrames: 96_000 });
    expect(toFeeder.filter((m) => m.kind === 'start')).toHaveLength(1);
    expect(toFeeder.at(-1)).toEqual({ kind: 'go' });
  });
  it('does not count when the place has changed since', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    await settled();
    player.seek(5);
    await player.play();
    expect(last('start', toFeeder)).toMatchObject({ startFrames: 240_000, ahead: false });
  });
});

it('play pressed while the page is still making itself ready is heard: the device does not fall asleep under it', async () => {
  const player = open();
  player.setTracks([track('a')], 48_000);
  player.warm();
  await player.play();
  await new Promise((resolve) => setTimeout(resolve, 40));
  expect(contexts.at(-1)?.state).toBe('running');
});

it('the same when the page makes itself ready just after the key', async () => {
  const player = open();
  player.setTracks([track('a')], 48_000);
  const playing = player.play();
  player.warm();
  await playing;
  await new Promise((resolve) => setTimeout(resolve, 40));
  expect(contexts.at(-1)?.state).toBe('running');
  player.stop();
});

it('stopped before the device was open, it stays silent', async () => {
  const player = open();
  player.setTracks([track('a')], 48_000);
  const playing = player.play();
  player.stop();
  await playing;
  expect(last('start')).toBeUndefined();
  expect(player.state.getState().status).toBe('idle');
});

it('a server that is away when the page makes itself ready costs nothing: the next key plays', async () => {
  const player = open();
  player.setTracks([track('a')], 48_000);
  away = true;
  player.warm();
  await player.play();
  expect(player.state.getState().status).toBe('idle');
  away = false;
  await player.play();
  expect(player.state.getState().status).toBe('playing');
});

describe('listening level', () => {
  it('dims by 20 dB and back, below the level chosen; the session stays', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    await player.play();
    player.setLevel(-6);
    player.toggleDim();
    expect(last('level')?.gain).toBeCloseTo(10 ** (-26 / 20), 9);
    player.toggleDim();
    expect(last('level')?.gain).toBeCloseTo(10 ** (-6 / 20), 9);
    player.setLevel(12);
    expect(player.state.getState().levelDb).toBe(0);
  });
  it('one key repeats from here, plays on, and repeats the same again', () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    player.seek(1);
    player.toggleLoop();
    expect(player.state.getState().loop).toEqual({ startFrames: 48_000, endFrames: 9 * 48_000 });
    player.toggleLoop();
    expect(player.state.getState().loop).toBeNull();
    player.seek(60);
    player.toggleLoop();
    expect(player.state.getState().loop).toEqual({ startFrames: 48_000, endFrames: 9 * 48_000 });
  });
  it('the same rows in another order load nothing again', async () => {
    const player = open();
    player.setTracks([track('a'), track('b')], 48_000);
    await player.play();
    player.setTracks([track('b'), track('a')], 48_000);
    expect(toMixer.filter((m) => m.kind === 'tracks')).toHaveLength(1);
  });
});

describe('trying something out', () => {
  const trial = {
    tracks: [track('t', { sound: 'conformed/t', startFrames: 240_000, lengthFrames: 96_000 })],
    time: HALF_SPEED,
    fromSeconds: 3,
    toSeconds: 4,
  };
  it('plays it round and round; the session comes back where it was', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    player.seek(7);
    await player.tryOut(trial);
    expect(player.state.getState()).toMatchObject({ trying: true, status: 'playing', positionSeconds: 3 });
    expect(last('start')).toMatchObject({
      startFrames: 5 * 48_000,
      loop: { startFrames: 5 * 48_000, endFrames: 7 * 48_000 },
    });
    await player.tryOut(null);
    expect(player.state.getState()).toMatchObject({
      trying: false,
      status: 'idle',
      positionSeconds: 7,
      loop: null,
    });
    await player.play();
    expect((last('tracks')?.tracks as PlayerTrack[])[0]?.pieces[0]?.sound).toBe('recordings/a');
  });
  it('changes of the session meanwhile wait until it is over', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    await player.tryOut(trial);
    player.setTracks([track('a'), track('b')], 48_000);
    expect((last('tracks')?.tracks as PlayerTrack[]).map((t) => t.pieces[0]?.sound)).toEqual(['conformed/t']);
    await player.tryOut(null);
    await player.play();
    expect((last('tracks')?.tracks as unknown[]).length).toBe(2);
  });
  it('from one trial to the next the place in the session is kept', async () => {
    const player = open();
    player.setTracks([track('a')], 48_000);
    player.seek(9);
    await player.tryOut(trial);
    await player.tryOut({ ...trial, time: null });
    expect(last('start')).toMatchObject({ startFrames: 3 * 48_000 });
    await player.tryOut(null);
    expect(player.state.getState().positionSeconds).toBe(9);
    await player.tryOut(null);
    expect(player.state.getState().positionSeconds).toBe(9);
  });
});
