import { type Fade, fadeGain } from '../arrange';

/** Two takes around the edge where one goes over to the other: mono, as they would sound, frame for frame. */
export interface AroundEdge {
  /** From `reach` frames before the edge to `reach` behind it. */
  readonly one: Float32Array;
  /** The one that takes over; it reaches `slack` frames farther on both sides. */
  readonly next: Float32Array;
  readonly slack: number;
  readonly sampleRateHz: number;
  /** How far the edge may be moved, frames; 0 = it stays where a person put it. */
  readonly mayMove: number;
}

/** How one take goes over to another. */
export interface Join {
  /** The edge, from where it was, frames. */
  readonly moveFrames: number;
  /** By how much the sound that takes over is moved, frames. */
  readonly slipFrames: number;
  readonly fade: Fade;
  /** By how much it is turned up, so that it goes on at the level of the other where they meet, dB. */
  readonly gainDb: number;
}

/** Quieter than this below the louder of both, or at all, nothing is heard of the join, dB. */
const [QUIET_DB, LEAST_DB] = [34, -70];
/** Length of a cross-fade in a rest, s. */
export const REST_FADE = 0.012;
/** What is tried where both sound: s, and how. */
const FADES = [
  [0.024, 'equal-gain'],
  [0.04, 'equal-power'],
  [0.012, 'equal-gain'],
  [0.012, 'equal-power'],
  [0.06, 'equal-gain'],
  [0.06, 'equal-power'],
] as const satisfies readonly (readonly [number, Fade['shape']])[];
/** A level that stays within so many dB is not looked at further. */
const GOOD_DB = 0.15;
/** A take is moved by no more, s. */
export const MOST_SLIP_SECONDS = 0.005;
/** Places to try are so far apart; levels and likeness are those of so much; s. */
const [STEP, WINDOW] = [0.004, 0.04];
/** As like as this equal gain keeps the level within half a dB, as unlike as this equal power does: 10 lg((1 + ρ) / 2) and 10 lg(1 + ρ). */
const [LIKE, UNLIKE] = [0.8, 0.11];
/** What is not told within so many dB is left as it is; what is more is no level of a take but something else that is played; dB. */
const [LEAST_GAIN_DB, MOST_GAIN_DB] = [0.1, 8];
/** What a dB of a step counts against one of a bump; what the longest way costs, dB. */
const [STEP_BUMP, FAR_DB] = [0.3, 0.15];
/** So many ways are tried with every fade. */
const TRIED = 6;

/** Best way to go over from one take to another near an edge: in a rest if there is one, else where they are most alike, moved by some milliseconds until they are in phase, or not alike at all. Of the ways there are the one that keeps the level best. */
export function findJoin(around: AroundEdge): Join {
  const rest = restIn(around);
  if (rest !== null) {
    const frames = Math.round(REST_FADE * around.sampleRateHz);
    return { moveFrames: rest, slipFrames: 0, fade: { frames, shape: 'equal-power' }, gainDb: 0 };
  }
  /** What a meeting costs with a fade: how far the level strays, what is left of a step, and a little for the way there. */
  const weighed = (meeting: Meeting, [seconds, shape]: (typeof FADES)[number]) => {
    const { move, lag } = meeting;
    const stepped = stepDb(around, move, lag);
    const size = Math.abs(stepped);
    const gainDb = size < LEAST_GAIN_DB || size > MOST_GAIN_DB ? 0 : stepped;
    const frames = Math.round(seconds * around.sampleRateHz);
    const join: Join = { moveFrames: move, slipFrames: lag, fade: { frames, shape }, gainDb };
    const way = FAR_DB * Math.abs(move / Math.max(1, around.mayMove));
    return { meeting, join, cost: bumpDb(around, join) + STEP_BUMP * Math.abs(stepped - gainDb) + way };
  };
  const byCost = (a: { readonly cost: number }, b: { readonly cost: number }): number => a.cost - b.cost;
  const first = meetingsOf(around).map((m) => weighed(m, m.likeness >= LIKE ? FADES[0] : FADES[1]));
  const best = first.sort(byCost).slice(0, TRIED);
  if ((best[0]?.cost ?? 0) < GOOD_DB) return (best[0] as (typeof best)[number]).join;
  const all = best.flatMap((b) => FADES.map((fade) => weighed(b.meeting, fade)));
  return (all.sort(byCost)[0] as (typeof all)[number]).join;
}

/** How far the level leaves that of both while one goes over to the other, dB. */
function bumpDb({ one, next, slack, sampleRateHz }: AroundEdge, way: Join): number {
  const { moveFrames, slipFrames, gainDb, fade } = way;
  const frames = (seconds: number): number => Math.round(seconds * sampleRateHz);
  const edge = one.length / 2 + moveFrames;
  const [from, to] = [Math.round(edge - frames(0.06)), Math.round(edge + frames(0.06))];
  const begin = Math.round(edge) - Math.floor(fade.frames / 2);
  const gain = 10 ** (gainDb / 20);
  const sums = [0, 0, 0].map(() => new Float64Array(to - from + 1));
  for (let i = from; i < to; i++) {
    const share = Math.max(0, Math.min(1, (i - begin + 0.5) / fade.frames));
    const [x, y] = [one[i] ?? 0, gain * (next[i + slack - slipFrames] ?? 0)];
    const out = x * fadeGain(fade.shape, 1 - share) + y * fadeGain(fade.shape, share);
    [x, y, out].forEach((v, k) => {
      const sum = sums[k] as Float64Array;
      sum[i - from + 1] = (sum[i - from] as number) + v * v;
    });
  }
  const width = frames(0.03);
  let most = 0;
  for (let t = 0; t + width <= to - from; t += frames(0.004)) {
    const [a, b, out] = sums.map((s) => db(((s[t + width] as number) - (s[t] as number)) / width)) as [
      number,
      number,
      number,
    ];
    most = Math.max(most, out - Math.max(a, b), Math.min(a, b) - out);
  }
  return most;
}

const windowOf = ({ sampleRateHz }: AroundEdge): number => Math.round(WINDOW * sampleRateHz);
/** Places of the edge that can be tried, the nearest first. */
function placesOf({ sampleRateHz, mayMove }: AroundEdge): number[] {
  const step = Math.max(1, Math.round(STEP * sampleRateHz));
  const count = Math.floor(mayMove / step);
  return [0, ...Array.from({ length: 2 * count }, (_, k) => (k % 2 === 0 ? 1 : -1) * (1 + (k >> 1)) * step)];
}

const energyIn = (samples: Float32Array, from: number, count: number): number => {
  let sum = 0;
  for (let i = Math.max(0, from); i < Math.min(samples.length, from + count); i++)
    sum += (samples[i] as number) ** 2;
  return sum;
};
const db = (power: number): number => 10 * Math.log10(Math.max(power, 1e-14));

/** The nearest place at which both rest; null = there is none. */
function restIn(around: AroundEdge): number | null {
  const { one, next, slack } = around;
  const [middle, width] = [one.length / 2, windowOf(around)];
  const loud = db(Math.max(loudestOf(one, width), loudestOf(next, width)));
  const limit = Math.max(LEAST_DB, loud - QUIET_DB);
  const both = (at: number): number => {
    const from = middle + at - width / 2;
    return db(Math.max(energyIn(one, from, width), energyIn(next, from + slack, width)) / width);
  };
  return placesOf(around).find((at) => both(at) <= limit) ?? null;
}

function loudestOf(samples: Float32Array, width: number): number {
  let most = 0;
  for (let at = 0; at < samples.length; at += width)
    most = Math.max(most, energyIn(samples, at, width) / width);
  return most;
}

/** Likeness of both over the window around a place, the second moved by `lag`, −1 … 1. */
function likenessAt(
  { one, next, slack, ...around }: AroundEdge,
  move: number,
  lag: number,
  stride = 1,
): number {
  const width = windowOf({ one, next, slack, ...around });
  const from = Math.round(one.length / 2 + move - width / 2);
  let [product, a, b] = [0, 0, 0];
  for (let i = from; i < from + width; i += stride) {
    // Moved later by `lag`, it sounds now what it had `lag` before.
    const [x, y] = [one[i] ?? 0, next[i + slack - lag] ?? 0];
    product += x * y;
    a += x * x;
    b += y * y;
  }
  return a > 0 && b > 0 ? product / Math.sqrt(a * b) : 0;
}

interface Meeting {
  readonly move: number;
  readonly lag: number;
  readonly likeness: number;
}

/** Places where both are in phase, or have least in common, with the shortest moves for that; and as they are. */
function meetingsOf(around: AroundEdge): Meeting[] {
  const { sampleRateHz, slack } = around;
  const most = Math.min(slack, Math.round(MOST_SLIP_SECONDS * sampleRateHz));
  const coarse = Math.max(1, Math.round(sampleRateHz / 16_000));
  const lags: number[] = [];
  for (let lag = -most; lag <= most; lag += coarse) lags.push(lag);
  const found: (Meeting & { readonly worth: number })[] = [];
  for (const move of placesOf(around)) {
    let like = { move, lag: 0, likeness: 0, worth: -Infinity };
    let unlike = like;
    for (const lag of lags) {
      const likeness = likenessAt(around, move, lag, coarse);
      const far = 0.05 * Math.abs(lag / Math.max(1, most));
      if (likeness - far > like.worth) like = { move, lag, likeness, worth: likeness - far };
      // Not alike at all is as good as alike: it counts how far from that they are.
      const worth = 1 - 4 * Math.max(0, Math.abs(likeness) - UNLIKE) - far;
      if (worth > unlike.worth) unlike = { move, lag, likeness, worth };
    }
    found.push(like, unlike);
    // The nearest place that is as good as can be heard will do.
    if (like.likeness > 0.97 && Math.abs(stepDb(around, move, like.lag)) < 1) break;
  }
  return [
    ...found.map((m) => (m.likeness >= LIKE ? finer(around, m, coarse) : m)),
    { move: 0, lag: 0, likeness: 0 },
  ];
}

/** The same to the frame. */
function finer(around: AroundEdge, { move, lag }: Meeting, coarse: number): Meeting {
  let best = { move, lag, likeness: likenessAt(around, move, lag) };
  for (let near = lag - coarse; near <= lag + coarse; near++) {
    const likeness = likenessAt(around, move, near);
    if (likeness > best.likeness) best = { move, lag: near, likeness };
  }
  return best;
}

/** How much louder the first is than the second where they meet, dB. */
function stepDb(around: AroundEdge, move: number, lag: number): number {
  const { one, next, slack } = around;
  const width = windowOf(around);
  const from = Math.round(one.length / 2 + move - width / 2);
  const [a, b] = [energyIn(one, from, width), energyIn(next, from + slack - lag, width)];
  return a > 0 && b > 0 ? db(a / width) - db(b / width) : 0;
}
