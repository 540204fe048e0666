import { createStore, type StoreApi } from 'zustand/vanilla';
import { CONTROL, type Loop, type MixTrack, RING_FRAMES, type FeederMessage, type MixerMessage } from './transport';

/** A track to be heard. */
export interface PlayerTrack {
  readonly id: string;
  /** Address its sound is served under, without `/pcm`: a recording, a conformed one, an audition. */
  readonly audio: string;
  readonly channels: number;
  readonly lengthFrames: number;
  readonly startFrames: number;
  readonly gainDb: number;
  readonly pan: number;
  readonly muted: boolean;
}

/** What the page shows of the player. */
export interface PlayerState {
  readonly status: 'idle' | 'playing' | 'unavailable';
  /** Seconds as played, whatever is heard. */
  readonly positionSeconds: number;
  readonly soloIds: ReadonlySet<string>;
  readonly clickOn: boolean;
  /** Frames as played. */
  readonly loop: Loop | null;
  /** Seconds of silence because audio did not come in time, since play. */
  readonly starvedSeconds: number;
  /** Linear output peak, falling back. */
  readonly peak: number;
  /** What is heard is not the session but something tried out. */
  readonly trying: boolean;
}

/** From the time as played, which the whole page counts in, to the time of the sound that is heard, and back; seconds. */
export interface HeardTime {
  toHeard(playedSeconds: number): number;
  toPlayed(heardSeconds: number): number;
}

const AS_PLAYED: HeardTime = { toHeard: (s) => s, toPlayed: (s) => s };

/** Something to be heard instead of the session, round and round. */
export interface Trial {
  readonly tracks: readonly PlayerTrack[];
  readonly time: HeardTime | null;
  /** Seconds as played. */
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/** Listening to a session: one worklet mixes, one worker feeds it. */
export class Player {
  readonly state: StoreApi<PlayerState> = createStore(() => ({ status: 'idle', positionSeconds: 0, soloIds: new Set<string>(), clickOn: false, loop: null, starvedSeconds: 0, peak: 0, trying: false }));
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private feeder: Worker | null = null;
  private control: Int32Array = new Int32Array(CONTROL.words);
  private tracks: readonly PlayerTrack[] = [];
  private sessionTracks: readonly PlayerTrack[] = [];
  private sessionTime: HeardTime = AS_PLAYED;
  private time: HeardTime = AS_PLAYED;
  private sessionPlace: { readonly positionSeconds: number; readonly loop: Loop | null } | null = null;
  private loaded = '';
  private epoch = 0;
  private rateHz = 48_000;
  private clicks: { readonly seconds: readonly number[]; readonly accents: readonly boolean[] } = { seconds: [], accents: [] };
  private frame = 0;

  /** Tells which tracks there are; their audio is only fetched when played. */
  setTracks(tracks: readonly PlayerTrack[], rateHz: number, time: HeardTime | null = null): void {
    this.sessionTracks = tracks;
    this.sessionTime = time ?? AS_PLAYED;
    if (!this.state.getState().trying) this.change(tracks, this.sessionTime);
    if (rateHz !== this.rateHz && this.context) void this.dispose();
    this.rateHz = rateHz;
    this.sendGains();
  }

  /** Other sound goes on playing at the same place of the music. */
  private change(tracks: readonly PlayerTrack[], time: HeardTime): void {
    this.tracks = tracks;
    this.time = time;
    this.sendClick();
    if (this.state.getState().status === 'playing' && this.wanted() !== this.loaded) void this.play();
  }

  /** Plays something instead of the session, from its beginning, round and round; null = the session again, where it was. */
  async tryOut(trial: Trial | null): Promise<void> {
    const { trying, positionSeconds, loop, status } = this.state.getState();
    if (trial === null) {
      if (!trying) return;
      this.stop();
      this.state.setState({ trying: false, ...(this.sessionPlace ?? {}) });
      this.sessionPlace = null;
      this.change(this.sessionTracks, this.sessionTime);
      return;
    }
    if (!trying) this.sessionPlace = { positionSeconds, loop };
    if (status === 'playing') this.stop();
    this.change(trial.tracks, trial.time ?? AS_PLAYED);
    this.state.setState({ trying: true, positionSeconds: trial.fromSeconds, loop: { startFrames: Math.round(trial.fromSeconds * this.rateHz), endFrames: Math.round(trial.toSeconds * this.rateHz) } });
    this.sendGains();
    await this.play();
  }

  /** Moments of the click, s as played, and which are accented. */
  setClicks(seconds: readonly number[], accents: readonly boolean[]): void {
    this.clicks = { seconds, accents };
    this.sendClick();
  }

  /** Name of what the rings are to hold. */
  private wanted(): string {
    return this.tracks.map((t) => `${t.audio}:${t.startFrames}:${t.lengthFrames}`).join();
  }

  /** Starts or stops at the present place. */
  async toggle(): Promise<void> {
    if (this.state.getState().status === 'playing') this.stop();
    else await this.play();
  }

  /** Plays from the present place. */
  async play(): Promise<void> {
    if (!(await this.prepare())) return;
    this.begin();
  }

  /** Stops; the place is kept. */
  stop(): void {
    this.post({ kind: 'stop' }, { kind: 'stop' });
    cancelAnimationFrame(this.frame);
    this.state.setState({ status: this.context || this.state.getState().status !== 'unavailable' ? 'idle' : 'unavailable', peak: 0 });
  }

  /** Goes to a place, s; goes on playing from there if it was. */
  seek(seconds: number): void {
    const positionSeconds = Math.max(0, seconds);
    this.state.setState({ positionSeconds });
    if (this.state.getState().status === 'playing') this.begin();
  }

  /** Repeats a stretch, s; null = play on. */
  setLoop(range: { readonly fromSeconds: number; readonly toSeconds: number } | null): void {
    const loop = range && range.toSeconds - range.fromSeconds > 0.1 ? { startFrames: Math.round(range.fromSeconds * this.rateHz), endFrames: Math.round(range.toSeconds * this.rateHz) } : null;
    this.state.setState({ loop });
    if (this.state.getState().status === 'playing') this.begin();
  }

  /** Only these are heard; none = all. */
  setSolo(ids: ReadonlySet<string>): void {
    this.state.setState({ soloIds: ids });
    this.sendGains();
  }

  /** Click on or off. */
  toggleClick(): void {
    this.state.setState({ clickOn: !this.state.getState().clickOn });
    this.sendClick();
  }

  /** Frees the audio device. */
  async dispose(): Promise<void> {
    this.stop();
    this.feeder?.terminate();
    this.feeder = null;
    this.node = null;
    this.loaded = '';
    const { context } = this;
    this.context = null;
    await context?.close();
  }

  private async prepare(): Promise<boolean> {
    if (typeof SharedArrayBuffer === 'undefined' || typeof AudioContext === 'undefined') {
      this.state.setState({ status: 'unavailable' });
      return false;
    }
    if (!this.context) {
      this.context = new AudioContext({ sampleRate: this.rateHz, latencyHint: 'interactive' });
      await this.context.audioWorklet.addModule('/engine/mixer.worklet.js');
      this.node = new AudioWorkletNode(this.context, 'fernmoss-mixer', { numberOfInputs: 0, outputChannelCount: [2] });
      this.node.connect(this.context.destination);
      this.feeder = new Worker('/engine/feeder.worker.js', { type: 'module' });
    }
    await this.context.resume();
    const wanted = this.wanted();
    if (wanted !== this.loaded) {
      const control = new SharedArrayBuffer(CONTROL.words * 4);
      const watermarks = new SharedArrayBuffer(Math.max(1, this.tracks.length) * 4);
      const tracks: MixTrack[] = this.tracks.map((t) => ({ audio: t.audio, channels: t.channels, lengthFrames: t.lengthFrames, startFrames: t.startFrames, rings: new SharedArrayBuffer(t.channels * RING_FRAMES * 4) }));
      this.control = new Int32Array(control);
      const message = { kind: 'tracks' as const, control, watermarks, tracks };
      this.post(message, message);
      this.loaded = wanted;
      this.sendGains();
      this.sendClick();
    }
    return true;
  }

  private begin(): void {
    const { positionSeconds, loop } = this.state.getState();
    const heard = (seconds: number): number => Math.max(0, Math.round(this.time.toHeard(seconds) * this.rateHz));
    const message = { kind: 'start' as const, epoch: ++this.epoch, startFrames: heard(positionSeconds), loop: loop && { startFrames: heard(loop.startFrames / this.rateHz), endFrames: heard(loop.endFrames / this.rateHz) } };
    Atomics.store(this.control, CONTROL.songFrame, message.startFrames);
    Atomics.store(this.control, CONTROL.starved, 0);
    this.post(message, message);
    this.state.setState({ status: 'playing', starvedSeconds: 0 });
    cancelAnimationFrame(this.frame);
    this.follow();
  }

  private follow(): void {
    const end = Math.max(0, ...this.tracks.map((t) => t.startFrames + t.lengthFrames));
    const step = (): void => {
      const at = Atomics.load(this.control, CONTROL.songFrame);
      this.state.setState({ positionSeconds: this.time.toPlayed(at / this.rateHz), starvedSeconds: Atomics.load(this.control, CONTROL.starved) / this.rateHz, peak: Atomics.load(this.control, CONTROL.peakMilli) / 1000 });
      if (at >= end && end > 0) {
        this.stop();
        return;
      }
      this.frame = requestAnimationFrame(step);
    };
    this.frame = requestAnimationFrame(step);
  }

  private post(mixer: MixerMessage, feeder: FeederMessage): void {
    this.node?.port.postMessage(mixer);
    this.feeder?.postMessage(feeder);
  }

  private sendGains(): void {
    const { soloIds } = this.state.getState();
    const left = new Float32Array(this.tracks.length);
    const right = new Float32Array(this.tracks.length);
    this.tracks.forEach((t, i) => {
      // A solo is heard even when muted: that is how a rough mix or click is checked.
      const heard = soloIds.size > 0 ? soloIds.has(t.id) : !t.muted;
      const gain = heard ? 10 ** (t.gainDb / 20) : 0;
      // Mono: equal power; stereo: balance.
      const angle = ((t.pan + 1) * Math.PI) / 4;
      left[i] = gain * (t.channels === 1 ? Math.cos(angle) : Math.min(1, 1 - t.pan));
      right[i] = gain * (t.channels === 1 ? Math.sin(angle) : Math.min(1, 1 + t.pan));
    });
    this.node?.port.postMessage({ kind: 'gains', left, right } satisfies MixerMessage);
  }

  private sendClick(): void {
    const { seconds, accents } = this.clicks;
    this.node?.port.postMessage({ kind: 'click', frames: Float64Array.from(seconds, (s) => this.time.toHeard(s) * this.rateHz), accents: Uint8Array.from(accents, Number), gain: this.state.getState().clickOn ? 0.4 : 0 } satisfies MixerMessage);
  }
}
