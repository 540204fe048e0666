import { arrangedBlocks, type Piece, type ReadSound } from '@/core/arrange';
import { createWavWriter } from '@/core/audio';
import { renderClick, type Strip, stripGains } from '@/core/render';
import type { ClickBeat, ClickSound } from '@/core/time';
import type { ProgressSink } from '@/core/units';
import { fileSink } from './files';
import { openSounds } from './sounds';

/** A track of the guide: stretches of sounds by the hashes of their files, counted in the file to be made, and its way into the mix. */
export interface GuideTrack extends Strip {
  readonly pieces: readonly Piece<string>[];
}

/** A click to be written as a file, with or without a guide beside it. */
export interface ClickFileInput {
  readonly outPath: string;
  readonly sampleRateHz: number;
  readonly lengthFrames: number;
  readonly strokes: readonly ClickBeat[];
  readonly sound: ClickSound;
  /** Against the click's usual level. */
  readonly gainDb: number;
  /** Null = the click alone, mono; else the guide is left and the click right. */
  readonly guide: readonly GuideTrack[] | null;
  /** Sound of the guide → WAV at the session rate. */
  readonly soundPaths: Readonly<Record<string, string>>;
}

const BIT_DEPTH = 24;
const BLOCK_FRAMES = 65_536;
/** Peak the guide is brought to, linear (−6 dBFS): as loud as a downbeat of the click. */
const GUIDE_PEAK = 0.5;

/** Writes a click as a 24-bit WAV. Throws for audio that cannot be read. */
export async function writeClickFile(
  input: ClickFileInput,
  progress?: ProgressSink,
): Promise<{ readonly lengthFrames: number; readonly channels: 1 | 2 }> {
  const { sampleRateHz, lengthFrames, guide } = input;
  const channels = guide ? 2 : 1;
  const tracks = guide ?? [];
  const names = tracks.flatMap((t) => t.pieces.map((p) => p.sound));
  const sounds = await openSounds(names, input.soundPaths, sampleRateHz);
  const output = await fileSink(input.outPath);
  try {
    // Heard through once for its peak: a sum of many tracks is over full scale more often than not.
    let peak = 0;
    for (let at = 0; tracks.length > 0 && at < lengthFrames; at += BLOCK_FRAMES) {
      for (const x of await monoSum(tracks, at, Math.min(BLOCK_FRAMES, lengthFrames - at), sounds.read))
        peak = Math.max(peak, Math.abs(x));
      progress?.((0.5 * at) / lengthFrames);
    }
    const gain = peak > 0 ? GUIDE_PEAK / peak : 0;
    const writer = await createWavWriter(output.bytes, { sampleRateHz, channels, bitDepth: BIT_DEPTH });
    let at = 0;
    for (const [click] of renderClick(input.strokes, sampleRateHz, lengthFrames, input)) {
      const block = click as Float32Array;
      await writer.write(
        guide
          ? [(await monoSum(tracks, at, block.length, sounds.read)).map((x) => gain * x), block]
          : [block],
      );
      at += block.length;
      progress?.(0.5 + (0.5 * at) / lengthFrames);
    }
    await writer.finish();
    return { lengthFrames, channels };
  } finally {
    await output.close();
    await sounds.close();
  }
}

/** Frames `[from, from + count)` of all tracks as one channel: the mean of left and right. */
async function monoSum(
  tracks: readonly GuideTrack[],
  from: number,
  count: number,
  read: ReadSound<string>,
): Promise<Float32Array> {
  const out = new Float32Array(count);
  for (const track of tracks) {
    const { left, right } = stripGains(track);
    const range = { channels: Math.min(2, track.channels), from, to: from + count };
    let at = 0;
    for await (const [a, b = a] of arrangedBlocks(track.pieces, range, read)) {
      const [one, other] = [a as Float32Array, b as Float32Array];
      for (let i = 0; i < one.length; i++, at++)
        out[at] = (out[at] as number) + ((one[i] as number) * left + (other[i] as number) * right) / 2;
    }
  }
  return out;
}
