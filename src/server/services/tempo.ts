import type { Transaction } from 'sequelize';
import type { DetectRequest, PlayedHits } from '@/contracts';
import type { HeardFacts } from '@/core/analysis';
import { type Family, readNames } from '@/core/naming';
import { piecesOf, soundingLanes } from '@/core/arrange';
import {
  isTrack,
  isEntire,
  type Lane,
  passingRate,
  type SessionState,
  soundTracks,
  type Track,
} from '@/core/session';
import { kindKnown } from '@/core/style';
import { runTask, type SketchSource } from '@/engine';
import { readConfig } from '../config';
import { db, isUuid, JobModel, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';
import { blobStore } from '../storage';
import { countUnheard, enqueueListening } from './recordings';

/** Starts a detection over a session's timekeepers; null lets it choose. Returns the job's id. */
export async function startDetection(
  sessionId: string,
  { timekeepers, between }: DetectRequest,
): Promise<string> {
  // A listening pass that was cancelled or failed is asked for again; the detection waits for it.
  const unheard = isUuid(sessionId)
    ? await db().transaction((transaction) => enqueueListening(sessionId, transaction))
    : 0;
  if (unheard > 0) throw new RequestFault({ code: 'tempo.not_analysed', missing: unheard });
  return db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction);
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    if (!Object.values(loaded.session.nodes).some(isTrack))
      throw new RequestFault({ code: 'delivery.no_tracks' });
    if (timekeepers?.length === 0) throw new RequestFault({ code: 'tempo.no_timekeepers' });
    if (between && !loaded.session.map) throw new RequestFault({ code: 'tempo.no_map' });
    return enqueueDetection(sessionId, loaded.session, { timekeepers, between }, transaction);
  });
}

/** So many tracks must have a family before the tempo is looked for unasked; of few, half. What is doubtful may wait: names say enough of it here. */
const LEAST_SORTED = 2;

/**
 * Looks for the tempo unasked, once in the life of a session: when it is sorted, all that was sent has arrived
 * and was heard, and nobody has given it a map or looked for one. Returns whether it did.
 */
export const findTempoByItself = (sessionId: string): Promise<boolean> =>
  db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction, true);
    if (!loaded || loaded.session.map !== null) return false;
    const tracks = soundTracks(loaded.session);
    const sorted = tracks.filter((t) => t.family !== 'unknown').length;
    if (sorted === 0 || sorted < Math.min(LEAST_SORTED, tracks.length / 2)) return false;
    const [open, asked] = [
      await countUnheard(sessionId, transaction),
      await JobModel.count({ where: { sessionId, kind: 'tempo.detect' }, transaction }),
    ];
    if (open > 0 || asked > 0) return false;
    await enqueueDetection(sessionId, loaded.session, { timekeepers: null, between: null }, transaction);
    return true;
  });

const enqueueDetection = (
  sessionId: string,
  session: SessionState,
  { timekeepers, between }: DetectRequest,
  transaction: Transaction,
): Promise<string> =>
  enqueue(
    {
      kind: 'tempo.detect',
      sessionId,
      subject: session.name,
      payload: { sessionId, timekeepers, between },
    },
    transaction,
  );

/** A track with what was heard of it. */
interface ListenedTrack {
  readonly id: string;
  readonly family: Family;
  readonly part: string | null;
  readonly pieces: readonly SketchSource[];
}

/** The tracks of a session that were listened to, as the detection wants them, and how many were not. */
export async function listenedTracks(
  sessionId: string,
  session: SessionState,
): Promise<{ readonly heard: ListenedTrack[]; readonly missing: number }> {
  const recordings = new Map((await RecordingModel.findAll({ where: { sessionId } })).map((r) => [r.id, r]));
  const paths = await heardPaths(recordings.values());
  const tracks = soundTracks(session);
  const names = readNames(
    tracks.map((t) => t.receivedName),
    session.words,
  );
  const heard = tracks.flatMap((track, i) => {
    const recording = recordings.get(track.recordingId);
    const pieces = heardPieces(track, session.sampleRateHz ?? 48_000, recordings, paths);
    // A track nobody has sorted yet still says by its name, or its sound, what it probably is.
    const heardFacts = recording?.heard as HeardFacts | null | undefined;
    const kind = kindKnown(track, names[i] ?? null, heardFacts ?? null);
    return pieces ? [{ id: track.id, family: kind.family, part: kind.part, pieces }] : [];
  });
  return { heard, missing: tracks.length - heard.length };
}

/** Files of what was heard, by the hashes of their bytes. */
async function heardPaths(rows: Iterable<RecordingModel>): Promise<ReadonlyMap<string, string>> {
  const paths = new Map<string, string>();
  for (const { onsetsSha256, sketchSha256 } of rows)
    for (const sha of [onsetsSha256, sketchSha256]) if (sha) paths.set(sha, await blobStore().localCopy(sha));
  return paths;
}

/** What was heard of all that sounds of a track; null while some of it was not listened to. */
function heardPieces(
  track: Track,
  sessionHz: number,
  recordings: ReadonlyMap<string, RecordingModel>,
  paths: ReadonlyMap<string, string>,
): SketchSource[] | null {
  const isHeard = ({ recordingId }: Lane): boolean => {
    const r = recordings.get(recordingId);
    return r?.onsetsSha256 != null && r.sketchSha256 !== null;
  };
  if (!soundingLanes(track).every(isHeard)) return null;
  const pieces = piecesOf(track, (lane) => {
    const r = recordings.get(lane.recordingId);
    if (!r?.onsetsSha256 || !r.sketchSha256 || !r.sampleRateHz) return null;
    const passing = passingRate(lane, r.sampleRateHz, sessionHz);
    const lengthFrames = Math.ceil((Number(r.lengthFrames) * sessionHz) / passing);
    const { onsetsSha256, sketchSha256 } = r;
    return { sound: { onsetsSha256, sketchSha256, speed: passing / r.sampleRateHz }, lengthFrames };
  });
  return pieces.map(({ sound, soundFrames, fromFrames, toFrames }) => ({
    onsetsPath: paths.get(sound.onsetsSha256) as string,
    sketchPath: paths.get(sound.sketchSha256) as string,
    speed: sound.speed,
    startSeconds: (fromFrames - soundFrames) / sessionHz,
    fromSeconds: fromFrames / sessionHz,
    toSeconds: toFrames / sessionHz,
    isWhole: isEntire(track),
  }));
}

/** What each track that was listened to strikes, in the session's time. */
export async function viewHits(sessionId: string): Promise<PlayedHits[]> {
  const loaded = isUuid(sessionId) ? await loadSession(sessionId) : null;
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  const { heard } = await listenedTracks(sessionId, loaded.session);
  const found = await runTask('hits', { tracks: heard }, { threadPath: readConfig().threadPath });
  return found.map(({ id, ...hits }) => ({ trackId: id, ...hits }));
}
