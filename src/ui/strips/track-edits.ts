import type { Change, Track, TrackFields } from '@/core/session';
import { readNumber } from '@/ui/kit';

/** What can be typed: dB, up to the most that any balance gives; and hundredths of the way to one side. */
export const LEVEL_RANGE = { min: -60, max: 24, unit: 'dB' };
export const PAN_RANGE = { min: -100, max: 100 };

/** A level as it is shown, with its sign. */
export const levelText = (gainDb: number): string =>
  `${gainDb < 0 ? '−' : gainDb > 0 ? '+' : ''}${Math.abs(gainDb).toFixed(1)}`;

/** Reads a pan as it is typed: `L30`, `30 R`, `c`, or −100 … 100. */
export function readPan(text: string, now: number): ReturnType<typeof readNumber> {
  const plain = text.trim().toLowerCase();
  if (['c', 'centre', 'center', 'mid'].includes(plain)) return { value: 0 };
  const side = /^(l|left|r|right)?\s*([0-9.,]*)\s*%?\s*(l|left|r|right)?$/u.exec(plain);
  const said = side?.[1] ?? side?.[3];
  const isTwice = side?.[1] !== undefined && side[3] !== undefined;
  if (!side || said === undefined || isTwice) return readNumber(plain.replace(/%$/u, ''), PAN_RANGE, now);
  const amount = readNumber(side[2] === '' ? '100' : (side[2] as string), { min: 0, max: 100 });
  return 'error' in amount ? amount : { value: (said.startsWith('l') ? -1 : 1) * amount.value };
}

/** What something typed does to all of some tracks, or why it cannot. */
export type TrackEdits =
  { readonly label: string; readonly edits: readonly Change[] } | { readonly error: string };

/** Fields set by hand, with these among them. */
export const withHand = (track: Track, ...fields: (keyof TrackFields)[]): readonly string[] => [
  ...new Set([...track.byHand, ...fields]),
];

/** Levels or pans as they were typed for all of some tracks. */
export function stripEdits(id: 'level' | 'pan', text: string, tracks: readonly Track[]): TrackEdits {
  const values = tracks.map((t) =>
    id === 'level' ? readNumber(text, LEVEL_RANGE, t.gainDb) : readPan(text, Math.round(t.pan * 100)),
  );
  const wrong = values.find((v) => 'error' in v);
  if (wrong) return wrong as { error: string };
  const valueOf = new Map(tracks.map((t, i) => [t.id, (values[i] as { value: number }).value]));
  return editsForEach(id === 'level' ? 'Level' : 'Pan', tracks, (t) => {
    const value = valueOf.get(t.id) as number;
    return id === 'level' ? { gainDb: value } : { pan: value / 100 };
  });
}

/** One step up or down of all of some tracks, each from where it is; at the ends they stay together. */
export function stepEdits(id: 'level' | 'pan', by: number, tracks: readonly Track[]): TrackEdits {
  const range = id === 'level' ? LEVEL_RANGE : PAN_RANGE;
  const now = (t: Track): number => (id === 'level' ? t.gainDb : Math.round(t.pan * 100));
  const all = tracks.map(now);
  // Beyond an end already, they stay where they are.
  const [down, up] = [Math.min(0, range.min - Math.min(...all)), Math.max(0, range.max - Math.max(...all))];
  const step = Math.max(down, Math.min(up, by));
  return editsForEach(id === 'level' ? 'Level' : 'Pan', tracks, (t) => {
    const value = Number((now(t) + step).toFixed(6));
    return id === 'level' ? { gainDb: value } : { pan: value / 100 };
  });
}

/** Who is at the end of its range and holds all the others that are moved with it; null where nobody is. `by`: dB, or hundredths of the way to one side. */
export function holderOf(id: 'level' | 'pan', by: number, moved: readonly Track[]): Track | null {
  const range = id === 'level' ? LEVEL_RANGE : PAN_RANGE;
  const end = by < 0 ? range.min : range.max;
  const roomOf = (t: Track): number => Math.abs(end - (id === 'level' ? t.gainDb : Math.round(t.pan * 100)));
  const [first, ...others] = moved;
  if (!first || others.length === 0) return null;
  const nearest = others.reduce((a, t) => (roomOf(t) < roomOf(a) ? t : a), first);
  return roomOf(nearest) < Math.abs(by) ? nearest : null;
}

/** Gives each of some tracks fields, as said by hand. */
export function editsForEach(
  label: string,
  tracks: readonly Track[],
  fields: (t: Track) => Partial<TrackFields>,
): TrackEdits {
  return {
    label: countedLabel(label, tracks),
    edits: tracks.flatMap((t): Change[] => {
      // What a person says holds against what is proposed, also where it is so already.
      const changed = Object.entries(fields(t)).filter(
        ([key, value]) => t[key as keyof Track] !== value || !t.byHand.includes(key),
      );
      if (changed.length === 0) return [];
      const keys = changed.map(([key]) => key as keyof TrackFields);
      return [
        {
          kind: 'track.change',
          id: t.id,
          fields: { ...Object.fromEntries(changed), byHand: withHand(t, ...keys) },
        },
      ];
    }),
  };
}

/** What an undo of it is called. */
export const countedLabel = (label: string, tracks: readonly Track[]): string =>
  tracks.length > 1 ? `${label}: ${tracks.length} tracks` : label;
