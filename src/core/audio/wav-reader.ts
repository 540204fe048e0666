import { asciiText, err, ok, type ByteSource, type Result } from '../units';
import type { AudioFormat, SampleEncoding } from './format';
import { isChunk, view, wavChunks } from './wav-chunks';

/** Something odd in a file that can still be used. */
export type WavWarning =
  | { readonly code: 'wav.truncated'; readonly expectedFrames: number; readonly foundFrames: number }
  | { readonly code: 'wav.size_missing'; readonly foundFrames: number }
  | { readonly code: 'wav.second_data_ignored'; readonly byteOffset: number };

/** Why a file cannot be used. */
export type WavFault =
  | { readonly code: 'file.empty' }
  | { readonly code: 'wav.not_wav'; readonly found: string }
  | { readonly code: 'wav.no_format' }
  | { readonly code: 'wav.no_audio' }
  | { readonly code: 'wav.unsupported_format'; readonly tag: number; readonly bits: number }
  | { readonly code: 'wav.unsupported_rate'; readonly sampleRateHz: number }
  | { readonly code: 'wav.unsupported_channels'; readonly channels: number; readonly supported: number };

/** Where the audio of a WAV file lies and what it is. */
export interface WavHeader extends AudioFormat {
  /** First byte of the samples. */
  readonly dataOffset: number;
  /** Bytes of one frame. */
  readonly bytesPerFrame: number;
  /** Whole frames present in the file (never more than its bytes hold). */
  readonly lengthFrames: number;
  /** Oddities met on the way. */
  readonly warnings: readonly WavWarning[];
}

const MAX_CHANNELS = 2;

/**
 * Walks the chunks of a RIFF/RF64/BW64 WAVE file and says where its samples lie. Sizes are never trusted beyond the file.
 * Sources: Multimedia Programming Interface 1.0 (1991), WAVEFORMATEXTENSIBLE (2001), EBU Tech 3306, ITU-R BS.2088.
 */
export async function readWavHeader(source: ByteSource): Promise<Result<WavHeader, WavFault>> {
  if (source.sizeBytes === 0) return err({ code: 'file.empty' });
  const head = await source.read(0, 12);
  const outer = asciiText(head.subarray(0, 4));
  if (head.length < 12 || !['RIFF', 'RF64', 'BW64'].includes(outer) || asciiText(head.subarray(8, 12)) !== 'WAVE')
    return err({ code: 'wav.not_wav', found: asciiText(head.subarray(0, 4)).replace(/[^\x20-\x7e]/g, '.') });

  let format: (AudioFormat & { bytesPerFrame: number }) | null = null;
  let audio: { offset: number; declared: number } | null = null;
  const warnings: WavWarning[] = [];
  for await (const chunk of wavChunks(source)) {
    if (chunk.id === 'fmt ') {
      const parsed = parseFormat(await source.read(chunk.body, Math.min(chunk.sizeBytes, 40)));
      if (!parsed.ok) return parsed;
      format = parsed.value;
    } else if (chunk.id === 'data') {
      if (audio === null) audio = { offset: chunk.body, declared: chunk.sizeBytes };
      else warnings.push({ code: 'wav.second_data_ignored', byteOffset: chunk.offset });
    }
  }
  if (!format) return err({ code: 'wav.no_format' });
  if (!audio) return err({ code: 'wav.no_audio' });
  return finish(source, format, audio, warnings, outer === 'RIFF');
}

async function finish(
  source: ByteSource,
  format: AudioFormat & { bytesPerFrame: number },
  audio: { offset: number; declared: number },
  warnings: WavWarning[],
  plain: boolean,
): Promise<Result<WavHeader, WavFault>> {
  const present = source.sizeBytes - audio.offset;
  const unknown = (audio.declared === 0 && !(await isChunk(source, audio.offset))) || (audio.declared === 0xffffffff && plain);
  const usable = unknown ? present : Math.min(audio.declared, present);
  const lengthFrames = Math.floor(usable / format.bytesPerFrame);
  if (lengthFrames === 0) return err({ code: 'wav.no_audio' });
  const expectedFrames = Math.floor(audio.declared / format.bytesPerFrame);
  if (unknown) warnings.push({ code: 'wav.size_missing', foundFrames: lengthFrames });
  else if (expectedFrames > lengthFrames) warnings.push({ code: 'wav.truncated', expectedFrames, foundFrames: lengthFrames });
  return ok({ ...format, dataOffset: audio.offset, lengthFrames, warnings });
}

function parseFormat(bytes: Uint8Array): Result<AudioFormat & { bytesPerFrame: number }, WavFault> {
  if (bytes.length < 16) return err({ code: 'wav.no_format' });
  const v = view(bytes);
  let tag = v.getUint16(0, true);
  const channels = v.getUint16(2, true);
  const sampleRateHz = v.getUint32(4, true);
  const blockAlign = v.getUint16(12, true);
  let bits = v.getUint16(14, true);
  // In 20-of-24 files the low bits are zero: decode the container.
  const container = channels > 0 ? Math.round((blockAlign * 8) / channels) : bits;
  let bitDepth = bits;
  if (tag === 0xfffe && bytes.length >= 26) {
    const valid = v.getUint16(18, true);
    if (valid > 0 && valid <= bits) bitDepth = valid;
    tag = v.getUint16(24, true);
  }
  if (bits % 8 !== 0 || container > bits) bits = container;
  const encoding = encodingOf(tag, bits);
  if (!encoding) return err({ code: 'wav.unsupported_format', tag, bits });
  if (channels < 1 || channels > MAX_CHANNELS) return err({ code: 'wav.unsupported_channels', channels, supported: MAX_CHANNELS });
  if (sampleRateHz < 8000 || sampleRateHz > 384_000) return err({ code: 'wav.unsupported_rate', sampleRateHz });
  return ok({ sampleRateHz, channels, encoding, bitDepth, bytesPerFrame: channels * (bits / 8) });
}

function encodingOf(tag: number, bits: number): SampleEncoding | null {
  if (tag === 1) return ({ 8: 'u8', 16: 's16', 24: 's24', 32: 's32' } as const)[bits as 8] ?? null;
  if (tag === 3) return ({ 32: 'f32', 64: 'f64' } as const)[bits as 32] ?? null;
  return null;
}
