import { readFile } from 'node:fs/promises';
import {
  type RhythmCurves,
  type MicRelation,
  moveOnsets,
  readOnsets,
  readSketch,
  type RhythmPiece,
  rhythmOfPieces,
  type SoundSketch,
} from '@/core/analysis';
import { createWavWriter, readSoundBlocks, readSoundHeader, type SoundFault } from '@/core/audio';
import { createResampler } from '@/core/dsp';
import type { NamesAnswers, NamesQuestion } from '@/contracts';
import type { MixLikeness } from '@/core/balance';
import type { Twin } from '@/core/findings';
import type { Family } from '@/core/naming';
import { findSections, type FoundSections, type HeardPiece, type SectionTrack } from '@/core/sections';
import type { TakesOfDelivery } from '@/core/takes';
import {
  detectBetween,
  detectTempo,
  playedHits,
  type TempoFault,
  type TempoReading,
  type TempoTrack,
} from '@/core/tempo';
import { err, ok, type ProgressSink, type Result, roundTo } from '@/core/units';
import { answerNames } from './answer-names';
import {
  fitMixFiles,
  type FitMixInput,
  mixLikenesses,
  type MixesInput,
  type MixReading,
  measureSums,
  type MeasuredSum,
  type SumsInput,
} from './balance-files';
import { buildPackage, type BuiltPackage, type PackageInput } from './build-package';
import { type ClickFileInput, writeClickFile } from './click-file';
import { type ConformedGroup, conformGroup, type ConformGroupInput } from './conform-group';
import { copyPackage, type CopyInput, type CopyOutcome } from './copy-package';
import { type AcrossInput, type AcrossFacts, factsAcross } from './facts-across';
import { type CutInput, type CutOutcome, cutFile } from './cut-file';
import { fileSink, fileSource, hashFile } from './files';
import { type JoinInput, joinPair } from './join-pair';
import { findTwins, type TwinCandidate } from './find-twins';
import { inspectFile, type Inspection } from './inspect-file';
import { type Listening, listenToFile } from './listen-file';
import { type FineStretch, refineFiles, type RefineInput } from './refine-edges';
import { measureClips, type MeasureInput, type TrackMeasure } from './measure-clips';
import { relateMicFiles, type RelateInput } from './relate-mics';
import { splitChannels } from './split-channels';
import { type TakesInput, takesOfFiles } from './takes-of-files';
import { type PackageCheck, verifyPackage } from './verify-package';

/** A file made by a task. */
export interface MadeFile {
  readonly sha256: string;
  readonly sizeBytes: number;
  readonly lengthFrames: number;
  readonly channels: number;
  /** First byte of its samples. */
  readonly dataOffset: number;
}

/** A stretch of a track, and what was heard of its sound. */
export interface RhythmSource {
  readonly onsetsPath: string;
  /** Where the sound begins in the song, s; cut or not. */
  readonly startSeconds: number;
  /** Faster or slower than it was recorded. */
  readonly speed: number;
  /** The stretch in which it sounds, s. */
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Nothing is cut off it. */
  readonly isWhole: boolean;
}

/** A sound as it lies in the song, with where its sketch lies besides. */
export interface SketchSource extends RhythmSource {
  readonly sketchPath: string;
}

/** Heavy tasks: what each takes and gives, both plain data. */
export interface TaskMap {
  inspect: {
    input: {
      readonly path: string;
      readonly truePeak: boolean;
      readonly listen: boolean;
      readonly levels?: boolean;
    };
    output: Result<Inspection, SoundFault>;
  };
  convert: {
    input: {
      readonly path: string;
      readonly outPath: string;
      readonly toHz: number;
      /** The samples stay as they are, only said to be at that rate. */ readonly keepSamples?: boolean;
    };
    output: Result<MadeFile, SoundFault>;
  };
  detect: {
    input: {
      readonly tracks: readonly {
        readonly id: string;
        readonly family: Family;
        readonly part: string | null;
        readonly pieces: readonly RhythmSource[];
      }[];
      readonly timekeepers: readonly string[] | null;
      /** Only between two pulses of a reading; null = all. */ readonly within: {
        readonly reading: TempoReading;
        readonly from: number;
        readonly to: number;
      } | null;
    };
    output: Result<TempoReading, TempoFault>;
  };
  /** Sections of a song between bar lines, s. */
  sections: {
    input: {
      readonly tracks: readonly {
        readonly family: Family;
        readonly part: string | null;
        readonly pieces: readonly SketchSource[];
      }[];
      readonly lines: readonly number[];
    };
    output: FoundSections;
  };
  /** What each track strikes, in the session's time. */
  hits: {
    input: { readonly tracks: TaskMap['detect']['input']['tracks'] };
    output: readonly {
      readonly id: string;
      readonly seconds: readonly number[];
      readonly strength: readonly number[];
    }[];
  };
  listen: {
    input: { readonly path: string; readonly truePeak: boolean };
    output: Result<Listening, SoundFault>;
  };
  hash: { input: { readonly path: string }; output: string };
  /** How far each file is the mix of the others. */
  mixes: { input: MixesInput; output: readonly MixLikeness[] };
  /** How a mix is made of tracks. */
  fitMix: { input: FitMixInput; output: MixReading };
  /** Which files are takes of one part. */
  takes: { input: TakesInput; output: TakesOfDelivery };
  /** Highest sample of a sum. */
  sums: { input: SumsInput; output: readonly MeasuredSum[] };
  /** How loud a track is. */
  measure: { input: MeasureInput; output: TrackMeasure };
  cut: { input: CutInput; output: Result<CutOutcome, SoundFault> };
  /** Edges to the sample, of many files. */
  refineEdges: {
    input: readonly RefineInput[];
    output: readonly (readonly FineStretch[] | null)[];
  };
  /** Every channel of a file as a file; gives their names. */
  split: {
    input: { readonly path: string; readonly outPaths: readonly string[] };
    output: Result<readonly string[], SoundFault>;
  };
  /** Two channels as one stereo file. */
  join: { input: JoinInput; output: Result<{ readonly lengthFrames: number }, SoundFault> };
  /** The first file leads; one relation for each of the others. */
  relate: { input: RelateInput; output: readonly (MicRelation | null)[] };
  /** Files that hold one take; `skip` as {@link findTwins} has it. */
  twins: {
    input: { readonly files: readonly TwinCandidate[]; readonly skip: readonly string[] };
    output: readonly Twin[];
  };
  /** What recordings have to do with each other by their sketches; ids as given. */
  across: { input: AcrossInput; output: AcrossFacts };
  click: { input: ClickFileInput; output: Awaited<ReturnType<typeof writeClickFile>> };
  conform: { input: ConformGroupInput; output: ConformedGroup & { readonly made: readonly MadeFile[] } };
  copy: { input: CopyInput; output: CopyOutcome };
  names: { input: NamesQuestion; output: NamesAnswers[keyof NamesAnswers] };
  package: {
    input: PackageInput;
    output: { readonly built: BuiltPackage; readonly checks: readonly PackageCheck[] };
  };
}

/** Name of a heavy task. */
export type TaskName = keyof TaskMap;

type Tasks = {
  readonly [N in TaskName]: (
    payload: TaskMap[N]['input'],
    progress: ProgressSink,
  ) => Promise<TaskMap[N]['output']>;
};

/** The tasks themselves; run them in a thread (`runTask`). */
export const TASKS: Tasks = {
  inspect: ({ path, ...options }, progress) => inspectFile(path, { ...options, progress }),
  cut: (input) => cutFile(input),
  measure: (input) => measureClips(input),
  refineEdges: (input) => refineFiles(input),
  mixes: (input) => mixLikenesses(input),
  fitMix: (input, progress) => fitMixFiles(input, progress),
  sums: (input) => measureSums(input),
  takes: (input, progress) => takesOfFiles(input, progress),
  convert: (input, progress) => convertRate(input, progress),
  async detect({ tracks, timekeepers, within }, progress) {
    const loaded = await Promise.all(tracks.map(rhythmTrack));
    return within
      ? detectBetween(loaded, within.reading, within.from, within.to, timekeepers)
      : detectTempo(loaded, { timekeepers, progress });
  },
  click: (input, progress) => writeClickFile(input, progress),
  async sections({ tracks, lines }) {
    return findSections(await Promise.all(tracks.map(sectionTrack)), lines);
  },
  async hits({ tracks }) {
    const found = [];
    // One after the other: of hundreds only one is in memory.
    for (const track of tracks) {
      const hits = playedHits(await rhythmTrack(track));
      found.push({
        id: track.id,
        seconds: hits.seconds.map((t) => roundTo(t, 4)),
        strength: hits.strength.map((x) => roundTo(x, 2)),
      });
    }
    return found;
  },
  listen: ({ path, truePeak }, progress) => listenToFile(path, { truePeak }, progress),
  hash: ({ path }) => hashFile(path),
  split: ({ path, outPaths }, progress) => splitChannels(path, outPaths, progress),
  join: (input, progress) => joinPair(input, progress),
  relate: (input) => relateMicFiles(input),
  twins: ({ files, skip }, progress) => findTwins(files, new Set(skip), progress),
  async across(input, progress) {
    const files = await Promise.all(
      input.files.map(async ({ path, ...file }) => ({ ...file, sketch: readSketch(await readFile(path)) })),
    );
    return factsAcross(files, input, progress);
  },
  async conform(input, progress) {
    const done = await conformGroup(input, progress);
    const made: MadeFile[] = [];
    for (const { outPath } of done.files) made.push(await describeMade(outPath));
    return { ...done, made };
  },
  copy: copyPackage,
  names: (question) => Promise.resolve(answerNames(question)),
  async package(input, progress) {
    const built = await buildPackage(input, (share) => progress(0.6 * share));
    return { built, checks: await verifyPackage(built.root, input, (share) => progress(0.6 + 0.4 * share)) };
  },
};

/** A track with what was heard of it, moved to where it lies in the song. */
async function rhythmTrack({
  id,
  family,
  part,
  pieces,
}: TaskMap['detect']['input']['tracks'][number]): Promise<TempoTrack> {
  /** What was heard of each sound, at each place it was moved to. */
  const moved = new Map<string, RhythmCurves>();
  const heard: RhythmPiece[] = [];
  for (const { onsetsPath, startSeconds, speed, fromSeconds, toSeconds } of pieces) {
    const key = `${onsetsPath} ${startSeconds} ${speed}`;
    const known = moved.get(key) ?? moveOnsets(readOnsets(await readFile(onsetsPath)), startSeconds, speed);
    moved.set(key, known);
    heard.push({ rhythm: known, fromSeconds, toSeconds });
  }
  const [whole] = heard;
  const isWhole = heard.length === 1 && pieces[0]?.isWhole === true;
  return { id, family, part, curves: whole && isWhole ? whole.rhythm : rhythmOfPieces(heard) };
}

/** A track with the sketches of what sounds of it. */
async function sectionTrack({
  family,
  part,
  pieces,
}: TaskMap['sections']['input']['tracks'][number]): Promise<SectionTrack> {
  const read = async <T>(known: Map<string, T>, path: string, as: (bytes: Uint8Array) => T): Promise<T> => {
    const value = known.get(path) ?? as(await readFile(path));
    known.set(path, value);
    return value;
  };
  const [sketches, chromas] = [new Map<string, SoundSketch>(), new Map<string, Float32Array>()];
  const heard: HeardPiece[] = [];
  for (const { sketchPath, onsetsPath, startSeconds, speed, fromSeconds, toSeconds } of pieces)
    heard.push({
      sketch: await read(sketches, sketchPath, readSketch),
      chroma: await read(chromas, onsetsPath, (bytes) => readOnsets(bytes).chroma),
      ...{ atSeconds: startSeconds, speed, fromSeconds, toSeconds },
    });
  return { family, part, pieces: heard };
}

/** Writes a copy of a WAV file at another rate as 32 bit float; source see `createResampler`. */
async function convertRate(
  { path, outPath, toHz, keepSamples = false }: TaskMap['convert']['input'],
  progress: ProgressSink,
): Promise<Result<MadeFile, SoundFault>> {
  const input = await fileSource(path);
  try {
    const parsed = await readSoundHeader(input.bytes);
    if (!parsed.ok) return err(parsed.error);
    const header = parsed.value;
    const output = await fileSink(outPath);
    try {
      const writer = await createWavWriter(output.bytes, {
        sampleRateHz: toHz,
        channels: header.channels,
        bitDepth: 32,
      });
      const resampler = keepSamples ? null : createResampler(header.sampleRateHz, toHz, header.channels);
      for await (const block of readSoundBlocks(input.bytes, header)) {
        await writer.write(resampler ? resampler.push(block.channels) : block.channels);
        progress(block.startFrames / header.lengthFrames);
      }
      if (resampler) await writer.write(resampler.finish());
      await writer.finish();
    } finally {
      await output.close();
    }
    return ok(await describeMade(outPath));
  } finally {
    await input.close();
  }
}

/** What a WAV file is that was just written, as read back from the disk. */
async function describeMade(path: string): Promise<MadeFile> {
  const made = await fileSource(path);
  try {
    const header = await readSoundHeader(made.bytes);
    if (!header.ok) throw new Error(`what was written cannot be read back: ${header.error.code}`);
    const { lengthFrames, channels, dataOffset } = header.value;
    return {
      sha256: await hashFile(path),
      sizeBytes: made.bytes.sizeBytes,
      lengthFrames,
      channels,
      dataOffset,
    };
  } finally {
    await made.close();
  }
}
