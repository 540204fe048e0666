import { readNames } from '@/core/naming';
import {
  canSplit,
  isTrack,
  type JoinedSide,
  leftFirst,
  pairFault,
  type SessionState,
  splitEdits,
  type Track,
} from '@/core/session';
import { db, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';
import { applyToSession } from './editing';
import { mustFit } from './room';

/** Two tracks ready to be joined, and their recordings. */
export interface JoinablePair {
  readonly left: { readonly track: Track; readonly recording: RecordingModel };
  readonly right: { readonly track: Track; readonly recording: RecordingModel };
}

/** Two tracks of a session as a pair, the left one first. Throws RequestFault `pair.unlike` with what keeps them apart. */
export async function joinablePair(
  session: SessionState,
  trackIds: readonly string[],
): Promise<JoinablePair> {
  const [a, b] = trackIds.map((id) => session.nodes[id]);
  if (!isTrack(a) || !isTrack(b)) throw new RequestFault({ code: 'request.not_found' });
  const rows = new Map(
    (await RecordingModel.findAll({ where: { id: [a.recordingId, b.recordingId], state: 'ready' } })).map(
      (r) => [r.id, r],
    ),
  );
  const [left, right] = leftFirst(a, b, readNames([a.receivedName, b.receivedName]));
  const what = pairFault(left, right, (id) => rows.get(id));
  if (what !== null) throw new RequestFault({ code: 'pair.unlike', what });
  return {
    left: { track: left, recording: rows.get(left.recordingId) as RecordingModel },
    right: { track: right, recording: rows.get(right.recordingId) as RecordingModel },
  };
}

/** Starts joining two mono tracks to one stereo track; the recordings stay. Returns the job's id. */
export async function startJoin(sessionId: string, trackIds: readonly string[]): Promise<string> {
  const session = await mustHave(sessionId);
  const { left, right } = await joinablePair(session, trackIds);
  await mustFit(Number(left.recording.sizeBytes) + Number(right.recording.sizeBytes));
  return db().transaction((transaction) =>
    enqueue(
      {
        kind: 'pair.join',
        sessionId,
        subject: `${left.track.name} and ${right.track.name}`,
        payload: { trackIds },
      },
      transaction,
    ),
  );
}

/** Splits a stereo track: into what it was joined of, or into the two sides of its file. Returns the new revision. */
export async function splitTrack(sessionId: string, trackId: string): Promise<number> {
  const session = await mustHave(sessionId);
  const track = session.nodes[trackId];
  if (!isTrack(track)) throw new RequestFault({ code: 'request.not_found' });
  const recording = await RecordingModel.findByPk(track.recordingId);
  if (!recording || !canSplit(track, recording))
    throw new RequestFault({ code: 'pair.unlike', what: 'stereo' });
  return applyToSession(
    sessionId,
    splitEdits(session, track, recording.madeFrom as unknown as readonly [JoinedSide, JoinedSide] | null),
    { label: `Split ${track.name}`, author: 'person' },
  );
}

async function mustHave(sessionId: string): Promise<SessionState> {
  db();
  const loaded = await loadSession(sessionId);
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  return loaded.session;
}
