import { asciiBytes, bytesSource } from '../units';
import { channelName, fileKind, littleEncoding, metadataFromTags, readMp4Tempo, channelOf } from './index';

const bytes = (text: string, ...rest: number[]): Uint8Array =>
  Uint8Array.from([...asciiBytes(text), ...rest]);

it.each([
  ['wav', bytes('RIFF\x01\x01\x01\x01WAVE')],
  ['wav', bytes('BW64\x01\x01\x01\x01WAVE')],
  ['aiff', bytes('FORM\x01\x01\x01\x01AIFC')],
  ['flac', bytes('fLaC')],
  ['caf', bytes('caff')],
  ['ogg', bytes('OggS')],
  ['mp4', bytes('\x01\x01\x01 ftypM4A ')],
  ['midi', bytes('MThd')],
  ['zip', bytes('PK', 3, 4)],
  ['mp3', bytes('ID3', 4)],
  ['mp3', Uint8Array.from([0xff, 0xfb, 0x90, 0])],
  ['aac', Uint8Array.from([0xff, 0xf1, 0x50, 0x80])],
  ['w64', Uint8Array.from([0x72, 0x69, 0x66, 0x66, 0x2e, 0x91, 0xcf, 0x11, 0xa5])],
  ['unknown', bytes('RIFF\x01\x01\x01\x01AVI ')],
  ['unknown', bytes('Dear mixer, here are the files')],
  ['unknown', Uint8Array.from([0xff, 0xff, 0xff, 0xff])],
  ['unknown', new Uint8Array(0)],
] as const)('tells %s by its first bytes', (kind, head) => {
  expect(fileKind(head)).toBe(kind);
});

it('takes one channel out of interleaved bytes, bit for bit and little-endian', () => {
  expect([...channelOf(Uint8Array.from([1, 2, 3, 4, 5, 6, 7, 8]), 's16be', 2, 1)]).toEqual([4, 3, 8, 7]);
  expect([...channelOf(Uint8Array.from([1, 2, 3, 4, 5, 6]), 's24', 1, 0)]).toEqual([1, 2, 3, 4, 5, 6]);
  expect([...channelOf(Uint8Array.from([0x80, 0, 0x7f, 0]), 's8', 2, 0)]).toEqual([0, 0xff]);
  expect(['s8', 's24be', 'f64be', 'u8'].map((e) => littleEncoding(e as 's8'))).toEqual([
    'u8',
    's24',
    'f64',
    'u8',
  ]);
});

it('names channels as the recorder did, else by speaker, else by number', () => {
  expect(channelName(1, ['Kick', 'Snare', 'Room'], 0, 3)).toBe('Snare');
  expect(channelName(3, ['Kick'], 0x3f, 6)).toBe('LFE');
  expect(channelName(4, [], 0x60f, 6)).toBe('side left');
  expect(channelName(2, [], 0, 4)).toBe('channel 3');
});

it('takes tempo, title and key out of tags whatever their case (RFC 9639 §8.6)', () => {
  expect(
    metadataFromTags({ bpm: '97.5', Title: ' Low Water ', initialkey: 'Gm', ENCODER: 'x' }),
  ).toMatchObject({
    tempoClaims: [{ bpm: 97.5, source: 'tag' }],
    texts: [
      { kind: 'title', text: 'Low Water' },
      { kind: 'key', text: 'Gm' },
    ],
  });
});

it('reads the tempo of MP4 where it stands (bytes of the formats fact sheet §1.7: 98)', async () => {
  const u32 = (n: number): number[] => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
  const box = (name: string, body: readonly number[]): number[] => [
    ...u32(body.length + 8),
    ...asciiBytes(name),
    ...body,
  ];
  const file = (bpm: number): Uint8Array =>
    Uint8Array.from([
      ...box('ftyp', [...asciiBytes('M4A ')]),
      ...box('mdat', [1, 2, 3]),
      ...box(
        'moov',
        box(
          'udta',
          box('meta', [
            0,
            0,
            0,
            0,
            ...box('hdlr', [0]),
            ...box('ilst', box('tmpo', box('data', [0, 0, 0, 0x15, 0, 0, 0, 0, bpm >> 8, bpm & 255]))),
          ]),
        ),
      ),
    ]);
  expect(await readMp4Tempo(bytesSource(file(98)))).toEqual([{ bpm: 98, beats: null, source: 'mp4' }]);
  expect(await readMp4Tempo(bytesSource(file(0)))).toEqual([]);
  expect(await readMp4Tempo(bytesSource(Uint8Array.from([0, 0, 0, 1, 1, 1])))).toEqual([]);
});
