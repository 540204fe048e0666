import { createHash } from 'node:crypto';
import { readSoundHeader } from '@/core/audio';
import { fileSource } from './files';

const CHUNK_BYTES = 1 << 20;

/** What a FLAC file says of its sound: bits a sample, and the MD5 of its samples as hex; null = it says none. */
async function readStreamInfo(path: string): Promise<{ readonly bits: number; readonly md5: string } | null> {
  const file = await fileSource(path);
  try {
    const head = await file.bytes.read(0, 10);
    // Some taggers put an ID3 tag in front; its size is 28 bits in four bytes.
    const isTagged = head[0] === 0x49 && head[1] === 0x44 && head[2] === 0x33;
    const at = isTagged
      ? 10 +
        ((head[6] as number) << 21) +
        ((head[7] as number) << 14) +
        ((head[8] as number) << 7) +
        (head[9] as number)
      : 0;
    const b = Buffer.from(await file.bytes.read(at, 42));
    if (b.length < 42 || b.toString('latin1', 0, 4) !== 'fLaC' || ((b[4] as number) & 0x7f) !== 0)
      return null;
    const md5 = b.toString('hex', 26, 42);
    const bits = ((((b[20] as number) & 1) << 4) | ((b[21] as number) >> 4)) + 1;
    return /^0+$/.test(md5) ? null : { bits, md5 };
  } finally {
    await file.close();
  }
}

/**
 * Whether the samples decoded from a FLAC file are those its MD5 was made of (RFC 9639, 8.2: interleaved little-endian
 * samples of whole bytes); null where it gives none, or one of a depth that is stored otherwise here. `wavPath`: the decoded sound.
 */
export async function matchesFlacMd5(flacPath: string, wavPath: string): Promise<boolean | null> {
  const info = await readStreamInfo(flacPath);
  if (!info || (info.bits !== 16 && info.bits !== 24)) return null;
  const file = await fileSource(wavPath);
  try {
    const header = await readSoundHeader(file.bytes);
    if (!header.ok || header.value.bitDepth !== info.bits) return null;
    const { dataOffset, lengthFrames, bytesPerFrame } = header.value;
    const end = dataOffset + lengthFrames * bytesPerFrame;
    const hash = createHash('md5');
    for (let at = dataOffset; at < end; at += CHUNK_BYTES)
      hash.update(await file.bytes.read(at, Math.min(CHUNK_BYTES, end - at)));
    return hash.digest('hex') === info.md5;
  } finally {
    await file.close();
  }
}
