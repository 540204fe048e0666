import type { ArrivalFacts } from '@/core/analysis';
import type { SoundMetadata } from '@/core/audio';
import { mkdir, rm } from 'node:fs/promises';
import { readNames } from '@/core/naming';
import { checkFactsOf, type Fault, faultText, VERSION } from '@/contracts';
import { soundingLanes } from '@/core/arrange';
import {
  checkSession,
  type CoverNoteFacts,
  type PackagePlan,
  handedLanes,
  planPackage,
  type PackageSource,
  type PlannedTake,
  PLAYED_BASE,
  type ReceivedFile,
} from '@/core/delivery';
import { asConformed, conformedFacts } from '@/core/conform';
import { gainsAsLevels } from '@/core/matching';
import {
  isTrack,
  type JoinedSide,
  lanesOf,
  noteTracks,
  repitch,
  soundTracks,
  tracksInOrder,
  type SessionState,
} from '@/core/session';
import type { HouseStyle } from '@/core/style';
import { type PackageCheck, type PackagePart, runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { db, HandoverModel, inSnapshot, isDatabaseAway, loadSession, RecordingModel } from '@/server/db';
import { RequestFault } from '@/server/http';
import type { JobHandler } from '@/server/jobs';
import {
  conformedSounds,
  enqueueCopy,
  packageDir,
  playedSounds,
  styleOf,
  type TrackSound,
  viewHits,
  viewSession,
  pastState,
} from '@/server/services';
import { soundPaths } from '../sound-paths';

/** Writes a package, reads it back, compares it with its plan; only then it is called done. */
export const packageBuild: JobHandler<'package.build'> = async ({ payload, progress, cancel }) => {
  const { handoverId, contents, folder } = payload;
  const conforms = contents !== 'played';
  const row = await HandoverModel.findByPk(handoverId);
  if (!row || row.state !== 'building') return {};
  const outDir = packageDir(row.sessionId, row.id);
  const fail = async (fault: Fault): Promise<{ fault: Fault }> => {
    await HandoverModel.update({ state: 'failed', fault }, { where: { id: row.id } });
    await rm(outDir, { recursive: true, force: true });
    return { fault };
  };
  const read = await inSnapshot(() => readForPackage(row.sessionId, conforms));
  if (!read) return fail({ code: 'session.not_found' });
  const { loaded, worked, view, session, recordings, style, sounds } = read;
  const { sources, blobs } = sourcesOf(sounds);
  if (conforms && sources.length < soundTracks(session).flatMap(soundingLanes).length)
    return fail({ code: 'conform.not_ready' });
  const planned = planPackage(session, sources, style, row.folderName, { worked });
  if (!planned.ok) return fail({ ...planned.error });
  try {
    // A killed attempt may have left half a package: begin again, with the same bytes.
    await rm(outDir, { recursive: true, force: true });
    await mkdir(outDir, { recursive: true });
    const played = contents === 'both' ? await playedPart(worked, recordings, style, row.folderName) : null;
    const checks = checkSession(
      session,
      planned.value,
      checkFactsOf(view, await viewHits(row.sessionId), readNames),
    );
    const { built, checks: readBack } = await runTask(
      'package',
      {
        plan: planned.value,
        session,
        sourcePaths: await pathsFor(blobs),
        ...(await notesOf(loaded.session, recordings)),
        received: receivedOf(loaded.session, recordings),
        outDir,
        played,
        style,
        version: VERSION,
        note: {
          conformed: conforms ? conformedFacts(loaded.session) : null,
          holdsPlayed: contents === 'both',
          day: row.createdAt.toISOString().slice(0, 10),
          number: row.number,
          checks,
          received: read.received,
          worked,
          recordingFrames: Object.fromEntries(
            view.recordings.flatMap((r) => (r.sessionFrames === null ? [] : [[r.id, r.sessionFrames]])),
          ),
          absent: absentFrom(planned.value, played?.plan.takes ?? planned.value.takes, read, recordings),
          joined: tracksInOrder(session)
            .filter((t) => recordings.some((r) => r.id === t.recordingId && r.madeFrom !== null))
            .map((t) => t.name),
          ...otherRates(session, recordings),
        },
      },
      { threadPath: readConfig().threadPath, progress, cancel },
    );
    // A file used in place could have been written over meanwhile.
    await pathsFor(blobs);
    const verified = [...readBack, allTracks(read, planned.value)];
    const failed = verified.filter((c) => !c.pass);
    if (failed.length > 0)
      return await fail({
        code: 'delivery.check_failed',
        failed: failed.map((c) => `${c.title}: ${c.figure}`),
      });
    const report = {
      conformedTo: conforms ? (session.conform?.bpm ?? null) : null,
      holdsPlayed: contents === 'both',
      checks: verified,
      files: built.files.map((f) => ({ path: f.path, sizeBytes: f.sizeBytes })),
      overs: built.overs,
    };
    await db().transaction(async (transaction) => {
      await HandoverModel.update(
        {
          state: 'done',
          report,
          sizeBytes: built.files.reduce((n, f) => n + f.sizeBytes, 0),
          revision: loaded.revision,
        },
        { where: { id: row.id }, transaction },
      );
      if (folder !== null) await enqueueCopy(row, folder, transaction);
    });
    return {};
  } catch (cause) {
    if (isDatabaseAway(cause)) throw cause;
    if (cause instanceof RequestFault) return await fail(cause.fault);
    const { code } = await fail({
      code:
        (cause as NodeJS.ErrnoException).code === 'ENOSPC'
          ? 'store.disk_full'
          : cancel.cancelled
            ? 'job.cancelled'
            : 'internal',
    }).then((f) => f.fault);
    if (code === 'store.disk_full') return { fault: { code } };
    throw cause;
  }
};

/** All that a package is made from, as of one revision; null when there is no such session. Within one snapshot. */
async function readForPackage(sessionId: string, conforms: boolean) {
  const loaded = await loadSession(sessionId);
  if (!loaded) return null;
  const view = await viewSession(sessionId);
  const style = await styleOf(loaded.session);
  const worked = asHandedOver(loaded.session, style);
  const session = conforms ? asConformed(worked) : worked;
  const recordings = await RecordingModel.findAll({ where: { sessionId } });
  return {
    loaded,
    worked,
    view,
    session,
    recordings,
    style,
    sounds: conforms
      ? await conformedSounds(sessionId, loaded.session, recordings)
      : playedSounds(session, recordings, (track) => handedLanes(track, style)),
    received: await pastState(sessionId, 0),
    /** The session as its log tells it: another way to the same than its rows. */
    logged: await pastState(sessionId, loaded.revision),
  };
}

/** Gains of pieces are levels in a package where the house wants its files as recorded. */
const asHandedOver = (session: SessionState, { matching }: HouseStyle): SessionState =>
  matching.inFiles ? session : gainsAsLevels(session);

/** What was received and is not in a package, with the reason in words. What was made here is not received, and both sides of a pair are in the sound they were joined to. */
function absentFrom(
  { files, notes }: PackagePlan,
  takes: readonly PlannedTake[],
  { session, received }: { readonly session: SessionState; readonly received: SessionState },
  recordings: readonly RecordingModel[],
): CoverNoteFacts['absent'] {
  const packed = new Set([...files, ...notes].map((f) => f.trackId));
  const taken = new Set(takes.map((t) => t.laneId));
  const tracks = tracksInOrder(session).filter((t) => packed.has(t.id));
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const here = new Map(
    tracks.flatMap((t) => {
      const sides = (byId.get(t.recordingId)?.madeFrom as readonly JoinedSide[] | null | undefined) ?? [];
      const handed = lanesOf(t).filter((l) => taken.has(l.id));
      return [...soundingLanes(t), ...handed, ...sides].map((s) => [s.recordingId, t.name] as const);
    }),
  );
  const sounds = new Map(
    recordings.flatMap((r) => (r.sha256 !== null && here.has(r.id) ? [[soundKey(r), r.id] as const] : [])),
  );
  const replacedBy = new Map(
    tracks.flatMap((t) => {
      const then = received.nodes[t.id];
      const isThere = isTrack(then) && lanesOf(t).some((lane) => lane.recordingId === then.recordingId);
      return isTrack(then) && !isThere ? [[then.recordingId, t.name] as const] : [];
    }),
  );
  const nameOfRecording = new Map(
    tracks.flatMap((t) => lanesOf(t).map((lane) => [lane.recordingId, t.name] as const)),
  );
  const reasonOf = (r: RecordingModel): string => {
    const text = (r.fault as Fault | null)?.text;
    if (typeof text === 'string' && session.notes.includes(text))
      return 'a text; it stands above, as the notes.';
    if (r.state === 'failed') return faultText((r.fault as Fault | null) ?? { code: 'file.unreadable' });
    if (r.state !== 'ready') return 'it was still arriving when this package was built.';
    const same = r.sha256 === null ? undefined : sounds.get(soundKey(r));
    if (same !== undefined)
      return `the same recording as “${here.get(same) ?? ''}”, which is here; taken out.`;
    const trackName = nameOfRecording.get(r.id);
    if (trackName !== undefined) return `another take of “${trackName}”, of which nothing sounds.`;
    const later = replacedBy.get(r.id);
    if (later !== undefined) return `a later recording took its place: “${later}”.`;
    if ((r.facts as ArrivalFacts | null)?.peakDbfs === null) return 'there is no sound in it; taken out.';
    return r.container === 'midi' && r.notes === null
      ? 'it holds no notes, only tempo, meters or places.'
      : 'taken out of the session; its file is kept.';
  };
  return recordings
    .filter((r) => !here.has(r.id) && r.madeFrom === null)
    .map((r) => ({ name: r.receivedName, reason: reasonOf(r) }));
}

/** What two files of the same sound share; of a file with many channels each is a sound of its own. */
const soundKey = (r: RecordingModel): string => `${r.sha256} ${r.channelIndex ?? ''}`;

/** Whether every track that the log of the session has at this revision is in the package. */
function allTracks(
  { loaded, logged }: { readonly loaded: { readonly revision: number }; readonly logged: SessionState },
  { files, notes }: PackagePlan,
): PackageCheck {
  const packed = new Set([...files, ...notes].map((f) => f.trackId));
  const tracks = tracksInOrder(logged);
  const missing = tracks.filter((t) => !packed.has(t.id));
  return {
    code: 'all-tracks',
    pass: missing.length === 0,
    title: `Every track of the session as of step ${loaded.revision} is in the package`,
    figure:
      missing.length === 0
        ? `${tracks.length} of ${tracks.length} tracks`
        : `missing: ${missing.map((t) => t.name).join(', ')}`,
  };
}

/** Tracks recorded at another rate than the session's: converted, or with their samples kept. */
function otherRates(
  session: SessionState,
  recordings: readonly RecordingModel[],
): Pick<CoverNoteFacts, 'converted' | 'repitched'> {
  const others = soundTracks(session).flatMap((track) => {
    const fromHz = recordings.find((x) => x.id === track.recordingId)?.sampleRateHz;
    return fromHz != null && session.sampleRateHz !== null && fromHz !== session.sampleRateHz
      ? [{ track, fromHz, toHz: session.sampleRateHz }]
      : [];
  });
  return {
    converted: others
      .filter((o) => !o.track.keepsSamples)
      .map((o) => ({ name: o.track.name, fromHz: o.fromHz })),
    repitched: others
      .filter((o) => o.track.keepsSamples)
      .map((o) => ({ name: o.track.name, ...repitch(o.fromHz, o.toHz) })),
  };
}

interface Sources {
  readonly sources: readonly PackageSource[];
  /** Hash of each lane's sound. */
  readonly blobs: Readonly<Record<string, string>>;
}

const sourcesOf = (sounds: readonly TrackSound[]): Sources => ({
  sources: sounds.map(({ laneId, channels, lengthFrames }) => ({ laneId, channels, lengthFrames })),
  blobs: Object.fromEntries(sounds.map((s) => [s.laneId, s.sha256])),
});

const pathsFor = async (blobs: Readonly<Record<string, string>>): Promise<Record<string, string>> => {
  const pathOf = await soundPaths(Object.values(blobs));
  return Object.fromEntries(Object.entries(blobs).map(([laneId, sha]) => [laneId, pathOf(sha)]));
};

/** How the recording of each track came. */
function receivedOf(
  session: SessionState,
  recordings: readonly RecordingModel[],
): Readonly<Record<string, ReceivedFile>> {
  const byId = new Map(recordings.map((r) => [r.id, r]));
  return Object.fromEntries(
    soundTracks(session).flatMap((track) => {
      const r = byId.get(track.recordingId);
      const stamp = (r?.metadata as SoundMetadata | null)?.timeReferenceFrames ?? null;
      return r
        ? [
            [
              track.id,
              {
                file: r.fileName ?? r.receivedName,
                channel: r.fileName === null || r.channelIndex === null ? null : r.channelIndex + 1,
                stampSeconds: stamp === null || r.sampleRateHz === null ? null : stamp / r.sampleRateHz,
              },
            ],
          ]
        : [];
    }),
  );
}

/** Files of the notes of a session, and the map they were played to. */
async function notesOf(
  session: SessionState,
  recordings: readonly RecordingModel[],
): Promise<Pick<PackagePart, 'noteSources' | 'playedMap'>> {
  const found = noteTracks(session).flatMap((t) =>
    recordings
      .filter((r): r is RecordingModel & { sha256: string } => r.id === t.recordingId && r.sha256 !== null)
      .map((r) => ({ id: t.id, sha256: r.sha256, index: r.channelIndex ?? 0 })),
  );
  const pathOf = await soundPaths(found.map((f) => f.sha256));
  return {
    noteSources: Object.fromEntries(found.map((f) => [f.id, { path: pathOf(f.sha256), index: f.index }])),
    playedMap: session.map,
  };
}

/** What lies beside the conformed recordings. The same recordings made those, so it can be planned. */
async function playedPart(
  session: SessionState,
  recordings: readonly RecordingModel[],
  style: HouseStyle,
  folderName: string,
): Promise<PackagePart> {
  const { sources, blobs } = sourcesOf(
    playedSounds(session, recordings, (track) => handedLanes(track, style)),
  );
  const planned = planPackage(session, sources, style, folderName, { base: PLAYED_BASE });
  if (!planned.ok) throw new Error(`what was played cannot be planned: ${planned.error.code}`);
  return {
    plan: planned.value,
    session,
    sourcePaths: await pathsFor(blobs),
    ...(await notesOf(session, recordings)),
    received: receivedOf(session, recordings),
  };
}
