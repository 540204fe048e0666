import { scaleLinear } from 'd3-scale';

/** A scale from what is shown to CSS px; what lies outside of its range is put at the edge where `isHeld`. */
export const axis = (
  domain: readonly [number, number],
  range: readonly [number, number],
  isHeld = false,
): ReturnType<typeof scaleLinear<number, number>> =>
  scaleLinear<number, number>([...domain], [...range]).clamp(isHeld);

/** Round values between two, about so many. */
export const roundTicks = (domain: readonly [number, number], most: number): number[] =>
  scaleLinear([...domain], [0, 1]).ticks(most);

/** The same two, widened to round values. */
export const widened = (domain: readonly [number, number], most: number): readonly [number, number] => {
  const [from = domain[0], to = domain[1]] = scaleLinear([...domain], [0, 1])
    .nice(most)
    .domain();
  return [from, to];
};

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
