import { asciiBytes, bytesSource, createRandom } from '../units';
import { readSoundMetadata } from './index';

const u32 = (n: number): number[] => [n & 255, (n >>> 8) & 255, (n >>> 16) & 255, (n >>> 24) & 255];
const chunk = (id: string, body: readonly number[]): number[] => [
  ...asciiBytes(id),
  ...u32(body.length),
  ...body,
  ...(body.length % 2 ? [0] : []),
];
const wav = (...chunks: number[][]): Uint8Array =>
  Uint8Array.from([
    ...asciiBytes('RIFF'),
    ...u32(0),
    ...asciiBytes('WAVE'),
    ...chunk('fmt ', [1, 0, 1, 0, ...u32(48_000), ...u32(96_000), 2, 0, 16, 0]),
    ...chunks.flat(),
    ...chunk('data', [0, 0, 0, 0]),
  ]);
const read = (...chunks: number[][]) => readSoundMetadata(bytesSource(wav(...chunks)));
const padded = (text: string, size: number): number[] => [
  ...asciiBytes(text),
  ...new Array<number>(size - text.length).fill(0),
];
const f32 = (x: number): number[] => [...new Uint8Array(new Float32Array([x]).buffer)];

it('says nothing when a file says nothing', async () => {
  expect(await read()).toEqual({
    timeReferenceFrames: null,
    tempoClaims: [],
    markers: [],
    trackNames: [],
    texts: [],
  });
});
it('reads the 64 bit time reference and channel names of bext (EBU Tech 3285: offset 338)', async () => {
  const bext = [
    ...padded('sTRK1=Kick\r\nsTRK2=Snare', 256),
    ...new Array<number>(82).fill(0),
    ...u32(5),
    ...u32(3),
    ...new Array<number>(256).fill(0),
  ];
  expect(await read(chunk('bext', bext))).toMatchObject({
    timeReferenceFrames: 0x3_0000_0005,
    trackNames: ['Kick', 'Snare'],
  });
});
it('joins cue points with their labels, in order of time (Multimedia Programming Interface 1.0)', async () => {
  const cue = [
    ...u32(2),
    ...u32(2),
    ...u32(0),
    ...asciiBytes('data'),
    ...u32(0),
    ...u32(0),
    ...u32(9000),
    ...u32(1),
    ...u32(0),
    ...asciiBytes('data'),
    ...u32(0),
    ...u32(0),
    ...u32(500),
  ];
  const labl = (id: number, text: string): number[] => chunk('labl', [...u32(id), ...asciiBytes(text), 0]);
  const list = [...asciiBytes('adtl'), ...labl(1, 'Verse'), ...labl(2, 'Refrain')];
  expect((await read(chunk('cue ', cue), chunk('LIST', list))).markers).toEqual([
    { frame: 500, label: 'Verse' },
    { frame: 9000, label: 'Refrain' },
  ]);
});
it('reads track names of iXML by their place in the file (iXML open specification)', async () => {
  const xml =
    '<BWFXML><TRACK_LIST><TRACK><INTERLEAVE_INDEX>2</INTERLEAVE_INDEX><NAME>Room &amp; hall</NAME></TRACK><TRACK><INTERLEAVE_INDEX>1</INTERLEAVE_INDEX><NAME>Lead</NAME></TRACK></TRACK_LIST></BWFXML>';
  expect((await read(chunk('iXML', [...asciiBytes(xml)]))).trackNames).toEqual(['Lead', 'Room & hall']);
});
it('lists claimed tempi with their source, none of one-shots (formats: loop info float at 20; ID3v2 TBPM)', async () => {
  const loop = (flags: number): number[] => [
    ...u32(flags),
    60,
    0,
    0,
    0,
    ...f32(0),
    ...u32(8),
    4,
    0,
    4,
    0,
    ...f32(97.5),
  ];
  const id3 = [
    ...asciiBytes('ID3'),
    3,
    0,
    0,
    0,
    0,
    0,
    14,
    ...asciiBytes('TBPM'),
    0,
    0,
    0,
    4,
    0,
    0,
    0,
    ...asciiBytes('120'),
  ];
  expect((await read(chunk('acid', loop(0)), chunk('id3 ', id3))).tempoClaims).toEqual([
    { bpm: 97.5, beats: 8, source: 'loop-info' },
    { bpm: 120, beats: null, source: 'id3' },
  ]);
  expect((await read(chunk('acid', loop(1)))).tempoClaims).toEqual([]);
});
it('survives damage (seed 11)', async () => {
  const random = createRandom(11);
  const whole = wav(
    chunk('bext', new Array<number>(610).fill(65)),
    chunk('cue ', [...u32(9999), 1, 2, 3]),
    chunk('LIST', [...asciiBytes('adtl'), ...chunk('labl', [1, 0, 0, 0, 65])]),
    chunk('id3 ', [...asciiBytes('ID3'), 4, 0, 0, 0, 0, 0, 90, ...asciiBytes('TBPM'), 127, 127, 127, 127]),
  );
  for (let i = 0; i < 1500; i++) {
    const broken = whole.slice(0, 12 + Math.floor(random() * (whole.length - 12)));
    for (let k = 0; k < 6; k++)
      broken[12 + Math.floor(random() * (broken.length - 12))] = Math.floor(random() * 256);
    await expect(readSoundMetadata(bytesSource(broken))).resolves.toBeDefined();
  }
});
