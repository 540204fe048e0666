import { logGamma } from '../dsp';
import type { Role, Stream } from './streams';

const { PI, abs, ceil, exp, floor, log, max, min, round, sqrt } = Math;

/** Where in a bar a hit can lie, by how the bar is built. */
type BarPosition = 'downbeat' | 'middle' | 'backbeat' | 'pulse' | 'half' | 'quarter' | 'third' | 'between';

/** A way to divide bars. */
export interface Structure {
  readonly name: string;
  readonly numerator: number;
  readonly denominator: number;
  /** Length of each pulse in units of the path: 1 for even bars; in uneven ones the units are eighths. */
  readonly pulses: readonly number[];
  readonly places: readonly BarPosition[];
  readonly divides: 2 | 3;
  /** Backbeats lie in the middle of the bar. */
  readonly halfTime: boolean;
  /** How common it is, natural logarithm against plain four (common practice, no source). */
  readonly prior: number;
}

const even = (
  name: string,
  numerator: number,
  denominator: number,
  places: readonly BarPosition[],
  divides: 2 | 3,
  prior: number,
  halfTime = false,
): Structure => ({
  name,
  numerator,
  denominator,
  pulses: places.map(() => 1),
  places,
  divides,
  halfTime,
  prior,
});
const FOUR: readonly BarPosition[] = ['downbeat', 'backbeat', 'middle', 'backbeat'];

/** Bars whose pulses are as long as each other, in the order they are tried. */
export const EVEN_STRUCTURES: readonly Structure[] = [
  even('4/4', 4, 4, FOUR, 2, 0),
  even('4/4 half-time', 4, 4, ['downbeat', 'pulse', 'backbeat', 'pulse'], 2, -2.5, true),
  even('4/4 swung', 4, 4, FOUR, 3, -1.5),
  // Expected to sound as half of a bar of four does: never likelier than that, but said where nothing tells the halves apart.
  even('2/4', 2, 4, ['middle', 'backbeat'], 2, -8),
  even('3/4', 3, 4, ['downbeat', 'pulse', 'pulse'], 2, -3),
  even('3/4 swung', 3, 4, ['downbeat', 'pulse', 'pulse'], 3, -4.5),
  even('6/8', 6, 8, ['downbeat', 'backbeat'], 3, -2.5),
  even('12/8', 12, 8, FOUR, 3, -3.5),
  even('9/8', 9, 8, ['downbeat', 'pulse', 'pulse'], 3, -6),
  even('5/4', 5, 4, ['downbeat', 'pulse', 'pulse', 'middle', 'pulse'], 2, -6),
  even('7/4', 7, 4, ['downbeat', 'pulse', 'pulse', 'pulse', 'middle', 'pulse', 'pulse'], 2, -9),
];
const uneven = (name: string, numerator: number, groups: readonly number[], prior: number): Structure => ({
  name,
  numerator,
  denominator: 8,
  pulses: groups,
  places: groups.map((_, i) => (i === 0 ? 'downbeat' : 'pulse')),
  divides: 2,
  halfTime: false,
  prior,
});
const even8 = (name: string, numerator: number, places: readonly BarPosition[]): Structure => ({
  name,
  numerator,
  denominator: 4,
  pulses: places.map(() => 2),
  places,
  divides: 2,
  halfTime: false,
  prior: 0,
});
/** Bars of eighths in uneven groups; their paths are those of the eighths. */
export const UNEVEN_STRUCTURES: readonly Structure[] = [
  uneven('7/8', 7, [2, 2, 3], -5),
  uneven('7/8', 7, [3, 2, 2], -6),
  uneven('7/8', 7, [2, 3, 2], -7),
  uneven('5/8', 5, [3, 2], -7),
  uneven('5/8', 5, [2, 3], -7),
];
/** What single bars among uneven ones may be, counted in eighths as they are. */
const EVEN_IN_EIGHTHS: readonly Structure[] = [
  even8('4/4', 4, FOUR),
  even8('3/4', 3, ['downbeat', 'pulse', 'pulse']),
];
export const OTHER_BARS: readonly Structure[] = [
  ...EVEN_IN_EIGHTHS,
  even8('2/4', 2, ['middle', 'backbeat']),
  uneven('9/8', 9, [2, 2, 2, 3], 0),
  ...UNEVEN_STRUCTURES,
];
/** Structures to read from a path of eighths: uneven ones, and even ones with single uneven bars among them. */
export const IN_EIGHTHS: readonly Structure[] = [...UNEVEN_STRUCTURES, ...EVEN_IN_EIGHTHS];

export const isUneven = ({ pulses }: Structure): boolean => pulses.some((p) => p !== pulses[0]);

/** Whether a structure is read from a path of eighths rather than of pulses. */
export const isInEighths = ({ pulses }: Structure): boolean => (pulses[0] as number) > 1;

/** Place of each unit of a bar; null for those between pulses. */
export const unitPositions = ({ pulses, places }: Structure): (BarPosition | null)[] =>
  pulses.flatMap((length, p) => [
    places[p] as BarPosition,
    ...Array.from({ length: length - 1 }, () => null),
  ]);

/** Expected density of hits at each place against an even spread, by role (common practice, no source; not fitted to the shared sessions). */
const DENSITY: Readonly<Record<Role, Readonly<Record<BarPosition, number>>>> = {
  kick: {
    downbeat: 10,
    middle: 5,
    backbeat: 1.5,
    pulse: 2.5,
    half: 2.2,
    quarter: 0.9,
    third: 1.4,
    between: 0.15,
  },
  snare: {
    downbeat: 0.8,
    middle: 1.5,
    backbeat: 10,
    pulse: 3.5,
    half: 1,
    quarter: 0.7,
    third: 0.8,
    between: 0.15,
  },
  hat: { downbeat: 4, middle: 4, backbeat: 4, pulse: 4, half: 3.4, quarter: 1.2, third: 2, between: 0.15 },
  crash: {
    downbeat: 12,
    middle: 3,
    backbeat: 1.5,
    pulse: 2,
    half: 1,
    quarter: 0.4,
    third: 0.6,
    between: 0.15,
  },
  percussion: {
    downbeat: 4,
    middle: 3.6,
    backbeat: 4,
    pulse: 3.6,
    half: 2.8,
    quarter: 1.5,
    third: 2,
    between: 0.2,
  },
  bass: {
    downbeat: 9,
    middle: 4,
    backbeat: 2,
    pulse: 2.5,
    half: 2.2,
    quarter: 0.8,
    third: 1.4,
    between: 0.2,
  },
  chords: {
    downbeat: 4.5,
    middle: 3,
    backbeat: 2.4,
    pulse: 2.5,
    half: 2.1,
    quarter: 0.9,
    third: 1.5,
    between: 0.25,
  },
  line: {
    downbeat: 2.6,
    middle: 2.2,
    backbeat: 1.9,
    pulse: 2,
    half: 1.7,
    quarter: 0.9,
    third: 1.3,
    between: 0.5,
  },
  harmony: {
    downbeat: 14,
    middle: 4,
    backbeat: 1.2,
    pulse: 1.3,
    half: 1,
    quarter: 0.4,
    third: 0.6,
    between: 0.2,
  },
  click: { downbeat: 12, middle: 9, backbeat: 9, pulse: 9, half: 2, quarter: 0.5, third: 1.5, between: 0.02 },
};
/** How much a role says about bars; what several players share must not count as often as it is heard (own). */
export const ROLE_WEIGHT: Readonly<Record<Role, number>> = {
  kick: 0.8,
  snare: 0.8,
  hat: 0.4,
  crash: 0.7,
  percussion: 0.4,
  bass: 0.7,
  chords: 0.4,
  line: 0.12,
  harmony: 1,
  click: 1,
};
/** How many hits the expectation within a pulse is worth against what the song itself shows. */
const PRIOR_HITS = 250;

/** What is computed once, by what it depends on. */
function memo<K extends (string | number)[], T>(make: (...key: K) => T): (...key: K) => T {
  const known = new Map<string, T>();
  return (...key) => {
    const name = key.join();
    const found = known.get(name);
    if (found !== undefined) return found;
    const made = make(...key);
    known.set(name, made);
    return made;
  };
}

/** Hits of a role in units of the path (pulse n = n), with their strengths. */
export interface HitsOnPath {
  readonly role: Role;
  readonly at: Float64Array;
  readonly strength: Float32Array;
}

/** Places hits on a path of rising moments; those outside are left out. */
export function hitsOnPath(path: readonly number[], streams: readonly Stream[]): HitsOnPath[] {
  return streams.map(({ role, seconds, strength }) => {
    const at: number[] = [];
    const kept: number[] = [];
    let i = 0;
    seconds.forEach((t, k) => {
      while (i + 2 < path.length && (path[i + 1] as number) <= t) i++;
      const [a, b] = [path[i] as number, path[i + 1] as number];
      const x = i + (t - a) / (b - a);
      // A hit just before the first pulse or after the last still belongs to it.
      if (x > -0.5 && x < path.length - 0.5) {
        at.push(x);
        kept.push(strength[k] as number);
      }
    });
    return { role, at: Float64Array.from(at), strength: Float32Array.from(kept) };
  });
}

/** Bins of deviations from the grid, s. */
const BIN_SECONDS = 0.002;
/** How exactly a role plays (s), and what share of its hits belongs to the grid at all: tried, the likeliest is taken. */
const SPREADS = [0.006, 0.012, 0.022] as const;
const SHARES = [0.15, 0.3, 0.5, 0.7, 0.85, 0.96] as const;

/** How much likelier hits are as lying around a grid of cells than anywhere, natural logarithm. `deviations` s, weighted by strength; `cell` = from one place of the grid to the next, s. */
export function gridGain(deviations: Float64Array, strength: Float32Array, cell: number): number {
  const bins = new Float64Array(ceil(cell / 2 / BIN_SECONDS) + 1);
  deviations.forEach((d, i) => {
    const b = min(bins.length - 1, round(abs(d) / BIN_SECONDS));
    bins[b] = (bins[b] as number) + (strength[i] as number);
  });
  let best = 0;
  for (const spread of SPREADS) {
    const kernel = Float64Array.from(
      bins,
      (_, b) => (cell * exp(-0.5 * ((b * BIN_SECONDS) / spread) ** 2)) / (spread * sqrt(2 * PI)),
    );
    for (const share of SHARES) {
      let sum = 0;
      for (let b = 0; b < bins.length; b++)
        if ((bins[b] as number) > 0)
          sum += (bins[b] as number) * log(1 - share + share * (kernel[b] as number));
      if (sum > best) best = sum;
    }
  }
  return best;
}

/** Shares of hits that are expected, worth so many, with the logarithms of the gamma function of each that are needed again and again. */
interface Expected {
  readonly hits: number;
  readonly worth: Float64Array;
  readonly gammas: Float64Array;
  readonly all: number;
}
function expected(shares: readonly number[], hits: number): Expected {
  const worth = Float64Array.from(shares, (x) => hits * x);
  return { hits, worth, gammas: worth.map(logGamma), all: logGamma(hits) };
}

/** Log likelihood of counts (Dirichlet-multinomial) against an even spread; the counts are read from the one at `from` on, round the end. */
function gain(counts: ArrayLike<number>, { hits, worth, gammas, all }: Expected, from = 0): number {
  const n = counts.length;
  let total = 0;
  let sum = 0;
  for (let b = 0; b < n; b++) {
    const c = counts[(b + from) % n] as number;
    if (c <= 0) continue;
    total += c;
    sum += logGamma((worth[b] as number) + c) - (gammas[b] as number);
  }
  return total === 0 ? 0 : all - logGamma(hits + total) + sum + total * log(n);
}

/** Logarithm of the sum of two exponentials. */
const eitherOf = (a: number, b: number): number => max(a, b) + log(1 + exp(-abs(a - b)));

/** Logarithm of a sum of exponentials. */
function likeliest(values: readonly number[]): number {
  const top = max(...values);
  return top + log(values.reduce((a, v) => a + exp(v - top), 0));
}

/** Ways to divide a pulse that players keep to through a song, each with how common it is: a song without sixteenths must not pay for that. */
const divisionsOf = memo(
  (role: Role, divides: 1 | 2 | 3): readonly { readonly share: Expected; readonly prior: number }[] => {
    const d = DENSITY[role];
    const pulse = (d.downbeat + d.middle + 2 * d.backbeat) / 4;
    const rest = d.between;
    const ways: readonly (readonly [readonly number[], number])[] =
      divides === 3
        ? [
            [[pulse, rest, rest], -1],
            [[pulse, rest, d.third], -0.5],
            [[pulse, d.third, d.third], -0.5],
          ]
        : divides === 2
          ? [
              [[pulse, rest, rest, rest], -0.5],
              [[pulse, rest, d.half, rest], 0],
              [[pulse, 0.7 * d.half, d.half, 0.7 * d.half], -1],
              [[rest * 2, rest, d.half, rest], role === 'kick' || role === 'snare' ? -15 : -4],
            ]
          : [
              [[pulse, rest], 0],
              [[pulse, d.half], -0.5],
            ];
    return ways.map(([densities, prior]) => {
      const all = densities.reduce((a, x) => a + x, 0);
      return {
        share: expected(
          densities.map((x) => x / all),
          PRIOR_HITS,
        ),
        prior,
      };
    });
  },
);

/** How much better hits are explained by lying near the parts of a pulse, and by which part, than by an even spread. */
function pulseGain(
  placed: readonly HitsOnPath[],
  divides: 1 | 2 | 3,
  parts: number,
  shift: number,
  periodSeconds: number,
): number {
  return placed.reduce((a, p) => {
    const byPart = new Float64Array(parts);
    p.at.forEach((x, i) => {
      const k = round((x - shift) * parts);
      const part = ((k % parts) + parts) % parts;
      byPart[part] = (byPart[part] as number) + (p.strength[i] as number);
    });
    const deviations = p.at.map((x) => {
      const k = (x - shift) * parts;
      return ((k - round(k)) * periodSeconds) / parts;
    });
    return (
      a +
      ROLE_WEIGHT[p.role] *
        (gridGain(deviations, p.strength, periodSeconds / parts) +
          likeliest(divisionsOf(p.role, divides).map(({ share, prior }) => gain(byPart, share) + prior)))
    );
  }, 0);
}

/** Strength of hits by part of a pulse (the pulse itself first) and unit of the cycle: `cells[part][unit]`. `placeOf` gives the unit of each one of the path where they do not go round; below 0 for those that do not count. */
function cellsOf(
  placed: HitsOnPath,
  parts: number,
  units: number,
  shift: number,
  placeOf: ArrayLike<number> | null = null,
): Float64Array[] {
  const cells = Array.from({ length: parts }, () => new Float64Array(units));
  const { at, strength } = placed;
  for (let i = 0; i < at.length; i++) {
    const k = round(((at[i] as number) - shift) * parts);
    const part = ((k % parts) + parts) % parts;
    const n = floor(k / parts);
    const unit = placeOf ? (placeOf[max(0, n)] ?? -1) : ((n % units) + units) % units;
    const cell = cells[part] as Float64Array;
    if (unit >= 0) cell[unit] = (cell[unit] as number) + (strength[i] as number);
  }
  return cells;
}

/** Expected share of a role's hits at each place of a bar, by part of the pulse (0 = the pulse itself). */
export function barExpectation(role: Role, places: readonly (BarPosition | null)[], part: number): number[] {
  const density = places.map((p) => (p === null ? DENSITY[role].half : DENSITY[role][p]));
  const total = density.reduce((a, x) => a + x, 0);
  // What lies between pulses says less about which pulse it is: its expectation is nearly even.
  return density.map((x) => (part === 0 ? x / total : 0.3 * (x / total) + 0.7 / places.length));
}

/** How many hits the expectation of a bar is worth. */
const BAR_PRIOR_HITS = 120;

/** What a role is expected to strike in a bar of these places (named by `/`), in a part of its pulses, each worth {@link BAR_PRIOR_HITS}; without a role, alike everywhere. */
const expectedInBar = memo((role: Role | 'all', names: string, part: number): Expected => {
  const places = names.split('/').map((p) => (p === '' ? null : (p as BarPosition)));
  return expected(
    role === 'all' ? places.map(() => 1 / places.length) : barExpectation(role, places, part),
    BAR_PRIOR_HITS,
  );
});

/** How much better hits are explained by which unit of a bar they lie in, given where in the unit, with the downbeat at whole units `offset`; `cells` by role. */
function barGains(
  placed: readonly HitsOnPath[],
  cells: readonly (readonly Float64Array[])[],
  places: readonly (BarPosition | null)[],
): (offset: number) => number {
  const names = places.map((p) => p ?? '').join('/');
  const alike = expectedInBar('all', names, 0);
  const parts = placed.flatMap(({ role }, r) =>
    (cells[r] as readonly Float64Array[]).map((cell, part) => ({
      cell,
      weight: ROLE_WEIGHT[role],
      own: expectedInBar(role, names, part),
    })),
  );
  // Some play every pulse alike (a kick on all four): that says nothing about the bar, and must not count against it.
  return (offset) =>
    parts.reduce(
      (a, { cell, weight, own }) =>
        a + weight * eitherOf(gain(cell, own, offset), gain(cell, alike, offset) - 1.5),
      0,
    );
}

/** Strength from which a change of chord counts as one. */
const CLEAR_CHANGE = 0.35;
/** How much for and against a reading it is that a chord lasts less than a bar, a bar, two, more (own; that most last a bar or half of one is common practice, no source). */
const CHORD_LASTS = [0, 0.55, -0.55, -0.8] as const;
/** The same where a bar has two pulses only: two such bars are as long as one of others. */
const CHORD_LASTS_SHORT = [0, 0.3, 0.3, -0.5] as const;

/** What the lengths of chords say about a bar of so many units. */
function chordLengthGain(placed: readonly HitsOnPath[], units: number): number {
  const lasts = units <= 2 ? CHORD_LASTS_SHORT : CHORD_LASTS;
  const harmony = placed.find((p) => p.role === 'harmony');
  if (!harmony) return 0;
  let [sum, before] = [0, NaN];
  harmony.at.forEach((x, i) => {
    if ((harmony.strength[i] as number) < CLEAR_CHANGE) return;
    const bars = (x - before) / units;
    if (bars > 0) sum += lasts[bars < 0.75 ? 0 : bars < 1.5 ? 1 : bars < 3 ? 2 : 3] as number;
    before = x;
  });
  return sum;
}

/** Share of the hits between pulses that lie in the first third, from which all eighths of a compound meter are played rather than swung ones, and how much it says (own; that swing leaves it out is common practice, no source). */
const FILLED_SHARE = 0.22;
const FILLED_WEIGHT = 40;
const FILLED_MOST = 8;

/** What speaks for a compound meter (6/8, 9/8, 12/8), and against swing, by which thirds of the pulse are played. */
function filledGain(cells: readonly (readonly Float64Array[])[]): number {
  const sum = (part: number): number =>
    cells.reduce((a, c) => a + (c[part] as Float64Array).reduce((x, y) => x + y, 0), 0);
  const [middle, last] = [sum(1), sum(2)];
  return middle + last < 4
    ? 0
    : max(-FILLED_MOST, min(FILLED_MOST, FILLED_WEIGHT * (middle / (middle + last) - FILLED_SHARE)));
}

/** A structure laid on a path, and how well it explains the hits. */
export interface BarReading {
  readonly structure: Structure;
  /** The downbeats lie at this unit of the path, and every bar after; may be a fraction (the path ran between the pulses). */
  readonly offset: number;
  /** Log evidence against an even spread, priors included. */
  readonly score: number;
  /** How far ahead of the same structure with another downbeat. */
  readonly margin: number;
  /** Single bars of another length are among them. */
  readonly hasOtherBars?: boolean;
}

/** Where pulses may lie against the path. */
const SHIFTS: Readonly<Record<2 | 3, readonly number[]>> = { 2: [0, 0.5], 3: [0, 1 / 3, 2 / 3] };

/** Where people feel the pulse: log-normal around the centre (own, in the range of the literature on preferred tempo). */
const PULSE_CENTRE_BPM = 112;
const COMPOUND_CENTRE_BPM = 84;
const PULSE_WIDTH = 0.42;
const TEMPO_WEIGHT = 12;
const tempoPrior = (bpm: number, structure: Structure): number =>
  -TEMPO_WEIGHT *
  0.5 *
  (log(
    bpm / (structure.denominator === 8 && structure.divides === 3 ? COMPOUND_CENTRE_BPM : PULSE_CENTRE_BPM),
  ) /
    PULSE_WIDTH) **
    2;

/** Every reading of a path worth comparing, best first: each structure with its best downbeat. */
export function readBars(
  path: readonly number[],
  streams: readonly Stream[],
  structures: readonly Structure[],
): BarReading[] {
  const period = ((path.at(-1) as number) - (path[0] as number)) / (path.length - 1);
  const placed = hitsOnPath(path, streams);
  const within = memo((divides: 1 | 2 | 3, parts: number, shift: number) =>
    pulseGain(placed, divides, parts, shift, period),
  );
  const cells = memo((parts: number, units: number, shift: number) =>
    placed.map((p) => cellsOf(p, parts, units, shift)),
  );
  const readings = structures.flatMap((structure) => {
    const inEighths = isInEighths(structure);
    const places = unitPositions(structure);
    const units = places.length;
    const parts = inEighths ? 2 : structure.divides === 3 ? 3 : 4;
    return (inEighths ? [0] : SHIFTS[structure.divides]).map((shift) => {
      const evidence = (expectation: readonly (BarPosition | null)[]): ((offset: number) => number) =>
        barGains(placed, cells(parts, expectation.length, shift), expectation);
      const own = evidence(places);
      const tries = Array.from({ length: units }, (_, offset) => ({ offset, value: own(offset) })).sort(
        (a, b) => b.value - a.value,
      );
      const best = tries[0] as { offset: number; value: number };
      // A song that repeats every half bar must not pay for the bar being longer.
      const half =
        units % 2 === 0 && units > 2
          ? max(
              ...[0, 1].map(
                evidence(places.slice(0, units / 2).map((p) => (p === 'downbeat' ? 'middle' : p))),
              ),
            )
          : -Infinity;
      const bpm = inEighths ? 30 / period : 60 / period;
      const filled =
        structure.divides === 3
          ? filledGain(cells(parts, units, shift)) * (structure.denominator === 8 ? 1 : -1)
          : 0;
      const score =
        filled +
        chordLengthGain(placed, structure.numerator === 2 ? 2 * units : units) +
        within(inEighths ? 1 : structure.divides, parts, shift) +
        max(best.value, half) +
        structure.prior +
        tempoPrior(bpm, structure);
      return {
        structure,
        offset: best.offset + shift,
        score,
        margin: best.value - (tries[1]?.value ?? best.value),
      };
    });
  });
  return readings.sort((a, b) => b.score - a.score);
}

/**
 * What is gained where the bars of a reading in eighths do not go on alike: `placeOf` each unit of the path in its bar, below 0 in bars of
 * another length. With it how far ahead of another downbeat.
 */
export function otherBarsGain(
  path: readonly number[],
  streams: readonly Stream[],
  { structure, offset }: Pick<BarReading, 'structure' | 'offset'>,
  placeOf: ArrayLike<number>,
): { readonly gain: number; readonly margin: number } {
  const placed = hitsOnPath(path, streams);
  const places = unitPositions(structure);
  const evidence = (by: ArrayLike<number> | null): ((offset: number) => number) =>
    barGains(
      placed,
      placed.map((p) => cellsOf(p, 2, places.length, 0, by)),
      places,
    );
  const own = evidence(placeOf);
  const best = own(0);
  return {
    gain: best - evidence(null)(offset),
    margin: best - max(...places.slice(1).map((_, i) => own(i + 1))),
  };
}
