import { SKETCH_PER_SECOND, type SoundSketch, sketchTotals } from '../analysis';

/** Quieter than this below its loudest a recording rests; below this it does so anyway, dB. */
const [DEPTH_DB, LEAST_DB] = [30, -66];

/** Where a recording sounds, in frames of a sketch from the common start. */
export interface Activity {
  /** 1 where it sounds. */
  readonly frames: Uint8Array;
  readonly count: number;
}

/** Where a recording sounds that begins `startSeconds` behind the common start. */
export function activityOf(sketch: SoundSketch, startSeconds: number): Activity {
  const totals = sketchTotals(sketch);
  const least = Math.max(LEAST_DB, totals.reduce((m, db) => Math.max(m, db), -Infinity) - DEPTH_DB);
  const start = Math.max(0, Math.round(startSeconds * SKETCH_PER_SECOND));
  const frames = new Uint8Array(start + sketch.frames);
  let count = 0;
  totals.forEach((db, n) => {
    if (db <= least) return;
    frames[start + n] = 1;
    count++;
  });
  return { frames, count };
}

/** How much of the one that sounds less lies where the other sounds too, 0–1; null where one is silent. */
export function overlapOf(a: Activity, b: Activity): number | null {
  if (a.count === 0 || b.count === 0) return null;
  let both = 0;
  for (let n = 0; n < Math.min(a.frames.length, b.frames.length); n++)
    both += (a.frames[n] as number) & (b.frames[n] as number);
  return both / Math.min(a.count, b.count);
}

/** Share of a stretch of time in which it sounds. */
export function soundsIn({ frames }: Activity, fromSeconds: number, toSeconds: number): number {
  const [from, to] = [fromSeconds, toSeconds].map((s) => Math.round(s * SKETCH_PER_SECOND)) as [
    number,
    number,
  ];
  let sum = 0;
  for (let n = from; n < to; n++) sum += frames[n] ?? 0;
  return to > from ? sum / (to - from) : 0;
}
