import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import type { ByteSink, ByteSource } from '@/core/units';

/** An open file; close it in `finally`. */
export interface OpenFile<T> {
  readonly bytes: T;
  close(): Promise<void>;
}

/** A file as a byte source. Errors of the file system carry the path in `cause`. */
export async function fileSource(path: string): Promise<OpenFile<ByteSource>> {
  const handle = await open(path, 'r');
  const { size } = await handle.stat();
  return {
    bytes: {
      sizeBytes: size,
      async read(offset, length) {
        const wanted = Math.max(0, Math.min(length, size - offset));
        const buffer = new Uint8Array(wanted);
        let got = 0;
        while (got < wanted) {
          const { bytesRead } = await handle.read(buffer, got, wanted - got, offset + got);
          if (bytesRead === 0) break;
          got += bytesRead;
        }
        return got === wanted ? buffer : buffer.subarray(0, got);
      },
    },
    close: () => handle.close(),
  };
}

/** A new file as a byte sink; `close` makes it durable (fsync). Fails if the file exists. */
export async function fileSink(path: string): Promise<OpenFile<ByteSink>> {
  const handle = await open(path, 'wx+');
  let at = 0;
  return {
    bytes: {
      async write(bytes) {
        let done = 0;
        while (done < bytes.length)
          done += (await handle.write(bytes, done, bytes.length - done, at + done)).bytesWritten;
        at += bytes.length;
      },
      async patch(offset, bytes) {
        await handle.write(bytes, 0, bytes.length, offset);
      },
    },
    async close() {
      try {
        await handle.sync();
      } finally {
        await handle.close();
      }
    },
  };
}

/** SHA-256 of a file, hexadecimal. */
export async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(chunk as Buffer);
  return hash.digest('hex');
}
