import { percentile } from '../dsp';
import { err, ok, type ProgressSink, type Result } from '../units';
import {
  type BarReading,
  EVEN_STRUCTURES,
  IN_EIGHTHS,
  isInEighths,
  isUneven,
  readBars,
  type Structure,
} from './bar-readings';
import { type Meter, pulseQuarters } from '../time';
import { pulsePositions } from './adjust';
import { type Bars, barsOf, layBars, layEighths, withOtherBars } from './bar-path';
import { findBeatPath, PATH_PER_SECOND } from './beat-path';
import { type PulseMoment, toConsensus } from './clock';
import { clickGrid, dialled, pulsesOfClick, strokesAt } from './click-grid';
import { constantGrid } from './constant-grid';
import { withoutCountIn } from './count-in';
import { loosePassages } from './doubts';
import type { AlternativeReading, TempoReading, TempoTrack, TimekeeperChoice } from './reading';
import { quietEnds, trimBeats } from './trim';
import { sharesOf } from './shares';
import { fitGrid, rounded } from './steady';
import { type Role, type Stream, streamsOf } from './streams';
import { chooseTimekeepers, trackNovelty, withShares } from './timekeepers';

/** Why no tempo was found. */
export interface TempoFault {
  readonly code: 'tempo.no_timekeepers' | 'tempo.nothing_found';
}

const SLOWEST_BPM = 44;
const FASTEST_BPM = 220;
/** Eighths of uneven bars, a minute. */
const FASTEST_UNIT = 340;
/** A song's tempo stays within this factor of its middle. */
const WANDER = 1.22;

/** How much hits of a role say about where pulses are (own). */
const PULSE_WEIGHT: Readonly<Record<Role, number>> = {
  kick: 1,
  snare: 1,
  hat: 0.55,
  crash: 0.4,
  percussion: 0.6,
  bass: 0.5,
  chords: 0.45,
  line: 0.08,
  harmony: 1,
  click: 3,
};

/**
 * Finds pulses, bars and steadiness over several tracks as one performance.
 * `timekeepers`: ids to use, or null to choose by family and content. Cost about linear in length.
 */
export function detectTempo(
  tracks: readonly TempoTrack[],
  options: { readonly timekeepers: readonly string[] | null; readonly progress?: ProgressSink } = {
    timekeepers: null,
  },
): Result<TempoReading, TempoFault> {
  const novelties = tracks.map(trackNovelty);
  const choices = chooseTimekeepers(tracks, novelties, options.timekeepers);
  if (!choices.some((c) => c.chosen)) return err({ code: 'tempo.no_timekeepers' });
  options.progress?.(0.1);
  const speaks = choices.map((c) => (c.reason === 'silent' || c.reason === 'duplicate' ? 0 : 1));
  const all = streamsOf(tracks, speaks);
  const keeping = options.timekeepers
    ? streamsOf(
        tracks,
        choices.map((c) => (c.chosen ? 1 : 0)),
      )
    : all;
  const raw = weighStreams(keeping);
  const activation = levelled(raw, PATH_PER_SECOND);
  const candidates = periodCandidates(activation);
  if (candidates.length === 0) return err({ code: 'tempo.nothing_found' });
  const ways: { path: number[]; readonly cost: number }[] = [];
  candidates.forEach((period, i) => {
    options.progress?.(0.1 + (0.6 * i) / candidates.length);
    for (const { moments, cost } of pathsNear(period, i < 2, activation, raw, keeping)) {
      if (moments.length < FEWEST_PULSES) continue;
      for (const path of relatives(toConsensus(moments, keeping).beats))
        if (path.length >= FEWEST_PULSES)
          ways.push({ path: toConsensus(path, keeping, { rounds: 1 }).beats, cost });
    }
  });
  if (ways.length === 0) return err({ code: 'tempo.nothing_found' });
  options.progress?.(0.7);
  // Readings are compared by the same hits: every way goes from the first to the last.
  const [from, to] = [
    Math.min(...ways.map((w) => w.path[0] as number)),
    Math.max(...ways.map((w) => w.path.at(-1) as number)),
  ];
  const taken: (readonly number[])[] = [];
  const periodic = ways
    .flatMap(({ path, cost }): Rated[] => {
      const whole = extended(path, from, to);
      if (taken.some((other) => isSamePath(other, whole))) return [];
      taken.push(whole);
      const bpm = (60 * (whole.length - 1)) / ((whole.at(-1) as number) - (whole[0] as number));
      const structures = [
        ...(bpm >= SLOWEST_BPM && bpm <= FASTEST_BPM ? EVEN_STRUCTURES : []),
        ...(bpm > 150 ? IN_EIGHTHS : []),
      ];
      return readBars(whole, all, structures).map((reading) => ({
        ...reading,
        path: whole,
        score: reading.score - cost,
      }));
    })
    .sort((a, b) => b.score - a.score);
  const looked = mayBeBroken(periodic);
  const rated = periodic
    .flatMap((r): Rated[] => {
      const broken = looked.includes(r) ? withOtherBars(r, r.path, all) : null;
      // Even bars are read from their pulses, unless there are bars among them that these cannot hold.
      return broken ? [broken] : isInEighths(r.structure) && !isUneven(r.structure) ? [] : [r];
    })
    .sort((a, b) => b.score - a.score);
  const failed: Rated[] = [];
  for (const best of contenders(rated)) {
    const slowed = withTail(best, activation, keeping, all, to);
    const reading = finish(
      choices,
      all,
      keeping,
      raw,
      slowed ? [slowed, ...rated] : rated,
      slowed ?? best,
      failed,
    );
    if (reading) return ok(reading);
    failed.push(best);
  }
  return err({ code: 'tempo.nothing_found' });
}

/** A pulse that nothing keeps to may come out ahead by bending to every hit: so far behind it others are tried, so many at most (own). */
const HARDLY_BEHIND = 10;
const MOST_CONTENDERS = 3;

function contenders(rated: readonly Rated[]): readonly Rated[] {
  const taken: Rated[] = [];
  for (const r of rated)
    if (
      taken.length < MOST_CONTENDERS &&
      r.score > (rated[0] as Rated).score - HARDLY_BEHIND &&
      !taken.some((t) => sameLevel(r, t))
    )
      taken.push(r);
  return taken;
}

/** Readings in eighths that bars of another length among them may lift: each structure where it does best, and even ones only where they fall behind what is read from pulses, as a phase lost and never found again makes them. */
function mayBeBroken(rated: readonly Rated[]): readonly Rated[] {
  const most = rated[0]?.score ?? 0;
  const first = rated.filter(
    (r, i) => isInEighths(r.structure) && rated.findIndex((other) => other.structure === r.structure) === i,
  );
  return first.filter(
    (r) => r.score > most - MOST_GAINED && (isUneven(r.structure) || r.score < most - LEAST_LOST),
  );
}

const FEWEST_PULSES = 8;
/** Some songs speed up or slow down by half. */
const WIDE_WANDER = 1.6;

/** What a free tempo must gain over one tempo, and one free in a wide range (own, in log evidence). */
const FREE_COST = 15;
const WIDE_COST = 40;

/** Ways through the song near a period (frames): with the tempo free around it, at one tempo, and for the likeliest ones with the tempo free in a wide range. */
function pathsNear(
  period: number,
  wide: boolean,
  activation: Float32Array,
  raw: Float32Array,
  keeping: readonly Stream[],
): { readonly moments: readonly number[]; readonly cost: number }[] {
  const within = (wander: number): number[] =>
    trimBeats(
      findBeatPath(
        activation,
        Math.max(12, Math.floor(period / wander)),
        Math.ceil(period * wander),
      ).frames.map((f) => f / PATH_PER_SECOND),
      raw,
    );
  const free = within(WANDER);
  const [from, to] = [free[0], free.at(-1)];
  if (from === undefined || to === undefined || free.length < FEWEST_PULSES) return [];
  const mean = (to - from) / (free.length - 1);
  return [
    { moments: free, cost: FREE_COST },
    {
      moments: constantGrid(keeping, (s) => PULSE_WEIGHT[s.role], mean, from - mean / 4, to + mean / 4),
      cost: 0,
    },
    ...(wide ? [{ moments: within(WIDE_WANDER), cost: WIDE_COST }] : []),
  ];
}

/** Pulses at the end that may slow down much more than any song wanders, and what that must gain (own, in log evidence). */
const TAIL_PULSES = 16;
const TAIL_SLOWEST = 1.9;
const TAIL_COST = 3;

/** The reading with an end that slows down, where that explains what is heard there better; null where it does not. */
function withTail(
  best: Rated,
  activation: Float32Array,
  keeping: readonly Stream[],
  all: readonly Stream[],
  to: number,
): Rated | null {
  const { path } = best;
  if (path.length < 3 * TAIL_PULSES) return null;
  const at = path.length - TAIL_PULSES;
  const period =
    (PATH_PER_SECOND * ((path[at] as number) - (path[at - TAIL_PULSES] as number))) / TAIL_PULSES;
  const from = Math.max(0, Math.round((path[at - 2] as number) * PATH_PER_SECOND));
  const end = Math.min(activation.length, Math.round((to + period / PATH_PER_SECOND) * PATH_PER_SECOND));
  const { frames } = findBeatPath(
    activation.subarray(from, end),
    Math.max(12, Math.floor(0.85 * period)),
    Math.ceil(TAIL_SLOWEST * period),
  );
  const tail = frames.map((f) => (from + f) / PATH_PER_SECOND);
  const join = path.findIndex((t, i) => i >= at - 2 && tail.some((x) => Math.abs(x - t) < 0.05));
  if (join < 0) return null;
  const rest = tail.filter((t) => t > (path[join] as number) + (0.5 * period) / PATH_PER_SECOND);
  const whole = extended(
    toConsensus([...path.slice(0, join + 1), ...rest], keeping, { rounds: 1 }).beats,
    path[0] as number,
    to,
  );
  const again = readBars(whole, all, [best.structure]).find((r) => r.offset % 1 === best.offset % 1);
  if (!again) return null;
  const before = readBars(path, all, [best.structure]).find((r) => r.offset % 1 === best.offset % 1);
  return before && again.score - TAIL_COST > before.score
    ? { ...best, offset: again.offset, path: whole }
    : null;
}

/** A path drawn out to a span at the tempo of its ends. */
function extended(path: readonly number[], from: number, to: number): number[] {
  const edge = Math.min(4, path.length - 1);
  const [first, last] = [path[0] as number, path.at(-1) as number];
  const before = ((path[edge] as number) - first) / edge;
  const after = (last - (path[path.length - 1 - edge] as number)) / edge;
  const lead = Math.max(0, Math.floor((first - from) / before + 0.3));
  const tail = Math.max(0, Math.floor((to - last) / after + 0.3));
  return [
    ...Array.from({ length: lead }, (_, i) => first - (lead - i) * before),
    ...path,
    ...Array.from({ length: tail }, (_, i) => last + (i + 1) * after),
  ];
}

/** Whether two ways through the song have the same pulses all along. */
function isSamePath(a: readonly number[], b: readonly number[]): boolean {
  if (a.length !== b.length) return false;
  const near = 0.03 * (((a.at(-1) as number) - (a[0] as number)) / (a.length - 1));
  return a.every((t, i) => Math.abs(t - (b[i] as number)) < near);
}

/** A path and those at other levels that follow from it: what one level tracks through a break another may lose. */
function relatives(path: readonly number[]): number[][] {
  const at = (x: number): number => {
    const i = Math.min(path.length - 2, Math.floor(x));
    return (path[i] as number) + (x - i) * ((path[i + 1] as number) - (path[i] as number));
  };
  const bpm = (60 * (path.length - 1)) / ((path.at(-1) as number) - (path[0] as number));
  const every = (step: number, from = 0): number[] =>
    Array.from({ length: Math.floor((path.length - 1 - from) / step + 1e-9) + 1 }, (_, k) =>
      at(from + k * step),
    );
  return [
    [...path],
    ...[0.5, 2, 2 / 3]
      .filter((step) => bpm / step >= SLOWEST_BPM && bpm / step <= FASTEST_BPM)
      .flatMap((step) => (step === 2 ? [every(2), every(2, 1)] : [every(step)])),
  ];
}

type Rated = BarReading & { readonly path: readonly number[] };

/** Moments of the pulses of a reading. */
function pulsesOf({ path, structure, offset }: Rated): number[] {
  const at = (x: number): number | null => {
    const i = Math.max(0, Math.min(path.length - 2, Math.floor(x)));
    const f = x - i;
    return x < -0.01 || x > path.length - 0.99
      ? null
      : (path[i] as number) + f * ((path[i + 1] as number) - (path[i] as number));
  };
  const units = structure.pulses.reduce((a, p) => a + p, 0);
  const beats: number[] = [];
  for (let bar = offset - units * Math.ceil(offset / units + 1); bar < path.length; bar += units) {
    let x = bar;
    for (const length of structure.pulses) {
      const t = at(x);
      if (t !== null) beats.push(t);
      x += length;
    }
  }
  return beats;
}

/** The band's clock on a path, and the bars on it. */
interface LaidBars {
  readonly found: ReturnType<typeof toConsensus>;
  readonly bars: Bars;
}

function barsOfPulses(
  best: Rated,
  all: readonly Stream[],
  keeping: readonly Stream[],
  raw: Float32Array,
): LaidBars | null {
  const { structure } = best;
  const trimmed = trimBeats(pulsesOf(best), raw);
  if (trimmed.length < FEWEST_PULSES) return null;
  const quiet = quietEnds(trimmed, keeping, structure.divides);
  const found = toConsensus([...quiet.before, ...trimmed, ...quiet.after], keeping, {
    rounds: 3,
    parts: structure.divides,
  });
  const mayHold = (s: Structure): boolean =>
    s.denominator === structure.denominator &&
    s.divides === structure.divides &&
    !s.halfTime &&
    !structure.halfTime &&
    s.pulses.length !== structure.pulses.length &&
    (s.pulses.length === 3 || s.pulses.length === 4);
  return { found, bars: layBars(found.beats, all, best, EVEN_STRUCTURES.filter(mayHold)) };
}

function barsInEighths(
  best: Rated,
  streams: readonly Stream[],
  keeping: readonly Stream[],
  raw: Float32Array,
): LaidBars | null {
  const laid = layEighths(best.path, streams, best);
  const trimmed = trimBeats(
    laid.map((p) => p.seconds),
    raw,
  );
  if (trimmed.length < FEWEST_PULSES) return null;
  const from = laid.findIndex((p) => p.seconds === trimmed[0]);
  const all = laid.slice(from, from + trimmed.length);
  // A pickup is counted back in bars like the first.
  const first = all.findIndex((p) => p.opensBar);
  const kept = all.slice(0, first).every((p) => p.structure === all[first]?.structure)
    ? all
    : all.slice(first);
  const found = toConsensus(
    kept.map((p) => p.seconds),
    keeping,
    { rounds: 3, lengths: kept.map((p) => p.units) },
  );
  return { found, bars: barsOf(kept) };
}

/** From the best reading: bars, the band's clock, whether it is steady, and how sure each pulse is. `failed`: readings ahead of it that were none. Null when it is no pulse after all. */
function finish(
  timekeepers: readonly TimekeeperChoice[],
  all: readonly Stream[],
  keeping: readonly Stream[],
  raw: Float32Array,
  rated: readonly Rated[],
  best: Rated,
  failed: readonly Rated[],
): TempoReading | null {
  const { structure } = best;
  const laid = isInEighths(structure)
    ? barsInEighths(best, all, keeping, raw)
    : barsOfPulses(best, all, keeping, raw);
  if (!laid) return null;
  const { found } = laid;
  const bars = withoutCountIn(found.beats, laid.bars, all);
  const places = pulsePositions({
    beats: found.beats,
    firstDownbeat: bars.firstDownbeat,
    meters: bars.meters,
  });
  const perPulse = pulseQuarters(bars.meters[0] as Meter);
  const middle = ((places[0] as number) + (places.at(-1) as number)) / 2;
  // The band leans on a click; what it leans on is the time.
  const strokes = strokesAt(found.beats, keeping);
  const ofClick = strokes && clickGrid(places, strokes);
  const fitted = ofClick ?? fitGrid(places, found.moments, found.beats);
  const grid = fitted && (ofClick ? dialled : rounded)(fitted, perPulse, middle);
  // The tempo as fitted is uncertain, and a round one is not quite it: both grow from the middle to the end.
  const endErrorSeconds =
    fitted && grid
      ? Math.hypot(fitted.error, fitted.quarterSeconds - grid.quarterSeconds) *
        ((places.at(-1) as number) - middle)
      : undefined;
  const beats = grid
    ? places.map((q) => grid.offsetSeconds + q * grid.quarterSeconds)
    : ((strokes && pulsesOfClick(found.beats, strokes)) ?? found.beats);
  // Another level or phase would make every pulse wrong: what speaks for the one taken holds for all of them.
  const rival = rated.find((r) => ![best, ...failed].some((other) => sameLevel(r, other)));
  /** How far anything is to be believed here, whichever reading. */
  const belief =
    (failed.length > 0 ? SECOND_CHOICE : 1) * (1 - Math.exp(-Math.max(0, best.score) / LITTLE_EVIDENCE));
  const level = belief * (rival ? 1 / (1 + Math.exp((rival.score - best.score) / LEVEL_SCALE)) : 0.99);
  const local = rateBeats(beats, found.moments);
  // A path found in talk, noise or chance hits bends to them and still misses: pulses that are there are hit.
  if (level < FAINTEST_LEVEL || local.reduce((a, x) => a + x, 0) / local.length < FAINTEST_FIT) return null;
  const confidence = beats.map((_, i) => Math.max(0.05, Math.min(0.98, level * (local[i] as number))));
  // Bars of another length would be wrong nearly everywhere, unless these are whole numbers of them.
  const other = rated.find(
    (r) => sameLevel(r, best) && structure.pulses.length % r.structure.pulses.length !== 0,
  );
  const length = other ? 1 / (1 + Math.exp((other.score - best.score) / LEVEL_SCALE)) : 0.99;
  const begins = bars.begins.map((p, i) => Math.min(0.98, p * length, confidence[i] as number));
  const off = beats.map((t, i) => {
    const h = found.moments[i] as PulseMoment;
    return Number.isFinite(h.spread) ? Math.abs(h.seconds - t) : NaN;
  });
  // One tempo holds where nobody plays, too.
  const loose = grid ? [] : loosePassages(beats, off);
  return {
    beats,
    confidence,
    begins,
    ...(loose.length > 0 ? { loose } : {}),
    firstDownbeat: bars.firstDownbeat,
    meters: bars.meters,
    steady: grid !== null,
    bpm: grid ? 60 / (grid.quarterSeconds * perPulse) : null,
    gridOffsetSeconds: grid ? (beats[0] as number) : null,
    ...(endErrorSeconds === undefined ? {} : { endErrorSeconds }),
    timekeepers: withShares(timekeepers, sharesOf(beats, keeping, timekeepers.length, saysOfPulse)),
    alternatives: alternativesOf(
      rated.filter((r) => !failed.some((f) => sameLevel(r, f))),
      best,
      { level, belief },
    ),
  };
}

/** How far apart downbeats must score to be about 3 : 1 (own). */
const DOWNBEAT_SCALE = 3;
/** Scores this far apart are about 3 : 1 (own, from sessions of our own making). */
const LEVEL_SCALE = 5;
/** Below these nothing is said to be a pulse (own: chance hits, talk and noise stay under 0.82, sessions above 0.85). */
const FAINTEST_FIT = 0.83;
const FAINTEST_LEVEL = 0.2;
/** How sure a reading is at most that others came ahead of, which then were none (own). */
const SECOND_CHOICE = 0.6;
/** A song with little more evidence than this is read with doubt, however far the next reading is. */
const LITTLE_EVIDENCE = 75;

const periodOf = ({ path, structure }: Rated): number =>
  (((path.at(-1) as number) - (path[0] as number)) / (path.length - 1)) * (isInEighths(structure) ? 2 : 1);
const sameLevel = (a: Rated, b: Rated): boolean => {
  if (Math.abs(periodOf(a) / periodOf(b) - 1) > 0.06) return false;
  const [x, y] = [pulsesOf(a), pulsesOf(b)];
  const middle = y[Math.floor(y.length / 2)] as number;
  return Math.min(...x.map((t) => Math.abs(t - middle))) < 0.25 * periodOf(b);
};

/** How many other readings are worth saying, and how far behind (about 1 in 400). */
const MOST_ALTERNATIVES = 4;
const FAR_BEHIND = 6 * LEVEL_SCALE;
/** What bars of another length may lift a reading by, at most (own): those further behind are not looked at for them. */
const MOST_GAINED = 4 * FAR_BEHIND;
/** A phase lost costs even bars at least so much (own). */
const LEAST_LOST = 10;
const RATIOS = [
  ['double', 2],
  ['half', 0.5],
  ['three-halves', 1.5],
  ['two-thirds', 2 / 3],
] as const;

/** The reading taken and the others, each with how likely it is, on one scale: none is more so than the one taken. */
function alternativesOf(
  rated: readonly Rated[],
  best: Rated,
  { level, belief }: { readonly level: number; readonly belief: number },
): TempoReading['alternatives'] {
  const likely = (score: number): number =>
    Math.min(level, belief / (1 + Math.exp((best.score - score) / LEVEL_SCALE)));
  /** What would have to be done to the best reading to come to another. */
  const relation = (r: Rated): Omit<AlternativeReading, 'confidence'> | null => {
    const ratio = periodOf(best) / periodOf(r);
    const simple = RATIOS.find(([, x]) => Math.abs(ratio / x - 1) < 0.08);
    if (simple) return { reading: simple[0] };
    if (Math.abs(ratio - 1) > 0.08) return null;
    if (!sameLevel(r, best)) return { reading: 'between' };
    const { numerator, denominator } = r.structure;
    return numerator === best.structure.numerator && denominator === best.structure.denominator
      ? null
      : { reading: 'meter', meter: { numerator, denominator } };
  };
  const found = new Map<string, AlternativeReading>([
    [
      'beat-later',
      {
        reading: 'beat-later',
        confidence: Math.min(level, belief / (1 + Math.exp(best.margin / DOWNBEAT_SCALE))),
      },
    ],
  ]);
  for (const r of rated) {
    if (best.score - r.score > FAR_BEHIND) break;
    const way = r === best ? null : relation(r);
    const name = way && `${way.reading} ${way.meter?.numerator ?? ''}/${way.meter?.denominator ?? ''}`;
    // Best first: what comes later of the same kind is less likely.
    if (way && name && !found.has(name)) found.set(name, { ...way, confidence: likely(r.score) });
  }
  return [
    { reading: 'as-found', confidence: level },
    ...[...found.values()].sort((a, b) => b.confidence - a.confidence).slice(0, MOST_ALTERNATIVES),
  ];
}

/** How sure each pulse is by itself: something was heard there and around it, where it was expected. */
export function rateBeats(beats: readonly number[], moments: readonly PulseMoment[]): number[] {
  const fits = beats.map((t, i) => {
    const h = moments[i] as PulseMoment;
    return Number.isFinite(h.spread) ? Math.exp(-(((h.seconds - t) / 0.03) ** 2)) : 0.4;
  });
  const reach = 4;
  return fits.map((own, i) => {
    const around = fits.slice(Math.max(0, i - reach), i + reach + 1);
    return 0.3 + 0.12 * own + 0.58 * (around.reduce((a, x) => a + x, 0) / around.length);
  });
}

/** How much those who swell say about where pulses are, against those who strike. */
const SWELLS_WEIGHT = 0.3;

/** What a hit of a stream says about where pulses are. */
const saysOfPulse = ({ role, swells }: Pick<Stream, 'role' | 'swells'>, strength: number): number =>
  (swells ? SWELLS_WEIGHT : 1) * PULSE_WEIGHT[role] * strength ** 0.7;

/** All streams as one curve at {@link PATH_PER_SECOND}. */
export function weighStreams(streams: readonly Stream[]): Float32Array {
  const end = Math.max(0, ...streams.map((s) => s.seconds.at(-1) ?? 0));
  const sum = new Float32Array(Math.ceil((end + 1) * PATH_PER_SECOND));
  for (const { role, seconds, strength, swells } of streams) {
    seconds.forEach((t, i) => {
      const x = t * PATH_PER_SECOND;
      const value = saysOfPulse({ role, swells }, strength[i] as number);
      for (let f = Math.max(0, Math.floor(x) - 1); f <= Math.floor(x) + 2; f++)
        sum[f] = (sum[f] as number) + value * Math.max(0, 1 - Math.abs(f - x) / 2);
    });
  }
  return sum;
}

/** The curve with quiet passages raised, so that they count as much; 0–1. */
export function levelled(sum: Float32Array, perSecond: number): Float32Array {
  const { length } = sum;
  const span = 6 * perSecond;
  const overall =
    percentile(
      sum.filter((x) => x > 0.01),
      0.97,
    ) || 1;
  const level: number[] = [];
  for (let s = 0; s < length; s += span / 2)
    level.push(
      Math.max(
        0.25 * overall,
        percentile(sum.subarray(Math.max(0, s - span / 2), Math.min(length, s + span / 2)), 0.96),
      ),
    );
  return sum.map((x, i) => {
    const at = i / (span / 2);
    const a = level[Math.floor(at)] as number;
    const b = level[Math.min(level.length - 1, Math.floor(at) + 1)] as number;
    return Math.min(1, x / (a + (b - a) * (at - Math.floor(at))));
  });
}

const MOST_CANDIDATES = 6;

/** A few periods (frames) worth trying: peaks of the autocorrelation under the preferred pulse, and what stands to them in simple ratios. */
function periodCandidates(activation: Float32Array): number[] {
  const longest = Math.floor((60 * PATH_PER_SECOND) / SLOWEST_BPM);
  const shortest = Math.floor((60 * PATH_PER_SECOND) / FASTEST_UNIT);
  const reach = 4 * longest;
  const mean = activation.reduce((a, b) => a + b, 0) / Math.max(1, activation.length);
  const acf = new Float64Array(reach + 1);
  for (let lag = shortest; lag <= reach; lag++) {
    let sum = 0;
    for (let i = 0; i + lag < activation.length; i++)
      sum += ((activation[i] as number) - mean) * ((activation[i + lag] as number) - mean);
    acf[lag] = sum / Math.max(1, activation.length - lag);
  }
  const around = (lag: number): number => {
    // A wandering tempo smears later multiples: look wider there.
    const wide = Math.max(1, Math.round(lag * 0.02));
    let best = -Infinity;
    for (let k = Math.round(lag) - wide; k <= Math.round(lag) + wide; k++)
      best = Math.max(best, acf[k] ?? -Infinity);
    return best;
  };
  const scored: { period: number; score: number }[] = [];
  for (let p = shortest; p <= longest; p++)
    scored.push({
      period: p,
      score:
        (around(p) + around(2 * p) + 0.7 * around(3 * p) + around(4 * p)) *
        Math.exp(-0.5 * (Math.log((60 * PATH_PER_SECOND) / p / 120) / 0.7) ** 2),
    });
  const peaks = scored
    .filter(
      (s, i) =>
        s.score > 0 &&
        s.score >= (scored[i - 1]?.score ?? -Infinity) &&
        s.score > (scored[i + 1]?.score ?? -Infinity),
    )
    .sort((a, b) => b.score - a.score);
  const list: number[] = [];
  const add = (p: number): void => {
    if (p >= shortest && p <= longest && !list.some((q) => Math.abs(q / p - 1) < 0.06)) list.push(p);
  };
  for (const { period } of peaks.slice(0, 3)) add(period);
  for (const period of [...list]) [0.5, 2, 3, 1 / 3, 1.5, 2 / 3].forEach((r) => add(Math.round(period * r)));
  return list.slice(0, MOST_CANDIDATES);
}
