import { createWavWriter, readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import { renderClick, type Shape, shapeBlocks, type Strip, stripGains } from '@/core/render';
import type { ClickBeat, ClickSound } from '@/core/time';
import type { ByteSource, ProgressSink } from '@/core/units';
import { fileSink, fileSource } from './files';

/** A track of the guide: a WAV at the session rate, and its way into the mix. */
export interface GuideTrack extends Strip, Shape {
  readonly path: string;
  /** Where it begins in the file to be made, frames. */
  readonly startFrames: number;
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
}

const BIT_DEPTH = 24;
const BLOCK_FRAMES = 65_536;
/** Peak the guide is brought to, linear (−6 dBFS): as loud as a downbeat of the click. */
const GUIDE_PEAK = 0.5;

interface OpenTrack extends GuideTrack {
  readonly bytes: ByteSource;
  readonly header: SoundHeader;
}

/** Writes a click as a 24-bit WAV. Throws for audio that cannot be read. */
export async function writeClickFile(
  input: ClickFileInput,
  progress?: ProgressSink,
): Promise<{ readonly lengthFrames: number; readonly channels: 1 | 2 }> {
  const { sampleRateHz, lengthFrames, guide } = input;
  const channels = guide ? 2 : 1;
  const files: Awaited<ReturnType<typeof fileSource>>[] = [];
  const output = await fileSink(input.outPath);
  try {
    const tracks: OpenTrack[] = [];
    for (const t of guide ?? []) {
      const file = await fileSource(t.path);
      files.push(file);
      const { bytes } = file;
      const header = await readSoundHeader(bytes);
      if (!header.ok || header.value.sampleRateHz !== sampleRateHz)
        throw new Error(
          `the stored audio of the guide cannot be read: ${header.ok ? 'another rate' : header.error.code}`,
        );
      tracks.push({ ...t, bytes, header: header.value });
    }
    // Heard through once for its peak: a sum of many tracks is over full scale more often than not.
    let peak = 0;
    for (let at = 0; tracks.length > 0 && at < lengthFrames; at += BLOCK_FRAMES) {
      for (const x of await monoSum(tracks, at, Math.min(BLOCK_FRAMES, lengthFrames - at)))
        peak = Math.max(peak, Math.abs(x));
      progress?.((0.5 * at) / lengthFrames);
    }
    const gain = peak > 0 ? GUIDE_PEAK / peak : 0;
    const writer = await createWavWriter(output.bytes, { sampleRateHz, channels, bitDepth: BIT_DEPTH });
    let at = 0;
    for (const [click] of renderClick(input.strokes, sampleRateHz, lengthFrames, input)) {
      const block = click as Float32Array;
      await writer.write(
        guide ? [(await monoSum(tracks, at, block.length)).map((x) => gain * x), block] : [block],
      );
      at += block.length;
      progress?.(0.5 + (0.5 * at) / lengthFrames);
    }
    await writer.finish();
    return { lengthFrames, channels };
  } finally {
    await output.close();
    for (const f of files) await f.close();
  }
}

/** Frames `[from, from + count)` of all tracks as one channel: the mean of left and right. */
async function monoSum(tracks: readonly OpenTrack[], from: number, count: number): Promise<Float32Array> {
  const out = new Float32Array(count);
  for (const track of tracks) {
    const { left, right } = stripGains(track);
    const range = {
      startFrames: Math.max(0, from - track.startFrames),
      endFrames: Math.max(0, from + count - track.startFrames),
      blockFrames: count,
    };
    for await (const block of shapeBlocks(readSoundBlocks(track.bytes, track.header, range), {
      fromChannel: track.fromChannel,
      inverted: false,
    })) {
      const [a, b] = [
        block.channels[0] as Float32Array,
        block.channels[1] ?? (block.channels[0] as Float32Array),
      ];
      const to = block.startFrames + track.startFrames - from;
      for (let i = 0; i < a.length; i++)
        out[to + i] = (out[to + i] as number) + ((a[i] as number) * left + (b[i] as number) * right) / 2;
    }
  }
  return out;
}
