import { median, percentile } from '../../src/core/dsp';
import type { Truth } from './compose';

/** What a detection says, as the command line prints it. */
export interface Estimate {
  readonly beats: readonly number[];
  readonly downbeats: readonly number[];
  readonly meters: readonly {
    readonly time: number;
    readonly numerator: number;
    readonly denominator: number;
  }[];
  readonly steady: boolean;
  readonly bpm: number | null;
  readonly gridOffsetSeconds: number | null;
  readonly confidence: readonly number[];
}

/** Nothing was found. */
export const NO_ESTIMATE: Estimate = {
  beats: [],
  downbeats: [],
  meters: [],
  steady: false,
  bpm: null,
  gridOffsetSeconds: null,
  confidence: [],
};

/** Figures of one session; null where they do not apply. */
export interface Score {
  readonly f: number;
  readonly cmlt: number;
  readonly amlt: number;
  /** Absolute errors of matched pulses, ms. */
  readonly errors: readonly number[];
  readonly biasMs: number;
  readonly downbeatF: number;
  readonly meterRight: boolean;
  readonly changes: { readonly real: number; readonly said: number; readonly right: number };
  readonly steady: 'right' | 'missed' | 'false' | 'not';
  readonly bpmError: number | null;
  readonly offsetMs: number | null;
  readonly offsetPlayedMs: number | null;
  readonly sure: number;
  readonly sureWrong: number;
  readonly pulses: number;
}

const WINDOW_SECONDS = 0.07;

/** Largest one-to-one matching of two rising lists within a window, as pairs of indices; greedy is best for points on a line. */
function matches(a: readonly number[], b: readonly number[], window: number): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const d = (a[i] as number) - (b[j] as number);
    if (Math.abs(d) <= window) out.push([i++, j++]);
    else if (d < 0) i++;
    else j++;
  }
  return out;
}

/** F-measure within ±70 ms. Definition as in mir_eval (Raffel et al., ISMIR 2014), checked against it in the bench. */
export function fMeasure(truth: readonly number[], estimate: readonly number[]): number {
  const n = matches(truth, estimate, WINDOW_SECONDS).length;
  return n === 0 ? 0 : (2 * n) / (truth.length + estimate.length);
}

const CONTINUITY = 0.175;

/** Share of pulses right in phase and period, at the level itself. */
function continuity(truth: readonly number[], estimate: readonly number[]): number {
  if (truth.length < 2 || estimate.length < 2) return 0;
  const used = new Set<number>();
  let right = 0;
  estimate.forEach((t, m) => {
    let near = 0;
    truth.forEach((r, k) => {
      if (Math.abs(r - t) < Math.abs((truth[near] as number) - t)) near = k;
    });
    if (used.has(near)) return;
    const first = m === 0 || near === 0;
    const gap = (x: readonly number[], k: number, ahead: boolean): number =>
      ahead && k + 1 < x.length
        ? (x[k + 1] as number) - (x[k] as number)
        : (x[k] as number) - (x[k - 1] as number);
    const interval = gap(truth, near, first);
    if (
      Math.abs(((truth[near] as number) - t) / interval) < CONTINUITY &&
      Math.abs(1 - gap(estimate, m, first) / interval) < CONTINUITY
    ) {
      used.add(near);
      right++;
    }
  });
  return right / Math.max(truth.length, estimate.length);
}

/** CMLt, and AMLt over the levels people also tap. Definition as in mir_eval. */
export function continuities(
  truth: readonly number[],
  estimate: readonly number[],
): { readonly cmlt: number; readonly amlt: number } {
  const between = truth.slice(0, -1).map((t, i) => (t + (truth[i + 1] as number)) / 2);
  const double = [...truth, ...between].sort((a, b) => a - b);
  const levels = [
    truth,
    between,
    double,
    truth.filter((_, i) => i % 2 === 0),
    truth.filter((_, i) => i % 2 === 1),
  ].map((level) => continuity(level, estimate));
  return { cmlt: levels[0] as number, amlt: Math.max(...levels) };
}

/** All figures of one session, counted from half a pulse before the first true one to half after the last, free passages left out. */
export function score(truth: Truth, said: Estimate): Score {
  const gap = (truth.beats[1] as number) - (truth.beats[0] as number);
  const [from, to] = [(truth.beats[0] as number) - gap / 2, (truth.beats.at(-1) as number) + gap / 2];
  const counts = (t: number): boolean =>
    t >= from && t <= to && !truth.rubato.some(([a, b]) => t >= a - WINDOW_SECONDS && t < b - WINDOW_SECONDS);
  const beats = truth.beats.filter(counts);
  const kept = said.beats.map((t, i) => ({ t, sure: said.confidence[i] ?? 0 })).filter((x) => counts(x.t));
  const estimate = kept.map((x) => x.t);
  const close = matches(beats, estimate, WINDOW_SECONDS).map(
    ([i, j]) => (estimate[j] as number) - (beats[i] as number),
  );
  const wide = matches(beats, estimate, 0.2).map(
    ([i, j]) => Math.abs((estimate[j] as number) - (beats[i] as number)) * 1000,
  );
  const sure = kept.filter((x) => x.sure >= 0.9);
  const wrong = sure.filter((x) => !beats.some((b) => Math.abs(b - x.t) <= WINDOW_SECONDS));
  return {
    f: fMeasure(beats, estimate),
    ...continuities(beats, estimate),
    errors: wide,
    biasMs: close.length > 0 ? (1000 * close.reduce((a, x) => a + x, 0)) / close.length : 0,
    downbeatF: fMeasure(truth.downbeats.filter(counts), said.downbeats.filter(counts)),
    ...scoreMeters(truth, said),
    steady: truth.constant ? (said.steady ? 'right' : 'missed') : said.steady ? 'false' : 'not',
    ...scoreGrid(truth, said),
    sure: sure.length,
    sureWrong: wrong.length,
    pulses: kept.length,
  };
}

function scoreMeters(truth: Truth, said: Estimate): Pick<Score, 'meterRight' | 'changes'> {
  const start = ((truth.downbeats[0] as number) + (truth.downbeats[1] as number)) / 2;
  const at = Math.max(
    0,
    said.meters.findLastIndex((m) => m.time <= start),
  );
  const first = truth.meters[0] as { num: number; den: number };
  const here = said.meters[at];
  const free = said.meters.slice(at + 1);
  let right = 0;
  for (const m of truth.meters.slice(1)) {
    const k = truth.downbeats.findIndex((d) => Math.abs(d - m.time) < 0.01);
    const bar =
      Math.max((truth.downbeats[k + 1] ?? m.time) - m.time, m.time - (truth.downbeats[k - 1] ?? m.time)) +
      WINDOW_SECONDS;
    const hit = free.findIndex(
      (x) => x.numerator === m.num && x.denominator === m.den && Math.abs(x.time - m.time) <= bar,
    );
    if (hit >= 0) {
      free.splice(hit, 1);
      right++;
    }
  }
  return {
    meterRight: here?.numerator === first.num && here.denominator === first.den,
    changes: { real: truth.meters.length - 1, said: Math.max(0, said.meters.length - at - 1), right },
  };
}

/** Of sessions at one tempo: how far the grid said is from that meant, and from the drummer's own hits. */
function scoreGrid(truth: Truth, said: Estimate): Pick<Score, 'bpmError' | 'offsetMs' | 'offsetPlayedMs'> {
  if (
    !truth.constant ||
    truth.bpm === null ||
    !said.steady ||
    said.bpm === null ||
    said.gridOffsetSeconds === null
  )
    return { bpmError: null, offsetMs: null, offsetPlayedMs: null };
  const even = Math.abs(60 / truth.bpm - ((truth.beats[1] as number) - (truth.beats[0] as number))) < 1e-3;
  const period = even ? 60 / truth.bpm : 30 / (truth.quarterBpm as number);
  const origin = truth.beats[0] as number;
  const middle = ((truth.beats[0] as number) + (truth.beats.at(-1) as number)) / 2;
  const own = even ? 60 / said.bpm : period * (truth.bpm / said.bpm);
  const line = said.gridOffsetSeconds + Math.round((middle - said.gridOffsetSeconds) / own) * own;
  const off = line - origin - Math.round((line - origin) / period) * period;
  const played = truth.drumHits
    .map(([, t]) => t - origin - Math.round((t - origin) / period) * period)
    .filter((d) => Math.abs(d) < 0.05);
  return {
    bpmError: Math.abs(said.bpm - truth.bpm),
    offsetMs: 1000 * off,
    offsetPlayedMs: played.length > 20 ? 1000 * (off - median(played)) : 1000 * off,
  };
}

/** One line of figures over many sessions. */
export function summary(scores: readonly Score[]): string {
  const mean = (x: readonly number[]): number => x.reduce((a, b) => a + b, 0) / Math.max(1, x.length);
  const errors = scores.flatMap((s) => s.errors);
  const steady = scores.filter((s) => s.steady === 'right' || s.steady === 'missed');
  const sizes = (f: (s: Score) => number | null): number[] =>
    scores
      .map(f)
      .filter((x) => x !== null)
      .map(Math.abs);
  const worst = (x: readonly number[]): number => Math.max(0, ...x);
  const total = (f: (s: Score) => number): number => scores.reduce((a, s) => a + f(s), 0);
  const [bpm, offset, played] = [
    sizes((s) => s.bpmError),
    sizes((s) => s.offsetMs),
    sizes((s) => s.offsetPlayedMs),
  ];
  return [
    `F mean ${mean(scores.map((s) => s.f)).toFixed(3)} worst ${Math.min(...scores.map((s) => s.f)).toFixed(3)}`,
    `AMLt ${mean(scores.map((s) => s.amlt)).toFixed(3)} CMLt ${mean(scores.map((s) => s.cmlt)).toFixed(3)}`,
    `error median ${errors.length > 0 ? median(errors).toFixed(1) : '–'} 95 % ${errors.length > 0 ? percentile(errors, 0.95).toFixed(1) : '–'} bias ${mean(scores.map((s) => s.biasMs)).toFixed(1)} ms`,
    `downbeat F ${mean(scores.map((s) => s.downbeatF)).toFixed(3)}`,
    `meter ${scores.filter((s) => s.meterRight).length}/${scores.length}, changes ${total((s) => s.changes.right)} right of ${total((s) => s.changes.real)}, ${total((s) => s.changes.said)} said`,
    `steady ${steady.filter((s) => s.steady === 'right').length}/${steady.length}, false ${scores.filter((s) => s.steady === 'false').length}`,
    bpm.length > 0
      ? `bpm error median ${median(bpm).toFixed(4)} worst ${worst(bpm).toFixed(4)}, offset median ${median(offset).toFixed(1)} worst ${worst(offset).toFixed(1)}, played median ${median(played).toFixed(1)} worst ${worst(played).toFixed(1)} ms`
      : 'no grid',
    `sure ${(
      (100 * total((s) => s.sure)) /
      Math.max(
        1,
        total((s) => s.pulses),
      )
    ).toFixed(0)} %, of them wrong ${(
      (100 * total((s) => s.sureWrong)) /
      Math.max(
        1,
        total((s) => s.sure),
      )
    ).toFixed(2)} %`,
  ].join(' | ');
}
