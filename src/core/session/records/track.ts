import { type Evidence, FAMILIES } from '../../naming';
import {
  colour,
  type Field,
  flag,
  integer,
  nullable,
  number,
  oneOf,
  orderKey,
  reference,
  text,
  whole,
} from './field';
import { kind } from './kind';
import { NOWHERE } from './nowhere';
import { plainList } from './plain-rows';
import { byHand } from './shared-fields';

const EVIDENCE_KINDS: readonly unknown[] = [
  'word',
  'rule',
  'neighbour',
  'sound',
] satisfies Evidence['kind'][];
const LONGEST_SAYING = 400;

function isEvidence(item: unknown): boolean {
  if (typeof item !== 'object' || item === null) return false;
  const { kind: said, text: words, means, ...more } = item as Readonly<Record<string, unknown>>;
  const isText = (value: unknown): boolean => typeof value === 'string' && value.length <= LONGEST_SAYING;
  return EVIDENCE_KINDS.includes(said) && isText(words) && isText(means) && Object.keys(more).length === 0;
}

const evidence = (): Field<readonly Evidence[]> =>
  whole<readonly Evidence[]>(
    plainList<Evidence>(60, isEvidence),
    (random) => (random() < 0.5 ? [] : [{ kind: 'word', text: 'kick', means: 'a bass drum' }]),
    { initial: [], merge: 'latest' },
  );

/** A row of the mixer's session. */
export const TRACK = kind(
  'tracks',
  {
    /** The folder it stands in; null = the top level. */
    parentId: nullable(reference({ kind: 'folder' })),
    orderKey: orderKey(),
    /** Name in the session. */
    name: text(200, { min: 1 }),
    family: oneOf(FAMILIES),
    /** What makes the sound; null = not known. */
    part: nullable(text(60)),
    /** How it is used; null = not said. */
    role: nullable(text(60)),
    /** Where the microphone stood; null = not said. */
    position: nullable(text(60)),
    side: nullable(text(60)),
    number: nullable(integer(0, 9999)),
    /** `#rrggbb`; null = not coloured yet. */
    color: nullable(colour()),
    /** Bus it is routed to; null = the mix bus; or {@link NOWHERE}. */
    busId: nullable(reference({ kind: 'bus', none: NOWHERE })),
    /** dB. */
    gainDb: number(-120, 24, { initial: 0 }),
    /** −1 left … 1 right. */
    pan: number(-1, 1, { initial: 0 }),
    muted: flag({ initial: false }),
    /** The comp that sounds, as kept or changed since; null, or one that is gone = none was kept. */
    compId: nullable(text(64)),
    /** How sure family and name are, 0–1; 1 once a person said so. */
    confidence: number(0, 1, { merge: 'latest' }),
    evidence: evidence(),
    /** Fields set by a person; rules leave them alone. */
    byHand: byHand(),
  },
  ({ name }) => name,
  { isMadeByHand: false },
);
