import { open, rm } from 'node:fs/promises';
import {
  type FileKind,
  fileKind,
  KIND_BYTES,
  readSoundHeader,
  readSoundMetadata,
  type SoundFault,
  type SoundMetadata,
} from '@/core/audio';
import { tokenise } from '@/core/naming';
import { type CancelSignal, err, ok, type ProgressSink, type Result } from '@/core/units';
import { runTask } from './compute-pool';
import { type DecodedFile, type DecodeFault, decodeFile, isDecodable } from './decode-file';
import { fileSource } from './files';

/** A mono or stereo sound out of a file, as WAV or AIFF. */
export interface SoundPiece {
  readonly path: string;
  /** Its place among the channels of the file, from 0, and what it is called; null = the file as a whole. */
  readonly channel: { readonly index: number; readonly name: string; readonly named: boolean } | null;
}

/** A received file made ready: what it was, and the sounds in it. */
export interface OpenedSound {
  readonly container: FileKind;
  /** As the decoder names it; null for WAV and AIFF as they are. */
  readonly codec: string | null;
  readonly lossy: boolean;
  readonly metadata: SoundMetadata;
  /** What the decoder complained of. */
  readonly complaint: string | null;
  readonly pieces: readonly SoundPiece[];
  /** Files made on the way; the caller removes them. */
  readonly made: readonly string[];
}

/** Why a file gives no sound. */
export type OpenFault = SoundFault | DecodeFault;

/** What {@link openSound} needs from outside. */
export interface OpenOptions {
  /** A fresh path that does not exist, for a file to be made. */
  readonly temporaryPath: () => Promise<string>;
  readonly threadPath: string;
  /** Whether files of more than two channels, or of two that the recorder calls differently, become one piece a channel; else they stay whole. */
  readonly split: boolean;
  readonly cancel?: CancelSignal;
  readonly progress?: ProgressSink;
}

const SHARE_DECODING = 0.7;

/** What a file is by its first bytes; behind an ID3 tag by what follows it. */
export async function kindOfFile(path: string): Promise<FileKind> {
  const handle = await open(path, 'r');
  try {
    const head = new Uint8Array(KIND_BYTES);
    await handle.read(head, 0, KIND_BYTES, 0);
    const kind = fileKind(head);
    if (kind !== 'mp3' || head[0] !== 0x49) return kind;
    const size =
      ((head[6] as number) << 21) |
      ((head[7] as number) << 14) |
      ((head[8] as number) << 7) |
      (head[9] as number);
    await handle.read(head.fill(0), 0, KIND_BYTES, 10 + size);
    const behind = fileKind(head);
    return behind === 'aac' || behind === 'flac' ? behind : 'mp3';
  } finally {
    await handle.close();
  }
}

/** Makes a received file ready: WAV and AIFF as they are, the rest decoded beside them, many channels taken apart. Throws Cancelled; nothing made stays behind on a fault. */
export async function openSound(path: string, options: OpenOptions): Promise<Result<OpenedSound, OpenFault>> {
  const made: string[] = [];
  const fresh = async (): Promise<string> => {
    const p = await options.temporaryPath();
    made.push(p);
    return p;
  };
  try {
    const opened = await openInto(path, options, fresh, made);
    if (!opened.ok) await removeAll(made);
    return opened;
  } catch (cause) {
    await removeAll(made);
    throw cause;
  }
}

const removeAll = (paths: readonly string[]): Promise<unknown> =>
  Promise.all(paths.map((p) => rm(p, { force: true })));

async function openInto(
  path: string,
  options: OpenOptions,
  fresh: () => Promise<string>,
  made: readonly string[],
): Promise<Result<OpenedSound, OpenFault>> {
  const kind = await kindOfFile(path);
  const own = await look(path);
  let decoded: DecodedFile | null = null;
  let at = path;
  if (!own.ok) {
    const foreign = own.error.code === 'sound.unsupported_format' || own.error.code === 'sound.unknown';
    if (!foreign || !isDecodable(kind)) return err(own.error);
    at = await fresh();
    const result = await decodeFile(path, kind, at, {
      cancel: options.cancel,
      progress: (share) => options.progress?.(SHARE_DECODING * share),
    });
    if (!result.ok) return result;
    decoded = result.value;
  }
  const found = decoded ? await look(at) : own;
  if (!found.ok)
    return err(decoded ? { code: 'decoder.failed', kind, reason: 'it holds no sound' } : found.error);
  const { channels, metadata } = found.value;
  const about = {
    container: kind,
    codec: decoded?.codec ?? null,
    lossy: decoded?.lossy ?? false,
    complaint: decoded?.complaint ?? null,
    metadata: decoded?.metadata ?? metadata,
    made,
  };
  const isOneSound = channels < 2 || (channels === 2 && !areTwoSounds(metadata.trackNames));
  if (isOneSound || !options.split) return ok({ ...about, pieces: [{ path: at, channel: null }] });
  const outPaths: string[] = [];
  for (let c = 0; c < channels; c++) outPaths.push(await fresh());
  const names = await runTask(
    'split',
    { path: at, outPaths },
    { threadPath: options.threadPath, cancel: options.cancel },
  );
  if (!names.ok) return names;
  const named = metadata.trackNames.length === channels;
  return ok({
    ...about,
    pieces: outPaths.map((p, index) => ({
      path: p,
      channel: { index, name: names.value[index] as string, named },
    })),
  });
}

/** Whether the recorder calls the two channels of a file by words that are more than sides or numbers: two recordings in one file. */
function areTwoSounds(trackNames: readonly string[]): boolean {
  if (trackNames.length !== 2) return false;
  const [first, second] = trackNames.map((name) =>
    tokenise(name)
      .map((t) => t.text)
      .filter((word) => !SIDE_WORD.test(word))
      .join(' '),
  );
  return first !== second && first !== '' && second !== '';
}

/** What tells the two sides of one sound apart, and nothing else (common practice, no source). */
const SIDE_WORD = /^(l|r|left|right|lf|rt|lt|links|rechts|gauche|droite|izq|der|m|s|mid|side|a|b|x|y|\d+)$/;

async function look(
  path: string,
): Promise<Result<{ readonly channels: number; readonly metadata: SoundMetadata }, SoundFault>> {
  const file = await fileSource(path);
  try {
    const header = await readSoundHeader(file.bytes);
    return header.ok
      ? ok({ channels: header.value.channels, metadata: await readSoundMetadata(file.bytes) })
      : header;
  } finally {
    await file.close();
  }
}

/** What the piece of a file is called as received: the recorder's name for a channel, else the file's with the channel behind it. */
export function pieceName(receivedName: string, piece: SoundPiece): string {
  if (!piece.channel) return receivedName;
  if (piece.channel.named) return `${receivedName}/${piece.channel.name.replace(/[\\/]/g, '-')}`;
  const dot = receivedName.lastIndexOf('.');
  const slash = Math.max(receivedName.lastIndexOf('/'), receivedName.lastIndexOf('\\'));
  const [stem, extension] =
    dot > slash + 1 ? [receivedName.slice(0, dot), receivedName.slice(dot)] : [receivedName, ''];
  return `${stem} ${piece.channel.name}${extension}`;
}
