import { PITCH_CLASSES, SKETCH_BANDS } from '../analysis';
import { type BarFeatures, type PitchBars, RHYTHM_RANGES, RHYTHM_SLOTS } from './bar-features';
import { percentile } from '../dsp';

/** How alike any two bars are, 0–1 or −1–1; row after row. */
export type BarLikeness = Float32Array;

/** In what two bars are compared. */
export const LIKENESS_KINDS = ['activity', 'timbre', 'rhythm', 'harmony', 'bass', 'melody'] as const;
export type LikenessKind = (typeof LIKENESS_KINDS)[number];
export type Likenesses = Readonly<Record<LikenessKind, BarLikeness>>;

/** Spread of activity at which two bars are unlike (own, flat between .02 and .05). */
const ACTIVITY_SPREAD = 0.03;
/** A bar in which only one of two sings is like none; where none does it is half. */
const [ONE_SINGS, NONE_SINGS, SINGS] = [0, 0.5, 0.3];

/** All bars against each other. Memory: six times the square of the bars, four bytes each. */
export function barLikenesses(bars: BarFeatures): Likenesses {
  const { count } = bars;
  const weighted = (of: 'activity' | 'timbre' | 'rhythm', size: number): Float32Array => {
    const total = bars.tracks.reduce((sum, t) => sum + t.weight, 0) || 1;
    const width = size * bars.tracks.length;
    const out = new Float32Array(count * width);
    bars.tracks.forEach((t, k) => {
      const scale = Math.sqrt(t.weight / total / size);
      for (let i = 0; i < count; i++)
        for (let d = 0; d < size; d++)
          out[i * width + k * size + d] = scale * (t[of][i * size + d] as number);
    });
    return out;
  };
  const activity = distances(weighted('activity', 1), count);
  const timbre = distances(weighted('timbre', SKETCH_BANDS), count);
  const usual = Math.max(0.004, percentile(timbre, 0.5));
  return {
    activity: activity.map((d) => Math.exp(-d / ACTIVITY_SPREAD)),
    timbre: timbre.map((d) => Math.exp(-d / usual)),
    rhythm: cosines(meanOff(weighted('rhythm', RHYTHM_SLOTS * RHYTHM_RANGES), count), count),
    harmony: pitchCosines(bars.harmony, count),
    bass: pitchCosines(bars.bass, count),
    melody: sungLikeness(bars),
  };
}

function sungLikeness({ melody, voice, count }: BarFeatures): BarLikeness {
  const out = pitchCosines(melody, count);
  for (let i = 0; i < count; i++)
    for (let j = 0; j < count; j++) {
      const singing = Number((voice[i] as number) > SINGS) + Number((voice[j] as number) > SINGS);
      if (singing < 2) out[i * count + j] = singing === 1 ? ONE_SINGS : NONE_SINGS;
    }
  return out;
}

const pitchCosines = ({ values, slots }: PitchBars, count: number): BarLikeness =>
  values.length === 0 ? new Float32Array(count * count) : cosines(values, count, slots * PITCH_CLASSES);

function meanOff(values: Float32Array, count: number): Float32Array {
  const width = count === 0 ? 0 : values.length / count;
  const middle = new Float64Array(width);
  for (let k = 0; k < values.length; k++)
    middle[k % width] = (middle[k % width] as number) + (values[k] as number) / count;
  return values.map((x, k) => x - 0.7 * (middle[k % width] as number));
}

/** Squared distances of rows. */
function distances(values: Float32Array, count: number): Float32Array {
  const width = count === 0 ? 0 : values.length / count;
  const out = new Float32Array(count * count);
  for (let i = 0; i < count; i++)
    for (let j = 0; j < i; j++) {
      let sum = 0;
      for (let k = 0; k < width; k++) {
        const d = (values[i * width + k] as number) - (values[j * width + k] as number);
        sum += d * d;
      }
      out[i * count + j] = out[j * count + i] = sum;
    }
  return out;
}

/** Cosines of rows. */
function cosines(
  values: Float32Array,
  count: number,
  width = count === 0 ? 0 : values.length / count,
): Float32Array {
  const out = new Float32Array(count * count);
  const lengths = Float64Array.from({ length: count }, (_, i) => {
    let sum = 0;
    for (let k = 0; k < width; k++) sum += (values[i * width + k] as number) ** 2;
    return Math.sqrt(sum);
  });
  for (let i = 0; i < count; i++)
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = 0; k < width; k++)
        sum += (values[i * width + k] as number) * (values[j * width + k] as number);
      const norm = (lengths[i] as number) * (lengths[j] as number);
      out[i * count + j] = out[j * count + i] = norm > 1e-9 ? sum / norm : 0;
    }
  return out;
}
