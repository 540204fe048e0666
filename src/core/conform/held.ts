import type { ReadFrames } from './edit-list';
import type { Warp } from './warp';

/** A phase vocoder over a fixed number of channels, driven from outside: every call says how much goes in and how much comes out. */
export interface Vocoder {
  /** Frames that one call may take or give at most. */
  readonly maxFrames: number;
  /** Input frames it needs beyond the moment it gives out. */
  readonly inputLatency: number;
  /** Output frames that lie before the moment asked for. */
  readonly outputLatency: number;
  /** Forgets everything and fills itself with what comes before; `rate` = input frames for one output frame. */
  seek(before: readonly Float32Array[], rate: number): void;
  /** Turns these inputs into `frames` of output; the arrays given back are the caller's. */
  process(inputs: readonly Float32Array[], frames: number): Float32Array[];
}

/** Output frames of one step: the map is followed to this grain. */
const STEP_FRAMES = 480;
/** Stretches of ratio 1 shorter than this are not worth a change of method. */
const LEAST_COPY_SECONDS = 1.5;
const JOIN_SECONDS = 0.02;
/** A join comes so long before the hit it leads up to. */
const BEFORE_HIT_SECONDS = 0.008;

/** What a stretching by a phase vocoder needs to know. */
export interface HeldInput {
  readonly warp: Warp;
  readonly sampleRateHz: number;
  readonly channels: number;
  readonly outputFrames: number;
  /** Output frames wanted: all, or an excerpt of them. */
  readonly from: number;
  readonly to: number;
}

/** A run of output frames done one way. */
interface Run {
  readonly from: number;
  readonly to: number;
  readonly copy: boolean;
}

/**
 * Stretches a group by a phase vocoder, all channels in one run so that nothing moves between them; where the ratio is 1 the
 * samples are copied. Output in blocks, exactly what was asked for, with bounded memory.
 */
export async function* renderHeld(
  input: HeldInput,
  vocoder: Vocoder,
  read: ReadFrames,
): AsyncGenerator<readonly Float32Array[]> {
  const { warp, sampleRateHz, channels, outputFrames } = input;
  const sourceAt = (frame: number): number => warp.toPlayed(frame / sampleRateHz) * sampleRateHz;
  const shiftAt = (frame: number): number => Math.round(sourceAt(frame) - frame);
  const runs = planRuns(warp, sampleRateHz, outputFrames)
    .map((r) => ({ ...r, from: Math.max(r.from, input.from), to: Math.min(r.to, input.to) }))
    .filter((r) => r.from < r.to);
  const join = Math.round(JOIN_SECONDS * sampleRateHz);
  /** Last frames of the run before, beyond its end, to fade from. */
  let tail: readonly Float32Array[] | null = null;
  for (const [i, run] of runs.entries()) {
    const over = i + 1 < runs.length ? join : 0;
    const blocks = run.copy
      ? copyRun(run, over, shiftAt((run.from + run.to) / 2), read)
      : vocodeRun(run, over, channels, vocoder, sourceAt, read);
    let at = run.from;
    const beyond = over > 0 ? Array.from({ length: channels }, () => new Float32Array(over)) : null;
    for await (const block of blocks) {
      const frames = block[0]?.length ?? 0;
      if (tail) fadeFrom(tail, block, at - run.from);
      const inside = Math.max(0, Math.min(frames, run.to - at));
      if (inside > 0) yield inside === frames ? block : block.map((c) => c.subarray(0, inside));
      if (inside < frames && beyond)
        beyond.forEach((b, c) =>
          b.set((block[c] as Float32Array).subarray(inside), Math.max(0, at - run.to)),
        );
      at += frames;
    }
    tail = beyond;
  }
}

/** Cuts the output where the ratio turns to or from a long 1. */
function planRuns(warp: Warp, sampleRateHz: number, outputFrames: number): Run[] {
  const edges = warp.pegs.map((p) => Math.round((p.conformed - BEFORE_HIT_SECONDS) * sampleRateHz));
  const runs: { from: number; to: number; copy: boolean }[] = [];
  const add = (from: number, to: number, copy: boolean): void => {
    const [a, b] = [Math.max(0, from), Math.min(outputFrames, to)];
    if (b <= a) return;
    const last = runs.at(-1);
    if (last && last.copy === copy) last.to = b;
    else runs.push({ from: a, to: b, copy });
  };
  add(0, edges[0] as number, true);
  warp.pegs.forEach((peg, i) => {
    // Two neighbouring stretches of ratio 1 share their shift, as they share the peg between them.
    add(edges[i] as number, edges[i + 1] ?? outputFrames, warp.ratioAt(peg.played) === 1);
  });
  const least = LEAST_COPY_SECONDS * sampleRateHz;
  const kept = runs.map((r) => ({ ...r, copy: r.copy && (r.to - r.from >= least || runs.length === 1) }));
  return kept.reduce<{ from: number; to: number; copy: boolean }[]>((all, r) => {
    const last = all.at(-1);
    if (last && last.copy === r.copy) last.to = r.to;
    else all.push(r);
    return all;
  }, []);
}

async function* copyRun(
  run: Run,
  over: number,
  shift: number,
  read: ReadFrames,
): AsyncGenerator<Float32Array[]> {
  const block = 65_536;
  for (let at = run.from; at < run.to + over; at += block)
    yield [...(await read(at + shift, Math.min(block, run.to + over - at)))];
}

async function* vocodeRun(
  run: Run,
  over: number,
  channels: number,
  vocoder: Vocoder,
  sourceAt: (frame: number) => number,
  read: ReadFrames,
): AsyncGenerator<Float32Array[]> {
  const { inputLatency, outputLatency } = vocoder;
  // The pre-roll lets the analysis settle on what sounds before the run.
  const begin = run.from - 2 * outputLatency;
  const end = run.to + over + outputLatency;
  const wanted = (frame: number): number => Math.round(sourceAt(frame)) + inputLatency;
  let position = wanted(begin);
  const filled = inputLatency + outputLatency;
  vocoder.seek(
    await read(position - filled, filled),
    (sourceAt(begin + STEP_FRAMES) - sourceAt(begin)) / STEP_FRAMES,
  );
  const window = await windowed(read, channels);
  for (let at = begin; at < end;) {
    const frames = Math.min(STEP_FRAMES, end - at);
    const next = wanted(at + frames);
    const block = vocoder.process(await window(position, next - position), frames);
    position = next;
    // What comes out now belongs to a moment `outputLatency` ago.
    const place = at - outputLatency;
    at += frames;
    if (place + frames <= run.from) continue;
    yield place >= run.from ? block : block.map((c) => c.subarray(run.from - place));
  }
}

/** Small steps served from large reads. */
async function windowed(read: ReadFrames, channels: number): Promise<ReadFrames> {
  const size = 65_536;
  let start = 0;
  let data: readonly Float32Array[] = Array.from({ length: channels }, () => new Float32Array(0));
  return async (from, frames) => {
    const have = data[0]?.length ?? 0;
    if (from < start || from + frames > start + have) {
      start = from;
      data = await read(from, Math.max(size, frames));
    }
    return data.map((c) => c.subarray(from - start, from - start + frames));
  };
}

/** Blends the run before into the beginning of this one, in place. */
function fadeFrom(tail: readonly Float32Array[], block: readonly Float32Array[], offset: number): void {
  tail.forEach((t, c) => {
    const into = block[c] as Float32Array;
    for (let k = 0; k < into.length && offset + k < t.length; k++) {
      const g = (offset + k + 0.5) / t.length;
      into[k] = g * (into[k] as number) + (1 - g) * (t[offset + k] as number);
    }
  });
}
