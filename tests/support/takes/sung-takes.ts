import type { Random } from '@/core/units';

/** A note of a line: when, how long, s, and how high, Hz. */
export interface SungNote {
  readonly at: number;
  readonly seconds: number;
  readonly hz: number;
}

/** A line with rests between its phrases, the same whoever sings it. */
export function sungLine(random: Random, seconds: number): SungNote[] {
  const notes: SungNote[] = [];
  let at = 0.6;
  let step = 0;
  while (at < seconds - 3) {
    const phrase = 3 + Math.floor(random() * 4);
    for (let n = 0; n < phrase && at < seconds - 1; n++) {
      step = Math.max(-5, Math.min(9, step + Math.round((random() - 0.5) * 6)));
      const long = 0.3 + 0.6 * random();
      notes.push({ at, seconds: long, hz: 220 * 2 ** (step / 12) });
      at += long;
    }
    at += 0.5 + 0.6 * random();
  }
  return notes;
}

/** One take of a line: a voice with harmonics, its own vibrato, timing, tuning, level and breath. Mono, ±1. */
export function sungTake(
  random: Random,
  line: readonly SungNote[],
  {
    seconds,
    sampleRateHz,
    gain = 0.2,
  }: { readonly seconds: number; readonly sampleRateHz: number; readonly gain?: number },
): Float32Array {
  const out = new Float32Array(Math.round(seconds * sampleRateHz));
  const colour = Array.from({ length: 12 }, (_, h) => (0.6 + 0.8 * random()) / (h + 1));
  const level = gain * 10 ** ((random() - 0.5) * 0.3);
  const [rate, depth] = [5 + random(), 0.004 + 0.004 * random()];
  for (const note of line) {
    const from = Math.round((note.at + (random() - 0.5) * 0.05) * sampleRateHz);
    const count = Math.round((note.seconds + (random() - 0.5) * 0.04) * sampleRateHz);
    const hz = note.hz * 2 ** (((random() - 0.5) * 40) / 1200);
    let phase = 6.28 * random();
    for (let i = 0; i < count; i++) {
      const t = i / sampleRateHz;
      phase += (2 * Math.PI * hz * (1 + depth * Math.sin(2 * Math.PI * rate * t))) / sampleRateHz;
      const shape = Math.min(1, i / (0.03 * sampleRateHz), (count - i) / (0.05 * sampleRateHz));
      const soft = 0.5 - 0.5 * Math.cos(Math.PI * shape);
      let sum = 0;
      colour.forEach((c, h) => {
        if ((h + 1) * hz < 4500) sum += c * Math.sin((h + 1) * phase);
      });
      const at = from + i;
      if (at >= 0 && at < out.length) out[at] = (out[at] as number) + level * soft * sum;
    }
  }
  return out.map((x) => x + (random() - 0.5) * 1e-4);
}
