import type { Stream } from './streams';

/** How far around a first guess the tempo is looked for. */
const AROUND = 0.03;

/**
 * The one tempo near a period at which hits line up best over the whole song, as moments from `from` to `to`; for sessions
 * to a click it goes through any break. `weight` = how much a role counts. The strongest line of the hits' spectrum and of its
 * double; phase from the stronger (pulses may then lie between: readings try that).
 */
export function constantGrid(streams: readonly Stream[], weight: (stream: Stream) => number, periodSeconds: number, from: number, to: number): number[] {
  const seconds: number[] = [];
  const weights: number[] = [];
  for (const s of streams) s.seconds.forEach((t, i) => { if (t >= from && t <= to) { seconds.push(t); weights.push(weight(s) * (s.strength[i] as number)); } });
  const span = Math.max(1, to - from);
  const line = (hz: number): { readonly size: number; readonly phase: number } => {
    let [re, im] = [0, 0];
    seconds.forEach((t, i) => {
      const a = 2 * Math.PI * hz * t;
      re += (weights[i] as number) * Math.cos(a);
      im += (weights[i] as number) * Math.sin(a);
    });
    return { size: Math.hypot(re, im), phase: Math.atan2(im, re) };
  };
  const centre = 1 / periodSeconds;
  const score = (hz: number): number => line(hz).size + 0.7 * line(2 * hz).size;
  let best = centre;
  let top = -1;
  const step = 0.3 / span;
  for (let hz = centre * (1 - AROUND); hz <= centre * (1 + AROUND); hz += step) {
    const s = score(hz);
    if (s > top) [top, best] = [s, hz];
  }
  for (let fine = step / 2; fine > step / 200; fine /= 2) for (const hz of [best - fine, best + fine]) { const s = score(hz); if (s > top) [top, best] = [s, hz]; }
  const [one, two] = [line(best), line(2 * best)];
  const phase = one.size >= 0.5 * two.size ? one.phase / (2 * Math.PI * best) : two.phase / (4 * Math.PI * best);
  const period = 1 / best;
  const out: number[] = [];
  for (let k = Math.ceil((from - phase) / period); phase + k * period <= to; k++) out.push(phase + k * period);
  return out;
}
