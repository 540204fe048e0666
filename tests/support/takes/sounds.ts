import { normal, pick, type Random } from '../../../bench/sections/dice';

/** Rate of all that is made, Hz. */
export const RATE = 24_000;
/** Length of every file, s. */
export const SECONDS = 20;
const FRAMES = RATE * SECONDS;

/** A note of a line: when, how long (s), how high (69 = 440 Hz). */
export interface Note {
  readonly at: number;
  readonly seconds: number;
  readonly pitch: number;
}

const SCALE = [0, 2, 4, 5, 7, 9, 11, 12, 14];

/** A sung line in phrases, with rests between. */
export function melody(random: Random, root = 57): Note[] {
  const notes: Note[] = [];
  let [at, step] = [0.6 + random(), 3];
  while (at < SECONDS - 3) {
    const count = 5 + Math.floor(4 * random());
    for (let k = 0; k < count && at < SECONDS - 1.2; k++) {
      const seconds = pick(random, [0.25, 0.25, 0.5, 0.5, 0.75]);
      step = Math.max(0, Math.min(SCALE.length - 1, step + pick(random, [-2, -1, -1, 0, 1, 1, 2])));
      notes.push({ at, seconds, pitch: root + (SCALE[step] as number) });
      at += seconds;
    }
    at += 0.7 + 0.9 * random();
  }
  return notes;
}

/** How a line is performed. */
export interface Manner {
  /** Spread of the beginnings of notes, s. */
  readonly loose: number;
  /** Colour of the voice: formants times this. */
  readonly size: number;
  readonly gain: number;
  /** Share of the notes sung otherwise. */
  readonly changed: number;
}

const VOWELS: readonly (readonly [number, number, number])[] = [
  [730, 1090, 2440],
  [530, 1840, 2480],
  [270, 2290, 3010],
  [570, 840, 2410],
  [300, 870, 2240],
];

/** Two poles that ring at one frequency. */
class Formant {
  private y1 = 0;
  private y2 = 0;
  private gain = 0;
  private first = 0;
  private second = 0;

  tune(hz: number, width: number): void {
    const r = Math.exp((-Math.PI * width) / RATE);
    this.gain = 1 - r;
    this.first = 2 * r * Math.cos((2 * Math.PI * hz) / RATE);
    this.second = r * r;
  }

  next(x: number): number {
    const y = this.gain * x + this.first * this.y1 - this.second * this.y2;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}

const WIDTHS = [90, 120, 170] as const;

/** A voice sings a line in its manner; every call is another performance. */
export function sing(notes: readonly Note[], manner: Manner, random: Random): Float32Array {
  const out = new Float32Array(FRAMES);
  const [low, middle, high] = [new Formant(), new Formant(), new Formant()];
  let phase = random();
  for (const note of notes) {
    const from = Math.max(0, note.at + manner.loose * normal(random));
    const seconds = note.seconds * (0.85 + 0.2 * random());
    const other = random() < manner.changed ? pick(random, [-2, 2, 3]) : 0;
    const pitch = note.pitch + other + 0.12 * normal(random);
    const [scoop, vibrato, speed] = [1.2 * random(), 0.15 + 0.15 * random(), 5 + random()];
    const vowel = pick(random, VOWELS);
    [low, middle, high].forEach((f, k) => f.tune((vowel[k] as number) * manner.size, WIDTHS[k] as number));
    const loud = manner.gain * (0.7 + 0.5 * random());
    for (let i = Math.round(from * RATE), n = 0; n < seconds * RATE && i < FRAMES; i++, n++) {
      const t = n / RATE;
      const bend =
        -scoop * Math.exp(-t / 0.03) + vibrato * Math.min(1, t / 0.3) * Math.sin(2 * Math.PI * speed * t);
      phase = (phase + (440 * 2 ** ((pitch + bend - 69) / 12)) / RATE) % 1;
      const pulse = phase < 0.6 ? Math.sin((Math.PI * phase) / 0.6) ** 2 : 0;
      const x = pulse - 0.3 + 0.02 * normal(random);
      const y = 1.2 * low.next(x) + 0.7 * middle.next(x) + 0.3 * high.next(x);
      const fade = Math.min(1, t / 0.02, (seconds - t) / 0.05);
      out[i] = (out[i] as number) + loud * fade * y;
    }
  }
  return out;
}

/** Chords that are strummed on plucked strings (Karplus & Strong 1983, from memory); every call is another performance. */
export function strum(random: Random, chords: readonly number[], loose: number): Float32Array {
  const out = new Float32Array(FRAMES);
  for (let k = 0; k * 0.5 < SECONDS - 0.6; k++) {
    const root = chords[Math.floor(k / 4) % chords.length] as number;
    const at = 0.3 + k * 0.5 + loose * normal(random);
    [0, 7, 12, 16, 19].forEach((up, s) => {
      const hz = 440 * 2 ** ((root + up + 0.03 * normal(random) - 69) / 12);
      const line = Float32Array.from({ length: Math.round(RATE / hz) }, () => random() - 0.5);
      const start = Math.round((at + 0.012 * s) * RATE);
      for (let n = 0; n < 0.48 * RATE; n++) {
        const [a, b] = [n % line.length, (n + 1) % line.length];
        const x = line[a] as number;
        line[a] = 0.498 * (x + (line[b] as number));
        if (start + n >= 0 && start + n < FRAMES) out[start + n] = (out[start + n] as number) + 0.25 * x;
      }
    });
  }
  return out;
}

/** What plays besides: bass, drums, keys. */
export function backing(
  random: Random,
  chords: readonly number[],
): Record<'Bass' | 'Drums' | 'Keys', Float32Array> {
  const [bass, drums, keys] = [0, 1, 2].map(() => new Float32Array(FRAMES)) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  for (let k = 0; k * 0.5 < SECONDS - 0.5; k++) {
    const start = Math.round((0.3 + k * 0.5) * RATE);
    const root = chords[Math.floor(k / 4) % chords.length] as number;
    const hz = 440 * 2 ** ((root - 12 - 69) / 12);
    for (let n = 0; n < 0.45 * RATE; n++) {
      const t = n / RATE;
      const at = start + n;
      bass[at] =
        (bass[at] as number) +
        0.3 * Math.exp(-2 * t) * Math.sin(2 * Math.PI * hz * t + Math.sin(2 * Math.PI * hz * t));
      const hit =
        k % 2 === 0 ? Math.sin(2 * Math.PI * (60 * t + 4 * (1 - Math.exp(-40 * t)))) : random() - 0.5;
      drums[at] = (drums[at] as number) + 0.5 * Math.exp(-(k % 2 === 0 ? 12 : 25) * t) * hit;
      for (const up of [12, 16, 19])
        keys[at] =
          (keys[at] as number) +
          0.06 * Math.exp(-1.5 * t) * Math.sin(2 * Math.PI * 440 * 2 ** ((root + up - 69) / 12) * t);
    }
  }
  return { Bass: bass, Drums: drums, Keys: keys };
}
