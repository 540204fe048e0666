import type { PeakLevel } from './peaks';

/** Quieter than this below the loudest is a pause. */
const PAUSE_DB = 36;
/** Never below −60 dBFS. */
const FLOOR = 33;
/** A pause this long ends a phrase; a phrase this short is a stray noise. */
const PAUSE_SECONDS = 0.8;
const PHRASE_SECONDS = 0.08;

const sizes = ({ minMax }: PeakLevel): Float32Array =>
  Float32Array.from({ length: minMax.length / 2 }, (_, i) =>
    Math.max(-(minMax[2 * i] as number), minMax[2 * i + 1] as number),
  );

/** Where phrases begin and end, seconds: stretches of sound between pauses of most of a second. */
export function phrases(
  level: PeakLevel,
  sampleRateHz: number,
): { readonly from: number; readonly to: number }[] {
  const values = sizes(level);
  const step = level.framesPerEntry / sampleRateHz;
  const limit = Math.max(FLOOR, values.reduce((m, v) => Math.max(m, v), 0) * 10 ** (-PAUSE_DB / 20));
  const found: { from: number; to: number }[] = [];
  values.forEach((v, i) => {
    if (v < limit) return;
    const last = found.at(-1);
    if (last && i * step - last.to < PAUSE_SECONDS) last.to = (i + 1) * step;
    else found.push({ from: i * step, to: (i + 1) * step });
  });
  return found.filter((p) => p.to - p.from >= PHRASE_SECONDS);
}

/** Beginning of the loudest stretch of so many seconds (or of all, when it is shorter). */
export function loudestStretch(level: PeakLevel, sampleRateHz: number, seconds: number): number {
  const values = sizes(level);
  const length = Math.max(
    1,
    Math.min(values.length, Math.round((seconds * sampleRateHz) / level.framesPerEntry)),
  );
  let sum = 0;
  let best = { sum: -1, at: 0 };
  values.forEach((v, i) => {
    sum += v * v - (i >= length ? (values[i - length] as number) ** 2 : 0);
    if (i >= length - 1 && sum > best.sum * (1 + 1e-9)) best = { sum, at: i - length + 1 };
  });
  return (best.at * level.framesPerEntry) / sampleRateHz;
}
