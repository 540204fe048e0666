import { readdirSync, statSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, join } from 'node:path';
import { readNames } from '@/core/naming';
import type { TempoTrack } from '@/core/tempo';
import { runTask, type TaskMap } from '@/engine';
import { CallFault } from './arguments';

/** What the passes over a file found, or why it cannot be used. */
export type InspectOutcome = TaskMap['inspect']['gives'] | { readonly ok: false; readonly error: { readonly code: 'file.unreadable' } };

/** Sound files named by a call; a folder stands for those in it. */
export function soundFiles(words: readonly string[]): string[] {
  const files = words.flatMap((word) => {
    try {
      return statSync(word).isDirectory() ? readdirSync(word).filter((f) => /\.wave?$/i.test(f)).sort().map((f) => join(word, f)) : [word];
    } catch {
      throw new CallFault(`cannot find ${word}`);
    }
  });
  if (files.length === 0) throw new CallFault('no recordings given');
  return files;
}

/** Looks at every file, as many at a time as there are processors; results in the order given. */
export async function inspectAll(files: readonly string[], options: { readonly truePeak: boolean; readonly onsets: boolean }): Promise<InspectOutcome[]> {
  const results: InspectOutcome[] = [];
  let next = 0;
  const work = async (): Promise<void> => {
    for (let i = next++; i < files.length; i = next++) {
      const path = files[i] as string;
      process.stderr.write(`listening to ${path}\n`);
      results[i] = await runTask('inspect', { path, ...options }, { threadPath: threadPath() }).catch(() => ({ ok: false, error: { code: 'file.unreadable' } }) as const);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  return results;
}

/** The built compute thread lies beside the built command line. */
export const threadPath = (): string => join(import.meta.dirname, 'compute.mjs');

/** Tracks for the tempo detection out of what was heard; families come from the names. */
export function tempoTracks(files: readonly string[], outcomes: readonly InspectOutcome[]): TempoTrack[] {
  const names = readNames(files.map((f) => basename(f)));
  return files.flatMap((file, i) => {
    const outcome = outcomes[i];
    const name = names[i];
    return outcome?.ok && outcome.value.onsets && name ? [{ id: file, family: name.family, part: name.part, curves: outcome.value.onsets }] : [];
  });
}
