import { CONTROL, framesToJump, type Loop, type MixerMessage, type MixTrack, RING_FRAMES, songFrame } from './transport';

declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: unknown): void;

const SMOOTH = 0.01; // gain change a frame: full swing in about 5 ms
const CLICK_SECONDS = 0.03;

/** Mixes all tracks in step to the sample: when one is starved, all wait, and the wait is counted. */
class Mixer extends AudioWorkletProcessor {
  private control: Int32Array = new Int32Array(CONTROL.words);
  private watermarks: Int32Array = new Int32Array(0);
  private tracks: readonly MixTrack[] = [];
  private rings: Float32Array[][] = [];
  private target: { left: Float32Array; right: Float32Array } = { left: new Float32Array(0), right: new Float32Array(0) };
  private gain: { left: Float32Array; right: Float32Array } = { left: new Float32Array(0), right: new Float32Array(0) };
  private playing = false;
  private epoch = 0;
  private startFrames = 0;
  private loop: Loop | null = null;
  private streamed = 0;
  private click: { frames: Float64Array; accents: Uint8Array; gain: number } = { frames: new Float64Array(0), accents: new Uint8Array(0), gain: 0 };

  constructor() {
    super();
    this.port.onmessage = ({ data }: MessageEvent<MixerMessage>) => this.receive(data);
  }

  private receive(message: MixerMessage): void {
    if (message.kind === 'tracks') {
      this.playing = false;
      this.control = new Int32Array(message.control);
      this.watermarks = new Int32Array(message.watermarks);
      this.tracks = message.tracks;
      this.rings = message.tracks.map((t) => Array.from({ length: t.channels }, (_, c) => new Float32Array(t.rings, c * RING_FRAMES * 4, RING_FRAMES)));
      this.gain = { left: new Float32Array(message.tracks.length), right: new Float32Array(message.tracks.length) };
      if (this.target.left.length !== message.tracks.length) this.target = { left: new Float32Array(message.tracks.length), right: new Float32Array(message.tracks.length) };
    } else if (message.kind === 'start') {
      this.epoch = message.epoch;
      this.startFrames = message.startFrames;
      this.loop = message.loop;
      this.streamed = 0;
      this.playing = true;
      Atomics.store(this.control, CONTROL.streamed, 0);
      Atomics.store(this.control, CONTROL.mixerEpoch, message.epoch);
    } else if (message.kind === 'stop') this.playing = false;
    else if (message.kind === 'gains') this.target = { left: message.left, right: message.right };
    else this.click = { frames: message.frames, accents: message.accents, gain: message.gain };
  }

  process(_inputs: unknown, outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0] ?? [];
    if (!left || !right || !this.playing) return true;
    const frames = left.length;
    if (Atomics.load(this.control, CONTROL.feederEpoch) !== this.epoch || !this.filled(frames)) {
      if (this.streamed > 0) Atomics.add(this.control, CONTROL.starved, frames);
      return true;
    }
    this.tracks.forEach((_, t) => this.mix(t, left, right));
    this.addClick(left, right);
    this.streamed += frames;
    Atomics.store(this.control, CONTROL.streamed, this.streamed);
    Atomics.store(this.control, CONTROL.songFrame, songFrame(this.startFrames, this.streamed, this.loop));
    let peak = 0;
    for (let i = 0; i < frames; i++) peak = Math.max(peak, Math.abs(left[i] as number), Math.abs(right[i] as number));
    Atomics.store(this.control, CONTROL.peakMilli, Math.max(Math.round(peak * 1000), Math.floor(Atomics.load(this.control, CONTROL.peakMilli) * 0.97)));
    return true;
  }

  private filled(frames: number): boolean {
    for (let t = 0; t < this.tracks.length; t++) if (Atomics.load(this.watermarks, t) < this.streamed + frames) return false;
    return true;
  }

  private mix(t: number, left: Float32Array, right: Float32Array): void {
    const rings = this.rings[t] as Float32Array[];
    const a = rings[0] as Float32Array;
    const b = rings[1] ?? a;
    let gl = this.gain.left[t] as number;
    let gr = this.gain.right[t] as number;
    const tl = this.target.left[t] ?? 0;
    const tr = this.target.right[t] ?? 0;
    if (gl === 0 && gr === 0 && tl === 0 && tr === 0) return;
    for (let i = 0; i < left.length; i++) {
      gl += Math.max(-SMOOTH, Math.min(SMOOTH, tl - gl));
      gr += Math.max(-SMOOTH, Math.min(SMOOTH, tr - gr));
      const at = (this.streamed + i) & (RING_FRAMES - 1);
      left[i] = (left[i] as number) + (a[at] as number) * gl;
      right[i] = (right[i] as number) + (b[at] as number) * gr;
    }
    this.gain.left[t] = gl;
    this.gain.right[t] = gr;
  }

  private addClick(left: Float32Array, right: Float32Array): void {
    const { frames, accents, gain } = this.click;
    if (gain === 0 || frames.length === 0) return;
    const length = CLICK_SECONDS * sampleRate;
    for (let i = 0; i < left.length; ) {
      const begin = songFrame(this.startFrames, this.streamed + i, this.loop);
      const run = Math.min(left.length - i, framesToJump(this.startFrames, this.streamed + i, this.loop));
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
        const hz = accents[c] ? 1760 : 1175;
        for (let k = 0; k < run; k++) {
          const age = begin + k - from;
          if (age < 0 || age >= length) continue;
          const y = gain * (accents[c] ? 1 : 0.7) * Math.sin((2 * Math.PI * hz * age) / sampleRate) * Math.exp((-6 * age) / length);
          left[i + k] = (left[i + k] as number) + y;
          right[i + k] = (right[i + k] as number) + y;
        }
      }
      i += run;
    }
  }
}

registerProcessor('fernmoss-mixer', Mixer);
