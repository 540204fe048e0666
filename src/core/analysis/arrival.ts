import { gainToDb, growing } from '../units';
import { CEILING_FRAMES, type CeilingFacts, ceilingFacts } from './ceiling';
import { ChannelScan, FULL_SCALE, type FaultSpan, type Run } from './channel-scan';
import { isDropout, longestGap, reach } from './dropouts';
import { abruptEdge, EDGE_SECONDS } from './edges';
import { LoudnessMeter } from './loudness';
import { encodePeaks, PeakPyramid } from './peaks';
import { Recent } from './recent';

/** What the first look at a recording found; levels relative to full scale. */
export interface ArrivalFacts {
  /** Highest sample, dBFS; null for digital silence. */
  readonly peakDbfs: number | null;
  /** The same for each channel. */
  readonly channelPeaksDbfs: readonly (number | null)[];
  /** Root mean square over all channels, dB re full-scale square wave; null for digital silence. */
  readonly rmsDbfs: number | null;
  /** ITU-R BS.1770-4 loudness; null when nothing passes the gate. */
  readonly integratedLufs: number | null;
  /** Largest mean of a channel, as a share of full scale. */
  readonly dcOffset: number;
  /** Runs of three or more samples at full scale; single ones too when there are more than chance gives (clipped noise). */
  readonly clippedRuns: number;
  /** The longest of them, in order of time. */
  readonly clippedPlaces: readonly FaultSpan[];
  /** Tops that were cut off below full scale: clipped first, turned down later; null = none. */
  readonly flatTops: {
    readonly runs: number;
    readonly levelDbfs: number;
    readonly places: readonly FaultSpan[];
  } | null;
  /** First and last moment above −60 dBFS, s; null when there is none. */
  readonly firstSoundSeconds: number | null;
  readonly lastSoundSeconds: number | null;
  /** Stereo whose sides differ by no more than dither does (−70 dB of their sound). */
  readonly dualMono: boolean;
  /** Every sample would fit into 16 bit. */
  readonly fits16: boolean;
  /** Gaps of zeros inside sound. */
  readonly dropouts: number;
  readonly dropoutPlaces: readonly FaultSpan[];
  /** Level at which it begins or ends in the middle of a sound, dBFS; null = as sounds begin and end. */
  readonly abruptStartDbfs: number | null;
  readonly abruptEndDbfs: number | null;
  /** How it stands to its own ceiling; null for silence. */
  readonly ceiling: CeilingFacts | null;
}

/** Facts of recordings that came before these were looked for. */
const LATER_FACTS = {
  channelPeaksDbfs: [],
  clippedPlaces: [],
  flatTops: null,
  fits16: false,
  dropouts: 0,
  dropoutPlaces: [],
  abruptStartDbfs: null,
  abruptEndDbfs: null,
  ceiling: null,
} as const satisfies Partial<ArrivalFacts>;

/** Facts as they were kept, whatever version found them. */
export const completeFacts = (kept: object): ArrivalFacts => ({ ...LATER_FACTS, ...(kept as ArrivalFacts) });

const SAME_ENERGY = 1e-7;
const MOST_PLACES = 24;
/** More gaps a second than this are the sound itself (a gated or pulsed tone). */
const MOST_GAPS_PER_SECOND = 8;
const MOST_WAITING = 4096;
/** Flat tops are a cut where the wave has other parts too; between these shares of the sounding time even if it has few, above them they are the wave itself (a square). */
const LEAST_CREST_DB = 2.5;
const FLAT_SHARE = [0.1, 0.6] as const;
/** As many samples at the very peak do not happen by chance. */
const PILE = 8;
const NEIGHBOUR_SHARE = 0.05;
const isPile = (s: ChannelScan): boolean => s.topCount >= PILE;

/** The arrival pass over planar blocks: facts and waveform in one go, memory independent of length but for the waveform. */
export class ArrivalAnalysis {
  private readonly loudness: LoudnessMeter;
  private readonly pyramid = new PeakPyramid();
  private readonly scans: readonly ChannelScan[];
  private readonly recent: readonly Recent[];
  private readonly heads: Float32Array[];
  private readonly stretchPeaks = growing((n) => new Float32Array(n));
  private readonly stretchRms = growing((n) => new Float32Array(n));
  private stretch = { peak: 0, energy: 0, frames: 0 };
  /** Rows of zeros whose surroundings are not all there yet, by channel. */
  private readonly waiting: Run[][];
  private readonly gaps: Run[] = [];
  private gapCount = 0;
  private frames = 0;
  /** Energy of left less right. */
  private difference = 0;

  constructor(
    private readonly sampleRateHz: number,
    private readonly channels: number,
  ) {
    const each = <T>(make: () => T): T[] => Array.from({ length: channels }, make);
    this.loudness = new LoudnessMeter(sampleRateHz, channels);
    this.scans = each(() => new ChannelScan());
    this.recent = each(() => new Recent(longestGap(sampleRateHz) + 3 * reach(sampleRateHz)));
    this.heads = each(() => new Float32Array(0));
    this.waiting = each(() => []);
  }

  /** Takes the next planar frames; nothing of them is kept. */
  push(block: readonly Float32Array[]): void {
    const frames = block[0]?.length ?? 0;
    const [left, right] = block;
    if (left && right) this.compare(left, right);
    block.forEach((samples, c) => {
      this.recent[c]?.push(samples);
      this.keepHead(samples, c);
    });
    for (let start = 0; start < frames;) {
      const end = Math.min(frames, start + this.pyramid.room(), start + this.loudness.room());
      let [low, high, energy] = [Infinity, -Infinity, 0];
      for (let c = 0; c < block.length; c++) {
        const samples = block[c] as Float32Array;
        const sums = this.loudness.span(c, samples, start, end);
        (this.scans[c] as ChannelScan).span(samples, start, end, this.frames + start, sums);
        if (sums.low < low) low = sums.low;
        if (sums.high > high) high = sums.high;
        energy += sums.energy;
      }
      this.loudness.advance(end - start);
      this.pyramid.take(low, high, end - start);
      this.addStretch(Math.max(high, -low), energy, end - start);
      start = end;
    }
    this.frames += frames;
    this.judgeGaps(false);
    for (const r of this.recent) r.keep();
  }

  private compare(left: Float32Array, right: Float32Array): void {
    let energy = 0;
    for (let i = 0; i < left.length; i++) {
      const d = (left[i] as number) - (right[i] as number);
      energy += d * d;
    }
    this.difference += energy;
  }

  private keepHead(samples: Float32Array, c: number): void {
    const head = this.heads[c] as Float32Array;
    const wanted = Math.ceil(EDGE_SECONDS * this.sampleRateHz) - head.length;
    if (wanted <= 0) return;
    const longer = new Float32Array(head.length + Math.min(wanted, samples.length));
    longer.set(head);
    longer.set(samples.subarray(0, Math.min(wanted, samples.length)), head.length);
    this.heads[c] = longer;
  }

  private addStretch(peak: number, energy: number, frames: number): void {
    const s = this.stretch;
    s.peak = Math.max(s.peak, peak);
    s.energy += energy;
    s.frames += frames;
    if (s.frames < CEILING_FRAMES) return;
    this.stretchPeaks.push(s.peak);
    this.stretchRms.push(Math.sqrt(s.energy / s.frames / this.channels));
    this.stretch = { peak: 0, energy: 0, frames: 0 };
  }

  private judgeGaps(last: boolean): void {
    const wide = reach(this.sampleRateHz);
    this.scans.forEach((scan, c) => {
      const waiting = [...(this.waiting[c] as Run[]), ...scan.takeZeros()];
      this.waiting[c] = waiting
        .filter((run) => !last && run.start + run.frames + wide > this.frames)
        .slice(-MOST_WAITING);
      for (const run of waiting) {
        if (!last && run.start + run.frames + wide > this.frames) continue;
        if (!isDropout(run, this.recent[c] as Recent, this.sampleRateHz)) continue;
        // All channels break off together: that is one gap.
        if (this.gaps.some((g) => Math.abs(g.start - run.start) <= wide)) continue;
        this.gapCount++;
        this.gaps.push(run);
        if (this.gaps.length > MOST_WAITING) this.gaps.shift();
      }
    });
  }

  /** Facts and waveform blob after the last block. */
  finish(): { readonly facts: ArrivalFacts; readonly peaks: Uint8Array } {
    for (const scan of this.scans) scan.finish(this.frames);
    this.judgeGaps(true);
    const count = Math.max(1, this.frames);
    const of = (pick: (s: ChannelScan) => number): number[] => this.scans.map(pick);
    const sum = (pick: (s: ChannelScan) => number): number => of(pick).reduce((a, b) => a + b, 0);
    const peak = Math.max(0, ...of((s) => s.peak));
    const energy = sum((s) => s.energy);
    const found = this.scans.filter((s) => s.first >= 0);
    const at = (frame: number): number | null => (found.length === 0 ? null : frame / this.sampleRateHz);
    const firstFrame = Math.min(...found.map((s) => s.first));
    const lastFrame = Math.max(...found.map((s) => s.last));
    const soundSeconds = found.length === 0 ? 0 : (lastFrame - firstFrame + 1) / this.sampleRateHz;
    const ceiling = ceilingFacts({ peaks: this.stretchPeaks.toArray(), rms: this.stretchRms.toArray() });
    const gaps = this.gapCount <= Math.max(4, MOST_GAPS_PER_SECOND * soundSeconds) ? this.gapCount : 0;
    return {
      facts: {
        peakDbfs: peak > 0 ? gainToDb(peak) : null,
        channelPeaksDbfs: this.scans.map((s) => (s.peak > 0 ? gainToDb(s.peak) : null)),
        rmsDbfs: energy > 0 ? 10 * Math.log10(energy / count / this.channels) : null,
        integratedLufs: this.loudness.integratedLufs(),
        dcOffset: Math.max(...of((s) => Math.abs(s.sum / count))),
        clippedRuns: sum((s) => s.clipped || (s.peak >= FULL_SCALE && isPile(s) ? s.topCount : 0)),
        clippedPlaces: this.places(this.scans.flatMap((s) => s.clips)),
        flatTops: this.flatTops(soundSeconds, ceiling?.crestDb ?? 0),
        firstSoundSeconds: at(firstFrame),
        lastSoundSeconds: at(lastFrame),
        dualMono: this.channels === 2 && peak > 0 && this.difference <= SAME_ENERGY * energy,
        fits16: peak > 0 && this.scans.every((s) => s.fits16),
        dropouts: gaps,
        dropoutPlaces: gaps > 0 ? this.places(this.gaps) : [],
        abruptStartDbfs: this.edge('start', peak),
        abruptEndDbfs: this.edge('end', peak),
        ceiling,
      },
      peaks: encodePeaks(this.pyramid.finish()),
    };
  }

  /** The longest of some runs, in order of time. */
  private places(runs: readonly Run[]): FaultSpan[] {
    return [...runs]
      .sort((a, b) => b.frames - a.frames)
      .slice(0, MOST_PLACES)
      .sort((a, b) => a.start - b.start)
      .map((r) => ({ seconds: r.start / this.sampleRateHz, frames: r.frames }));
  }

  private flatTops(soundSeconds: number, crestDb: number): ArrivalFacts['flatTops'] {
    const sounding = soundSeconds * this.sampleRateHz;
    const cut = this.scans.filter((s) => {
      if (s.clipped > 0 || s.peak >= FULL_SCALE) return false;
      const share = s.flatFrames / sounding;
      const flat =
        s.flatCount >= 2 && (crestDb >= LEAST_CREST_DB || (share >= FLAT_SHARE[0] && share <= FLAT_SHARE[1]));
      // Noise has no tops of several samples: there neighbours at the very peak tell a cut from a limiter, which lets one sample touch.
      return (
        flat || (crestDb >= LEAST_CREST_DB && isPile(s) && s.topNeighbours >= NEIGHBOUR_SHARE * s.topCount)
      );
    });
    const runs = cut.reduce((n, s) => n + Math.max(s.flatCount, s.topCount - s.topNeighbours), 0);
    return cut.length === 0
      ? null
      : {
          runs,
          levelDbfs: gainToDb(Math.max(...cut.map((s) => s.peak))),
          places: this.places(cut.flatMap((s) => s.flats)),
        };
  }

  private edge(kind: 'start' | 'end', peak: number): number | null {
    const levels = this.scans.flatMap((_, c) => {
      const part =
        kind === 'start'
          ? (this.heads[c] as Float32Array)
          : (this.recent[c] as Recent)
              .read(this.frames - Math.ceil(EDGE_SECONDS * this.sampleRateHz), this.frames)
              .reverse();
      const offset = (this.scans[c] as ChannelScan).sum / Math.max(1, this.frames);
      return (
        abruptEdge(
          part.map((x) => x - offset),
          peak,
          this.sampleRateHz,
          kind,
        ) ?? []
      );
    });
    return levels.length === 0 ? null : Math.max(...levels);
  }
}
