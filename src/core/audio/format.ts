/** How one sample is stored: unsigned 8, signed 16/24/32 bit integers or 32/64 bit floats, little-endian. */
export type SampleEncoding = 'u8' | 's16' | 's24' | 's32' | 'f32' | 'f64';

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

/** A stretch of planar audio: `channels[channel][frame]`, equal lengths, nominal ±1. */
export interface AudioBlock {
  /** Place of the first frame in its source, frames. */
  readonly startFrames: number;
  /** One array a channel. */
  readonly channels: readonly Float32Array[];
}
