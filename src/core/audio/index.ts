export {
  type AudioBlock,
  type AudioFormat,
  MAX_CHANNELS,
  type SampleEncoding,
  sampleBytes,
  type SoundFault,
  type SoundHeader,
  type SoundWarning,
} from './format';
export { readSoundHeader } from './sound-reader';
export { type FileKind, fileKind, isSoundName, KIND_BYTES } from './kinds';
export {
  type ClaimSource,
  metadataFromTags,
  NO_METADATA,
  type SaidText,
  type SoundMetadata,
  tempoClaim,
  type TempoClaim,
} from './claims';
export { readSoundMetadata } from './metadata';
export { readMp4Tempo } from './mp4-tempo';
export { channelName } from './channel-names';
export { decodeInterleaved, interleaveTwo, littleEncoding, readSoundBlocks, channelOf } from './samples';
export { createRawWavWriter, createWavWriter, type WavWriter } from './wav-writer';
export type { SoundPlace } from './wav-places';
export { decodePart, soundHead, soundParts, type SoundPart } from './sound-parts';
