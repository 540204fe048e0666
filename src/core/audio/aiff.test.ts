import { asciiBytes, bytesSource } from '../units';
import { readSoundBlocks, readSoundHeader, readSoundMetadata } from './index';

// Built byte by byte after Audio Interchange File Format 1.3 (1989) and the AIFF-C draft (1991); 80 bit rates after IEEE 754-1985.
const u16 = (n: number): number[] => [(n >> 8) & 255, n & 255];
const u32 = (n: number): number[] => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
const chunk = (id: string, body: readonly number[], size = body.length): number[] => [
  ...asciiBytes(id),
  ...u32(size),
  ...body,
  ...(body.length % 2 ? [0] : []),
];
const RATES: Readonly<Record<number, readonly number[]>> = {
  48_000: [0x40, 0x0e, 0xbb, 0x80, 0, 0, 0, 0, 0, 0],
  44_100: [0x40, 0x0e, 0xac, 0x44, 0, 0, 0, 0, 0, 0],
  96_000: [0x40, 0x0f, 0xbb, 0x80, 0, 0, 0, 0, 0, 0],
};
const comm = (channels: number, frames: number, bits: number, rate = 48_000, codec = ''): number[] =>
  chunk('COMM', [
    ...u16(channels),
    ...u32(frames),
    ...u16(bits),
    ...(RATES[rate] as number[]),
    ...(codec ? [...asciiBytes(codec), 0, 0] : []),
  ]);
const ssnd = (samples: readonly number[], size = samples.length + 8, shift = 0): number[] =>
  chunk('SSND', [...u32(shift), ...u32(0), ...samples], size);
const aiff = (form: 'AIFF' | 'AIFC', ...chunks: number[][]): Uint8Array =>
  Uint8Array.from([...asciiBytes('FORM'), ...u32(0), ...asciiBytes(form), ...chunks.flat()]);
const header = (bytes: Uint8Array) => readSoundHeader(bytesSource(bytes));
async function samples(bytes: Uint8Array): Promise<number[][]> {
  const read = await header(bytes);
  if (!read.ok) throw new Error(read.error.code);
  const out: number[][] = Array.from({ length: read.value.channels }, () => []);
  for await (const block of readSoundBlocks(bytesSource(bytes), read.value))
    block.channels.forEach((c, i) => out[i]?.push(...c));
  return out;
}
const f32 = (x: number): number[] => {
  const v = new DataView(new ArrayBuffer(4));
  v.setFloat32(0, x);
  return [...new Uint8Array(v.buffer)];
};
const f64 = (x: number): number[] => {
  const v = new DataView(new ArrayBuffer(8));
  v.setFloat64(0, x);
  return [...new Uint8Array(v.buffer)];
};

it.each([44_100, 48_000, 96_000])('reads rate %i of its 80 bit number', async (rate) => {
  expect(await header(aiff('AIFF', comm(1, 2, 16, rate), ssnd([0, 1, 0, 2])))).toMatchObject({
    ok: true,
    value: { container: 'aiff', sampleRateHz: rate, lengthFrames: 2, encoding: 's16be', warnings: [] },
  });
});

it.each([
  ['16 bit', 'AIFF', '', 16, [0x40, 0, 0xc0, 0]],
  ['24 bit', 'AIFF', '', 24, [0x40, 0, 0, 0xc0, 0, 0]],
  ['32 bit', 'AIFF', '', 32, [0x40, 0, 0, 0, 0xc0, 0, 0, 0]],
  ['8 bit, signed', 'AIFF', '', 8, [0x40, 0xc0]],
  ['20 bit in 24, left-justified', 'AIFF', '', 20, [0x40, 0, 0, 0xc0, 0, 0]],
  ['NONE', 'AIFC', 'NONE', 16, [0x40, 0, 0xc0, 0]],
  ['sowt, little-endian', 'AIFC', 'sowt', 16, [0, 0x40, 0, 0xc0]],
  ['sowt 24', 'AIFC', 'sowt', 24, [0, 0, 0x40, 0, 0, 0xc0]],
  ['in24', 'AIFC', 'in24', 24, [0x40, 0, 0, 0xc0, 0, 0]],
  ['fl32', 'AIFC', 'fl32', 32, [...f32(0.5), ...f32(-0.5)]],
  ['FL32', 'AIFC', 'FL32', 32, [...f32(0.5), ...f32(-0.5)]],
  ['fl64', 'AIFC', 'fl64', 64, [...f64(0.5), ...f64(-0.5)]],
] as const)('decodes %s', async (_name, form, codec, bits, data) => {
  expect(await samples(aiff(form, comm(1, 2, bits, 48_000, codec), ssnd(data)))).toEqual([[0.5, -0.5]]);
});

it('finds the samples behind an offset, and the chunks in any order', async () => {
  expect(
    await samples(aiff('AIFF', ssnd([9, 9, 0x40, 0], 12, 2), chunk('FVER', u32(0xa2805140)), comm(1, 1, 16))),
  ).toEqual([[0.5]]);
});
it('takes what is there when the size is too large, missing, or the frames are 0', async () => {
  const data = [0, 1, 0, 2, 0, 3];
  expect(await header(aiff('AIFF', comm(1, 9, 16), ssnd(data, 26)))).toMatchObject({
    ok: true,
    value: { lengthFrames: 3, warnings: [{ code: 'sound.truncated', expectedFrames: 9, foundFrames: 3 }] },
  });
  expect(await header(aiff('AIFF', comm(1, 0, 16), ssnd(data)))).toMatchObject({
    ok: true,
    value: { lengthFrames: 3, warnings: [{ code: 'sound.size_missing' }] },
  });
  expect(await header(aiff('AIFF', comm(1, 0, 16), ssnd(data, 0)))).toMatchObject({
    ok: true,
    value: { lengthFrames: 3 },
  });
  expect(await header(aiff('AIFF', comm(1, 2, 16), ssnd(data)))).toMatchObject({
    ok: true,
    value: { lengthFrames: 2, warnings: [] },
  });
});
it.each([
  ['no COMM', aiff('AIFF', ssnd([0, 1])), 'sound.no_format'],
  ['no SSND', aiff('AIFF', comm(1, 2, 16)), 'sound.no_audio'],
  [
    'a codec of its own',
    aiff('AIFC', comm(1, 2, 16, 48_000, 'ima4'), ssnd([0, 1])),
    'sound.unsupported_format',
  ],
  ['no channel', aiff('AIFF', comm(0, 2, 16), ssnd([0, 1])), 'sound.unsupported_channels'],
  ['too many channels', aiff('AIFF', comm(33, 2, 16), ssnd([0, 1])), 'sound.unsupported_channels'],
])('says why: %s', async (_name, bytes, code) => {
  expect(await header(bytes)).toMatchObject({ ok: false, error: { code } });
});

it('reads markers, name, author and the tempo of an ID3 chunk', async () => {
  const text = (s: string): number[] => [s.length, ...asciiBytes(s), ...(s.length % 2 ? [] : [0])];
  const mark = chunk('MARK', [
    ...u16(2),
    ...u16(7),
    ...u32(900),
    ...text('Refrain'),
    ...u16(2),
    ...u32(100),
    ...text('Verse'),
  ]);
  const id3 = [
    ...asciiBytes('ID3'),
    4,
    0,
    0,
    0,
    0,
    0,
    60,
    ...asciiBytes('TBPM'),
    0,
    0,
    0,
    6,
    0,
    0,
    3,
    ...asciiBytes('97.5 '),
    ...asciiBytes('TKEY'),
    0,
    0,
    0,
    3,
    0,
    0,
    0,
    ...asciiBytes('Gm'),
  ];
  const bytes = aiff(
    'AIFF',
    comm(1, 1, 16),
    mark,
    chunk('NAME', [...asciiBytes('Kick In')]),
    chunk('AUTH', [...asciiBytes('Harbour Lights')]),
    chunk('ID3 ', id3),
    ssnd([0, 1]),
  );
  expect(await readSoundMetadata(bytesSource(bytes))).toEqual({
    timeReferenceFrames: null,
    trackNames: [],
    tempoClaims: [{ bpm: 97.5, beats: null, source: 'id3' }],
    markers: [
      { frame: 100, label: 'Verse' },
      { frame: 900, label: 'Refrain' },
    ],
    texts: [
      { kind: 'title', text: 'Kick In', source: 'aiff-text' },
      { kind: 'artist', text: 'Harbour Lights', source: 'aiff-text' },
      { kind: 'key', text: 'Gm', source: 'id3' },
    ],
  });
});
