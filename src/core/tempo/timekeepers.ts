import { ONSETS_PER_SECOND } from '../analysis';
import { percentile } from '../dsp';
import type { Family } from '../naming';
import type { TempoTrack, TimekeeperChoice } from './reading';

const { max, min } = Math;

/** How far a family is trusted to keep the time (common practice, no source). */
const FAMILY_TRUST: Readonly<Record<Family, number>> = {
  drums: 0.8,
  percussion: 0.75,
  bass: 0.35,
  guitars: 0.35,
  keys: 0.35,
  synths: 0.15,
  strings: 0.1,
  brass: 0.15,
  winds: 0.1,
  'lead-vocal': 0.06,
  'backing-vocal': 0.04,
  mains: 0.2,
  effects: 0,
  unknown: 0.2,
  reference: 0,
  click: 1.2,
};
const PART_TRUST: Readonly<Record<string, number>> = {
  kick: 1,
  snare: 1,
  hihat: 0.7,
  kit: 0.9,
  loop: 0.9,
  overhead: 0.55,
  room: 0.3,
  tom: 0.25,
  cymbal: 0.3,
  ride: 0.6,
  shaker: 0.8,
  tambourine: 0.8,
  'acoustic-guitar': 0.5,
  piano: 0.4,
  guide: 0,
  mix: 0,
};

const MOST_TIMEKEEPERS = 10;
const WORTH_KEEPING = 0.2;
/** Rise of an attack of real sound, far above the flicker of a noise floor (own; sum of log-compressed bands). */
const FAINTEST_ATTACK = 1;

/** One curve of attacks per track, its own strong attacks at 1. */
export function trackNovelty(track: TempoTrack): Float32Array {
  const { low, mid, high } = track.curves;
  const sum = new Float32Array(low.length);
  for (let i = 0; i < sum.length; i++) sum[i] = (low[i] as number) + (mid[i] as number) + (high[i] as number);
  const peaks: number[] = [];
  for (let i = 1; i + 1 < sum.length; i++)
    if ((sum[i] as number) > (sum[i - 1] as number) && (sum[i] as number) >= (sum[i + 1] as number))
      peaks.push(sum[i] as number);
  // Between the attacks of a sparse track lie thousands of ripples: only what comes near the highest counts as an attack.
  const top = peaks.length > 0 ? percentile(peaks, 0.998) : 0;
  if (top < FAINTEST_ATTACK) return new Float32Array(sum.length);
  const strong = percentile(
    peaks.filter((p) => p >= 0.35 * top),
    0.6,
  );
  // Squaring sets attacks apart from ripple.
  for (let i = 0; i < sum.length; i++) {
    const x = min(1.5, (sum[i] as number) / strong);
    sum[i] = x * x;
  }
  return sum;
}

/** Share of the song (2 s windows) in which the track attacks at all. */
function coverage(novelty: Float32Array): number {
  const window = 2 * ONSETS_PER_SECOND;
  let active = 0;
  let windows = 0;
  for (let s = 0; s + window <= novelty.length; s += window, windows++) {
    let peak = 0;
    for (let i = s; i < s + window; i++) peak = max(peak, novelty[i] as number);
    if (peak > 0.3) active++;
  }
  return windows === 0 ? 0 : active / windows;
}

/** Highest normalised autocorrelation between 0.25 and 1.2 s over every other 8 s, median; 0–1. */
function regularity(novelty: Float32Array): number {
  const window = 8 * ONSETS_PER_SECOND;
  const values: number[] = [];
  // Players are not exact: an attack meets those beside it too.
  const wide = new Float32Array(novelty.length);
  for (let i = 1; i + 1 < wide.length; i++)
    wide[i] = ((novelty[i - 1] as number) + (novelty[i] as number) + (novelty[i + 1] as number)) / 1.6;
  const own = new Float64Array(window);
  for (let s = 0; s + 2 * window <= novelty.length; s += 2 * window) {
    let mean = 0;
    for (let i = s; i < s + window; i++) mean += novelty[i] as number;
    mean /= window;
    let energy = 0;
    for (let i = 0; i < window; i++) {
      const d = (novelty[s + i] as number) - mean;
      own[i] = d;
      energy += d * d;
    }
    if (energy < 1e-3) continue;
    let best = 0;
    for (let lag = ONSETS_PER_SECOND / 4; lag <= 1.2 * ONSETS_PER_SECOND; lag += 3) {
      let sum = 0;
      for (let i = 0; i < window; i++) sum += (own[i] as number) * ((wide[s + i + lag] as number) - mean);
      best = max(best, sum / energy);
    }
    values.push(min(1, best));
  }
  return values.length === 0 ? 0 : percentile(values, 0.5);
}

/** Shares from which a track is a timekeeper whatever it plays, and below which it is none although it keeps to something. */
const MUCH = 0.06;
const LITTLE = 0.02;

/** The choice, now that the pulses are known: each with its share in what was heard there. A person's own stays as it is. */
export function withShares(
  choices: readonly TimekeeperChoice[],
  shares: readonly number[],
): TimekeeperChoice[] {
  return choices.map((c, i) => {
    const weight = shares[i] as number;
    if (c.reason === 'chosen' || c.reason === 'silent' || c.reason === 'duplicate') return { ...c, weight };
    if (c.chosen && weight < LITTLE) return { ...c, weight, chosen: false, reason: 'between' };
    const chosen = c.chosen || weight >= MUCH;
    return {
      ...c,
      weight,
      chosen,
      reason: chosen && (!c.chosen || c.reason === 'not-rhythmic') ? 'clear' : c.reason,
    };
  });
}

/** Which tracks keep the time: by family and by what they play, or as a person chose. */
export function chooseTimekeepers(
  tracks: readonly TempoTrack[],
  novelties: readonly Float32Array[],
  fixed: readonly string[] | null,
): TimekeeperChoice[] {
  const seen = new Map<string, string>();
  const rated = tracks.map((track, i) => {
    const novelty = novelties[i] as Float32Array;
    const print = `${novelty.length}:${novelty.reduce((a, b) => a + b, 0).toFixed(4)}`;
    const silent = !novelty.some((x) => x > 0.3);
    const duplicate = !silent && seen.has(print);
    seen.set(print, track.id);
    const trust = (track.part !== null ? PART_TRUST[track.part] : undefined) ?? FAMILY_TRUST[track.family];
    if (silent) return { track, weight: 0, reason: 'silent' } as const;
    if (duplicate) return { track, weight: 0, reason: 'duplicate' } as const;
    const cover = coverage(novelty);
    const regular = regularity(novelty);
    const weight = trust * (0.25 + 0.75 * regular) * cover;
    const reason =
      trust === 0
        ? 'not-rhythmic'
        : track.family === 'click'
          ? 'click'
          : cover < 0.3
            ? 'sparse'
            : trust < 0.3
              ? 'not-rhythmic'
              : regular > 0.4
                ? 'steady'
                : 'clear';
    return { track, weight, reason } as const;
  });
  if (fixed) {
    const chosen = rated.filter((r) => fixed.includes(r.track.id) && r.reason !== 'silent');
    const total = chosen.reduce((a, r) => a + max(r.weight, 0.1), 0);
    return rated.map((r) => ({
      id: r.track.id,
      chosen: chosen.includes(r),
      weight: chosen.includes(r) ? max(r.weight, 0.1) / total : 0,
      reason: chosen.includes(r) ? 'chosen' : r.reason,
    }));
  }
  const order = [...rated].sort((a, b) => b.weight - a.weight);
  const best = order[0]?.weight ?? 0;
  const chosen = new Set(
    order.slice(0, MOST_TIMEKEEPERS).filter((r) => r.weight > 0 && r.weight >= WORTH_KEEPING * best),
  );
  const total = [...chosen].reduce((a, r) => a + r.weight, 0);
  return rated.map((r) => ({
    id: r.track.id,
    chosen: chosen.has(r),
    weight: chosen.has(r) ? r.weight / total : 0,
    reason:
      chosen.has(r) || r.weight === 0
        ? r.reason
        : r.reason === 'steady' || r.reason === 'clear'
          ? 'unclear'
          : r.reason,
  }));
}
