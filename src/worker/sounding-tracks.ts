import type { ArrivalFacts, HeardFacts } from '@/core/analysis';
import { type NameReading, readNames, type SourceFields } from '@/core/naming';
import { pieceGainDb } from '@/core/matching';
import { lanesOf, type SessionState, soundTracks, type Track } from '@/core/session';
import { kindKnown } from '@/core/style';
import { RecordingModel } from '@/server/db';
import { playedSounds } from '@/server/services';

/** A track that sounds, and what is known of it. */
export interface SoundingTrack {
  readonly track: Track;
  readonly family: ReturnType<typeof kindKnown>['family'];
  readonly part: string | null;
  /** Nothing in the name of its file is a word. */
  readonly isSilentName: boolean;
  /** What its name says, or a person, of how it is used and where it was picked up. */
  readonly source: SourceFields;
  readonly channels: number;
  /** Of its recording; what its pieces are turned up by comes on top. */
  readonly integratedLufs: number | null;
  readonly pieceGainDb: number;
  /** Its sound as it plays in the session. */
  readonly sha256: string;
  /** What was heard of its recording; null = not listened to. */
  readonly sketchSha256: string | null;
  readonly startFrames: number;
}

/** Tracks of a session whose sound is there: each with the first of its lanes that is. */
export async function soundingTracks(sessionId: string, session: SessionState): Promise<SoundingTrack[]> {
  const recordings = await RecordingModel.findAll({ where: { sessionId } });
  const byId = new Map(recordings.map((r) => [r.id, r]));
  const sounds = new Map(playedSounds(session, recordings).map((s) => [s.laneId, s]));
  const tracks = soundTracks(session);
  const names = readNames(
    tracks.map((t) => t.receivedName),
    session.words,
  );
  return tracks.flatMap((track, i): SoundingTrack[] => {
    const lane = lanesOf(track).find((l) => sounds.has(l.id));
    const sound = lane && sounds.get(lane.id);
    const recording = lane && byId.get(lane.recordingId);
    if (!lane || !sound || !recording) return [];
    const kind = kindKnown(track, names[i] ?? null, (recording.heard as HeardFacts | null) ?? null);
    return [
      {
        ...{ track, family: kind.family, part: kind.part },
        isSilentName: names[i]?.isSilent ?? true,
        source: sourceOf(track, names[i]),
        channels: lane.monoFrom === null ? Math.min(2, sound.channels) : 1,
        integratedLufs: (recording.facts as ArrivalFacts | null)?.integratedLufs ?? null,
        pieceGainDb: pieceGainDb(track),
        sha256: sound.sha256,
        sketchSha256: recording.sketchSha256,
        startFrames: lane.startFrames,
      },
    ];
  });
}

/** A person's word, or what was proposed and taken, goes before the name. */
const sourceOf = (track: Track, name: NameReading | undefined): SourceFields =>
  track.family === 'unknown' ? (name ?? track) : { ...track, take: name?.take ?? null };
