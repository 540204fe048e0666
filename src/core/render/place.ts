import type { AudioBlock } from '../audio';

const SILENCE_BLOCK = 65_536;

/**
 * A recording at its place in a file of fixed length: silence before, the samples untouched, silence after.
 * Samples outside `[0, lengthFrames)` are left out. Blocks come in order and cover the length exactly.
 */
export async function* placeBlocks(
  source: AsyncIterable<AudioBlock>,
  place: { readonly channels: number; readonly startFrames: number; readonly lengthFrames: number },
): AsyncGenerator<readonly Float32Array[]> {
  let at = 0;
  const silence = function* (until: number): Generator<readonly Float32Array[]> {
    while (at < until) {
      const frames = Math.min(SILENCE_BLOCK, until - at);
      at += frames;
      yield Array.from({ length: place.channels }, () => new Float32Array(frames));
    }
  };
  for await (const block of source) {
    const frames = block.channels[0]?.length ?? 0;
    const begin = place.startFrames + block.startFrames;
    yield* silence(Math.max(0, Math.min(begin, place.lengthFrames)));
    const from = Math.max(0, at - begin);
    const to = Math.min(frames, place.lengthFrames - begin);
    if (to <= from) continue;
    at += to - from;
    yield from === 0 && to === frames ? block.channels : block.channels.map((c) => c.subarray(from, to));
  }
  yield* silence(place.lengthFrames);
}
