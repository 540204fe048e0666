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
