import { createStore, type StoreApi } from 'zustand/vanilla';
import { endOf, type Piece } from '@/core/arrange';
import { stripGains } from '@/core/render';
import type { SideGains } from '@/core/session';
import { CLICK_SOUNDS, type ClickSound, type ClickStroke } from '@/core/time';
import {
  CONTROL,
  type FeederMessage,
  type Loop,
  type MixerMessage,
  ringFrames,
  type SoundingMessage,
  type StartMessage,
  STROKES,
  type TracksMessage,
} from './transport';

/** A track to be heard. */
export interface PlayerTrack {
  readonly id: string;
  readonly channels: number;
  /** What sounds of it, as {@link MixTrack} wants it. */
  readonly pieces: readonly Piece<string>[];
  readonly gainDb: number;
  readonly pan: number;
  readonly muted: boolean;
  /** Turned over beside what its pieces say: heard at once. */
  readonly inverted: boolean;
  /** What the buses on its way do to it; missing = nothing. */
  readonly buses?: SideGains;
  /** Id of the track it is a take of: silent until it is asked for, then in its place. */
  readonly takeOf?: string;
}

/** What the page shows of the player. */
export interface PlayerState {
  readonly status: 'idle' | 'playing' | 'unavailable';
  /** Seconds as played, whatever is heard. */
  readonly positionSeconds: number;
  readonly soloIds: ReadonlySet<string>;
  /** Id of the take that is heard in the place of its track; null = tracks as they are put together. */
  readonly heardTake: string | null;
  readonly clickOn: boolean;
  readonly clickSound: ClickSound;
  /** Level of the click against its usual one, dB. */
  readonly clickDb: number;
  /** Frames as played. */
  readonly loop: Loop | null;
  /** Seconds of silence because sound did not come in time, since play. */
  readonly lateSeconds: number;
  /** Seconds the sound device was left without sound because the machine was busy, since play; 0 where the browser does not tell. */
  readonly deviceSeconds: number;
  /** Linear output peak, falling back. */
  readonly peak: number;
  /** Highest output peak, linear, since {@link Player.resetMeter}. */
  readonly highest: number;
  /** Frames over full scale since {@link Player.resetMeter}: every single one is counted. */
  readonly overs: number;
  /** Listening level, dB; changes nothing in the session. */
  readonly levelDb: number;
  readonly dimmed: boolean;
  /** What is heard is not the session but something tried out. */
  readonly trying: boolean;
}

/** From the time as played, which the whole page counts in, to the time of the sound that is heard, and back; seconds. */
export interface PlaybackTime {
  toPlayback(playedSeconds: number): number;
  toPlayed(heardSeconds: number): number;
}

const AS_PLAYED: PlaybackTime = { toPlayback: (s) => s, toPlayed: (s) => s };

/** Something to be heard instead of the session, round and round. */
export interface Trial {
  readonly tracks: readonly PlayerTrack[];
  readonly time: PlaybackTime | null;
  /** Seconds as played. */
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/** Peak of a downbeat of the click, linear. */
const CLICK_GAIN = 0.4;
/** How much quieter “dim” is, dB. */
export const DIM_DB = -20;
/** Silent for so long, the device is given back. */
const REST_MS = 30_000;
/** A place must stand so long before its sound is made ready. */
const SETTLE_MS = 200;
/** Shortest stretch worth repeating, s. */
const SHORTEST_LOOP = 0.1;
/** Loop of the one key, when none was drawn: so many seconds from here. */
const LOOP_SECONDS = 8;

interface DeviceStats {
  readonly playbackStats?: { readonly underrunDuration?: number };
}

/** Listening to a session: one worklet mixes, one worker feeds it. What is likely to be heard next is made ready while nothing plays. */
export class Player {
  readonly state: StoreApi<PlayerState> = createStore(() => ({
    status: 'idle',
    positionSeconds: 0,
    soloIds: new Set<string>(),
    heardTake: null,
    clickOn: false,
    clickSound: CLICK_SOUNDS[0],
    clickDb: 0,
    loop: null,
    lateSeconds: 0,
    deviceSeconds: 0,
    peak: 0,
    highest: 0,
    overs: 0,
    levelDb: 0,
    dimmed: false,
    trying: false,
  }));
  private context: AudioContext | null = null;
  private device: Promise<void> | null = null;
  /** Someone asked to hear something and has not stopped it since. */
  private wanted = false;
  private node: AudioWorkletNode | null = null;
  private feeder: Worker | null = null;
  private control: Int32Array = new Int32Array(CONTROL.words);
  private meter: Float32Array = new Float32Array(this.control.buffer);
  private tracks: readonly PlayerTrack[] = [];
  private sessionTracks: readonly PlayerTrack[] = [];
  private sessionTime: PlaybackTime = AS_PLAYED;
  private time: PlaybackTime = AS_PLAYED;
  private sessionPlace: { readonly positionSeconds: number; readonly loop: Loop | null } | null = null;
  private lastLoop: Loop | null = null;
  private loaded: { readonly name: string; readonly message: TracksMessage } | null = null;
  private ready: StartMessage | null = null;
  private epoch = 0;
  private rateHz = 48_000;
  /** How long the click counts before a place, s as played; null = it does not. */
  private countIn: ((playedSeconds: number) => number) | null = null;
  /** Place that is counted in to; null while nothing is. */
  private countedTo: number | null = null;
  private clicks: { readonly seconds: readonly number[]; readonly strokes: readonly ClickStroke[] } = {
    seconds: [],
    strokes: [],
  };
  private frame = 0;
  private settle: ReturnType<typeof setTimeout> | undefined;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private askedAt = 0;
  private underrunBefore = 0;

  /** Tells which tracks there are. Their order does not matter: moving rows while listening changes nothing. */
  setTracks(tracks: readonly PlayerTrack[], rateHz: number, time: PlaybackTime | null = null): void {
    this.sessionTracks = [...tracks].sort((a, b) => (a.id < b.id ? -1 : 1));
    this.sessionTime = time ?? AS_PLAYED;
    if (rateHz !== this.rateHz && this.context) void this.dispose().then(() => this.warm());
    this.rateHz = rateHz;
    if (!this.state.getState().trying) this.change(this.sessionTracks, this.sessionTime);
    this.sendGains();
  }

  /** Other sound goes on playing at the same place of the music. */
  private change(tracks: readonly PlayerTrack[], time: PlaybackTime): void {
    this.tracks = tracks;
    this.time = time;
    this.sendClick();
    if (this.state.getState().status === 'playing' && nameOf(this.tracks) !== this.loaded?.name)
      void this.play(false);
    else this.makeReadySoon();
  }

  /** Plays something instead of the session, from its beginning, round and round; null = the session again, where it was. */
  async tryOut(trial: Trial | null): Promise<void> {
    const { trying, positionSeconds, loop } = this.state.getState();
    if (trial === null) {
      if (!trying) return;
      this.stop();
      this.state.setState({ trying: false, ...(this.sessionPlace ?? {}) });
      this.sessionPlace = null;
      this.change(this.sessionTracks, this.sessionTime);
      return;
    }
    if (!trying) this.sessionPlace = { positionSeconds, loop };
    cancelAnimationFrame(this.frame);
    // Set before the tracks change: they are to be heard from there, not from where the session was.
    this.state.setState({
      trying: true,
      status: 'idle',
      positionSeconds: trial.fromSeconds,
      loop: {
        startFrames: Math.round(trial.fromSeconds * this.rateHz),
        endFrames: Math.round(trial.toSeconds * this.rateHz),
      },
    });
    this.change(trial.tracks, trial.time ?? AS_PLAYED);
    this.sendGains();
    await this.play();
  }

  /** Moments of the click, s as played, rising, and what each stands for. */
  setClicks(seconds: readonly number[], strokes: readonly ClickStroke[]): void {
    this.clicks = { seconds, strokes };
    this.sendClick();
  }

  /** Starts or stops at the present place. */
  async toggle(): Promise<void> {
    if (this.state.getState().status === 'playing') this.stop();
    else await this.play();
  }

  /** Plays from the present place, counted in if that is wanted. */
  async play(counted = true): Promise<void> {
    this.askedAt = performance.now();
    this.wanted = true;
    clearTimeout(this.rest);
    if (!canPlay()) {
      this.state.setState({ status: 'unavailable' });
      return;
    }
    this.load();
    const isOpen = await this.openDevice().then(
      () => true,
      () => false,
    );
    // Without the mixer's program (server away) the next key tries again; and who has stopped meanwhile wants silence.
    if (isOpen && this.wanted) this.begin(counted);
  }

  /** Stops; the place is kept. */
  stop(): void {
    this.wanted = false;
    this.node?.port.postMessage({ kind: 'stop' } satisfies MixerMessage);
    this.feeder?.postMessage({ kind: 'stop' } satisfies FeederMessage);
    this.ready = null;
    cancelAnimationFrame(this.frame);
    const { status, positionSeconds } = this.state.getState();
    // Stopped while it counted: the place is still the one counted to.
    this.state.setState({
      status: status === 'unavailable' ? 'unavailable' : 'idle',
      peak: 0,
      positionSeconds: Math.max(positionSeconds, this.countedTo ?? positionSeconds),
    });
    this.countedTo = null;
    this.makeReadySoon();
    clearTimeout(this.rest);
    this.rest = setTimeout(() => this.sleep(), REST_MS);
  }

  /** What is heard at a moment of the page's clock, s as played; null while nothing plays. Good to a few milliseconds. `atMs` as of `performance.now()` and event time stamps. */
  positionAt(atMs: number): number | null {
    const { context } = this;
    if (
      !context ||
      this.state.getState().status !== 'playing' ||
      Atomics.load(this.control, CONTROL.mixerEpoch) !== this.epoch
    )
      return null;
    const songSeconds = Atomics.load(this.control, CONTROL.songFrame) / this.rateHz;
    const { contextTime = 0, performanceTime = 0 } = context.getOutputTimestamp();
    // The mixer is ahead of the loudspeaker; where the browser does not say by how much, its own estimate must do.
    const heardTime =
      performanceTime > 0
        ? contextTime + (atMs - performanceTime) / 1000
        : context.currentTime -
          (context.outputLatency || context.baseLatency || 0) +
          (atMs - performance.now()) / 1000;
    return this.time.toPlayed(songSeconds + heardTime - context.currentTime);
  }

  /** Goes to a place, s; goes on playing from there if it was. */
  seek(seconds: number): void {
    this.state.setState({ positionSeconds: Math.max(0, seconds) });
    this.moved();
  }

  /** Repeats a stretch, s; null = play on. */
  setLoop(range: { readonly fromSeconds: number; readonly toSeconds: number } | null): void {
    const loop =
      range && range.toSeconds - range.fromSeconds > SHORTEST_LOOP
        ? {
            startFrames: Math.round(range.fromSeconds * this.rateHz),
            endFrames: Math.round(range.toSeconds * this.rateHz),
          }
        : null;
    this.lastLoop = loop ?? this.state.getState().loop ?? this.lastLoop;
    this.state.setState({ loop });
    this.moved();
  }

  /** Plays on; or repeats the stretch that was repeated last, or some seconds from here. */
  toggleLoop(): void {
    const { loop, positionSeconds } = this.state.getState();
    const again = this.lastLoop && {
      fromSeconds: this.lastLoop.startFrames / this.rateHz,
      toSeconds: this.lastLoop.endFrames / this.rateHz,
    };
    this.setLoop(
      loop ? null : (again ?? { fromSeconds: positionSeconds, toSeconds: positionSeconds + LOOP_SECONDS }),
    );
  }

  private moved(): void {
    if (this.state.getState().status === 'playing') {
      this.askedAt = performance.now();
      this.begin(false);
    } else this.makeReadySoon();
  }

  /** Only these are heard; none = all. */
  setSolo(ids: ReadonlySet<string>): void {
    this.state.setState({ soloIds: ids });
    this.sendGains();
  }

  /** One take in the place of its track, at once; null = the track as it is put together. */
  hearTake(id: string | null): void {
    this.state.setState({ heardTake: id });
    this.sendGains();
  }

  /** These alone; the same again = all. */
  toggleSolo(ids: ReadonlySet<string>): void {
    const now = this.state.getState().soloIds;
    this.setSolo(now.size === ids.size && [...ids].every((id) => now.has(id)) ? new Set() : ids);
  }

  /** Click on or off. */
  toggleClick(): void {
    this.state.setState({ clickOn: !this.state.getState().clickOn });
    this.sendClick();
  }

  /** How the click sounds, and how loud against its usual level, dB. */
  setClickSound(clickSound: ClickSound, clickDb: number): void {
    this.state.setState({ clickSound, clickDb });
    this.sendClick();
  }

  /** Whether and how long the click counts before playing begins: seconds before a place, as played. */
  setCountIn(countIn: ((playedSeconds: number) => number) | null): void {
    this.countIn = countIn;
  }

  /** Much quieter, to talk over it; again = back. */
  toggleDim(): void {
    this.state.setState({ dimmed: !this.state.getState().dimmed });
    this.sendLevel();
  }

  /** Listening level, dB, 0 at most. */
  setLevel(levelDb: number): void {
    this.state.setState({ levelDb: Math.min(0, levelDb) });
    this.sendLevel();
  }

  /** Counts overs and the highest peak from now on. */
  resetMeter(): void {
    Atomics.store(this.control, CONTROL.overs, 0);
    this.meter[CONTROL.highest] = 0;
    this.state.setState({ overs: 0, highest: 0 });
  }

  /** Closes the sound device while nobody wants it; a play that is only beginning counts. */
  private sleep(): void {
    if (!this.wanted) void this.context?.suspend();
  }

  /** Sets up the mixer before it is needed; the sound device itself stays closed until something plays. */
  warm(): void {
    if (canPlay())
      void this.makeDevice().then(
        () => this.sleep(),
        () => undefined,
      );
  }

  /** Frees the sound device and the worker. */
  async dispose(): Promise<void> {
    this.stop();
    clearTimeout(this.settle);
    clearTimeout(this.rest);
    this.feeder?.terminate();
    this.feeder = null;
    this.node = null;
    this.loaded = null;
    this.device = null;
    const { context } = this;
    this.context = null;
    await context?.close();
  }

  private makeDevice(): Promise<void> {
    this.device ??= this.setUp().catch(async (cause: unknown) => {
      const { context } = this;
      this.device = null;
      this.context = null;
      await context?.close();
      throw cause;
    });
    return this.device;
  }

  private async setUp(): Promise<void> {
    const context = new AudioContext({ sampleRate: this.rateHz, latencyHint: 'interactive' });
    this.context = context;
    await context.audioWorklet.addModule('/engine/mixer.worklet.js');
    const node = new AudioWorkletNode(context, 'fernmoss-mixer', {
      numberOfInputs: 0,
      outputChannelCount: [2],
    });
    node.port.onmessage = ({ data }: MessageEvent<SoundingMessage>) => {
      // Found by whoever looks at the page's timings, our own bench among them.
      if (data.epoch === this.epoch) performance.measure('listening: start', { start: this.askedAt });
    };
    node.connect(context.destination);
    this.node = node;
    if (this.loaded) node.port.postMessage(this.loaded.message);
    this.sendGains();
    this.sendClick();
    this.sendLevel();
  }

  private async openDevice(): Promise<void> {
    await this.makeDevice();
    // Whatever it is now: it may be about to be suspended.
    await this.context?.resume();
  }

  /** Hands the wanted tracks to feeder and mixer, unless they have them. */
  private load(): void {
    const name = nameOf(this.tracks);
    if (name === this.loaded?.name) return;
    this.feeder ??= new Worker('/engine/feeder.worker.js', { type: 'module' });
    const control = new SharedArrayBuffer(CONTROL.words * 4);
    const size = ringFrames(this.tracks.reduce((sum, t) => sum + t.channels, 0));
    const message: TracksMessage = {
      kind: 'tracks',
      control,
      watermarks: new SharedArrayBuffer(Math.max(1, this.tracks.length) * 4),
      ringFrames: size,
      tracks: this.tracks.map(({ channels, pieces }) => ({
        channels,
        pieces,
        rings: new SharedArrayBuffer(channels * size * 4),
      })),
    };
    this.control = new Int32Array(control);
    this.meter = new Float32Array(control);
    this.meter[CONTROL.highest] = this.state.getState().highest;
    Atomics.store(this.control, CONTROL.overs, this.state.getState().overs);
    this.loaded = { name, message };
    this.ready = null;
    this.feeder.postMessage(message satisfies FeederMessage);
    this.node?.port.postMessage(message satisfies MixerMessage);
    this.sendGains();
    this.sendClick();
  }

  private makeReadySoon(): void {
    clearTimeout(this.settle);
    if (typeof window === 'undefined' || !canPlay() || this.tracks.length === 0) return;
    this.settle = setTimeout(() => {
      if (this.state.getState().status === 'playing' || document.hidden) return;
      this.load();
      const start = this.startHere();
      if (this.ready && samePlace(this.ready, start)) return;
      this.ready = start;
      this.feeder?.postMessage({ ...start, ahead: true } satisfies FeederMessage);
    }, SETTLE_MS);
  }

  private startHere(): StartMessage {
    const { positionSeconds, loop } = this.state.getState();
    const heard = (seconds: number): number =>
      Math.max(0, Math.round(this.time.toPlayback(seconds) * this.rateHz));
    return {
      kind: 'start',
      epoch: ++this.epoch,
      startFrames: heard(positionSeconds),
      loop: loop && {
        startFrames: heard(loop.startFrames / this.rateHz),
        endFrames: heard(loop.endFrames / this.rateHz),
      },
    };
  }

  private begin(counted: boolean): void {
    clearTimeout(this.settle);
    const { positionSeconds, clickOn, trying } = this.state.getState();
    const count = counted && clickOn && !trying ? Math.max(0, this.countIn?.(positionSeconds) ?? 0) : 0;
    this.countedTo = count > 0 ? positionSeconds : null;
    let start = this.startHere();
    if (this.ready && samePlace(this.ready, start)) {
      start = this.ready;
      this.epoch = start.epoch;
      this.feeder?.postMessage({ kind: 'go' } satisfies FeederMessage);
    } else this.feeder?.postMessage({ ...start, ahead: false } satisfies FeederMessage);
    this.ready = null;
    Atomics.store(this.control, CONTROL.late, 0);
    this.underrunBefore = this.underrun();
    const countFrames = Math.round(
      (this.time.toPlayback(positionSeconds) - this.time.toPlayback(positionSeconds - count)) * this.rateHz,
    );
    this.node?.port.postMessage({
      ...start,
      ...(countFrames > 0 ? { countFrames } : {}),
    } satisfies MixerMessage);
    this.state.setState({ status: 'playing', lateSeconds: 0, deviceSeconds: 0 });
    cancelAnimationFrame(this.frame);
    this.follow();
  }

  private underrun(): number {
    return (this.context as DeviceStats | null)?.playbackStats?.underrunDuration ?? 0;
  }

  private follow(): void {
    const end = Math.max(0, ...this.tracks.map((t) => endOf(t.pieces)));
    const step = (): void => {
      // Until the mixer has gone over to this start, its place is still that of the one before.
      const isHere = Atomics.load(this.control, CONTROL.mixerEpoch) === this.epoch;
      const at = Atomics.load(this.control, CONTROL.songFrame);
      this.state.setState({
        ...(isHere ? { positionSeconds: this.time.toPlayed(at / this.rateHz) } : {}),
        lateSeconds: Atomics.load(this.control, CONTROL.late) / this.rateHz,
        deviceSeconds: Math.max(0, this.underrun() - this.underrunBefore),
        peak: this.meter[CONTROL.peak] as number,
        highest: this.meter[CONTROL.highest] as number,
        overs: Atomics.load(this.control, CONTROL.overs),
      });
      if (isHere && at >= end && end > 0) {
        this.stop();
        return;
      }
      this.frame = requestAnimationFrame(step);
    };
    this.frame = requestAnimationFrame(step);
  }

  private sendGains(): void {
    const { soloIds, heardTake } = this.state.getState();
    // What has no sound (a track of notes) alone silences nobody.
    const isSolo = this.tracks.some((t) => soloIds.has(t.id));
    const take = this.tracks.find((t) => t.id === heardTake && t.takeOf !== undefined);
    const left = new Float32Array(this.tracks.length);
    const right = new Float32Array(this.tracks.length);
    this.tracks.forEach((t, i) => {
      // Takes are silent but the one that stands for its track.
      if (t.takeOf === undefined ? take?.takeOf === t.id : t !== take) return;
      // A solo is heard even when muted: that is how a rough mix or click is checked.
      if (isSolo ? !soloIds.has(t.takeOf ?? t.id) : t.muted) return;
      const gains = stripGains(t);
      left[i] = gains.left;
      right[i] = gains.right;
    });
    this.node?.port.postMessage({ kind: 'gains', left, right } satisfies MixerMessage);
  }

  private sendLevel(): void {
    const { levelDb, dimmed } = this.state.getState();
    this.node?.port.postMessage({
      kind: 'level',
      gain: 10 ** ((levelDb + (dimmed ? DIM_DB : 0)) / 20),
    } satisfies MixerMessage);
  }

  private sendClick(): void {
    const { seconds, strokes } = this.clicks;
    const { clickOn, clickSound, clickDb } = this.state.getState();
    this.node?.port.postMessage({
      kind: 'click',
      frames: Float64Array.from(seconds, (s) => this.time.toPlayback(s) * this.rateHz),
      strokes: Uint8Array.from(strokes, (s) => STROKES.indexOf(s)),
      sound: clickSound,
      gain: clickOn ? CLICK_GAIN * 10 ** (clickDb / 20) : 0,
    } satisfies MixerMessage);
  }
}

const canPlay = (): boolean =>
  typeof SharedArrayBuffer !== 'undefined' &&
  typeof AudioContext !== 'undefined' &&
  typeof Worker !== 'undefined';

const NAMES = new WeakMap<PlayerTrack['pieces'], string>();

/** Name of what the ring of a track is to hold. */
function nameOfPieces(pieces: PlayerTrack['pieces']): string {
  const known = NAMES.get(pieces);
  if (known !== undefined) return known;
  const name = JSON.stringify(pieces);
  NAMES.set(pieces, name);
  return name;
}

/** Name of what the rings are to hold. */
const nameOf = (tracks: readonly PlayerTrack[]): string => tracks.map((t) => nameOfPieces(t.pieces)).join();

const samePlace = (a: StartMessage, b: StartMessage): boolean =>
  a.startFrames === b.startFrames &&
  a.loop?.startFrames === b.loop?.startFrames &&
  a.loop?.endFrames === b.loop?.endFrames;
