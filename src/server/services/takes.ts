import type { TakesRequest } from '@/contracts';
import { type Clip, isTrack, type Move, packFault, type SessionState, wholeClip } from '@/core/session';
import { isUuid, loadSession } from '../db';
import { RequestFault } from '../http';
import { applyToSession } from './editing';

type Packed = NonNullable<TakesRequest['pack']>['groups'];

/** Makes lanes of tracks, all groups as one step. Returns the new revision. Throws `request.not_found` where one is no track of sound any more. */
export async function packTakes(sessionId: string, groups: Packed): Promise<number> {
  const session = await mustHave(sessionId);
  const moves = groups.flatMap(({ id, name, lanes, pieces }): Move[] => {
    if (!lanes.some((l) => l.trackId === id) || packFault(session, lanes) !== null)
      throw new RequestFault({ code: 'request.not_found' });
    return [
      { kind: 'lanes.pack', id, lanes },
      { kind: 'track.change', id, fields: { name, number: null } },
      ...(pieces ? [{ kind: 'track.cut', id, clips: turnClips(session, pieces) } as const] : []),
    ];
  });
  const [first] = groups;
  const count = groups.reduce((n, g) => n + g.lanes.length, 0);
  const label =
    groups.length === 1
      ? `Pack ${count} takes of ${first?.name ?? ''}`
      : `Pack takes of ${groups.length} parts`;
  return applyToSession(sessionId, moves, { label, author: 'person' });
}

/** Fades where one take goes over to the next, s. */
const JOIN_SECONDS = 0.005;

/** Clips of lanes that sound in turn, edge to edge. Throws `request.not_found` where a piece is of no track. */
function turnClips(session: SessionState, pieces: NonNullable<Packed[number]['pieces']>): Clip[] {
  const rate = session.sampleRateHz ?? 48_000;
  const frames = (seconds: number | null): number | null =>
    seconds === null ? null : Math.round(seconds * rate);
  const fade = Math.round(JOIN_SECONDS * rate);
  return pieces.map(({ trackId, fromSeconds, toSeconds }, i) => {
    const track = session.nodes[trackId];
    if (!isTrack(track)) throw new RequestFault({ code: 'request.not_found' });
    const [whole] = wholeClip(track.laneId);
    return {
      ...whole,
      id: `${whole.id.slice(0, 50)}-${i}`,
      fromFrames: frames(fromSeconds),
      toFrames: frames(toSeconds),
      fadeInFrames: fromSeconds === null ? 0 : fade,
      fadeOutFrames: toSeconds === null ? 0 : fade,
    };
  });
}

/** Makes tracks of the lanes of a track. Returns the new revision. */
export async function unpackTakes(sessionId: string, trackId: string): Promise<number> {
  const session = await mustHave(sessionId);
  const track = session.nodes[trackId];
  if (!isTrack(track) || track.otherLanes.length === 0) throw new RequestFault({ code: 'request.not_found' });
  return applyToSession(sessionId, [{ kind: 'lanes.unpack', id: trackId }], {
    label: `Unpack ${track.name}`,
    author: 'person',
  });
}

async function mustHave(sessionId: string): Promise<SessionState> {
  const loaded = isUuid(sessionId) ? await loadSession(sessionId) : null;
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  return loaded.session;
}
