import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createRandom, dbToGain, type Random } from '../../src/core/units';
import { playOnFont } from '../fluidsynth';
import { lineOf, sung } from '../heard/singing';
import { resampled, said, TRAIN_SPEAKERS } from '../heard/speech';
import { room } from '../heard/synth';
import { type MidiEvent, midiOf, TICKS_PER_SECOND } from '../midi';

export const RATE = 48_000;
export const SECONDS = 48;
const FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
const WANTED_PEAK = dbToGain(-9);

/** A track that was made, and what of it is what. */
export interface MadeTrack {
  readonly file: string;
  readonly kind: string;
  /** Microphones of one kit stand in one. */
  readonly isKit: boolean;
  readonly samples: Float32Array;
  /** What is wanted of it, alone. */
  readonly clean: Float32Array;
  /** What spills in, alone. */
  readonly spill: Float32Array;
  /** RMS of the steady noise, dBFS; null = none. */
  readonly floorDbfs: number | null;
  /** Beginnings of its own notes, s. */
  readonly onsets: readonly number[];
  /** Where nobody counts: breaths, noise of strings; s. */
  readonly uncounted: readonly (readonly [number, number])[];
}

interface Note {
  readonly at: number;
  readonly length: number;
  readonly key: number;
  readonly velocity: number;
}

const length = SECONDS * RATE;

/** Notes on the sound font, mono. */
export function played(program: number | 'drums', notes: readonly Note[]): Float32Array {
  const channel = program === 'drums' ? 9 : 0;
  const tick = (s: number): number => Math.max(0, Math.round(s * TICKS_PER_SECOND));
  const events: MidiEvent[] = [
    { tick: 0, order: 0, bytes: [0xc0 | channel, program === 'drums' ? 0 : program] },
  ];
  for (const n of notes) {
    events.push({ tick: tick(n.at), order: 2, bytes: [0x90 | channel, n.key, n.velocity] });
    events.push({ tick: tick(n.at + n.length), order: 1, bytes: [0x80 | channel, n.key, 64] });
  }
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-tidy-'));
  try {
    writeFileSync(join(folder, 'p.mid'), midiOf(events, 2 * TICKS_PER_SECOND));
    playOnFont(FONT, join(folder, 'p.mid'), join(folder, 'p.wav'), RATE);
    const bytes = readFileSync(join(folder, 'p.wav'));
    return Float32Array.from({ length }, (_, i) =>
      48 + 4 * i <= bytes.length
        ? (bytes.readInt16LE(44 + 4 * i) + bytes.readInt16LE(46 + 4 * i)) / 65_536
        : 0,
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const whole = (random: Random, low: number, high: number): number =>
  low + Math.floor(random() * (high - low + 1));
const from = (random: Random, low: number, high: number): number => low + random() * (high - low);

/** Phrases with rests: [begin, end] in seconds. */
export function phrasesOf(random: Random, shortest = 2, longest = 6): [number, number][] {
  const out: [number, number][] = [];
  let at = from(random, 2, 6);
  while (at < SECONDS - 6) {
    const end = Math.min(SECONDS - 4, at + from(random, shortest, longest));
    out.push([at, end]);
    at = end + from(random, 1, 7);
  }
  return out;
}

const SCALE = [0, 2, 4, 5, 7, 9, 11, 12];

/** Notes of a melody or of chords within phrases. */
export function notesOf(
  random: Random,
  phrases: readonly (readonly [number, number])[],
  low: number,
  { gap = 0.25, held = 0.9, voices = 1 } = {},
): Note[] {
  const notes: Note[] = [];
  for (const [begin, end] of phrases) {
    const loud = whole(random, 40, 120);
    for (let at = begin; at < end - 0.1;) {
      const step = gap * (1 + Math.floor(random() * 3));
      for (let v = 0; v < voices; v++)
        notes.push({
          at: at + 0.004 * v,
          length: Math.min(step * held, end - at),
          key: low + (SCALE[whole(random, 0, 7)] as number) + (v > 0 ? 4 * v : 0),
          velocity: Math.max(22, Math.min(125, loud + whole(random, -25, 20))),
        });
      at += step;
    }
  }
  return notes;
}

const gaussian = (random: Random): number => {
  let sum = -6;
  for (let i = 0; i < 12; i++) sum += random();
  return sum;
};

/** Steady noise of an RMS; `color` 0 white … 1 towards the low end. */
export function noise(random: Random, rmsDbfs: number, color = 0): Float32Array {
  const out = new Float32Array(length);
  let [low, energy] = [0, 0];
  for (let i = 0; i < length; i++) {
    const v = gaussian(random);
    low += 0.02 * (v - low);
    out[i] = v * (1 - color) + 8 * low * color;
    energy += (out[i] as number) ** 2;
  }
  const gain = dbToGain(rmsDbfs) / Math.sqrt(energy / length);
  return out.map((v) => v * gain);
}

const peakTo = (x: Float32Array, level: number): Float32Array => {
  const top = x.reduce((m, v) => Math.max(m, Math.abs(v)), 1e-9);
  return x.map((v) => (v * level) / top);
};

export const add = (into: Float32Array, x: Float32Array, gain = 1, late = 0): void => {
  for (let i = Math.max(0, late); i < into.length && i - late < x.length; i++)
    into[i] = (into[i] as number) + gain * (x[i - late] as number);
};

/** A sung line in phrases, at 48 kHz. */
function sungPhrases(
  random: Random,
  phrases: readonly (readonly [number, number])[],
  low: number,
): Float32Array {
  const out = new Float32Array(length);
  const speaker = TRAIN_SPEAKERS[
    whole(random, 0, TRAIN_SPEAKERS.length - 1)
  ] as (typeof TRAIN_SPEAKERS)[number];
  for (const [begin, end] of phrases) {
    const speech = said(speaker, end - begin + 1, random);
    const line = sung(speech, { ...lineOf(low, end - begin, random) }, random);
    const cut = resampled(line.subarray(0, Math.round((end - begin) * 16_000)), 16_000, RATE);
    for (let i = 0; i < 2400 && i < cut.length; i++)
      cut[cut.length - 1 - i] = (cut[cut.length - 1 - i] as number) * (i / 2400);
    add(out, peakTo(cut, 0.3 + 0.7 * random()), 1, Math.round(begin * RATE));
  }
  return out;
}

/** A noise burst with soft edges (a breath, a hand on a string). */
function burst(random: Random, seconds: number, cutoff: number): Float32Array {
  const n = Math.round(seconds * RATE);
  let low = 0;
  return Float32Array.from({ length: n }, (_, i) => {
    low += cutoff * (gaussian(random) - low);
    return low * Math.sin((Math.PI * i) / n) ** 2;
  });
}

interface Recipe {
  readonly kind: string;
  readonly clean: Float32Array;
  readonly onsets: readonly number[];
  readonly uncounted?: readonly (readonly [number, number])[];
  /** Added to what was played, and not wanted. */
  readonly extra?: Float32Array;
  readonly spillDb?: readonly [number, number];
  readonly gated?: boolean;
  readonly hum?: boolean;
}

const onsetsOf = (notes: readonly Note[]): number[] => notes.map((n) => n.at);

/** What is played, by kind, before anything is recorded. */
function recipes(random: Random): Recipe[] {
  const melodic = (
    kind: string,
    program: number,
    low: number,
    more: Partial<Recipe> & Parameters<typeof notesOf>[3] = {},
  ): Recipe => {
    const notes = notesOf(random, phrasesOf(random), low, more);
    const clean = peakTo(played(program, notes), WANTED_PEAK);
    if (random() < 0.5) room(clean, from(random, 0.2, 0.8), from(random, 0.02, 0.12));
    return { kind, clean: peakTo(clean, WANTED_PEAK), onsets: onsetsOf(notes), ...more };
  };
  const voice = (kind: string, low: number): Recipe => {
    const phrases = phrasesOf(random, 2.5, 6);
    const clean = peakTo(sungPhrases(random, phrases, low), WANTED_PEAK);
    const [extra, uncounted]: [Float32Array, [number, number][]] = [new Float32Array(length), []];
    for (const [begin] of phrases) {
      const at = begin - from(random, 0.35, 0.6);
      add(
        extra,
        burst(random, 0.3, 0.3),
        WANTED_PEAK * dbToGain(from(random, -36, -24)),
        Math.round(at * RATE),
      );
      uncounted.push([at, at + 0.3]);
    }
    return { kind, clean, onsets: phrases.map(([b]) => b + 0.03), extra, uncounted, spillDb: [-52, -36] };
  };
  const hits = (kind: string, keys: readonly number[], more: Partial<Recipe> = {}): Recipe => {
    const notes = notesOf(random, phrasesOf(random, 1.5, 5), 0, { gap: 0.2 }).map((n) => ({
      ...n,
      key: keys[whole(random, 0, keys.length - 1)] as number,
    }));
    return { kind, clean: peakTo(played('drums', notes), WANTED_PEAK), onsets: onsetsOf(notes), ...more };
  };
  const acoustic = melodic('acoustic guitar', 25, 52, { voices: 3, gap: 0.3 });
  const squeaks = new Float32Array(length);
  const squeaked: [number, number][] = [];
  for (let i = 0; i < 4; i++) {
    const at = from(random, 1, SECONDS - 2);
    add(squeaks, burst(random, 0.12, 0.9), WANTED_PEAK * dbToGain(-30), Math.round(at * RATE));
    squeaked.push([at, at + 0.12]);
  }
  const talked = melodic('talk before', 24, 52, { voices: 2 });
  const talk = new Float32Array(length);
  const first = Math.min(...talked.onsets);
  const words = resampled(
    said(TRAIN_SPEAKERS[0] as (typeof TRAIN_SPEAKERS)[number], Math.max(0.8, first - 1.2), random),
    16_000,
    RATE,
  );
  add(talk, peakTo(words, WANTED_PEAK * dbToGain(from(random, -14, -4))), 1, Math.round(0.2 * RATE));
  const chaired = melodic('chair after', 0, 55, { voices: 2 });
  const chair = new Float32Array(length);
  for (let i = 0; i < 3; i++)
    add(
      chair,
      burst(random, 0.25, 0.02),
      6 * WANTED_PEAK * dbToGain(-20),
      Math.round((SECONDS - 2.6 + 0.7 * i) * RATE),
    );
  return [
    voice('lead voice', 55),
    voice('backing voice', 60),
    melodic('bass', 33, 29, { held: 1 }),
    melodic('amp guitar', 29, 45, { hum: true }),
    { ...acoustic, extra: squeaks, uncounted: squeaked },
    melodic('horns', 61, 58),
    melodic('strings spot', 48, 60, { held: 1.2, gap: 0.5, spillDb: [-34, -22] }),
    hits('hand percussion', [60, 61, 62, 63, 64]),
    melodic('piano', 0, 50, { voices: 3, gap: 0.35 }),
    melodic('pad', 89, 52, { voices: 3, gap: 1.2, held: 1 }),
    hits('gated loop', [36, 38, 42], { gated: true }),
    { ...talked, extra: talk },
    { ...chaired, extra: chair },
  ];
}

/** A kit on microphones: kick, snare top and bottom, hat, tom, overhead; each with the others in it. */
function kitTracks(random: Random, floorDb: number): MadeTrack[] {
  const beat: Record<'kick' | 'snare' | 'hat' | 'tom' | 'cymbal', Note[]> = {
    kick: [],
    snare: [],
    hat: [],
    tom: [],
    cymbal: [],
  };
  const step = from(random, 0.22, 0.3);
  const start = from(random, 3, 5);
  const [restFrom, restTo] = [SECONDS / 2 - 2, SECONDS / 2 + 2];
  let k = 0;
  for (let at = start; at < SECONDS - 5; at += step, k++) {
    if (at > restFrom && at < restTo) continue;
    const push = (of: keyof typeof beat, key: number, low = 50, high = 120): void =>
      void beat[of].push({ at, length: 0.2, key, velocity: whole(random, low, high) });
    const fill = k % 32 >= 28;
    if (fill && random() < 0.8) push('tom', [41, 45, 48][whole(random, 0, 2)] as number, 60, 125);
    else {
      if (k % 4 === 0 || random() < 0.12) push('kick', 36);
      if (k % 8 === 4 || random() < 0.05) push('snare', 38, random() < 0.15 ? 22 : 60);
      push('hat', 42, 30, 100);
    }
    if (k % 32 === 0) push('cymbal', 49, 70, 120);
  }
  const parts = Object.fromEntries(
    Object.entries(beat).map(([of, notes]) => [of, peakTo(played('drums', notes), 0.5)]),
  ) as Record<keyof typeof beat, Float32Array>;
  const mic = (
    file: string,
    kind: string,
    own: Partial<Record<keyof typeof beat, number>>,
    bleedDb: readonly [number, number],
  ): MadeTrack => {
    const [clean, spill] = [new Float32Array(length), new Float32Array(length)];
    for (const of of Object.keys(beat) as (keyof typeof beat)[]) {
      const gain = own[of];
      if (gain !== undefined) add(clean, parts[of], gain);
      else {
        const wet = parts[of].slice();
        room(wet, 0.3, 0.1);
        add(spill, wet, dbToGain(from(random, bleedDb[0], bleedDb[1])), whole(random, 20, 150));
      }
    }
    const scale =
      WANTED_PEAK /
      Math.max(
        1e-9,
        clean.reduce((m, v) => Math.max(m, Math.abs(v)), 0),
      );
    const [c, s] = [clean.map((v) => v * scale), spill.map((v) => v * scale)];
    const samples = noise(random, floorDb);
    add(samples, c);
    add(samples, s);
    return {
      file,
      kind,
      isKit: true,
      samples,
      clean: c,
      spill: s,
      floorDbfs: floorDb,
      onsets: (Object.keys(own) as (keyof typeof beat)[]).flatMap((of) => onsetsOf(beat[of])),
      uncounted: [],
    };
  };
  return [
    mic('Kick.wav', 'kick', { kick: 1 }, [-30, -18]),
    mic('Snare Top.wav', 'snare', { snare: 1 }, [-30, -18]),
    mic('Snare Bottom.wav', 'snare bottom', { snare: 1 }, [-26, -14]),
    mic('Hat.wav', 'hat', { hat: 1 }, [-24, -12]),
    mic('Floor Tom.wav', 'tom', { tom: 1 }, [-26, -18]),
    mic('OH.wav', 'overhead', { kick: 0.4, snare: 0.6, hat: 0.5, tom: 0.6, cymbal: 1 }, [-30, -20]),
  ];
}

const NAMES: Readonly<Record<string, string>> = {
  'lead voice': 'Lead Vox',
  'backing voice': 'BV 1',
  bass: 'Bass DI',
  'amp guitar': 'El Gtr',
  'acoustic guitar': 'Ac Gtr',
  horns: 'Horns',
  'strings spot': 'Violins',
  'hand percussion': 'Bongos',
  piano: 'Piano',
  pad: 'Pad',
  'gated loop': 'Drum Loop',
  'talk before': 'Nylon Gtr',
  'chair after': 'Piano 2',
};

/** How the floors of a session move. */
export type FloorHabit = 'steady' | 'steps' | 'wanders' | 'quiet';

/** A session of 19 tracks and its rough mix; tracks of a seed are always the same. */
function makeSession(
  seed: number,
  floorDb: number,
  habit: FloorHabit = 'steady',
): { readonly tracks: MadeTrack[]; readonly mix: Float32Array } {
  const random = createRandom(seed);
  const list = recipes(random);
  const kit = kitTracks(random, floorDb);
  const band = new Float32Array(length);
  for (const r of list) add(band, r.clean, 0.3);
  for (const t of kit) if (t.kind !== 'snare bottom') add(band, t.clean, 0.3);
  const tracks = list.map((r): MadeTrack => {
    const spill = new Float32Array(length);
    if (r.spillDb) {
      const others = band.slice();
      add(others, r.clean, -0.3);
      room(others, 0.25, 0.05);
      add(spill, peakTo(others, WANTED_PEAK), dbToGain(from(random, ...r.spillDb)), whole(random, 30, 300));
    }
    const turn = floorTurn(random, habit);
    const steady = r.gated ? new Float32Array(length) : noise(random, floorDb, random() < 0.3 ? 0.5 : 0);
    const samples = steady.map((v, i) => v * turn(i / RATE));
    if (r.hum)
      for (let i = 0; i < length; i++)
        for (const [h, g] of [
          [50, 1],
          [100, 0.6],
          [150, 0.5],
          [250, 0.2],
          [350, 0.15],
        ] as const)
          samples[i] =
            (samples[i] as number) +
            g * dbToGain(floorDb + 3) * Math.sin((2 * Math.PI * h * i) / RATE) * turn(i / RATE);
    if (r.extra) add(samples, r.extra);
    add(samples, spill);
    add(samples, r.clean);
    if (r.gated) {
      const open = new Uint8Array(length);
      for (let i = 0; i < length; i++)
        if (Math.abs(r.clean[i] as number) > 2e-3)
          open.fill(1, Math.max(0, i - 480), Math.min(length, i + 2400));
      for (let i = 0; i < length; i++) if (!open[i]) samples[i] = 0;
    }
    const quiet = habit === 'quiet' ? dbToGain(-24) : 1;
    const scaled = (x: Float32Array): Float32Array => (quiet === 1 ? x : x.map((v) => v * quiet));
    const humDb = r.hum ? 10 * Math.log10(1 + 2 * (0.5 * (1 + 0.36 + 0.25 + 0.04 + 0.0225))) : 0;
    return {
      file: `${NAMES[r.kind]}.wav`,
      kind: r.kind,
      isKit: false,
      samples: scaled(samples),
      clean: scaled(r.gated ? r.clean.map((v, i) => (samples[i] === 0 ? 0 : v)) : r.clean),
      spill: scaled(spill),
      floorDbfs: r.gated ? null : floorDb + humDb + (quiet === 1 ? 0 : -24),
      onsets: r.onsets,
      uncounted: r.uncounted ?? [],
    };
  });
  return { tracks: [...tracks, ...kit], mix: peakTo(band, 0.7) };
}

function floorTurn(random: Random, habit: FloorHabit): (seconds: number) => number {
  if (habit === 'steps') {
    const [at, by] = [from(random, 12, 36), random() < 0.5 ? -10 : 10];
    return (s) => (s < at ? 1 : dbToGain(by));
  }
  if (habit === 'wanders') {
    const [period, phase] = [from(random, 9, 20), 6 * random()];
    return (s) => dbToGain(4 * Math.sin((2 * Math.PI * s) / period + phase));
  }
  return () => 1;
}

/** The session of {@link makeSession}, kept in a folder between runs: making one takes a minute. */
export function madeSession(
  seed: number,
  floorDb: number,
  habit: FloorHabit = 'steady',
): { readonly tracks: MadeTrack[]; readonly mix: Float32Array } {
  const folder = join(tmpdir(), 'fernmoss-made-tidy', `${seed}_${floorDb}_${habit}`);
  const floats = (file: string): Float32Array => {
    const bytes = readFileSync(join(folder, file));
    return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
  };
  if (!existsSync(join(folder, 'tracks.json'))) {
    mkdirSync(folder, { recursive: true });
    const { tracks, mix } = makeSession(seed, floorDb, habit);
    tracks.forEach((t, i) =>
      SOUNDS.forEach((part) => writeFileSync(join(folder, `${i}.${part}`), new Uint8Array(t[part].buffer))),
    );
    writeFileSync(join(folder, 'mix'), new Uint8Array(mix.buffer));
    writeFileSync(
      join(folder, 'tracks.json'),
      JSON.stringify(tracks.map(({ samples: _s, clean: _c, spill: _p, ...facts }) => facts)),
    );
  }
  const facts = JSON.parse(readFileSync(join(folder, 'tracks.json'), 'utf8')) as Omit<
    MadeTrack,
    (typeof SOUNDS)[number]
  >[];
  return {
    tracks: facts.map((f, i) => ({
      ...f,
      samples: floats(`${i}.samples`),
      clean: floats(`${i}.clean`),
      spill: floats(`${i}.spill`),
    })),
    mix: floats('mix'),
  };
}

const SOUNDS = ['samples', 'clean', 'spill'] as const;
