/** The stretch of the song in sight, seconds. */
export interface WaveWindow {
  readonly from: number;
  readonly to: number;
}

/** How near and how far one can go. */
export interface WindowLimits {
  readonly lengthSeconds: number;
  readonly shortestSeconds: number;
}

/** Moves a stretch into the song without changing its length, unless it is longer than the song. */
export function fitted({ from, to }: WaveWindow, { lengthSeconds }: WindowLimits): WaveWindow {
  const length = Math.min(lengthSeconds, to - from);
  const start = Math.max(0, Math.min(lengthSeconds - length, from));
  return { from: start, to: start + length };
}

/** Makes the stretch longer by a factor (shorter below 1); what is seen at `at` stays where it is. */
export function zoomed(window: WaveWindow, factor: number, at: number, limits: WindowLimits): WaveWindow {
  const length = window.to - window.from;
  const next = Math.max(limits.shortestSeconds, Math.min(limits.lengthSeconds, length * factor));
  const share = length > 0 ? (at - window.from) / length : 0.5;
  return fitted({ from: at - share * next, to: at + (1 - share) * next }, limits);
}

/** Moves the stretch by a share of its length. */
export const panned = (window: WaveWindow, share: number, limits: WindowLimits): WaveWindow => {
  const by = share * (window.to - window.from);
  return fitted({ from: window.from + by, to: window.to + by }, limits);
};

/** A round step for the ruler, at least so many px apart. */
export function rulerStep(secondsPerPx: number, apartPx: number): number {
  const least = secondsPerPx * apartPx;
  for (let decade = 1e-5; decade < 1e3; decade *= 10)
    for (const k of [1, 2, 5]) if (decade * k >= least * (1 - 1e-9)) return roundedSeconds(decade * k);
  return 1000;
}

// Clocks count in sixties.
const roundedSeconds = (s: number): number =>
  s < 10 ? s : ([10, 15, 30, 60, 120, 300, 600].find((m) => m >= s) ?? 1000);
