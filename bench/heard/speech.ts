import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Random } from '../../src/core/units';

/** A voice of one of Debian's speech synthesisers. */
export interface Speaker {
  readonly program: 'espeak-ng' | 'flite';
  readonly voice: string;
}

/** Speakers of the training. */
export const TRAIN_SPEAKERS: readonly Speaker[] = [
  { program: 'flite', voice: 'kal16' },
  { program: 'flite', voice: 'rms' },
  ...['en-gb', 'en-us+f3', 'de', 'fr+f2', 'es', 'it+f4', 'pl', 'sv+m3', 'pt+f1', 'nl'].map(
    (voice): Speaker => ({ program: 'espeak-ng', voice }),
  ),
];

/** Speakers that training has not heard. */
export const TEST_SPEAKERS: readonly Speaker[] = [
  { program: 'flite', voice: 'slt' },
  { program: 'flite', voice: 'awb' },
  { program: 'espeak-ng', voice: 'en-029+f5' },
  { program: 'espeak-ng', voice: 'da+m5' },
];

/** Said in the harbour. */
const SENTENCES = [
  'The ferry leaves at seven, and nobody waits for the one who is late.',
  'Could we hear that once more from the second verse, please?',
  'Rain came over the mole and the lanterns went out one after the other.',
  'One, two, three, four. No, stop, my string is out of tune.',
  'They carried the nets up to the wall and counted what was left of them.',
  'Thank you all for coming. This next one is about my grandmother.',
  'Low water by noon, high water at six, and the wind from the west.',
  'I like the take before this one better, the end was quieter.',
];

/** Samples of a RIFF WAVE file of 16 bits, first channel. */
function samplesOf(bytes: Buffer): { readonly rateHz: number; readonly samples: Float32Array } {
  const channels = bytes.readUInt16LE(22);
  const data = bytes.indexOf('data') + 8;
  const count = Math.floor((bytes.length - data) / 2 / channels);
  return {
    rateHz: bytes.readUInt32LE(24),
    samples: Float32Array.from(
      { length: count },
      (_, i) => bytes.readInt16LE(data + 2 * channels * i) / 32_768,
    ),
  };
}

/** Sentences said one after the other at a rate of 16 kHz, about as long as asked. */
export function said(speaker: Speaker, seconds: number, random: Random): Float32Array {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-said-'));
  const file = join(folder, 's.wav');
  const from = Math.floor(random() * SENTENCES.length);
  const text = [0, 1, 2, 3].map((k) => SENTENCES[(from + 3 * k) % SENTENCES.length]).join(' ');
  const args =
    speaker.program === 'flite'
      ? [
          '-voice',
          speaker.voice,
          '--setf',
          `duration_stretch=${(0.85 + 0.5 * random()).toFixed(2)}`,
          '-t',
          text,
          '-o',
          file,
        ]
      : [
          '-v',
          speaker.voice,
          '-s',
          String(Math.round(120 + 70 * random())),
          '-p',
          String(Math.round(25 + 50 * random())),
          '-w',
          file,
          text,
        ];
  try {
    const made = spawnSync(speaker.program, args, { encoding: 'utf8' });
    if (made.status !== 0) throw new Error(`${speaker.program}: ${made.stderr}`);
    const { rateHz, samples } = samplesOf(readFileSync(file));
    return resampled(samples, rateHz, 16_000).subarray(0, Math.round(seconds * 16_000));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** By straight lines between samples; what that leaves above half the old rate passes for the air of a voice. */
export function resampled(x: Float32Array, from: number, to: number): Float32Array {
  return Float32Array.from({ length: Math.floor(((x.length - 1) * to) / from) }, (_, i) => {
    const at = (i * from) / to;
    const k = Math.floor(at);
    return (x[k] as number) + (at - k) * ((x[k + 1] as number) - (x[k] as number));
  });
}
