import { createRandom } from '../../src/core/units';
import type { MadeNote, MadeTrack } from '../tempo/compose';
import { normal, pick, type Random } from './dice';
import { type FormPart, layForm, type MadeKind } from './forms';

/** A song with known sections. */
export interface MadeSong {
  readonly name: string;
  readonly mics: 'close' | 'pair' | 'one' | 'machine';
  readonly kit: readonly MadeTrack[];
  readonly tracks: readonly MadeTrack[];
  readonly seconds: number;
  readonly truth: SongTruth;
}
/** What is true of a song: bar lines in seconds, one more than bars, and its sections by bars from 0; the last held chord is none. */
export interface SongTruth {
  readonly name: string;
  readonly hard: boolean;
  readonly bars: readonly number[];
  readonly sections: readonly { readonly kind: string; readonly fromBar: number; readonly toBar: number }[];
}

/** What makes a song easy or hard to part. */
interface Traits {
  readonly hard: boolean;
  /** All play everywhere. */
  readonly sameBand: boolean;
  /** One loop of chords for the whole song. */
  readonly loop: boolean;
  readonly odd: boolean;
  readonly entries: boolean;
  readonly halfBar: boolean;
  readonly lift: boolean;
  /** The voice never repeats its line. */
  readonly freeVoice: boolean;
  readonly pickups: boolean;
  readonly crash: number;
  readonly falseCrash: number;
  readonly fillEnd: number;
  readonly fillMiddle: number;
  readonly changedNotes: number;
  readonly wanderDb: number;
}

function traitsOf(hard: boolean, random: Random): Traits {
  const maybe = (p: number): boolean => random() < p;
  return {
    hard,
    sameBand: hard && maybe(0.5),
    loop: hard ? maybe(0.3) : maybe(0.08),
    odd: hard ? maybe(0.4) : maybe(0.1),
    entries: hard ? maybe(0.4) : maybe(0.1),
    halfBar: maybe(0.12),
    lift: maybe(0.15),
    freeVoice: maybe(0.3),
    pickups: maybe(0.4),
    crash: hard ? 0.3 : 0.85,
    falseCrash: hard ? 0.25 : 0.04,
    fillEnd: hard ? 0.45 : 0.9,
    fillMiddle: hard ? 0.4 : 0.1,
    changedNotes: hard ? 0.28 : 0.06,
    wanderDb: hard ? 2 : 0.8,
  };
}

interface Bar {
  readonly kind: MadeKind | 'end';
  readonly at: number;
  readonly quarters: number;
  /** Of its section: which bar of how many, and which section of the song. */
  readonly inSection: number;
  readonly of: number;
  readonly section: number;
  readonly shift: number;
}

const PIECES = { kick: 36, snare: 38, hat: 42, ride: 51, crash: 49, tom: 45, tambourine: 54 } as const;
const PROGRESSIONS: readonly (readonly number[])[] = [
  [0, 7, 9, 5],
  [9, 5, 0, 7],
  [0, 9, 5, 7],
  [0, 5, 0, 7],
  [5, 7, 0, 0],
  [0, 4, 5, 7],
  [2, 7, 0, 9],
  [0, 10, 5, 0],
];

/** Parts a band may have: file name, General MIDI program, what it does. */
const PARTS = [
  ['Bass', 33, 'bass'],
  ['Synth Bass', 38, 'bass'],
  ['Gtr L', 27, 'comp'],
  ['Gtr R', 28, 'comp'],
  ['Dist Gtr L', 30, 'comp'],
  ['Dist Gtr R', 29, 'comp'],
  ['Acoustic', 25, 'broken'],
  ['Piano', 0, 'comp'],
  ['Rhodes', 4, 'comp'],
  ['Organ', 16, 'pad'],
  ['Strings', 48, 'pad'],
  ['Synth Pad', 89, 'pad'],
  ['Arp Synth', 81, 'broken'],
  ['Horns', 61, 'stabs'],
  ['Lead Gtr', 29, 'solo'],
  ['Lead Vox', 52, 'voice'],
  ['Lead Vox', 53, 'voice'],
  ['Lead Vox', 85, 'voice'],
  ['BV 1', 52, 'answer'],
  ['BV 2', 53, 'answer'],
] as const;
type Playing = (typeof PARTS)[number][2];

interface Section {
  readonly chords: readonly number[];
  /** Steps of the scale by eighth; null = rests. */
  readonly melody: readonly (number | null)[];
  readonly patterns: ReadonlyMap<string, string>;
  readonly kick: string;
  readonly snare: string;
  readonly cymbal: 'hat' | 'ride';
  readonly cymbalStep: number;
  readonly plays: ReadonlySet<string>;
  readonly drums: 'full' | 'light' | 'none';
}

const SCALE = [0, 2, 4, 5, 7, 9, 11];
const COMPS = ['x..x..x.', 'x.x.x.x.', 'xxxxxxxx', 'x...x...', 'x..x.x..', '..x...x.', 'x.xx.xx.'];
const KICKS = ['x...x...', 'x..xx...', 'x.x.x...', 'x...x.x.', 'x..x..x.'];
const SNARES = ['..x...x.', '....x...', '..x...xx', '..x..xx.'];

/** One song; the same for the same seed. */
export function composeSong(seed: number, hard: boolean): MadeSong {
  const random = createRandom(seed);
  const traits = traitsOf(hard, random);
  const meter = pick(random, [4, 4, 4, 4, 4, 3]);
  const bpm = 74 + Math.floor(80 * random());
  const form = layForm(random, traits.odd, random() < 0.3);
  const bars = layBars(form, meter, traits, random);
  const band = pickBand(random);
  const sections = new Map(
    [...new Set(form.map((p) => p.kind))].map((kind) => [kind, makeSection(kind, band, traits, random)]),
  );
  const like = pickAlike(sections, traits, random);
  const start = 0.5 + 2 * random();
  const drift = 0.004 * normal(random);
  const total = (bars.at(-1) as Bar).at + (bars.at(-1) as Bar).quarters;
  const timeOf = (q: number): number =>
    start + (q * 60) / bpm + drift * (Math.sin((2 * Math.PI * q) / total) / (bpm / 60)) * 20;
  const play = { random, traits, bars, like, timeOf, meter };
  const mics = pick(random, ['close', 'close', 'pair', 'one', 'machine'] as const);
  const hasDrums = random() > 0.08;
  return {
    name: `${hard ? 'hard' : 'plain'}-${seed}`,
    mics,
    kit: hasDrums ? playKit(play) : [],
    tracks: band.map(([file, program, plays]) => ({
      file,
      program,
      isDrums: false,
      notes: playPart(play, file, plays),
    })),
    seconds: timeOf(total) + 3,
    truth: {
      name: `${hard ? 'hard' : 'plain'}-${seed}`,
      hard,
      bars: [...bars.map((b) => timeOf(b.at)), timeOf(total)],
      sections: truthOf(bars),
    },
  };
}

function truthOf(bars: readonly Bar[]): SongTruth['sections'] {
  return bars.flatMap((bar, i) => {
    if (bar.inSection !== 0 || bar.kind === 'end') return [];
    const next = bars.findIndex((b, j) => j > i && b.section !== bar.section);
    return [{ kind: bar.kind, fromBar: i, toBar: next < 0 ? bars.length : next }];
  });
}

function layBars(form: readonly FormPart[], meter: number, traits: Traits, random: Random): Bar[] {
  const bars: Bar[] = [];
  let at = 0;
  const lastChorus = form.findLastIndex((p) => p.kind === 'chorus');
  for (const [section, part] of form.entries())
    for (let n = 0; n < part.bars; n++) {
      const isHalf = traits.halfBar && n === part.bars - 1 && part.bars > 4 && random() < 0.3;
      const quarters = isHalf ? 2 : meter;
      const shift = traits.lift && section >= lastChorus ? 2 : 0;
      bars.push({ kind: part.kind, at, quarters, inSection: n, of: part.bars, section, shift });
      at += quarters;
    }
  bars.push({ kind: 'end', at, quarters: meter, inSection: 0, of: 1, section: form.length, shift: 0 });
  return bars;
}

function pickBand(random: Random): Player[] {
  const voice = random() < 0.9;
  const size = 3 + Math.floor(7 * random());
  const pool = PARTS.filter(([, , p]) => p !== 'voice' && p !== 'bass');
  const chosen = [...pool].sort(() => random() - 0.5).slice(0, size);
  const band: Player[] = [...chosen];
  if (random() < 0.92) band.unshift(pick(random, PARTS.slice(0, 2)));
  if (!band.some(([, , p]) => p === 'comp' || p === 'broken' || p === 'pad')) band.push(PARTS[7]);
  if (voice)
    band.push(
      pick(
        random,
        PARTS.filter(([, , p]) => p === 'voice'),
      ),
    );
  return band;
}

/** How full each kind is usually played, 0–1 (common practice, no source). */
const FULLNESS: Readonly<Record<MadeKind, number>> = {
  intro: 0.5,
  verse: 0.6,
  'pre-chorus': 0.75,
  chorus: 1,
  'post-chorus': 0.95,
  bridge: 0.6,
  solo: 0.8,
  break: 0.3,
  interlude: 0.6,
  outro: 0.7,
};
const SUNG = new Set<MadeKind>(['verse', 'pre-chorus', 'chorus', 'bridge']);
const SOMETIMES_SUNG: Partial<Record<MadeKind, number>> = { outro: 0.3, 'post-chorus': 0.5 };

type Player = readonly [file: string, program: number, plays: Playing];

/** Whether a player has something to do in a kind of section. */
function hasPart([, , does]: Player, kind: MadeKind, traits: Traits, random: Random): boolean {
  if (does === 'voice') return SUNG.has(kind) || random() < (SOMETIMES_SUNG[kind] ?? 0);
  if (does === 'answer')
    return ['chorus', 'post-chorus'].includes(kind) || (kind === 'pre-chorus' && random() < 0.5);
  if (does === 'solo') return kind === 'solo' || (kind === 'intro' && random() < 0.3);
  return traits.sameBand || random() < FULLNESS[kind] + 0.15;
}

/** A line of 32 eighths in steps of the scale. */
function makeMelody(kind: MadeKind, random: Random): (number | null)[] {
  let step = Math.floor(7 * random());
  return Array.from({ length: 32 }, () => {
    if (random() < 0.45) return null;
    step = Math.max(-3, Math.min(11, step + Math.floor(5 * random()) - 2));
    return step + (kind === 'chorus' ? 2 : 0);
  });
}

function drumsOf(kind: MadeKind, traits: Traits, random: Random): Section['drums'] {
  if (kind === 'break') return pick(random, ['none', 'none', 'light'] as const);
  if (kind === 'intro') return pick(random, ['none', 'light', 'full'] as const);
  const isLight = !traits.sameBand && (kind === 'bridge' || kind === 'verse') && random() < 0.3;
  return isLight ? 'light' : 'full';
}

function makeSection(kind: MadeKind, band: readonly Player[], traits: Traits, random: Random): Section {
  const plays = new Set(band.filter((p) => hasPart(p, kind, traits, random)).map(([file]) => file));
  if (plays.size === 0) plays.add(band[0]?.[0] as string);
  return {
    chords: pick(random, PROGRESSIONS),
    melody: makeMelody(kind, random),
    patterns: new Map(band.map(([file]) => [file, pick(random, COMPS)])),
    kick: pick(random, KICKS),
    snare: pick(random, SNARES.slice(0, kind === 'chorus' ? 1 : undefined)),
    cymbal: kind === 'chorus' || random() < 0.2 ? 'ride' : 'hat',
    cymbalStep: pick(random, [1, 1, 2]),
    plays,
    drums: drumsOf(kind, traits, random),
  };
}

/** Which kinds share what: intro, break and outro often have the verse's chords; a loop goes through everything; the same band plays the same patterns. */
function pickAlike(
  sections: ReadonlyMap<MadeKind, Section>,
  traits: Traits,
  random: Random,
): ReadonlyMap<MadeKind, Section> {
  const verse = sections.get('verse');
  const chorus = sections.get('chorus');
  const out = new Map<MadeKind, Section>();
  for (const [kind, own] of sections) {
    let now = own;
    const from =
      ['intro', 'break', 'interlude'].includes(kind) || (kind === 'solo' && random() < 0.6)
        ? verse
        : kind === 'outro' || kind === 'post-chorus'
          ? random() < 0.5
            ? chorus
            : verse
          : undefined;
    if (from && random() < 0.7) now = { ...now, chords: from.chords };
    if (traits.loop && verse) now = { ...now, chords: verse.chords };
    if (traits.sameBand && verse)
      now = {
        ...now,
        patterns: verse.patterns,
        kick: verse.kick,
        snare: verse.snare,
        cymbal: verse.cymbal,
        cymbalStep: verse.cymbalStep,
      };
    out.set(kind, now);
  }
  return out;
}

interface Play {
  readonly random: Random;
  readonly traits: Traits;
  readonly bars: readonly Bar[];
  readonly like: ReadonlyMap<MadeKind, Section>;
  readonly timeOf: (quarters: number) => number;
  readonly meter: number;
}

const louder = (db: number): number => 1.9 * db;

type PieceName = keyof typeof PIECES;
type Hit = (piece: PieceName, quarters: number, velocity: number) => void;

function playKit(play: Play): MadeTrack[] {
  const { random, bars, timeOf } = play;
  const notes = new Map<PieceName, MadeNote[]>();
  const hit: Hit = (piece, q, velocity) => {
    const list = notes.get(piece) ?? [];
    if (list.length === 0) notes.set(piece, list);
    const length = piece === 'crash' || piece === 'ride' ? 0.6 : 0.1;
    const v = Math.max(20, Math.min(127, velocity + 5 * normal(random)));
    list.push({ at: timeOf(q) + 0.005 * normal(random), length, key: PIECES[piece], velocity: v });
  };
  for (const [i, bar] of bars.entries())
    if (bar.kind === 'end') {
      hit('kick', bar.at, 105);
      hit('crash', bar.at, 105);
    } else playBar(play, bar, bars[i + 1], hit);
  return [...notes].map(([file, list]) => ({
    file,
    program: 0,
    isDrums: true,
    notes: list.sort((a, b) => a.at - b.at),
  }));
}

/** Eighths of a bar that a pattern has. */
const eighthsOf = (pattern: string, bar: Bar, meter: number): number[] =>
  Array.from({ length: 2 * bar.quarters }, (_, e) => e).filter(
    (e) => pattern[Math.round((8 / meter) * (e / 2)) % 8] === 'x',
  );

function playBar({ random, traits, like, meter }: Play, bar: Bar, next: Bar | undefined, hit: Hit): void {
  const own = like.get(bar.kind as MadeKind) as Section;
  const isLast = bar.inSection === bar.of - 1;
  const isFourth = bar.inSection % 4 === 3 && !isLast;
  const fills = random() < (isLast ? traits.fillEnd : isFourth ? traits.fillMiddle : 0.02);
  const until = fills ? bar.quarters - pick(random, [1, 1, 2]) : bar.quarters;
  const pattern = (piece: PieceName, beats: string, velocity: number): void => {
    for (const e of eighthsOf(beats, bar, meter)) if (e / 2 < until) hit(piece, bar.at + e / 2, velocity);
  };
  if (own.drums !== 'none') {
    pattern('kick', own.kick, 104);
    if (own.drums === 'full') pattern('snare', own.snare, 102);
    for (let e = 0; e < 2 * until; e += own.cymbalStep) hit(own.cymbal, bar.at + e / 2, e % 2 ? 66 : 82);
  }
  const nextPlays = next?.kind !== 'end' && like.get(next?.kind as MadeKind)?.drums !== 'none';
  if (fills && (own.drums !== 'none' || nextPlays)) playFill(bar, until, random, hit);
  const opens = bar.inSection === 0 && bar.section > 0 && random() < traits.crash;
  const wrong = bar.inSection > 0 && bar.inSection % 4 === 0 && random() < traits.falseCrash;
  if (own.drums !== 'none' && (opens || wrong)) hit('crash', bar.at, 105);
}

function playFill(bar: Bar, from: number, random: Random, hit: Hit): void {
  for (let q = from; q < bar.quarters; q += 0.25)
    if (random() < 0.8) hit(random() < 0.5 ? 'tom' : 'snare', bar.at + q, 80 + 25 * random());
}

type Put = (quarters: number, length: number, key: number, velocity: number) => void;

function playPart(play: Play, file: string, plays: Playing): MadeNote[] {
  const { random, traits, bars, like, timeOf } = play;
  const notes: MadeNote[] = [];
  const free = { step: 4 };
  let level = 0;
  let entersAt = 0;
  for (const bar of bars) {
    level = 0.8 * level + 0.6 * traits.wanderDb * normal(random);
    const put: Put = (q, length, key, velocity) => {
      const end = timeOf(q + length);
      const at = timeOf(q) + 0.008 * normal(random);
      const v = Math.max(20, Math.min(127, velocity + louder(level) + 4 * normal(random)));
      notes.push({ at, length: Math.max(0.06, end - at), key: key + bar.shift, velocity: v });
    };
    const own = bar.kind === 'end' ? null : (like.get(bar.kind) as Section);
    const root = own?.chords[bar.inSection % own.chords.length] ?? 0;
    const chord = [0, 4, 7].map((s) => 52 + ((root + s + 8) % 12));
    if (own === null) {
      if (plays === 'bass') put(bar.at, bar.quarters, 36, 95);
      else if (!['solo', 'answer'].includes(plays)) chord.forEach((k) => put(bar.at, bar.quarters, k, 90));
      continue;
    }
    if (bar.inSection === 0) entersAt = entryOf(bar, plays, traits, random);
    if (!own.plays.has(file) || bar.inSection < entersAt) continue;
    if (plays === 'voice' || plays === 'solo' || plays === 'answer')
      playLine({ play, bar, own, free, put }, plays);
    else playChords({ play, bar, put, root, chord }, plays, own.patterns.get(file) ?? 'x...x...');
  }
  return notes;
}

/** The bar of a section a part comes in at. */
function entryOf(bar: Bar, plays: Playing, traits: Traits, random: Random): number {
  const may = traits.entries && bar.of >= 8 && plays !== 'voice' && plays !== 'bass';
  return may && random() < 0.2 ? bar.of / 2 : 0;
}

interface ChordBar {
  readonly play: Play;
  readonly bar: Bar;
  readonly put: Put;
  readonly root: number;
  readonly chord: readonly number[];
}

function playChords({ play, bar, put, root, chord }: ChordBar, plays: Playing, pattern: string): void {
  const each = (on: (q: number, n: number) => void): void =>
    eighthsOf(pattern, bar, play.meter).forEach((e, n) => on(bar.at + e / 2, n));
  if (plays === 'bass')
    each((q, n) => put(q, 0.5, 28 + ((root + 8) % 12) + (n > 2 && play.random() < 0.2 ? 7 : 0), 95));
  else if (plays === 'comp') each((q) => chord.forEach((k, c) => put(q + 0.01 * c, 0.6, k, 88)));
  else if (plays === 'stabs') {
    if (bar.inSection % 2 === 1) each((q) => chord.forEach((k) => put(q, 0.3, k + 12, 95)));
  } else if (plays === 'pad') chord.forEach((k) => put(bar.at, bar.quarters * 0.98, k + 12, 72));
  else
    for (let e = 0; e < 2 * bar.quarters; e++)
      put(bar.at + e / 2, 0.5, (chord[[0, 1, 2, 1][e % 4] as number] as number) + 12, 80);
}

interface LineBar {
  readonly play: Play;
  readonly bar: Bar;
  readonly own: Section;
  /** Where a line that never repeats has come to. */
  readonly free: { step: number };
  readonly put: Put;
}

function playLine({ play, bar, own, free, put }: LineBar, plays: 'voice' | 'solo' | 'answer'): void {
  const { random, traits } = play;
  const isVoice = plays === 'voice';
  if (isVoice && traits.pickups && bar.inSection === 0 && bar.at > 2)
    for (const q of [-1, -0.5]) put(bar.at + q, 0.45, 64, 84);
  const isFree = plays === 'solo' || (traits.freeVoice && isVoice);
  for (let e = 0; e < 2 * bar.quarters; e++) {
    const step = isFree
      ? freeStep(free, random)
      : random() < traits.changedNotes
        ? random() < 0.5
          ? null
          : Math.floor(9 * random())
        : (own.melody[(bar.inSection * 8 + e) % own.melody.length] ?? null);
    if (step === null) continue;
    const degree = SCALE[((step % 7) + 7) % 7] as number;
    const key = 60 + 12 * Math.floor(step / 7) + degree + { voice: 0, solo: 7, answer: 4 }[plays];
    put(bar.at + e / 2, 0.48, key, 92);
  }
}

function freeStep(free: { step: number }, random: Random): number | null {
  free.step = Math.max(-2, Math.min(11, free.step + Math.floor(5 * random()) - 2));
  return random() < 0.5 ? null : free.step;
}
