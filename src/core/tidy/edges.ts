/** The beginning of a sound is looked for from so long before the frame that holds it until so long after, s. */
export const BEGIN_REACH_SECONDS = [0.1, 0.15] as const;
/** A step of the looking, s. */
const STEP_SECONDS = 0.001;
/** A sound has begun where it stands so many times over what was before (power), and over its own loudest nearby. */
const [OVER_BEFORE, OVER_LOUDEST] = [16, 1e-4];
/** It rises by as much within so many steps, else it has no one beginning. */
const RISE_STEPS = 15;
const RISE = 30;
/** Zero crossings are looked for so far away, s. */
export const CROSSING_REACH_SECONDS = 0.004;

/**
 * Sample at which a sound begins, in a stretch that starts {@link BEGIN_REACH_SECONDS} before the frame that holds it; null
 * where it comes in too softly to say. `samples`: planar channels of the stretch.
 */
export function beginningIn(samples: readonly Float32Array[], rateHz: number): number | null {
  const step = Math.max(1, Math.round(STEP_SECONDS * rateHz));
  const count = Math.floor((samples[0]?.length ?? 0) / step);
  const powers = Float64Array.from({ length: count }, (_, k) => {
    let sum = 0;
    for (const x of samples) for (let i = k * step; i < (k + 1) * step; i++) sum += (x[i] as number) ** 2;
    return sum / step;
  });
  const before = Math.floor(
    (BEGIN_REACH_SECONDS[0] * count) / (BEGIN_REACH_SECONDS[0] + BEGIN_REACH_SECONDS[1]) / 2,
  );
  if (before < 10) return null;
  let quiet = 0;
  for (let k = 0; k < before; k++) quiet += (powers[k] as number) / before;
  const loudest = powers.reduce((m, p) => Math.max(m, p), 0);
  const least = Math.max(OVER_BEFORE * quiet, OVER_LOUDEST * loudest, 1e-14);
  const at = powers.findIndex((p, k) => k >= before && p > least && (powers[k + 1] ?? 0) > least / 2);
  if (at < 0) return null;
  const soon = powers.slice(at, at + RISE_STEPS).reduce((m, p) => Math.max(m, p), 0);
  return soon >= RISE * Math.max(quiet, 1e-15) ? at * step : null;
}

/** Sample nearest to `at` where the sum of all channels changes its sign; `at` itself where none is near. */
export function crossingNear(samples: readonly Float32Array[], at: number): number {
  const length = samples[0]?.length ?? 0;
  const sum = (i: number): number => samples.reduce((s, x) => s + (x[i] as number), 0);
  for (let d = 0; d < length; d++)
    for (const i of [at - d, at + d]) if (i > 0 && i < length && sum(i - 1) <= 0 !== sum(i) <= 0) return i;
  return at;
}
