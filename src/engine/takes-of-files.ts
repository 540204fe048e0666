import { readSoundBlocks } from '@/core/audio';
import {
  findTakes,
  type PitchLine,
  PitchLineBuilder,
  type TakeFile,
  type TakesOfDelivery,
  WAVE_WINDOW_SECONDS,
  type WaveRelation,
  waveRelation,
} from '@/core/takes';
import type { ProgressSink } from '@/core/units';
import { mixWindowsOf } from './mix-windows';
import {
  endOfFile,
  framesOf,
  monoOf,
  type OpenPlaced,
  type PlacedFile,
  withPlacedFiles,
} from './placed-files';

/** A file of a delivery, and where its samples lie. */
export interface TakesInputFile extends Omit<TakeFile, 'startSeconds'>, PlacedFile {}

/** Files at one rate, and the mix of them, if there is one. */
export interface TakesInput {
  readonly files: readonly TakesInputFile[];
  readonly mix: PlacedFile | null;
}

/** What all tracks have in common pair by pair is held for the whole song: 100 take a quarter of a gigabyte for four minutes. */
const MOST_FOR_MIX = 120;
/** Windows that are compared of two files, spread over what both have. */
const MOST_WINDOWS = 240;
/** They are compared at about this rate. */
const COMPARED_HZ = 12_000;
/** A window counts where both are louder than this below their loudest, dB. */
const DEPTH_DB = 35;

/** Finds takes among files: see {@link findTakes}. */
export const takesOfFiles = ({ files, mix }: TakesInput, progress: ProgressSink): Promise<TakesOfDelivery> =>
  withPlacedFiles(mix ? [...files, mix] : files, async (opened) => {
    const tracks = opened.slice(0, files.length);
    const at = (k: number): OpenPlaced => tracks[k] as OpenPlaced;
    const mixed = mix ? opened.at(-1) : undefined;
    const windows = remembered(async () =>
      mixed && tracks.length <= MOST_FOR_MIX ? mixWindowsOf(tracks, mixed) : null,
    );
    return findTakes(
      files.map(({ startFrames, ...file }, k) => ({
        ...file,
        startSeconds: startFrames / at(k).header.sampleRateHz,
      })),
      {
        line: (k) => pitchLineOf(at(k)),
        waves: (a, b) => wavesOf(at(a), at(b)),
        hasMix: mixed !== undefined,
        mix: windows,
        progress,
      },
    );
  });

function remembered<T>(make: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | null = null;
  return () => (made ??= make());
}

async function pitchLineOf({ bytes, header }: OpenPlaced): Promise<PitchLine> {
  const builder = new PitchLineBuilder(header.sampleRateHz);
  for await (const { channels } of readSoundBlocks(bytes, header)) builder.push(monoOf(channels));
  return builder.finish();
}

/** Compares two files where both sound. */
async function wavesOf(a: OpenPlaced, b: OpenPlaced): Promise<WaveRelation> {
  const rate = a.header.sampleRateHz;
  const by = Math.max(1, Math.round(rate / COMPARED_HZ));
  const length = Math.round(WAVE_WINDOW_SECONDS * rate);
  const from = Math.max(a.startFrames, b.startFrames);
  const to = Math.min(endOfFile(a), endOfFile(b));
  const count = Math.floor((to - from) / length);
  const windows: { a: Float32Array; b: Float32Array; energies: readonly [number, number] }[] = [];
  const step = Math.max(1, Math.floor(count / MOST_WINDOWS));
  for (let k = 0; k < count; k += step) {
    const [x, y] = [a, b].map(async (file) =>
      thinned(monoOf(await framesOf(file, from + k * length, length)), by),
    );
    const pair = { a: await (x as Promise<Float32Array>), b: await (y as Promise<Float32Array>) };
    windows.push({ ...pair, energies: [energyOf(pair.a), energyOf(pair.b)] });
  }
  const least = [0, 1].map(
    (side) => 10 ** (-DEPTH_DB / 10) * Math.max(0, ...windows.map((w) => w.energies[side] as number)),
  );
  const sounding = windows.filter((w) =>
    w.energies.every((e, side) => e > 0 && e >= (least[side] as number)),
  );
  return waveRelation(sounding, rate / by);
}

const energyOf = (x: Float32Array): number => x.reduce((sum, v) => sum + v * v, 0);

/** Every so many samples as one, their mean: what is compared lies far below the rate. */
function thinned(samples: Float32Array, by: number): Float32Array {
  const out = new Float32Array(Math.floor(samples.length / by));
  for (let i = 0; i < out.length; i++) {
    let sum = 0;
    for (let k = 0; k < by; k++) sum += samples[i * by + k] as number;
    out[i] = sum / by;
  }
  return out;
}
