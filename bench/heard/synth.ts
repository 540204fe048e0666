import { SOUND_CLASSES, kindOfSound } from '../../src/core/analysis';
import type { Random } from '../../src/core/units';
import type { Label } from './phrases';

/** Rate of all made examples, Hz. */
export const RATE = 48_000;

const noise = (random: Random): number => 2 * random() - 1;

/** Formants of sung vowels, Hz, of a man's voice; after published tables (Peterson & Barney 1952), from memory and rounded. */
const VOWELS: readonly (readonly number[])[] = [
  [730, 1090, 2440],
  [270, 2290, 3010],
  [300, 870, 2240],
  [530, 1840, 2480],
  [570, 840, 2410],
  [660, 1720, 2410],
  [490, 1350, 1690],
];

/** A two-pole resonance at unit peak. */
function resonator(hz: number, widthHz: number): (x: number) => number {
  let [y1, y2] = [0, 0];
  const r = Math.exp((-Math.PI * widthHz) / RATE);
  const a = 2 * r * Math.cos((2 * Math.PI * hz) / RATE);
  const gain = (1 - r) * Math.sqrt(1 - 2 * r * Math.cos((4 * Math.PI * hz) / RATE) + r * r);
  return (x) => {
    const y = gain * x + a * y1 - r * r * y2;
    [y2, y1] = [y1, y];
    return y;
  };
}

/** Slope of the glottal pulse at each phase of its period, 0–1, in turn (Rosenberg 1971, from memory): rise, fall, closed; the ear hears its slope. */
export function glottalSlope(): (phase: number) => number {
  let previous = 0;
  return (phase) => {
    const open =
      phase < 0.4
        ? 0.5 * (1 - Math.cos((Math.PI * phase) / 0.4))
        : phase < 0.56
          ? Math.cos((Math.PI * (phase - 0.4)) / 0.32)
          : 0;
    const slope = open - previous;
    previous = open;
    return slope;
  };
}

/** A sung or spoken line: glottal pulses with vibrato and drift through formants that move from vowel to vowel, with breath and consonants. */
function voice(seconds: number, random: Random): Float32Array {
  const out = new Float32Array(seconds * RATE);
  const high = random() < 0.5 ? 1.17 : 1;
  const base = (high > 1 ? 220 : 120) * 2 ** (0.6 * random());
  const spoken = random() < 0.25;
  let phase = 0;
  const glottis = glottalSlope();
  let glide = base;
  for (let at = 0; at < out.length;) {
    const length = Math.floor((spoken ? 0.12 + 0.2 * random() : 0.25 + 1.2 * random()) * RATE);
    if (random() < 0.15) {
      at += Math.floor(length * (0.3 + random()));
      continue;
    }
    const vowel = (VOWELS[Math.floor(random() * VOWELS.length)] as readonly number[]).map((f) => f * high);
    const formants = [...vowel, 3500 * high, 4500 * high].map((hz, k) => ({
      run: resonator(hz, 60 + 40 * k),
      level: [1, 0.5, 0.3, 0.2, 0.1][k] as number,
    }));
    const target = base * 2 ** ([0, 2, 4, 5, 7, 9, -3, -5][Math.floor(random() * 8)]! / 12);
    const hiss = resonator(4500 + 2500 * random(), 1800);
    const consonant = random() < 0.6 ? Math.floor(0.07 * RATE * (0.5 + random())) : 0;
    const depth = spoken ? 0 : 0.004 + 0.012 * random();
    for (let k = 0; k < length && at + k < out.length; k++) {
      const t = k / RATE;
      glide += (target - glide) * 0.0006;
      const hz =
        glide *
        (1 + depth * Math.sin(2 * Math.PI * 5.4 * t) * Math.min(1, t / 0.3)) *
        (spoken ? 1 - 0.2 * t : 1) *
        (1 + 0.004 * noise(random));
      phase += hz / RATE;
      if (phase >= 1) phase -= 1;
      const slope = glottis(phase);
      const env = Math.min(1, t / 0.03) * Math.min(1, (length - k) / (0.06 * RATE));
      const source = slope * 14 + 0.02 * noise(random);
      let y = 0;
      for (const f of formants) y += f.level * f.run(source);
      out[at + k] = (k < consonant ? 0.25 * hiss(noise(random)) : 0) + env * y;
    }
    at += length;
  }
  return out;
}

/** A plucked string (Karplus & Strong 1983), from memory. */
function string(
  out: Float32Array,
  at: number,
  hz: number,
  length: number,
  bright: number,
  random: Random,
  gain: number,
): void {
  const period = Math.max(2, Math.round(RATE / hz));
  const line = Float32Array.from({ length: period }, () => noise(random));
  for (let k = 0, i = 0; k < length && at + k < out.length; k++, i = (i + 1) % period) {
    const next = line[(i + 1) % period] as number;
    const y = line[i] as number;
    line[i] = (y * bright + next * (1 - bright)) * 0.9985;
    out[at + k] = (out[at + k] as number) + gain * y * Math.min(1, (length - k) / 800);
  }
}

function plucked(seconds: number, random: Random, low: boolean): Float32Array {
  const out = new Float32Array(seconds * RATE);
  const base = low ? 41 * 2 ** random() : 110 * 2 ** (1.5 * random());
  const pulse = 0.18 + 0.4 * random();
  const bright = low ? 0.35 + 0.15 * random() : 0.5 + 0.3 * random();
  for (let t = 0.1; t < seconds - 0.2; t += pulse * (random() < 0.3 ? 2 : 1)) {
    if (random() < 0.1) continue;
    for (const step of !low && random() < 0.4 ? [0, 4, 7] : [0])
      string(
        out,
        Math.floor(t * RATE),
        base * 2 ** ((Math.floor(random() * 5) * 2 + step) / 12),
        Math.floor((low ? 0.8 : 1.6) * pulse * RATE * 1.5),
        bright,
        random,
        low ? 0.5 : 0.25,
      );
  }
  return out;
}

/** A held sound of a few partials, with bow noise or breath, and slow movement. */
function held(seconds: number, random: Random): Float32Array {
  const out = new Float32Array(seconds * RATE);
  const base = 130 * 2 ** (2 * random());
  const partials = 4 + Math.floor(14 * random());
  const tilt = 0.7 + random();
  const breath = 0.02 * random();
  for (let t = 0.1; t < seconds - 0.3;) {
    const length = Math.min(seconds - t, 0.5 + 2.5 * random());
    const hz = base * 2 ** ((Math.floor(random() * 6) * 2) / 12);
    for (const step of random() < 0.5 ? [0, 4, 7] : [0]) {
      const f = hz * 2 ** (step / 12);
      for (let k = 0; k < length * RATE && Math.floor(t * RATE) + k < out.length; k++) {
        const s = k / RATE;
        const env = Math.min(1, s / 0.08) * Math.min(1, (length - s) / 0.12);
        let y = breath * noise(random);
        const w = 2 * Math.PI * f * s + 0.02 * Math.sin(2 * Math.PI * 5 * s);
        for (let p = 1; p <= partials && p * f < 12_000; p++) y += Math.sin(p * w) / p ** tilt;
        const i = Math.floor(t * RATE) + k;
        out[i] = (out[i] as number) + 0.12 * env * y;
      }
    }
    t += length;
  }
  return out;
}

/** Members of the made kit: tone, decay, share of noise, and where the noise lies. */
const MEMBERS = {
  kick: { hz: 55, decay: 0.16, snap: 0.05, noiseHz: 300, widthHz: 400 },
  snare: { hz: 190, decay: 0.12, snap: 0.8, noiseHz: 2200, widthHz: 3000 },
  hat: { hz: 0, decay: 0.05, snap: 1, noiseHz: 8500, widthHz: 6000 },
  toms: { hz: 110, decay: 0.3, snap: 0.08, noiseHz: 600, widthHz: 500 },
} as const;
type Member = keyof typeof MEMBERS;
/** What the whole made kit plays, eighth by eighth. */
const BEAT: readonly Member[] = ['kick', 'hat', 'snare', 'hat', 'kick', 'hat', 'snare', 'toms'];

/** A made kit, or one of its members: swept sines and noise. */
function drums(only: Member | null, seconds: number, random: Random): Float32Array {
  const out = new Float32Array(seconds * RATE);
  const pulse = 0.14 + 0.2 * random();
  const ring = 0.5 + random();
  const tuned = 0.8 + 0.5 * random();
  for (let t = 0.1, n = 0; t < seconds - 0.2; t += pulse, n++) {
    if (only !== null && random() < 0.35) continue;
    const { hz, decay, snap, noiseHz, widthHz } = MEMBERS[only ?? (BEAT[n % 8] as Member)];
    const at = Math.floor(t * RATE);
    const tone = hz * tuned * (only === 'toms' ? 2 ** (Math.floor(4 * random()) / 5) : 1);
    const body = resonator(noiseHz, widthHz);
    const level = 0.5 + 0.5 * random();
    for (let k = 0; k < 1.2 * RATE && at + k < out.length; k++) {
      const s = k / RATE;
      const env = Math.exp(-s / decay / ring);
      if (env < 1e-4) break;
      out[at + k] =
        (out[at + k] as number) +
        level *
          env *
          Math.min(1, k / 20) *
          ((tone > 0 ? 0.6 * Math.sin(2 * Math.PI * tone * s * (1 + 0.6 * Math.exp(-s / 0.03))) : 0) +
            snap * body(noise(random)));
    }
  }
  return out;
}

/** What is there when nobody plays: hiss, hum, wind, a street, a crowd. */
function noises(seconds: number, random: Random): Float32Array {
  const out = new Float32Array(seconds * RATE);
  const color = 0.002 + random() ** 3;
  const [hum, hz] = [random() < 0.4 ? 0.3 * random() : 0, random() < 0.5 ? 50 : 60];
  const sway = random() < 0.5 ? 0 : 0.9 * random();
  const pace = 0.05 + 0.6 * random();
  const grain = random() < 0.3 ? 0.002 + 0.02 * random() : 0;
  let [low, swell, burst] = [0, 0, 0];
  for (let i = 0; i < out.length; i++) {
    const t = i / RATE;
    if (i % 4800 === 0) swell = 0.7 * swell + 0.3 * noise(random);
    low += (noise(random) - low) * color;
    burst = random() < grain ? 1 : burst * 0.995;
    out[i] =
      (low / Math.sqrt(color)) *
        (1 + sway * (Math.sin(2 * Math.PI * pace * t) + swell)) *
        (grain > 0 ? burst : 1) +
      hum * (Math.sin(2 * Math.PI * hz * t) + 0.5 * Math.sin(6 * Math.PI * hz * t));
  }
  return out;
}

const kinds = (...of: readonly string[]): Label => SOUND_CLASSES.filter((s) => of.includes(kindOfSound(s)));

/** What this project synthesises, and what it is. */
export const MADE_SOUNDS = [
  { name: 'kick', label: ['kick'] },
  { name: 'snare', label: ['snare'] },
  { name: 'hat', label: ['hat'] },
  { name: 'toms', label: ['toms'] },
  { name: 'kit', label: kinds('drums') },
  { name: 'bass', label: ['bass'] },
  { name: 'string', label: ['plucked'] },
  { name: 'held', label: kinds('sustained') },
  { name: 'voice', label: ['voice', 'speech'] },
  { name: 'noise', label: ['noise'] },
] as const satisfies readonly { readonly name: string; readonly label: Label }[];

/** One made example. */
export function madeSound(
  name: (typeof MADE_SOUNDS)[number]['name'],
  seconds: number,
  random: Random,
): Float32Array {
  if (name === 'kit') return drums(null, seconds, random);
  if (name === 'voice') return voice(seconds, random);
  if (name === 'held') return held(seconds, random);
  if (name === 'noise') return noises(seconds, random);
  if (name === 'bass' || name === 'string') return plucked(seconds, random, name === 'bass');
  return drums(name, seconds, random);
}

/** Lows up and highs down or the other way, as microphones, places and desks do. */
function tilt(x: Float32Array, db: number, hz: number): void {
  const [lows, highs] = [10 ** (db / 20), 10 ** (-db / 20)];
  const by = 1 - Math.exp((-2 * Math.PI * hz) / RATE);
  let low = 0;
  for (let i = 0; i < x.length; i++) {
    const v = x[i] as number;
    low += (v - low) * by;
    x[i] = lows * low + highs * (v - low);
  }
}

/** A stage that is driven too far. */
function drive(x: Float32Array, by: number, level: number): void {
  for (let i = 0; i < x.length; i++) x[i] = Math.tanh((by * (x[i] as number)) / level);
}

/** A recording as it comes: with something else bleeding in, a room, compression, a noise floor, at some level. */
export function asRecorded(sound: Float32Array, other: Float32Array, random: Random): Float32Array {
  const out = Float32Array.from(sound);
  const rms = (x: Float32Array): number => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length) + 1e-9;
  const own = rms(out);
  if (random() < 0.5) {
    const bleed = (own / rms(other)) * 10 ** (-(14 + 20 * random()) / 20);
    for (let i = 0; i < out.length; i++)
      out[i] = (out[i] as number) + bleed * (other[i % other.length] as number);
  }
  if (random() < 0.7) tilt(out, 10 * (random() - 0.5), 250 + 1500 * random());
  if (random() < 0.15) drive(out, 0.3 + random(), own);
  if (random() < 0.5) room(out, 0.15 + 0.9 * random(), 0.05 + 0.25 * random());
  if (random() < 0.4) compress(out, 3 * own);
  const floor = own * 10 ** (-(45 + 30 * random()) / 20);
  const level = 10 ** (-(3 + 20 * random()) / 20) / out.reduce((m, v) => Math.max(m, Math.abs(v)), 1e-9);
  for (let i = 0; i < out.length; i++) out[i] = level * ((out[i] as number) + floor * noise(random));
  return out;
}

/** Four combs and two all-passes (after Schroeder 1962, from memory). */
export function room(x: Float32Array, seconds: number, wet: number): void {
  const combs = [1687, 1601, 2053, 2251].map((n) => ({
    line: new Float32Array(n),
    at: 0,
    gain: 10 ** ((-3 * n) / (seconds * RATE)),
  }));
  const passes = [347, 113].map((n) => ({ line: new Float32Array(n), at: 0 }));
  for (let i = 0; i < x.length; i++) {
    const dry = x[i] as number;
    let y = 0;
    for (const c of combs) {
      const v = c.line[c.at] as number;
      y += v;
      c.line[c.at] = dry + c.gain * v;
      c.at = (c.at + 1) % c.line.length;
    }
    for (const p of passes) {
      const v = p.line[p.at] as number;
      const next = y + 0.6 * v;
      p.line[p.at] = next;
      y = v - 0.6 * next;
      p.at = (p.at + 1) % p.line.length;
    }
    x[i] = dry + wet * y;
  }
}

/** Turned down above a threshold. */
export function compress(x: Float32Array, threshold: number): void {
  let level = 0;
  for (let i = 0; i < x.length; i++) {
    const v = Math.abs(x[i] as number);
    level += (v - level) * (v > level ? 0.01 : 0.0003);
    if (level > threshold) x[i] = (x[i] as number) * (threshold / level) ** 0.75;
  }
}
