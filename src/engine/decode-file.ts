import { execFile, spawn } from 'node:child_process';
import { stat } from 'node:fs/promises';
import {
  type FileKind,
  MAX_CHANNELS,
  metadataFromTags,
  readMp4Tempo,
  type SoundMetadata,
} from '@/core/audio';
import { Cancelled, type CancelSignal, err, ok, type ProgressSink, type Result } from '@/core/units';
import { fileSource } from './files';
import { matchesFlacMd5 } from './flac-md5';

/** A file that is decoded by ffmpeg. */
export interface DecodedFile {
  /** As ffmpeg names it. */
  readonly codec: string;
  /** Its samples are not those that were recorded, and its length is approximate. */
  readonly lossy: boolean;
  readonly metadata: SoundMetadata;
  /** What the decoder complained of, first line; null = nothing. */
  readonly complaint: string | null;
}

/** Why a file could not be decoded. */
export type DecodeFault =
  | { readonly code: 'decoder.missing'; readonly kind: FileKind }
  | { readonly code: 'decoder.failed'; readonly kind: FileKind; readonly reason: string }
  | { readonly code: 'decoder.too_long'; readonly kind: FileKind }
  | { readonly code: 'sound.unsupported_channels'; readonly channels: number; readonly supported: number };

/** The demultiplexer of each kind is named: what is inside a file can never make ffmpeg open another one as a playlist would. */
const DEMUXERS: Partial<Record<FileKind, string>> = {
  flac: 'flac',
  caf: 'caf',
  w64: 'w64',
  mp4: 'mov',
  mp3: 'mp3',
  aac: 'aac',
  ogg: 'ogg',
  wav: 'wav',
  aiff: 'aiff',
};

/** Kinds that are decoded by ffmpeg; WAV and AIFF only with a codec of their own. */
export const isDecodable = (kind: FileKind): boolean => DEMUXERS[kind] !== undefined;

/** A stream of AAC without a container begins with a frame of priming, and nothing in it says so (ISO/IEC 14496-3: 1,024 samples a frame). */
const AAC_PRIMING = 1024;
const PROBE_MS = 20_000;
const STILL_MS = 60_000;
const LONGEST_MS = 30 * 60_000;
const POLL_MS = 250;
const MOST_BYTES = 64 * 2 ** 30;
const LOSSLESS = /^(flac|alac|pcm_(?!alaw|mulaw)|wavpack|tta)/;

interface Stream {
  readonly codec_name?: string;
  readonly channels?: number;
  readonly sample_fmt?: string;
  readonly bits_per_raw_sample?: string;
  readonly duration?: string;
  readonly tags?: Readonly<Record<string, string>>;
}

/**
 * Decodes the first sound stream of a file into a WAV file at `outPath` (which must not exist): integers stay integers of 16, 24 or 32 bit, all else becomes 32 bit float.
 * No shell, no network, bounded in time and output. The same file gives the same bytes with the same ffmpeg. Throws Cancelled.
 */
export async function decodeFile(
  path: string,
  kind: FileKind,
  outPath: string,
  options: {
    readonly cancel?: CancelSignal;
    readonly progress?: ProgressSink;
    readonly ffmpeg?: string;
    readonly mostBytes?: number;
    readonly stillMs?: number;
  } = {},
): Promise<Result<DecodedFile, DecodeFault>> {
  const demuxer = DEMUXERS[kind] ?? kind;
  const input = [
    ...(kind === 'flac' ? ['-err_detect', 'crccheck'] : []),
    '-f',
    demuxer,
    '-protocol_whitelist',
    'file',
    '-i',
    `file:${path}`,
  ];
  const probed = await probe(input, kind, options.ffmpeg);
  if (!probed.ok) return probed;
  const { stream, tags } = probed.value;
  const codec = stream.codec_name ?? 'unknown';
  const lossy = !LOSSLESS.test(codec);
  if ((stream.channels ?? 0) > MAX_CHANNELS)
    return err({
      code: 'sound.unsupported_channels',
      channels: stream.channels as number,
      supported: MAX_CHANNELS,
    });
  const written = await run(
    [
      '-nostdin',
      '-hide_banner',
      '-v',
      'error',
      ...input,
      '-map',
      '0:a:0',
      '-vn',
      ...(kind === 'aac' ? ['-af', `atrim=start_sample=${AAC_PRIMING}`] : []),
      '-map_metadata',
      '-1',
      '-fflags',
      '+bitexact',
      '-flags:a',
      '+bitexact',
      '-c:a',
      outputCodec(stream, lossy),
      '-rf64',
      'auto',
      '-f',
      'wav',
      `file:${outPath}`,
    ],
    outPath,
    kind,
    Number(stream.duration) || null,
    options,
  );
  if (!written.ok) return written;
  const isOther = kind === 'flac' && (await matchesFlacMd5(path, outPath)) === false;
  const complaint = written.value ?? (isOther ? 'its samples are not those its MD5 was made of' : null);
  return ok({ codec, lossy, complaint, metadata: await metadataOf(path, kind, tags) });
}

async function metadataOf(
  path: string,
  kind: FileKind,
  tags: Readonly<Record<string, string>>,
): Promise<SoundMetadata> {
  const said = metadataFromTags(tags);
  if (kind !== 'mp4') return said;
  const file = await fileSource(path);
  try {
    const own = await readMp4Tempo(file.bytes);
    // General readers leave this field out, or give it a second time.
    return {
      ...said,
      tempoClaims: [...own, ...said.tempoClaims.filter((c) => !own.some((o) => o.bpm === c.bpm))],
    };
  } finally {
    await file.close();
  }
}

function outputCodec(stream: Stream, lossy: boolean): string {
  if (lossy || /flt|dbl/.test(stream.sample_fmt ?? ''))
    return stream.sample_fmt?.startsWith('dbl') && !lossy ? 'pcm_f64le' : 'pcm_f32le';
  const bits = Number(stream.bits_per_raw_sample) || (/^(s16|u8)/.test(stream.sample_fmt ?? '') ? 16 : 32);
  return bits <= 16 ? 'pcm_s16le' : bits <= 24 ? 'pcm_s24le' : 'pcm_s32le';
}

const lastLine = (text: string): string =>
  (text.trim().split('\n').at(-1) ?? '')
    .replace(/^\[[^\]]*\]\s*/, '')
    .replace(/file:\S+/g, 'the file')
    .slice(0, 200) || 'no reason was given';

function probe(
  input: readonly string[],
  kind: FileKind,
  ffmpeg = 'ffmpeg',
): Promise<
  Result<{ readonly stream: Stream; readonly tags: Readonly<Record<string, string>> }, DecodeFault>
> {
  const args = [
    '-v',
    'error',
    ...input,
    '-select_streams',
    'a:0',
    '-show_entries',
    'stream=codec_name,channels,sample_fmt,bits_per_raw_sample,duration:stream_tags:format_tags',
    '-of',
    'json',
  ];
  return new Promise((resolve) => {
    execFile(
      /* turbopackIgnore: true */ ffmpeg.replace(/mpeg$/, 'probe'),
      args,
      { timeout: PROBE_MS, maxBuffer: 4 << 20, encoding: 'utf8' },
      (error, stdout, stderr) => {
        if ((error as NodeJS.ErrnoException | null)?.code === 'ENOENT')
          return resolve(err({ code: 'decoder.missing', kind }));
        if (error?.killed) return resolve(err({ code: 'decoder.too_long', kind }));
        const said = parse(stdout);
        const stream = said?.streams?.[0];
        if (!stream)
          return resolve(
            err({ code: 'decoder.failed', kind, reason: error ? lastLine(stderr) : 'it holds no sound' }),
          );
        resolve(ok({ stream, tags: { ...said.format?.tags, ...stream.tags } }));
      },
    );
  });
}

function parse(json: string): {
  readonly streams?: readonly Stream[];
  readonly format?: { readonly tags?: Readonly<Record<string, string>> };
} | null {
  try {
    return JSON.parse(json) as ReturnType<typeof parse>;
  } catch {
    return null;
  }
}

/** Runs ffmpeg to its end and watches over it; gives its first complaint. */
function run(
  args: readonly string[],
  outPath: string,
  kind: FileKind,
  seconds: number | null,
  options: Parameters<typeof decodeFile>[3] & object,
): Promise<Result<string | null, DecodeFault>> {
  const { cancel, progress, ffmpeg = 'ffmpeg', mostBytes = MOST_BYTES, stillMs = STILL_MS } = options;
  return new Promise((resolve, reject) => {
    const child = spawn(
      /* turbopackIgnore: true */ ffmpeg,
      [...args.slice(0, -1), '-progress', 'pipe:1', args.at(-1) as string],
      { stdio: ['ignore', 'pipe', 'pipe'] },
    );
    const begun = Date.now();
    let grown = { bytes: 0, at: begun };
    let complaints = '';
    let stopped: 'cancelled' | 'too_long' | null = null;
    const stop = (why: NonNullable<typeof stopped>): void => {
      stopped = why;
      child.kill('SIGKILL');
      // Whatever else may hold its pipes is not waited for.
      child.stdout.destroy();
      child.stderr.destroy();
    };
    const watch = setInterval(() => {
      if (cancel?.cancelled) return stop('cancelled');
      void stat(outPath).then(
        ({ size }) => {
          if (size > grown.bytes) grown = { bytes: size, at: Date.now() };
          if (size > mostBytes || Date.now() - grown.at > stillMs || Date.now() - begun > LONGEST_MS)
            stop('too_long');
        },
        () => undefined,
      );
    }, POLL_MS);
    child.stderr.on('data', (chunk: Buffer) => {
      if (complaints.length < 4000) complaints += chunk.toString('utf8');
    });
    child.stdout.on('data', (chunk: Buffer) => {
      const at = /out_time_us=(\d+)/.exec(chunk.toString('utf8'))?.[1];
      if (at && seconds) progress?.(Math.min(1, Number(at) / 1e6 / seconds));
    });
    child.once('error', (error: NodeJS.ErrnoException) => {
      clearInterval(watch);
      if (error.code === 'ENOENT') resolve(err({ code: 'decoder.missing', kind }));
      else reject(error);
    });
    child.once('close', (code) => {
      clearInterval(watch);
      const full = /no space left/i.test(complaints);
      if (stopped === 'cancelled') reject(new Cancelled());
      else if (stopped === 'too_long') resolve(err({ code: 'decoder.too_long', kind }));
      else if (full) reject(Object.assign(new Error('no space left'), { code: 'ENOSPC' }));
      else if (code !== 0) resolve(err({ code: 'decoder.failed', kind, reason: lastLine(complaints) }));
      else resolve(ok(complaints.trim() === '' ? null : lastLine(complaints.split('\n')[0] ?? '')));
    });
  });
}
