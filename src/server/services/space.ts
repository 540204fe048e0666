import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import type { CleanRequest, SpaceView } from '@/contracts';
import { keptRecordings, type SessionState } from '@/core/session';
import { readConfig } from '../config';
import {
  ConformFileModel,
  db,
  HandoverModel,
  isUuid,
  JobModel,
  loadSession,
  RecordingModel,
  SessionModel,
} from '../db';
import { RequestFault } from '../http';
import { sweepBlobs } from './blobs';
import { renderRequests } from './conform';
import { originalsOf } from './in-place';
import { packageDir } from './package-dir';
import { freeBytes } from './room';

/** What a session takes on this disk; a file that two of its tracks share counts once. */
export async function viewSpace(sessionId: string): Promise<SpaceView> {
  db();
  const loaded = await loadSession(sessionId);
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  const recordings = await RecordingModel.findAll({ where: { sessionId } });
  const wanted = wantedKeys(loaded.session, recordings);
  const files = await ConformFileModel.findAll({ where: { sessionId } });
  const sizes = await blobSizes([
    ...recordings.flatMap((r) => [
      r.sha256,
      r.originalSha256,
      r.peaksSha256,
      r.onsetsSha256,
      r.sketchSha256,
      r.levelsSha256,
      r.convertedSha256,
    ]),
    ...files.map((f) => f.sha256),
  ]);
  const places = await originalsOf([...sizes.keys()]);
  const total = (shas: readonly (string | null)[], inPlace: boolean): number =>
    [...new Set(shas)].reduce(
      (n, sha) => n + (sha === null || places.has(sha) !== inPlace ? 0 : (sizes.get(sha) ?? 0)),
      0,
    );
  const sum = (shas: readonly (string | null)[]): number => total(shas, false);
  const packages = await HandoverModel.findAll({
    where: { sessionId, state: 'done' },
    order: [['number', 'DESC']],
  });
  const superfluous = files.filter((f) => !wanted.has(f.key));
  const leftCopies = recordings.filter((r) => isLeftCopy(r, loaded.session, keptRecordings(loaded.session)));
  return {
    originalsBytes: sum(recordings.map((r) => r.originalSha256 ?? r.sha256)),
    inPlaceBytes: total(
      recordings.map((r) => r.originalSha256 ?? r.sha256),
      true,
    ),
    analysisBytes: sum(
      recordings.flatMap((r) => [r.peaksSha256, r.onsetsSha256, r.sketchSha256, r.levelsSha256]),
    ),
    convertedBytes: sum(
      recordings.flatMap((r) => [
        r.originalSha256 ? r.sha256 : null,
        leftCopies.includes(r) ? null : r.convertedSha256,
      ]),
    ),
    conformedBytes: sum(files.filter((f) => wanted.has(f.key)).map((f) => f.sha256)),
    leftoverBytes: sum([...superfluous.map((f) => f.sha256), ...leftCopies.map((r) => r.convertedSha256)]),
    packages: packages.map((h) => ({ id: h.id, number: h.number, sizeBytes: Number(h.sizeBytes ?? 0) })),
    freeBytes: await freeBytes(),
  };
}

/** A copy made for a rate that the session has left again. */
const isLeftCopy = (r: RecordingModel, { sampleRateHz }: SessionState, kept: ReadonlySet<string>): boolean =>
  r.convertedSha256 !== null &&
  (r.sampleRateHz === sampleRateHz ||
    r.convertedRateHz !== sampleRateHz ||
    r.convertedKept !== kept.has(r.id));

/** Names of the conformed files the session asks for as it is now. */
function wantedKeys(session: SessionState, recordings: readonly RecordingModel[]): ReadonlySet<string> {
  return new Set(
    session.conform
      ? renderRequests(session, recordings, session.conform).flatMap((r) => r.sources.map((s) => s.key))
      : [],
  );
}

async function blobSizes(shas: readonly (string | null)[]): Promise<ReadonlyMap<string, number>> {
  const names = [...new Set(shas.filter((s) => s !== null))];
  if (names.length === 0) return new Map();
  const rows = await db().query<{ sha256: string; size_bytes: string }>(
    'select sha256, size_bytes from blobs where sha256 in (:names)',
    { replacements: { names }, type: QueryTypes.SELECT },
  );
  return new Map(rows.map((r) => [r.sha256, Number(r.size_bytes)]));
}

/** Removes what can be made again, and the packages named; originals and the history stay. Refused while jobs of the session are at work. */
export async function cleanSession(sessionId: string, asked: CleanRequest): Promise<void> {
  const gone = await db().transaction(async (transaction) => {
    const head = isUuid(sessionId)
      ? await SessionModel.findByPk(sessionId, { transaction, lock: transaction.LOCK.UPDATE })
      : null;
    const loaded = head ? await loadSession(sessionId, transaction) : null;
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    if ((await JobModel.count({ where: { sessionId, state: ['queued', 'running'] }, transaction })) > 0)
      throw new RequestFault({ code: 'session.busy' });
    const recordings = await RecordingModel.findAll({ where: { sessionId }, transaction });
    const wanted = asked.conformed ? new Set<string>() : wantedKeys(loaded.session, recordings);
    if (asked.leftovers || asked.conformed) {
      const files = await ConformFileModel.findAll({
        where: { sessionId },
        attributes: ['key'],
        transaction,
      });
      await ConformFileModel.destroy({
        where: { sessionId, key: files.map((f) => f.key).filter((key) => !wanted.has(key)) },
        transaction,
      });
    }
    if (asked.leftovers)
      for (const r of recordings)
        if (isLeftCopy(r, loaded.session, keptRecordings(loaded.session)))
          await r.update({ convertedSha256: null, convertedRateHz: null }, { transaction });
    const packages =
      asked.packages.length === 0
        ? []
        : await HandoverModel.findAll({
            where: { sessionId, id: asked.packages.filter(isUuid), state: 'done' },
            transaction,
          });
    // The row stays: its number is never given again, and the history says that it was.
    for (const h of packages) await h.update({ state: 'removed' }, { transaction });
    return packages.map((h) => packageDir(sessionId, h.id));
  });
  // Bytes go only after their rows are gone for good: a crash here leaves waste, never a dangling row.
  for (const folder of gone) await rm(folder, { recursive: true, force: true });
  await sweepBlobs({ wait: true });
}

/** Removes folders of packages that no row speaks of: left by a crash between rows and bytes. */
export async function sweepPackages(): Promise<void> {
  const root = join(readConfig().dataDir, 'packages');
  const list = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);
  const folders: { readonly id: string; readonly path: string }[] = [];
  for (const sessionId of await list(root))
    for (const id of await list(join(root, sessionId))) folders.push({ id, path: join(root, sessionId, id) });
  // Asked after the folders were seen: a package's row is there before its folder.
  const kept = new Set(
    (await HandoverModel.findAll({ where: { state: ['building', 'done'] }, attributes: ['id'] })).map(
      (h) => h.id,
    ),
  );
  for (const folder of folders)
    if (!kept.has(folder.id)) await rm(folder.path, { recursive: true, force: true });
}
