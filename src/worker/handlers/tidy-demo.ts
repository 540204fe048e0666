import { LEVELS_PER_SECOND, readBandLevels } from '@/core/analysis';
import { sourceKeys } from '@/core/conform';
import {
  applyChanges,
  type Change,
  isEntire,
  type Lane,
  type SessionState,
  soundTracks,
} from '@/core/session';
import { cutSettingsFor, type HouseStyle } from '@/core/style';
import {
  beforeSong,
  cutClips,
  cutLane,
  hearTracks,
  originOf,
  placedLevels,
  proposeCuts,
  talkApart,
  type TidyPiece,
  type TidyProposal,
  type TidyTrack,
} from '@/core/tidy';
import { RecordingModel } from '@/server/db';
import { blobStore } from '@/server/storage';

/** A step of the way through Tidy. */
export interface TidyStep {
  readonly label: string;
  readonly changes: readonly Change[];
}

/** What a person would do at Tidy with what it proposes: the talk is kept apart, what surely goes is taken out. Nothing of a session in which something is cut. */
export async function tidySteps(
  sessionId: string,
  session: SessionState,
  style: HouseStyle,
): Promise<TidyStep[]> {
  const tracks = soundTracks(session);
  if (tracks.some((t) => !isEntire(t))) return [];
  const recordings = new Map((await RecordingModel.findAll({ where: { sessionId } })).map((r) => [r.id, r]));
  const rateHz = session.sampleRateHz ?? 48_000;
  const lengthOf = ({ recordingId }: Lane): number => {
    const r = recordings.get(recordingId);
    return r ? Math.ceil((Number(r.lengthFrames) * rateHz) / (r.sampleRateHz ?? rateHz)) : 0;
  };
  const origin = originOf(tracks);
  const sources = sourceKeys(tracks);
  const heard: TidyTrack[] = [];
  for (const [i, track] of tracks.entries()) {
    const recording = recordings.get(track.recordingId);
    if (!recording?.levelsSha256) continue;
    const levels = readBandLevels(await blobStore().get(recording.levelsSha256));
    heard.push({
      ...{ id: track.id, family: track.family, part: track.part, source: sources[i] ?? null },
      levels: placedLevels(levels, { startSeconds: (track.startFrames - origin) / rateHz, speed: 1 }),
    });
  }
  const proposals = new Map(
    proposeCuts(hearTracks(heard), ({ family }) => cutSettingsFor(style, family)).map((p) => [p.id, p]),
  );
  const before = beforeSong([...proposals.values()]);
  const frame = (at: number): number => Math.round(origin + (at * rateHz) / LEVELS_PER_SECOND);
  const talk = before ? talkApart(session, lengthOf, before) : [];
  const apart = applyChanges(session, talk);
  const cuts = soundTracks(apart.ok ? apart.session : session).flatMap((track): Change[] => {
    const [lane, proposal] = [cutLane(track), proposals.get(track.id)];
    if (!lane || !proposal || proposal.pieces.every((p) => p.keeps)) return [];
    const kept = keptOf(proposal, before?.to ?? 0).map((p) => ({
      fromFrames: Math.max(lane.startFrames, frame(p.from)),
      toFrames: Math.min(lane.startFrames + lengthOf(lane), frame(p.to)),
    }));
    const fadeFrames = Math.round(cutSettingsFor(style, track.family).fadeSeconds * rateHz);
    return [
      {
        kind: 'track.cut',
        id: track.id,
        clips: cutClips(track, { lane, lengthFrames: lengthOf(lane), kept, fadeFrames }),
      },
    ];
  });
  return [
    { label: 'Keep the talk apart', changes: talk },
    { label: `Tidy ${cuts.length} tracks`, changes: cuts },
  ].filter((s) => s.changes.length > 0);
}

/** What stays of a track, as far as it lies after the talk. */
const keptOf = ({ pieces }: TidyProposal, from: number): TidyPiece[] =>
  pieces.filter((p) => p.keeps && p.to > from);
