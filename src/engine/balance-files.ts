import {
  type GatheredReading,
  type MixAlignment,
  type MixGram,
  MixGramBuilder,
  mixLikeness,
  type MixLikeness,
  type MixModel,
  MixSample,
  readGathered,
} from '@/core/balance';
import { LoudnessMeter } from '@/core/analysis';
import { stripGains } from '@/core/render';
import type { ProgressSink } from '@/core/units';
import { alignedMix, alignmentOf } from './mix-alignment';
import {
  channelsOf,
  endOfFile,
  framesOf,
  monoOf,
  type OpenPlaced,
  type PlacedFile,
  withPlacedFiles,
} from './placed-files';

/** Files at one rate, one after the other from a common start. */
export interface MixesInput {
  readonly paths: readonly string[];
  /** Which of them are looked at again along their own delay, drift and polarity where they are no mix as they lie: bounced elsewhere, decoded. */
  readonly maybeLater: readonly number[];
}

/** A mix and what it may be made of; all files have one rate. */
export interface FitMixInput {
  readonly tracks: readonly PlacedFile[];
  readonly mix: PlacedFile;
}

/** How a mix is made of tracks. */
export interface MixReading extends Omit<GatheredReading, 'fit'> {
  /** Null where they have nothing in common: then nothing is read. */
  readonly alignment: MixAlignment | null;
  readonly fit: GatheredReading['fit'] | null;
  readonly isMono: boolean;
}

/** Level and pan of a track in a sum. */
export interface SummedStrip {
  readonly gainDb: number;
  readonly pan: number;
}

/** Tracks that are summed, once under each balance. */
export interface SumsInput {
  readonly tracks: readonly (PlacedFile & { readonly isInverted: boolean })[];
  /** A strip for each track; null = it is silent there. */
  readonly balances: readonly (readonly (SummedStrip | null)[])[];
}

/** What a sum comes to. */
export interface MeasuredSum {
  /** Highest sample, linear. */
  readonly peak: number;
  /** Null for silence. */
  readonly integratedLufs: number | null;
}

/** Stretch by which files are told to be the mix of the others: so long, from this share of the song on. */
const [LOOK_SECONDS, LOOK_FROM] = [36, 0.35];
/** Frames that are read at a time. */
export const BLOCK = 1 << 16;

/** Of each file how far it is the mix of the others. */
export const mixLikenesses = ({ paths, maybeLater }: MixesInput): Promise<MixLikeness[]> =>
  withPlacedFiles(
    paths.map((path) => ({ path, startFrames: 0 })),
    async (files) => {
      const gram = await looked(files, null);
      const found = paths.map((_, k) => mixLikeness(gram, k));
      for (const k of maybeLater) {
        if (found[k]?.isMix) continue;
        const alignment = await alignmentOf(
          files.filter((_, i) => i !== k),
          files[k] as OpenPlaced,
        );
        if (!alignment || alignment.agreement < LEAST_AGREEMENT) continue;
        const along = mixLikeness(await looked(files, { k, alignment }), k);
        if (along.share > (found[k] as MixLikeness).share) found[k] = along;
      }
      return found;
    },
  );

/** Share of the blocks that say the same of where a file lies, to believe them. */
const LEAST_AGREEMENT = 0.4;

/** What all files have in common over a stretch of the song, one of them read along its own way. */
async function looked(
  files: readonly OpenPlaced[],
  moved: { readonly k: number; readonly alignment: MixAlignment } | null,
): Promise<MixGram> {
  const rate = files[0]?.header.sampleRateHz ?? 48_000;
  const longest = Math.max(0, ...files.map(endOfFile));
  const count = Math.min(longest, LOOK_SECONDS * rate);
  const from = Math.min(Math.floor(LOOK_FROM * longest), longest - count);
  const builder = new MixGramBuilder(
    rate,
    files.map(() => 1),
    1,
  );
  for (let at = from; at < from + count; at += BLOCK) {
    const size = Math.min(BLOCK, from + count - at);
    const blocks: Float32Array[] = [];
    for (const [i, file] of files.entries())
      blocks.push(
        monoOf(
          moved?.k === i ? await alignedMix(file, moved.alignment, at, size) : await framesOf(file, at, size),
        ),
      );
    builder.push([...blocks, new Float32Array(size)]);
  }
  return builder.finish();
}

/** Aligns a mix with its tracks and reads how it is made of them. */
export const fitMixFiles = (input: FitMixInput, progress: ProgressSink): Promise<MixReading> =>
  withPlacedFiles([...input.tracks, input.mix], async (files) => {
    const tracks = files.slice(0, -1);
    const mix = files.at(-1) as OpenPlaced;
    const alignment = await alignmentOf(tracks, mix);
    if (!alignment)
      return { alignment: null, fit: null, changes: [], missing: [], isMono: false, heldDownDb: 0 };
    const song = { tracks, mix, alignment, length: Math.max(...tracks.map(endOfFile)) };
    const builder = new MixGramBuilder(...layoutOf(song), await modelOf(song));
    let side = { difference: 0, energy: 0 };
    for (let at = 0; at < song.length; at += BLOCK) {
      const { own, mixed } = await blocksOf(song, at, Math.min(BLOCK, song.length - at));
      side = sideEnergy(mixed, side);
      builder.push([...own, ...mixed]);
      progress(at / song.length);
    }
    return { alignment, ...readGathered(builder.finish()), isMono: side.difference <= 1e-4 * side.energy };
  });

/** Tracks and a mix whose place is known; frames of the session. */
export interface PlacedSong {
  readonly tracks: readonly OpenPlaced[];
  readonly mix: OpenPlaced;
  readonly alignment: MixAlignment;
  readonly length: number;
}

export const layoutOf = ({
  tracks,
  mix,
}: PlacedSong): [rateHz: number, channels: number[], mixChannels: number] => [
  mix.header.sampleRateHz,
  tracks.map(channelsOf),
  channelsOf(mix),
];

/** A stretch of the tracks' channels, and of the mix read along its own way. */
export async function blocksOf(
  { tracks, mix, alignment }: PlacedSong,
  at: number,
  count: number,
): Promise<{ readonly own: Float32Array[]; readonly mixed: Float32Array[] }> {
  const own: Float32Array[] = [];
  for (const track of tracks) own.push(...(await framesOf(track, at, count)).slice(0, 2));
  return { own, mixed: (await alignedMix(mix, alignment, at, count)).slice(0, channelsOf(mix)) };
}

/** What a mix is about made of is told from so many stretches of the song, each so long, s. */
const [SAMPLE_STRETCHES, SAMPLE_SECONDS] = [12, 1.2];

async function modelOf(song: PlacedSong): Promise<MixModel | null> {
  const sample = new MixSample(...layoutOf(song));
  const count = Math.min(song.length, Math.round(SAMPLE_SECONDS * song.mix.header.sampleRateHz));
  const stretches = Math.max(1, Math.min(SAMPLE_STRETCHES, Math.floor(song.length / count)));
  for (let k = 0; k < stretches; k++) {
    const at = Math.floor(((k + 0.5) * song.length) / stretches - count / 2);
    const { own, mixed } = await blocksOf(song, Math.max(0, at), count);
    sample.push([...own, ...mixed]);
  }
  return sample.model();
}

function sideEnergy(
  [left, right]: readonly Float32Array[],
  sum: { readonly difference: number; readonly energy: number },
): { difference: number; energy: number } {
  let { difference, energy } = sum;
  if (!left) return { difference, energy };
  for (let i = 0; i < left.length; i++) {
    const [l, r] = [left[i] as number, (right ?? left)[i] as number];
    difference += (l - r) ** 2;
    energy += (l + r) ** 2;
  }
  return { difference, energy };
}

/** Peak and loudness of the sum of tracks under each of some balances, in one reading. */
export const measureSums = ({ tracks, balances }: SumsInput): Promise<readonly MeasuredSum[]> =>
  withPlacedFiles(tracks, async (files) => {
    const length = Math.max(0, ...files.map(endOfFile));
    const rate = files[0]?.header.sampleRateHz ?? 48_000;
    const sums = balances.map((balance) => ({
      gains: files.map((file, k) => sideGains(balance[k] ?? null, file, tracks[k]?.isInverted ?? false)),
      meter: new LoudnessMeter(rate, 2),
      sides: [new Float32Array(0), new Float32Array(0)] as const,
      peak: 0,
    }));
    for (let at = 0; at < length; at += BLOCK) {
      const count = Math.min(BLOCK, length - at);
      for (const sum of sums) sum.sides = [new Float32Array(count), new Float32Array(count)];
      for (const [k, file] of files.entries()) {
        const x = (await framesOf(file, at, count)).slice(0, 2);
        for (const { sides, gains } of sums) addTrack(sides, x, gains[k] as readonly [number, number]);
      }
      for (const sum of sums) {
        sum.meter.push(sum.sides);
        for (const side of sum.sides) for (const v of side) sum.peak = Math.max(sum.peak, Math.abs(v));
      }
    }
    return sums.map(({ peak, meter }) => ({ peak, integratedLufs: meter.integratedLufs() }));
  });

function sideGains(
  strip: SummedStrip | null,
  file: OpenPlaced,
  inverted: boolean,
): readonly [number, number] {
  if (!strip) return [0, 0];
  const { left, right } = stripGains({ ...strip, channels: channelsOf(file), inverted });
  return [left, right];
}

function addTrack(
  sides: readonly [Float32Array, Float32Array],
  x: readonly Float32Array[],
  gains: readonly [number, number],
): void {
  sides.forEach((side, c) => {
    const own = x[Math.min(c, x.length - 1)];
    const gain = gains[c] as number;
    if (!own || gain === 0) return;
    for (let i = 0; i < side.length; i++) side[i] = (side[i] as number) + gain * (own[i] as number);
  });
}
