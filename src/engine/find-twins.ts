import { readFile } from 'node:fs/promises';
import { BestFit, type PeakLevel, PeakPyramid, readPeakLevel } from '@/core/analysis';
import { readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import { pearson } from '@/core/dsp';
import type { Twin } from '@/core/findings';
import { type ByteSource, type ProgressSink, roundTo } from '@/core/units';
import { fileSource } from './files';

/** A recording that may be the same take as another. */
export interface TwinCandidate {
  readonly id: string;
  readonly path: string;
  /** Its waveform blob; null = to be worked out from the samples. */
  readonly peaksPath: string | null;
}

const ENVELOPE_FRAMES = 4096;
/** Takes of one instrument at one place reach 0.9; one take at two levels 1. */
const LIKELY = 0.985;
const LENGTHS_WITHIN = 0.1;
const EXCERPT_FRAMES = 65_536;
/** What the loudest stretch must promise before all is read. */
const PROMISE_DB = -30;
const TWIN_DB = -60;

interface Known {
  readonly candidate: TwinCandidate;
  readonly header: SoundHeader;
  readonly envelope: Float32Array;
}

/** Pairs of files that hold one take, at whatever level and polarity: what is left after the best fit is at most −60 dB. Files of other rates or channels are not compared. Of many that hold the same each is named once, against the first of them. `skip` names pairs already found. */
export async function findTwins(
  candidates: readonly TwinCandidate[],
  skip: ReadonlySet<string>,
  progress?: ProgressSink,
): Promise<Twin[]> {
  const known: Known[] = [];
  // One file is open at a time, and two while they are compared: there may be thousands.
  for (const candidate of candidates) {
    const file = await fileSource(candidate.path);
    try {
      const header = await readSoundHeader(file.bytes);
      if (!header.ok) continue;
      const { minMax } = await peakLevel(candidate, file.bytes, header.value);
      known.push({
        candidate,
        header: header.value,
        envelope: Float32Array.from({ length: minMax.length / 2 }, (_, i) =>
          Math.max(-(minMax[2 * i] as number), minMax[2 * i + 1] as number),
        ),
      });
    } finally {
      await file.close();
    }
  }
  const twins: Twin[] = [];
  // A thousand copies of one take are a thousand comparisons, not half a million.
  const placed = new Set<string>();
  for (const [i, a] of known.entries()) {
    if (placed.has(a.candidate.id)) continue;
    for (const b of known.slice(i + 1)) {
      const { id } = b.candidate;
      if (placed.has(id)) continue;
      const isFound = skip.has(pairName(a.candidate.id, id));
      const twin = isFound || !isLikely(a, b) ? null : await compare(a, b);
      if (twin) twins.push(twin);
      if (twin || isFound) placed.add(id);
    }
    progress?.((i + 1) / known.length);
  }
  return twins;
}

async function peakLevel(
  { peaksPath }: TwinCandidate,
  bytes: ByteSource,
  header: SoundHeader,
): Promise<PeakLevel> {
  if (peaksPath !== null) return readPeakLevel(await readFile(peaksPath), ENVELOPE_FRAMES);
  const pyramid = new PeakPyramid();
  for await (const block of readSoundBlocks(bytes, header, { reuse: true })) pyramid.push(block.channels);
  return pyramid.finish().find((l) => l.framesPerEntry === ENVELOPE_FRAMES) as PeakLevel;
}

/** One name for both orders. */
export const pairName = (a: string, b: string): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

const isLikely = (a: Known, b: Known): boolean =>
  a.header.sampleRateHz === b.header.sampleRateHz &&
  a.header.channels === b.header.channels &&
  Math.abs(a.header.lengthFrames - b.header.lengthFrames) <= LENGTHS_WITHIN * a.header.lengthFrames &&
  pearson(a.envelope, b.envelope) >= LIKELY;

async function compare(a: Known, b: Known): Promise<Twin | null> {
  const loudest = a.envelope.indexOf(a.envelope.reduce((m, v) => Math.max(m, v), 0)) * ENVELOPE_FRAMES;
  const start = Math.max(0, loudest - EXCERPT_FRAMES / 2);
  const first = await fit(a, b, start, start + EXCERPT_FRAMES);
  if (first === null || first.residualDb > PROMISE_DB) return null;
  const whole = await fit(a, b, 0, Math.min(a.header.lengthFrames, b.header.lengthFrames));
  if (whole === null || whole.residualDb > TWIN_DB) return null;
  const exact = Number.isFinite(whole.residualDb);
  return {
    a: a.candidate.id,
    b: b.candidate.id,
    gainDb: roundTo(20 * Math.log10(Math.abs(whole.gain)), 3) + 0,
    polarity: whole.gain < 0 ? -1 : 1,
    residualDb: exact ? roundTo(whole.residualDb, 2) : null,
  };
}

async function fit(
  a: Known,
  b: Known,
  from: number,
  to: number,
): Promise<{ readonly gain: number; readonly residualDb: number } | null> {
  const [first, second] = [await fileSource(a.candidate.path), await fileSource(b.candidate.path)];
  try {
    const sum = new BestFit();
    const others = readSoundBlocks(second.bytes, b.header, { startFrames: from, endFrames: to });
    for await (const block of readSoundBlocks(first.bytes, a.header, { startFrames: from, endFrames: to })) {
      const other = await others.next();
      if (other.done) break;
      block.channels.forEach((c, i) => sum.push(c, other.value.channels[i] as Float32Array));
    }
    return sum.result();
  } finally {
    await first.close();
    await second.close();
  }
}
