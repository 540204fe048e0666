import { isFolder, tracksInOrder, type SessionState, type Track } from '../session';
import { type Condition, meets, type Subject } from './conditions';
import { isStyleFolder } from './folders';
import { NO_FACTS, rowsOf, type TrackFacts } from './propose';

const STYLE_FOLDER = 'folder-'.length;

/** A track as conditions see it once it has its name and place. */
function subjectOf(session: SessionState, track: Track, parentId: string, facts: TrackFacts): Subject {
  const folder =
    isFolder(session.nodes[parentId]) && isStyleFolder(parentId) ? parentId.slice(STYLE_FOLDER) : null;
  return {
    name: track.name,
    rows: rowsOf(track, isFolder(session.nodes[parentId]), track.family === 'unknown'),
    family: track.family,
    part: track.part,
    role: track.role,
    position: track.position,
    channels: facts.channels,
    color: track.color?.toLowerCase() ?? null,
    folder,
    findings: facts.findings,
    heard: facts.heard,
  };
}

/** Tracks of a session that meet a condition, in order; always from the whole of it. */
export function tracksMeeting(
  session: SessionState,
  when: Condition,
  factsOf: (track: Track) => TrackFacts = () => NO_FACTS,
): Track[] {
  const parents = new Map(
    Object.entries(session.children).flatMap(([parent, ids]) => ids.map((id) => [id, parent] as const)),
  );
  return tracksInOrder(session).filter((t) =>
    meets(when, subjectOf(session, t, parents.get(t.id) ?? '', factsOf(t))),
  );
}
