import { createHash } from 'node:crypto';
import { mkdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { ZipFile } from 'yazl';
import { createWavWriter, type SoundPlace } from '@/core/audio';
import {
  BAG_DECLARATION,
  bagInfo,
  COVER_NOTE_PATH,
  coverNote,
  type CoverNoteFacts,
  manifestText,
  markersCsv,
  notesMidi,
  type Overs,
  type PackagePlan,
  type PlannedFile,
  projectMetadataXml,
  projectXml,
  type ReceivedFile,
  soundFiles,
  tempoMidi,
  tracksCsv,
} from '@/core/delivery';
import { arrangedBlocks } from '@/core/arrange';
import { renderClick } from '@/core/render';
import type { SessionState } from '@/core/session';
import type { HouseStyle } from '@/core/style';
import { type MidiNoteTrack, type MidiSong, readMidiSong, type SongMapFile } from '@/core/time';
import type { ProgressSink } from '@/core/units';
import { fileSink, fileSource } from './files';
import { openSounds } from './sounds';

/** Recordings, and the map they follow. */
export interface PackagePart {
  readonly plan: PackagePlan;
  readonly session: SessionState;
  /** Lane id → WAV at the session rate. */
  readonly sourcePaths: Readonly<Record<string, string>>;
  /** Track id → MIDI file, and which of the note tracks in it. */
  readonly noteSources: Readonly<Record<string, NoteSource>>;
  /** Map of what was played; through it the moments of notes become bars. */
  readonly playedMap: SongMapFile | null;
  /** Track id → how its recording came. */
  readonly received: Readonly<Record<string, ReceivedFile>>;
}

/** Notes of a file. */
export interface NoteSource {
  readonly path: string;
  readonly index: number;
}

/** All that goes into a package. */
export interface PackageInput extends PackagePart {
  /** What was played, beside the conformed recordings; null = only one of the two. */
  readonly played: PackagePart | null;
  readonly note: Omit<CoverNoteFacts, 'overs' | 'takes'>;
  /** For the colours of what is no track. */
  readonly style: HouseStyle;
  /** Folder that will hold the package's own folder; must exist. */
  readonly outDir: string;
  /** Version of this program, for the project file. */
  readonly version: string;
}

/** One file written. */
export interface WrittenFile {
  readonly path: string;
  readonly sha256: string;
  readonly sizeBytes: number;
}

/** What was written. */
export interface BuiltPackage {
  readonly root: string;
  readonly files: readonly WrittenFile[];
  /** Samples above full scale, by file path; those files are 32-bit float, so that nothing is cut off. */
  readonly overs: Overs;
}

/** Writes a package as a folder: audio, click, tempo, lists, project, cover note, BagIt manifests. Everything is fsynced. */
export async function buildPackage(input: PackageInput, progress?: ProgressSink): Promise<BuiltPackage> {
  const { plan, session } = input;
  const root = join(input.outDir, plan.folderName);
  const written: WrittenFile[] = [];
  const overs: Record<string, number> = {};
  const parts: readonly PackagePart[] = input.played ? [input, input.played] : [input];
  const sounds = parts.flatMap((part) => soundFiles(part.plan).map((file) => ({ part, file })));
  for (const [i, { part, file }] of sounds.entries()) {
    const { above, ...done } = await writeAudio(root, part, file);
    written.push(done);
    if (above > 0) overs[file.path] = above;
    progress?.((0.85 * (i + 1)) / sounds.length);
  }
  const notes: [string, Uint8Array][] = [];
  const songs = new Map<string, MidiSong>();
  for (const part of parts)
    for (const file of part.plan.notes) {
      const { song, track } = await readNotes(part, file.trackId);
      const bytes = notesMidi(part.plan, file, song, track, part.playedMap);
      notes.push([file.path, bytes]);
      const made = part === input ? readMidiSong(bytes) : null;
      if (made?.ok) songs.set(file.trackId, made.value);
    }
  const texts: [string, Uint8Array | string][] = [
    ...notes,
    ...parts.flatMap((part) => papers(part, overs, part === input && input.note.conformed !== null)),
    [
      COVER_NOTE_PATH,
      coverNote(plan, session, { ...input.note, overs, takes: input.played?.plan.takes ?? plan.takes }),
    ],
    [
      'data/session/session.dawproject',
      await zipOf({
        'project.xml': projectXml(plan, session, input.style, input.version, songs),
        'metadata.xml': projectMetadataXml(session),
      }),
    ],
  ];
  for (const [path, content] of texts) written.push(await writeSmall(root, path, content));
  const octets = written.reduce((n, f) => n + f.sizeBytes, 0);
  const tags: WrittenFile[] = [];
  tags.push(await writeSmall(root, 'bagit.txt', BAG_DECLARATION));
  tags.push(
    await writeSmall(
      root,
      'bag-info.txt',
      bagInfo({
        day: input.note.day,
        octets,
        files: written.length,
        description: `${session.name}, handover v${input.note.number}`,
      }),
    ),
  );
  tags.push(await writeSmall(root, 'manifest-sha256.txt', manifestText(written)));
  await writeSmall(root, 'tagmanifest-sha256.txt', manifestText(tags));
  progress?.(0.9);
  return { root, files: written, overs };
}

/** The notes of a track as they came. Throws if they cannot be read any more. */
export async function readNotes(
  part: PackagePart,
  trackId: string,
): Promise<{ readonly song: MidiSong; readonly track: MidiNoteTrack }> {
  const source = part.noteSources[trackId];
  const song = source ? readMidiSong(await readFile(source.path)) : null;
  const track = song?.ok ? song.value.tracks[source?.index ?? 0] : undefined;
  if (!song?.ok || !track) throw new Error(`the stored notes of ${trackId} cannot be read`);
  return { song: song.value, track };
}

/** Lists and times of one part. */
function papers(
  { plan, session, received }: PackagePart,
  overs: Overs,
  conformed: boolean,
): [string, Uint8Array | string][] {
  const {
    sampleRateHz,
    bitDepth,
    lengthFrames,
    padFrames,
    leadInBars,
    firstBarNumber,
    anchors,
    meters,
    markers,
    beats,
  } = plan;
  const at = (name: string): string => `${plan.base}session/${name}`;
  const floatFiles = soundFiles(plan)
    .map((f) => f.path)
    .filter((path) => overs[path] !== undefined);
  return [
    [at('tracks.csv'), tracksCsv(plan, session, { overs, received })],
    [
      at('timing.json'),
      `${JSON.stringify({ schemaVersion: 1, conformed, sampleRateHz, bitDepth, floatFiles, lengthFrames, padFrames, leadInBars, firstBarNumber, anchors, meters, markers, beats })}\n`,
    ],
    ...(anchors.length > 1
      ? ([[at('tempo-and-markers.mid'), tempoMidi(plan)]] satisfies [string, Uint8Array | string][])
      : []),
    ...(markers.length > 0
      ? ([[at('markers.csv'), markersCsv(plan)]] satisfies [string, Uint8Array | string][])
      : []),
  ];
}

/** Writes one file at the package's depth; if samples lie above full scale it is written once more as 32-bit float. */
async function writeAudio(
  root: string,
  part: PackagePart,
  file: PlannedFile,
): Promise<WrittenFile & { readonly above: number }> {
  const path = join(root, file.path);
  await mkdir(dirname(path), { recursive: true });
  const above = await writeAtDepth(path, part, file, part.plan.bitDepth);
  if (above > 0) {
    await rm(path);
    await writeAtDepth(path, part, file, 32);
  }
  return { ...(await hashed(root, file.path)), above };
}

/** Returns how many samples had to be cut off at full scale; none at 32 bit. */
async function writeAtDepth(
  path: string,
  part: PackagePart,
  file: PlannedFile,
  bitDepth: 24 | 32,
): Promise<number> {
  const { plan } = part;
  const output = await fileSink(path);
  try {
    const writer = await createWavWriter(output.bytes, {
      sampleRateHz: plan.sampleRateHz,
      channels: file.channels,
      bitDepth,
      places: file.path.startsWith(`${plan.base}reference/`) ? placesIn(plan) : [],
    });
    if (file.trackId === null)
      for (const block of renderClick(plan.click.strokes, plan.sampleRateHz, plan.lengthFrames, plan.click))
        await writer.write(block);
    else await writeTrack(part, file, (block) => writer.write(block));
    return (await writer.finish()).clippedSamples;
  } finally {
    await output.close();
  }
}

/** Where the named places of a package lie in its files: in those one listens by. */
const placesIn = ({ markers, sampleRateHz, lengthFrames }: PackagePlan): SoundPlace[] =>
  markers
    .map((m) => ({ frame: Math.round(m.seconds * sampleRateHz), text: m.text }))
    .filter((p) => p.frame < lengthFrames);

async function writeTrack(
  { plan, sourcePaths }: PackagePart,
  { pieces, channels }: PlannedFile,
  write: (block: readonly Float32Array[]) => Promise<void>,
): Promise<void> {
  const sounds = await openSounds(
    pieces.map((p) => p.sound),
    sourcePaths,
    plan.sampleRateHz,
  );
  try {
    const range = { channels, from: 0, to: plan.lengthFrames };
    for await (const block of arrangedBlocks(pieces, range, sounds.read)) await write(block);
  } finally {
    await sounds.close();
  }
}

/** Hash of the bytes as they lie on the disk. */
async function hashed(root: string, path: string): Promise<WrittenFile> {
  const file = await fileSource(join(root, path));
  const hash = createHash('sha256');
  try {
    for (let at = 0; at < file.bytes.sizeBytes; at += 1 << 20)
      hash.update(await file.bytes.read(at, 1 << 20));
    return { path, sha256: hash.digest('hex'), sizeBytes: file.bytes.sizeBytes };
  } finally {
    await file.close();
  }
}

async function writeSmall(root: string, path: string, content: string | Uint8Array): Promise<WrittenFile> {
  const full = join(root, path);
  await mkdir(dirname(full), { recursive: true });
  await writeFile(full, content, { flag: 'wx', flush: true });
  const bytes = typeof content === 'string' ? Buffer.from(content, 'utf8') : content;
  return {
    path,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    sizeBytes: (await stat(full)).size,
  };
}

/** A small ZIP in memory; the same content gives the same bytes. */
async function zipOf(files: Readonly<Record<string, string>>): Promise<Uint8Array> {
  const zip = new ZipFile();
  for (const [name, text] of Object.entries(files))
    zip.addBuffer(Buffer.from(text, 'utf8'), name, {
      mtime: new Date('2000-01-01T00:00:00Z'),
      mode: 0o100644,
    });
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}
