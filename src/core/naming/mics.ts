import type { NameReading, Position, Side } from './reading';

/** What of a reading (or of a track) says which source it is and where it was picked up. */
export type SourceFields = Pick<NameReading, 'family' | 'part' | 'role' | 'number'> & {
  readonly position: string | null;
  readonly side: string | null;
  readonly take?: number | null;
  /** How surely it was read; left out = surely. */
  readonly confidence?: number;
};

/** Recordings of one source by several microphones or pick-ups, by their places in what was given; the leader comes first. */
export type MicGroup = readonly [leader: number, ...others: number[]];

// The one nearest to the source leads. Common practice, no source.
const NEAREST_FIRST: readonly string[] = [
  'in',
  'di',
  'close',
  'near',
  'top',
  'mic',
  'left',
  'high',
  'front',
  'amp',
  'out',
  'bottom',
  'side',
  'right',
  'low',
  'rear',
  'sub',
  'far',
  'room',
] satisfies (Position | Side)[];

const nearness = (r: SourceFields): number => {
  const at = [r.position, r.side]
    .map((place) => (place === null ? NEAREST_FIRST.length : NEAREST_FIRST.indexOf(place)))
    .filter((n) => n >= 0);
  return Math.min(...at);
};

const sourceOf = (r: SourceFields): string =>
  JSON.stringify([r.family, r.part, r.role, r.number, r.take ?? null]);
const placeOf = (r: SourceFields): string => JSON.stringify([r.position, r.side]);

/** Microphones of one source: names that differ in the place alone. Two at the same place are two sources, and make no group. */
export function findMicGroups(readings: readonly SourceFields[]): MicGroup[] {
  const groups = new Map<string, number[]>();
  readings.forEach((r, i) => {
    if (
      r.part === null ||
      ['unknown', 'reference', 'click', 'effects'].includes(r.family) ||
      r.position === 'trigger'
    )
      return;
    groups.set(sourceOf(r), [...(groups.get(sourceOf(r)) ?? []), i]);
  });
  const at = (i: number): SourceFields => readings[i] as SourceFields;
  return [...groups.values()]
    .filter(
      (members) => members.length > 1 && new Set(members.map((i) => placeOf(at(i)))).size === members.length,
    )
    .map(
      (members) =>
        [...members].sort((a, b) => nearness(at(a)) - nearness(at(b)) || a - b) as unknown as MicGroup,
    );
}

/** Something a delivery seems to lack. */
export interface DeliveryGap {
  readonly kind: 'side' | 'number';
  /** The recording that makes one expect it. */
  readonly near: number;
  /** What is missing, in plain words. */
  readonly missing: string;
}

/** What names make one expect and the delivery lacks: the other side of a pair, a number left out of a row. Common practice, no source. */
export function findGaps(readings: readonly SourceFields[]): DeliveryGap[] {
  const gaps: DeliveryGap[] = [];
  const rows = new Map<string, Map<number, number>>();
  readings.forEach((r, i) => {
    if (r.side === 'left' || r.side === 'right') {
      const other = r.side === 'left' ? 'right' : 'left';
      const same = (o: SourceFields): boolean =>
        o.side === other && sourceOf(o) === sourceOf(r) && o.position === r.position;
      // Numbers and places beside the side are read less surely: where as many lefts as rights are there, none is missing.
      const like = readings.filter((o) => o.family === r.family && o.part === r.part);
      const isEven =
        like.filter((o) => o.side === 'left').length === like.filter((o) => o.side === 'right').length;
      if (!isEven && !readings.some(same)) gaps.push({ kind: 'side', near: i, missing: `the ${other} side` });
    }
    if (r.number !== null && r.part !== null) {
      const key = JSON.stringify([r.family, r.part, r.role]);
      const row = rows.get(key) ?? new Map<number, number>();
      if (!row.has(r.number)) row.set(r.number, i);
      rows.set(key, row);
    }
  });
  for (const row of rows.values()) {
    const numbers = [...row.keys()].sort((a, b) => a - b);
    numbers.forEach((n, k) => {
      const before = k === 0 ? 0 : (numbers[k - 1] as number);
      // A single number says little (microphone types, track numbers); a row from 1 or 2 on with one left out does.
      if (numbers.length > 1 && before > 0 && n - before === 2)
        gaps.push({ kind: 'number', near: row.get(n) as number, missing: `number ${n - 1}` });
    });
  }
  return gaps;
}
