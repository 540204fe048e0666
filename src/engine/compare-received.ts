import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readSoundHeader } from '@/core/audio';
import { parseTable, PLAYED_BASE } from '@/core/delivery';
import type { Shape } from '@/core/render';
import { fileSource } from './files';
import { type PackageCheck, sameAudio } from './verify-package';

/** A received sound: its name as in the folder it came in, and where its samples lie as WAV or AIFF. */
export interface ReceivedSound {
  readonly name: string;
  /** Which of the file's channels it is, from 1; null = all of it. */
  readonly channel: number | null;
  readonly path: string;
}

/** What a package holds against what was received. */
export interface ReceivedComparison {
  readonly checks: readonly PackageCheck[];
  /** What could not be compared, each with its reason. */
  readonly notCompared: readonly string[];
  /** Received sounds that no track of the package was made from. */
  readonly notInPackage: readonly string[];
}

/** Compares the recordings of a package, sample by sample, with what was received. What was conformed or converted to another rate is not comparable. */
export async function compareWithReceived(
  root: string,
  received: readonly ReceivedSound[],
): Promise<ReceivedComparison> {
  const checks: PackageCheck[] = [];
  const notCompared: string[] = [];
  const used = new Set<ReceivedSound>();
  for (const base of ['data/', PLAYED_BASE]) {
    const text = await readFile(join(root, `${base}session/tracks.csv`), 'utf8').catch(() => null);
    if (text === null) continue;
    const rows = tracksOf(text);
    const isConformed = await saysConformed(join(root, `${base}session/timing.json`));
    const different: string[] = [];
    let count = 0;
    for (const row of rows) {
      const source = receivedAs(
        row.sourceFile,
        received.filter((r) => r.channel === row.channel),
      );
      if (source) used.add(source);
      const reason = isConformed
        ? 'was conformed'
        : source === null
          ? 'is not at hand'
          : row.isCut
            ? 'was cut, or put together of pieces'
            : await incomparable(join(root, row.file.path), source.path);
      if (reason !== null) notCompared.push(`${row.file.path}: ${row.sourceFile} ${reason}`);
      else if (source) {
        count++;
        if (!(await sameAudio(join(root, row.file.path), source.path, row.file)))
          different.push(row.file.path);
      }
    }
    if (count > 0)
      checks.push({
        code: 'audio-content',
        pass: different.length === 0,
        title: `Every sample is what was received, only moved${base === PLAYED_BASE ? ' (as played)' : ''}`,
        figure:
          different.length === 0
            ? `${count} of ${rows.length} recordings compared`
            : `not so: ${different.slice(0, 3).join(', ')}`,
      });
  }
  return {
    checks,
    notCompared,
    notInPackage: received
      .filter((r) => !used.has(r))
      .map((r) => (r.channel === null ? r.name : `${r.name}, channel ${r.channel}`)),
  };
}

/** Rows of recordings in a track list, as files to compare. */
function tracksOf(text: string): {
  readonly sourceFile: string;
  readonly channel: number | null;
  readonly isCut: boolean;
  readonly file: Shape & { readonly path: string; readonly startFrames: number };
}[] {
  const [head = [], ...rows] = parseTable(text);
  const cell = (row: readonly string[], name: string): string => row[head.indexOf(name)] ?? '';
  return rows
    .filter((row) => Number(cell(row, 'channels')) > 0)
    .map((row) => ({
      sourceFile: cell(row, 'sourceFile'),
      channel: cell(row, 'sourceChannel') === '' ? null : Number(cell(row, 'sourceChannel')),
      isCut: cell(row, 'pieces') !== '',
      file: {
        path: cell(row, 'file'),
        startFrames: Number(cell(row, 'offsetFrames')),
        inverted: cell(row, 'polarity') === 'turned over',
        fromChannel: ['left', 'right'].includes(cell(row, 'monoFrom'))
          ? Number(cell(row, 'monoFrom') === 'right')
          : null,
      },
    }));
}

/** The received sound of that name: the same path, or the only one that ends in it (or in whose path it ends). */
function receivedAs(name: string, received: readonly ReceivedSound[]): ReceivedSound | null {
  const plain = (path: string): string => path.replaceAll('\\', '/').normalize('NFC');
  const wanted = plain(name);
  const exact = received.find((r) => plain(r.name) === wanted);
  if (exact) return exact;
  const near = received.filter(
    (r) => `/${plain(r.name)}`.endsWith(`/${wanted}`) || `/${wanted}`.endsWith(`/${plain(r.name)}`),
  );
  return near.length === 1 ? (near[0] as ReceivedSound) : null;
}

async function incomparable(madePath: string, sourcePath: string): Promise<string | null> {
  const [made, source] = [await rateOf(madePath), await rateOf(sourcePath)];
  if (made === null) return null; // its shape fails elsewhere, and so does the comparison
  return source === made
    ? null
    : source === null
      ? 'cannot be read'
      : `has ${source} Hz, the package ${made} Hz`;
}

async function rateOf(path: string): Promise<number | null> {
  const file = await fileSource(path).catch(() => null);
  if (!file) return null;
  try {
    const header = await readSoundHeader(file.bytes);
    return header.ok ? header.value.sampleRateHz : null;
  } finally {
    await file.close();
  }
}

const saysConformed = async (path: string): Promise<boolean> => {
  try {
    return (JSON.parse(await readFile(path, 'utf8')) as { conformed?: boolean }).conformed === true;
  } catch {
    return false;
  }
};
