import { percentile } from '../dsp';
import { CHROMA_PER_SECOND, PITCH_CLASSES } from './harmony';
import { type RhythmCurves, type OnsetCurves, ONSETS_PER_SECOND } from './onsets';
import { PITCHES_PER_SECOND, type PitchWidth } from './pitch-width';
import { SKETCH_BANDS, SKETCH_PER_SECOND, sketchHz, sketchTotals, type SoundSketch } from './sketch';

/** Frames this far below the loudest are no sound of the source. */
const ACTIVE_DB = 32;
/** Fewer frames with sound say nothing: a second. */
const LEAST_FRAMES = SKETCH_PER_SECOND;
const MOST_BELOW_DB = 60;
const bandAbove = (hz: number): number =>
  Array.from({ length: SKETCH_BANDS }, (_, b) => sketchHz(b)).findIndex((f) => f > hz);
const [LOW_TO, HIGH_FROM] = [bandAbove(180), bandAbove(4000)];

const stats = (values: Float32Array): number[] => [
  percentile(values, 0.2),
  percentile(values, 0.5),
  percentile(values, 0.8),
];

/**
 * What a recording sounds like in figures that hold whatever its level and length: middle and spread of its spectrum, shares of lows and highs, its shape by
 * band, how much each band moves, attacks (how many, how sharp, how regular, their own spectrum), how it dies away after them, by range, pitch (how much of it is
 * pitched, where, how far it ranges, how steady), how many pitch classes sound at once, and stereo width. Robust statistics over the frames with sound.
 * Null when there is too little of it.
 */
export function soundFeatures(
  onsets: Pick<RhythmCurves, 'low' | 'mid' | 'high' | 'chroma'>,
  sketch: SoundSketch,
  pitch: PitchWidth,
): Float64Array | null {
  const totals = sketchTotals(sketch);
  const loud = percentile(totals, 0.98);
  const active: number[] = [];
  for (let n = 0; n < sketch.frames; n++) if ((totals[n] as number) > loud - ACTIVE_DB) active.push(n);
  if (active.length < LEAST_FRAMES || loud < -100) return null;
  const places = strongAttacks(onsets);
  return Float64Array.from([
    ...spectrumFeatures(sketch, totals, active),
    ...loudFeatures(sketch, totals, active),
    ...motionFeatures(sketch, totals, active),
    ...attackFeatures(onsets, places, totals, loud),
    ...strokeFeatures(sketch, totals, places),
    ...chordFeatures(onsets.chroma, active),
    ...pitchFeatures(
      pitch,
      new Set(active.map((n) => Math.floor((n / SKETCH_PER_SECOND) * PITCHES_PER_SECOND))),
    ),
  ]);
}

function spectrumFeatures(sketch: SoundSketch, totals: Float32Array, active: readonly number[]): number[] {
  const center = new Float32Array(active.length);
  const spread = new Float32Array(active.length);
  const low = new Float32Array(active.length);
  const high = new Float32Array(active.length);
  const peak = new Float32Array(active.length);
  const shape = Array.from({ length: SKETCH_BANDS }, () => new Float32Array(active.length));
  active.forEach((n, i) => {
    let [sum, mean, square, lows, highs, top] = [0, 0, 0, 0, 0, 0];
    for (let b = 0; b < SKETCH_BANDS; b++) {
      const step = sketch.levels[n * SKETCH_BANDS + b] as number;
      const p = step === 0 ? 0 : 10 ** (step / 20);
      sum += p;
      mean += b * p;
      square += b * b * p;
      if (b < LOW_TO) lows += p;
      if (b >= HIGH_FROM) highs += p;
      top = Math.max(top, p);
      (shape[b] as Float32Array)[i] = Math.max(-MOST_BELOW_DB, step / 2 - 120 - (totals[n] as number));
    }
    mean /= sum;
    center[i] = mean;
    spread[i] = Math.sqrt(Math.max(0, square / sum - mean * mean));
    low[i] = lows / sum;
    high[i] = highs / sum;
    peak[i] = top / sum;
  });
  return [
    ...stats(center),
    ...stats(spread),
    ...stats(low),
    ...stats(high),
    ...stats(peak),
    ...shape.map((s) => percentile(s, 0.5) / 10),
  ];
}

/** How much the whole and each band change from frame to frame, and over a second. */
function motionFeatures(sketch: SoundSketch, totals: Float32Array, active: readonly number[]): number[] {
  const pairs = active.filter((n, i) => i > 0 && active[i - 1] === n - 1);
  const step = Float32Array.from(pairs, (n) => (totals[n] as number) - (totals[n - 1] as number));
  const flux = Float32Array.from(pairs, (n) => {
    let sum = 0;
    for (let b = 0; b < SKETCH_BANDS; b++) {
      const [now, was] = [
        sketch.levels[n * SKETCH_BANDS + b] as number,
        sketch.levels[(n - 1) * SKETCH_BANDS + b] as number,
      ];
      // Bands far below the loudest are noise.
      if (Math.max(now, was) / 2 - 120 > (totals[n] as number) - 30) sum += Math.abs(now - was) / 2;
    }
    return sum / SKETCH_BANDS;
  });
  const top = Float32Array.from(active, (n) => {
    let best = 0;
    for (let b = 1; b < SKETCH_BANDS; b++)
      if (
        (sketch.levels[n * SKETCH_BANDS + b] as number) > (sketch.levels[n * SKETCH_BANDS + best] as number)
      )
        best = b;
    return best;
  });
  const moves = top.filter((b, i) => i > 0 && b !== top[i - 1]).length / top.length;
  const level = Float32Array.from(active, (n) => totals[n] as number);
  return [
    ...stats(step),
    percentile(step, 0.95) / 4,
    percentile(step, 0.05) / 4,
    ...stats(flux),
    percentile(flux, 0.95) / 4,
    moves * 4,
    (percentile(top, 0.9) - percentile(top, 0.1)) / 4,
    (percentile(level, 0.95) - percentile(level, 0.3)) / 10,
    (active.length / sketch.frames) * 2,
  ];
}

/** Entries of the curves with the strongest attacks, and the strength of all ranges together. */
interface StrongAttacks {
  readonly at: readonly number[];
  readonly sum: Float32Array;
  readonly strong: number;
}

function strongAttacks({ low, mid, high }: OnsetCurves): StrongAttacks {
  const sum = low.map((v, i) => v + (mid[i] as number) + (high[i] as number));
  const strong = percentile(sum, 0.995);
  const places: number[] = [];
  const reach = Math.round(0.06 * ONSETS_PER_SECOND);
  for (let i = 1; i < sum.length - 1; i++) {
    const v = sum[i] as number;
    if (v < 0.35 * strong || v < (sum[i - 1] as number) || v < (sum[i + 1] as number)) continue;
    const last = places.at(-1);
    if (last !== undefined && i - last < reach) {
      if (v > (sum[last] as number)) places[places.length - 1] = i;
    } else places.push(i);
  }
  return { at: places, sum, strong };
}

const levelAt = (sketch: SoundSketch, frame: number, band: number): number =>
  (sketch.levels[Math.min(sketch.frames - 1, frame) * SKETCH_BANDS + band] as number) / 2 - 120;

/** Shape by band of the loudest fifth of the frames: what rings on between notes, or bleeds in, is not in it. */
function loudFeatures(sketch: SoundSketch, totals: Float32Array, active: readonly number[]): number[] {
  const from = percentile(
    Float32Array.from(active, (n) => totals[n] as number),
    0.8,
  );
  const loud = active.filter((n) => (totals[n] as number) >= from);
  return Array.from(
    { length: SKETCH_BANDS },
    (_, b) =>
      percentile(
        Float32Array.from(loud, (n) =>
          Math.max(-MOST_BELOW_DB, levelAt(sketch, n, b) - (totals[n] as number)),
        ),
        0.5,
      ) / 10,
  );
}

/** Ranges whose fall after an attack is taken by itself, Hz. */
const RANGE_EDGES_HZ = [0, 110, 250, 600, 1500, 4000, Infinity];
const RANGES = RANGE_EDGES_HZ.slice(1).map((top, i) =>
  Array.from({ length: SKETCH_BANDS }, (_, b) => b).filter(
    (b) => sketchHz(b) >= (RANGE_EDGES_HZ[i] as number) && sketchHz(b) < top,
  ),
);
/** Frames after an attack at which it is looked how much is left: 0.1, 0.24 and 0.5 s. */
const LATER_FRAMES = [5, 12, 25];

/** Strokes: the spectrum of the attack itself, and how each range has fallen a little later. */
function strokeFeatures(sketch: SoundSketch, totals: Float32Array, { at }: StrongAttacks): number[] {
  const frames = at.map((i) => Math.round((i / ONSETS_PER_SECOND) * SKETCH_PER_SECOND));
  const mean = (of: (frame: number) => number): number =>
    frames.length === 0 ? 0 : frames.reduce((s, n) => s + of(n), 0) / frames.length;
  const loudest = (frame: number, b: number): number =>
    Math.max(levelAt(sketch, frame, b), levelAt(sketch, frame + 1, b), levelAt(sketch, frame + 2, b));
  const total = (frame: number): number =>
    Math.max(...[0, 1, 2].map((k) => totals[Math.min(totals.length - 1, frame + k)] as number));
  const power = (frame: number, bands: readonly number[]): number =>
    10 * Math.log10(bands.reduce((s, b) => s + 10 ** (levelAt(sketch, frame, b) / 10), 1e-12));
  const struck = (frame: number, bands: readonly number[]): number =>
    Math.max(power(frame, bands), power(frame + 1, bands), power(frame + 2, bands));
  return [
    ...Array.from(
      { length: SKETCH_BANDS },
      (_, b) => mean((n) => Math.max(-MOST_BELOW_DB, loudest(n, b) - total(n))) / 10,
    ),
    ...RANGES.flatMap((bands) =>
      LATER_FRAMES.map(
        (later) => mean((n) => Math.max(-40, Math.min(10, power(n + later, bands) - struck(n, bands)))) / 10,
      ),
    ),
  ];
}

/** How many pitch classes sound at once: one for a line, three or four for chords, all of them for noise. */
function chordFeatures(chroma: Float32Array, active: readonly number[]): number[] {
  const entries = [
    ...new Set(active.map((n) => Math.round((n / SKETCH_PER_SECOND) * CHROMA_PER_SECOND))),
  ].filter((e) => (e + 1) * PITCH_CLASSES <= chroma.length);
  if (entries.length === 0) return [0, 0, 0];
  const counts = Float32Array.from(entries, (e) => {
    const of = chroma.subarray(e * PITCH_CLASSES, (e + 1) * PITCH_CLASSES);
    const top = of.reduce((m, v) => Math.max(m, v), 1e-9);
    return of.reduce((s, v) => s + v / top, 0);
  });
  return stats(counts);
}

/** Attacks: how often, how sharp against what lies between, in which range, how even; and the fall after each. */
function attackFeatures(
  { low, high }: OnsetCurves,
  { at: places, sum, strong }: StrongAttacks,
  totals: Float32Array,
  loud: number,
): number[] {
  const seconds = sum.length / ONSETS_PER_SECOND;
  const at = (list: Float32Array): Float32Array => Float32Array.from(places, (i) => list[i] as number);
  const fall = (from: number, to: number): Float32Array =>
    Float32Array.from(places, (i) => {
      const frame = Math.round((i / ONSETS_PER_SECOND) * SKETCH_PER_SECOND);
      const [a, b] = [
        totals[Math.min(totals.length - 1, frame + from)] as number,
        totals[Math.min(totals.length - 1, frame + to)] as number,
      ];
      return Math.max(-MOST_BELOW_DB, Math.min(20, Math.max(b, loud - MOST_BELOW_DB) - a)) / 10;
    });
  const gaps = Float32Array.from(places.slice(1), (p, i) => (p - (places[i] as number)) / ONSETS_PER_SECOND);
  const even =
    gaps.length < 3
      ? 1
      : (percentile(gaps, 0.75) - percentile(gaps, 0.25)) / Math.max(0.05, percentile(gaps, 0.5));
  const share = (list: Float32Array): number => {
    const v = at(list);
    return (
      v.reduce((s, x) => s + x, 0) /
      Math.max(
        1e-9,
        at(sum).reduce((s, x) => s + x, 0),
      )
    );
  };
  return [
    Math.min(8, places.length / seconds) / 2,
    Math.log10(strong + 1e-3),
    Math.log10((percentile(sum, 0.5) + 1e-3) / (strong + 1e-3)),
    Math.log10((percentile(sum, 0.9) + 1e-3) / (strong + 1e-3)),
    share(low),
    share(high),
    Math.min(3, even),
    ...stats(fall(1, 4)),
    ...stats(fall(1, 9)),
    ...stats(fall(2, 16)),
  ];
}

/** Fewer tenths of a second with a pitch say nothing of how it moves. */
const LEAST_PITCHED = 5;
const semitones = (hz: number): number => 12 * Math.log2(hz / 55);
/** Closer than this one note is held. */
const HELD_SEMITONES = 0.2;
/** Closer than this it is held by no hand and no breath. */
const FIXED_SEMITONES = 0.03;

const PITCH_FEATURES = 11;

/** How clear pitches are, where they lie, how far they range, how steady one is after the other; and how wide the sound is. */
function pitchFeatures({ pitchHz, clarity, side }: PitchWidth, active: ReadonlySet<number>): number[] {
  const at = [...active].filter((n) => n < pitchHz.length).sort((a, b) => a - b);
  if (at.length === 0) return new Array<number>(PITCH_FEATURES).fill(0);
  const of = (list: Float32Array): Float32Array => Float32Array.from(at, (n) => list[n] as number);
  const pitched = at.filter((n) => (pitchHz[n] as number) > 0);
  const notes = Float32Array.from(pitched, (n) => semitones(pitchHz[n] as number));
  const steps = Float32Array.from(
    pitched.flatMap((n, i) =>
      i > 0 && pitched[i - 1] === n - 1
        ? [Math.min(24, Math.abs((notes[i] as number) - (notes[i - 1] as number)))]
        : [],
    ),
  );
  const isEnough = notes.length >= LEAST_PITCHED;
  const steady = steps.length === 0 ? 0 : steps.filter((d) => d < HELD_SEMITONES).length / steps.length;
  return [
    (2 * pitched.length) / at.length,
    percentile(of(clarity), 0.2) * 2,
    percentile(of(clarity), 0.5) * 2,
    percentile(of(clarity), 0.8) * 2,
    isEnough ? percentile(notes, 0.5) / 12 : 0,
    isEnough ? (percentile(notes, 0.9) - percentile(notes, 0.1)) / 12 : 0,
    steady * 2,
    steps.length === 0 ? 0 : (2 * steps.filter((d) => d < FIXED_SEMITONES).length) / steps.length,
    isEnough && steps.length > 0 ? percentile(steps, 0.75) / 4 : 0,
    percentile(of(side), 0.5) * 4,
    percentile(of(side), 0.9) * 4,
  ];
}
