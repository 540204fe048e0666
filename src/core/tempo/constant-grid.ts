import type { Stream } from './streams';

const { PI, atan2, ceil, cos, hypot, max, sin } = Math;

/** How far around a first guess the tempo is looked for. */
const AROUND = 0.03;
const MOST_HITS = 1500;

/**
 * The one tempo near a period at which hits line up best over the whole song, as moments from `from` to `to`; for sessions
 * to a click it goes through any break. `weight` = how much a role counts. The strongest line of the hits' spectrum and of its
 * double; phase from the stronger (pulses may then lie between: readings try that).
 */
export function constantGrid(
  streams: readonly Stream[],
  weight: (stream: Stream) => number,
  periodSeconds: number,
  from: number,
  to: number,
): number[] {
  const seconds: number[] = [];
  const weights: number[] = [];
  for (const s of streams)
    s.seconds.forEach((t, i) => {
      if (t >= from && t <= to) {
        seconds.push(t);
        weights.push(weight(s) * (s.strength[i] as number));
      }
    });
  const span = max(1, to - from);
  // The strongest say enough, and the search goes over them many times.
  const faintest = weights.length > MOST_HITS ? ([...weights].sort((a, b) => b - a)[MOST_HITS] as number) : 0;
  const kept = weights.flatMap((w, i) => (w >= faintest ? [i] : []));
  const [at, size] = [
    Float64Array.from(kept, (i) => seconds[i] as number),
    Float64Array.from(kept, (i) => weights[i] as number),
  ];
  /** The spectrum at a frequency and at its double, real and imaginary. */
  const lines = (hz: number): readonly [number, number, number, number] => {
    let [re, im, re2, im2] = [0, 0, 0, 0];
    for (let i = 0; i < at.length; i++) {
      const a = 2 * PI * hz * (at[i] as number);
      const w = size[i] as number;
      const [c, s] = [cos(a), sin(a)];
      re += w * c;
      im += w * s;
      re2 += w * (c * c - s * s);
      im2 += w * 2 * s * c;
    }
    return [re, im, re2, im2];
  };
  const centre = 1 / periodSeconds;
  const score = (hz: number): number => {
    const [re, im, re2, im2] = lines(hz);
    return hypot(re, im) + 0.7 * hypot(re2, im2);
  };
  let best = centre;
  let top = -1;
  const step = 0.3 / span;
  // From one frequency to the next each hit turns by the same angle: no sine but for the first.
  const lowest = centre * (1 - AROUND);
  const turned = at.map((t) => 2 * PI * lowest * t);
  const [c, s] = [turned.map((a) => cos(a)), turned.map((a) => sin(a))];
  const [stepC, stepS] = [at.map((t) => cos(2 * PI * step * t)), at.map((t) => sin(2 * PI * step * t))];
  for (let hz = lowest; hz <= centre * (1 + AROUND); hz += step) {
    let [re, im, re2, im2] = [0, 0, 0, 0];
    for (let i = 0; i < at.length; i++) {
      const w = size[i] as number;
      const x = c[i] as number;
      const y = s[i] as number;
      re += w * x;
      im += w * y;
      re2 += w * (x * x - y * y);
      im2 += w * 2 * x * y;
      c[i] = x * (stepC[i] as number) - y * (stepS[i] as number);
      s[i] = x * (stepS[i] as number) + y * (stepC[i] as number);
    }
    const here = hypot(re, im) + 0.7 * hypot(re2, im2);
    if (here > top) [top, best] = [here, hz];
  }
  for (let fine = step / 2; fine > step / 200; fine /= 2)
    for (const hz of [best - fine, best + fine]) {
      const s = score(hz);
      if (s > top) [top, best] = [s, hz];
    }
  const [re, im, re2, im2] = lines(best);
  const phase =
    hypot(re, im) >= 0.5 * hypot(re2, im2)
      ? atan2(im, re) / (2 * PI * best)
      : atan2(im2, re2) / (4 * PI * best);
  const period = 1 / best;
  const out: number[] = [];
  for (let k = ceil((from - phase) / period); phase + k * period <= to; k++) out.push(phase + k * period);
  return out;
}
