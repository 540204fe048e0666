import type { Random } from '../../src/core/units';
import { glottalSlope } from './synth';

/** Rate of the speech that is sung, Hz. */
const RATE = 16_000;
const HOP = 160;
const WINDOW = 400;
const ORDER = 18;
const EMPHASIS = 0.95;

/** A hundredth of a second of speech: its resonances, level, and whether it has a pitch. */
interface SpeechFrame {
  readonly filter: Float64Array;
  readonly level: number;
  readonly isVoiced: boolean;
}

/** Linear prediction by the autocorrelation method (Levinson & Durbin; Makhoul 1975), from memory. */
function predictor(r: Float64Array): Float64Array {
  const a = new Float64Array(ORDER + 1);
  a[0] = 1;
  let error = (r[0] as number) * 1.0001 + 1e-9;
  for (let i = 1; i <= ORDER; i++) {
    let sum = r[i] as number;
    for (let j = 1; j < i; j++) sum += (a[j] as number) * (r[i - j] as number);
    const k = -sum / error;
    const before = a.slice();
    for (let j = 1; j < i; j++) a[j] = (before[j] as number) + k * (before[i - j] as number);
    a[i] = k;
    error *= 1 - k * k;
  }
  return a;
}

function framesOf(speech: Float32Array): SpeechFrame[] {
  const x = Float64Array.from(speech, (v, i) => v - EMPHASIS * (i > 0 ? (speech[i - 1] as number) : 0));
  const out: SpeechFrame[] = [];
  const part = new Float64Array(WINDOW);
  for (let from = 0; from + 2 * WINDOW < x.length; from += HOP) {
    let level = 0;
    for (let i = 0; i < WINDOW; i++) {
      level += (speech[from + i] as number) ** 2;
      part[i] = (x[from + i] as number) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / WINDOW));
    }
    const r = new Float64Array(ORDER + 1);
    for (let k = 0; k <= ORDER; k++)
      for (let i = k; i < WINDOW; i++)
        r[k] = (r[k] as number) + (part[i] as number) * (part[i - k] as number);
    let best = 0;
    for (let lag = 40; lag < 220; lag += 2) {
      let [sum, a, b] = [0, 1e-9, 1e-9];
      for (let i = 0; i < WINDOW; i += 2) {
        const [p, q] = [speech[from + i] as number, speech[from + i + lag] as number];
        sum += p * q;
        a += p * p;
        b += q * q;
      }
      best = Math.max(best, sum / Math.sqrt(a * b));
    }
    out.push({ filter: predictor(r), level: Math.sqrt(level / WINDOW), isVoiced: best > 0.6 });
  }
  return out;
}

/** How a line is sung. */
export interface Line {
  /** Notes in turn: MIDI key and seconds. */
  readonly notes: readonly { readonly key: number; readonly seconds: number; readonly rest: number }[];
  /** Semitones. */
  readonly vibrato: number;
  readonly breath: number;
}

/** A line to sing; `low`: the lowest key. */
export function lineOf(low: number, seconds: number, random: Random): Line {
  const scale = [0, 2, 4, 5, 7, 9, 11, 12, 14, 16];
  const pace = 0.18 + 0.5 * random();
  const notes: { key: number; seconds: number; rest: number }[] = [];
  let [at, degree] = [0, Math.floor(random() * 6)];
  while (at < seconds) {
    degree = Math.max(0, Math.min(scale.length - 1, degree + Math.floor(random() * 5) - 2));
    const length = pace * ([1, 1, 1, 2, 2, 4][Math.floor(random() * 6)] as number);
    const rest = random() < 0.15 ? 0.2 + 0.9 * random() : 0;
    notes.push({ key: low + (scale[degree] as number), seconds: length, rest });
    at += length + rest;
  }
  return { notes, vibrato: random() < 0.25 ? 0.05 : 0.15 + 0.45 * random(), breath: 0.01 + 0.05 * random() };
}

/** What was said, sung: each voiced stretch holds a note, consonants pass as they were said. Rate 16 kHz. */
export function sung(speech: Float32Array, line: Line, random: Random): Float32Array {
  const frames = framesOf(speech);
  const loud = frames.reduce((m, f) => Math.max(m, f.level), 1e-6);
  const plan: { readonly frame: SpeechFrame; readonly key: number | null }[] = [];
  let [at, note] = [0, 0];
  while (at < frames.length && note < line.notes.length) {
    const isVoiced = (frames[at] as SpeechFrame).isVoiced;
    let end = at;
    while (end < frames.length && (frames[end] as SpeechFrame).isVoiced === isVoiced && end - at < 24) end++;
    const part = frames.slice(at, end);
    at = end;
    if (!isVoiced || part.length < 4) {
      for (const frame of part.slice(0, 9)) plan.push({ frame, key: null });
      continue;
    }
    const { key, seconds, rest } = line.notes[note++] as Line['notes'][number];
    const count = Math.max(6, Math.round((seconds * RATE) / HOP));
    for (let i = 0; i < count; i++)
      plan.push({ frame: part[Math.floor((i / count) * part.length)] as SpeechFrame, key });
    const silence = { ...(part[0] as SpeechFrame), level: 0 };
    for (let i = 0; i < (rest * RATE) / HOP; i++) plan.push({ frame: silence, key: null });
  }
  const out = new Float32Array(plan.length * HOP);
  const past = new Float64Array(ORDER);
  const glottis = glottalSlope();
  let [phase, glide, gain, emphasis] = [0, 0, 0, 0];
  plan.forEach(({ frame, key }, n) => {
    if (key !== null && glide === 0) glide = key;
    const target = frame.level < 0.02 * loud ? 0 : frame.level ** 0.7 * loud ** 0.3;
    let energy = 1e-9;
    const block = new Float64Array(HOP);
    for (let i = 0; i < HOP; i++) {
      const t = (n * HOP + i) / RATE;
      if (key !== null) glide += (key - glide) * 0.0025;
      const hz =
        440 *
        2 **
          ((glide -
            69 +
            line.vibrato * Math.sin(2 * Math.PI * 5.5 * t) +
            0.05 * Math.sin(2 * Math.PI * 0.7 * t)) /
            12);
      phase += hz / RATE;
      if (phase >= 1) phase -= 1;
      const slope = glottis(phase);
      const air = random() * 2 - 1;
      let y = key === null ? 0.3 * air : slope + line.breath * air;
      for (let j = 1; j <= ORDER; j++) y -= (frame.filter[j] as number) * (past[j - 1] as number);
      past.copyWithin(1, 0);
      past[0] = y;
      emphasis = y + EMPHASIS * emphasis;
      block[i] = emphasis;
      energy += emphasis * emphasis;
    }
    const wanted = target / Math.sqrt(energy / HOP);
    for (let i = 0; i < HOP; i++) {
      gain += (wanted - gain) * 0.01;
      out[n * HOP + i] = gain * (block[i] as number);
    }
  });
  return out;
}
