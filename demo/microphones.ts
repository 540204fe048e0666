import { createRandom } from '@/core/units';

/** One source in one microphone: linear gain and delay. */
export interface Pickup {
  readonly from: Float32Array;
  readonly gain: number;
  /** Distance in time, ms (1 m = 2.9 ms). */
  readonly delayMs?: number;
}

/** Sum of what a microphone hears. */
export function hear(pickups: readonly Pickup[], frames: number, rateHz: number): Float32Array {
  const out = new Float32Array(frames);
  for (const { from, gain, delayMs = 0 } of pickups) {
    const delay = Math.round((delayMs * rateHz) / 1000);
    for (let i = delay; i < frames; i++) out[i] = (out[i] as number) + gain * (from[i - delay] as number);
  }
  return out;
}

/** A wooden room: parallel combs and two all-passes (Schroeder 1962, from memory), about 0.5 s. `seed` changes the walls. */
export function room(dry: Float32Array, rateHz: number, seed: number): Float32Array {
  const random = createRandom(seed);
  const wet = new Float32Array(dry.length);
  for (const ms of [29.7, 34.1, 37.3, 43.7]) {
    const size = Math.round(((ms + random() * 3) * rateHz) / 1000);
    const line = new Float32Array(size);
    let damp = 0;
    for (let i = 0; i < dry.length; i++) {
      const y = line[i % size] as number;
      damp = 0.65 * y + 0.35 * damp;
      line[i % size] = (dry[i] as number) + 0.72 * damp;
      wet[i] = (wet[i] as number) + 0.25 * y;
    }
  }
  for (const ms of [5.1, 1.7]) {
    const size = Math.round((ms * rateHz) / 1000);
    const line = new Float32Array(size);
    for (let i = 0; i < wet.length; i++) {
      const kept = line[i % size] as number;
      const x = wet[i] as number;
      line[i % size] = x + 0.6 * kept;
      wet[i] = kept - 0.6 * (x + 0.6 * kept);
    }
  }
  return wet;
}

/** Air and hum of a boat shed, very quiet. */
export function roomNoise(frames: number, rateHz: number, seed: number, level: number): Float32Array {
  const random = createRandom(seed);
  let low = 0;
  return Float32Array.from({ length: frames }, (_, i) => {
    low = 0.985 * low + 0.015 * (random() * 2 - 1);
    return level * (4 * low + 0.15 * (random() * 2 - 1) + 0.2 * Math.sin((2 * Math.PI * 50 * i) / rateHz));
  });
}

/** Someone talking before the song: voiced syllables with moving formants, no words. */
export function talk(
  frames: number,
  rateHz: number,
  seed: number,
  fromSeconds: number,
  toSeconds: number,
): Float32Array {
  const random = createRandom(seed);
  const out = new Float32Array(frames);
  for (let at = fromSeconds; at < toSeconds;) {
    const length = 0.1 + random() * 0.16;
    const pitch = 105 + random() * 45;
    const formants = [350 + random() * 450, 1000 + random() * 900];
    const begin = Math.round(at * rateHz);
    for (let i = 0; i < length * rateHz && begin + i < frames; i++) {
      const t = i / rateHz;
      let y = 0;
      for (let h = 1; h < 24; h++) {
        const hz = h * pitch;
        const weight = formants.reduce((a, f) => a + Math.exp(-(((hz - f) / 160) ** 2)), 0.04);
        y += (weight / h ** 0.4) * Math.sin(2 * Math.PI * hz * t);
      }
      out[begin + i] = 0.05 * y * Math.sin((Math.PI * t) / length);
    }
    at += length + (random() < 0.25 ? 0.35 : 0.03);
  }
  return out;
}

/** A bass amplifier left on: mains hum with its harmonics, and hiss. */
export function ampHum(frames: number, rateHz: number, seed: number, level: number): Float32Array {
  const random = createRandom(seed);
  return Float32Array.from({ length: frames }, (_, i) => {
    const t = (2 * Math.PI * 50 * i) / rateHz;
    return level * (Math.sin(t) + 0.5 * Math.sin(2 * t) + 0.25 * Math.sin(3 * t) + 0.2 * (random() * 2 - 1));
  });
}

/** Breaths of a voice: soft noise that swells before each phrase, a phrase being what follows so long a rest, s. */
export function breaths(
  notes: readonly { readonly seconds: number; readonly lengthSeconds: number }[],
  frames: number,
  rateHz: number,
  seed: number,
): Float32Array {
  const random = createRandom(seed);
  const out = new Float32Array(frames);
  const [rest, length, level] = [0.9, 0.38, 0.006];
  let end = -Infinity;
  for (const note of [...notes].sort((a, b) => a.seconds - b.seconds)) {
    if (note.seconds - end > rest) {
      const begin = Math.round((note.seconds - length - 0.06) * rateHz);
      let low = 0;
      for (let i = 0; i < length * rateHz; i++) {
        low = 0.7 * low + 0.3 * (random() * 2 - 1);
        const at = begin + i;
        if (at >= 0 && at < frames)
          out[at] = level * 3 * low * Math.sin((Math.PI * i) / (length * rateHz)) ** 2;
      }
    }
    end = Math.max(end, note.seconds + note.lengthSeconds);
  }
  return out;
}
