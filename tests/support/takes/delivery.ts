import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createRandom } from '@/core/units';
import { pick, type Random } from '../../../bench/sections/dice';
import { wavBytes } from '../recordings';
import { chordsOf, type Group, makeGroup } from './groups';
import { backing, RATE } from './sounds';

/** What names of the group's files say. */
export type Naming = 'telling' | 'numbers' | 'recorder';

/** A delivery on the disk, and what its group is. */
export interface MadeDelivery {
  readonly group: Group;
  /** Names of the group's files, in order. */
  readonly files: readonly string[];
}

/** Writes a delivery with one group of look-alikes, what plays besides, and a rough mix if asked. */
export async function makeDelivery(
  folder: string,
  {
    kind,
    seed,
    naming,
    hasMix,
  }: { readonly kind: string; readonly seed: number; readonly naming: Naming; readonly hasMix: boolean },
): Promise<MadeDelivery> {
  const random = createRandom(seed);
  const chords = chordsOf(random);
  const group = makeGroup(kind, random, chords);
  const others = backing(random, chords);
  const files = group.sounds.map((_, k) => `${nameOf(group, k, naming, random)}.wav`);
  const write = async (name: string, channels: readonly Float32Array[]): Promise<void> =>
    writeFileSync(join(folder, name), await wavBytes(channels, { rateHz: RATE }));
  for (const [k, sound] of group.sounds.entries()) await write(files[k] as string, [sound]);
  for (const [k, [name, sound]] of Object.entries(others).entries())
    await write(naming === 'recorder' ? `REC${1000 + 7 * k}.wav` : `${name}.wav`, [sound]);
  if (hasMix) await write('rough mix.wav', mixOf(group, Object.values(others), random));
  return { group, files };
}

function nameOf(group: Group, k: number, naming: Naming, random: Random): string {
  const base = group.instrument === 'voice' ? 'Lead Vox' : 'Acoustic Gtr';
  if (naming === 'recorder') return `REC${2000 + k}`;
  if (naming === 'numbers') return `${base} ${k + 1}`;
  if (group.comp === k) return `${base} comp`;
  switch (group.truth) {
    case 'takes':
      return `${base} ${pick(random, ['take ', 'tk', 't'])}${k + 1}`;
    case 'unison':
      return k === 0 ? base : `${base} dbl${k > 1 ? ` ${k}` : ''}`;
    case 'harmony':
      return k === 0 ? base : `${base} harm ${k}`;
    case 'octave':
      return k === 0 ? base : `${base} oct`;
    case 'microphones':
      return `${base} ${k === 0 ? 'close' : 'far'}`;
    case 'after':
      return k === 0 ? base : `${base} punch`;
    case 'answer':
      return k === 0 ? base : `${base} answer`;
  }
}

/** A quick mix: levels, sides, a little room, saturation, and later by some milliseconds. */
function mixOf(group: Group, others: readonly Float32Array[], random: Random): Float32Array[] {
  const inSong = group.sounds.map((sound, k) => {
    if (group.wanted[0] === -1) return sound.map((x, i) => (Math.floor(i / RATE / 5) % 2 === k ? x : 0));
    return group.wanted.includes(k) ? sound : null;
  });
  const sides = [new Float32Array(others[0]?.length ?? 0), new Float32Array(others[0]?.length ?? 0)];
  for (const sound of [...inSong, ...others]) {
    if (!sound) continue;
    const [gain, pan] = [0.6 + 0.6 * random(), 0.8 * (random() - 0.5)];
    const pressed = compressed(sound);
    sides.forEach((side, c) => {
      const own = gain * Math.SQRT1_2 * (1 + (c === 0 ? -pan : pan));
      for (let i = 0; i < side.length; i++) side[i] = (side[i] as number) + own * (pressed[i] as number);
    });
  }
  const delay = Math.floor(0.029 * random() * RATE);
  const peak = Math.max(...sides.map((s) => s.reduce((m, x) => Math.max(m, Math.abs(x)), 0)));
  return sides.map((side, c) =>
    side.map((_, i) => {
      const dry = side[i - delay] ?? 0;
      const room = 0.12 * (side[i - delay - 1801 - 97 * c] ?? 0) + 0.08 * (side[i - delay - 2903] ?? 0);
      return 0.8 * Math.tanh((1.2 / peak) * (dry + room));
    }),
  );
}

/** A compressor of 3 : 1 over its own loud half. */
function compressed(sound: Float32Array): Float32Array {
  let level = 0;
  const over = 0.3 * sound.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  return sound.map((x) => {
    const size = Math.abs(x);
    level += (size > level ? 0.01 : 0.0005) * (size - level);
    return level > over ? x * (over / level) ** (2 / 3) : x;
  });
}
