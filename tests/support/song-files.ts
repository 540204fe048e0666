import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { knocks, tone, writeWav } from './recordings';

/** Beats of the small song of the end-to-end tests: 104 a minute, first downbeat at 2.5 s. */
export const SONG_BEATS = Array.from({ length: 48 }, (_, i) => 2.5 + (60 * i) / 104);

/** A handful of recordings as an engineer sends them, in a folder; returns their paths. */
export async function writeSongFiles(folder: string): Promise<string[]> {
  mkdirSync(folder, { recursive: true });
  const every = (n: number, from: number): number[] => SONG_BEATS.filter((_, i) => i % n === from);
  const seconds = 32;
  // A hum under the knocks: enough of a bass not to be taken for a drum.
  const hum = tone(82, seconds, 0.15);
  const plucks = knocks(every(4, 0), seconds, 80).map((x, i) => 0.8 * x + (hum[i] as number));
  return Promise.all([
    writeWav(join(folder, 'KICK in_03.wav'), [knocks(every(2, 0), seconds, 60)]),
    writeWav(join(folder, 'Sn top (57)_03.wav'), [knocks(every(2, 1), seconds, 210)]),
    writeWav(join(folder, 'HH_tk3.wav'), [knocks(SONG_BEATS, seconds, 5000)]),
    writeWav(join(folder, 'OH_L.wav'), [tone(310, seconds, 0.05)]),
    writeWav(join(folder, 'OH_R.wav'), [tone(311, seconds, 0.05)]),
    writeWav(join(folder, 'DB di.wav'), [plucks]),
    writeWav(join(folder, 'rec0011 t2.wav'), [tone(392, seconds, 0.2)]),
    writeWav(join(folder, 'LV_main.wav'), [tone(440, seconds, 0.2)]),
    writeWav(join(folder, 'ROUGH MIX.wav'), [tone(100, seconds, 0.1), tone(101, seconds, 0.1)], {
      bitDepth: 16,
    }),
  ]);
}
