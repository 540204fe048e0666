import { median } from '../dsp';
import type { Role, Stream } from './streams';

const { abs, log, max, min, sqrt } = Math;

/** A moment heard for a pulse and how uncertain it is, seconds; `spread` Infinity where nothing was heard. */
export interface PulseMoment {
  readonly seconds: number;
  readonly spread: number;
}

/** Assumed spread of players before it is known, s. */
const USUAL_SPREAD = 0.012;
/** How much the length of a pulse may change from one to the next, share of it: tried, the likeliest is taken. */
const SWAY = [0.0003, 0.001, 0.003, 0.008, 0.02] as const;

/**
 * The band's clock: the likeliest moments of pulses whose length changes slowly, given what was heard around each.
 * A local linear trend, filtered and smoothed (Kalman 1960; Rauch, Tung & Striebel 1965; from memory); how slowly is chosen by
 * likelihood, moments far off are weighted down. `start` = length of the first pulse, s; `lengths` = how long each is against it (uneven bars).
 */
export function estimateClock(
  moments: readonly PulseMoment[],
  start: number,
  lengths: readonly number[] | null = null,
): number[] {
  if (moments.length < 3) return moments.map((h) => h.seconds);
  let weights = moments.map(() => 1);
  let best = moments.map((h) => h.seconds);
  // Two take turns: the likeliest way so far, and the one that is tried.
  let [kept, tried] = [new Float64Array(KEPT * moments.length), new Float64Array(KEPT * moments.length)];
  for (let round = 0; round < 3; round++) {
    let most = -Infinity;
    for (const sway of SWAY) {
      const likelihood = filtered(moments, weights, sway, start, lengths, tried);
      if (likelihood === null) return best;
      if (likelihood > most) {
        most = likelihood;
        [kept, tried] = [tried, kept];
      }
    }
    best = smoothed(kept, moments.length, lengths);
    const off = moments.map((h, i) =>
      Number.isFinite(h.spread) ? abs(h.seconds - (best[i] as number)) / h.spread : NaN,
    );
    const scale = max(0.3, 1.5 * median(off.filter((x) => !Number.isNaN(x))));
    weights = off.map((x) => (Number.isNaN(x) ? 1 : 1 / (1 + (x / (2.5 * scale)) ** 2)));
  }
  return best;
}

/** Values a pulse of {@link filtered}: moment, length, covariance a, b, c of [[a, b], [b, c]] after what was heard; moment, a, b, c before. */
const KEPT = 9;

/** Forward: what is known of moment and length of each pulse from those up to it, and how likely all that was heard is. Null where nothing was. */
function filtered(
  moments: readonly PulseMoment[],
  weights: readonly number[],
  sway: number,
  start: number,
  lengths: readonly number[] | null,
  past: Float64Array,
): number | null {
  const n = moments.length;
  const first = moments.findIndex((h) => Number.isFinite(h.spread));
  if (first < 0) return null;
  let before = 0;
  for (let i = 0; i < first; i++) before += lengths?.[i] ?? 1;
  let [t, p, a, b, c] = [
    (moments[first] as PulseMoment).seconds - before * start,
    start,
    1,
    0,
    (0.1 * start) ** 2,
  ];
  const growth = (sway * start) ** 2;
  const jitter = (0.2 * sway * start) ** 2;
  let likelihood = 0;
  for (let i = 0; i < n; i++) {
    if (i > 0) {
      const k = lengths?.[i - 1] ?? 1;
      t += k * p;
      a += 2 * k * b + k * k * c + jitter;
      b += k * c;
      c += growth;
    }
    const at = KEPT * i;
    past[at + 5] = t;
    past[at + 6] = a;
    past[at + 7] = b;
    past[at + 8] = c;
    const h = moments[i] as PulseMoment;
    if (Number.isFinite(h.spread)) {
      const s = a + h.spread ** 2 / (weights[i] as number);
      const e = h.seconds - t;
      if (i > first) likelihood -= 0.5 * (log(s) + (e * e) / s);
      const [k1, k2] = [a / s, b / s];
      t += k1 * e;
      p += k2 * e;
      c -= k2 * b;
      b -= k1 * b;
      a -= k1 * a;
    }
    past[at] = t;
    past[at + 1] = p;
    past[at + 2] = a;
    past[at + 3] = b;
    past[at + 4] = c;
  }
  return likelihood;
}

/** Backward: the moments from those after each pulse too; `past` as {@link filtered} left it. */
function smoothed(past: Float64Array, n: number, lengths: readonly number[] | null): number[] {
  const seconds = new Array<number>(n);
  const of = (i: number, what: number): number => past[KEPT * i + what] as number;
  let [st, sp] = [of(n - 1, 0), of(n - 1, 1)];
  seconds[n - 1] = st;
  for (let i = n - 2; i >= 0; i--) {
    // Gain = P Fᵀ (P⁻ of the next)⁻¹ with F = [[1, k], [0, 1]].
    const k = lengths?.[i] ?? 1;
    const [a, b, c] = [of(i, 2), of(i, 3), of(i, 4)];
    const [na, nb, nc] = [of(i + 1, 6), of(i + 1, 7), of(i + 1, 8)];
    const det = na * nc - nb * nb;
    const [m11, m12, m21, m22] = [a + k * b, b, b + k * c, c];
    const [dt, dp] = [st - of(i + 1, 5), sp - of(i, 1)];
    st = of(i, 0) + ((m11 * nc - m12 * nb) * dt + (m12 * na - m11 * nb) * dp) / det;
    sp = of(i, 1) + ((m21 * nc - m22 * nb) * dt + (m22 * na - m21 * nb) * dp) / det;
    seconds[i] = st;
  }
  return seconds;
}

/** How far from a pulse its hits may lie: seconds, and share of the pulse. */
const NEAR_SECONDS = 0.07;
const NEAR_SHARE = 0.2;

/** How a role stands to a part of the pulse (0 = the pulse itself): seconds late in the middle, and spread. */
export interface Leaning {
  readonly role: Role;
  readonly part: number;
  readonly late: number;
  readonly spread: number;
  readonly hits: number;
}

/** How much a role says about where the band has the pulse; what swells says it less than what strikes. */
const ANCHORS: Readonly<Partial<Record<Role, number>>> = {
  click: 4,
  kick: 1,
  snare: 1,
  hat: 0.8,
  percussion: 0.6,
  bass: 0.35,
  chords: 0.35,
};

interface Near {
  readonly place: number;
  readonly seconds: number;
  readonly strength: number;
}

function nearHits(lattice: readonly number[], stream: Stream): Near[] {
  const out: Near[] = [];
  let i = 0;
  stream.seconds.forEach((t, k) => {
    while (i + 1 < lattice.length && abs((lattice[i + 1] as number) - t) <= abs((lattice[i] as number) - t))
      i++;
    const length =
      i + 1 < lattice.length
        ? (lattice[i + 1] as number) - (lattice[i] as number)
        : (lattice[i] as number) - (lattice[i - 1] as number);
    if (abs(t - (lattice[i] as number)) <= min(NEAR_SECONDS, NEAR_SHARE * length))
      out.push({ place: i, seconds: t, strength: stream.strength[k] as number });
  });
  return out;
}

/** What {@link toConsensus} may be told. */
interface ConsensusOptions {
  readonly rounds?: number;
  /** How long each pulse is against others (uneven bars); null = all alike. */
  readonly lengths?: readonly number[] | null;
  /** Into how many a pulse is divided by those who play: their hits between pulses count too, each part with its own leaning, as swing has it. */
  readonly parts?: number;
}

/** Moves pulses to where the players have them together: what each role leans is taken out first, then the clock is estimated. */
export function toConsensus(
  beats: readonly number[],
  streams: readonly Stream[],
  { rounds = 2, lengths = null, parts = 1 }: ConsensusOptions = {},
): {
  readonly beats: number[];
  readonly moments: readonly PulseMoment[];
  readonly leanings: readonly Leaning[];
} {
  let at = divided(beats, parts);
  const steps = lengths && parts === 1 ? lengths : null;
  let moments: PulseMoment[] = [];
  let leanings: Leaning[] = [];
  const useful = streams.filter((s) => s.role !== 'harmony' && s.role !== 'line');
  for (let round = 0; round < rounds; round++) {
    const near = useful.map((s) => nearHits(at, s));
    leanings = useful.flatMap(({ role }, r) =>
      Array.from({ length: parts }, (_, part) => {
        const off = (near[r] as Near[])
          .filter((h) => h.place % parts === part)
          .map((h) => h.seconds - (at[h.place] as number));
        const late = off.length > 3 ? median(off) : 0;
        const spread =
          off.length > 3 ? max(0.0005, 1.4826 * median(off.map((x) => abs(x - late)))) : USUAL_SPREAD;
        return { role, part, late, spread, hits: off.length };
      }),
    );
    // The pulse itself is where the players are on average, the surest most.
    const zero = leanings
      .filter((l) => l.part === 0)
      .reduce(
        (sum, l) => {
          const w = ((ANCHORS[l.role] ?? 0) * l.hits) / (l.spread ** 2 + 1e-5);
          return { w: sum.w + w, x: sum.x + w * l.late };
        },
        { w: 1e-9, x: 0 },
      );
    const middle = zero.x / zero.w;
    const sums = at.map(() => ({ w: 0, x: 0 }));
    near.forEach((hits, r) => {
      for (const h of hits) {
        const { late, spread } = leanings[r * parts + (h.place % parts)] as Leaning;
        const w = h.strength / (spread ** 2 + 4e-6);
        const sum = sums[h.place] as { w: number; x: number };
        sum.w += w;
        sum.x += w * (h.seconds - late + middle);
      }
    });
    moments = sums.map(({ w, x }, i) =>
      w > 0 ? { seconds: x / w, spread: sqrt(1 / w) } : { seconds: at[i] as number, spread: Infinity },
    );
    at = estimateClock(
      moments,
      median(at.slice(1).map((t, i) => (t - (at[i] as number)) / (steps?.[i] ?? 1))),
      steps,
    );
  }
  const onPulse = <T>(list: readonly T[]): T[] => list.filter((_, i) => i % parts === 0);
  return { beats: onPulse(at), moments: onPulse(moments), leanings };
}

/** Pulses with the parts between them. */
function divided(beats: readonly number[], parts: number): number[] {
  return beats.flatMap((t, i) =>
    i + 1 < beats.length
      ? Array.from({ length: parts }, (_, k) => t + (((beats[i + 1] as number) - t) * k) / parts)
      : [t],
  );
}
