import type { Lexicon } from '../lexicon/lexicon';
import { GUESSES } from './candidates';
import { CALIBRATION } from './calibration';
import type { Company } from './company';
import { neighbourWeight } from './company';
import { shortFormScore } from './short-forms';
import { isCommonPart, type ReadName } from './read-delivery';
import type { Word } from './tilings';

/** A name of which nothing speaks for any source is never said to be clear. */
const MOST_UNKNOWN = 0.5;

/** Figures by which the reader's own doubt is judged; their order is that of the calibration. */
export const FIGURES = [
  'odds',
  'share',
  'family share',
  'guessed',
  'unread words',
  'weak alias',
  'no head',
  'several families',
  'two letters',
  'unnamed voice',
  'composed or inflected',
  'several words',
  'without vowels',
  'letters explained',
  'meanings',
  'other family',
  'kind of delivery',
  'foreign word',
  'neighbours',
  'three letters',
  'unclear delivery',
  'rare part',
  'guess at a rare part',
  'letters: this reading',
  'letters: this family',
  'letters: another family',
] as const;

const one = (is: boolean): number => (is ? 1 : 0);

/** The figures of a name in its delivery, in the order of {@link FIGURES}. */
export function figuresOf(name: ReadName, company: Company, lexicon: Lexicon): number[] {
  const [way] = name.ways;
  if (!way) return FIGURES.map(() => 0);
  const { share, head, sense, family, part } = way;
  const words = way.tiles.filter((t): t is Word => t.kind === 'word');
  const sources = words.filter((w) => w.sense.kind === 'part');
  const unread = way.tiles.filter(
    (t) => t.kind === 'unknown' && (name.atoms[t.from]?.key.length ?? 0) > 1,
  ).length;
  const meanings = head
    ? new Set(lexicon.of(head.sense.key).flatMap((s) => (s.kind === 'part' ? [`${s.family}/${s.part}`] : [])))
        .size - 1
    : 0;
  const isRare = !isCommonPart(part);
  const sum = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0);
  return [
    Math.log(Math.max(1e-4, share) / Math.max(1e-4, 1.001 - share)),
    share,
    sum(name.ways.filter((w) => w.family === family).map((w) => w.share)),
    one(sources.some((w) => GUESSES.has(w.how))),
    Math.min(2, unread),
    one(head !== null && head.sense.weight < 1),
    one(head === null),
    one(new Set(sources.map((w) => w.sense.family)).size > 1),
    one(head !== null && head.sense.key.length <= 2),
    one(sense?.open === 'voice' && company.voices > 1),
    one(head?.how === 'compound' || head?.how === 'inflected'),
    one(head !== null && head.sense.bounds.size > 0),
    one(head?.how === 'vowels'),
    lettersExplained(name, words),
    Math.max(0, Math.min(3, meanings)),
    Math.max(0, ...name.ways.filter((w) => w.family !== family).map((w) => w.share)),
    head?.sense.tag ? (company.tags.get(head.sense.tag) ?? 0) : 0,
    one(head !== null && head.sense.language !== 'xx' && spoken(head, company) < 0.3),
    neighbourWeight({ company, hints: [], neighbours: name.neighbours }, family),
    one(head?.sense.key.length === 3),
    company.unclear,
    one(isRare),
    one(isRare && head !== null && GUESSES.has(head.how)),
    ...lettersOf(name, family, part),
  ];
}

/** What the letters say of a reading, of its family, and of the likeliest other. */
function lettersOf({ opinion }: ReadName, family: string, part: string | null): number[] {
  if (!opinion) return [0, 0, 0];
  const others = [...opinion.families].filter(([f]) => f !== family).map(([, likelihood]) => likelihood);
  return [opinion.logLikelihood(family, part), opinion.families.get(family) ?? 0, Math.max(0, ...others)];
}

const spoken = (head: Word, company: Company): number => company.languages?.get(head.sense.language) ?? 0;

/** Share of the letters that known words cover; half for those that are only resembled. */
function lettersExplained(name: ReadName, words: readonly Word[]): number {
  const letters = (from: number, to: number): number =>
    name.atoms.slice(from, to).reduce((n, a) => n + (/^\d+$/.test(a.key) ? 0 : a.key.length), 0);
  const all = letters(0, name.atoms.length);
  if (all === 0) return 0;
  const covered = new Map(words.map((w) => [w.from, w]));
  let explained = 0;
  for (const w of covered.values())
    explained += letters(w.from, w.to) * (w.how === 'exact' || w.how === 'compound' ? 1 : 0.5);
  return Math.min(1, explained / all);
}

/** How likely a name is read right, 0–1; below 0.7 it is doubtful. The network was trained on readings with parts of the lexicon taken away. */
export function confidenceOf(name: ReadName, company: Company, lexicon: Lexicon): number {
  const [way] = name.ways;
  if (!way || way.family === 'unknown') return Math.min(MOST_UNKNOWN, 0.2 + 0.3 * (way?.share ?? 0));
  if (way.sense?.own) return OWN_CONFIDENCE;
  const most = isUnsupported(name, company) ? MOST_UNSUPPORTED : 1;
  const figures = figuresOf(name, company, lexicon);
  let z = CALIBRATION.bias;
  for (const unit of CALIBRATION.units)
    z += unit.weight * Math.tanh(figures.reduce((sum, x, k) => sum + x * (unit.weights[k] ?? 0), unit.bias));
  const confidence = Math.round(1000 / (1 + Math.exp(-z))) / 1000;
  return Math.min(most, isPlain(name, lexicon) ? Math.max(LEAST_PLAIN, confidence) : confidence);
}

/** A name that is one word with one meaning, `LV`, is clear whatever the others are. */
const LEAST_PLAIN = 0.75;
const PLAIN_SHARE = 0.9;

function isPlain({ ways: [way], atoms }: ReadName, lexicon: Lexicon): boolean {
  if (!way?.head || way.share < PLAIN_SHARE) return false;
  const { sense, how, from, to } = way.head;
  return (
    how === 'exact' &&
    sense.weight === 1 &&
    sense.open === null &&
    from === 0 &&
    to === atoms.length &&
    lexicon.meanings(sense.key) === 1
  );
}

/** What only company could settle is doubtful without it. */
const MOST_UNSUPPORTED = 0.65;
const FEW_NAMES = 4;
const SHORT = 2;

/** Whether a name hangs on a word of several meanings, or on one of two sources, with hardly any names around it; or on a short form of which the others say nothing. */
function isUnsupported({ ways: [way], hints }: ReadName, company: Company): boolean {
  if (!way) return false;
  // "Lead", alone: nothing names a source.
  if (!way.head) return company.names < FEW_NAMES && hints.length === 0;
  const { sense } = way.head;
  const isAmbiguous = sense.open === null && sense.weight < 1;
  const families = new Set(
    way.tiles.flatMap((t) => (t.kind === 'word' && t.sense.kind === 'part' ? [t.sense.family] : [])),
  );
  if (company.names < FEW_NAMES && (isAmbiguous || families.size > 1)) return true;
  const at = { family: way.family, part: way.part, company, isAlone: true };
  return sense.weight < 1 && sense.key.length <= SHORT && (shortFormScore(sense.key, at) ?? 1) <= 0;
}

/** A word that this house or delivery has given a meaning. */
const OWN_CONFIDENCE = 0.97;
