import { bytesSource, createRandom, type ByteSink } from '../units';
import { createWavWriter, decodeInterleaved, readSoundBlocks, readSoundHeader } from './index';

/** A sink in memory. */
function memorySink(): ByteSink & { bytes(): Uint8Array } {
  let data = new Uint8Array(0);
  return {
    async write(bytes) {
      const next = new Uint8Array(data.length + bytes.length);
      next.set(data);
      next.set(bytes, data.length);
      data = next;
    },
    async patch(offset, bytes) {
      data.set(bytes, offset);
    },
    bytes: () => data,
  };
}

const ascii = (t: string): number[] => [...t].map((c) => c.charCodeAt(0));
const u32 = (n: number): number[] => [n & 255, (n >>> 8) & 255, (n >>> 16) & 255, (n >>> 24) & 255];
const u16 = (n: number): number[] => [n & 255, n >> 8];
const chunk = (id: string, body: number[], size = body.length): number[] => [
  ...ascii(id),
  ...u32(size),
  ...body,
  ...(body.length % 2 ? [0] : []),
];
const fmt = (tag: number, channels: number, rate: number, bits: number, extra: number[] = []): number[] =>
  chunk('fmt ', [
    ...u16(tag),
    ...u16(channels),
    ...u32(rate),
    ...u32((rate * channels * bits) / 8),
    ...u16((channels * bits) / 8),
    ...u16(bits),
    ...extra,
  ]);
const wav = (...chunks: number[][]): Uint8Array =>
  Uint8Array.from([...ascii('RIFF'), ...u32(0xdeadbeef), ...ascii('WAVE'), ...chunks.flat()]);
const header = (bytes: Uint8Array) => readSoundHeader(bytesSource(bytes));
const samples16 = (n: number): number[] => Array.from({ length: n }, (_, i) => u16(i & 0x7fff)).flat();

describe('header', () => {
  it('reads a plain file and never trusts the RIFF size', async () => {
    const read = await header(wav(fmt(1, 1, 44100, 16), chunk('data', samples16(10))));
    expect(read).toMatchObject({
      ok: true,
      value: { sampleRateHz: 44100, channels: 1, encoding: 's16', lengthFrames: 10, warnings: [] },
    });
  });
  it.each([
    ['empty', new Uint8Array(0), 'file.empty'],
    ['text named .wav', Uint8Array.from(ascii('Dear mixer, here are the files')), 'sound.unknown'],
    ['no fmt', wav(chunk('data', samples16(4))), 'sound.no_format'],
    ['no data', wav(fmt(1, 1, 48000, 16)), 'sound.no_audio'],
    ['no frames', wav(fmt(1, 1, 48000, 16), chunk('data', []), chunk('LIST', [0, 0])), 'sound.no_audio'],
    ['ADPCM', wav(fmt(2, 1, 48000, 4), chunk('data', [1, 2, 3, 4])), 'sound.unsupported_format'],
    ['33 channels', wav(fmt(1, 33, 48000, 16), chunk('data', samples16(66))), 'sound.unsupported_channels'],
    ['absurd rate', wav(fmt(1, 1, 3, 16), chunk('data', samples16(6))), 'sound.unsupported_rate'],
  ])('says why: %s', async (_name, bytes, code) => {
    expect(await header(bytes)).toMatchObject({ ok: false, error: { code } });
  });
  it('takes a truncated file to its last whole frame', async () => {
    const whole = wav(
      fmt(1, 2, 48000, 24),
      chunk(
        'data',
        Array.from({ length: 60 }, (_, i) => i),
      ),
    );
    expect(await header(whole.subarray(0, whole.length - 7))).toMatchObject({
      ok: true,
      value: { lengthFrames: 8, warnings: [{ code: 'sound.truncated', expectedFrames: 10, foundFrames: 8 }] },
    });
  });
  it.each([0, 0xffffffff])('takes all to the end when the data size is %i', async (size) => {
    expect(await header(wav(fmt(1, 1, 48000, 16), chunk('data', samples16(7), size)))).toMatchObject({
      ok: true,
      value: { lengthFrames: 7, warnings: [{ code: 'sound.size_missing' }] },
    });
  });
  it('finds the next chunk with and without the pad byte', async () => {
    const padless = [...ascii('junk'), ...u32(3), 1, 2, 3];
    for (const odd of [chunk('junk', [1, 2, 3]), padless])
      expect(await header(wav(odd, fmt(1, 1, 48000, 16), chunk('data', samples16(3))))).toMatchObject({
        ok: true,
        value: { lengthFrames: 3 },
      });
  });
  it('uses the first of two data chunks', async () => {
    expect(
      await header(wav(fmt(1, 1, 48000, 16), chunk('data', samples16(3)), chunk('data', samples16(9)))),
    ).toMatchObject({
      ok: true,
      value: { lengthFrames: 3, warnings: [{ code: 'sound.second_data_ignored' }] },
    });
  });
  it('reads EXTENSIBLE with 24 valid bits in 32 (WAVEFORMATEXTENSIBLE, 2001)', async () => {
    const guid = [...u16(1), 0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xaa, 0, 0x38, 0x9b, 0x71];
    const bytes = wav(
      fmt(0xfffe, 1, 48000, 32, [...u16(22), ...u16(24), ...u32(4), ...guid]),
      chunk('data', [0, 0, 0, 0x40, 0, 0, 0, 0xc0]),
    );
    const read = await header(bytes);
    expect(read).toMatchObject({ ok: true, value: { encoding: 's32', bitDepth: 24, lengthFrames: 2 } });
    if (read.ok)
      for await (const block of readSoundBlocks(bytesSource(bytes), read.value))
        expect([...(block.channels[0] ?? [])]).toEqual([0.5, -0.5]);
  });
  it('reads RF64 by its ds64 (EBU Tech 3306)', async () => {
    const data = samples16(5);
    const ds64 = chunk('ds64', [
      ...u32(0),
      ...u32(0),
      ...u32(data.length),
      ...u32(0),
      ...u32(5),
      ...u32(0),
      ...u32(0),
    ]);
    const bytes = Uint8Array.from([
      ...ascii('RF64'),
      ...u32(0xffffffff),
      ...ascii('WAVE'),
      ...ds64,
      ...fmt(1, 1, 96000, 16),
      ...ascii('data'),
      ...u32(0xffffffff),
      ...data,
    ]);
    expect(await header(bytes)).toMatchObject({
      ok: true,
      value: { sampleRateHz: 96000, lengthFrames: 5, warnings: [] },
    });
  });
  it('survives two thousand damaged headers (seed 21)', async () => {
    const good = wav(
      chunk('junk', [1, 2, 3]),
      fmt(1, 2, 48000, 24),
      chunk(
        'data',
        Array.from({ length: 60 }, (_, i) => i),
      ),
    );
    const random = createRandom(21);
    for (let i = 0; i < 2000; i++) {
      const bad = good.slice(0, Math.floor(random() * good.length) + 1);
      for (let k = 0; k < 3; k++) bad[Math.floor(random() * bad.length)] = Math.floor(random() * 256);
      const read = await header(bad);
      if (read.ok)
        expect(
          read.value.dataOffset + read.value.lengthFrames * read.value.bytesPerFrame,
        ).toBeLessThanOrEqual(bad.length);
    }
  });
});

describe('samples', () => {
  it('scales as the standard readers do: full scale negative is −1', () => {
    expect([...(decodeInterleaved(Uint8Array.from([0, 128, 255]), 'u8', 1, 3)[0] ?? [])]).toEqual([
      -1,
      0,
      127 / 128,
    ]);
    expect([...(decodeInterleaved(Uint8Array.from([0xff, 0x7f, 0, 0x80]), 's16', 1, 2)[0] ?? [])]).toEqual([
      32767 / 32768,
      -1,
    ]);
    expect([...(decodeInterleaved(Uint8Array.from([1, 0, 0x80]), 's24', 1, 1)[0] ?? [])]).toEqual([
      -1 + 1 / 8388608,
    ]);
  });
  it('turns NaN and infinities of float files into silence', () => {
    const v = new DataView(new ArrayBuffer(12));
    [NaN, Infinity, 1.5].forEach((x, i) => v.setFloat32(4 * i, x, true));
    expect([...(decodeInterleaved(new Uint8Array(v.buffer), 'f32', 1, 3)[0] ?? [])]).toEqual([0, 0, 1.5]);
  });
  it.each([16, 24, 32] as const)('writes %i bit and reads the same back (seed 3)', async (bitDepth) => {
    const random = createRandom(3);
    const scale = bitDepth === 32 ? 0 : 2 ** (bitDepth - 1);
    const value = (): number => {
      const x = random() * 2 - 1;
      return scale ? Math.round(x * scale * 0.999) / scale : Math.fround(x * 3);
    };
    const planar = [Float32Array.from({ length: 999 }, value), Float32Array.from({ length: 999 }, value)];
    const sink = memorySink();
    const writer = await createWavWriter(sink, { sampleRateHz: 48000, channels: 2, bitDepth });
    await writer.write(planar.map((c) => c.subarray(0, 400)));
    await writer.write(planar.map((c) => c.subarray(400)));
    expect(await writer.finish()).toEqual({ lengthFrames: 999, clippedSamples: 0 });
    const read = await header(sink.bytes());
    if (!read.ok) throw new Error(read.error.code);
    const out: Float32Array[] = [];
    for await (const block of readSoundBlocks(bytesSource(sink.bytes()), read.value, { blockFrames: 250 }))
      out.push(block.channels[1] as Float32Array);
    expect(out.flatMap((b) => [...b])).toEqual([...(planar[1] as Float32Array)]);
  });
  it('counts what it has to clip', async () => {
    const sink = memorySink();
    const writer = await createWavWriter(sink, { sampleRateHz: 48000, channels: 1, bitDepth: 24 });
    await writer.write([Float32Array.from([1.2, -1.2, -1, 0.5])]);
    expect(await writer.finish()).toEqual({ lengthFrames: 4, clippedSamples: 2 });
  });
});
