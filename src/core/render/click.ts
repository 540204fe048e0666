import type { ClickBeat, ClickSound, ClickStroke } from '../time';

/** A stroke is over after so long, s. */
export const CLICK_SECONDS = 0.03;
const LOUD: Readonly<Record<ClickStroke, number>> = { accent: 1, pulse: 0.7, part: 0.35 };
const TONE_HZ: Readonly<Record<ClickStroke, number>> = { accent: 1760, pulse: 1175, part: 1175 };
const WOOD_HZ: Readonly<Record<ClickStroke, number>> = { accent: 930, pulse: 690, part: 690 };
/** Second mode of a free bar against its first (handbooks of acoustics, from memory). */
const BAR_MODE = 2.756;
const TICK_HZ = 16_000;

/** A sample of a stroke, −1…1, `age` seconds after it begins. A cosine begins with its peak: the edge is the moment. */
export function clickSample(sound: ClickSound, stroke: ClickStroke, age: number): number {
  const fall = Math.exp((-6 * age) / CLICK_SECONDS);
  if (sound === 'tone') return LOUD[stroke] * Math.cos(2 * Math.PI * TONE_HZ[stroke] * age) * fall;
  if (sound === 'wood') {
    const turn = 2 * Math.PI * WOOD_HZ[stroke] * age;
    return LOUD[stroke] * (0.65 * Math.cos(turn) * fall + 0.35 * Math.cos(BAR_MODE * turn) * fall ** 2.5);
  }
  // The same noise each time, so that strokes and files are alike.
  const n = Math.floor(age * TICK_HZ) + (stroke === 'accent' ? 977 : 0);
  const noise = n % 977 === 0 ? 1 : ((Math.imul(n ^ (n >>> 5), 0x2c1b3c6d) >>> 8) & 0xffff) / 32768 - 1;
  return LOUD[stroke] * noise * Math.exp((-age * 1000) / (stroke === 'accent' ? 5 : 2.5));
}

const PEAK = 0.5; // −6 dBFS
const BLOCK = 65_536;

/** The click as mono blocks covering `lengthFrames`; each stroke begins at its exact moment, between samples too. `gainDb` = against its usual level. */
export function* renderClick(
  beats: readonly ClickBeat[],
  sampleRateHz: number,
  lengthFrames: number,
  { sound = 'tone', gainDb = 0 }: { readonly sound?: ClickSound; readonly gainDb?: number } = {},
): Generator<readonly Float32Array[]> {
  const peak = PEAK * 10 ** (gainDb / 20);
  const span = Math.ceil(CLICK_SECONDS * sampleRateHz);
  let first = 0;
  for (let start = 0; start < lengthFrames; start += BLOCK) {
    const out = new Float32Array(Math.min(BLOCK, lengthFrames - start));
    for (let b = first; b < beats.length; b++) {
      const beat = beats[b] as ClickBeat;
      const begin = beat.seconds * sampleRateHz;
      if (begin >= start + out.length) break;
      if (begin + span < start) {
        first = b + 1;
        continue;
      }
      const from = Math.max(start, Math.ceil(begin));
      for (let i = from; i < Math.min(start + out.length, begin + span); i++) {
        out[i - start] =
          (out[i - start] as number) + peak * clickSample(sound, beat.stroke, (i - begin) / sampleRateHz);
      }
    }
    yield [out];
  }
}
