import { createWavWriter, readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import {
  AttackFinder,
  BLOCK_SECONDS,
  createWarp,
  type EditList,
  isHeldAt,
  LEVEL_STEP_SECONDS,
  type LevelTrack,
  mergeAttacks,
  type Peg,
  planMoves,
  planSlices,
  type ReadFrames,
  refineAttack,
  renderEditList,
  renderHeld,
  type RoughAttack,
  soundRegions,
  thinPegs,
  type Warp,
} from '@/core/conform';
import type { Treatment } from '@/core/session';
import type { ByteSource, ProgressSink } from '@/core/units';
import { fileSink, fileSource, type OpenFile } from './files';
import { createVocoder } from './vocoder';

/** Recordings of one group and what is to become of them. */
export interface ConformGroupInput extends Treatment {
  readonly sources: readonly {
    readonly path: string;
    readonly outPath: string;
    /** Place of its first frame in the session. */
    readonly startFrames: number;
    /** Who leads in saying where hits are; see `attackRank`. */
    readonly rank: number;
  }[];
  readonly pegs: readonly Peg[];
  /** Only this part of the conformed song, in frames; null = all of it. */
  readonly excerpt: { readonly from: number; readonly to: number } | null;
}

/** One file written. */
export interface ConformedFile {
  readonly outPath: string;
  readonly plannedFrames: number;
  readonly writtenFrames: number;
  readonly ratioMin: number;
  readonly ratioMax: number;
  /** Level that makes an excerpt as loud as the same bars as played, dB; 0 for whole recordings. */
  readonly matchDb: number;
}

/** What became of a group. */
export interface ConformedGroup {
  readonly files: readonly ConformedFile[];
  /** Hits found; null where none are looked for. */
  readonly attacks: number | null;
}

interface Source {
  readonly file: OpenFile<ByteSource>;
  readonly header: SoundHeader;
  readonly startFrames: number;
  readonly rank: number;
  readonly outPath: string;
}

const DETECT_MARGIN_MS = 4;
const REFINE_MS = 8;
/** Hits are looked for so far outside an excerpt, so that its slices are those of the whole. */
const MARGIN_SECONDS = 4;

/** Conforms the recordings of one group into WAV files of 32 bit float that begin at the session's zero. Throws if a source cannot be read. */
export async function conformGroup(
  input: ConformGroupInput,
  progress: ProgressSink,
): Promise<ConformedGroup> {
  const warp = createWarp(input.pegs);
  const sources: Source[] = [];
  try {
    for (const s of input.sources) {
      const file = await fileSource(s.path);
      const header = await readSoundHeader(file.bytes);
      if (!header.ok) {
        await file.close();
        throw new Error(`${s.path} cannot be read: ${header.error.code}`);
      }
      sources.push({
        file,
        header: header.value,
        startFrames: s.startFrames,
        rank: s.rank,
        outPath: s.outPath,
      });
    }
    return await conformSources(input, warp, sources, progress);
  } finally {
    await Promise.all(sources.map((s) => s.file.close()));
  }
}

async function conformSources(
  input: ConformGroupInput,
  warp: Warp,
  sources: readonly Source[],
  progress: ProgressSink,
): Promise<ConformedGroup> {
  const sampleRateHz = sources[0]?.header.sampleRateHz ?? 48_000;
  const channels = sources.reduce((n, s) => n + s.header.channels, 0);
  const planned = sources.map((s) => {
    const end = s.startFrames + s.header.lengthFrames;
    return input.method === 'still'
      ? end
      : Math.max(0, Math.round(warp.toConformed(end / sampleRateHz) * sampleRateHz));
  });
  const outputFrames = Math.max(1, ...planned);
  const sourceFrames = Math.max(...sources.map((s) => s.startFrames + s.header.lengthFrames));
  const read = readerOf(sources);
  let attacks: number | null = null;
  const from = input.excerpt?.from ?? 0;
  const to = Math.min(outputFrames, input.excerpt?.to ?? outputFrames);
  let blocks: AsyncGenerator<readonly Float32Array[]>;
  let followed = warp;
  if (input.method === 'held') {
    followed = await warpOfHeld(sources, warp, around(input.excerpt, warp, sampleRateHz), (share) =>
      progress(0.4 * share),
    );
    blocks = renderHeld(
      { warp: followed, sampleRateHz, channels, outputFrames, from, to },
      createVocoder({ channels, sampleRateHz, blockSeconds: BLOCK_SECONDS[input.block] }),
      read,
    );
  } else {
    let list: EditList;
    if (input.method === 'still') list = { frames: outputFrames, segments: [{ at: 0, source: 0, fade: 0 }] };
    else if (input.method === 'none')
      list = planMoves({
        regions: await regionsOf(sources, sampleRateHz, sourceFrames),
        warp,
        sampleRateHz,
        outputFrames,
      });
    else {
      const found = await attacksOf(
        sources,
        sampleRateHz,
        around(input.excerpt, warp, sampleRateHz),
        read,
        (share) => progress(0.4 * share),
      );
      attacks = found.length;
      list = await planSlices({ attacks: found, warp, sampleRateHz, sourceFrames, outputFrames }, read);
    }
    blocks = renderEditList(list, channels, read, { from, to });
  }
  const energy = sources.map(() => 0);
  const written = await writeAll(
    sources,
    measured(blocks, sources, energy),
    sampleRateHz,
    planned.map((n) => Math.max(0, Math.min(n, to) - from)),
    (share) => progress(0.4 + 0.6 * share),
  );
  const matches = await Promise.all(
    sources.map((s, i) => (input.excerpt ? matchOf(s, energy[i] as number, warp, { from, to }) : 0)),
  );
  return {
    attacks,
    files: sources.map((s, i) => ({
      matchDb: matches[i] as number,
      outPath: s.outPath,
      plannedFrames: Math.max(0, Math.min(planned[i] as number, to) - from),
      writtenFrames: written[i] as number,
      ...ratioRange(
        followed,
        s.startFrames / sampleRateHz,
        (s.startFrames + s.header.lengthFrames) / sampleRateHz,
      ),
    })),
  };
}

function ratioRange(
  warp: Warp,
  fromSeconds: number,
  toSeconds: number,
): { ratioMin: number; ratioMax: number } {
  const ratios = [
    warp.ratioAt(fromSeconds),
    ...warp.pegs
      .filter((p) => p.played > fromSeconds && p.played < toSeconds)
      .map((p) => warp.ratioAt(p.played)),
  ];
  return {
    ratioMin: ratios.reduce((a, r) => Math.min(a, r)),
    ratioMax: ratios.reduce((a, r) => Math.max(a, r)),
  };
}

/** Passes blocks on and adds up the squares of each source's samples. */
async function* measured(
  blocks: AsyncGenerator<readonly Float32Array[]>,
  sources: readonly Source[],
  energy: number[],
): AsyncGenerator<readonly Float32Array[]> {
  for await (const block of blocks) {
    let channel = 0;
    for (const [i, s] of sources.entries())
      for (const end = channel + s.header.channels; channel < end; channel++)
        energy[i] = (energy[i] as number) + squares(block[channel] as Float32Array);
    yield block;
  }
}

const squares = (samples: Float32Array): number => samples.reduce((sum, x) => sum + x * x, 0);

/** What lies between the two is their tempo and method; more than that is not a matter of level. */
const MOST_MATCH_DB = 6;

/** dB between the mean power of the bars as played and as made. */
async function matchOf(
  source: Source,
  made: number,
  warp: Warp,
  excerpt: { readonly from: number; readonly to: number },
): Promise<number> {
  const { file, header, startFrames } = source;
  const played = (frame: number): number =>
    Math.round(warp.toPlayed(frame / header.sampleRateHz) * header.sampleRateHz) - startFrames;
  const [from, to] = [Math.max(0, played(excerpt.from)), Math.min(header.lengthFrames, played(excerpt.to))];
  let energy = 0;
  if (to > from)
    for await (const block of readSoundBlocks(file.bytes, header, { startFrames: from, endFrames: to }))
      for (const samples of block.channels) energy += squares(samples);
  if (energy <= 0 || made <= 0) return 0;
  const db =
    10 *
    Math.log10(
      energy / Math.max(1, played(excerpt.to) - played(excerpt.from)) / (made / (excerpt.to - excerpt.from)),
    );
  return Math.max(-MOST_MATCH_DB, Math.min(MOST_MATCH_DB, db));
}

/** Frames of all channels of all sources in session time; silence outside them. */
function readerOf(sources: readonly Source[]): ReadFrames {
  return async (start, frames) => {
    const parts = await Promise.all(
      sources.map(async ({ file, header, startFrames }) => {
        const out = Array.from({ length: header.channels }, () => new Float32Array(frames));
        const from = Math.max(0, start - startFrames);
        const to = Math.min(header.lengthFrames, start + frames - startFrames);
        if (to <= from) return out;
        for await (const block of readSoundBlocks(file.bytes, header, { startFrames: from, endFrames: to }))
          block.channels.forEach((c, n) => out[n]?.set(c, block.startFrames + startFrames - start));
        return out;
      }),
    );
    return parts.flat();
  };
}

/** Part of the performance that an excerpt needs, frames; all of it without one. */
function around(
  excerpt: ConformGroupInput['excerpt'],
  warp: Warp,
  sampleRateHz: number,
): { readonly from: number; readonly to: number } {
  if (!excerpt) return { from: 0, to: Infinity };
  const played = (frame: number): number => Math.round(warp.toPlayed(frame / sampleRateHz) * sampleRateHz);
  return {
    from: Math.max(0, played(excerpt.from) - MARGIN_SECONDS * sampleRateHz),
    to: played(excerpt.to) + MARGIN_SECONDS * sampleRateHz,
  };
}

/** Where the group's hits begin, to the sample, within a part of the performance. */
async function attacksOf(
  sources: readonly Source[],
  sampleRateHz: number,
  part: { readonly from: number; readonly to: number },
  read: ReadFrames,
  progress: ProgressSink,
): Promise<number[]> {
  const channels: { attacks: RoughAttack[]; rank: number }[] = [];
  for (const [i, s] of sources.entries()) {
    const finders = Array.from({ length: s.header.channels }, () => new AttackFinder(sampleRateHz));
    const from = Math.max(0, part.from - s.startFrames);
    for await (const block of readSoundBlocks(s.file.bytes, s.header, {
      startFrames: from,
      endFrames: Math.max(0, part.to - s.startFrames),
    }))
      block.channels.forEach((c, n) => finders[n]?.push(c));
    for (const finder of finders)
      channels.push({
        attacks: finder.finish().map((a) => ({ ...a, frame: a.frame + from + s.startFrames })),
        rank: s.rank,
      });
    progress((i + 1) / sources.length);
  }
  const margin = Math.round((DETECT_MARGIN_MS * sampleRateHz) / 1000);
  const span = margin + Math.round((REFINE_MS * sampleRateHz) / 1000);
  const out: number[] = [];
  for (const attack of mergeAttacks(channels, sampleRateHz)) {
    const around = (await read(attack.frame - margin, span))[attack.channel] as Float32Array;
    out.push(attack.frame - margin + refineAttack(around, margin - Math.round(sampleRateHz / 1000)));
  }
  return out.sort((a, b) => a - b);
}

/** The warp for stretching: no pegs inside held notes. */
async function warpOfHeld(
  sources: readonly Source[],
  warp: Warp,
  part: { readonly from: number; readonly to: number },
  progress: ProgressSink,
): Promise<Warp> {
  const tracks: LevelTrack[] = [];
  for (const [i, s] of sources.entries()) {
    const { sampleRateHz, lengthFrames } = s.header;
    const step = Math.round(LEVEL_STEP_SECONDS * sampleRateHz);
    const from = Math.max(0, part.from - s.startFrames);
    const levels = new Float32Array(
      Math.ceil(Math.max(0, Math.min(lengthFrames, part.to - s.startFrames) - from) / step),
    );
    for await (const block of readSoundBlocks(s.file.bytes, s.header, {
      startFrames: from,
      endFrames: Math.max(0, part.to - s.startFrames),
    }))
      for (const samples of block.channels)
        for (let n = 0; n < samples.length; n++) {
          const k = Math.floor((block.startFrames - from + n) / step);
          levels[k] = Math.max(levels[k] ?? 0, Math.abs(samples[n] as number));
        }
    tracks.push({
      stepSeconds: step / sampleRateHz,
      startSeconds: (from + s.startFrames) / sampleRateHz,
      levels,
    });
    progress((i + 1) / sources.length);
  }
  return createWarp(thinPegs(warp.pegs, (seconds) => isHeldAt(tracks, seconds)));
}

const REGION_STEP_SECONDS = 0.01;
const REGION_FLOOR = 0.001; // −60 dBFS
const REGION_GAP_SECONDS = 0.5;

async function regionsOf(
  sources: readonly Source[],
  sampleRateHz: number,
  totalFrames: number,
): Promise<ReturnType<typeof soundRegions>> {
  const stepFrames = Math.round(REGION_STEP_SECONDS * sampleRateHz);
  const levels = new Array<number>(Math.ceil(totalFrames / stepFrames)).fill(0);
  for (const { file, header, startFrames } of sources)
    for await (const block of readSoundBlocks(file.bytes, header))
      for (const samples of block.channels)
        for (let i = 0; i < samples.length; i++) {
          const k = Math.floor((startFrames + block.startFrames + i) / stepFrames);
          const level = Math.abs(samples[i] as number);
          if (level > (levels[k] ?? 0)) levels[k] = level;
        }
  return soundRegions(levels, {
    stepFrames,
    floor: REGION_FLOOR,
    gapSteps: REGION_GAP_SECONDS / REGION_STEP_SECONDS,
    totalFrames,
  });
}

async function writeAll(
  sources: readonly Source[],
  blocks: AsyncGenerator<readonly Float32Array[]>,
  sampleRateHz: number,
  frames: readonly number[],
  progress: ProgressSink,
): Promise<number[]> {
  const outputs: OpenFile<Parameters<typeof createWavWriter>[0]>[] = [];
  try {
    for (const s of sources) outputs.push(await fileSink(s.outPath));
    const writers = await Promise.all(
      sources.map((s, i) =>
        createWavWriter((outputs[i] as (typeof outputs)[number]).bytes, {
          sampleRateHz,
          channels: s.header.channels,
          bitDepth: 32,
        }),
      ),
    );
    const longest = Math.max(1, ...frames);
    let at = 0;
    for await (const block of blocks) {
      const length = block[0]?.length ?? 0;
      let channel = 0;
      for (const [i, s] of sources.entries()) {
        const mine = block.slice(channel, channel + s.header.channels);
        channel += s.header.channels;
        const count = Math.max(0, Math.min(length, (frames[i] as number) - at));
        if (count > 0)
          await writers[i]?.write(count === length ? mine : mine.map((c) => c.subarray(0, count)));
      }
      at += length;
      progress(at / longest);
    }
    return await Promise.all(writers.map(async (w) => (await w.finish()).lengthFrames));
  } finally {
    await Promise.all(outputs.map((o) => o.close()));
  }
}
