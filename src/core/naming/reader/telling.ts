import type { Sense } from '../lexicon/sense';
import type { Atom } from './atoms';
import type { ReadName } from './read-delivery';

const KINDS: ReadonlySet<Sense['kind']> = new Set<Sense['kind']>([
  'treatment',
  'take',
  'unit',
  'fact',
  'junk',
  'return',
]);

/** Whether a word beside a source does not tell which it is. */
export const saysNothing = (s: Pick<Sense, 'kind' | 'value'>): boolean =>
  KINDS.has(s.kind) || (s.kind === 'position' && (s.value === 'mono' || s.value === 'stereo'));

/** The pieces of a name but those of words that say nothing of the source: `Piano G dry` is the companion of `Piano D`. */
export function tellingAtoms(name: ReadName): readonly Atom[] {
  const gone = new Set<number>();
  for (const t of name.ways[0]?.tiles ?? []) {
    if (t.kind !== 'word' || !saysNothing(t.sense)) continue;
    // The number of a take goes with it.
    if (t.sense.kind === 'take' && /^\d+$/.test(name.atoms[t.to]?.key ?? '')) gone.add(t.to);
    // A single letter may be the side itself.
    for (let i = t.from; i < t.to; i++) if (/^(?:\d+|..+)$/.test(name.atoms[i]?.key ?? '')) gone.add(i);
  }
  const left = name.atoms.filter((_, i) => !gone.has(i));
  // What a recorder counts.
  return /^0\d$/.test(left.at(-1)?.key ?? '') ? left.slice(0, -1) : left;
}
