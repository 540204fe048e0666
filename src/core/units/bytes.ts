/** Bytes to read at random; given from outside, so that formats never open a file. */
export interface ByteSource {
  /** Whole length in bytes. */
  readonly sizeBytes: number;
  /** Bytes `[offset, offset + length)`, fewer only at the end. */
  read(offset: number, length: number): Promise<Uint8Array>;
}

/** Where bytes go, in order; earlier bytes can be patched (headers). */
export interface ByteSink {
  /** Appends; the array may be reused by the caller after the promise settles. */
  write(bytes: Uint8Array): Promise<void>;
  /** Overwrites bytes already written at `offset`. */
  patch(offset: number, bytes: Uint8Array): Promise<void>;
}

/** A source over bytes in memory. */
export function bytesSource(bytes: Uint8Array): ByteSource {
  return {
    sizeBytes: bytes.length,
    read: async (offset, length) => bytes.subarray(offset, Math.min(bytes.length, offset + length)),
  };
}

/** Bytes one after the other. */
export function joinBytes(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
