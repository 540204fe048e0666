import { spawnSync } from 'node:child_process';
import { closeSync, fstatSync, mkdtempSync, openSync, readSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { HEARD_KINDS, type HeardKind, OnsetAnalysis, soundFeatures } from '../../src/core/analysis';
import { createRandom, type Random } from '../../src/core/units';
import { type Phrase, PHRASE_SECONDS, phrases, phrasesMidi, SLOT_SECONDS } from './phrases';
import { asRecorded, madeSound, RATE } from './synth';

/** Features of a sound and what it is. */
export interface Example {
  readonly kind: HeardKind;
  readonly features: Float64Array;
  /** Where it comes from, to say what was taken for what. */
  readonly source: string;
}

function featuresOf(...channels: readonly Float32Array[]): Float64Array | null {
  const analysis = new OnsetAnalysis(RATE);
  analysis.push(channels);
  return soundFeatures(analysis.finish(), analysis.sketch(), analysis.pitchWidth());
}

const BATCH = 100;
const HEADER = 44;

/** Every phrase played on a sound font: both channels, and their mean. */
function* played(
  font: string,
  list: readonly Phrase[],
): Generator<{
  readonly phrase: Phrase;
  readonly sound: Float32Array;
  readonly both: readonly [Float32Array, Float32Array];
}> {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-heard-'));
  try {
    for (let from = 0; from < list.length; from += BATCH) {
      const part = list.slice(from, from + BATCH);
      writeFileSync(join(folder, 'p.mid'), phrasesMidi(part));
      const made = spawnSync(
        'fluidsynth',
        [
          '-ni',
          '-q',
          '-R',
          '0',
          '-C',
          '0',
          '-g',
          '0.5',
          '-r',
          String(RATE),
          '-O',
          's16',
          '-F',
          join(folder, 'p.wav'),
          font,
          join(folder, 'p.mid'),
        ],
        { encoding: 'utf8' },
      );
      if (made.status !== 0) throw new Error(`fluidsynth: ${made.stderr}`);
      const file = openSync(join(folder, 'p.wav'), 'r');
      const bytes = Buffer.alloc(PHRASE_SECONDS * RATE * 4);
      for (const [i, phrase] of part.entries()) {
        const at = HEADER + i * SLOT_SECONDS * RATE * 4;
        if (at + bytes.length > fstatSync(file).size) break;
        readSync(file, bytes, 0, bytes.length, at);
        const side = (at: number): Float32Array =>
          Float32Array.from(
            { length: PHRASE_SECONDS * RATE },
            (_, k) => bytes.readInt16LE(k * 4 + at) / 32_768,
          );
        const both = [side(0), side(2)] as const;
        yield { phrase, sound: both[0].map((x, k) => (x + (both[1][k] as number)) / 2), both };
      }
      closeSync(file);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Examples from a sound font: as played, and `more` times as they might be recorded. */
export function fontExamples(font: string, seed: number, per: number, more: number): Example[] {
  const random = createRandom(seed + 1000);
  const out: Example[] = [];
  let other: Float32Array = new Float32Array(RATE).map(() => random() - 0.5);
  // Neighbours bleed into each other: another order, so that they are of other kinds.
  const list = phrases(seed, per)
    .map((p) => [random(), p] as const)
    .sort((a, b) => a[0] - b[0])
    .map(([, p]) => p);
  for (const { phrase, sound, both } of played(font, list)) {
    const source = `${phrase.isDrums ? 'kit' : 'program'} ${phrase.program}`;
    for (let k = 0; k <= more; k++) {
      // A microphone makes mono of most; now and then a sound comes in stereo as it is made.
      const features =
        k > 0
          ? featuresOf(asRecorded(sound, other, random))
          : random() < 0.5
            ? featuresOf(sound)
            : featuresOf(...both);
      if (features)
        out.push({ kind: phrase.kind, features, source: k === 0 ? source : `${source}, as recorded` });
    }
    other = sound;
  }
  return out;
}

/** Examples this project synthesises itself. */
export function madeExamples(seed: number, each: number): Example[] {
  const random: Random = createRandom(seed);
  const out: Example[] = [];
  let other: Float32Array = new Float32Array(RATE).map(() => random() - 0.5);
  for (let k = 0; k < each; k++)
    for (const kind of HEARD_KINDS) {
      const sound = madeSound(kind, PHRASE_SECONDS, random);
      for (const given of [sound, asRecorded(sound, other, random)]) {
        const features = featuresOf(given);
        if (features) out.push({ kind, features, source: 'made' });
      }
      other = sound;
    }
  return out;
}
