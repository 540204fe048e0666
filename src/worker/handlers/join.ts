import { rm } from 'node:fs/promises';
import type { Fault } from '@/contracts';
import { NO_METADATA } from '@/core/audio';
import { commonName, joinEdits, type JoinedSide, sidesOf } from '@/core/session';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, loadSession, RecordingModel, uuidOf } from '@/server/db';
import { RequestFault } from '@/server/http';
import { enqueue, type JobContext, type JobHandler } from '@/server/jobs';
import {
  applyToSession,
  enqueueConversions,
  type JoinablePair,
  joinablePair,
  keepingBlobs,
} from '@/server/services';
import { blobStore, temporaryPath } from '@/server/storage';
import { withSounds } from '../sound-paths';

/** Two mono tracks become one stereo track, as one step: its recording is made of theirs, which stay. */
export const join: JobHandler<'pair.join'> = async ({ sessionId, payload, progress, cancel }) => {
  const { trackIds } = payload;
  const loaded = sessionId === null ? null : await loadSession(sessionId);
  if (sessionId === null || !loaded) return {};
  const { session } = loaded;
  // An earlier life of this job had done it: one of the two is gone.
  if (trackIds.some((id) => !session.nodes[id])) return {};
  try {
    const pair = await joinablePair(session, trackIds);
    const sides = sidesOf(pair.left.track, pair.right.track);
    const id = joinedId(sessionId, sides);
    const name = commonName(pair.left.track.receivedName, pair.right.track.receivedName);
    if (!(await RecordingModel.findByPk(id))) {
      const fault = await make(
        id,
        { sessionId, pair, sides, name, sessionHz: session.sampleRateHz },
        { progress, cancel },
      );
      if (fault) return { fault };
    }
    await applyToSession(
      sessionId,
      joinEdits(pair.left.track, pair.right.track, { recordingId: id, receivedName: name }),
      { label: `Join ${pair.left.track.name} and ${pair.right.track.name}`, author: 'person' },
    );
    return {};
  } catch (cause) {
    if (cause instanceof RequestFault) return { fault: cause.fault };
    throw cause;
  }
};

interface Making {
  readonly sessionId: string;
  readonly pair: JoinablePair;
  readonly sides: readonly [JoinedSide, JoinedSide];
  readonly name: string;
  readonly sessionHz: number | null;
}

/** Writes the stereo file, looks through it as through any that arrives, and keeps it as a recording without a track. */
async function make(
  id: string,
  { sessionId, pair, sides, name, sessionHz }: Making,
  { progress, cancel }: Pick<JobContext, 'progress' | 'cancel'>,
): Promise<Fault | null> {
  const { threadPath } = readConfig();
  const store = blobStore();
  const outPath = await temporaryPath();
  const { sampleRateHz } = pair.left.recording;
  const shas = [pair.left.recording.sha256 as string, pair.right.recording.sha256 as string] as const;
  const channelOf = (side: JoinedSide): number => (side.monoFrom === 'right' ? 1 : 0);
  const delay = (side: JoinedSide): number =>
    Math.round(
      (side.delayFrames * (sampleRateHz ?? 1)) /
        (pair.left.track.keepsSamples || sessionHz === null ? (sampleRateHz ?? 1) : sessionHz),
    );
  try {
    const made = await withSounds(shas, cancel, (pathOf) =>
      runTask(
        'join',
        {
          left: { path: pathOf(shas[0]), channel: channelOf(sides[0]), delayFrames: delay(sides[0]) },
          right: { path: pathOf(shas[1]), channel: channelOf(sides[1]), delayFrames: delay(sides[1]) },
          invertRight: sides[1].inverted,
          outPath,
        },
        { threadPath, cancel, progress: (share) => progress(share / 2) },
      ),
    );
    if (!made.ok) return made.error;
    const inspected = await runTask(
      'inspect',
      { path: outPath, truePeak: false, listen: false },
      { threadPath, cancel, progress: (share) => progress(0.5 + share / 2) },
    );
    if (!inspected.ok) return inspected.error;
    const { header, facts, sha256, peaks, sizeBytes } = inspected.value;
    await keepingBlobs(async (transaction) => {
      await store.adopt(outPath, sha256);
      const peaksSha256 = await store.put(peaks);
      await BlobModel.bulkCreate(
        [
          { sha256, sizeBytes },
          { sha256: peaksSha256, sizeBytes: peaks.length },
        ],
        { ignoreDuplicates: true, transaction },
      );
      // The session before its recordings, as everywhere.
      const now = await loadSession(sessionId, transaction);
      await RecordingModel.create(
        {
          id,
          sessionId,
          receivedName: name,
          sizeBytes,
          state: 'ready',
          sha256,
          peaksSha256,
          container: 'wav',
          codec: 'pcm',
          metadata: NO_METADATA,
          sampleRateHz: header.sampleRateHz,
          channels: header.channels,
          encoding: header.encoding,
          bitDepth: header.bitDepth,
          lengthFrames: header.lengthFrames,
          header,
          facts,
          madeFrom: sides,
        },
        { transaction },
      );
      await enqueue(
        { kind: 'recording.listen', sessionId, subject: name, payload: { recordingId: id } },
        transaction,
      );
      if (now) await enqueueConversions(sessionId, now.session, transaction);
    });
    return null;
  } finally {
    await rm(outPath, { force: true });
  }
}

/** The same pair, joined again, is the same recording. */
const joinedId = (sessionId: string, sides: readonly JoinedSide[]): string =>
  uuidOf(
    JSON.stringify([sessionId, ...sides.map((s) => [s.recordingId, s.monoFrom, s.delayFrames, s.inverted])]),
  );
