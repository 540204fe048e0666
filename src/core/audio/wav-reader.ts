import { asciiText, err, ok, type ByteSource, type Result } from '../units';
import {
  formatFault,
  type AudioFormat,
  type SampleEncoding,
  type SoundFault,
  type SoundHeader,
  type SoundWarning,
} from './format';
import { isChunk, view, wavChunks } from './wav-chunks';

interface Format extends AudioFormat {
  readonly bytesPerFrame: number;
  readonly channelMask: number;
}

/** Whether the first twelve bytes are those of a WAV file. */
export const isWav = (head: Uint8Array): boolean =>
  ['RIFF', 'RF64', 'BW64'].includes(asciiText(head.subarray(0, 4))) &&
  asciiText(head.subarray(8, 12)) === 'WAVE';

/**
 * Walks the chunks of a RIFF/RF64/BW64 WAVE file and says where its samples lie. Sizes are never trusted beyond the file.
 * Sources: Multimedia Programming Interface 1.0 (1991), WAVEFORMATEXTENSIBLE (2001), EBU Tech 3306, ITU-R BS.2088.
 */
export async function readWavHeader(source: ByteSource): Promise<Result<SoundHeader, SoundFault>> {
  const outer = asciiText(await source.read(0, 4));
  let format: Format | null = null;
  let audio: { offset: number; declared: number } | null = null;
  const warnings: SoundWarning[] = [];
  for await (const chunk of wavChunks(source)) {
    if (chunk.id === 'fmt ' && format === null) {
      const parsed = parseFormat(await source.read(chunk.body, Math.min(chunk.sizeBytes, 40)));
      if (!parsed.ok) return parsed;
      format = parsed.value;
    } else if (chunk.id === 'data') {
      if (audio === null) audio = { offset: chunk.body, declared: chunk.sizeBytes };
      else warnings.push({ code: 'sound.second_data_ignored', byteOffset: chunk.offset });
    }
  }
  if (!format) return err({ code: 'sound.no_format' });
  if (!audio) return err({ code: 'sound.no_audio' });
  return finish(source, format, audio, warnings, outer === 'RIFF');
}

async function finish(
  source: ByteSource,
  format: Format,
  audio: { offset: number; declared: number },
  warnings: SoundWarning[],
  plain: boolean,
): Promise<Result<SoundHeader, SoundFault>> {
  const present = source.sizeBytes - audio.offset;
  const unknown =
    (audio.declared === 0 && !(await isChunk(source, audio.offset))) ||
    (audio.declared === 0xffffffff && plain);
  const usable = unknown ? present : Math.min(audio.declared, present);
  const lengthFrames = Math.floor(usable / format.bytesPerFrame);
  if (lengthFrames === 0) return err({ code: 'sound.no_audio' });
  const expectedFrames = Math.floor(audio.declared / format.bytesPerFrame);
  if (unknown) warnings.push({ code: 'sound.size_missing', foundFrames: lengthFrames });
  else if (expectedFrames > lengthFrames)
    warnings.push({ code: 'sound.truncated', expectedFrames, foundFrames: lengthFrames });
  return ok({ container: 'wav', ...format, dataOffset: audio.offset, lengthFrames, warnings });
}

function parseFormat(bytes: Uint8Array): Result<Format, SoundFault> {
  if (bytes.length < 16) return err({ code: 'sound.no_format' });
  const v = view(bytes);
  let tag = v.getUint16(0, true);
  const channels = v.getUint16(2, true);
  const sampleRateHz = v.getUint32(4, true);
  const blockAlign = v.getUint16(12, true);
  let bits = v.getUint16(14, true);
  // In 20-of-24 files the low bits are zero: decode the container.
  const container = channels > 0 ? Math.round((blockAlign * 8) / channels) : bits;
  let bitDepth = bits;
  let channelMask = 0;
  if (tag === 0xfffe && bytes.length >= 26) {
    const valid = v.getUint16(18, true);
    if (valid > 0 && valid <= bits) bitDepth = valid;
    channelMask = v.getUint32(20, true);
    tag = v.getUint16(24, true);
  }
  if (bits % 8 !== 0 || container > bits) bits = container;
  const encoding = encodingOf(tag, bits);
  if (!encoding)
    return err({
      code: 'sound.unsupported_format',
      codec: tag === 1 || tag === 3 ? 'pcm' : String(tag),
      bits,
    });
  const fault = formatFault({ sampleRateHz, channels });
  return fault
    ? err(fault)
    : ok({ sampleRateHz, channels, encoding, bitDepth, bytesPerFrame: channels * (bits / 8), channelMask });
}

function encodingOf(tag: number, bits: number): SampleEncoding | null {
  if (tag === 1) return ({ 8: 'u8', 16: 's16', 24: 's24', 32: 's32' } as const)[bits as 8] ?? null;
  if (tag === 3) return ({ 32: 'f32', 64: 'f64' } as const)[bits as 32] ?? null;
  return null;
}
