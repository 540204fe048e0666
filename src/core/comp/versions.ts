import type { Change, Clip, Comp, Track } from '../session';
import { hashText } from '../units';

/** The comp of a track that sounds; null = none was kept. */
export const compInUse = (track: Track): Comp | null =>
  track.comps.find((c) => c.id === track.compId) ?? null;

/** A comp with what sounds now, if that is another by now. */
const written = (track: Track, comp: Comp): Change[] =>
  JSON.stringify(comp.clips) === JSON.stringify(track.clips)
    ? []
    : [{ kind: 'patch', of: 'comp', id: comp.id, fields: { clips: track.clips } }];

const idOf = (track: Track, name: string, taken: number): string =>
  `comp-${hashText(`${track.id} ${name} ${taken} ${JSON.stringify(track.clips)}`)}`;

/** The first of “Version 1”, “Version 2”, … that no comp of a track is called. */
export function freeName(track: Track, more: readonly string[] = []): string {
  const taken = new Set([...track.comps.map((c) => c.name), ...more]);
  let n = 1;
  while (taken.has(`Version ${n}`)) n++;
  return `Version ${n}`;
}

/** What sounds as a version of its own. */
const kept = (track: Track, name: string): { readonly id: string; readonly change: Change } => {
  const id = idOf(track, name, track.comps.length);
  return {
    id,
    change: { kind: 'put', of: 'comp', record: { id, trackId: track.id, name, clips: track.clips } },
  };
};

/** What sounds, kept: in the version in use, else in one of its own; its name is told where it is new. */
function keepNow(track: Track): { readonly changes: readonly Change[]; readonly name: string | null } {
  const inUse = compInUse(track);
  if (inUse) return { changes: written(track, inUse), name: null };
  const name = freeName(track);
  return { changes: [kept(track, name).change], name };
}

/** Keeps what sounds, and goes on with a second version that begins as it. */
export function newVersion(track: Track): Change[] {
  const now = keepNow(track);
  const next = kept(track, freeName(track, now.name === null ? [] : [now.name]));
  return [...now.changes, next.change, { kind: 'track.change', id: track.id, fields: { compId: next.id } }];
}

/** Lets another version sound; what sounded is kept: in the version in use, in one of its own where none was. Empty where there is none such, or it sounds already. */
export function switchTo(track: Track, compId: string): Change[] {
  const wanted = track.comps.find((c) => c.id === compId);
  const inUse = compInUse(track);
  if (!wanted || wanted === inUse) return [];
  const isKept = track.comps.some((c) => JSON.stringify(c.clips) === JSON.stringify(track.clips));
  return [
    ...(inUse || !isKept ? keepNow(track).changes : []),
    { kind: 'track.cut', id: track.id, clips: wanted.clips as readonly Clip[] },
    { kind: 'track.change', id: track.id, fields: { compId } },
  ];
}

/** Removes a version that does not sound, or the last one there is: what sounds goes on sounding. */
export function removeVersion(track: Track, compId: string): Change[] {
  const isLast = track.comps.length === 1;
  if (compId === track.compId && !isLast) return [];
  return [
    { kind: 'remove', of: 'comp', id: compId },
    ...(compId === track.compId
      ? [{ kind: 'track.change', id: track.id, fields: { compId: null } } as const]
      : []),
  ];
}
