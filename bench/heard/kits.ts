import type { Random } from '../../src/core/units';
import { SOUND_CLASSES, kindOfSound } from '../../src/core/analysis';
import { KIT_PARTS, type KitPart, type Label } from './phrases';
import { compress, RATE, room } from './synth';

/** What one microphone, or a pair, has of a kit. */
export interface KitMic {
  readonly label: Label;
  readonly channels: readonly Float32Array[];
}

type Parts = Readonly<Record<KitPart, Float32Array>>;

const ANY_DRUM: Label = SOUND_CLASSES.filter((s) => kindOfSound(s) === 'drums');
/** About a millisecond of way a foot. */
const FOOT = Math.round(RATE / 1100);

/** The sum of parts, each at its gain and as late as its way is long. */
function from(parts: Parts, gains: Partial<Record<KitPart, number>>, feet = 0): Float32Array {
  const out = new Float32Array(parts.kick.length);
  for (const part of KIT_PARTS) {
    const gain = gains[part] ?? 0;
    if (gain === 0) continue;
    const x = parts[part];
    const late = feet * FOOT;
    for (let i = late; i < out.length; i++) out[i] = (out[i] as number) + gain * (x[i - late] as number);
  }
  return out;
}

/** A kit as it is recorded: a microphone at each part with the others bleeding in, a pair above, a room, a mix of all. */
export function kitMics(stems: readonly Float32Array[], random: Random): KitMic[] {
  const parts = Object.fromEntries(KIT_PARTS.map((p, i) => [p, stems[i]])) as unknown as Parts;
  const between = (low: number, high: number): number => low * (high / low) ** random();
  const bleed = (): number => between(0.004, 0.12);
  const one = (part: KitPart, gains: Partial<Record<KitPart, number>>): KitMic => ({
    label: [part],
    channels: [from(parts, { ...gains, [part]: 1 })],
  });
  const above = (side: number): Float32Array =>
    from(
      parts,
      {
        kick: between(0.08, 0.4),
        snare: between(0.2, 0.6) * (1 + 0.1 * side),
        hat: between(0.25, 0.7) * (1 - 0.2 * side),
        toms: between(0.2, 0.6),
        cymbals: between(0.8, 1.4) * (1 + 0.15 * side),
      },
      3,
    );
  const far = from(
    parts,
    { kick: between(0.4, 1), snare: 1, hat: between(0.2, 0.6), toms: 1, cymbals: between(0.3, 0.8) },
    9,
  );
  const wet = far.slice();
  room(wet, 0.35 + 0.9 * random(), 0.5 + 1.2 * random());
  if (random() < 0.4) compress(wet, 0.02);
  const whole = from(parts, {
    kick: 1,
    snare: between(0.6, 1),
    hat: between(0.3, 0.7),
    toms: between(0.5, 1),
    cymbals: between(0.4, 0.9),
  });
  const sides = [-1, 1].map(above);
  const mics: readonly KitMic[] = [
    one('kick', { snare: bleed(), hat: 0.5 * bleed(), toms: bleed(), cymbals: 0.5 * bleed() }),
    one('snare', { kick: bleed(), hat: 2 * bleed(), toms: bleed(), cymbals: bleed() }),
    one('hat', { kick: bleed(), snare: 2.5 * bleed(), toms: bleed(), cymbals: 2 * bleed() }),
    one('toms', { kick: 1.3 * bleed(), snare: 1.3 * bleed(), hat: bleed(), cymbals: bleed() }),
    { label: ['cymbals'], channels: random() < 0.5 ? sides : [sides[0] as Float32Array] },
    { label: ['room'], channels: [wet] },
    { label: ANY_DRUM, channels: [whole] },
  ];
  return mics.filter(({ channels }) => channels.some((x) => x.some((v) => Math.abs(v) > 1e-3)));
}
