export { type AudioBlock, type AudioFormat, type SampleEncoding } from './format';
export { readWavHeader, type WavFault, type WavHeader, type WavWarning } from './wav-reader';
export { readWavMetadata, type WavMetadata } from './wav-metadata';
export { decodeInterleaved, readWavBlocks } from './wav-samples';
export { createWavWriter, type WavWriter } from './wav-writer';
export { decodePart, soundHead, soundParts, type SoundPart } from './sound-parts';
