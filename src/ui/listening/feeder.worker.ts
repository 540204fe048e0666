import { decodeInterleaved, type SampleEncoding } from '@/core/audio';
import { CONTROL, type FeederMessage, framesToJump, type Loop, type MixTrack, RING_FRAMES, songFrame } from './transport';

const FIRST_FRAMES = 24_000; // half a second: sound soon, and time to fetch the next half for all
const CHUNK_FRAMES = 96_000; // reached by doubling, so that no track keeps the others waiting at the start
// With a chunk on top it stays within the ring.
const AHEAD_FRAMES = 3 * 48_000;
const PARALLEL = 6; // connections a browser opens to one host
const IDLE_MS = 40;

let control: Int32Array = new Int32Array(CONTROL.words);
let watermarks: Int32Array = new Int32Array(0);
let tracks: readonly MixTrack[] = [];
let rings: Float32Array[][] = [];
let run = 0;

self.onmessage = ({ data }: MessageEvent<FeederMessage>) => {
  run++;
  if (data.kind === 'tracks') {
    control = new Int32Array(data.control);
    watermarks = new Int32Array(data.watermarks);
    tracks = data.tracks;
    rings = tracks.map((t) => Array.from({ length: t.channels }, (_, c) => new Float32Array(t.rings, c * RING_FRAMES * 4, RING_FRAMES)));
  } else if (data.kind === 'start') void feed(run, data.epoch, data.startFrames, data.loop);
};

/** Keeps all rings filled ahead of the mixer until another message comes. */
async function feed(own: number, epoch: number, startFrames: number, loop: Loop | null): Promise<void> {
  watermarks.fill(0);
  Atomics.store(control, CONTROL.feederEpoch, epoch);
  const next = tracks.map(() => 0);
  while (own === run) {
    const played = Atomics.load(control, CONTROL.mixerEpoch) === epoch ? Atomics.load(control, CONTROL.streamed) : 0;
    const due = next.map((at, t) => ({ t, at })).filter(({ at }) => at < played + AHEAD_FRAMES).sort((a, b) => a.at - b.at).slice(0, PARALLEL);
    if (due.length === 0) {
      await new Promise((resolve) => setTimeout(resolve, IDLE_MS));
      continue;
    }
    await Promise.all(due.map(async ({ t, at }) => {
      const frames = Math.min(Math.max(FIRST_FRAMES, Math.min(CHUNK_FRAMES, at)), framesToJump(startFrames, at, loop));
      const filled = await fill(t, at, songFrame(startFrames, at, loop), frames);
      if (own !== run || !filled) return;
      next[t] = at + frames;
      Atomics.store(watermarks, t, at + frames);
    }));
  }
}

/** Writes `frames` of a track's audio, silence where it has none; false when the server did not answer (tried again). */
async function fill(t: number, streamed: number, position: number, frames: number): Promise<boolean> {
  const track = tracks[t] as MixTrack;
  const own = rings[t] as Float32Array[];
  const from = position - track.startFrames;
  const begin = Math.max(0, from);
  const count = Math.min(from + frames, track.lengthFrames) - begin;
  for (const ring of own) for (let i = 0; i < frames; i++) ring[(streamed + i) & (RING_FRAMES - 1)] = 0;
  if (count <= 0) return true;
  try {
    const response = await fetch(`${track.audio}/pcm?from=${begin}&count=${count}`);
    if (!response.ok) return response.status === 404;
    const bytes = new Uint8Array(await response.arrayBuffer());
    const encoding = (response.headers.get('x-encoding') ?? 'f32') as SampleEncoding;
    const size = { u8: 1, s16: 2, s24: 3, s32: 4, f32: 4, f64: 8 }[encoding] * track.channels;
    const audio = decodeInterleaved(bytes, encoding, track.channels, Math.floor(bytes.length / size));
    const offset = streamed + (begin - from);
    audio.forEach((samples, c) => {
      const ring = own[c] as Float32Array;
      for (let i = 0; i < samples.length; i++) ring[(offset + i) & (RING_FRAMES - 1)] = samples[i] as number;
    });
    return true;
  } catch {
    await new Promise((resolve) => setTimeout(resolve, 300));
    return false;
  }
}
