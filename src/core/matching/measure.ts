import { gatedLoudness, LoudnessMeter, TruePeakMeter } from '../analysis';
import { gainToDb, roundTo } from '../units';

/** How loud a sound is; null = silent, or nothing of it passes the gates. */
export interface SoundMeasure {
  /** Highest sample, dBFS. */
  readonly peakDbfs: number | null;
  readonly truePeakDbtp: number | null;
  /** Gated loudness of all, LUFS. Source: ITU-R BS.1770-4. */
  readonly loudnessLufs: number | null;
  /** Of the loudest four seconds; of all where there are fewer. */
  readonly loudestLufs: number | null;
  /** Of all that is no more than 20 LU softer than its mean: the gate by which EBU Tech 3342 tells what plays. */
  readonly activeLufs: number | null;
  /** Twentieths of a LU from −100 LUFS on in which its gating blocks lie, each followed by how many, where the absolute gate makes a difference once it is turned up or down; null = it makes none. */
  readonly histogram: number[] | null;
}

/** Gating blocks of 0.4 s begin every 0.1 s: each fourth follows the one before, and ten such are four seconds. */
const [BLOCK_STEPS, FOUR_SECONDS] = [4, 10];
const ACTIVE_GATE_LU = 20;
/** Gains by which it is told whether the absolute gate, which does not move with a gain, makes a difference, dB; and one that counts, LU. */
const [TRIED_DB, COUNTS_LU] = [[-36, -24, -18, -12, -9, -6, -3, 3, 6, 12, 18, 24], 0.02];
/** Bins of a histogram in one LU, so that a gain in tenths moves whole bins over the gate; its lowest, LUFS: below it no gain reaches that. */
const [BINS, LOWEST_LUFS] = [20, -100];

/** Takes a sound block by block and says how loud it is. */
export class SoundMeter {
  private readonly loudness: LoudnessMeter;
  private readonly truePeak: TruePeakMeter;
  private peak = 0;

  constructor(sampleRateHz: number, channels: number) {
    this.loudness = new LoudnessMeter(sampleRateHz, channels);
    this.truePeak = new TruePeakMeter(sampleRateHz, channels);
  }

  /** Takes the next planar frames. */
  push(channels: readonly Float32Array[]): void {
    for (const x of channels) for (const v of x) if (v > this.peak || -v > this.peak) this.peak = Math.abs(v);
    this.loudness.push(channels);
    this.truePeak.push(channels);
  }

  /** Of all that came so far. */
  measure(): SoundMeasure {
    const blocks = this.loudness.gatingBlocks();
    return {
      peakDbfs: this.peak > 0 ? rounded(gainToDb(this.peak)) : null,
      truePeakDbtp: this.peak > 0 ? rounded(this.truePeak.truePeakDbtp()) : null,
      loudnessLufs: rounded(gatedLoudness(blocks)),
      loudestLufs: rounded(loudest(blocks)),
      activeLufs: rounded(gatedLoudness(blocks, 0, ACTIVE_GATE_LU)),
      histogram: isCutByGate(blocks) ? histogramOf(blocks) : null,
    };
  }
}

/** Whether the absolute gate makes a difference that counts once the sound is turned up or down. */
const isCutByGate = (blocks: Float64Array): boolean =>
  [undefined, ACTIVE_GATE_LU].some((gateLu) => {
    const plain = gatedLoudness(blocks, 0, gateLu);
    return TRIED_DB.some((db) => {
      const moved = gatedLoudness(blocks, db, gateLu);
      return moved === null || plain === null ? moved !== plain : Math.abs(moved - db - plain) > COUNTS_LU;
    });
  });

/** As much as is kept of thousands of pieces, dB. */
const rounded = (db: number | null): number | null => (db === null ? null : roundTo(db, 4));

const lufsOf = (z: number): number => -0.691 + 10 * Math.log10(z);
const energyOf = (lufs: number): number => 10 ** ((lufs + 0.691) / 10);

/** Bins in which blocks lie, each followed by how many: of a short sound hardly more than its blocks. */
function histogramOf(blocks: Float64Array): number[] {
  const counts = new Map<number, number>();
  for (const z of blocks) {
    const bin = z > 0 ? Math.floor(BINS * (lufsOf(z) - LOWEST_LUFS)) : -1;
    if (bin >= 0) counts.set(bin, (counts.get(bin) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => a[0] - b[0]).flat();
}

/** Blocks of a histogram, each in the middle of its bin. */
function blocksOf(histogram: readonly number[]): number[] {
  const blocks: number[] = [];
  for (let i = 0; i < histogram.length; i += 2) {
    const energy = energyOf(LOWEST_LUFS + ((histogram[i] as number) + 0.5) / BINS);
    for (let n = 0; n < (histogram[i + 1] as number); n++) blocks.push(energy);
  }
  return blocks;
}

/** A loudness of a sound at a gain, LUFS: as the standard has it, gates and all; null where nothing passes them. */
export function loudnessAt(
  sound: SoundMeasure,
  which: 'loudness' | 'loudest' | 'active',
  gainDb: number,
): number | null {
  const { histogram, loudestLufs, activeLufs, loudnessLufs } = sound;
  if (histogram && which !== 'loudest')
    return gatedLoudness(blocksOf(histogram), gainDb, which === 'active' ? ACTIVE_GATE_LU : undefined);
  const plain = { loudness: loudnessLufs, loudest: loudestLufs, active: activeLufs }[which];
  return plain === null ? null : plain + gainDb;
}

/** Mean of the loudest ten blocks that follow each other, none gated. */
function loudest(blocks: Float64Array): number | null {
  let most = 0;
  const runs = Math.max(1, blocks.length - BLOCK_STEPS * (FOUR_SECONDS - 1));
  for (let from = 0; from < runs; from++) {
    let [sum, count] = [0, 0];
    for (let k = from; k < blocks.length && count < FOUR_SECONDS; k += BLOCK_STEPS, count++)
      sum += blocks[k] as number;
    if (count > 0) most = Math.max(most, sum / count);
  }
  return most > energyOf(LOWEST_LUFS) ? lufsOf(most) : null;
}
