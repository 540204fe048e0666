import { PITCHES_PER_SECOND, type PitchLine } from './pitch-line';

/** What two pitch lines have in common where both have one. */
export interface LineRelation {
  /** Seconds in which both have a pitch. */
  readonly seconds: number;
  /** The same as a share of the one with less. */
  readonly share: number;
  /** Shares of those seconds: on one pitch, an octave or two apart, an interval that sounds in harmony. */
  readonly unison: number;
  readonly octave: number;
  readonly harmony: number;
}

/** On one pitch within this, semitones; an octave within this. */
const [SAME, OCTAVE] = [1, 0.7];
/** From a second and a bit to a sixth: intervals of second voices. */
const HARMONY = [2.3, 9.7] as const;
/** Two who sing the same do not begin a note together: the nearest within this counts, entries. */
const LOOSE = 4;

/** Compares two lines that begin together. */
export function lineRelation(a: PitchLine, b: PitchLine): LineRelation {
  const voiced = (line: PitchLine): number => line.reduce((n, p) => n + (Number.isNaN(p) ? 0 : 1), 0);
  let [both, unison, octave, harmony] = [0, 0, 0, 0];
  for (let n = 0; n < Math.min(a.length, b.length); n++) {
    if (Number.isNaN(a[n] as number) || Number.isNaN(b[n] as number)) continue;
    both++;
    const apart = nearest(a, b, n);
    if (apart <= SAME) unison++;
    else if (Math.abs(apart - 12) <= OCTAVE || Math.abs(apart - 24) <= OCTAVE) octave++;
    else if (apart >= HARMONY[0] && apart <= HARMONY[1]) harmony++;
  }
  const least = Math.min(voiced(a), voiced(b));
  const of = (n: number): number => (both > 0 ? n / both : 0);
  return {
    seconds: both / PITCHES_PER_SECOND,
    share: least > 0 ? both / least : 0,
    unison: of(unison),
    octave: of(octave),
    harmony: of(harmony),
  };
}

/** How far apart they are at entry n, semitones: the same note a little earlier or later counts. */
function nearest(a: PitchLine, b: PitchLine, n: number): number {
  const own = a[n] as number;
  const now = Math.abs(own - (b[n] as number));
  if (now <= SAME) return now;
  for (const d of [-LOOSE, LOOSE]) {
    const apart = Math.abs(own - (b[n + d] ?? NaN));
    if (apart <= SAME) return apart;
  }
  return now;
}
