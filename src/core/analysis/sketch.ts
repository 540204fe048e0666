import { growing } from '../units';

/** Bands of a sketch, evenly spaced in octaves from 40 Hz to 12 kHz. */
export const SKETCH_BANDS = 24;
/** Frames of a sketch a second; frame n covers n / 50 s to (n + 1) / 50 s. */
export const SKETCH_PER_SECOND = 50;
const LOW_EDGE_HZ = 40;
const TOP_EDGE_HZ = 12_000;
const FLOOR_DB = -120;
const STEPS_PER_DB = 2;

/** A recording in rough strokes: levels of its mono sum by band, half a dB a step from −120 dB of a full-scale sine; frame by frame, low band first. */
export interface SoundSketch {
  readonly frames: number;
  readonly levels: Uint8Array;
}

/** Middle of a band, Hz. */
export const sketchHz = (band: number): number =>
  LOW_EDGE_HZ * (TOP_EDGE_HZ / LOW_EDGE_HZ) ** ((band + 0.5) / SKETCH_BANDS);

/** Level of a band in a frame, dB of a full-scale sine; −120 = that or less, or past the end. */
export const sketchDb = (sketch: SoundSketch, frame: number, band: number): number =>
  FLOOR_DB + (sketch.levels[frame * SKETCH_BANDS + band] ?? 0) / STEPS_PER_DB;

/** Levels of all bands together, dB, one a frame. */
export function sketchTotals(sketch: SoundSketch): Float32Array {
  const out = new Float32Array(sketch.frames);
  for (let n = 0; n < sketch.frames; n++) {
    let power = 0;
    for (let b = 0; b < SKETCH_BANDS; b++)
      power += POWERS[sketch.levels[n * SKETCH_BANDS + b] as number] as number;
    out[n] = 10 * Math.log10(Math.max(power, 1e-12));
  }
  return out;
}

/** Power of each step, of a full-scale sine. */
const POWERS = Float64Array.from({ length: 256 }, (_, step) =>
  step === 0 ? 0 : 10 ** ((FLOOR_DB + step / STEPS_PER_DB) / 10),
);

/** Power of a band in a frame, of a full-scale sine. */
export const sketchPower = (sketch: SoundSketch, frame: number, band: number): number =>
  POWERS[sketch.levels[frame * SKETCH_BANDS + band] ?? 0] as number;

/** Level of a band below which the share `p` of the frames lies, dB; −120 for none. */
export function sketchPercentile({ frames, levels }: SoundSketch, band: number, p: number): number {
  const counts = new Uint32Array(256);
  for (let k = band; k < levels.length; k += SKETCH_BANDS)
    counts[levels[k] as number] = (counts[levels[k] as number] as number) + 1;
  let left = p * frames;
  let step = 0;
  while (step < 255 && (left -= counts[step] as number) > 0) step++;
  return FLOOR_DB + step / STEPS_PER_DB;
}

/** A sketch of powers given frame by frame, of a full-scale sine. */
export const sketchOf = (powers: Float64Array): SoundSketch => ({
  frames: powers.length / SKETCH_BANDS,
  levels: Uint8Array.from(powers, stepOf),
});

const stepOf = (power: number): number =>
  Math.max(0, Math.min(255, Math.round((10 * Math.log10(power + 1e-30) - FLOOR_DB) * STEPS_PER_DB)));

/** Gathers spectra into a sketch. */
export class SketchBuilder {
  private readonly sums = new Float64Array(SKETCH_BANDS);
  private count = 0;
  private readonly levels = growing((n) => new Uint8Array(n));

  /** `perFrame`: spectra a frame; `fullScale`: energy that a full-scale sine gives. */
  constructor(
    private readonly perFrame: number,
    private readonly fullScale: number,
  ) {}

  /** Takes the energies of the next spectrum, one a band. */
  push(energies: Float64Array): void {
    for (let b = 0; b < SKETCH_BANDS; b++) this.sums[b] = (this.sums[b] as number) + (energies[b] as number);
    if (++this.count === this.perFrame) this.flush();
  }

  private flush(): void {
    for (const sum of this.sums) this.levels.push(stepOf(sum / this.count / this.fullScale));
    this.sums.fill(0);
    this.count = 0;
  }

  /** The sketch after the last spectrum. */
  finish(): SoundSketch {
    if (this.count > 0) this.flush();
    const levels = this.levels.toArray();
    return { frames: levels.length / SKETCH_BANDS, levels };
  }
}

/** A sketch as a blob: u32 frames, then the levels. */
export function encodeSketch({ frames, levels }: SoundSketch): Uint8Array {
  const bytes = new Uint8Array(4 + levels.length);
  new DataView(bytes.buffer).setUint32(0, frames, true);
  bytes.set(levels, 4);
  return bytes;
}

/** A sketch from a blob; throws RangeError when it is not one. */
export function readSketch(bytes: Uint8Array): SoundSketch {
  const frames =
    bytes.length >= 4
      ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(0, true)
      : -1;
  if (bytes.length !== 4 + frames * SKETCH_BANDS) throw new RangeError('not a sketch');
  return { frames, levels: bytes.slice(4) };
}
