import { closeSync, fstatSync, mkdtempSync, openSync, readSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { OnsetAnalysis, soundFeatures } from '../../src/core/analysis';
import { createRandom, type Random } from '../../src/core/units';
import { playOnFont } from '../fluidsynth';
import { kitMics } from './kits';
import {
  type Block,
  instrumentBlocks,
  kitBlocks,
  type Label,
  type Phrase,
  PHRASE_SECONDS,
  phrasesMidi,
  SLOT_SECONDS,
} from './phrases';
import { lineOf, sung } from './singing';
import { resampled, said, type Speaker } from './speech';
import { asRecorded, MADE_SOUNDS, madeSound, RATE } from './synth';

/** Features of a sound and what it is. */
export interface Example {
  readonly label: Label;
  readonly features: Float64Array;
  /** Where it comes from, to say what was taken for what. */
  readonly source: string;
}

function featuresOf(...channels: readonly Float32Array[]): Float64Array | null {
  const analysis = new OnsetAnalysis(RATE);
  analysis.push(channels);
  return (
    soundFeatures(analysis.finish(), analysis.sketch(), analysis.pitchWidth())?.map(
      (v) => Math.round(v * 1e4) / 1e4,
    ) ?? null
  );
}

const BATCH = 100;
const HEADER = 44;

/** One side of frames of two 16-bit samples each; it begins at byte `first`. */
function sideOf(bytes: Buffer, first: number): Float32Array {
  const side = new Float32Array(bytes.length / 4);
  for (let k = 0; k < side.length; k++) side[k] = bytes.readInt16LE(k * 4 + first) / 32_768;
  return side;
}

/** Every phrase played on a sound font, both channels. */
function* played(font: string, list: readonly Phrase[]): Generator<readonly [Float32Array, Float32Array]> {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-heard-'));
  try {
    for (let from = 0; from < list.length; from += BATCH) {
      const part = list.slice(from, from + BATCH);
      writeFileSync(join(folder, 'p.mid'), phrasesMidi(part));
      playOnFont(font, join(folder, 'p.mid'), join(folder, 'p.wav'), RATE);
      const file = openSync(join(folder, 'p.wav'), 'r');
      const bytes = Buffer.alloc(PHRASE_SECONDS * RATE * 4);
      for (let i = 0; i < part.length; i++) {
        const at = HEADER + i * SLOT_SECONDS * RATE * 4;
        bytes.fill(0);
        if (at < fstatSync(file).size) readSync(file, bytes, 0, bytes.length, at);
        yield [sideOf(bytes, 0), sideOf(bytes, 2)];
      }
      closeSync(file);
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const middle = ([left, right]: readonly [Float32Array, Float32Array]): Float32Array =>
  left.map((x, k) => (x + (right[k] as number)) / 2);

function shuffled<T>(list: readonly T[], random: Random): T[] {
  return list
    .map((p) => [random(), p] as const)
    .sort((a, b) => a[0] - b[0])
    .map(([, p]) => p);
}

const SEVERAL: Label = ['several'];

/** Collects examples: as they are and as they might be recorded, with what came before bleeding in; now and then many of them at once. */
class Collector {
  readonly out: Example[] = [];
  private readonly recent: Float32Array[] = [];

  constructor(
    private readonly random: Random,
    /** How many more of each, as recorded. */
    private readonly more: number,
  ) {}

  take(label: Label, channels: readonly Float32Array[], source: string): void {
    const { random } = this;
    const mono =
      channels.length === 1
        ? (channels[0] as Float32Array)
        : middle(channels as readonly [Float32Array, Float32Array]);
    const put = (...given: readonly Float32Array[]): void => {
      const features = featuresOf(...given);
      if (features) this.out.push({ label, features, source });
    };
    if (random() < 0.5) put(mono);
    else put(...channels);
    const other = this.recent.at(-1) ?? mono.map(() => random() - 0.5);
    for (let k = 0; k < this.more; k++) put(asRecorded(mono, other, random));
    if (label !== SEVERAL) {
      this.recent.push(mono);
      if (this.recent.length > 6) this.recent.shift();
    }
  }

  /** What was last taken, played together: what is no track of its own. */
  together(): void {
    const count = Math.min(this.recent.length, 3 + Math.floor(4 * this.random()));
    if (count < 3) return;
    const out = new Float32Array(PHRASE_SECONDS * RATE);
    for (const x of this.recent.slice(-count)) {
      const gain = (0.4 + 0.6 * this.random()) / (rms(x) + 1e-6);
      for (let i = 0; i < Math.min(x.length, out.length); i++)
        out[i] = (out[i] as number) + 0.05 * gain * (x[i] as number);
    }
    this.take(SEVERAL, [out], 'several at once');
  }
}

const rms = (x: Float32Array): number => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / x.length);
/** One in so many is followed by a mix of what came before. */
const SEVERAL_EVERY = 9;

/** Examples from a sound font of General MIDI: `per` of each program, `kits` kits on microphones, each `more` times as it might be recorded. */
export function fontExamples(
  font: string,
  seed: number,
  { per, kits, more }: { readonly per: number; readonly kits: number; readonly more: number },
): Example[] {
  const random = createRandom(seed + 1000);
  // Neighbours bleed into each other: another order, so that they are of other kinds.
  return collected(font, shuffled([...instrumentBlocks(seed, per), ...kitBlocks(seed + 1, kits)], random), {
    random,
    more,
  });
}

/** Examples from a font of one kit. */
export function kitExamples(font: string, seed: number, kits: number, more: number): Example[] {
  return collected(font, kitBlocks(seed, kits, false), { random: createRandom(seed + 1000), more });
}

function collected(
  font: string,
  blocks: readonly Block[],
  { random, more }: { readonly random: Random; readonly more: number },
): Example[] {
  const collector = new Collector(random, more);
  const sounds = played(font, blocks.flat());
  const next = (): readonly [Float32Array, Float32Array] => {
    const { value, done } = sounds.next();
    if (done) throw new Error('fewer phrases were played than asked for');
    return value;
  };
  blocks.forEach((block, n) => {
    const [first] = block as readonly [Phrase];
    if (block.length > 1)
      for (const { label, channels } of kitMics(
        block.map(() => middle(next())),
        random,
      ))
        collector.take(label, channels, `${label.length === 1 ? label[0] : 'whole'} of kit ${first.program}`);
    else collector.take(first.label, next(), `${first.isDrums ? 'kit' : 'program'} ${first.program}`);
    if (n % SEVERAL_EVERY === SEVERAL_EVERY - 1) collector.together();
  });
  for (const _ of sounds);
  return collector.out;
}

/** Examples this project synthesises itself. */
export function madeExamples(seed: number, each: number, more: number): Example[] {
  const random: Random = createRandom(seed);
  const collector = new Collector(random, more);
  for (let k = 0; k < each; k++)
    for (const { name, label } of MADE_SOUNDS)
      collector.take(label, [madeSound(name, PHRASE_SECONDS, random)], `made ${name}`);
  return collector.out;
}

/** Examples of speakers: speaking, singing alone, singing together. */
export function voiceExamples(
  speakers: readonly Speaker[],
  seed: number,
  each: number,
  more: number,
): Example[] {
  const random = createRandom(seed);
  const collector = new Collector(random, more);
  const fitted = (x: Float32Array): Float32Array => {
    const out = new Float32Array(PHRASE_SECONDS * RATE);
    out.set(resampled(x, 16_000, RATE).subarray(0, out.length));
    return out;
  };
  const singing = (
    speaker: Speaker,
    low: number,
    line = lineOf(low, 2 * PHRASE_SECONDS, random),
  ): Float32Array => fitted(sung(said(speaker, 2 * PHRASE_SECONDS, random), line, random));
  for (let k = 0; k < each; k++)
    for (const speaker of speakers) {
      const name = `${speaker.program} ${speaker.voice}`;
      const low = (): number => 45 + Math.floor(22 * random());
      collector.take(['speech'], [fitted(said(speaker, PHRASE_SECONDS, random))], `${name} speaks`);
      for (let n = 0; n < 2; n++) collector.take(['voice'], [singing(speaker, low())], `${name} sings`);
      if (k % 2 === 0)
        collector.take(['choir'], [together(singing, speakers, low(), random)], `${name} and others sing`);
    }
  return collector.out;
}

/** Three to eight sing the same words at about the same time, in unison, octaves or thirds. */
function together(
  singing: (speaker: Speaker, low: number, line: ReturnType<typeof lineOf>) => Float32Array,
  speakers: readonly Speaker[],
  low: number,
  random: Random,
): Float32Array {
  const line = lineOf(low, 2 * PHRASE_SECONDS, random);
  const out = new Float32Array(PHRASE_SECONDS * RATE);
  const count = 3 + Math.floor(6 * random());
  const steps = [[0], [0, 12], [0, 4, 7], [0, 4, 7, 12]][Math.floor(random() * 4)] as number[];
  for (let n = 0; n < count; n++) {
    const step = (steps[n % steps.length] as number) + 0.15 * (random() - 0.5);
    const speaker = speakers[Math.floor(random() * speakers.length)] as Speaker;
    const own = singing(speaker, low, {
      ...line,
      notes: line.notes.map((x) => ({ ...x, key: x.key + step })),
    });
    const late = Math.floor(0.04 * RATE * random());
    const gain = (0.6 + 0.4 * random()) / (rms(own) + 1e-6);
    for (let i = late; i < out.length; i++)
      out[i] = (out[i] as number) + 0.05 * gain * (own[i - late] as number);
  }
  return out;
}
