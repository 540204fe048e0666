import { readdirSync, statSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { isSoundFileName, readNames } from '@/core/naming';
import { kindKnown } from '@/core/style';
import type { TempoTrack } from '@/core/tempo';
import {
  type OpenedSound,
  type OpenFault,
  openSound,
  pieceName,
  runTask,
  type SoundPiece,
  type TaskMap,
} from '@/engine';
import { CallFault } from './arguments';

/** What the passes over a sound found, or why it cannot be used. */
export type InspectOutcome =
  | TaskMap['inspect']['output']
  | { readonly ok: false; readonly error: OpenFault | { readonly code: 'file.unreadable' } };

/** A sound out of one of the files of a call. */
export interface InspectedSound {
  /** The file as given, with the channel behind it where it has more than two. */
  readonly file: string;
  /** The file as given, and which of its channels this is, from 1; null = all of it. */
  readonly of: { readonly file: string; readonly channel: number | null };
  /** WAV or AIFF with its samples: the file itself, or a decoded copy that lives as long as the call's work. */
  readonly path: string;
  readonly about: Pick<OpenedSound, 'container' | 'codec' | 'lossy' | 'metadata' | 'complaint'> | null;
  /** Of the file as given; null when it could not be read. */
  readonly sha256: string | null;
  readonly outcome: InspectOutcome;
}

/** Sound files named by a call; a folder stands for those in it and in all below it, links left alone. */
export function soundFiles(words: readonly string[]): string[] {
  const files = words.flatMap((word) => {
    try {
      return statSync(word).isDirectory()
        ? filesBelow(word).filter((path) => isSoundFileName(basename(path)))
        : [word];
    } catch {
      throw new CallFault(`cannot find ${word}`);
    }
  });
  if (files.length === 0) throw new CallFault('no recordings given');
  return files;
}

/** Files in a folder and all below it, in order of their paths. What archivers leave beside files is none. */
export const filesBelow = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !entry.name.startsWith('._'))
    .map((entry) => join(entry.parentPath, entry.name))
    .filter((path) => !path.split(/[\\/]/).includes('__MACOSX'))
    .sort();

/** What is wanted of the files of a call. */
export interface InspectAllOptions {
  readonly truePeak: boolean;
  readonly listen: boolean;
  /** Whether levels by band are wanted too. */
  readonly levels?: boolean;
  /** Whether files of more than two channels become one sound a channel. */
  readonly split: boolean;
}

/** Opens and looks at every file, as many at a time as there are processors; results in the order given. Decoded copies are there until `work` is done. */
export async function withSounds<T>(
  files: readonly string[],
  options: InspectAllOptions,
  work: (sounds: readonly InspectedSound[]) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'fernmoss-sounds-'));
  try {
    let made = 0;
    const opened = await inParallel(files, async (file) => {
      process.stderr.write(`listening to ${file}\n`);
      return inspectOne(file, options, async () => join(folder, `${made++}.wav`));
    });
    return await work(opened.flat());
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function inspectOne(
  file: string,
  options: InspectAllOptions,
  temporaryPath: () => Promise<string>,
): Promise<InspectedSound[]> {
  const unreadable = (): InspectedSound[] => [
    {
      file,
      of: { file, channel: null },
      path: file,
      about: null,
      sha256: null,
      outcome: { ok: false, error: { code: 'file.unreadable' } },
    },
  ];
  try {
    const opened = await openSound(file, { temporaryPath, threadPath: threadPath(), split: options.split });
    if (!opened.ok)
      return [{ file, of: { file, channel: null }, path: file, about: null, sha256: null, outcome: opened }];
    const { pieces, ...about } = opened.value;
    const sha256 =
      about.made.length > 0 ? await runTask('hash', { path: file }, { threadPath: threadPath() }) : null;
    const look = async (piece: SoundPiece): Promise<InspectedSound> => {
      const outcome = await runTask(
        'inspect',
        {
          path: piece.path,
          truePeak: options.truePeak,
          listen: options.listen,
          levels: options.levels ?? false,
        },
        { threadPath: threadPath() },
      );
      return {
        file: pieceName(file, piece),
        of: { file, channel: piece.channel ? piece.channel.index + 1 : null },
        path: piece.path,
        about,
        // Channels of one file are not the same recording.
        sha256: pieces.length === 1 && sha256 !== null ? sha256 : outcome.ok ? outcome.value.sha256 : null,
        outcome,
      };
    };
    const sounds: InspectedSound[] = [];
    for (const piece of pieces) sounds.push(await look(piece));
    return sounds;
  } catch {
    return unreadable();
  }
}

async function inParallel<A, B>(items: readonly A[], work: (item: A) => Promise<B>): Promise<B[]> {
  const results: B[] = [];
  let next = 0;
  const lane = async (): Promise<void> => {
    for (let i = next++; i < items.length; i = next++) results[i] = await work(items[i] as A);
  };
  await Promise.all(Array.from({ length: availableParallelism() }, lane));
  return results;
}

/** The built compute thread lies beside the built command line. */
export const threadPath = (): string => join(import.meta.dirname, 'compute.mjs');

/** Tracks for the tempo detection out of what was heard; families come from the names, else from the sound. */
export function tempoTracks(sounds: readonly InspectedSound[]): TempoTrack[] {
  const names = readNames(sounds.map((s) => basename(s.file)));
  return sounds.flatMap(({ file, outcome }, i) => {
    const listening = outcome.ok ? outcome.value.listening : null;
    if (!listening) return [];
    const { family, part } = kindKnown(null, names[i] ?? null, listening.heard);
    return [{ id: file, family, part, curves: listening.onsets }];
  });
}
