import { gainToDb } from '../units';
import { LoudnessMeter } from './loudness';
import { encodePeaks, PeakPyramid } from './peaks';

/** What the first look at a recording found; levels relative to full scale. */
export interface ArrivalFacts {
  /** Highest sample, dBFS; null for digital silence. */
  readonly peakDbfs: number | null;
  /** Root mean square over all channels, dB re full-scale square wave; null for digital silence. */
  readonly rmsDbfs: number | null;
  /** ITU-R BS.1770-4 loudness; null when nothing passes the gate. */
  readonly integratedLufs: number | null;
  /** Largest mean of a channel, as a share of full scale. */
  readonly dcOffset: number;
  /** Runs of three or more samples at full scale. */
  readonly clippedRuns: number;
  /** First and last moment above −60 dBFS, s; null when there is none. */
  readonly firstSoundSeconds: number | null;
  readonly lastSoundSeconds: number | null;
  /** Stereo with equal samples left and right. */
  readonly dualMono: boolean;
}

const SOUND_THRESHOLD = 0.001; // −60 dBFS
const FULL_SCALE = 32766 / 32768; // 16 bit converters clip one step short of 1
const CLIP_RUN = 3;

/** The arrival pass over planar blocks: facts and waveform in one go, memory independent of length but for the waveform. */
export class ArrivalAnalysis {
  private readonly loudness: LoudnessMeter;
  private readonly pyramid = new PeakPyramid();
  private readonly sums: number[];
  private readonly runs: number[];
  private energy = 0;
  private peak = 0;
  private frames = 0;
  private clippedRuns = 0;
  private first = -1;
  private last = -1;
  private equal = true;

  constructor(
    private readonly sampleRateHz: number,
    private readonly channels: number,
  ) {
    this.loudness = new LoudnessMeter(sampleRateHz, channels);
    this.sums = new Array<number>(channels).fill(0);
    this.runs = new Array<number>(channels).fill(0);
  }

  /** Takes the next planar frames. */
  push(block: readonly Float32Array[]): void {
    const frames = block[0]?.length ?? 0;
    block.forEach((samples, c) => this.scan(samples, c));
    const [left, right] = block;
    if (this.equal && left && right) for (let i = 0; i < frames; i++) if (left[i] !== right[i]) { this.equal = false; break; }
    this.loudness.push(block);
    this.pyramid.push(block);
    this.frames += frames;
  }

  private scan(samples: Float32Array, c: number): void {
    let sum = 0;
    let energy = 0;
    let peak = this.peak;
    let run = this.runs[c] as number;
    let first = -1;
    let last = -1;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      const a = x < 0 ? -x : x;
      sum += x;
      energy += x * x;
      if (a > peak) peak = a;
      if (a >= SOUND_THRESHOLD) {
        if (first < 0) first = i;
        last = i;
        if (a >= FULL_SCALE) {
          if (++run === CLIP_RUN) this.clippedRuns++;
        } else run = 0;
      } else run = 0;
    }
    this.sums[c] = (this.sums[c] as number) + sum;
    this.energy += energy;
    this.peak = peak;
    this.runs[c] = run;
    if (first >= 0) {
      const at = this.frames + first;
      if (this.first < 0 || at < this.first) this.first = at;
      this.last = Math.max(this.last, this.frames + last);
    }
  }

  /** Facts and waveform blob after the last block. */
  finish(): { readonly facts: ArrivalFacts; readonly peaks: Uint8Array } {
    const count = Math.max(1, this.frames);
    const at = (frame: number): number | null => (frame < 0 ? null : frame / this.sampleRateHz);
    return {
      facts: {
        peakDbfs: this.peak > 0 ? gainToDb(this.peak) : null,
        rmsDbfs: this.energy > 0 ? 10 * Math.log10(this.energy / count / this.channels) : null,
        integratedLufs: this.loudness.integratedLufs(),
        dcOffset: Math.max(...this.sums.map((s) => Math.abs(s / count))),
        clippedRuns: this.clippedRuns,
        firstSoundSeconds: at(this.first),
        lastSoundSeconds: at(this.last),
        dualMono: this.channels === 2 && this.equal && this.peak > 0,
      },
      peaks: encodePeaks(this.pyramid.finish()),
    };
  }
}
