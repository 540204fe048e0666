import { median, percentile } from '../dsp';
import type { PulseMoment } from './clock';

const { abs, max, min, round, sqrt } = Math;

/** One tempo for a whole song. */
export interface SteadyGrid {
  /** Moment of quarter 0 of the places given. */
  readonly offsetSeconds: number;
  readonly quarterSeconds: number;
  /** How uncertain a quarter's length is, s. */
  readonly error: number;
}

/** Slow deviation from one grid that a performance to a click does not exceed, s (players wander around a click, but come back). */
const WANDER_SECONDS = 0.03;
/** Pulses over which players' single deviations cancel. */
const SPAN = 16;
const FEWEST_PULSES = 32;
/** Pulses heard so many times less exactly than usual are left out, while those that stay are most of the song. */
const LOOSE = 5;
const MOSTLY = 0.6;
/** Half a BPM and whole ones are what people dial in. */
const ROUND_TO = 0.5;

/**
 * The grid of a session at one tempo, or null when the tempo moves: the moments heard must stay around one line as they do
 * around a click. `places` quarters of the pulses, `clock` the band's clock there. A line by weighted least squares, far moments
 * weighted down.
 */
export function fitGrid(
  places: readonly number[],
  moments: readonly PulseMoment[],
  clock: readonly number[],
): SteadyGrid | null {
  const at = moments.flatMap((h, i) => (Number.isFinite(h.spread) ? [i] : []));
  if (at.length < FEWEST_PULSES) return null;
  let weights = at.map(() => 1);
  let line = { offset: 0, slope: 1 };
  for (let round = 0; round < 4; round++) {
    line = weightedLine(
      at.map((i) => places[i] as number),
      at.map((i) => (moments[i] as PulseMoment).seconds),
      weights,
    );
    const off = at.map((i) =>
      abs((moments[i] as PulseMoment).seconds - line.offset - line.slope * (places[i] as number)),
    );
    const scale = max(0.0004, 1.4826 * median(off));
    weights = off.map(
      (x, k) =>
        1 /
        (1 + (x / (2 * scale)) ** 2) /
        ((moments[at[k] as number] as PulseMoment).spread ** 2 + scale ** 2),
    );
  }
  // Where only loose players go on (a break), the clock follows them; whether there is one grid is said by those who keep it.
  const usual = median(at.map((i) => (moments[i] as PulseMoment).spread));
  const firm = at.filter((i) => (moments[i] as PulseMoment).spread <= LOOSE * usual);
  const away = (firm.length > MOSTLY * clock.length ? firm : clock.map((_, i) => i)).map(
    (i) => (clock[i] as number) - line.offset - line.slope * (places[i] as number),
  );
  const slow: number[] = [];
  for (let i = 0; i + SPAN / 2 <= away.length; i += SPAN / 4) slow.push(median(away.slice(i, i + SPAN)));
  if (max(...slow.map(abs)) > WANDER_SECONDS || percentile(away.map(abs), 0.97) > 1.5 * WANDER_SECONDS)
    return null;
  // Spans stand for independent looks; players' wandering makes neighbours alike.
  const spread = sqrt(slow.reduce((a, x) => a + x * x, 0) / slow.length) + 1e-6;
  const reach = (places.at(-1) as number) - (places[0] as number);
  return {
    offsetSeconds: line.offset,
    quarterSeconds: line.slope,
    error: (spread * sqrt(12)) / (reach * sqrt(max(3, slow.length / 4))),
  };
}

function weightedLine(
  x: readonly number[],
  y: readonly number[],
  w: readonly number[],
): { readonly offset: number; readonly slope: number } {
  const total = w.reduce((a, b) => a + b, 0);
  const mx = x.reduce((a, v, i) => a + v * (w[i] as number), 0) / total;
  const my = y.reduce((a, v, i) => a + v * (w[i] as number), 0) / total;
  let [sxx, sxy] = [0, 0];
  x.forEach((v, i) => {
    sxx += (w[i] as number) * (v - mx) ** 2;
    sxy += (w[i] as number) * (v - mx) * ((y[i] as number) - my);
  });
  return { slope: sxy / sxx, offset: my - (sxy / sxx) * mx };
}

/** The grid at a round tempo when that fits as well, turned around its middle. `perPulse` = quarters of a pulse, `middle` = quarter in mid-song. */
export function rounded(grid: SteadyGrid, perPulse: number, middle: number): SteadyGrid {
  const bpm = 60 / (grid.quarterSeconds * perPulse);
  const even = round(bpm / ROUND_TO) * ROUND_TO;
  const error = (bpm * grid.error) / grid.quarterSeconds;
  if (abs(bpm - even) > max(0.0005, min(0.03, 2.5 * error))) return grid;
  const quarterSeconds = 60 / (even * perPulse);
  return {
    ...grid,
    quarterSeconds,
    offsetSeconds: grid.offsetSeconds + middle * (grid.quarterSeconds - quarterSeconds),
  };
}
