import { asciiText, err, ok, type ByteSource, type Result } from '../units';
import { aiffChunks } from './aiff-chunks';
import {
  formatFault,
  sampleBytes,
  type AudioFormat,
  type SampleEncoding,
  type SoundFault,
  type SoundHeader,
  type SoundWarning,
} from './format';
import { view } from './wav-chunks';

interface Common extends AudioFormat {
  readonly bytesPerFrame: number;
  readonly frames: number;
}

/**
 * Walks the chunks of an AIFF or AIFF-C file and says where its samples lie. Sizes are never trusted beyond the file.
 * Source: Audio Interchange File Format 1.3 (1989), AIFF-C draft (1991): all big-endian but `sowt` samples.
 */
export async function readAiffHeader(source: ByteSource): Promise<Result<SoundHeader, SoundFault>> {
  let common: Common | null = null;
  let audio: { readonly offset: number; readonly declared: number } | null = null;
  const warnings: SoundWarning[] = [];
  for await (const chunk of aiffChunks(source)) {
    if (chunk.id === 'COMM' && common === null) {
      const parsed = parseCommon(await source.read(chunk.body, Math.min(chunk.sizeBytes, 22)));
      if (!parsed.ok) return parsed;
      common = parsed.value;
    } else if (chunk.id === 'SSND') {
      if (audio === null) {
        const head = await source.read(chunk.body, 8);
        // Samples may begin later, for those who align blocks.
        const shift = head.length === 8 ? view(head).getUint32(0) : 0;
        audio = { offset: chunk.body + 8 + shift, declared: chunk.sizeBytes - 8 - shift };
      } else warnings.push({ code: 'sound.second_data_ignored', byteOffset: chunk.offset });
    }
  }
  if (!common) return err({ code: 'sound.no_format' });
  if (!audio) return err({ code: 'sound.no_audio' });
  return finish(source, common, audio, warnings);
}

function finish(
  source: ByteSource,
  common: Common,
  audio: { readonly offset: number; readonly declared: number },
  warnings: SoundWarning[],
): Result<SoundHeader, SoundFault> {
  const { frames, ...format } = common;
  const present = Math.max(0, source.sizeBytes - audio.offset);
  const unknown = audio.declared <= 0 || audio.declared >= 0xffffffff - 8;
  const inChunk = Math.floor((unknown ? present : Math.min(audio.declared, present)) / format.bytesPerFrame);
  // Writers that were interrupted leave a zero here: then the size of the sound chunk says it.
  const expectedFrames =
    frames > 0 ? frames : unknown ? 0 : Math.floor(audio.declared / format.bytesPerFrame);
  const lengthFrames = expectedFrames > 0 ? Math.min(expectedFrames, inChunk) : inChunk;
  if (lengthFrames === 0) return err({ code: 'sound.no_audio' });
  if (expectedFrames > lengthFrames)
    warnings.push({ code: 'sound.truncated', expectedFrames, foundFrames: lengthFrames });
  else if (frames === 0) warnings.push({ code: 'sound.size_missing', foundFrames: lengthFrames });
  return ok({
    container: 'aiff',
    ...format,
    dataOffset: audio.offset,
    lengthFrames,
    warnings,
    channelMask: 0,
  });
}

function parseCommon(bytes: Uint8Array): Result<Common, SoundFault> {
  if (bytes.length < 18) return err({ code: 'sound.no_format' });
  const v = view(bytes);
  const channels = v.getUint16(0);
  const bitDepth = v.getUint16(6);
  const codec = bytes.length >= 22 ? asciiText(bytes.subarray(18, 22)) : 'NONE';
  const encoding = encodingOf(codec, bitDepth);
  if (!encoding)
    return err({
      code: 'sound.unsupported_format',
      codec: codec.replace(/[^\x20-\x7e]/g, '.').trim(),
      bits: bitDepth,
    });
  const sampleRateHz = extended(v, 8);
  const fault = formatFault({ sampleRateHz, channels });
  return fault
    ? err(fault)
    : ok({
        sampleRateHz,
        channels,
        encoding,
        bitDepth,
        bytesPerFrame: channels * sampleBytes(encoding),
        frames: v.getUint32(2),
      });
}

/** Samples of a width between whole bytes are left-justified in them: decode the whole bytes. */
const integers = ['s8', 's16be', 's24be', 's32be'] as const;

function encodingOf(codec: string, bits: number): SampleEncoding | null {
  const width = Math.ceil(bits / 8);
  switch (codec.toLowerCase()) {
    case 'none':
    case 'twos':
      return integers[width - 1] ?? null;
    case 'sowt':
      return (['s8', 's16', 's24', 's32'] as const)[width - 1] ?? null;
    case 'in24':
      return 's24be';
    case 'in32':
      return 's32be';
    case 'raw ':
      return width === 1 ? 'u8' : null;
    case 'fl32':
      return 'f32be';
    case 'fl64':
      return 'f64be';
    default:
      return null;
  }
}

/** An 80 bit extended number as whole Hz: u16 sign and exponent (bias 16383), u64 mantissa with explicit integer bit (IEEE 754-1985). */
function extended(v: DataView, at: number): number {
  const exponent = v.getUint16(at) - 16383;
  const mantissa = v.getUint32(at + 2) * 2 ** 32 + v.getUint32(at + 6);
  return exponent < 0 || exponent > 30 ? 0 : Math.round(mantissa * 2 ** (exponent - 63));
}
