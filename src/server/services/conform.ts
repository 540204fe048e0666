import { createHash } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import type { AuditionRequest, AuditionView, ConformedTrackView, ConformView, Fault } from '@/contracts';
import { soundingLanes } from '@/core/arrange';
import { attackRank, type ConformWish, planConform } from '@/core/conform';
import { type Lane, lanesOf, type SessionState, soundTracks, type Track } from '@/core/session';
import { ConformFileModel, db, isUuid, JobModel, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { enqueue, type JobPayload, payloadOf } from '../jobs';
import { sweepBlobs } from './blobs';
import { mustFit } from './room';

/** Part of every key: raise it when the same input is to give other bytes. */
const ALGORITHM = 2;
const AUDITION_KEPT_MS = 3_600_000;
const MOST_BARS = 8;

/** One group to render: plain data, so that it can be a job. */
export type RenderRequest = JobPayload<'conform.render'>;

/** Blob of a track's recording at a rate; null while there is none. */
export function blobAtRate(
  r: RecordingModel | undefined,
  rateHz: number | null,
  { keepsSamples }: Pick<Track, 'keepsSamples'>,
): { readonly sha256: string; readonly lengthFrames: number } | null {
  if (r?.state !== 'ready' || !r.sha256) return null;
  if (r.sampleRateHz === rateHz) return { sha256: r.sha256, lengthFrames: Number(r.lengthFrames) };
  const converted = (r.header as { converted?: { lengthFrames: number } } | null)?.converted;
  return r.convertedRateHz === rateHz && r.convertedKept === keepsSamples && r.convertedSha256 && converted
    ? { sha256: r.convertedSha256, lengthFrames: converted.lengthFrames }
    : null;
}

/** What a lane of a track sounds from: a file at the session's rate, by the hash of its bytes. */
export interface TrackSound {
  readonly trackId: string;
  readonly laneId: string;
  readonly sha256: string;
  readonly channels: number;
  readonly lengthFrames: number;
}

/** The tracks' recordings, of the lanes that sound unless others are wanted; those whose sound is not there yet are left out. */
export function playedSounds(
  session: SessionState,
  recordings: readonly RecordingModel[],
  lanesWanted: (track: Track) => readonly Lane[] = soundingLanes,
): TrackSound[] {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  return soundTracks(session).flatMap((track) =>
    lanesWanted(track).flatMap((lane): TrackSound[] => {
      const recording = byId.get(lane.recordingId);
      const blob = blobAtRate(recording, session.sampleRateHz, lane);
      return blob && recording?.channels != null
        ? [{ trackId: track.id, laneId: lane.id, channels: recording.channels, ...blob }]
        : [];
    }),
  );
}

/** The same as conformed by the session's settings. */
export async function conformedSounds(
  sessionId: string,
  session: SessionState,
  recordings: readonly RecordingModel[],
): Promise<TrackSound[]> {
  if (!session.conform) return [];
  const requests = renderRequests(session, recordings, session.conform);
  const present = await presentKeys(sessionId, keysOf(requests));
  return requests.flatMap((r) =>
    r.sources.flatMap(({ trackId, laneId, key }): TrackSound[] => {
      const row = present.get(key);
      return row
        ? [
            {
              trackId,
              laneId,
              sha256: row.sha256,
              channels: row.channels,
              lengthFrames: Number(row.lengthFrames),
            },
          ]
        : [];
    }),
  );
}

/** The groups that these settings ask for; members whose sound is not there yet are left out. With `only`, just these tracks. */
export function renderRequests(
  session: SessionState,
  recordings: readonly RecordingModel[],
  settings: ConformWish,
  part: { readonly excerpt: RenderRequest['excerpt']; readonly only: ReadonlySet<string> | null } = {
    excerpt: null,
    only: null,
  },
): RenderRequest[] {
  const plan = planConform(session, settings);
  if (!plan) return [];
  const byId = new Map(recordings.map((r) => [r.id, r]));
  return plan.groups.flatMap((group): RenderRequest[] => {
    const members = group.trackIds.flatMap((id) => {
      const track = session.nodes[id] as Track;
      return soundingLanes(track).flatMap((lane) => {
        const blob =
          part.only?.has(id) === false
            ? null
            : blobAtRate(byId.get(lane.recordingId), session.sampleRateHz, lane);
        return blob ? [{ track, lane, blob }] : [];
      });
    });
    if (members.length === 0) return [];
    const pegs = group.method === 'still' ? [{ played: 0, conformed: 0 }] : plan.warp.pegs;
    const basis = {
      algorithm: ALGORITHM,
      method: group.method,
      block: group.method === 'held' ? group.block : null,
      pegs,
      excerpt: part.excerpt,
      sources: members.map((m) => [m.blob.sha256, m.lane.startFrames, attackRank(m.track.part)]),
    };
    const names = [...new Set(members.map((m) => m.track.name))];
    return [
      {
        method: group.method,
        block: group.block,
        pegs,
        excerpt: part.excerpt,
        subject:
          names.length > 3
            ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`
            : names.join(', '),
        sources: members.map(({ track, lane, blob }, i) => ({
          trackId: track.id,
          laneId: lane.id,
          sha256: blob.sha256,
          startFrames: lane.startFrames,
          rank: attackRank(track.part),
          key: createHash('sha256')
            .update(JSON.stringify({ ...basis, i }))
            .digest('hex'),
        })),
      },
    ];
  });
}

const keysOf = (requests: readonly RenderRequest[]): string[] =>
  requests.flatMap((r) => r.sources.map((s) => s.key));

async function presentKeys(
  sessionId: string,
  keys: readonly string[],
  transaction?: Transaction,
): Promise<Map<string, ConformFileModel>> {
  const rows =
    keys.length === 0
      ? []
      : await ConformFileModel.findAll({ where: { sessionId, key: [...keys] }, transaction });
  return new Map(rows.map((r) => [r.key, r]));
}

/** Queues what the session's settings ask for and what is neither there nor under way; nothing is made twice, as results are named by their content. */
export async function enqueueConforming(
  sessionId: string,
  session: SessionState,
  transaction: Transaction,
): Promise<void> {
  if (!session.conform) return;
  const recordings = await RecordingModel.findAll({ where: { sessionId }, transaction });
  const requests = renderRequests(session, recordings, session.conform);
  const present = await presentKeys(sessionId, keysOf(requests), transaction);
  const open = await JobModel.findAll({
    where: { sessionId, kind: 'conform.render', state: ['queued', 'running'] },
    transaction,
  });
  const busy = new Set(open.flatMap((j) => keysOf([payloadOf('conform.render', j.payload) ?? []].flat())));
  // Big groups first: they take longest.
  for (const request of [...requests].sort((a, b) => b.sources.length - a.sources.length))
    if (request.sources.some((s) => !present.has(s.key) && !busy.has(s.key)))
      await enqueue(
        { kind: 'conform.render', sessionId, subject: request.subject, payload: request },
        transaction,
      );
}

/** Refuses settings whose results would not fit on the disk: 32 bit float, what is there already not counted. */
export async function mustFitConforming(
  sessionId: string,
  session: SessionState,
  transaction: Transaction,
): Promise<void> {
  const plan = session.conform && planConform(session, session.conform);
  if (!session.conform || !plan || session.sampleRateHz === null) return;
  const recordings = await RecordingModel.findAll({ where: { sessionId }, transaction });
  const requests = renderRequests(session, recordings, session.conform);
  const present = await presentKeys(sessionId, keysOf(requests), transaction);
  const byId = new Map(recordings.map((r) => [r.id, r]));
  let bytes = 0;
  for (const { trackId, laneId, key, startFrames } of requests.flatMap((r) => r.sources)) {
    const lane = lanesOf(session.nodes[trackId] as Track).find((l) => l.id === laneId) as Lane;
    const recording = byId.get(lane.recordingId);
    const blob = blobAtRate(recording, session.sampleRateHz, lane);
    if (blob && !present.has(key))
      bytes +=
        plan.warp.toConformed((startFrames + blob.lengthFrames) / session.sampleRateHz) *
        session.sampleRateHz *
        (recording?.channels ?? 1) *
        4;
  }
  if (bytes > 0) await mustFit(bytes);
}

/** Whether a session still wants a result: settings may have changed while its job waited. */
export async function isWanted(sessionId: string, request: RenderRequest): Promise<boolean> {
  const loaded = await loadSession(sessionId);
  if (!loaded?.session.conform) return false;
  const wanted = new Set(
    keysOf(
      renderRequests(
        loaded.session,
        await RecordingModel.findAll({ where: { sessionId } }),
        loaded.session.conform,
      ),
    ),
  );
  return request.sources.every((s) => wanted.has(s.key));
}

const trackView = (
  { trackId, laneId }: Pick<RenderRequest['sources'][number], 'trackId' | 'laneId'>,
  row: ConformFileModel,
): ConformedTrackView => ({
  trackId,
  laneId,
  key: row.key,
  lengthFrames: Number(row.lengthFrames),
  matchDb: row.matchDb,
});

/** What of a session's conforming is there; null when nothing is asked for. */
export async function viewConform(
  sessionId: string,
  session: SessionState,
  recordings: readonly RecordingModel[],
): Promise<ConformView | null> {
  if (!session.conform) return null;
  const requests = renderRequests(session, recordings, session.conform);
  const present = await presentKeys(sessionId, keysOf(requests));
  return {
    ready: requests.flatMap((r) =>
      r.sources.flatMap((s) => {
        const row = present.get(s.key);
        return row ? [trackView(s, row)] : [];
      }),
    ),
    // Notes follow the map by themselves: there is nothing to render of them.
    wanted: soundTracks(session).flatMap(soundingLanes).length,
  };
}

/** Starts rendering a few bars of a few tracks at another tempo; returns the job's id. */
export async function startAudition(sessionId: string, asked: AuditionRequest): Promise<string> {
  return db()
    .transaction(async (transaction) => {
      const loaded = await loadSession(sessionId, transaction);
      if (!loaded) throw new RequestFault({ code: 'session.not_found' });
      const { session } = loaded;
      const plan = planConform(session, asked);
      const rate = session.sampleRateHz;
      if (!plan || rate === null) throw new RequestFault({ code: 'tempo.no_map' });
      const longest =
        plan.conformed.tempo.toSeconds(plan.conformed.meters.barToQuarters(MOST_BARS + 1)) -
        plan.conformed.tempo.toSeconds(0);
      const to = Math.min(asked.toSeconds, asked.fromSeconds + longest);
      const recordings = await RecordingModel.findAll({ where: { sessionId }, transaction });
      const requests = renderRequests(session, recordings, asked, {
        excerpt: { from: Math.round(asked.fromSeconds * rate), to: Math.round(to * rate) },
        only: new Set(asked.trackIds),
      });
      if (requests.length === 0) throw new RequestFault({ code: 'delivery.not_ready' });
      // Yesterday's auditions are waste; what is waiting is not what the person wants any more.
      await ConformFileModel.destroy({
        where: { sessionId, excerpt: true, createdAt: { [Op.lt]: new Date(Date.now() - AUDITION_KEPT_MS) } },
        transaction,
      });
      await JobModel.update(
        { cancelRequested: true },
        { where: { sessionId, kind: 'conform.audition', state: ['queued', 'running'] }, transaction },
      );
      return enqueue(
        { kind: 'conform.audition', sessionId, subject: session.name, payload: { requests } },
        transaction,
      );
    })
    .then(async (id) => {
      await sweepBlobs({ wait: false });
      return id;
    });
}

/** How far an audition is, and what can be played of it. */
export async function viewAudition(jobId: string): Promise<AuditionView> {
  db();
  const job = isUuid(jobId) ? await JobModel.findByPk(jobId) : null;
  if (job?.kind !== 'conform.audition' || job.sessionId === null)
    throw new RequestFault({ code: 'request.not_found' });
  const requests = payloadOf('conform.audition', job.payload)?.requests ?? [];
  const present =
    job.state === 'done'
      ? await presentKeys(job.sessionId, keysOf(requests))
      : new Map<string, ConformFileModel>();
  return {
    state: job.state as AuditionView['state'],
    tracks: requests.flatMap((r) =>
      r.sources.flatMap((s) => {
        const row = present.get(s.key);
        return row ? [trackView(s, row)] : [];
      }),
    ),
    startFrames: requests[0]?.excerpt?.from ?? 0,
    fault: (job.fault as Fault | null) ?? null,
  };
}

/** Asks again for what is missing (cancelled, failed). */
export async function resumeConforming(sessionId: string): Promise<void> {
  await db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction);
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    await mustFitConforming(sessionId, loaded.session, transaction);
    await enqueueConforming(sessionId, loaded.session, transaction);
  });
}
