import { percentile } from '../dsp';
import type { SteadyGrid } from './steady';
import type { Stream } from './streams';

const { abs, max, min, round, sqrt } = Math;

/** A band leans on its click by less than this, s, and by less than this share of a pulse. */
const NEAR_SECONDS = 0.07;
const NEAR_SHARE = 0.2;
/** A click is made: its strokes lie on their grid to the sample, but for how attacks are measured, s. */
const EXACT_SECONDS = 0.001;
const FEWEST_STROKES = 16;
/** A click that follows a map is believed where it goes on through the song. */
const MOSTLY = 0.8;

/** Where a click strikes, pulse by pulse; null = it does not there. Missing as a whole without a click that goes with the pulses. */
export function strokesAt(
  beats: readonly number[],
  streams: readonly Stream[],
): readonly (number | null)[] | null {
  const click = streams.find((s) => s.role === 'click');
  if (!click) return null;
  let from = 0;
  const found = beats.map((beat, i) => {
    const gap = min(beat - (beats[i - 1] ?? -Infinity), (beats[i + 1] ?? Infinity) - beat);
    const reach = min(NEAR_SECONDS, NEAR_SHARE * gap);
    while (from < click.seconds.length && (click.seconds[from] as number) < beat - reach) from++;
    let best: number | null = null;
    for (let k = from; k < click.seconds.length && (click.seconds[k] as number) <= beat + reach; k++)
      if (best === null || (click.strength[k] as number) > (click.strength[best] as number)) best = k;
    return best === null ? null : (click.seconds[best] as number);
  });
  return found.filter((t) => t !== null).length >= FEWEST_STROKES ? found : null;
}

/** The one tempo of a click, by plain least squares; null when its strokes do not lie on one. `places` quarters of the pulses. */
export function clickGrid(places: readonly number[], strokes: readonly (number | null)[]): SteadyGrid | null {
  const own = strokes.flatMap((t, i) => (t === null ? [] : [{ t, q: places[i] as number }]));
  const mean = (of: (o: (typeof own)[number]) => number): number =>
    own.reduce((a, o) => a + of(o), 0) / own.length;
  const [mq, mt] = [mean((o) => o.q), mean((o) => o.t)];
  const sqq = own.reduce((a, o) => a + (o.q - mq) ** 2, 0);
  if (sqq === 0) return null;
  const quarterSeconds = own.reduce((a, o) => a + (o.q - mq) * (o.t - mt), 0) / sqq;
  const offsetSeconds = mt - quarterSeconds * mq;
  const off = own.map((o) => o.t - offsetSeconds - quarterSeconds * o.q);
  if (percentile(off.map(abs), 0.95) > EXACT_SECONDS) return null;
  const rms = sqrt(off.reduce((a, x) => a + x * x, 0) / off.length);
  return { offsetSeconds, quarterSeconds, error: max(rms, 1e-6) / sqrt(sqq) };
}

/** The pulses of a click that follows a map: its own strokes, and between those it leaves out the band's. Null when it leaves out too many. */
export function pulsesOfClick(
  beats: readonly number[],
  strokes: readonly (number | null)[],
): readonly number[] | null {
  const struck = strokes.filter((t) => t !== null).length;
  return struck < MOSTLY * beats.length ? null : beats.map((t, i) => strokes[i] ?? t);
}

/** Tempi a person dials in have few digits: pulses a minute with so many are taken where they fit as well. */
const DIGITS = [1, 10, 100, 1000] as const;

/** The grid at the tempo with fewest digits that lies within what was measured, turned around its middle quarter. */
export function dialled(grid: SteadyGrid, perPulse: number, middle: number): SteadyGrid {
  const bpm = 60 / (grid.quarterSeconds * perPulse);
  const within = max(2e-4, (3 * bpm * grid.error) / grid.quarterSeconds);
  const step = DIGITS.find((d) => abs(round(bpm * d) / d - bpm) <= within);
  if (step === undefined) return grid;
  const quarterSeconds = 60 / ((round(bpm * step) / step) * perPulse);
  return {
    ...grid,
    quarterSeconds,
    offsetSeconds: grid.offsetSeconds + middle * (grid.quarterSeconds - quarterSeconds),
  };
}
