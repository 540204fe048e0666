import type { Family } from '../reading';
import { concludedSense } from '../lexicon/parse-lexicon';
import { isSung, type Language, type Sense, type SenseFamily } from '../lexicon/sense';
import { GUESSES } from './candidates';
import { neighbourWeight, type Surroundings } from './company';
import { isGeneral, modifierCost } from './modifiers';
import { type HeadInName, type NameFacts, settle } from './settle';
import type { Tile, Tiling, Word } from './tilings';

/** One way to read a name: what it is, by which of its words. */
export interface Interpretation {
  readonly score: number;
  readonly family: Family;
  readonly part: string | null;
  /** The word that names the source; null = concluded from the rest. */
  readonly head: Word | null;
  readonly sense: Sense | null;
}

/** One way to read a name, with how likely it is beside the others, 0–1. */
export interface Weighed extends Interpretation {
  readonly share: number;
  readonly tiles: readonly Tile[];
}

/** A head that is tried: its meaning, its place, its score so far. */
type Tried = Pick<HeadInName, 'sense' | 'word' | 'score'>;

const ROMANCE: readonly Language[] = ['es', 'fr', 'it', 'pt'];
/** Without any head, and below an exact one. */
const UNKNOWN_ALONE = -1;
const UNKNOWN_BELOW = -2.6;

interface Name extends NameFacts {
  readonly score: number;
  readonly sources: readonly Word[];
}

/** All ways to read a tiling: each of its sources as the head, the others telling more of it; or none of them. */
export function interpretationsOf(
  tiling: Tiling,
  atoms: readonly { readonly key: string }[],
  number: number | null,
  at: Surroundings,
): Interpretation[] {
  const words = tiling.tiles.filter((t): t is Word => t.kind === 'word');
  const name: Name = {
    score: tiling.score,
    words,
    sources: words.filter((w) => w.sense.kind === 'part'),
    roles: rolesIn(words),
    unread: tiling.tiles.filter((t) => t.kind === 'unknown' && (atoms[t.from]?.key.length ?? 0) > 1).length,
    number,
    at,
  };
  const tried = [
    ...(name.sources.length === 0 ? withoutSource(name) : besideWeakSources(name)),
    ...name.sources.map((head): Tried => ({
      sense: head.sense,
      word: head,
      score: headScore(name, head),
    })),
  ];
  const out: Interpretation[] = [];
  for (const { sense, word, score } of tried) {
    const others = word === null ? name.sources : name.sources.filter((s) => s !== word);
    const { roles, unread } = name;
    // Written out: this is where the reader spends its time.
    for (const p of settle({ sense, word, score, others, words, roles, unread, number, at }))
      out.push({ score: p.score, family: p.family, part: p.part, head: word, sense });
  }
  out.push({ score: unknownScore(name), family: 'unknown', part: null, head: null, sense: null });
  return out;
}

const NO_ROLES: ReadonlySet<string> = new Set();

function rolesIn(words: readonly Word[]): ReadonlySet<string> {
  const said = words.filter((w) => w.sense.kind === 'role');
  return said.length === 0 ? NO_ROLES : new Set(said.map((w) => w.sense.value));
}

function unknownScore({ score, sources, roles, unread }: Name): number {
  if (sources.length === 0)
    return (
      score + UNKNOWN_ALONE - (roles.size > 0 ? 0.6 : 0) + (roles.size > 0 ? 0.15 : 0.3) * Math.min(2, unread)
    );
  return (
    score +
    UNKNOWN_BELOW +
    (sources.every((s) => s.how === 'exact') ? 0 : 0.9) +
    0.35 * Math.min(2, unread) +
    (sources.every((s) => s.sense.weight < 1) ? 0.5 : 0) +
    // Words that mean a source only with support leave it open.
    (sources.every((s) => s.sense.weight < 0.5) ? 1 : 0)
  );
}

/** Of a word that only resembles another, beside one that is known. */
const RESEMBLING = 0.7;
/** Cost of a guess that is one slip away: `bakcing vox`. */
const NEAR = 1.4;

function headScore(name: Name, head: Word): number {
  const nounFirst = isNounFirst(name);
  const families = new Set(name.sources.map((s) => s.sense.family)).size;
  let score = name.score;
  for (const other of name.sources) {
    if (other === head) continue;
    const areVoices = isSung(head.sense.family) && isSung(other.sense.family);
    const isWeak = (other.sense.weight < 1 || GUESSES.has(other.how)) && !areVoices;
    score -= modifierCost(head, other, nounFirst, families) * (isWeak ? 0.45 : 1);
    const isClear = other.sense.weight === 1 && other.how === 'exact';
    // "Git Bram": a word that is known, if ambiguous, goes before one that only resembles another.
    if (!isClear && !areVoices && GUESSES.has(head.how) && other.how === 'exact' && other.sense.weight >= 0.5)
      score -= RESEMBLING;
    if (!isClear) continue;
    const isNearVoice = areVoices && other.sense.family === 'voice' && head.cost < NEAR;
    if (GUESSES.has(head.how) && !isNearVoice) score -= 1.3;
    else if (!areVoices && !isGeneral(other.sense) && head.sense.weight < 1) score -= 0.6;
  }
  score -= linkCost(name, head);
  // "Slide fx": a way of playing beside a word that says next to nothing.
  if (head.sense.family === 'effects' && head.sense.part === 'effect' && name.roles.size > 0) score -= 0.3;
  return score;
}

/** A thing that a name says is not there, is like the source, or comes with it. */
const LINK_COSTS: ReadonlyMap<string, number> = new Map([
  ['without', 4],
  ['with', 1.2],
  ['like', 1.5],
]);

function linkCost({ words, sources }: Name, head: Word): number {
  const before = words.find((w) => w.to === head.from && w.sense.kind === 'link');
  const cost = before ? (LINK_COSTS.get(before.sense.value) ?? 0) : 0;
  // "Violin like pad": what is likened stands before the word as well.
  const isLikened = words.some(
    (w) => w.from === head.to && w.sense.kind === 'link' && w.sense.value === 'like',
  );
  return isLikened && sources.length > 1 ? cost + 1.5 : cost;
}

/** Whether all that is named is said to be missing: a mix of the rest. */
const isAllWithout = ({ words, sources }: Pick<Name, 'words' | 'sources'>): boolean =>
  sources.length > 0 &&
  sources.every((s) =>
    words.some((w) => w.to === s.from && w.sense.kind === 'link' && w.sense.value === 'without'),
  );

/** In Romance languages the noun stands before what qualifies it. */
function isNounFirst({ words, at }: Name): boolean {
  if (words.some((w) => ROMANCE.includes(w.sense.language))) return true;
  const { languages } = at.company;
  return ROMANCE.reduce((sum, l) => sum + (languages?.get(l) ?? 0), 0) > 0.5;
}

/** What else it may be where the sources named are all ambiguous, or said to be missing. */
function besideWeakSources(name: Name): Tried[] {
  const { words, sources, roles, at, score } = name;
  const out: Tried[] = [];
  if (sources.every((s) => s.sense.weight < 1))
    for (const hint of at.hints)
      if (hint.weight >= 1 && sources.every((s) => s.sense.family !== hint.family))
        out.push({ ...concluded(hint.family, hint.part, hint.open), score: score - 0.5 + 0.5 * hint.weight });
  if (isAllWithout({ words, sources })) out.push({ ...concluded('reference', 'mix'), score: score - 0.5 });
  // Words that only resemble a source speak no louder than the rest of the name.
  if (sources.length > 0 && sources.every((s) => GUESSES.has(s.how))) out.push(...withoutSource(name));
  const guitars = neighbourWeight(at, 'guitars');
  // "Lead harmony" between guitars is one of them.
  const isRoleOnly = (s: Word): boolean =>
    ['harmony', 'double'].includes(s.sense.role ?? '') && s.sense.bounds.size === 0;
  if (sources.every(isRoleOnly) && guitars > 0.3)
    out.push({
      ...concluded('guitars', 'electric-guitar'),
      score: score - (roles.has('lead') || roles.has('solo') ? 0.9 : 1.7) + 1.2 * guitars,
    });
  return out;
}

const concluded = (
  family: SenseFamily,
  part: string | null,
  open: Sense['open'] = null,
): Pick<Tried, 'sense' | 'word'> => ({ sense: concludedSense(family, part, open), word: null });

/** A name without any source: what its roles and places let suppose. */
function withoutSource(name: Name): Tried[] {
  const { at, roles, words, score } = name;
  const out: Tried[] = at.hints.map((h) => ({
    ...concluded(h.family, h.part, h.open),
    score: score - 0.6 + 0.5 * h.weight,
  }));
  const suppose = (family: SenseFamily, part: string, less: number, open: Sense['open'] = null): void => {
    out.push({ ...concluded(family, part, open), score: score - less });
  };
  const guitars = neighbourWeight(at, 'guitars');
  const says = (kind: Sense['kind'], value: string): boolean =>
    words.some((w) => w.sense.kind === kind && w.sense.value === value);
  if (roles.has('lead')) {
    suppose('lead-vocal', 'vocal', 0.9);
    suppose('synths', 'synth-lead', 1.6 + ((at.company.tags.get('elec') ?? 0) > 0 ? 0 : 0.8));
    suppose('guitars', 'electric-guitar', 1.8 - 0.7 * guitars);
  }
  if (['solo', 'rhythm', 'clean', 'distorted', 'muted'].some((r) => roles.has(r)))
    suppose('guitars', 'electric-guitar', (roles.has('rhythm') ? 0.6 : 1.2) - 0.7 * guitars);
  if (roles.has('solo'))
    suppose('lead-vocal', 'vocal', 1.3 + (at.company.kit > 0 ? 0.5 : 0) - 0.5 * at.company.choir);
  if (roles.has('double')) suppose('lead-vocal', 'vocal', 1.5);
  if (roles.has('octave')) suppose('backing-vocal', 'vocal', 1.9);
  if (says('position', 'room')) suppose('drums', 'room', 0.6, 'room');
  // "Far L" among the microphones of an ensemble.
  if (says('position', 'far') && (at.company.clear.get('mains') ?? 0) > 0) suppose('mains', 'hall', 0.3);
  if (words.some((w) => w.sense.kind === 'return')) suppose('effects', 'effect', 0.6);
  if (says('position', 'amp')) suppose('guitars', 'guitar', 1.7);
  return out;
}
