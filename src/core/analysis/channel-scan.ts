import type { SpanSums } from './loudness';

/** A stretch of a recording. */
export interface FaultSpan {
  readonly seconds: number;
  /** How long, frames. */
  readonly frames: number;
}

/** Frames of one channel: where and how many. */
export interface Run {
  readonly start: number;
  readonly frames: number;
}

/** −60 dBFS. */
const SOUND = 0.001;
/** 16 bit converters clip one step short of 1. */
export const FULL_SCALE = 32766 / 32768;
const CLIP_RUN = 3;
/** Equal samples in a row at the highest level: a top that was cut off and then turned down. */
const FLAT_RUN = 4;
const FLAT_SLACK = 0.9995;
/** Samples at the very peak, to the last step of 20 bit. */
const TOP_SLACK = 1 - 2 ** -20;
/** Next to a cut top the wave stands clearly lower; next to the rounded top of a low note it hardly does. */
const EDGE = 1 - 0.0006;
/** A wave that jumps to its peak like this is noise or a cut, no low note. */
const JUMP = 0.9;
/** Shortest row of zeros that is looked at; a third of a millisecond at 48 kHz. */
export const ZERO_RUN = 16;
const MOST_RUNS = 4096;

/** One channel's levels and oddities, over spans of at most 256 frames given in order. Nothing here grows with the length but rare places, and those only to a limit. */
export class ChannelScan {
  sum = 0;
  energy = 0;
  peak = 0;
  /** First and last frame above −60 dBFS; −1 = none. */
  first = -1;
  last = -1;
  /** Every sample so far is a multiple of 2⁻¹⁵. */
  fits16 = true;
  clipped = 0;
  clippedFrames = 0;
  readonly clips: Run[] = [];
  flatFrames = 0;
  flats: Run[] = [];
  flatCount = 0;

  /** Samples at the very peak that jump there, and those of them next to another. */
  topCount = 0;
  topNeighbours = 0;
  private topLevel = 0.01;
  private lastTop = -9;
  private clipRun = 0;
  private zeros: Run[] = [];
  private zeroRun = 0;
  private flatRun = 0;
  private flatValue = 0;
  private flatBefore = 0;
  /** Last sample of the span before. */
  private before = 0;
  private flatLevel = 0.1;

  /** Takes `samples[start, end)` with what they hold; `at` is the place of the first of them in the recording. */
  span(
    samples: Float32Array,
    start: number,
    end: number,
    at: number,
    { sum, energy, low, high }: SpanSums,
  ): void {
    this.sum += sum;
    this.energy += energy;
    const top = high > -low ? high : -low;
    if (top > this.peak) this.peak = top;
    if (top >= SOUND) this.findSound(samples, start, end, at);
    if (top >= FULL_SCALE || this.clipRun > 0) this.findClips(samples, start, end, at);
    if (top >= this.topLevel * TOP_SLACK) this.countTops(samples, start, end, at, top);
    if (top >= this.flatLevel * FLAT_SLACK || this.flatRun > 0) this.findFlats(samples, start, end, at, top);
    if (this.zeroRun > 0 || hasZero(samples, start, end)) this.findZeros(samples, start, end, at);
    if (this.fits16) this.fits16 = isCoarse(samples, start, end);
    this.before = samples[end - 1] as number;
  }

  /** Rows of zeros closed since the last call. */
  takeZeros(): readonly Run[] {
    const { zeros } = this;
    this.zeros = [];
    return zeros;
  }

  /** Closes what runs on to the end; `at` is the length of the recording. */
  finish(at: number): void {
    this.closeClip(at);
    this.closeFlat(at, 0);
    this.zeroRun = 0;
  }

  private findSound(samples: Float32Array, start: number, end: number, at: number): void {
    if (this.first < 0) {
      let i = start;
      while (Math.abs(samples[i] as number) < SOUND) i++;
      this.first = at + i - start;
    }
    let i = end - 1;
    while (Math.abs(samples[i] as number) < SOUND) i--;
    this.last = at + i - start;
  }

  private findClips(samples: Float32Array, start: number, end: number, at: number): void {
    for (let i = start; i < end; i++) {
      if (Math.abs(samples[i] as number) >= FULL_SCALE) this.clipRun++;
      else this.closeClip(at + i - start);
    }
  }

  private closeClip(at: number): void {
    if (this.clipRun >= CLIP_RUN) {
      this.clipped++;
      this.clippedFrames += this.clipRun;
      if (this.clips.length < MOST_RUNS) this.clips.push({ start: at - this.clipRun, frames: this.clipRun });
    }
    this.clipRun = 0;
  }

  private countTops(samples: Float32Array, start: number, end: number, at: number, top: number): void {
    if (top * TOP_SLACK > this.topLevel) {
      this.topLevel = top;
      this.topCount = 0;
      this.topNeighbours = 0;
    }
    const limit = this.topLevel * TOP_SLACK;
    for (let i = start; i < end; i++) {
      if (Math.abs(samples[i] as number) < limit) continue;
      const next = this.lastTop === at + i - start - 1;
      if (!next && Math.abs(i > start ? (samples[i - 1] as number) : this.before) > JUMP * limit) continue;
      this.topCount++;
      if (next) this.topNeighbours++;
      this.lastTop = at + i - start;
    }
  }

  private findFlats(samples: Float32Array, start: number, end: number, at: number, top: number): void {
    if (top * FLAT_SLACK > this.flatLevel) {
      // What was flat below the new height was no limit.
      this.flatLevel = top;
      this.flats = [];
      this.flatCount = 0;
      this.flatFrames = 0;
    }
    const limit = this.flatLevel * FLAT_SLACK;
    for (let i = start; i < end; i++) {
      const x = samples[i] as number;
      if (this.flatRun > 0 && x === this.flatValue) this.flatRun++;
      else {
        this.closeFlat(at + i - start, x);
        if (x >= limit || -x >= limit) {
          this.flatRun = 1;
          this.flatValue = x;
          this.flatBefore = i > start ? (samples[i - 1] as number) : this.before;
        }
      }
    }
  }

  /** `next`: the sample behind the run. */
  private closeFlat(at: number, next: number): void {
    const edge = EDGE * Math.abs(this.flatValue);
    if (this.flatRun >= FLAT_RUN && Math.abs(this.flatBefore) < edge && Math.abs(next) < edge) {
      this.flatCount++;
      this.flatFrames += this.flatRun;
      if (this.flats.length < MOST_RUNS) this.flats.push({ start: at - this.flatRun, frames: this.flatRun });
    }
    this.flatRun = 0;
  }

  private findZeros(samples: Float32Array, start: number, end: number, at: number): void {
    for (let i = start; i < end; i++) {
      if (samples[i] === 0) this.zeroRun++;
      else {
        if (this.zeroRun >= ZERO_RUN) {
          if (this.zeros.length < MOST_RUNS)
            this.zeros.push({ start: at + i - start - this.zeroRun, frames: this.zeroRun });
        }
        this.zeroRun = 0;
      }
    }
  }
}

/** Whether a row of zeros worth a look can lie here: one sample in eight is enough to see it. */
function hasZero(samples: Float32Array, start: number, end: number): boolean {
  for (let i = start; i < end; i += ZERO_RUN / 2) if (samples[i] === 0) return true;
  return samples[end - 1] === 0;
}

function isCoarse(samples: Float32Array, start: number, end: number): boolean {
  for (let i = start; i < end; i++) {
    const steps = (samples[i] as number) * 32768;
    if (steps !== Math.round(steps)) return false;
  }
  return true;
}
