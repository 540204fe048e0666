import { createHash } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { basename, join, relative } from 'node:path';
import { fromBuffer, type Entry, type ZipFile } from 'yauzl';
import { readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import {
  notesBefore,
  parseManifest,
  type PackagePlan,
  PLAYED_BASE,
  type PlannedFile,
  soundFiles,
} from '@/core/delivery';
import { channelFor, gainAt, type ReadSound } from '@/core/arrange';
import { type Shape, shapeBlocks } from '@/core/render';
import { type MidiNote, readMidi, readMidiSong } from '@/core/time';
import type { ProgressSink } from '@/core/units';
import { type PackageInput, type PackagePart, readNotes } from './build-package';
import { fileSource } from './files';
import { openSounds } from './sounds';

/** One check of a finished package. */
export interface PackageCheck {
  readonly code:
    | 'bag'
    | 'all-tracks'
    | 'complete'
    | 'unchanged'
    | 'tags'
    | 'audio-shape'
    | 'audio-content'
    | 'tempo'
    | 'notes'
    | 'track-list'
    | 'project';
  readonly pass: boolean;
  readonly title: string;
  readonly figure: string;
}

interface Timing {
  readonly sampleRateHz: number;
  readonly bitDepth: number;
  /** Paths of the files that are 32-bit float, as samples in them lie above full scale. */
  readonly floatFiles?: readonly string[];
  readonly lengthFrames: number;
  readonly anchors: PackagePlan['anchors'];
  readonly meters: PackagePlan['meters'];
  readonly beats: PackagePlan['beats'];
}

const TEMPO_LIMIT_MS = 0.1;

/** Reads a package folder from the disk and checks all that it says of itself; with `expected`, its audio against what it was made from. */
export async function verifyPackage(
  root: string,
  expected?: PackageInput,
  progress?: ProgressSink,
): Promise<PackageCheck[]> {
  const checks: PackageCheck[] = [];
  const add = (code: PackageCheck['code'], pass: boolean, title: string, figure: string): void =>
    void checks.push({ code, pass, title, figure });
  const read = (path: string): Promise<Buffer | null> => readFile(join(root, path)).catch(() => null);

  const declaration = (await read('bagit.txt'))?.toString('utf8') ?? '';
  add(
    'bag',
    /^BagIt-Version: 1\.0\r?\nTag-File-Character-Encoding: UTF-8\r?\n?$/.test(declaration),
    'It is a BagIt package (RFC 8493)',
    declaration === '' ? 'bagit.txt is missing' : 'bagit.txt',
  );
  const manifest = parseManifest((await read('manifest-sha256.txt'))?.toString('utf8') ?? '');
  const present = await payload(root);
  const listed = new Set(manifest.entries.map((e) => e.path));
  const missing = manifest.entries.filter((e) => !present.includes(e.path));
  const unlisted = present.filter((p) => !listed.has(p));
  add(
    'complete',
    manifest.entries.length > 0 &&
      missing.length === 0 &&
      unlisted.length === 0 &&
      manifest.broken.length === 0,
    'Every file is listed, every listed file is there',
    `${manifest.entries.length} listed, ${missing.length} missing, ${unlisted.length} not listed`,
  );
  const wrong = await wrongHashes(
    root,
    manifest.entries.filter((e) => present.includes(e.path)),
    (s) => progress?.(0.5 * s),
  );
  add(
    'unchanged',
    manifest.entries.length > 0 && wrong.length === 0,
    'Every file is as it was written (SHA-256)',
    wrong.length === 0 ? `${manifest.entries.length} files` : `changed: ${wrong.slice(0, 3).join(', ')}`,
  );

  add('tags', ...(await checkTags(root)));

  const holdsPlayed = present.some((p) => p.startsWith(PLAYED_BASE));
  const main = present.filter((p) => !p.startsWith(PLAYED_BASE));
  const conformed = expected?.note.conformed
    ? 'Every sample is that of the conformed recording, only moved'
    : null;
  const half =
    (from: number): ProgressSink =>
    (s) =>
      progress?.(from + (holdsPlayed ? 0.22 : 0.45) * s);
  checks.push(
    ...(await verifyPart(
      root,
      { base: 'data/', files: main, of: '', content: conformed, expected: expected ?? null },
      half(0.5),
    )),
  );
  if (holdsPlayed)
    checks.push(
      ...(await verifyPart(
        root,
        {
          base: PLAYED_BASE,
          files: present.filter((p) => p.startsWith(PLAYED_BASE)),
          of: ' (as played)',
          content: null,
          expected: expected?.played ?? null,
        },
        half(0.73),
      )),
    );
  add('project', ...(await checkProject(root, present)));
  progress?.(1);
  return checks;
}

/** Reads the manifest of the manifests (RFC 8493, 2.2.1): who changes a byte and its line in the manifest is found here. */
async function checkTags(root: string): Promise<[boolean, string, string]> {
  const title = 'The manifest and the tag files are as they were written (SHA-256)';
  const text = await readFile(join(root, 'tagmanifest-sha256.txt'), 'utf8').catch(() => null);
  if (text === null) return [false, title, 'tagmanifest-sha256.txt is missing'];
  const { entries, broken } = parseManifest(text);
  const listed = new Set(entries.map((e) => e.path));
  const absent = ['bagit.txt', 'bag-info.txt', 'manifest-sha256.txt'].filter((name) => !listed.has(name));
  // Names from outside are no paths: only files of the package's own top folder are read.
  const strange = entries.filter((e) => e.path !== basename(e.path)).map((e) => e.path);
  const wrong: string[] = [];
  for (const { path, sha256 } of entries.filter((e) => !strange.includes(e.path))) {
    const bytes = await readFile(join(root, path)).catch(() => null);
    if (!bytes || createHash('sha256').update(bytes).digest('hex') !== sha256) wrong.push(path);
  }
  const faults = [
    ...(wrong.length === 0 ? [] : [`changed: ${wrong.join(', ')}`]),
    ...(absent.length === 0 ? [] : [`not listed: ${absent.join(', ')}`]),
    ...(strange.length + broken.length === 0 ? [] : ['lines that name no tag file']),
  ];
  return [faults.length === 0, title, faults.length === 0 ? `${entries.length} files` : faults.join('; ')];
}

/** Recordings and the map they follow, as they lie in a package. */
interface FoundPart {
  readonly base: string;
  /** Files under the base. */
  readonly files: readonly string[];
  /** Said behind each check. */
  readonly of: string;
  /** What is said of the audio's content; null = it is what came in. */
  readonly content: string | null;
  readonly expected: PackagePart | null;
}

async function verifyPart(
  root: string,
  { base, files, of, content, expected }: FoundPart,
  progress: ProgressSink,
): Promise<PackageCheck[]> {
  const checks: PackageCheck[] = [];
  const add = (code: PackageCheck['code'], pass: boolean, title: string, figure: string): void =>
    void checks.push({ code, pass, title: title + of, figure });
  const read = (name: string): Promise<Buffer | null> =>
    readFile(join(root, `${base}session/${name}`)).catch(() => null);
  const timing = parseTiming(await read('timing.json'));
  const shapes = await audioShapes(
    root,
    files.filter((p) => p.endsWith('.wav')),
  );
  const floats = timing?.floatFiles?.length ?? 0;
  const odd = shapes.filter(
    (s) =>
      !timing ||
      s.frames !== timing.lengthFrames ||
      s.rate !== timing.sampleRateHz ||
      s.bits !== (timing.floatFiles?.includes(s.path) ? 32 : timing.bitDepth),
  );
  add(
    'audio-shape',
    shapes.length > 0 && odd.length === 0,
    'One length, rate and depth',
    odd.length > 0
      ? odd
          .slice(0, 3)
          .map((s) => `${s.path}: ${s.frames} frames, ${s.rate} Hz, ${s.bits}-bit`)
          .join('; ')
      : `${timing?.lengthFrames ?? 0} frames · ${timing?.sampleRateHz ?? 0} Hz · ${timing?.bitDepth ?? 0}-bit${floats === 0 ? '' : `, ${floats} of ${shapes.length} files 32-bit float`}`,
  );
  if (expected) {
    const different = await differentAudio(root, expected.plan, expected.sourcePaths, progress);
    const tracks = soundFiles(expected.plan).filter((f) => f.trackId !== null);
    const cut = tracks.filter((f) => !f.isUncut).length;
    add(
      'audio-content',
      different.length === 0,
      `${content ?? 'Every sample is what came in, only moved'}${cut === 0 ? '' : ', or cut, faded and set in level as the session says'}`,
      different.length === 0
        ? `${tracks.length} ${cut === 0 ? 'recordings' : 'tracks'} compared${cut === 0 ? '' : `, ${cut} of them put together of pieces`}${floats === 0 ? '' : `; ${floats} hold samples above full scale and are 32-bit float`}`
        : different.slice(0, 3).join(', '),
    );
  }
  const notes = files.filter((p) => p.startsWith(`${base}notes/`));
  if (notes.length > 0) add('notes', ...(await checkNotes(root, notes, expected)));
  const tempo = checkTempo(await read('tempo-and-markers.mid'), timing);
  if (tempo) add('tempo', tempo.pass, 'Tempo map, meters and bar lines read back', tempo.figure);
  add('track-list', ...checkTrackList(await read('tracks.csv'), files));
  return checks;
}

/** Reads the files of notes back; with what they were made from, note by note. */
async function checkNotes(
  root: string,
  paths: readonly string[],
  expected: PackagePart | null,
): Promise<[boolean, string, string]> {
  const odd: string[] = [];
  let count = 0;
  for (const path of paths) {
    const song = readMidiSong(await readFile(join(root, path)));
    const found = song.ok ? song.value.tracks.flatMap((t) => t.notes) : [];
    count += found.length;
    const planned = expected?.plan.notes.find((n) => n.path === path);
    const source = expected && planned ? await readNotes(expected, planned.trackId) : null;
    const wanted =
      source && expected && planned
        ? source.track.notes.slice(
            notesBefore(expected.plan, planned, source.song, source.track, expected.playedMap),
          )
        : found;
    if ((!source && found.length === 0) || !sameNotes(found, wanted)) odd.push(path);
  }
  return [
    odd.length === 0,
    expected ? 'Every note is there, at its level and pitch' : 'The notes can be read',
    odd.length === 0 ? `${count} notes` : odd.slice(0, 3).join(', '),
  ];
}

/** The same notes, wherever they were moved: within one tick two may have changed places. */
function sameNotes(a: readonly MidiNote[], b: readonly MidiNote[]): boolean {
  const key = (n: MidiNote): number => (n.channel << 14) | (n.pitch << 7) | n.velocity;
  const left = a.map(key).sort((x, y) => x - y);
  const right = b.map(key).sort((x, y) => x - y);
  return left.length === right.length && left.every((k, i) => k === right[i]);
}

function checkTrackList(bytes: Buffer | null, present: readonly string[]): [boolean, string, string] {
  const lines = (bytes?.toString('utf8') ?? '')
    .split('\r\n')
    .slice(1)
    .filter((l) => l !== '');
  const lost = lines.filter((line) => !present.some((p) => line.includes(p)));
  return [
    lines.length > 0 && lost.length === 0,
    'The track list names files that are there',
    `${lines.length} tracks`,
  ];
}

async function payload(root: string): Promise<string[]> {
  const entries = await readdir(join(root, 'data'), { recursive: true, withFileTypes: true }).catch(() => []);
  return entries
    .filter((e) => e.isFile())
    .map((e) => relative(root, join(e.parentPath, e.name)).split('\\').join('/'))
    .sort();
}

async function wrongHashes(
  root: string,
  entries: readonly { readonly path: string; readonly sha256: string }[],
  progress: ProgressSink,
): Promise<string[]> {
  const wrong: string[] = [];
  for (const [i, entry] of entries.entries()) {
    const file = await fileSource(join(root, entry.path));
    const hash = createHash('sha256');
    try {
      for (let at = 0; at < file.bytes.sizeBytes; at += 1 << 20)
        hash.update(await file.bytes.read(at, 1 << 20));
    } finally {
      await file.close();
    }
    if (hash.digest('hex') !== entry.sha256) wrong.push(entry.path);
    progress((i + 1) / entries.length);
  }
  return wrong;
}

function parseTiming(bytes: Buffer | null): Timing | null {
  if (!bytes) return null;
  try {
    const value = JSON.parse(bytes.toString('utf8')) as Timing;
    return Number.isInteger(value.lengthFrames) && Array.isArray(value.beats) ? value : null;
  } catch {
    return null;
  }
}

async function audioShapes(
  root: string,
  paths: readonly string[],
): Promise<{ path: string; frames: number; rate: number; bits: number }[]> {
  const shapes = [];
  for (const path of paths) {
    const file = await fileSource(join(root, path));
    try {
      const header = await readSoundHeader(file.bytes);
      shapes.push(
        header.ok
          ? {
              path,
              frames: header.value.lengthFrames,
              rate: header.value.sampleRateHz,
              bits: header.value.bitDepth,
            }
          : { path, frames: 0, rate: 0, bits: 0 },
      );
    } finally {
      await file.close();
    }
  }
  return shapes;
}

/** Compares each file with its source sample by sample; half a step of 24 bit is allowed, and nothing in a file of floats. */
async function differentAudio(
  root: string,
  plan: PackagePlan,
  sources: Readonly<Record<string, string>>,
  progress: ProgressSink,
): Promise<string[]> {
  const different: string[] = [];
  const files = soundFiles(plan);
  for (const [i, file] of files.entries()) {
    progress(i / files.length);
    const [piece] = file.pieces;
    if (!piece) continue;
    const path = join(root, file.path);
    const isSame = file.isUncut
      ? await sameAudio(path, sources[piece.sound] as string, {
          startFrames: file.startFrames,
          inverted: piece.gain < 0,
          fromChannel: piece.fromChannel,
        })
      : await sameAsArranged(path, file, sources);
    if (!isSame) different.push(file.path);
  }
  return different;
}

/** Half a step of 24 bit; nothing in a file of floats. */
const toleranceOf = ({ encoding }: SoundHeader): number => (encoding.startsWith('f') ? 0 : 0.51 / 8388608);

/** What gains and sums in 32 bit float may lie beside the rule, against the sample. */
const FLOAT_STEP = 2 ** -22;

/** Whether a file of a package holds what its pieces come to, frame by frame and by the plain rule of gain. */
async function sameAsArranged(
  madePath: string,
  { pieces, channels }: PlannedFile,
  sources: Readonly<Record<string, string>>,
): Promise<boolean> {
  const made = await fileSource(madePath);
  try {
    const header = await readSoundHeader(made.bytes);
    if (!header.ok || header.value.channels !== channels) return false;
    const names = pieces.map((p) => p.sound);
    const sounds = await openSounds(names, sources, header.value.sampleRateHz);
    try {
      const tolerance = toleranceOf(header.value);
      for await (const { startFrames, channels: got } of readSoundBlocks(made.bytes, header.value)) {
        const want = await plainly(pieces, got, startFrames, sounds.read);
        const isOff = (v: number, x: number): boolean =>
          Math.abs(v - x) > tolerance + FLOAT_STEP * Math.abs(v);
        if (want.some((x, c) => x.some((v, i) => isOff(v, got[c]?.[i] as number)))) return false;
      }
      return true;
    } finally {
      await sounds.close();
    }
  } finally {
    await made.close();
  }
}

/** What pieces come to over the frames of a block. */
async function plainly(
  pieces: PlannedFile['pieces'],
  block: readonly Float32Array[],
  begin: number,
  read: ReadSound<string>,
): Promise<Float64Array[]> {
  const frames = block[0]?.length ?? 0;
  const out = block.map(() => new Float64Array(frames));
  for (const piece of pieces) {
    const [from, to] = [Math.max(begin, piece.fromFrames), Math.min(begin + frames, piece.toFrames)];
    if (to <= from) continue;
    const sound = await read(piece.sound, piece.soundFrames + from - piece.fromFrames, to - from);
    out.forEach((samples, c) => {
      const own = channelFor(piece, sound, c);
      for (let frame = from; frame < to; frame++)
        samples[frame - begin] =
          (samples[frame - begin] as number) + (own[frame - from] as number) * gainAt(piece, frame);
    });
  }
  return out;
}

/** Whether a file of a package holds its source's samples, shaped and moved as said; half a step of 24 bit is allowed. */
export async function sameAudio(
  madePath: string,
  sourcePath: string,
  file: Shape & Pick<PlannedFile, 'startFrames'>,
): Promise<boolean> {
  const made = await fileSource(madePath);
  const source = await fileSource(sourcePath);
  try {
    const a = await readSoundHeader(made.bytes);
    const b = await readSoundHeader(source.bytes);
    if (!a.ok || !b.ok || a.value.channels !== (file.fromChannel === null ? b.value.channels : 1))
      return false;
    // What was cut from the beginning is not looked for.
    const cut = Math.max(0, -file.startFrames);
    const blocks = readSoundBlocks(made.bytes, a.value, {
      startFrames: file.startFrames + cut,
      endFrames: file.startFrames + b.value.lengthFrames,
    });
    const tolerance = toleranceOf(a.value);
    for await (const want of shapeBlocks(
      readSoundBlocks(source.bytes, b.value, { startFrames: cut }),
      file,
    )) {
      const got = (await blocks.next()).value;
      if (!got) return false;
      for (const [c, samples] of want.channels.entries()) {
        const other = (got as typeof want).channels[c];
        if (!other || other.length !== samples.length) return false;
        for (let i = 0; i < samples.length; i++)
          if (Math.abs((samples[i] as number) - (other[i] as number)) > tolerance) return false;
      }
    }
    return true;
  } finally {
    await made.close();
    await source.close();
  }
}

function checkTempo(bytes: Buffer | null, timing: Timing | null): { pass: boolean; figure: string } | null {
  if (!bytes)
    return timing && timing.anchors.length > 1 ? { pass: false, figure: 'the MIDI file is missing' } : null;
  const midi = readMidi(bytes);
  if (!midi.ok || !timing)
    return { pass: false, figure: midi.ok ? 'timing.json is missing' : midi.error.code };
  let worst = 0;
  for (const beat of timing.beats)
    worst = Math.max(
      worst,
      Math.abs(midi.value.toSeconds(beat.quarters * midi.value.ppq) - beat.seconds) * 1000,
    );
  const meters =
    timing.meters.length === midi.value.meters.length &&
    timing.meters.every(
      (m, i) =>
        midi.value.meters[i]?.numerator === m.numerator &&
        midi.value.meters[i]?.denominator === m.denominator &&
        midi.value.meters[i]?.tick === m.quarters * midi.value.ppq,
    );
  return {
    pass: worst <= TEMPO_LIMIT_MS && meters,
    figure: `${timing.beats.length} beats, worst ${worst.toFixed(4)} ms`,
  };
}

async function checkProject(root: string, present: readonly string[]): Promise<[boolean, string, string]> {
  const title = 'The project file refers only to what is there';
  const path = present.find((p) => p.endsWith('.dawproject'));
  if (!path) return [false, title, 'the project file is missing'];
  const xml = await entryOf(await readFile(join(root, path)), 'project.xml').catch(() => null);
  if (xml === null) return [false, title, 'project.xml cannot be read'];
  const ids = [...xml.matchAll(/\sid="([^"]*)"/g)].map((m) => m[1] as string);
  const known = new Set(ids);
  const dangling = [...xml.matchAll(/\s(?:destination|track|parameter|reference)="([^"]*)"/g)].filter(
    (m) => !known.has(m[1] as string),
  );
  const lost = [...xml.matchAll(/<File path="\.\.\/([^"]*)"/g)].filter(
    (m) => !present.includes(`data/${m[1]}`),
  );
  return [
    known.size === ids.length && dangling.length === 0 && lost.length === 0,
    title,
    `${ids.length} ids, ${dangling.length} dangling, ${lost.length} files missing`,
  ];
}

/** Text of one entry of a small ZIP. */
function entryOf(bytes: Buffer, name: string): Promise<string> {
  return new Promise((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true }, (error, zip: ZipFile | undefined) => {
      if (error || !zip) return reject(error ?? new Error('not a ZIP'));
      zip.on('error', reject);
      zip.on('end', () => reject(new Error(`${name} is not in it`)));
      zip.on('entry', (entry: Entry) => {
        if (entry.fileName !== name) return zip.readEntry();
        zip.openReadStream(entry, (failed, stream) => {
          if (failed) return reject(failed);
          const parts: Buffer[] = [];
          stream.on('data', (part: Buffer) => parts.push(part));
          stream.on('error', reject);
          stream.on('end', () => resolve(Buffer.concat(parts).toString('utf8')));
        });
      });
      zip.readEntry();
    });
  });
}
