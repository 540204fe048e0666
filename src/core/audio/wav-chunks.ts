import { asciiText, type ByteSource } from '../units';

/** A chunk of a RIFF or FORM file, as its header tells it. */
export interface Chunk {
  /** Four letters. */
  readonly id: string;
  /** Where its header begins, bytes. */
  readonly offset: number;
  /** Where its content begins, bytes. */
  readonly body: number;
  /** Size it claims, the wide one for `data` of RF64; may exceed the file. */
  readonly sizeBytes: number;
}

const MAX_CHUNKS = 10_000;

/** A view over bytes, wherever they lie in their buffer. */
export const view = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/**
 * Walks the chunks of a RIFF/RF64/BW64 file whose outer header was checked. Ends where sizes stop making sense: then everything to the end is sound.
 * Sources: Multimedia Programming Interface 1.0 (1991), EBU Tech 3306, ITU-R BS.2088.
 */
export async function* wavChunks(source: ByteSource): AsyncGenerator<Chunk> {
  let wide: number | null = null;
  let at = 12;
  for (let n = 0; n < MAX_CHUNKS && at + 8 <= source.sizeBytes; n++) {
    const bytes = await source.read(at, 8);
    const id = asciiText(bytes.subarray(0, 4));
    const size = view(bytes).getUint32(4, true);
    const body = at + 8;
    if (id === 'ds64') wide = readWide(await source.read(body, 28));
    const sizeBytes = id === 'data' && size === 0xffffffff && wide !== null ? wide : size;
    yield { id, offset: at, body, sizeBytes };
    if (
      id === 'data' &&
      (sizeBytes === 0xffffffff ||
        body + sizeBytes > source.sizeBytes ||
        (sizeBytes === 0 && !(await isChunk(source, body))))
    )
      return;
    at = await nextChunk(source, body + sizeBytes, sizeBytes % 2);
  }
}

const readWide = (bytes: Uint8Array): number | null =>
  bytes.length < 16 ? null : Number(view(bytes).getBigUint64(8, true));

/** Whether a printable four-letter id whose size fits the file stands here. */
export async function isChunk(source: ByteSource, offset: number): Promise<boolean> {
  const bytes = await source.read(offset, 8);
  if (bytes.length < 8) return false;
  for (let i = 0; i < 4; i++) if ((bytes[i] as number) < 0x20 || (bytes[i] as number) > 0x7e) return false;
  return view(bytes).getUint32(4, true) + offset + 8 <= source.sizeBytes;
}

/** Skips the pad byte of odd chunks, unless the writer forgot it (EBU and field practice: both are met). */
async function nextChunk(source: ByteSource, end: number, odd: number): Promise<number> {
  if (odd === 0) return end;
  return !(await isChunk(source, end + 1)) && (await isChunk(source, end)) ? end : end + 1;
}
