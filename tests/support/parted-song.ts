import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { writeWav } from './recordings';
import { sine, soundOf, struck } from './tidy-sounds';

/** Bars of the small song with parts: 160 a minute, 4/4, from 0 s on; a letter a bar: intro, verse, chorus. */
export const PARTED_BAR = 1.5;
export const PARTED_BARS = `${'i'.repeat(4)}${'v'.repeat(8)}${'c'.repeat(8)}${'v'.repeat(8)}${'c'.repeat(8)}`;
const SECONDS = PARTED_BARS.length * PARTED_BAR + 1;
const EIGHTH = PARTED_BAR / 8;

/** Roots of the chords, two a bar, over four bars. */
const CHORDS: Readonly<Record<string, readonly number[]>> = {
  i: [196, 196, 147, 147, 165, 165, 131, 131],
  v: [196, 196, 147, 147, 165, 165, 131, 131],
  c: [131, 147, 196, 165, 131, 147, 220, 147],
};

/** Something struck at the eighths of a pattern, by letter of the bar. */
const hits = (patterns: Readonly<Record<string, string>>, sound: (since: number, bar: number) => number) =>
  soundOf(SECONDS, (t, noise) => {
    let sum = 2e-5 * noise();
    const now = Math.floor(t / EIGHTH);
    for (let e = Math.max(0, now - 3); e <= now; e++) {
      const bar = Math.floor(e / 8);
      if (patterns[PARTED_BARS[bar] ?? '']?.[e % 8] === 'x') sum += sound(t - e * EIGHTH, bar);
    }
    return sum;
  });
const chordAt = (since: number, bar: number, t60: number): number => {
  const letter = PARTED_BARS[bar] ?? 'v';
  const root = CHORDS[letter]?.[(2 * (bar % 4)) % 8] as number;
  return [1, 1.26, 1.5].reduce((sum, by) => sum + 0.1 * struck(since, root * by, t60), 0);
};

/** The song's recordings in a folder; their paths. */
export async function writePartedSong(folder: string): Promise<string[]> {
  mkdirSync(folder, { recursive: true });
  const tracks: readonly (readonly [string, Float32Array])[] = [
    ['Kick.wav', hits({ v: 'x...x...', c: 'x.x.x.x.' }, (s) => 0.6 * struck(s, 60, 0.15))],
    ['Snare.wav', hits({ v: '..x...x.', c: '..x...x.' }, (s) => 0.5 * struck(s, 210, 0.12))],
    [
      'Bass.wav',
      hits(
        { v: 'x.x.x.x.', c: 'xxxxxxxx' },
        (s, bar) => 0.4 * struck(s, (CHORDS[PARTED_BARS[bar] ?? 'v']?.[2 * (bar % 4)] as number) / 2, 0.4),
      ),
    ],
    [
      'Acoustic Gtr.wav',
      hits({ i: 'x.x.x.x.', v: 'x.x.x.x.', c: 'xxxxxxxx' }, (s, bar) => chordAt(s, bar, 0.5)),
    ],
    [
      'Lead Vox.wav',
      soundOf(SECONDS, (t, noise) => {
        const letter = PARTED_BARS[Math.floor(t / PARTED_BAR)] ?? '';
        const eighth = Math.floor(t / EIGHTH);
        const line: Readonly<Record<string, readonly number[]>> = {
          v: [392, 392, 440, 0, 392, 330, 0, 0],
          c: [523, 0, 587, 523, 494, 494, 523, 0],
        };
        const hz = line[letter]?.[eighth % 8] ?? 0;
        return (
          2e-5 * noise() +
          (hz === 0 ? 0 : 0.25 * (sine(hz, t) + 0.4 * sine(2 * hz, t) + 0.2 * sine(3 * hz, t)))
        );
      }),
    ],
  ];
  return Promise.all(tracks.map(([name, samples]) => writeWav(join(folder, name), [samples])));
}

/** The song's map, as the command line takes it. */
export const PARTED_MAP = {
  schemaVersion: 1 as const,
  points: [
    { quarters: 0, seconds: 0 },
    { quarters: 4 * PARTED_BARS.length, seconds: PARTED_BAR * PARTED_BARS.length },
  ],
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
};
