import type { Change } from './moves';
import { isTrack, type Group, type SessionState, type Track, type TrackFields } from './state';

/** Tracks of a group that are in the session. */
export const membersOf = (session: Pick<SessionState, 'nodes'>, group: Group): Track[] =>
  group.trackIds.map((id) => session.nodes[id]).filter(isTrack);

/** Groups a track is in. */
export const groupsOf = (session: Pick<SessionState, 'groups'>, trackId: string): Group[] =>
  session.groups.filter((g) => g.trackIds.includes(trackId));

/** Level of a track with those of its groups, dB. */
export const levelDb = (session: Pick<SessionState, 'groups'>, track: Pick<Track, 'id' | 'gainDb'>): number =>
  session.groups.reduce(
    (db, g) => (g.gainDb !== 0 && g.trackIds.includes(track.id) ? db + g.gainDb : db),
    track.gainDb,
  );

/** Ends a level and a pan cannot pass. */
const ENDS = { gainDb: [-120, 24], pan: [-1, 1], startFrames: [-(2 ** 40), 2 ** 40] } as const;
type Moved = keyof typeof ENDS;
const MOVED = Object.keys(ENDS) as readonly Moved[];

/**
 * Edits of tracks, with what follows from them for the other tracks of their groups: level, pan and place in the song
 * move by as much, as far as all of them can, so that what is between them stays; mute is the same for all. Other fields
 * are each track's own. What a list changes by itself is left as it says.
 */
export function withGroups(session: SessionState, edits: readonly Change[]): Change[] {
  const named = new Set(edits.flatMap((e) => (e.kind === 'track.change' ? [e.id] : [])));
  const limited = new Map<string, Partial<TrackFields>>();
  const followers = new Map<string, Partial<TrackFields>>();
  for (const edit of edits) {
    const track = edit.kind === 'track.change' ? session.nodes[edit.id] : undefined;
    if (edit.kind !== 'track.change' || !isTrack(track)) continue;
    const others = new Set(
      session.groups
        .filter((g) => g.on && g.trackIds.includes(track.id))
        .flatMap((g) => membersOf(session, g))
        .filter((t) => !named.has(t.id)),
    );
    if (others.size === 0) continue;
    for (const field of MOVED) {
      const to = edit.fields[field];
      if (to === undefined || to === track[field]) continue;
      const [least, most] = ENDS[field];
      const all = [track, ...others].map((t) => t[field]);
      const by = Math.max(least - Math.min(...all), Math.min(most - Math.max(...all), to - track[field]));
      limited.set(track.id, { ...limited.get(track.id), [field]: track[field] + by });
      for (const t of others) follow(followers, t, field, t[field] + by);
    }
    if (edit.fields.muted !== undefined && edit.fields.muted !== track.muted)
      for (const t of others) follow(followers, t, 'muted', edit.fields.muted);
  }
  return [
    ...edits.map((e) =>
      e.kind === 'track.change' && limited.has(e.id)
        ? { ...e, fields: { ...e.fields, ...limited.get(e.id) } }
        : e,
    ),
    ...[...followers].map(([id, fields]): Change => ({ kind: 'track.change', id, fields })),
  ];
}

function follow(
  followers: Map<string, Partial<TrackFields>>,
  track: Track,
  field: Moved | 'muted',
  value: number | boolean,
): void {
  const now = followers.get(track.id) ?? {};
  // Where several lead, the first does.
  if (now[field] !== undefined) return;
  followers.set(track.id, {
    ...now,
    [field]: value,
    byHand: [...new Set([...(now.byHand ?? track.byHand), field])],
  });
}
