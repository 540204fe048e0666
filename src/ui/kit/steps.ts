/** Every how many bars one is numbered: a power of two, so that numbers stand at least so far apart, px. */
export function barStep(pxPerBar: number, apartPx: number): number {
  let step = 1;
  while (step * pxPerBar <= apartPx && step < 1024) step *= 2;
  return step;
}

/** Steps that clocks are read in, s. */
const CLOCK_STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 1800];

/** Every how many seconds one is written, so that they stand at least so far apart, px. */
export const clockStep = (pxPerSecond: number, apartPx: number): number =>
  CLOCK_STEPS.find((s) => s * pxPerSecond > apartPx) ?? 3600;
