import { type Family, findMicGroups, type SourceFields } from '../naming';
import type { BlockLength, Treatment } from '../session';

/**
 * Seconds of each: eight periods of the lowest partials' spacing keep a tone clean (long: 33 Hz, middle: 67 Hz), the short one keeps hits sharp.
 * Measured beside other lengths on bass, chords and drums by `npm run bench`.
 */
export const BLOCK_SECONDS: Readonly<Record<BlockLength, number>> = { long: 0.24, middle: 0.12, short: 0.06 };

/** What suits a family, as long as nobody says otherwise. Common practice, no source. */
export function defaultTreatment(family: Family): Treatment {
  switch (family) {
    case 'drums':
    case 'percussion':
    case 'click':
      return { method: 'slices', block: 'short' };
    case 'bass':
    case 'reference':
      return { method: 'held', block: 'long' };
    default:
      return { method: 'held', block: 'middle' };
  }
}

/** One recording to conform. */
export interface ConformTrack {
  readonly id: string;
  readonly family: Family;
  readonly part: string | null;
  /** Recordings of one source share it (a pair, microphones of one amplifier); null = on its own. */
  readonly sourceKey: string | null;
  readonly sampleRateHz: number;
  /** A choice of the person; null = what suits the family. */
  readonly treatment: Treatment | null;
}

/** Recordings that are treated as one, so that nothing moves between them. */
export interface ConformGroup extends Treatment {
  /** What it is, for people: `kit`, or the first member's source. */
  readonly name: string;
  readonly trackIds: readonly string[];
}

/** For each track the key of its source if several recordings share it, else null; for `ConformTrack.sourceKey`. */
export function sourceKeys(tracks: readonly SourceFields[]): (string | null)[] {
  const keys = tracks.map((): string | null => null);
  for (const group of findMicGroups(tracks)) {
    const { part, number } = tracks[group[0]] as SourceFields;
    for (const i of group) keys[i] = `${part ?? ''}${number === null ? '' : ` ${number}`} #${group[0]}`;
  }
  return keys;
}

/** Order in which the channels of a kit say where hits are. */
export function attackRank(part: string | null): number {
  return part === 'kick' || part === 'snare' ? 0 : part === 'tom' || part === 'hihat' ? 1 : 2;
}

/** Everything recorded together is stretched together: one group for the whole kit, one for each source of several recordings. */
export function planGroups(tracks: readonly ConformTrack[]): ConformGroup[] {
  const groups = new Map<string, { name: string; treatment: Treatment; trackIds: string[] }>();
  for (const track of tracks) {
    const treatment = track.treatment ?? defaultTreatment(track.family);
    const together =
      track.family === 'drums' && track.part !== 'loop' ? 'kit' : (track.sourceKey ?? track.id);
    const key = JSON.stringify([
      together,
      treatment.method,
      treatment.method === 'held' ? treatment.block : '',
      track.sampleRateHz,
    ]);
    const group = groups.get(key);
    if (group) group.trackIds.push(track.id);
    else groups.set(key, { name: together, treatment, trackIds: [track.id] });
  }
  return [...groups.values()].map(({ name, treatment, trackIds }) => ({ name, ...treatment, trackIds }));
}
