import { CLICK_SECONDS, clickSample } from '@/core/render';
import {
  CONTROL,
  FADE_FRAMES,
  framesToJump,
  type MixerMessage,
  type MixTrack,
  type SoundingMessage,
  songFrame,
  type StartMessage,
  STROKES,
  type TracksMessage,
  turnFrames,
} from './transport';

declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: unknown): void;

/** Frames the browser asks for at once (Web Audio API, render quantum). */
const BLOCK = 128;
const SMOOTH = 0.01; // gain change a frame: full swing in about 2 ms
const FADE = 1 / FADE_FRAMES;
/** After a gap so many frames must be there before it goes on, so that it does not stutter. */
const RESUME_FRAMES = 4800;
/** So long a start may take before it is called late: half a second. */
const PATIENCE_FRAMES = 24_000;
const PEAK_FALL = 0.97; // a block of 128 frames: about 100 dB a second

/** Mixes all tracks in step to the sample: when one is late, all wait, and the wait is counted. Every start, stop, jump and gap is faded. */
class Mixer extends AudioWorkletProcessor {
  private control: Int32Array = new Int32Array(CONTROL.words);
  private meter: Float32Array = new Float32Array(this.control.buffer);
  private watermarks: Int32Array = new Int32Array(0);
  private tracks: readonly MixTrack[] = [];
  private rings: Float32Array[][] = [];
  private mask = 0;
  private target: { left: Float32Array; right: Float32Array } = {
    left: new Float32Array(0),
    right: new Float32Array(0),
  };
  private gain: { left: Float32Array; right: Float32Array } = {
    left: new Float32Array(0),
    right: new Float32Array(0),
  };
  private sum: { left: Float64Array; right: Float64Array } = {
    left: new Float64Array(128),
    right: new Float64Array(128),
  };
  private playing = false;
  /** What comes after the fade-out: another place, other tracks. */
  private next: { tracks: TracksMessage | null; start: StartMessage | null } = { tracks: null, start: null };
  private now: StartMessage = { kind: 'start', epoch: 0, startFrames: 0, loop: null };
  /** Fade of the whole, 0 … 1. */
  private fade = 0;
  private level = 1;
  private levelTarget = 1;
  private base = 0;
  private streamed = 0;
  private running = false;
  /** Nothing of this start has gone out yet. */
  private fresh = false;
  /** Frames of silence since this start was asked for. */
  private waited = 0;
  private click: Omit<Extract<MixerMessage, { kind: 'click' }>, 'kind'> = {
    frames: new Float64Array(0),
    strokes: new Uint8Array(0),
    sound: 'tone',
    gain: 0,
  };

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<MixerMessage>) => this.receive(data);
  }

  private receive(message: MixerMessage): void {
    if (message.kind === 'tracks') this.next = { tracks: message, start: null };
    else if (message.kind === 'start') {
      this.next.start = message;
      this.playing = true;
    } else if (message.kind === 'stop') {
      this.playing = false;
      this.next.start = null;
    } else if (message.kind === 'gains') this.target = { left: message.left, right: message.right };
    else if (message.kind === 'level') this.levelTarget = message.gain;
    else this.click = message;
    if (this.fade === 0) this.change();
  }

  /** Only in silence: goes over to what was asked for. */
  private change(): void {
    const { tracks, start } = this.next;
    if (tracks) {
      this.control = new Int32Array(tracks.control);
      this.meter = new Float32Array(tracks.control);
      this.watermarks = new Int32Array(tracks.watermarks);
      this.tracks = tracks.tracks;
      this.mask = tracks.ringFrames - 1;
      this.rings = tracks.tracks.map((t) =>
        Array.from(
          { length: t.channels },
          (_, c) => new Float32Array(t.rings, c * tracks.ringFrames * 4, tracks.ringFrames),
        ),
      );
      this.gain = { left: new Float32Array(this.tracks.length), right: new Float32Array(this.tracks.length) };
      this.now = { ...this.now, epoch: 0 };
    }
    if (start) {
      this.now = start;
      this.running = false;
      this.streamed = 0;
      this.waited = 0;
      Atomics.store(this.control, CONTROL.mixerEpoch, start.epoch);
    }
    this.next = { tracks: null, start: null };
  }

  process(_inputs: unknown, outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0] ?? [];
    if (!left || !right) return true;
    const frames = left.length;
    if (this.fade === 0) {
      if (this.next.tracks || this.next.start) this.change();
      if (!this.playing) return this.rest();
      if (!this.isFed()) return this.wait(frames);
    }
    const ahead = this.ahead();
    const wanted =
      this.playing &&
      !this.next.start &&
      !this.next.tracks &&
      ahead >= frames + (this.fade === 0 ? RESUME_FRAMES : 2 * FADE_FRAMES)
        ? 1
        : 0;
    if (this.fade === 0 && wanted === 0) return this.wait(frames);
    this.mixInto(left, right, wanted);
    if (this.fresh)
      this.port.postMessage({ kind: 'sounding', epoch: this.now.epoch } satisfies SoundingMessage);
    this.fresh = false;
    this.streamed += frames;
    Atomics.store(this.control, CONTROL.streamed, this.base + this.streamed);
    Atomics.store(
      this.control,
      CONTROL.songFrame,
      songFrame(this.now.startFrames, this.streamed, this.now.loop),
    );
    this.measure(left, right);
    return true;
  }

  /** Whether the feeder speaks of the place we are to play; takes over where its stream begins. */
  private isFed(): boolean {
    if (Atomics.load(this.control, CONTROL.feederEpoch) !== this.now.epoch) return false;
    if (!this.running) {
      this.base = Atomics.load(this.control, CONTROL.base);
      // Counted in, the stream begins below zero: the click is there, the tracks are not yet.
      this.streamed = -Math.ceil((this.now.countFrames ?? 0) / BLOCK) * BLOCK;
      this.fresh = true;
      this.running = true;
    }
    return true;
  }

  private ahead(): number {
    let least = Infinity;
    for (let t = 0; t < this.tracks.length; t++) least = Math.min(least, Atomics.load(this.watermarks, t));
    return least - this.base - this.streamed;
  }

  /** A block of silence that should be sound; at a start some of it is nobody's fault. */
  private wait(frames: number): boolean {
    this.waited += frames;
    if (this.streamed > 0 || this.waited > PATIENCE_FRAMES) Atomics.add(this.control, CONTROL.late, frames);
    return this.rest();
  }

  /** A block of silence. */
  private rest(): boolean {
    this.meter[CONTROL.peak] = (this.meter[CONTROL.peak] as number) * PEAK_FALL;
    return true;
  }

  private mixInto(left: Float32Array, right: Float32Array, wanted: 0 | 1): void {
    const frames = left.length;
    if (this.sum.left.length !== frames)
      this.sum = { left: new Float64Array(frames), right: new Float64Array(frames) };
    this.sum.left.fill(0);
    this.sum.right.fill(0);
    if (this.streamed >= 0) for (let t = 0; t < this.tracks.length; t++) this.addTrack(t);
    this.addClick();
    for (let i = 0; i < frames; i++) {
      this.fade = wanted ? Math.min(1, this.fade + FADE) : Math.max(0, this.fade - FADE);
      this.level += Math.max(-SMOOTH, Math.min(SMOOTH, this.levelTarget - this.level));
      left[i] = (this.sum.left[i] as number) * this.fade * this.level;
      right[i] = (this.sum.right[i] as number) * this.fade * this.level;
    }
  }

  private addTrack(t: number): void {
    const rings = this.rings[t] as Float32Array[];
    const a = rings[0] as Float32Array;
    const b = rings[1] ?? a;
    const { left, right } = this.sum;
    let gl = this.gain.left[t] as number;
    let gr = this.gain.right[t] as number;
    const tl = this.target.left[t] ?? 0;
    const tr = this.target.right[t] ?? 0;
    // Nothing is heard yet: no fade over which the levels would differ from those set.
    if (this.streamed === 0) [gl, gr] = [tl, tr];
    if (gl !== 0 || gr !== 0 || tl !== 0 || tr !== 0)
      for (let i = 0, at = this.base + this.streamed; i < left.length; i++, at++) {
        gl += Math.max(-SMOOTH, Math.min(SMOOTH, tl - gl));
        gr += Math.max(-SMOOTH, Math.min(SMOOTH, tr - gr));
        left[i] = (left[i] as number) + (a[at & this.mask] as number) * gl;
        right[i] = (right[i] as number) + (b[at & this.mask] as number) * gr;
      }
    this.gain.left[t] = gl;
    this.gain.right[t] = gr;
  }

  private addClick(): void {
    const { frames, strokes, sound, gain } = this.click;
    if (gain === 0 || frames.length === 0) return;
    const { left, right } = this.sum;
    const { startFrames, loop } = this.now;
    const length = CLICK_SECONDS * sampleRate;
    for (let i = 0; i < left.length;) {
      const begin = songFrame(startFrames, this.streamed + i, loop);
      const toJump = framesToJump(startFrames, this.streamed + i, loop);
      const run = Math.min(left.length - i, toJump);
      // A click that sounds where the loop turns back ends there, without a step.
      const turn = Math.max(1, loop ? turnFrames(loop) : 1);
      // The last click at or before each frame sounds on.
      let low = 0;
      let high = frames.length;
      while (low < high) {
        const mid = (low + high) >> 1;
        if ((frames[mid] as number) <= begin + run) low = mid + 1;
        else high = mid;
      }
      for (let c = Math.max(0, low - 2); c < low; c++) {
        const from = frames[c] as number;
        const stroke = STROKES[strokes[c] ?? 1] ?? 'pulse';
        for (let k = 0; k < run; k++) {
          const age = begin + k - from;
          if (age < 0 || age >= length) continue;
          const y = Math.min(1, (toJump - k) / turn) * gain * clickSample(sound, stroke, age / sampleRate);
          left[i + k] = (left[i + k] as number) + y;
          right[i + k] = (right[i + k] as number) + y;
        }
      }
      i += run;
    }
  }

  /** Peak and every single frame over full scale, as it leaves. */
  private measure(left: Float32Array, right: Float32Array): void {
    let peak = 0;
    let overs = 0;
    for (let i = 0; i < left.length; i++) {
      const x = Math.max(Math.abs(left[i] as number), Math.abs(right[i] as number));
      if (x > peak) peak = x;
      if (x > 1) overs++;
    }
    this.meter[CONTROL.peak] = Math.max(peak, (this.meter[CONTROL.peak] as number) * PEAK_FALL);
    if (peak > (this.meter[CONTROL.highest] as number)) this.meter[CONTROL.highest] = peak;
    if (overs > 0) Atomics.add(this.control, CONTROL.overs, overs);
  }
}

registerProcessor('fernmoss-mixer', Mixer);
