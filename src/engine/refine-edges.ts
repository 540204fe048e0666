import { readSoundBlocks, readSoundHeader, type SoundFault, type SoundHeader } from '@/core/audio';
import { BEGIN_REACH_SECONDS, beginningIn, CROSSING_REACH_SECONDS, crossingNear } from '@/core/tidy';
import { type ByteSource, err, ok, type Result } from '@/core/units';
import { fileSource } from './files';

/** A stretch that stays, frames of the file. */
export interface RoughStretch {
  readonly from: number;
  readonly to: number;
  /** Where its sound begins as far as levels tell; null = not to be looked for. */
  readonly sound: number | null;
}

/** The same with its edges put to the sample. */
export interface FineStretch {
  readonly from: number;
  readonly to: number;
}

/** What is refined, in order, apart. */
export interface RefineInput {
  readonly path: string;
  readonly kept: readonly RoughStretch[];
  /** Stays before what begins, s. */
  readonly beforeSeconds: number;
}

/** Edges of many files, one after the other: null = a file cannot be read. */
export async function refineFiles(
  files: readonly RefineInput[],
): Promise<readonly (readonly FineStretch[] | null)[]> {
  const out: (readonly FineStretch[] | null)[] = [];
  for (const file of files) {
    const done = await refineFile(file).catch((): null => null);
    out.push(done?.ok ? done.value : null);
  }
  return out;
}

/** Moves edges of stretches to the sample: beginnings to what begins there, all to where the wave crosses zero. */
async function refineFile({
  path,
  ...input
}: RefineInput): Promise<Result<readonly FineStretch[], SoundFault>> {
  const file = await fileSource(path);
  try {
    const parsed = await readSoundHeader(file.bytes);
    return parsed.ok ? ok(await refined(file.bytes, parsed.value, input)) : err(parsed.error);
  } finally {
    await file.close();
  }
}

/** The same of a file that is open. */
export async function refined(
  bytes: ByteSource,
  header: SoundHeader,
  { kept, beforeSeconds }: Omit<RefineInput, 'path'>,
): Promise<FineStretch[]> {
  const { sampleRateHz, lengthFrames } = header;
  const inside = (frame: number): number => Math.max(0, Math.min(lengthFrames, frame));
  const out: FineStretch[] = [];
  for (const k of kept) {
    let [from, to] = [inside(k.from), inside(k.to)];
    if (from > 0 && k.sound !== null) {
      const begin = await beginning(bytes, header, inside(k.sound));
      if (begin !== null) from = Math.max(from, begin - Math.round(beforeSeconds * sampleRateHz));
    }
    if (from > 0) from = await crossing(bytes, header, from);
    if (to < lengthFrames) to = await crossing(bytes, header, to);
    out.push({ from, to: Math.max(from, to) });
  }
  return out;
}

async function beginning(bytes: ByteSource, header: SoundHeader, at: number): Promise<number | null> {
  const [before, after] = BEGIN_REACH_SECONDS.map((s) => Math.round(s * header.sampleRateHz)) as [
    number,
    number,
  ];
  if (at < before) return null;
  const found = beginningIn(await samplesAt(bytes, header, at - before, at + after), header.sampleRateHz);
  return found === null ? null : at - before + found;
}

async function crossing(bytes: ByteSource, header: SoundHeader, at: number): Promise<number> {
  const reach = Math.round(CROSSING_REACH_SECONDS * header.sampleRateHz);
  const from = Math.max(0, at - reach);
  return (
    from +
    crossingNear(await samplesAt(bytes, header, from, Math.min(header.lengthFrames, at + reach)), at - from)
  );
}

async function samplesAt(
  bytes: ByteSource,
  header: SoundHeader,
  startFrames: number,
  endFrames: number,
): Promise<Float32Array[]> {
  for await (const block of readSoundBlocks(bytes, header, {
    startFrames,
    endFrames,
    blockFrames: endFrames - startFrames,
  }))
    return [...block.channels];
  return Array.from({ length: header.channels }, () => new Float32Array(0));
}
