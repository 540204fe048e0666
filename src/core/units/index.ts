export { assertNever, err, ok, type Result } from './result';
export { Cancelled, type CancelSignal, type ProgressSink, throwIfCancelled } from './running';
export { type ByteSink, type ByteSource, bytesSource, joinBytes } from './bytes';
export { dbToGain, gainToDb, roundTo } from './levels';
export { type Growing, growing } from './growing';
export { hashText } from './hash-text';
export { createRandom, type Random } from './random';
export { asciiBytes, asciiText, plainText, utf8Bytes, utf8Text } from './text';
