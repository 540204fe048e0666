import { sourceKeys } from '@/core/conform';
import { type SessionState, soundTracks, type Track } from '@/core/session';
import type { SortProposal, SortRow } from '@/core/style';

/** A track, and the source it shares with others that were recorded with it. */
export interface KnownTrack {
  readonly track: Track;
  readonly source: string | null;
}

/** A track as it is known so far: before it is sorted, as the house style would have it. */
const asKnown = (track: Track, row: SortRow | undefined): Track =>
  track.family === 'unknown' && row ? { ...track, ...row.fields, family: row.family, part: row.part } : track;

/** All tracks that sound as they are known so far, in the order of the sheet. */
export function knownTracks(session: SessionState, proposal: SortProposal): KnownTrack[] {
  const sorted = new Map(proposal.rows.map((r) => [r.trackId, r]));
  const tracks = soundTracks(session).map((t) => asKnown(t, sorted.get(t.id)));
  const sources = sourceKeys(tracks);
  return tracks.map((track, i) => ({ track, source: sources[i] ?? null }));
}
