import { arrangedBlocks, endOf, type Piece } from '@/core/arrange';
import { type SoundMeasure, SoundMeter } from '@/core/matching';
import { openSounds } from './sounds';

/** A track whose loudness is asked for. */
export interface MeasureInput {
  /** Its pieces at the levels their lanes have; sounds by the id of their lane. */
  readonly pieces: readonly Piece<string>[];
  /** Lane id → WAV at the session rate. */
  readonly paths: Readonly<Record<string, string>>;
  readonly channels: number;
  readonly sampleRateHz: number;
}

/** How loud it is, from end to end and piece by piece. */
export interface TrackMeasure {
  readonly whole: SoundMeasure;
  readonly pieces: readonly SoundMeasure[];
}

/** Measures a track as it sounds, fades and gaps and all, and each of its pieces by itself. Throws if a sound cannot be read. */
export async function measureClips({
  pieces,
  paths,
  channels,
  sampleRateHz,
}: MeasureInput): Promise<TrackMeasure> {
  const sounds = await openSounds(
    pieces.map((p) => p.sound),
    paths,
    sampleRateHz,
  );
  const measured = async (of: readonly Piece<string>[], first: number): Promise<SoundMeasure> => {
    const meter = new SoundMeter(sampleRateHz, channels);
    const from = Math.min(first, ...of.map((p) => p.fromFrames));
    if (of.length > 0)
      for await (const block of arrangedBlocks(of, { channels, from, to: endOf(of) }, sounds.read))
        meter.push(block);
    return meter.measure();
  };
  try {
    const alone: SoundMeasure[] = [];
    for (const piece of pieces) alone.push(await measured([piece], piece.fromFrames));
    const [only] = alone;
    // As one file from the common beginning: where the blocks of a loudness lie is heard in it.
    const isAll = alone.length === 1 && pieces[0]?.fromFrames === 0;
    return { whole: isAll && only ? only : await measured(pieces, 0), pieces: alone };
  } finally {
    await sounds.close();
  }
}
