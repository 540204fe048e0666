import { gatedLoudness, LoudnessMeter, TruePeakMeter } from '../analysis';
import { gainToDb } from '../units';

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
}

/** Gating blocks of 0.4 s begin every 0.1 s: each fourth follows the one before, and ten such are four seconds. */
const [BLOCK_STEPS, FOUR_SECONDS] = [4, 10];
const ACTIVE_GATE_LU = 20;
/** So soft a sound is measured as it would be turned up: the absolute gate at −70 LUFS is meant for what is heard. */
const [SOFT_LUFS, TURNED_UP_DB] = [-50, 24];

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
      peakDbfs: this.peak > 0 ? gainToDb(this.peak) : null,
      truePeakDbtp: this.peak > 0 ? this.truePeak.truePeakDbtp() : null,
      loudnessLufs: softToo(blocks, gatedLoudness),
      loudestLufs: softToo(blocks, loudest),
      activeLufs: softToo(blocks, (z, gainDb) => gatedLoudness(z, gainDb, ACTIVE_GATE_LU)),
    };
  }
}

/** A loudness of blocks; what is soft is measured turned up. */
function softToo(
  blocks: Float64Array,
  of: (blocks: Float64Array, gainDb: number) => number | null,
): number | null {
  const plain = of(blocks, 0);
  if (plain !== null && plain >= SOFT_LUFS) return plain;
  const up = of(blocks, TURNED_UP_DB);
  return up === null ? null : up - TURNED_UP_DB;
}

function loudest(blocks: Float64Array, gainDb: number): number | null {
  let most: number | null = null;
  const runs = Math.max(1, blocks.length - BLOCK_STEPS * (FOUR_SECONDS - 1));
  for (let from = 0; from < runs; from++) {
    const run = Array.from({ length: FOUR_SECONDS }, (_, k) => blocks[from + k * BLOCK_STEPS]);
    // The mean of a run of blocks, none gated: four seconds as they are.
    const found = gatedLoudness([mean(run.filter((z): z is number => z !== undefined))], gainDb);
    if (found !== null && (most === null || found > most)) most = found;
  }
  return most;
}

const mean = (list: readonly number[]): number =>
  list.length === 0 ? 0 : list.reduce((sum, x) => sum + x, 0) / list.length;
