import { lstat, readdir, stat } from 'node:fs/promises';
import { basename, join, relative } from 'node:path';
import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { InPlaceState } from '@/contracts';
import { isSoundName } from '@/core/audio';
import { db, InPlaceFileModel, isUuid, RecordingModel, SessionModel } from '../db';
import { RequestFault } from '../http';
import { mustExist } from './exists';
import { enqueue } from '../jobs';
import { blobStore } from '../storage';
import { allowedFile, allowedFolder } from './folders';
import { mustFit } from './room';
import { MAX_FILES_PER_SESSION, receivedName } from './uploads';

/** How a file looked: what tells at a glance that it is another now. */
export interface FileLook {
  readonly sizeBytes: number;
  readonly modifiedMs: number;
}

/** How a file looks; null = not there, not a file, or not in an allowed folder any more. */
export async function lookOf(path: string): Promise<FileLook | null> {
  // A link put in its place later leads elsewhere: the path kept is the real one.
  if ((await allowedFile(path).catch(() => null)) !== path) return null;
  const s = await stat(path).catch(() => null);
  return s?.isFile() ? { sizeBytes: s.size, modifiedMs: Math.floor(s.mtimeMs) } : null;
}

async function stateOf(row: InPlaceFileModel): Promise<InPlaceState> {
  const look = await lookOf(row.path);
  if (!look) return 'missing';
  if (look.sizeBytes !== Number(row.sizeBytes)) return 'changed';
  return look.modifiedMs === Number(row.modifiedMs) ? 'there' : 'touched';
}

/** A blob that lies where it was found. */
export interface OriginalFile {
  readonly sha256: string;
  readonly path: string;
  readonly state: InPlaceState;
  readonly sizeBytes: number;
}

/** Those of these blobs that lie outside the store, and how they are now. */
export async function originalsOf(
  shas: readonly string[],
  transaction?: Transaction,
): Promise<ReadonlyMap<string, OriginalFile>> {
  db();
  const rows =
    shas.length === 0
      ? []
      : await InPlaceFileModel.findAll({ where: { sha256: [...new Set(shas)] }, transaction });
  const places = await Promise.all(
    rows.map(async (row): Promise<OriginalFile | null> =>
      (await blobStore().has(row.sha256))
        ? null
        : { sha256: row.sha256, path: row.path, state: await stateOf(row), sizeBytes: Number(row.sizeBytes) },
    ),
  );
  return new Map(places.filter((p) => p !== null).map((p) => [p.sha256, p]));
}

/** Where the bytes of blobs lie; those in place only while they look as they did. */
export async function pathsOf(shas: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const places = await originalsOf(shas);
  const paths = new Map<string, string>();
  for (const sha of shas) {
    const place = places.get(sha);
    if (!place) paths.set(sha, await blobStore().localCopy(sha));
    else if (place.state === 'there') paths.set(sha, place.path);
  }
  return paths;
}

/** Notes that a blob lies at a path, looking so. */
export async function keepOriginal(
  sha256: string,
  path: string,
  { sizeBytes, modifiedMs }: FileLook,
  transaction?: Transaction,
): Promise<void> {
  await InPlaceFileModel.upsert({ sha256, path, sizeBytes, modifiedMs }, { transaction });
}

/** The bytes of a blob are in the store now. */
export async function forgetOriginal(sha256: string, transaction?: Transaction): Promise<void> {
  await InPlaceFileModel.destroy({ where: { sha256 }, transaction });
}

const MOST_SEARCHED = 50_000;
const DEEPEST = 16;

/** The files under a folder, links left aside, hidden ones too; at most {@link MOST_SEARCHED} entries are looked at. The folder has to be an allowed one. */
export async function filesUnder(folder: string): Promise<readonly string[]> {
  const files: string[] = [];
  let left = MOST_SEARCHED;
  const walk = async (at: string, depth: number): Promise<void> => {
    if (depth > DEEPEST) return;
    const entries = (await readdir(at, { withFileTypes: true }).catch(() => []))
      .filter((e) => !e.name.startsWith('.'))
      .sort((a, b) => (a.name < b.name ? -1 : 1));
    for (const e of entries) {
      left -= 1;
      if (left < 0) return;
      if (e.isFile()) files.push(join(at, e.name));
      else if (e.isDirectory()) await walk(join(at, e.name), depth + 1);
    }
  };
  await walk(folder, 0);
  return files;
}

/** Takes files of allowed folders in without copying them; of a folder all that are called like recordings. Files the session uses already are left out. Returns how many were taken. */
export async function importInPlace(
  sessionId: string,
  paths: readonly string[],
): Promise<{ readonly taken: number; readonly known: number }> {
  db();
  const wanted: { readonly path: string; readonly name: string }[] = [];
  for (const asked of paths) {
    const isFolder = (await lstat(asked).catch(() => null))?.isDirectory() ?? false;
    if (isFolder) {
      const root = await allowedFolder(asked);
      for (const path of await filesUnder(root))
        if (isSoundName(path)) wanted.push({ path, name: join(basename(root), relative(root, path)) });
    } else {
      const path = await allowedFile(asked);
      wanted.push({ path, name: basename(path) });
    }
  }
  if (wanted.length === 0) throw new RequestFault({ code: 'folder.no_recordings' });
  return db().transaction(async (transaction) => {
    if (
      !isUuid(sessionId) ||
      !(await SessionModel.findByPk(sessionId, { transaction, lock: transaction.LOCK.UPDATE }))
    )
      throw new RequestFault({ code: 'session.not_found' });
    const rows = await RecordingModel.findAll({
      where: { sessionId },
      attributes: ['sourcePath', 'sha256', 'originalSha256', 'state'],
      transaction,
    });
    const places = await originalsOf(
      rows.map((r) => r.originalSha256 ?? r.sha256).filter((s) => s !== null),
      transaction,
    );
    const isGood = (r: RecordingModel): boolean =>
      r.state !== 'failed' && (places.get(r.originalSha256 ?? r.sha256 ?? '')?.state ?? 'there') === 'there';
    const known = new Set(rows.filter(isGood).map((r) => r.sourcePath));
    const fresh = [...new Map(wanted.filter((w) => !known.has(w.path)).map((w) => [w.path, w])).values()];
    if (rows.length + fresh.length > MAX_FILES_PER_SESSION)
      throw new RequestFault({ code: 'upload.too_many' });
    for (const { path, name } of fresh) {
      const look = await lookOf(path);
      if (!look) throw new RequestFault({ code: 'file.missing', path });
      const id = randomUUID();
      await RecordingModel.create(
        {
          id,
          sessionId,
          receivedName: receivedName(name),
          sizeBytes: look.sizeBytes,
          state: 'waiting',
          sourcePath: path,
        },
        { transaction },
      );
      await enqueue(
        {
          kind: 'recording.arrive',
          sessionId,
          subject: receivedName(name),
          payload: { recordingId: id, path, inPlace: true, depth: 0 },
        },
        transaction,
      );
    }
    return { taken: fresh.length, known: wanted.length - fresh.length };
  });
}

/** The files a session uses in place. */
export async function sessionOriginals(sessionId: string): Promise<readonly OriginalFile[]> {
  await mustExist(sessionId);
  const rows = await RecordingModel.findAll({
    where: { sessionId },
    attributes: ['sha256', 'originalSha256'],
  });
  return [
    ...(
      await originalsOf(rows.flatMap((r) => [r.sha256, r.originalSha256]).filter((s) => s !== null))
    ).values(),
  ];
}

/** Begins to look for files that are not where they were, or not as they were: where they were and, if given, in an allowed folder and all below it. */
export async function startFinding(sessionId: string, folder: string | null): Promise<void> {
  const real = folder === null ? null : await allowedFolder(folder);
  const lost = (await sessionOriginals(sessionId)).filter((p) => p.state !== 'there');
  if (lost.length === 0) return;
  await db().transaction((transaction) =>
    enqueue(
      {
        kind: 'places.find',
        sessionId,
        subject: lost.length === 1 ? basename(lost[0]?.path ?? '') : `${lost.length} files`,
        payload: { folder: real },
      },
      transaction,
    ),
  );
}

/** Begins to copy everything a session uses in place into the store. */
export async function startCopyingIn(sessionId: string): Promise<void> {
  const places = await sessionOriginals(sessionId);
  if (places.length === 0) return;
  await mustFit(places.reduce((sum, p) => sum + p.sizeBytes, 0));
  await db().transaction((transaction) =>
    enqueue(
      {
        kind: 'places.copy-in',
        sessionId,
        subject: places.length === 1 ? basename(places[0]?.path ?? '') : `${places.length} files`,
        payload: {},
      },
      transaction,
    ),
  );
}
