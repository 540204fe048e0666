/** How one sample is stored: unsigned or signed 8, signed 16/24/32 bit integers or 32/64 bit floats; little-endian, or big-endian with `be`. */
export type SampleEncoding =
  'u8' | 's8' | 's16' | 's24' | 's32' | 'f32' | 'f64' | 's16be' | 's24be' | 's32be' | 'f32be' | 'f64be';

/** All ways to store a sample. The order is part of the answers that carry sound: add at the end only. */
export const SAMPLE_ENCODINGS = [
  'u8',
  's16',
  's24',
  's32',
  'f32',
  'f64',
  's8',
  's16be',
  's24be',
  's32be',
  'f32be',
  'f64be',
] as const satisfies readonly SampleEncoding[];

const SAMPLE_BYTES: Readonly<Record<SampleEncoding, number>> = {
  u8: 1,
  s8: 1,
  s16: 2,
  s24: 3,
  s32: 4,
  f32: 4,
  f64: 8,
  s16be: 2,
  s24be: 3,
  s32be: 4,
  f32be: 4,
  f64be: 8,
};

/** Bytes of one sample. */
export const sampleBytes = (encoding: SampleEncoding): number => SAMPLE_BYTES[encoding];

/** What the samples of a file are. */
export interface AudioFormat {
  /** Frames a second, Hz. */
  readonly sampleRateHz: number;
  /** Channels a frame, ≥ 1. */
  readonly channels: number;
  /** Storage of one sample. */
  readonly encoding: SampleEncoding;
  /** Bits that carry sound; at most those of the encoding. */
  readonly bitDepth: number;
}

/** Most channels of a file. */
export const MAX_CHANNELS = 32;

/** Something odd in a file that can still be used. */
export type SoundWarning =
  | { readonly code: 'sound.truncated'; readonly expectedFrames: number; readonly foundFrames: number }
  | { readonly code: 'sound.size_missing'; readonly foundFrames: number }
  | { readonly code: 'sound.second_data_ignored'; readonly byteOffset: number }
  /** A decoder complained; what it could read was taken. */
  | { readonly code: 'sound.damaged'; readonly reason: string };

/** Why a file cannot be used. */
export type SoundFault =
  | { readonly code: 'file.empty' }
  | { readonly code: 'sound.unknown'; readonly found: string }
  | { readonly code: 'sound.no_format' }
  | { readonly code: 'sound.no_audio' }
  /** `codec`: four letters or a number, as the file names it. */
  | { readonly code: 'sound.unsupported_format'; readonly codec: string; readonly bits: number }
  | { readonly code: 'sound.unsupported_rate'; readonly sampleRateHz: number }
  | { readonly code: 'sound.unsupported_channels'; readonly channels: number; readonly supported: number };

/** Where the audio of a file lies and what it is. */
export interface SoundHeader extends AudioFormat {
  readonly container: 'wav' | 'aiff';
  /** First byte of the samples. */
  readonly dataOffset: number;
  /** Bytes of one frame. */
  readonly bytesPerFrame: number;
  /** Whole frames present in the file (never more than its bytes hold). */
  readonly lengthFrames: number;
  /** Oddities met on the way. */
  readonly warnings: readonly SoundWarning[];
  /** Speaker positions a WAV file states, one bit each (WAVEFORMATEXTENSIBLE); 0 = none stated. */
  readonly channelMask: number;
}

/** What both kinds of header must satisfy: rate and number of channels that can be worked with. */
export function formatFault({
  sampleRateHz,
  channels,
}: {
  readonly sampleRateHz: number;
  readonly channels: number;
}): SoundFault | null {
  if (channels < 1 || channels > MAX_CHANNELS)
    return { code: 'sound.unsupported_channels', channels, supported: MAX_CHANNELS };
  if (!(sampleRateHz >= 8000 && sampleRateHz <= 384_000))
    return { code: 'sound.unsupported_rate', sampleRateHz };
  return null;
}

/** A stretch of planar audio: `channels[channel][frame]`, equal lengths, nominal ±1. */
export interface AudioBlock {
  /** Place of the first frame in its source, frames. */
  readonly startFrames: number;
  /** One array a channel. */
  readonly channels: readonly Float32Array[];
}
