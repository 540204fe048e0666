import { asciiText, type ByteSource } from '../units';
import { view, type Chunk } from './wav-chunks';

const MAX_CHUNKS = 10_000;

/** Whether the first twelve bytes are those of an AIFF or AIFF-C file. */
export const isAiff = (head: Uint8Array): boolean =>
  asciiText(head.subarray(0, 4)) === 'FORM' && ['AIFF', 'AIFC'].includes(asciiText(head.subarray(8, 12)));

/**
 * Walks the chunks of a FORM AIFF/AIFC file whose outer header was checked; sizes may exceed the file. Ends where they stop making sense.
 * Source: Audio Interchange File Format 1.3 (1989), AIFF-C draft (1991).
 */
export async function* aiffChunks(source: ByteSource): AsyncGenerator<Chunk> {
  let at = 12;
  for (let n = 0; n < MAX_CHUNKS && at + 8 <= source.sizeBytes; n++) {
    const bytes = await source.read(at, 8);
    const id = asciiText(bytes.subarray(0, 4));
    const sizeBytes = view(bytes).getUint32(4);
    const body = at + 8;
    yield { id, offset: at, body, sizeBytes };
    // A sound chunk of unknown size runs to the end, unless another chunk stands right behind its eight bytes of head.
    if (
      id === 'SSND' &&
      (body + sizeBytes > source.sizeBytes ||
        (sizeBytes <= 8 && !(await isAiffChunk(source, body + sizeBytes))))
    )
      return;
    const end = body + sizeBytes;
    at =
      sizeBytes % 2 === 1 && ((await isAiffChunk(source, end + 1)) || !(await isAiffChunk(source, end)))
        ? end + 1
        : end;
  }
}

/** Whether a printable id whose size fits the file stands here. */
async function isAiffChunk(source: ByteSource, offset: number): Promise<boolean> {
  const bytes = await source.read(offset, 8);
  if (bytes.length < 8 || bytes.subarray(0, 4).some((b) => b < 0x20 || b > 0x7e)) return false;
  return view(bytes).getUint32(4) + offset + 8 <= source.sizeBytes;
}
