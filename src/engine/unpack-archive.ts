import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { crc32 } from 'node:zlib';
import { type Entry, openPromise, type ZipFile } from 'yauzl';
import { Cancelled, type CancelSignal, err, ok, type ProgressSink, type Result } from '@/core/units';

/** A file taken out of an archive. */
export interface UnpackedFile {
  /** Path inside the archive, as data. */
  readonly name: string;
  readonly path: string;
  readonly sizeBytes: number;
}

/** What an archive gave. */
export interface UnpackedArchive {
  readonly files: readonly UnpackedFile[];
  /** Names of entries that are damaged or locked. */
  readonly broken: readonly string[];
}

/** Why an archive is not opened, or not to its end. */
export type ArchiveFault =
  | { readonly code: 'archive.broken'; readonly entry: string | null }
  | { readonly code: 'archive.too_much'; readonly reason: string }
  | { readonly code: 'archive.empty' }
  | { readonly code: 'store.no_room'; readonly neededBytes: number; readonly freeBytes: number };

/** How much an archive may give. */
export interface ArchiveLimits {
  readonly mostEntries: number;
  readonly mostBytes: number;
}

const DEEPEST = 12;
/** Silence packs a thousandfold; what packs better than this as a whole is no recording. */
const MOST_RATIO = 1000;
const SMALL_BYTES = 64 * 2 ** 20;
const LEAVE_OUT = /(^|\/)(\.(?!\.?\/)|__MACOSX\/|thumbs\.db$|desktop\.ini$)/i;

/**
 * Takes the files out of a ZIP, each to a path of the caller's: names inside are data and never become paths. Hidden system files are left out.
 * Lengths and checksums are verified; a damaged or locked entry is named and the rest goes on. Throws Cancelled; nothing stays behind then, nor on a fault.
 */
export async function unpackArchive(
  zipPath: string,
  freshPath: (index: number) => Promise<string>,
  limits: ArchiveLimits,
  options: { readonly cancel?: CancelSignal; readonly progress?: ProgressSink } = {},
): Promise<Result<UnpackedArchive, ArchiveFault>> {
  const zip = await openPromise(zipPath, { lazyEntries: true, autoClose: false, decodeStrings: false }).catch(
    () => null,
  );
  if (!zip) return err({ code: 'archive.broken', entry: null });
  const files: UnpackedFile[] = [];
  try {
    const result = await unpackAll(zip, files, freshPath, limits, options);
    if (!result.ok) await removeAll(files);
    return result;
  } catch (cause) {
    await removeAll(files);
    throw cause;
  } finally {
    zip.close();
  }
}

const removeAll = (files: readonly UnpackedFile[]): Promise<unknown> =>
  Promise.all(files.map((f) => rm(f.path, { force: true })));

async function unpackAll(
  zip: ZipFile,
  files: UnpackedFile[],
  freshPath: (index: number) => Promise<string>,
  limits: ArchiveLimits,
  { cancel, progress }: { readonly cancel?: CancelSignal; readonly progress?: ProgressSink },
): Promise<Result<UnpackedArchive, ArchiveFault>> {
  const entries = await listEntries(zip, limits);
  if (!entries.ok) return entries;
  const total = entries.value.reduce((n, e) => n + e.entry.uncompressedSize, 0);
  const broken: string[] = [];
  let done = 0;
  for (const [index, { entry, name }] of entries.value.entries()) {
    if (cancel?.cancelled) throw new Cancelled();
    const path = await freshPath(index);
    try {
      await extract(zip, entry, path, cancel, (bytes) => progress?.((done + bytes) / Math.max(1, total)));
      files.push({ name, path, sizeBytes: entry.uncompressedSize });
    } catch (cause) {
      await rm(path, { force: true });
      if (cause instanceof Cancelled || (cause as NodeJS.ErrnoException).code === 'ENOSPC') throw cause;
      broken.push(name);
    }
    done += entry.uncompressedSize;
  }
  return files.length + broken.length === 0 ? err({ code: 'archive.empty' }) : ok({ files, broken });
}

/** All entries that are files, after the limits were checked against what the archive says of itself; each is held to that when it is read. */
async function listEntries(
  zip: ZipFile,
  limits: ArchiveLimits,
): Promise<Result<readonly { readonly entry: Entry; readonly name: string }[], ArchiveFault>> {
  const found: { entry: Entry; name: string }[] = [];
  let bytes = 0;
  let packed = 0;
  try {
    if (zip.entryCount > 20 * limits.mostEntries)
      return err({ code: 'archive.too_much', reason: `it holds ${zip.entryCount} entries` });
    for await (const entry of zip.eachEntry()) {
      const name = entryName(entry);
      if (/[\\/]$/.test(name) || LEAVE_OUT.test(name)) continue;
      bytes += entry.uncompressedSize;
      packed += entry.compressedSize;
      found.push({ entry, name });
      if (name.split('/').length > DEEPEST)
        return err({ code: 'archive.too_much', reason: `its folders go deeper than ${DEEPEST}` });
      if (found.length > limits.mostEntries)
        return err({ code: 'archive.too_much', reason: `it holds more than ${limits.mostEntries} files` });
    }
  } catch {
    return err({ code: 'archive.broken', entry: found.at(-1)?.name ?? null });
  }
  if (bytes > limits.mostBytes)
    return err({ code: 'store.no_room', neededBytes: bytes, freeBytes: limits.mostBytes });
  if (bytes > SMALL_BYTES && bytes > MOST_RATIO * packed)
    return err({ code: 'archive.too_much', reason: 'it is packed tighter than sound can be' });
  return ok(found);
}

/** UTF-8 if the entry says so or its bytes are that, else one character a byte. */
function entryName(entry: Entry): string {
  const raw = entry.fileNameRaw;
  const text = raw.toString('utf8');
  return (
    (entry.generalPurposeBitFlag & 0x800) === 0 && text.includes('\ufffd') ? raw.toString('latin1') : text
  ).replace(/\\/g, '/');
}

async function extract(
  zip: ZipFile,
  entry: Entry,
  path: string,
  cancel: CancelSignal | undefined,
  report: (bytes: number) => void,
): Promise<void> {
  if (entry.isEncrypted()) throw new Error('locked');
  let sum = 0;
  let bytes = 0;
  const check = new Transform({
    transform(chunk: Buffer, _encoding, next) {
      if (cancel?.cancelled) return next(new Cancelled());
      sum = crc32(chunk, sum);
      bytes += chunk.length;
      report(bytes);
      next(null, chunk);
    },
    flush: (next) =>
      next(sum === entry.crc32 && bytes === entry.uncompressedSize ? null : new Error('damaged')),
  });
  await pipeline(await zip.openReadStreamPromise(entry), check, createWriteStream(path, { flags: 'wx' }));
}
