import type { LineRelation } from './line-relation';
import type { WaveRelation } from './wave-relation';

/** What two recordings have to do with each other by their sound. */
export type PairRelation =
  | { readonly kind: 'same-recording' }
  | { readonly kind: 'microphones'; readonly correlation: number }
  | { readonly kind: 'copies'; readonly share: number }
  | { readonly kind: 'harmony' | 'octave'; readonly share: number }
  | { readonly kind: 'same-line'; readonly share: number }
  | { readonly kind: 'one-after-another' }
  | { readonly kind: 'other' };

/** What was measured of two recordings. */
export interface PairFacts {
  /** How much of the shorter lies where the other sounds, 0–1; null where one is silent. */
  readonly overlap: number | null;
  readonly lines: LineRelation | null;
  readonly waves: WaveRelation | null;
  /** Correlation of their levels by band over time, −1 … 1; null where that says nothing. */
  readonly likeness: number | null;
}

/** Less in common in time than this, as a share of the shorter, and one follows the other. */
export const AFTER = 0.15;
const ALL = 0.97;
/** So many more of the windows are alike than are copies, and they are no copies. */
const NO_COPIES = 0.4;
/** Copies in more than this share of the windows are no chance. */
const COPIED = 0.05;
const LEAST_WINDOWS = 4;
/** Lines are compared from so many seconds in common on, and this share of the one with less. */
const [LINE_SECONDS, LINE_SHARE] = [1.5, 0.3];
const MOST = 0.5;
/** Without a line: levels that go together like this are one line. */
const LIKE = 0.6;

/** What two recordings are to each other; the surest first. */
export function pairRelation({ overlap, lines, waves, likeness }: PairFacts): PairRelation {
  if (overlap === null) return { kind: 'other' };
  if (overlap < AFTER) return { kind: 'one-after-another' };
  return (
    byWaves(waves) ??
    byLines(lines) ??
    (likeness !== null && likeness > LIKE ? { kind: 'same-line', share: likeness } : { kind: 'other' })
  );
}

function byWaves(waves: WaveRelation | null): PairRelation | null {
  if (!waves || waves.windows < LEAST_WINDOWS) return null;
  if (waves.copied > ALL) return { kind: 'same-recording' };
  // What was put together is unlike each of its sources in places.
  if (waves.alike > ALL || waves.alike - waves.copied > NO_COPIES)
    return { kind: 'microphones', correlation: waves.correlation };
  return waves.copied > COPIED ? { kind: 'copies', share: waves.copied } : null;
}

/** Null where one of them has no line. */
function byLines(lines: LineRelation | null): PairRelation | null {
  if (!lines || lines.seconds < LINE_SECONDS || lines.share < LINE_SHARE) return null;
  if (lines.octave > MOST) return { kind: 'octave', share: lines.octave };
  if (lines.harmony > MOST) return { kind: 'harmony', share: lines.harmony };
  return lines.unison > MOST ? { kind: 'same-line', share: lines.unison } : { kind: 'other' };
}
