import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Op, QueryTypes } from 'sequelize';
import type {
  HandoverView,
  JobKind,
  JobView,
  NewSession,
  RecordingView,
  SessionListItem,
  SessionView,
  Shelf,
} from '@/contracts';
import { readBalance, readSections, readTakes } from '@/contracts';
import { completeFacts } from '@/core/analysis';
import { NO_METADATA, type SoundHeader, type SoundMetadata } from '@/core/audio';
import { keptRecordings, passingRate } from '@/core/session';
import { storedReading } from '@/core/tempo';
import { readConfig } from '../config';
import {
  db,
  HandoverModel,
  inSnapshot,
  isUuid,
  JobModel,
  loadSession,
  RecordingModel,
  SessionModel,
} from '../db';
import { RequestFault } from '../http';
import { sweepBlobs } from './blobs';
import { viewConform } from './conform';
import { applyToSession, stepLabels } from './editing';
import { readStamp } from './events';
import { viewDismissals, viewRelations } from './findings';
import { type OriginalFile, originalsOf } from './in-place';
import { packageDir } from './package-dir';
import { freeBytes } from './room';
import { dropUploads } from './uploads';
import { measuredBy } from './measures';
import { defaultStyleRef, newestVersion, styleOf } from './styles';

/** Makes an empty session; its description is the first line of its log. */
export async function createSession(
  input: Omit<NewSession, 'project'> & { readonly project?: string },
  author: 'person' | 'demo' = 'person',
): Promise<string> {
  const id = randomUUID();
  await db().transaction(async (transaction) => {
    await SessionModel.create(
      { id, name: '', artist: '', notes: '', key: '', project: input.project ?? '', revision: 0 },
      { transaction },
    );
    await applyToSession(
      id,
      [
        { kind: 'session.describe', name: input.name, artist: input.artist, notes: input.notes },
        { kind: 'style.use', style: await defaultStyleRef(transaction) },
      ],
      { label: 'New session', author, undoable: false },
      { transaction },
    );
  });
  return id;
}

/** Where a session stands. */
const shelfOf = (head: { readonly archivedAt: Date | null; readonly deletedAt: Date | null }): Shelf =>
  head.deletedAt !== null ? 'waste' : head.archivedAt !== null ? 'archive' : 'list';

/** All sessions, newest change first, those in the archive and the waste basket too. */
export async function listSessions(): Promise<SessionListItem[]> {
  const rows = await db().query<{
    id: string;
    name: string;
    artist: string;
    project: string;
    revision: number;
    updated_at: Date;
    track_count: string;
    recording_count: string;
    length_seconds: number | null;
    size_bytes: string | null;
    has_map: boolean;
    handover_count: string;
    open_jobs: string;
    last_job_at: Date | null;
    job_progress: number | null;
    archived_at: Date | null;
    deleted_at: Date | null;
    is_demo: boolean;
  }>(
    `select s.id, s.name, s.artist, s.project, s.revision, s.updated_at, s.archived_at, s.deleted_at,
       (select count(*) from tracks t where t.session_id = s.id) track_count,
       (select count(*) from recordings r where r.session_id = s.id) recording_count,
       (select max(r.length_frames::float8 / r.sample_rate_hz) from recordings r where r.session_id = s.id and r.state = 'ready') length_seconds,
       (select sum(r.size_bytes) from recordings r where r.session_id = s.id) size_bytes,
       exists (select 1 from tempo_maps m where m.session_id = s.id and m.in_force) has_map,
       (select count(*) from handovers h where h.session_id = s.id and h.state = 'done') handover_count,
       exists (select 1 from jobs d where d.session_id = s.id and d.kind = 'demo.make') is_demo,
       (select count(*) from jobs j where j.session_id = s.id and j.state in ('queued','running')) open_jobs,
       (select max(j.finished_at) from jobs j where j.session_id = s.id) last_job_at,
       (select j.progress from jobs j where j.session_id = s.id and j.state = 'running' order by j.started_at limit 1) job_progress
     from sessions s order by s.updated_at desc`,
    { type: QueryTypes.SELECT },
  );
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    artist: r.artist,
    project: r.project,
    revision: r.revision,
    trackCount: Number(r.track_count),
    recordingCount: Number(r.recording_count),
    lengthSeconds: r.length_seconds ?? 0,
    sizeBytes: Number(r.size_bytes ?? 0),
    hasMap: r.has_map,
    handoverCount: Number(r.handover_count),
    updatedAt: r.updated_at.toISOString(),
    openJobs: Number(r.open_jobs),
    lastJobAt: r.last_job_at?.toISOString() ?? null,
    jobProgress: r.job_progress,
    shelf: shelfOf({ archivedAt: r.archived_at, deletedAt: r.deleted_at }),
    deletedAt: r.deleted_at?.toISOString() ?? null,
    isDemo: r.is_demo,
  }));
}

/** Everything a page needs of one session, as of one moment. */
export const viewSession = (id: string): Promise<SessionView> => inSnapshot(() => readView(id));

async function readView(id: string): Promise<SessionView> {
  const loaded = await loadSession(id);
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  const recent = {
    [Op.or]: [
      { state: ['queued', 'running'] },
      { finishedAt: { [Op.gt]: new Date(Date.now() - 3_600_000) } },
    ],
  };
  // One after the other: they share the snapshot's connection.
  const recordings = await RecordingModel.findAll({
    where: { sessionId: id },
    order: [
      ['createdAt', 'ASC'],
      ['receivedName', 'ASC'],
    ],
  });
  const jobs = await JobModel.findAll({
    where: { sessionId: id, ...recent },
    order: [['createdAt', 'DESC']],
    limit: 400,
    attributes: { exclude: ['result', 'payload'] },
  });
  const handovers = await HandoverModel.findAll({ where: { sessionId: id }, order: [['number', 'DESC']] });
  const tempo = await JobModel.findOne({
    where: { sessionId: id, kind: 'tempo.detect', state: 'done' },
    order: [['finishedAt', 'DESC']],
  });
  const balance = await JobModel.findOne({
    where: { sessionId: id, kind: 'balance.find', state: 'done' },
    order: [['finishedAt', 'DESC']],
  });
  const sections = await JobModel.findOne({
    where: { sessionId: id, kind: 'sections.find', state: 'done' },
    order: [['finishedAt', 'DESC']],
  });
  const takes = await JobModel.findOne({
    where: { sessionId: id, kind: 'takes.find', state: 'done' },
    order: [['finishedAt', 'DESC']],
  });
  const rate = loaded.session.sampleRateHz;
  const kept = keptRecordings(loaded.session);
  const places = await originalsOf(recordings.map(originalOf).filter((s) => s !== null));
  return {
    id,
    revision: loaded.revision,
    rest: (await readStamp(id)).rest,
    session: loaded.session,
    style: await styleOf(loaded.session),
    styleNewest: await newestVersion(loaded.session),
    recordings: recordings.map((r) => toRecordingView(r, recordings, rate, kept.has(r.id), places)),
    jobs: jobs.map(toJobView),
    jobsElsewhere: jobs.some((j) => j.state === 'queued') ? await openElsewhere(id) : [],
    handovers: handovers.map(toHandoverView),
    conform: await viewConform(id, loaded.session, recordings),
    tempo: tempo?.result ? { jobId: tempo.id, result: storedReading(tempo.result) } : null,
    balance: balance?.result ? readBalance(balance.result) : null,
    sections: sections?.result ? readSections(sections.result) : null,
    takes: takes?.result ? readTakes(takes.result) : null,
    measuredBy: await measuredBy(id),
    relations: await viewRelations(id, recordings),
    dismissals: await viewDismissals(id),
    ...(await stepLabels(id)),
    freeBytes: await freeBytes(),
  };
}

function toRecordingView(
  r: RecordingModel,
  all: readonly RecordingModel[],
  sessionRate: number | null,
  isKept: boolean,
  places: ReadonlyMap<string, OriginalFile>,
): RecordingView {
  const twin =
    r.sha256 === null
      ? undefined
      : all.find(
          (o) =>
            o.id !== r.id &&
            o.sha256 === r.sha256 &&
            o.channelIndex === r.channelIndex &&
            all.indexOf(o) < all.indexOf(r),
        );
  const place = places.get(originalOf(r) ?? '');
  const frames = r.lengthFrames === null ? null : Number(r.lengthFrames);
  return {
    id: r.id,
    receivedName: r.receivedName,
    sizeBytes: Number(r.sizeBytes),
    state: r.state as RecordingView['state'],
    fault: (r.fault as RecordingView['fault']) ?? null,
    sha256: r.sha256,
    sampleRateHz: r.sampleRateHz,
    channels: r.channels,
    encoding: r.encoding,
    bitDepth: r.bitDepth,
    lengthFrames: frames,
    facts: r.facts ? completeFacts(r.facts) : null,
    truePeakDbtp: r.truePeakDbtp,
    notes: r.notes as RecordingView['notes'],
    container: r.container,
    lossy: r.lossy,
    channelIndex: r.channelIndex,
    metadata: (r.metadata as SoundMetadata | null) ?? NO_METADATA,
    warnings: ((r.header as SoundHeader | null)?.warnings ?? []) as RecordingView['warnings'],
    sameAs: twin?.receivedName ?? null,
    passingHz:
      r.sampleRateHz === null ? null : passingRate({ keepsSamples: isKept }, r.sampleRateHz, sessionRate),
    convertedToHz:
      r.convertedRateHz !== null &&
      r.convertedRateHz === sessionRate &&
      r.convertedKept === isKept &&
      r.sampleRateHz !== sessionRate
        ? r.convertedRateHz
        : null,
    sessionFrames:
      frames === null || r.sampleRateHz === null || sessionRate === null
        ? null
        : isKept
          ? frames
          : Math.ceil((frames * sessionRate) / r.sampleRateHz),
    inPlace: place ? { path: place.path, state: place.state } : null,
    heard: (r.heard as RecordingView['heard'] | null) ?? null,
    listened: r.onsetsSha256 !== null || r.container === 'midi',
    hasLevels: r.levelsSha256 !== null,
  };
}

/** When the open jobs of other sessions were asked for. */
async function openElsewhere(id: string): Promise<string[]> {
  const jobs = await JobModel.findAll({
    where: { sessionId: { [Op.or]: [{ [Op.ne]: id }, null] }, state: ['queued', 'running'] },
    order: [['createdAt', 'ASC']],
    limit: 200,
    attributes: ['createdAt'],
  });
  return jobs.map((j) => j.createdAt.toISOString());
}

/** The file as received. */
const originalOf = (r: RecordingModel): string | null => r.originalSha256 ?? r.sha256;

const toJobView = (j: JobModel): JobView => ({
  id: j.id,
  kind: j.kind as JobKind,
  sessionId: j.sessionId,
  subject: j.subject,
  state: j.state as JobView['state'],
  progress: j.progress,
  fault: (j.fault as JobView['fault']) ?? null,
  createdAt: j.createdAt.toISOString(),
  finishedAt: j.finishedAt?.toISOString() ?? null,
});

const toHandoverView = (h: HandoverModel): HandoverView => ({
  id: h.id,
  number: h.number,
  state: h.state as HandoverView['state'],
  jobId: h.jobId,
  sizeBytes: h.sizeBytes === null ? null : Number(h.sizeBytes),
  folderName: h.folderName,
  folderPath: h.state === 'done' ? join(packageDir(h.sessionId, h.id), h.folderName) : null,
  revision: h.revision,
  report: h.report ?? null,
  fault: (h.fault as HandoverView['fault']) ?? null,
  copies: (h.copies as HandoverView['copies'] | null) ?? [],
  createdAt: h.createdAt.toISOString(),
});

/**
 * Deletes a session for good, its packages, and every blob that no other session refers to; only one that lies in the
 * waste basket, since `before` at the latest. Throws `session.not_found`, `session.not_in_waste`.
 */
export async function deleteForGood(id: string, before = new Date()): Promise<void> {
  const waiting = await db().transaction(async (transaction) => {
    const found = isUuid(id)
      ? await SessionModel.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
      : null;
    if (!found) throw new RequestFault({ code: 'session.not_found' });
    // Asked while the row is held: somebody may put it back at this moment.
    if (found.deletedAt === null || found.deletedAt > before)
      throw new RequestFault({ code: 'session.not_in_waste' });
    await JobModel.update(
      { cancelRequested: true },
      { where: { sessionId: id, state: ['queued', 'running'] }, transaction },
    );
    const recordings = await RecordingModel.findAll({
      where: { sessionId: id },
      attributes: ['id'],
      transaction,
    });
    await found.destroy({ transaction });
    return recordings.map((r) => r.id);
  });
  // Bytes go only after the rows are gone for good: a crash here leaves waste, which the next sweep finds.
  await sweepBlobs({ wait: true });
  await rm(join(readConfig().dataDir, 'packages', id), { recursive: true, force: true });
  await dropUploads(waiting);
}
