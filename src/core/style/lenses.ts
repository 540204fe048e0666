import { isFolder, tracksInOrder, type SessionState, type Track } from '../session';
import { type Condition, meets, type RowKind, type Subject } from './conditions';
import { isStyleFolder } from './folders';
import type { TrackFacts } from './propose';

const STYLE_FOLDER = 'folder-'.length;

/** A track as conditions see it once it has its name and place. */
function subjectOf(session: SessionState, track: Track, parentId: string, facts: TrackFacts): Subject {
  const folder = isFolder(session.nodes[parentId]) && isStyleFolder(parentId) ? parentId.slice(STYLE_FOLDER) : null;
  const rows: RowKind[] = [track.tiedTo === null ? 'track' : 'notes', ...(isFolder(session.nodes[parentId]) ? (['child'] as const) : []), ...(track.family === 'unknown' ? (['unnamed'] as const) : [])];
  return { name: track.name, rows, family: track.family, part: track.part, role: track.role, position: track.position, channels: facts.channels, color: track.color?.toLowerCase() ?? null, folder, findings: facts.findings };
}

/** Tracks of a session that meet a condition, in order; always from the whole of it. */
export function tracksMeeting(session: SessionState, when: Condition, factsOf: (track: Track) => TrackFacts = () => ({ channels: null, findings: [] })): Track[] {
  const parents = new Map(Object.entries(session.children).flatMap(([parent, ids]) => ids.map((id) => [id, parent] as const)));
  return tracksInOrder(session).filter((t) => meets(when, subjectOf(session, t, parents.get(t.id) ?? '', factsOf(t))));
}
