// What benchmarks of the running server share: recordings made on the fly, sent as a page would.
import { createHash } from 'node:crypto';

const CHUNK = 8 << 20;

/** Header of a mono 24 bit WAV of so many bytes, and a block of noise bursts that repeats. */
function made(bytes) {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(bytes - 8, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(48_000, 24);
  head.writeUInt32LE(144_000, 28);
  head.writeUInt16LE(3, 32);
  head.writeUInt16LE(24, 34);
  head.write('data', 36);
  head.writeUInt32LE(bytes - 44, 40);
  const block = Buffer.alloc(CHUNK);
  let seed = 7;
  for (let i = 0; i < CHUNK; i++) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    block[i] = i % 72_000 < 9000 || i % 3 === 0 ? seed >>> 24 : 0;
  }
  return { head, block };
}

/** Asks until the answer is there. */
export const until = async (ask) => {
  for (;;) {
    const a = await ask();
    if (a) return a;
    await new Promise((r) => setTimeout(r, 500));
  }
};

/** Calls, uploads and waiting on one server. */
export function client(base) {
  const call = async (path, body) =>
    (
      await fetch(
        base + path,
        body === undefined
          ? {}
          : { method: 'POST', body: JSON.stringify(body), headers: { 'content-type': 'application/json' } },
      )
    ).json();
  async function send(sessionId, name, bytes) {
    const encode = (t) => Buffer.from(t).toString('base64');
    const begun = await fetch(`${base}/api/uploads`, {
      method: 'POST',
      headers: {
        'tus-resumable': '1.0.0',
        'upload-length': String(bytes),
        'upload-metadata': `sessionId ${encode(sessionId)},name ${encode(name)}`,
      },
    });
    if (begun.status !== 201) throw new Error(`${begun.status} ${await begun.text()}`);
    const address = new URL(begun.headers.get('location'), base);
    const { head, block } = made(bytes);
    block.writeUInt32LE(createHash('sha256').update(name).digest().readUInt32LE(0), 0); // no two files alike
    for (let at = 0; at < bytes;) {
      const part = at === 0 ? head : block.subarray(0, Math.min(CHUNK, bytes - at));
      const done = await fetch(address, {
        method: 'PATCH',
        headers: {
          'tus-resumable': '1.0.0',
          'upload-offset': String(at),
          'content-type': 'application/offset+octet-stream',
        },
        body: part,
      });
      if (done.status !== 204) throw new Error(`${done.status} ${await done.text()}`);
      at += part.length;
    }
  }
  const settled = (id) =>
    until(async () => {
      const v = await call(`/api/sessions/${id}`);
      return (
        v.jobs.every((j) => !['queued', 'running'].includes(j.state)) &&
        v.recordings.every((r) => r.state !== 'waiting') &&
        v
      );
    });
  return { call, send, settled };
}
