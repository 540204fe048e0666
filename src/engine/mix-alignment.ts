import { alignMix, type AlignBlock, inMix, type MixAlignment, readAligned } from '@/core/balance';
import { endOfFile, framesOf, monoOf, type OpenPlaced } from './placed-files';

/** The mix is looked for so far before and behind the tracks, s; blocks of this length, at most so many of them. */
const [REACH_SECONDS, ALIGN_SECONDS, ALIGN_BLOCKS] = [0.15, 4, 10];

/** Frames more on both sides that the reading between samples takes. */
const MARGIN = 40;

/** A stretch of a mix, read along its own way. */
export async function alignedMix(
  mix: OpenPlaced,
  alignment: MixAlignment,
  from: number,
  count: number,
): Promise<Float32Array[]> {
  const start = Math.floor(inMix(alignment, from)) - MARGIN;
  const end = Math.ceil(inMix(alignment, from + count)) + MARGIN;
  const raw = await framesOf(mix, start, end - start);
  return raw.slice(0, 2).map((x) => readAligned(x, start, alignment, { from, count }));
}

/** Compares the sum of the tracks, each as loud as the others, with the mix. */
export async function alignmentOf(
  tracks: readonly OpenPlaced[],
  mix: OpenPlaced,
): Promise<MixAlignment | null> {
  const rate = mix.header.sampleRateHz;
  const length = Math.max(0, ...tracks.map(endOfFile));
  const size = Math.min(Math.round(ALIGN_SECONDS * rate), length);
  const reach = Math.round(REACH_SECONDS * rate);
  const count = Math.max(1, Math.min(ALIGN_BLOCKS, Math.floor(length / Math.max(1, size))));
  const blocks: AlignBlock[] = [];
  for (let k = 0; k < count; k++) {
    const at = count === 1 ? 0 : Math.floor((k * (length - size)) / (count - 1));
    const sum = new Float32Array(size);
    for (const track of tracks) {
      const x = monoOf(await framesOf(track, at, size));
      let energy = 0;
      for (let i = 0; i < size; i++) energy += (x[i] as number) ** 2;
      if (energy <= 0) continue;
      const gain = 1 / Math.sqrt(energy);
      for (let i = 0; i < size; i++) sum[i] = (sum[i] as number) + gain * (x[i] as number);
    }
    blocks.push({ at, sum, mix: monoOf(await framesOf(mix, at - reach, size + 2 * reach)) });
  }
  return alignMix(blocks, rate, reach);
}
