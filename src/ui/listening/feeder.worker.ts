import { decodePart, soundParts } from '@/core/audio';
import type { SoundPiece } from '@/contracts';
import {
  CONTROL,
  type FeederMessage,
  framesToJump,
  type Loop,
  type MixTrack,
  songFrame,
  turnFrames,
} from './transport';

const FIRST_FRAMES = 6000; // an eighth of a second: sound soon, and time to fetch the next for all
const CHUNK_FRAMES = 24_000; // a request stays short: a jump does not wait for one long under way
const READY_FRAMES = 48_000; // as much is made ready before anyone presses play
const IDLE_MS = 40;
const RETRY_MS = 300;
/** Between what is played and what is written, so that a fade-out still finds its sound. */
const APART_FRAMES = 2048;
/** Pieces a request, and requests at once. */
const BATCH = 128;
const PARALLEL = 3;

let control: Int32Array = new Int32Array(CONTROL.words);
let watermarks: Int32Array = new Int32Array(0);
let tracks: readonly MixTrack[] = [];
let rings: Float32Array[][] = [];
let size = 1;
let run = 0;
let going = false;
/** Ends what is still being fetched for the run before. */
let stale = new AbortController();

self.onmessage = ({ data }: MessageEvent<FeederMessage>) => {
  if (data.kind === 'go') {
    going = true;
    return;
  }
  run++;
  stale.abort();
  stale = new AbortController();
  if (data.kind === 'tracks') {
    control = new Int32Array(data.control);
    watermarks = new Int32Array(data.watermarks);
    tracks = data.tracks;
    size = data.ringFrames;
    rings = tracks.map((t) =>
      Array.from({ length: t.channels }, (_, c) => new Float32Array(t.rings, c * size * 4, size)),
    );
  } else if (data.kind === 'start') {
    going = !data.ahead;
    void feed(run, data.epoch, data.startFrames, data.loop);
  }
};

/** A stretch of one track's stream: `frames` from `at` on, which lie at `position` of the song. */
interface Stretch {
  readonly track: number;
  readonly at: number;
  readonly position: number;
  readonly frames: number;
}

/** Keeps all rings filled ahead of the mixer until another message comes. */
async function feed(own: number, epoch: number, startFrames: number, loop: Loop | null): Promise<void> {
  const chunk = Math.min(CHUNK_FRAMES, size / 4);
  const base = (Atomics.load(control, CONTROL.streamed) + APART_FRAMES) % size;
  for (let t = 0; t < tracks.length; t++) Atomics.store(watermarks, t, base);
  Atomics.store(control, CONTROL.streamed, base);
  Atomics.store(control, CONTROL.base, base);
  Atomics.store(control, CONTROL.feederEpoch, epoch);
  const next = tracks.map(() => 0);
  while (own === run) {
    const played =
      going && Atomics.load(control, CONTROL.mixerEpoch) === epoch
        ? Atomics.load(control, CONTROL.streamed) - base
        : 0;
    const ahead = going ? size - chunk - 2 * APART_FRAMES : READY_FRAMES;
    const due: Stretch[] = next
      .flatMap((at, track) =>
        at < played + ahead
          ? [
              {
                track,
                at,
                position: songFrame(startFrames, at, loop),
                frames: stretchFrames(at, framesToJump(startFrames, at, loop), chunk, loop),
              },
            ]
          : [],
      )
      .sort((a, b) => a.at - b.at);
    if (due.length === 0) {
      await wait(IDLE_MS);
      continue;
    }
    // Those furthest behind go first, together: after each round all are equally far.
    const round = due.filter((d) => d.at === due[0]?.at);
    const batches = Array.from({ length: Math.ceil(round.length / BATCH) }, (_, i) =>
      round.slice(i * BATCH, (i + 1) * BATCH),
    );
    for (let i = 0; i < batches.length && own === run; i += PARALLEL)
      await Promise.all(
        batches.slice(i, i + PARALLEL).map(async (stretches) => {
          const filled = await fill(stretches, base, loop, () => own === run);
          if (own !== run) return;
          if (!filled) return wait(RETRY_MS);
          for (const s of stretches) {
            next[s.track] = s.at + s.frames;
            Atomics.store(watermarks, s.track, base + s.at + s.frames);
          }
          return undefined;
        }),
      );
  }
}

/** By doubling, so that all are heard soon and no request is small for long; up to the end of a loop, which is never left in pieces too short to fade. */
function stretchFrames(at: number, toJump: number, chunk: number, loop: Loop | null): number {
  const frames = Math.max(FIRST_FRAMES, Math.min(chunk, at));
  return toJump - frames < (loop ? turnFrames(loop) : 0) ? toJump : frames;
}

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** What of a track lies in `[position, position + frames)` of the song; null = silence. */
function pieceOf(track: MixTrack, position: number, frames: number): SoundPiece | null {
  const from = Math.max(0, position - track.startFrames);
  const count = Math.min(position - track.startFrames + frames, track.lengthFrames) - from;
  return count > 0 ? { sound: track.sound, from, count } : null;
}

/** Writes stretches into their rings, silence where a track has no sound; false when the server did not answer. */
async function fill(
  stretches: readonly Stretch[],
  base: number,
  loop: Loop | null,
  isWanted: () => boolean,
): Promise<boolean> {
  const turn = loop ? turnFrames(loop) : 0;
  const turns = (s: Stretch): boolean =>
    turn > 0 && loop !== null && s.position + s.frames === loop.endFrames && s.frames >= turn;
  // A stretch up to the end of a loop needs what leads to the loop's start as well.
  const asked = stretches.flatMap((s) => {
    const track = tracks[s.track] as MixTrack;
    return [
      { s, lead: false, position: s.position, piece: pieceOf(track, s.position, s.frames) },
      ...(turns(s) && loop
        ? [
            {
              s,
              lead: true,
              position: loop.startFrames - turn,
              piece: pieceOf(track, loop.startFrames - turn, turn),
            },
          ]
        : []),
    ];
  });
  const fetched = asked.flatMap((a) => (a.piece ? [a.piece] : []));
  const parts = fetched.length > 0 ? await fetchParts(fetched) : [];
  if (parts === null || !isWanted()) return false;
  let at = 0;
  for (const { s, lead, position, piece } of asked) {
    const track = tracks[s.track] as MixTrack;
    const own = rings[s.track] as Float32Array[];
    const part = piece ? parts[at++] : undefined;
    const audio = part ? decodePart(part) : [];
    const offset = piece ? piece.from + track.startFrames - position : 0;
    own.forEach((ring, c) =>
      lead
        ? fadeOver(ring, base + s.at + s.frames - turn, turn, audio[c], offset)
        : write(ring, base + s.at, s.frames, audio[c], offset),
    );
  }
  return true;
}

/** `samples` begin `offset` frames into the stretch; silence around them. */
function write(
  ring: Float32Array,
  begin: number,
  frames: number,
  samples: Float32Array | undefined,
  offset: number,
): void {
  const put = (from: number, to: number, part: Float32Array | null): void => {
    for (let i = from; i < to;) {
      const at = (begin + i) & (size - 1);
      const run = Math.min(to - i, size - at);
      if (part) ring.set(part.subarray(i - offset, i - offset + run), at);
      else ring.fill(0, at, at + run);
      i += run;
    }
  };
  const end = samples ? Math.min(frames, offset + samples.length) : 0;
  const start = samples ? Math.min(offset, end) : 0;
  put(0, start, null);
  if (samples) put(start, end, samples);
  put(end, frames, null);
}

/** The end of a loop goes over into what leads to its start: no step where it turns back. */
function fadeOver(
  ring: Float32Array,
  begin: number,
  frames: number,
  lead: Float32Array | undefined,
  offset: number,
): void {
  const mask = size - 1;
  for (let i = 0; i < frames; i++) {
    const share = (i + 1) / (frames + 1);
    const at = (begin + i) & mask;
    const from = i < offset ? 0 : (lead?.[i - offset] ?? 0);
    ring[at] = (ring[at] as number) * (1 - share) + from * share;
  }
}

async function fetchParts(pieces: readonly SoundPiece[]): Promise<ReturnType<typeof soundParts> | null> {
  try {
    const response = await fetch('/api/sound', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ pieces }),
      signal: stale.signal,
    });
    return response.ok ? soundParts(new Uint8Array(await response.arrayBuffer())) : null;
  } catch {
    return null;
  }
}
