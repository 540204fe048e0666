import { addPiece, channelFor, partIn, type Piece } from '@/core/arrange';
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

/** What of the pieces of a track lies in `[position, position + frames)` of the song, to be fetched. */
interface Asked {
  readonly piece: Piece<string>;
  /** Frame of the song at which it begins. */
  readonly fromFrames: number;
  readonly wish: SoundPiece;
}

function askedOf({ pieces }: MixTrack, position: number, frames: number): Asked[] {
  return pieces.flatMap((piece) => {
    const part = partIn(piece, position, position + frames);
    return part
      ? [
          {
            piece,
            fromFrames: part.fromFrames,
            wish: { sound: piece.sound, from: part.soundFrames, count: part.count },
          },
        ]
      : [];
  });
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
  const fills = stretches.flatMap((s) => [
    { s, lead: false, position: s.position, frames: s.frames },
    ...(turns(s) && loop ? [{ s, lead: true, position: loop.startFrames - turn, frames: turn }] : []),
  ]);
  const asked = fills.map((f) => askedOf(tracks[f.s.track] as MixTrack, f.position, f.frames));
  const parts = await fetchAll(asked.flat().map((a) => a.wish));
  if (parts === null || !isWanted()) return false;
  let at = 0;
  fills.forEach(({ s, lead, position, frames }, n) => {
    const sounds = (asked[n] as Asked[]).map((a) => {
      const part = parts[at++];
      return { ...a, channels: part ? decodePart(part) : [] };
    });
    (rings[s.track] as Float32Array[]).forEach((ring, c) => {
      const samples = arranged(sounds, position, frames, c);
      if (lead) fadeOver(ring, base + s.at + s.frames - turn, samples);
      else write(ring, base + s.at, samples);
    });
  });
  return true;
}

/** One channel of what pieces come to. */
function arranged(
  sounds: readonly (Asked & { readonly channels: readonly Float32Array[] })[],
  position: number,
  frames: number,
  c: number,
): Float32Array {
  const out = new Float32Array(frames);
  for (const { piece, fromFrames, channels } of sounds)
    // The side that is heard was taken where the sound lies.
    if (channels.length > 0)
      addPiece(out, position, piece, channelFor({ fromChannel: null }, channels, c), fromFrames);
  return out;
}

function write(ring: Float32Array, begin: number, samples: Float32Array): void {
  const at = begin & (size - 1);
  const first = Math.min(samples.length, size - at);
  ring.set(samples.subarray(0, first), at);
  if (first < samples.length) ring.set(samples.subarray(first), 0);
}

/** The end of a loop goes over into what leads to its start: no step where it turns back. */
function fadeOver(ring: Float32Array, begin: number, lead: Float32Array): void {
  const mask = size - 1;
  lead.forEach((from, i) => {
    const share = (i + 1) / (lead.length + 1);
    const at = (begin + i) & mask;
    ring[at] = (ring[at] as number) * (1 - share) + from * share;
  });
}

/** Sound in as many requests as it takes; null when one is not answered. */
async function fetchAll(wishes: readonly SoundPiece[]): Promise<ReturnType<typeof soundParts> | null> {
  const parts: ReturnType<typeof soundParts>[number][] = [];
  for (let at = 0; at < wishes.length; at += BATCH) {
    const found = await fetchParts(wishes.slice(at, at + BATCH));
    if (found === null) return null;
    parts.push(...found);
  }
  return parts;
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
