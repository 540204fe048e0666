import { asciiText, err, type ByteSource, type Result } from '../units';
import { isAiff } from './aiff-chunks';
import { readAiffHeader } from './aiff-reader';
import type { SoundFault, SoundHeader } from './format';
import { isWav, readWavHeader } from './wav-reader';

/** Where the audio of a WAV or AIFF file lies and what it is; everything else is `sound.unknown`. */
export async function readSoundHeader(source: ByteSource): Promise<Result<SoundHeader, SoundFault>> {
  if (source.sizeBytes === 0) return err({ code: 'file.empty' });
  const head = await source.read(0, 12);
  if (isWav(head)) return readWavHeader(source);
  if (isAiff(head)) return readAiffHeader(source);
  return err({ code: 'sound.unknown', found: asciiText(head.subarray(0, 4)).replace(/[^\x20-\x7e]/g, '.') });
}
