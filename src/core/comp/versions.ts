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

/** Keeps what sounds, and goes on with a second version that begins as it. */
export function newVersion(track: Track): Change[] {
  const put = (name: string, n: number): { readonly id: string; readonly change: Change } => {
    const id = idOf(track, name, track.comps.length + n);
    return {
      id,
      change: { kind: 'put', of: 'comp', record: { id, trackId: track.id, name, clips: track.clips } },
    };
  };
  const inUse = compInUse(track);
  const name = freeName(track);
  const first = inUse ? null : put(name, 0);
  const second = put(first ? freeName(track, [name]) : name, 1);
  return [
    ...(inUse ? written(track, inUse) : []),
    ...(first ? [first.change] : []),
    second.change,
    { kind: 'track.change', id: track.id, fields: { compId: second.id } },
  ];
}

/** Lets another version sound; what was changed of the one before is kept in it. Empty where there is none such, or it sounds already. */
export function switchTo(track: Track, compId: string): Change[] {
  const wanted = track.comps.find((c) => c.id === compId);
  const inUse = compInUse(track);
  if (!wanted || wanted === inUse) return [];
  return [
    ...(inUse ? written(track, inUse) : []),
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
