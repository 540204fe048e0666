import { asciiBytes, bytesSource, createRandom, type ByteSource, type Random } from '../units';
import { fileKind, readMp4Tempo, readSoundBlocks, readSoundHeader, readSoundMetadata } from './index';

// 20,000 damaged files of each container that own readers open: whatever comes, a result or a typed fault, nothing read beyond the file, few reads.
const ROUNDS = 20_000;
const le16 = (n: number): number[] => [n & 255, (n >> 8) & 255];
const le32 = (n: number): number[] => [n & 255, (n >>> 8) & 255, (n >>> 16) & 255, (n >>> 24) & 255];
const be32 = (n: number): number[] => [...le32(n)].reverse();
const be16 = (n: number): number[] => [...le16(n)].reverse();
const le = (id: string, body: readonly number[]): number[] => [
  ...asciiBytes(id),
  ...le32(body.length),
  ...body,
  ...(body.length % 2 ? [0] : []),
];
const be = (id: string, body: readonly number[]): number[] => [
  ...asciiBytes(id),
  ...be32(body.length),
  ...body,
  ...(body.length % 2 ? [0] : []),
];
const box = (id: string, body: readonly number[]): number[] => [
  ...be32(body.length + 8),
  ...asciiBytes(id),
  ...body,
];
const bytes = Array.from({ length: 96 }, (_, i) => (i * 37) & 255);
const fmt = (tag: number, more: readonly number[] = []): number[] =>
  le('fmt ', [...le16(tag), 2, 0, ...le32(48_000), ...le32(288_000), 6, 0, 24, 0, ...more]);
const riff = (id: string, ...chunks: number[][]): Uint8Array =>
  Uint8Array.from([...asciiBytes(id), ...le32(0), ...asciiBytes('WAVE'), ...chunks.flat()]);
const id3 = [
  ...asciiBytes('ID3'),
  4,
  0,
  0,
  0,
  0,
  0,
  40,
  ...asciiBytes('TBPM'),
  0,
  0,
  0,
  5,
  0,
  0,
  1,
  0xff,
  0xfe,
  57,
  0,
  ...asciiBytes('SYTC'),
  0,
  0,
  0,
  3,
  0,
  0,
  2,
  120,
  0,
];
const rich = [
  le('bext', new Array<number>(620).fill(65)),
  le('cue ', [...le32(1), ...le32(1), ...le32(0), ...asciiBytes('data'), ...le32(0), ...le32(0), ...le32(9)]),
  le('LIST', [...asciiBytes('adtl'), ...le('labl', [1, 0, 0, 0, 65, 0])]),
  le('LIST', [...asciiBytes('INFO'), ...le('INAM', [65, 0])]),
  le('iXML', [...asciiBytes('<BWFXML><TRACK><NAME>A</NAME></TRACK></BWFXML>')]),
  le('acid', new Array<number>(24).fill(1)),
  le('id3 ', id3),
];
const comm = (codec: string): number[] =>
  be('COMM', [
    ...be16(2),
    ...be32(16),
    ...be16(24),
    0x40,
    0x0e,
    0xbb,
    0x80,
    0,
    0,
    0,
    0,
    0,
    0,
    ...asciiBytes(codec),
  ]);
const form = (kind: string, ...chunks: number[][]): Uint8Array =>
  Uint8Array.from([...asciiBytes('FORM'), ...be32(0), ...asciiBytes(kind), ...chunks.flat()]);
const SEEDS: Readonly<Record<string, readonly Uint8Array[]>> = {
  wav: [
    riff('RIFF', fmt(1), ...rich, le('data', bytes)),
    riff(
      'RF64',
      le('ds64', [...le32(0), ...le32(0), ...le32(96), ...new Array<number>(16).fill(0)]),
      fmt(1),
      [...asciiBytes('data'), ...le32(0xffffffff), ...bytes],
    ),
    riff(
      'RIFF',
      fmt(0xfffe, [22, 0, 24, 0, 3, 0, 0, 0, 1, 0, ...new Array<number>(14).fill(0)]),
      le('data', bytes),
    ),
    riff('BW64', le('junk', [1]), fmt(3), le('data', bytes), le('data', bytes)),
  ],
  aiff: [
    form(
      'AIFF',
      comm(''),
      be('MARK', [...be16(1), ...be16(1), ...be32(5), 1, 65]),
      be('NAME', [65]),
      be('ID3 ', id3),
      be('SSND', [...be32(0), ...be32(0), ...bytes]),
    ),
    form('AIFC', comm('sowt\x01A'), be('SSND', [...be32(4), ...be32(0), ...bytes])),
  ],
  mp4: [
    Uint8Array.from([
      ...box('ftyp', [...asciiBytes('M4A ')]),
      ...box(
        'moov',
        box(
          'udta',
          box('meta', [
            0,
            0,
            0,
            0,
            ...box('ilst', box('tmpo', box('data', [0, 0, 0, 0x15, 0, 0, 0, 0, 0, 98]))),
          ]),
        ),
      ),
    ]),
  ],
};

/** Cuts, overwrites, moves or doubles a few bytes. */
function damaged(whole: Uint8Array, random: Random): Uint8Array {
  const n = (most: number): number => Math.floor(random() * most);
  const out = random() < 0.4 ? whole.slice(0, n(whole.length)) : whole.slice();
  if (out.length < 2) return out;
  const special = [0, 1, 0x7f, 0x80, 0xff];
  for (let k = n(8); k >= 0; k--)
    out[n(out.length)] = random() < 0.5 ? n(256) : (special[n(special.length)] as number);
  if (random() < 0.2) out.copyWithin(n(out.length), n(out.length), n(out.length));
  if (random() < 0.2) out.fill(0xff, n(out.length), n(out.length));
  return out;
}

/** Counts what is asked for: a reader that trusts a size reads too much, one that goes in circles too often. */
function watched(file: Uint8Array): ByteSource & { reads: number; bytes: number } {
  const inner = bytesSource(file);
  return {
    sizeBytes: inner.sizeBytes,
    reads: 0,
    bytes: 0,
    async read(offset, length) {
      const got = await inner.read(offset, length);
      this.reads++;
      this.bytes += got.length;
      return got;
    },
  };
}

it.each(Object.keys(SEEDS))(
  '%s: 20,000 damaged files are read or refused, each within bounds (seed 77)',
  async (kind) => {
    const random = createRandom(77);
    let usable = 0;
    for (let i = 0; i < ROUNDS; i++) {
      const seeds = SEEDS[kind] as readonly Uint8Array[];
      const file = damaged(seeds[i % seeds.length] as Uint8Array, random);
      const source = watched(file);
      fileKind(file.subarray(0, 64));
      if (kind === 'mp4') {
        for (const claim of await readMp4Tempo(source)) expect(claim.bpm).toBeGreaterThan(0);
      } else {
        const header = await readSoundHeader(source);
        await readSoundMetadata(source);
        if (header.ok) {
          usable++;
          const { dataOffset, lengthFrames, bytesPerFrame, channels, sampleRateHz } = header.value;
          if (!(
            dataOffset + lengthFrames * bytesPerFrame <= file.length &&
            channels >= 1 &&
            channels <= 32 &&
            sampleRateHz >= 8000
          ))
            throw new Error(`round ${i}: ${JSON.stringify(header.value)}`);
          for await (const block of readSoundBlocks(source, header.value))
            if (block.channels.some((c) => c.some((x) => !Number.isFinite(x))))
              throw new Error(`round ${i}: not a number`);
        } else expect(header.error.code).toMatch(/^(file|sound)\./);
      }
      if (source.reads > 400 || source.bytes > 40 * file.length + 4000)
        throw new Error(`round ${i}: ${source.reads} reads of ${source.bytes} bytes`);
    }
    // Enough of them still open that what follows the header is tried as well.
    if (kind !== 'mp4') expect(usable).toBeGreaterThan(ROUNDS / 20);
  },
  120_000,
);
