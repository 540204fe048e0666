import { createRandom, type Random } from '../../src/core/units';
import type { Genre, MadePart } from './genres';

/** A note as it sounds: seconds, MIDI key, velocity. */
export interface MadeNote {
  readonly at: number;
  readonly length: number;
  readonly key: number;
  readonly velocity: number;
}

/** What one instrument plays. */
export interface MadeTrack {
  readonly file: string;
  /** General MIDI program from 0; of drums the kit. */
  readonly program: number;
  readonly isDrums: boolean;
  readonly notes: readonly MadeNote[];
}

/** What is true of a made session, in the words of the scorer beside the shared sessions. */
export interface Truth {
  readonly name: string;
  readonly beats: readonly number[];
  readonly downbeats: readonly number[];
  readonly meters: readonly { readonly time: number; readonly num: number; readonly den: number }[];
  readonly tempoCurve: readonly { readonly time: number; readonly quarterBpm: number }[];
  readonly constant: boolean;
  readonly bpm: number | null;
  readonly quarterBpm: number | null;
  readonly gridOffset: number | null;
  readonly beatUnitQuarters: number;
  readonly rubato: readonly (readonly [number, number])[];
  readonly countIn: readonly number[];
  readonly altBeats: { readonly slow: readonly number[]; readonly eighths: readonly number[] };
  readonly drumHits: readonly (readonly [string, number])[];
  readonly duration: number;
}

export interface MadeSession {
  readonly genre: Genre;
  /** Pieces of the kit, each for itself; microphones mix them. */
  readonly kit: readonly MadeTrack[];
  readonly tracks: readonly MadeTrack[];
  /** Moments and accents of the click file, if there is one. */
  readonly click: readonly { readonly at: number; readonly accent: boolean }[] | null;
  readonly truth: Truth;
  readonly seconds: number;
}

interface Bar {
  readonly section: string;
  readonly at: number;
  readonly quarters: number;
  readonly meter: readonly [number, number];
  readonly pulses: readonly number[];
  readonly free: boolean;
  readonly first: boolean;
  readonly root: number;
}

/** General MIDI percussion keys (the standard's table). */
const PIECES: Readonly<Record<string, number>> = {
  kick: 36,
  rim: 37,
  snare: 38,
  clap: 39,
  tom: 45,
  hat: 42,
  crash: 49,
  ride: 51,
  tambourine: 54,
};
const STRENGTH: Readonly<Record<string, number>> = { X: 112, x: 88, o: 52 };
const STEP = 1 / 12;

const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

/** One session of a genre; the same for the same seed. */
export function compose(genre: Genre, seed: number): MadeSession {
  const random = createRandom(seed);
  const bars = layBars(genre, random);
  const total = (bars.at(-1) as Bar).at + (bars.at(-1) as Bar).quarters;
  const tempo = tempoCurve(genre, bars, total, random);
  const countIn = genre.countIn ?? 0;
  const beatQuarters = genre.pulses[0] as number;
  const start =
    0.8 + 4 * random() + countIn * ((60 / (tempo[0] as number)) * beatQuarters) + (genre.pickup ? 1.5 : 0);
  const times = [start];
  tempo.forEach((q) => times.push((times.at(-1) as number) + (60 / q) * STEP));
  const timeOf = (quarters: number): number => {
    if (quarters <= 0) return start + (quarters * 60) / (tempo[0] as number);
    const i = Math.min(times.length - 2, Math.floor(quarters / STEP));
    return (times[i] as number) + (quarters / STEP - i) * ((times[i + 1] as number) - (times[i] as number));
  };
  // All lean on each other: what they share wanders slowly.
  const shared = wander(
    Math.ceil(total * 2) + 8,
    genre.behaviour === 'steady' ? 0.0045 : 0.002,
    0.97,
    random,
  );
  const player = (spread: number, lean: number) => {
    const bias = (lean * normal(random)) / 1000;
    const own = wander(shared.length, (0.6 * spread) / 1000, 0.9, random);
    return (quarters: number): number => {
      const i = Math.max(0, Math.min(shared.length - 1, Math.round(quarters * 2)));
      return (
        timeOf(quarters) +
        bias +
        (spread < 2 ? 0 : (shared[i] as number)) +
        (own[i] as number) +
        (0.8 * spread * normal(random)) / 1000
      );
    };
  };
  const drummer = player(genre.spreadMs, genre.spreadMs < 2 ? 0 : 2);
  const kit = playKit(genre, bars, drummer, random);
  const count = Array.from({ length: countIn }, (_, i) => timeOf(-(countIn - i) * beatQuarters));
  if (count.length > 0)
    (kit.find((k) => k.file === 'rim') ?? addPiece(kit, 'rim')).notes.push(
      ...count.map((at) => ({ at, length: 0.1, key: PIECES.rim as number, velocity: 96 })),
    );
  const tracks = genre.parts.map((part) => ({
    file: part.file,
    program: Math.max(0, part.program),
    isDrums: part.program < 0,
    notes: playPart(
      genre,
      part,
      bars,
      part.plays === 'line'
        ? player(22, 12)
        : part.program < 0 || genre.spreadMs < 2
          ? player(genre.spreadMs * 1.2, 5)
          : player(12, 6),
      random,
    ),
  }));
  const truth = truthOf(genre, bars, timeOf, tempo, count, kit);
  return {
    genre,
    kit: kit.map((k) => ({
      file: k.file,
      program: 0,
      isDrums: true,
      notes: k.notes.sort((a, b) => a.at - b.at),
    })),
    tracks,
    click: genre.click
      ? [
          ...count.map((at) => ({ at, accent: false })),
          ...truth.beats.map((at) => ({ at, accent: truth.downbeats.includes(at) })),
        ]
      : null,
    truth,
    seconds: truth.duration,
  };
}

function wander(n: number, size: number, keep: number, random: Random): number[] {
  let x = normal(random);
  return Array.from({ length: n }, () => {
    x = keep * x + Math.sqrt(1 - keep * keep) * normal(random);
    return size * x;
  });
}

function layBars(genre: Genre, random: Random): Bar[] {
  const bars: Bar[] = [];
  const roots = new Map<string, number[]>();
  let at = 0;
  const add = (
    section: string,
    meter: readonly [number, number],
    pulses: readonly number[],
    first: boolean,
    n: number,
  ): void => {
    const quarters = (meter[0] * 4) / meter[1];
    if (!roots.has(section))
      roots.set(
        section,
        pick(random, [
          [0, 5, 9, 7],
          [9, 5, 0, 7],
          [0, 9, 5, 7],
          [2, 7, 0, 0],
          [0, 0, 5, 7],
        ]),
      );
    bars.push({
      section,
      at,
      quarters,
      meter,
      pulses,
      free: bars.length < (genre.freeBars ?? 0),
      first,
      root: section === 'end' ? 0 : ((roots.get(section) as number[])[n % 4] as number),
    });
    at += quarters;
  };
  for (const [section, count] of genre.form) {
    const own = genre.otherMeter?.section === section ? genre.otherMeter : genre;
    for (let n = 0; n < count; n++) add(section, own.meter, own.pulses, n === 0, n);
    if (genre.oddBars?.section === section) add(section, genre.oddBars.meter, genre.oddBars.pulses, false, 3);
  }
  return bars;
}

/** Quarters a minute at each step. */
function tempoCurve(genre: Genre, bars: readonly Bar[], total: number, random: Random): number[] {
  const even = genre.pulses.every((p) => p === genre.pulses[0]);
  const base = genre.bpm * (even ? (genre.pulses[0] as number) : 1);
  const steps = Math.ceil(total / STEP) + 1;
  const barOf = (i: number): number =>
    Math.max(
      0,
      bars.findLastIndex((b) => b.at <= i * STEP + 1e-9),
    );
  const perBar = wander(bars.length + 1, 1, genre.behaviour === 'live' ? 0.85 : 0.96, random);
  const fine = wander(Math.ceil(total) + 2, 1, 0.6, random);
  const lift: Readonly<Record<string, number>> = { chorus: 0.024, bridge: -0.016, break: 0 };
  const from = bars[Math.floor(bars.length * 0.35)]?.at ?? 0;
  const to = bars[Math.floor(bars.length * 0.35) + 8]?.at ?? total;
  const lastBar = (bars.at(-1) as Bar).at;
  const slowFrom = (bars.at(-4) as Bar).at;
  return Array.from({ length: steps }, (_, i) => {
    const q = i * STEP;
    const b = barOf(i);
    const bar = bars[b] as Bar;
    const part = (q - bar.at) / bar.quarters;
    const w = (perBar[b] as number) * (1 - part) + (perBar[b + 1] as number) * part;
    const f = fine[Math.floor(q)] as number;
    let factor = 1;
    if (genre.behaviour === 'drift') factor += 0.018 * Math.max(-2, Math.min(2, w)) + 0.002 * f;
    if (genre.behaviour === 'live')
      factor += 0.022 * Math.max(-2, Math.min(2, w)) + 0.004 * f + (bar.section === 'chorus' ? 0.012 : 0);
    if (genre.behaviour === 'sections') factor += (lift[bar.section] ?? 0) + 0.0012 * f;
    if (genre.behaviour === 'speeding')
      factor *= (1 + 0.4 * Math.max(0, Math.min(1, (q - from) / (to - from)))) * (1 + 0.003 * f);
    if (bar.free) factor *= 0.84 + 0.14 * Math.sin(1.7 * q) * (0.5 + 0.5 * Math.abs(w));
    if (
      genre.heldAfter === bar.section &&
      bars[b + 1]?.section !== bar.section &&
      q >= bar.at + bar.quarters - 1
    )
      factor /= 3;
    if (genre.slowsAtEnd && q > slowFrom)
      factor *= 1 - 0.35 * Math.min(1, (q - slowFrom) / (lastBar - slowFrom)) ** 1.5;
    return base * factor;
  });
}

function swung(genre: Genre, inBar: number): number {
  if (!genre.swing) return inBar;
  const { pair, share } = genre.swing;
  const k = Math.floor(inBar / pair + 1e-9);
  const f = inBar / pair - k;
  return (k + (f <= 0.5 ? f * 2 * share : share + (f - 0.5) * 2 * (1 - share))) * pair;
}

/** Calls back for each step of a pattern that is played in a bar. */
function eachStep(
  pattern: string,
  barQuarters: number,
  length: number,
  hit: (inBar: number, velocity: number) => void,
): void {
  const step = length / pattern.length;
  [...pattern].forEach((c, i) => {
    const v = STRENGTH[c];
    if (v !== undefined && i * step < barQuarters - 1e-6) hit(i * step, v);
  });
}

interface Piece {
  readonly file: string;
  readonly notes: MadeNote[];
}
function addPiece(kit: Piece[], file: string): Piece {
  const piece = { file, notes: [] };
  kit.push(piece);
  return piece;
}

function playKit(genre: Genre, bars: readonly Bar[], at: (q: number) => number, random: Random): Piece[] {
  const kit: Piece[] = [];
  if (Object.values(genre.kit).every((section) => Object.keys(section).length === 0)) return kit;
  const hit = (piece: string, quarters: number, velocity: number): void => {
    (kit.find((k) => k.file === piece) ?? addPiece(kit, piece)).notes.push({
      at: at(quarters),
      length: piece === 'crash' || piece === 'ride' ? 0.6 : 0.1,
      key: PIECES[piece] as number,
      velocity: Math.max(20, Math.min(127, velocity + 6 * normal(random))),
    });
  };
  bars.forEach((bar, b) => {
    const pieces = genre.kit[bar.section] ?? genre.kit.verse ?? {};
    const sectionEnds = bars[b + 1]?.section !== bar.section && bar.section !== 'end';
    const fillFrom =
      sectionEnds && bar.quarters >= 3 && genre.spreadMs >= 2 && random() < 0.7
        ? bar.quarters - (random() < 0.5 ? 1 : 2)
        : Infinity;
    for (const [piece, patterns] of Object.entries(pieces)) {
      const own = genre.otherMeter?.section === bar.section ? genre.otherMeter.meter : genre.meter;
      eachStep(pick(random, patterns), bar.quarters, (own[0] * 4) / own[1], (inBar, v) => {
        if (inBar < fillFrom) hit(piece, bar.at + swung(genre, inBar), v);
      });
    }
    for (let q = fillFrom; q < bar.quarters - 1e-6; q += 0.25)
      if (random() < 0.8) hit(random() < 0.5 ? 'snare' : 'tom', bar.at + swung(genre, q), 80 + 25 * random());
    if (bar.first && random() < 0.7 && genre.spreadMs >= 2 && Object.keys(pieces).length > 1)
      hit('crash', bar.at, 105);
  });
  if (genre.pickup) for (const q of [-1, -0.5, -0.25]) hit('snare', q, 90);
  return kit;
}

const SCALE = [0, 2, 4, 7, 9];
function playPart(
  genre: Genre,
  part: MadePart,
  bars: readonly Bar[],
  at: (q: number) => number,
  random: Random,
): MadeNote[] {
  const notes: MadeNote[] = [];
  const put = (quarters: number, length: number, key: number, velocity: number): void => {
    notes.push({
      at: at(quarters),
      length: Math.max(0.06, (length * 60) / genre.bpm),
      key,
      velocity: Math.max(20, Math.min(127, velocity + 5 * normal(random))),
    });
  };
  if (part.plays === 'line') {
    let key = 67;
    for (let q = bars[1]?.at ?? 0; q < (bars.at(-1) as Bar).at - 1;) {
      if (random() < 0.2) {
        q += pick(random, [1, 1.5, 2, 3]);
        continue;
      }
      const length = pick(random, [0.5, 0.5, 1, 1, 1.5, 2]);
      key = Math.max(57, Math.min(79, key + Math.floor(random() * 7) - 3));
      while (!SCALE.includes((key + 60) % 12)) key++;
      const bar = bars.findLast((b) => b.at <= q) as Bar;
      if (!bar.free) put(bar.at + swung(genre, q - bar.at), 0.9 * length, key, 90);
      q += length;
    }
    return notes;
  }
  const bySection = new Map<string, string>();
  for (const bar of bars) {
    const root = 28 + ((bar.root + 8) % 12);
    const chord = [0, 4, 7].map((s) => 52 + ((bar.root + s + 8) % 12));
    if (bar.section === 'end') {
      if (part.plays === 'bass' || part.plays === 'walk') put(bar.at, 4, root, 100);
      else if (part.program >= 0) chord.forEach((k) => put(bar.at, 4, k, 95));
      continue;
    }
    if (part.plays === 'held') {
      if (!bar.free) chord.forEach((k) => put(bar.at, bar.quarters * 0.98, k, 74));
      continue;
    }
    if (part.program < 0 && bar.section === 'break') continue;
    if (bar.free && part.plays !== 'broken') continue;
    let pattern = bySection.get(bar.section);
    if (pattern === undefined) bySection.set(bar.section, (pattern = pick(random, part.patterns)));
    const length = (genre.meter[0] * 4) / genre.meter[1];
    const step = length / pattern.length;
    let n = 0;
    eachStep(pattern, bar.quarters, length, (inBar, v) => {
      const q = bar.at + swung(genre, inBar);
      if (part.program < 0) put(q, 0.1, part.program === -63 ? pick(random, [62, 63, 64]) : -part.program, v);
      else if (part.plays === 'bass')
        put(q, step * 1.6, inBar === 0 || random() < 0.8 ? root : root + pick(random, [5, 7, 12]), v);
      else if (part.plays === 'walk')
        put(q, 0.9, inBar === 0 ? root : root + pick(random, [2, 4, 5, 7, 9, -3]), v);
      else if (part.plays === 'broken')
        put(q, step * 1.3, (chord[[0, 1, 2, 1][n % 4] as number] as number) + (n === 0 ? -12 : 0), v);
      else chord.forEach((k, c) => put(q + 0.004 * c, step * 1.5, k, v - 2 * c));
      n++;
    });
  }
  return notes;
}

function truthOf(
  genre: Genre,
  bars: readonly Bar[],
  timeOf: (q: number) => number,
  tempo: readonly number[],
  countIn: readonly number[],
  kit: readonly Piece[],
): Truth {
  const beats: number[] = [];
  const downbeats: number[] = [];
  const slow: number[] = [];
  const eighths: number[] = [];
  const meters: { time: number; num: number; den: number }[] = [];
  const curve: { time: number; quarterBpm: number }[] = [];
  for (const bar of bars) {
    const ends = bar.section === 'end';
    let q = bar.at;
    downbeats.push(timeOf(q));
    const last = meters.at(-1);
    if (last?.num !== bar.meter[0] || last.den !== bar.meter[1])
      meters.push({ time: timeOf(q), num: bar.meter[0], den: bar.meter[1] });
    for (const [i, p] of bar.pulses.entries()) {
      if (!ends || i === 0) beats.push(timeOf(q));
      if ((!ends || i === 0) && i % 2 === 0) slow.push(timeOf(q));
      q += p;
    }
    for (let e = 0; e < (ends ? 0.1 : bar.quarters); e += 0.5) eighths.push(timeOf(bar.at + e));
    for (let e = 0; e < bar.quarters; e += 0.5)
      curve.push({ time: timeOf(bar.at + e), quarterBpm: tempo[Math.round((bar.at + e) / STEP)] as number });
  }
  const steady = genre.behaviour === 'steady' && !genre.slowsAtEnd && !genre.freeBars;
  const even = genre.pulses.every((p) => p === genre.pulses[0]);
  const free = bars.filter((b) => b.free);
  const unit = bars[0]?.pulses ?? [1];
  const quarterBpm = tempo[0] as number;
  return {
    name: genre.name,
    beats,
    downbeats,
    meters,
    tempoCurve: curve,
    constant: steady,
    bpm: steady ? (even ? genre.bpm : quarterBpm / (unit.reduce((a, p) => a + p, 0) / unit.length)) : null,
    quarterBpm: steady ? quarterBpm : null,
    gridOffset: steady ? (beats[0] as number) : null,
    beatUnitQuarters: unit.reduce((a, p) => a + p, 0) / unit.length,
    rubato:
      free.length > 0
        ? [[timeOf((free[0] as Bar).at), timeOf((free.at(-1) as Bar).at + (free.at(-1) as Bar).quarters)]]
        : [],
    countIn,
    altBeats: { slow, eighths },
    drumHits: kit
      .filter((k) => ['kick', 'snare', 'clap'].includes(k.file))
      .flatMap((k) => k.notes.map((n) => [k.file, n.at] as const)),
    duration: timeOf((bars.at(-1) as Bar).at) + 5,
  };
}
