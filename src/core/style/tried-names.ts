import type { Evidence, Family, NameReading } from '../naming';
import { applyChanges, emptySession, isTrack, ROOT, type Move, type Track } from '../session';
import { treeOf } from './folders';
import type { HouseStyle } from './house-style';
import { newTrack } from './new-track';
import { proposeBy } from './propose';
import { nameOfReturn } from './routing';

/** What a style makes of one name. */
export interface TriedName extends Pick<
  NameReading,
  'input' | 'part' | 'role' | 'number' | 'take' | 'confidence'
> {
  readonly family: Family;
  readonly position: string | null;
  readonly side: string | null;
  readonly evidence: readonly Evidence[];
  /** Name in the session. */
  readonly name: string;
  readonly color: string;
  /** Names of the folders it lies in, outermost first. */
  readonly folders: readonly string[];
  /** Names of the returns it sends to from the start. */
  readonly sends: readonly string[];
  /** Rules that met it, in order. */
  readonly rules: readonly string[];
}

/** What a style makes of the names of one delivery, read with its words; in the order given. */
export function triedBy(readings: readonly NameReading[], style: HouseStyle): TriedName[] {
  const names = readings.map((r) => r.input);
  const add = names.map((name, index): Move => ({
    kind: 'track.add',
    track: newTrack(`t${index}`, name, {}, style),
    parentId: ROOT,
    index,
  }));
  const made = applyChanges(emptySession('names'), add);
  if (!made.ok) return [];
  const { rows, hits } = proposeBy(readings, made.session, style);
  const tree = treeOf(style);
  const byId = new Map(rows.map((r) => [r.trackId, r]));
  return names.flatMap((input, i): TriedName[] => {
    const id = `t${i}`;
    const row = byId.get(id);
    const track = made.session.nodes[id];
    if (!row || !isTrack(track)) return [];
    const t: Track = { ...track, ...row.fields };
    const folder = tree.get(row.folderKey);
    return [
      {
        input,
        family: t.family,
        part: t.part,
        role: t.role,
        position: t.position,
        side: t.side,
        number: t.number,
        take: readings[i]?.take ?? null,
        confidence: t.confidence,
        evidence: t.evidence,
        name: t.name,
        color: t.color ?? style.colors.unknown,
        folders: folder ? tree.pathOf(folder).map((f) => f.name) : [],
        sends: t.sends.flatMap((s) => nameOfReturn(style, s.busId) ?? []),
        rules: [...hits].flatMap(([rule, ids]) => (ids.includes(id) ? [rule] : [])),
      },
    ];
  });
}
