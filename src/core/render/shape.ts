import type { AudioBlock } from '../audio';

/** What a track does to its file's samples. */
export interface Shape {
  /** Polarity turned over. */
  readonly inverted: boolean;
  /** The one channel that stands for all; null = all as they are. */
  readonly fromChannel: number | null;
}

/** Blocks as a track gives them; samples are untouched where nothing is asked for. */
export async function* shapeBlocks(
  source: AsyncIterable<AudioBlock>,
  { inverted, fromChannel }: Shape,
): AsyncGenerator<AudioBlock> {
  for await (const block of source) {
    const channels =
      fromChannel === null
        ? block.channels
        : [block.channels[Math.min(fromChannel, block.channels.length - 1)] as Float32Array];
    yield {
      startFrames: block.startFrames,
      channels: inverted ? channels.map((c) => c.map((x) => -x)) : channels,
    };
  }
}
