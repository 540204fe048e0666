import { type MicExcerpt, type MicRelation, relateFarMic, relateMics } from '@/core/analysis';
import { readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import type { ByteSource } from '@/core/units';
import { fileSource } from './files';

const EXCERPT_FRAMES = 32_768;
const EXCERPTS = 16;

/** Files of microphones, the leader first. */
export interface RelateInput {
  readonly paths: readonly string[];
  /** Which channel of each file after the first is compared, as of microphones farther off; null = the first, as close ones. */
  readonly farChannels?: readonly (0 | 1)[] | null;
}

/** Relation of each further microphone to the first, from the stretches where the first is loudest. Null where a file says nothing. */
export async function relateMicFiles({
  paths,
  farChannels = null,
}: RelateInput): Promise<(MicRelation | null)[]> {
  const [leader, ...others] = await Promise.all(paths.map((path) => fileSource(path)));
  if (!leader) return [];
  try {
    const header = await readSoundHeader(leader.bytes);
    if (!header.ok) return others.map(() => null);
    const starts = await loudestStarts(leader.bytes, header.value);
    return await Promise.all(
      others.map(async ({ bytes }, i) => {
        const found = await readSoundHeader(bytes);
        if (!found.ok || found.value.sampleRateHz !== header.value.sampleRateHz) return null;
        const excerpts: MicExcerpt[] = [];
        for (const start of starts)
          excerpts.push({
            leader: await readMono(leader.bytes, header.value, start),
            other: await readMono(bytes, found.value, start, farChannels?.[i] ?? 0),
          });
        const relateTwo = farChannels === null ? relateMics : relateFarMic;
        return relateTwo(excerpts, header.value.sampleRateHz);
      }),
    );
  } finally {
    await Promise.all([leader, ...others].map((file) => file?.close()));
  }
}

async function loudestStarts(bytes: ByteSource, header: SoundHeader): Promise<number[]> {
  const energies: { readonly start: number; energy: number }[] = [];
  for await (const block of readSoundBlocks(bytes, header)) {
    const samples = block.channels[0] as Float32Array;
    for (let i = 0; i < samples.length; i++) {
      const slot = Math.floor((block.startFrames + i) / EXCERPT_FRAMES);
      const entry = (energies[slot] ??= { start: slot * EXCERPT_FRAMES, energy: 0 });
      entry.energy += (samples[i] as number) ** 2;
    }
  }
  return energies
    .sort((a, b) => b.energy - a.energy)
    .slice(0, EXCERPTS)
    .map((e) => e.start);
}

/** One channel of a stretch; what lies past the end is silence. */
async function readMono(
  bytes: ByteSource,
  header: SoundHeader,
  start: number,
  channel = 0,
): Promise<Float32Array> {
  const out = new Float32Array(EXCERPT_FRAMES);
  const frames = Math.min(EXCERPT_FRAMES, header.lengthFrames - start);
  if (frames <= 0) return out;
  for await (const block of readSoundBlocks(bytes, header, { startFrames: start, endFrames: start + frames }))
    out.set(block.channels[channel] as Float32Array, block.startFrames - start);
  return out;
}
