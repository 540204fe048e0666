import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bytesSource } from '@/core/units';
import { readSoundHeader, readSoundMetadata } from '@/core/audio';
import { openSound } from '@/engine';
import { run } from '../support/programs';
import { tone, writeWav } from '../support/recordings';

// Our readers beside four independent ones: ffprobe (ffmpeg), mediainfo, exiftool, metaflac (flac).
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-readers-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string): string => join(folder, name);

interface Shape {
  readonly sampleRateHz: number;
  readonly channels: number;
  readonly bitDepth: number;
  readonly lengthFrames: number;
}
type Reader = (path: string) => Partial<Shape>;

const ffprobe: Reader = (path) => {
  const [s] = (
    JSON.parse(run('ffprobe', ['-v', 'error', '-of', 'json', '-show_streams', path])) as {
      streams: {
        sample_rate: string;
        channels: number;
        bits_per_sample: number;
        bits_per_raw_sample?: string;
        duration_ts?: number;
      }[];
    }
  ).streams;
  const bits = Number(s?.bits_per_raw_sample ?? 0) || (s?.bits_per_sample ?? 0);
  return {
    sampleRateHz: Number(s?.sample_rate),
    channels: s?.channels,
    bitDepth: bits,
    ...(s?.duration_ts === undefined ? {} : { lengthFrames: s.duration_ts }),
  };
};
const mediainfo: Reader = (path) => {
  const { media } = JSON.parse(run('mediainfo', ['--Output=JSON', path])) as {
    media: { track: Record<string, string>[] };
  };
  const audio = media.track.find((t) => t['@type'] === 'Audio') ?? {};
  return {
    sampleRateHz: Number(audio.SamplingRate),
    channels: Number(audio.Channels),
    ...(audio.BitDepth ? { bitDepth: Number(audio.BitDepth) } : {}),
    ...(audio.SamplingCount ? { lengthFrames: Number(audio.SamplingCount) } : {}),
  };
};
const exiftool: Reader = (path) => {
  const [t = {}] = JSON.parse(run('exiftool', ['-j', '-n', path])) as Record<string, number>[];
  return {
    sampleRateHz: t.SampleRate,
    channels: t.NumChannels ?? t.Channels,
    bitDepth: t.BitsPerSample ?? t.SampleSize,
    ...(t.NumSampleFrames === undefined ? {} : { lengthFrames: t.NumSampleFrames }),
  };
};
const metaflac: Reader = (path) => {
  const [rate, channels, bits, total] = run('metaflac', [
    '--show-sample-rate',
    '--show-channels',
    '--show-bps',
    '--show-total-samples',
    path,
  ])
    .trim()
    .split('\n')
    .map(Number);
  return { sampleRateHz: rate, channels, bitDepth: bits, lengthFrames: total };
};

interface Case {
  readonly name: string;
  readonly args: readonly string[];
  /** Who can read it. */
  readonly readers: readonly (readonly [name: string, read: Reader])[];
}
const ff = ['ffprobe', ffprobe] as const;
const mi = ['mediainfo', mediainfo] as const;
const et = ['exiftool', exiftool] as const;
const CASES: readonly Case[] = [
  { name: 'u8.wav', args: ['-c:a', 'pcm_u8'], readers: [ff, mi, et] },
  { name: 's16.wav', args: ['-c:a', 'pcm_s16le'], readers: [ff, mi, et] },
  { name: 's24.wav', args: ['-c:a', 'pcm_s24le'], readers: [ff, mi, et] },
  { name: 's32.wav', args: ['-c:a', 'pcm_s32le'], readers: [ff, mi, et] },
  { name: 'f32.wav', args: ['-c:a', 'pcm_f32le'], readers: [ff, mi, et] },
  { name: 'f64.wav', args: ['-c:a', 'pcm_f64le'], readers: [ff, mi, et] },
  { name: 'rf64.wav', args: ['-c:a', 'pcm_s24le', '-rf64', 'always'], readers: [ff, mi] },
  { name: 'be16.aiff', args: ['-c:a', 'pcm_s16be'], readers: [ff, mi, et] },
  { name: 'be24.aiff', args: ['-c:a', 'pcm_s24be', '-f', 'aiff'], readers: [ff, mi, et] },
  { name: 'sowt.aifc', args: ['-c:a', 'pcm_s16le', '-f', 'aiff'], readers: [ff, mi, et] },
  { name: 'fl32.aifc', args: ['-c:a', 'pcm_f32be', '-f', 'aiff'], readers: [ff, mi, et] },
  {
    name: 'f16.flac',
    args: ['-c:a', 'flac', '-sample_fmt', 's16'],
    readers: [ff, mi, et, ['metaflac', metaflac]],
  },
  {
    name: 'f24.flac',
    args: ['-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24'],
    readers: [ff, mi, et, ['metaflac', metaflac]],
  },
];

beforeAll(async () => {
  await writeWav(at('source.wav'), [tone(440, 1.2345, 0.4, 44_100), tone(660, 1.2345, 0.2, 44_100)], {
    bitDepth: 24,
    rateHz: 44_100,
  });
});

/** What we make of a file, decoded where it has to be. */
async function ours(path: string): Promise<Shape> {
  let n = 0;
  const opened = await openSound(path, {
    temporaryPath: () => Promise.resolve(at(`made ${n++} of ${path.split('/').at(-1)}`)),
    threadPath: process.env.FERNMOSS_THREAD ?? '',
    split: false,
  });
  if (!opened.ok) throw new Error(opened.error.code);
  const header = await readSoundHeader(
    bytesSource(new Uint8Array(readFileSync(opened.value.pieces[0]?.path ?? ''))),
  );
  if (!header.ok) throw new Error(header.error.code);
  const { sampleRateHz, channels, bitDepth, lengthFrames } = header.value;
  return { sampleRateHz, channels, bitDepth, lengthFrames };
}

it.each(CASES)(
  '$name: rate, channels, depth and length as independent readers have them',
  async ({ name, args, readers }) => {
    run('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', at('source.wav'), ...args, at(name)]);
    const own = await ours(at(name));
    expect(own.lengthFrames).toBe(Math.round(1.2345 * 44_100));
    for (const [reader, read] of readers) {
      const found = Object.entries(read(at(name)));
      expect(found.length).toBeGreaterThanOrEqual(3);
      expect([reader, Object.fromEntries(found)]).toEqual([
        reader,
        Object.fromEntries(found.map(([k]) => [k, own[k as keyof Shape]])),
      ]);
    }
  },
);

const ascii = (text: string): number[] => [...Buffer.from(text, 'latin1')];
const u32 = (n: number): number[] => [n & 255, (n >>> 8) & 255, (n >>> 16) & 255, (n >>> 24) & 255];
const chunk = (id: string, body: readonly number[]): number[] => [
  ...ascii(id),
  ...u32(body.length),
  ...body,
  ...(body.length % 2 ? [0] : []),
];
const padded = (text: string, size: number): number[] => [
  ...ascii(text),
  ...new Array<number>(size - text.length).fill(0),
];

it('bext, INFO and cue points of a WAV built byte by byte: as exiftool, mediainfo and ffprobe read them', async () => {
  const bext = [
    ...padded('Slack Tide, take 3', 256),
    ...padded('Tidewrack', 32),
    ...padded('REF-7', 32),
    ...padded('2026-11-25', 10),
    ...padded('10:20:30', 8),
    ...u32(172_800_000),
    ...u32(0),
    1,
    0,
    ...new Array<number>(254).fill(0),
  ];
  const info = [
    ...ascii('INFO'),
    ...chunk('INAM', [...ascii('Slack Tide'), 0]),
    ...chunk('IART', [...ascii('The Tidewrack Nine'), 0]),
  ];
  const cue = [...u32(1), ...u32(1), ...u32(0), ...ascii('data'), ...u32(0), ...u32(0), ...u32(480)];
  const body = [
    ...chunk('bext', bext),
    ...chunk('fmt ', [1, 0, 1, 0, ...u32(48_000), ...u32(96_000), 2, 0, 16, 0]),
    ...chunk('LIST', info),
    ...chunk('cue ', cue),
    ...chunk('data', new Array<number>(9600).fill(1)),
  ];
  const bytes = Uint8Array.from([...ascii('RIFF'), ...u32(body.length + 4), ...ascii('WAVE'), ...body]);
  writeFileSync(at('said.wav'), bytes);
  const own = await readSoundMetadata(bytesSource(bytes));
  const text = (kind: string): string | undefined => own.texts.find((t) => t.kind === kind)?.text;
  const [exif = {}] = JSON.parse(run('exiftool', ['-j', at('said.wav')])) as Record<
    string,
    string | number
  >[];
  expect([own.timeReferenceFrames, text('originator'), text('title'), text('artist')]).toEqual([
    exif.TimeReference,
    exif.Originator,
    exif.Title,
    exif.Artist,
  ]);
  expect(text('made')).toBe(String(exif.DateTimeOriginal).replace(/^(\d{4}):(\d\d):(\d\d)/, '$1-$2-$3'));
  const general =
    (
      JSON.parse(run('mediainfo', ['--Output=JSON', at('said.wav')])) as {
        media: { track: Record<string, string>[] };
      }
    ).media.track[0] ?? {};
  // It shows the artist of INFO under a name of its own.
  expect(general.Title).toBe(text('title'));
  const { format } = JSON.parse(
    run('ffprobe', ['-v', 'error', '-of', 'json', '-show_format', at('said.wav')]),
  ) as { format: { tags: Record<string, string> } };
  expect([format.tags.time_reference, format.tags.title, format.tags.artist]).toEqual([
    String(own.timeReferenceFrames),
    text('title'),
    text('artist'),
  ]);
  expect(own.markers).toEqual([{ frame: 480, label: '' }]);
});

it('tags of a FLAC: as metaflac and exiftool read them', async () => {
  run('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', at('source.wav'), '-c:a', 'flac', at('tagged.flac')]);
  run('metaflac', [
    '--set-tag=TITLE=Ebb Song',
    '--set-tag=ARTIST=The Tidewrack Nine',
    '--set-tag=BPM=96.5',
    at('tagged.flac'),
  ]);
  const opened = await openSound(at('tagged.flac'), {
    temporaryPath: () => Promise.resolve(at('tagged.wav')),
    threadPath: process.env.FERNMOSS_THREAD ?? '',
    split: false,
  });
  if (!opened.ok) throw new Error(opened.error.code);
  const { texts, tempoClaims } = opened.value.metadata;
  const shown = (name: string): string =>
    run('metaflac', [`--show-tag=${name}`, at('tagged.flac')])
      .trim()
      .split('=')[1] ?? '';
  expect([
    texts.find((t) => t.kind === 'title')?.text,
    texts.find((t) => t.kind === 'artist')?.text,
    String(tempoClaims[0]?.bpm),
  ]).toEqual([shown('TITLE'), shown('ARTIST'), shown('BPM')]);
  const [exif = {}] = JSON.parse(run('exiftool', ['-j', at('tagged.flac')])) as Record<string, string>[];
  expect([exif.Title, exif.Artist]).toEqual([shown('TITLE'), shown('ARTIST')]);
});
