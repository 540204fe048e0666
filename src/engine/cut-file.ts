import { rename, rm } from 'node:fs/promises';
import { type Faded, addPiece } from '@/core/arrange';
import {
  createWavWriter,
  readSoundBlocks,
  readSoundHeader,
  type SoundFault,
  type SoundHeader,
} from '@/core/audio';
import { type SoundMeasure, SoundMeter } from '@/core/matching';
import { type ByteSource, err, ok, type Result } from '@/core/units';
import { fileSink, fileSource } from './files';
import { type FineStretch, refined } from './refine-edges';

/** A stretch that stays, s. */
export interface KeptStretch {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Where its sound begins as far as levels tell; null = not to be looked for. */
  readonly soundSeconds: number | null;
}

/** What is cut how. */
export interface CutInput {
  readonly path: string;
  /** In order, apart. */
  readonly kept: readonly KeptStretch[];
  readonly beforeSeconds: number;
  readonly fadeSeconds: number;
  /** Whether edges may be moved to the sample: beginnings to what begins there, all to where the wave crosses zero. */
  readonly refines: boolean;
  /** The cut file, of full length, 32 bit float; null = only measured. */
  readonly outPath: string | null;
}

/** What came of it. */
export interface CutOutcome {
  /** Kept stretches to the sample, frames of the file. */
  readonly kept: readonly FineStretch[];
  readonly sampleRateHz: number;
  readonly lengthFrames: number;
  /** Of what stays. */
  readonly measure: SoundMeasure;
}

/** Cuts a recording in its place: samples that stay are untouched but for the fades, the rest is zero; measures what is left, and writes it where that is asked for. */
export async function cutFile(input: CutInput): Promise<Result<CutOutcome, SoundFault>> {
  const file = await fileSource(input.path);
  try {
    const parsed = await readSoundHeader(file.bytes);
    if (!parsed.ok) return err(parsed.error);
    const header = parsed.value;
    const kept = await edges(file.bytes, header, input);
    const pieces = kept.map((k) =>
      fadedPiece(k, Math.round(input.fadeSeconds * header.sampleRateHz), header.lengthFrames),
    );
    return ok({
      kept,
      sampleRateHz: header.sampleRateHz,
      lengthFrames: header.lengthFrames,
      measure: await measured(file.bytes, header, pieces, input.outPath),
    });
  } finally {
    await file.close();
  }
}

/** The edges of a file have no fades: nothing was cut there. */
function fadedPiece(
  { from, to }: { readonly from: number; readonly to: number },
  fade: number,
  length: number,
): Faded {
  const half = Math.floor((to - from) / 2);
  return {
    gain: 1,
    clipFromFrames: from,
    clipToFrames: to,
    fadeIn: { frames: from === 0 ? 0 : Math.min(fade, half), shape: 'equal-gain' },
    fadeOut: { frames: to === length ? 0 : Math.min(fade, half), shape: 'equal-gain' },
  };
}

function edges(bytes: ByteSource, header: SoundHeader, input: CutInput): Promise<FineStretch[]> {
  const frame = (s: number): number =>
    Math.max(0, Math.min(header.lengthFrames, Math.round(s * header.sampleRateHz)));
  const kept = input.kept.map((k) => ({
    from: frame(k.fromSeconds),
    to: frame(k.toSeconds),
    sound: k.soundSeconds === null ? null : frame(k.soundSeconds),
  }));
  return input.refines
    ? refined(bytes, header, { kept, beforeSeconds: input.beforeSeconds })
    : Promise.resolve(kept);
}

async function measured(
  bytes: ByteSource,
  header: SoundHeader,
  pieces: readonly Faded[],
  outPath: string | null,
): Promise<SoundMeasure> {
  const { sampleRateHz, channels } = header;
  const meter = new SoundMeter(sampleRateHz, channels);
  // Under a name of its own until it is whole: what is broken off is never taken for a result.
  const partPath = outPath === null ? null : `${outPath}.fernmoss-part`;
  if (partPath !== null) await rm(partPath, { force: true });
  const sink = partPath === null ? null : await fileSink(partPath);
  const writer = sink && (await createWavWriter(sink.bytes, { sampleRateHz, channels, bitDepth: 32 }));
  try {
    for await (const block of readSoundBlocks(bytes, header)) {
      const cut = block.channels.map((x) => cutBlock(x, block.startFrames, pieces));
      meter.push(cut);
      await writer?.write(cut);
    }
    await writer?.finish();
  } finally {
    await sink?.close();
  }
  if (partPath !== null && outPath !== null) await rename(partPath, outPath);
  return meter.measure();
}

/** A block of one channel with only the pieces in it. */
function cutBlock(samples: Float32Array, start: number, pieces: readonly Faded[]): Float32Array {
  const out = new Float32Array(samples.length);
  for (const piece of pieces) {
    const from = Math.max(start, piece.clipFromFrames);
    const to = Math.min(start + samples.length, piece.clipToFrames);
    if (from < to) addPiece(out, start, piece, samples.subarray(from - start, to - start), from);
  }
  return out;
}
