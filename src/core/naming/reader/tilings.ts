import type { Lexicon } from '../lexicon/lexicon';
import { COMMON_PARTS } from '../lexicon/near-keys';
import type { Sense } from '../lexicon/sense';
import { type Atom, isNumber } from './atoms';
import { type CandidateFinder, GUESSES, type How, type Step } from './candidates';
import { type Company, NO_COMPANY } from './company';

/** A piece of a name taken for a meaning. */
export interface Word {
  readonly kind: 'word';
  readonly sense: Sense;
  /** Atoms it covers: from, and the one behind. */
  readonly from: number;
  readonly to: number;
  readonly how: How;
  readonly cost: number;
  /** How many senses its key has. */
  readonly meanings: number;
}

/** A piece of a name that is a number, or that nothing is known of. */
export interface Rest {
  readonly kind: 'number' | 'unknown';
  readonly from: number;
}

/** A piece of a tiling. */
export type Tile = Word | Rest;

/** A way to take a whole name apart, and how likely it is. Scores are log units. */
export interface Tiling {
  readonly score: number;
  readonly tiles: readonly Tile[];
}

interface Node {
  readonly score: number;
  readonly tiles: readonly Tile[];
  readonly before: Node | null;
}

/** A tiling with the part of its score that no company changes. */
interface Neutral {
  readonly fixed: number;
  readonly tiles: readonly Tile[];
}

interface Option {
  readonly to: number;
  readonly score: number;
  readonly tiles: readonly Tile[];
}

/** Atoms that one phrase may span. */
const LONGEST_SPAN = 6;
const BEAM = 20;
/** Tilings that are kept for a name, whatever company it is in. */
const MOST_KEPT = 36;
const MOST_REMEMBERED = 20_000;
const MOST_OPTIONS = 20;
const MOST_COMBINATIONS = 8;

const WEIGHT_SCORES: ReadonlyMap<number, number> = new Map([
  [1, 0],
  [0.5, -0.7],
  [0.25, -1.6],
]);
const KIND_SCORES: Readonly<Partial<Record<Sense['kind'], number>>> = {
  junk: -0.45,
  section: -0.3,
  fact: -0.3,
  unit: -0.3,
  take: -0.3,
  microphone: -0.3,
  number: -0.5,
};
/** A word of the house goes before any of the trade. */
const OWN_BONUS = 3;

/** How likely a meaning is in this company, in log units. */
function senseScore(sense: Sense, meanings: number, company: Company): number {
  if (sense.own) return OWN_BONUS;
  let score = sense.kind === 'side' ? 0.45 : (WEIGHT_SCORES.get(sense.weight) ?? -0.4);
  score += KIND_SCORES[sense.kind] ?? 0;
  if (sense.language !== 'xx')
    score -= company.languages ? 0.75 * (1 - (company.languages.get(sense.language) ?? 0)) : 0.35;
  if (sense.tag !== null && (sense.weight < 1 || meanings > 1))
    score += 1.3 * (company.tags.get(sense.tag) ?? 0) - 0.3;
  return score;
}

/** What a guess at a rare instrument, or in a language nobody speaks here, costs more; less where the delivery is of its kind. */
function rarity(sense: Sense, company: Company): number {
  const foreign =
    sense.language === 'xx' || !company.languages
      ? 0
      : 0.8 * (1 - (company.languages.get(sense.language) ?? 0));
  if (sense.kind !== 'part') return 0.3 + foreign;
  if (COMMON_PARTS.has(sense.part)) return foreign;
  const support = sense.tag === null ? 0 : (company.tags.get(sense.tag) ?? 0);
  return foreign + 0.9 * (1 - support);
}

/** `Flügel` and `Flugel` are two instruments: a word with its marks means that of the lexicon with marks. */
const markScore = (sense: Sense, shown: string): number =>
  !sense.marked ? 0 : /[^\u0000-\u007f]/.test(shown) ? 0.3 : -0.6;

/** Finds the likeliest ways to take a name apart, best first. Source: beam search over a word lattice, from memory. */
export class TilingFinder {
  readonly #lexicon: Lexicon;
  readonly #candidates: CandidateFinder;
  readonly #known = new Map<string, readonly Neutral[]>();

  constructor(lexicon: Lexicon, candidates: CandidateFinder) {
    this.#lexicon = lexicon;
    this.#candidates = candidates;
  }

  /** The likeliest in this company, at most `most`. */
  of(atoms: readonly Atom[], company: Company, most: number): Tiling[] {
    return this.#neutral(atoms)
      .map(({ fixed, tiles }) => ({ score: fixed + inCompany(tiles, company), tiles }))
      .sort((a, b) => b.score - a.score)
      .slice(0, most);
  }

  /** Tilings without any company: what a name can be at all is found once. */
  #neutral(atoms: readonly Atom[]): readonly Neutral[] {
    const key = atoms.map((a) => (a.hard ? ' ' : '') + a.shown).join('\u0000');
    const known = this.#known.get(key);
    if (known) return known;
    const beams: Node[][] = atoms.map(() => []);
    beams.push([]);
    (beams[0] as Node[]).push({ score: 0, tiles: [], before: null });
    for (let at = 0; at < atoms.length; at++) {
      const nodes = best(beams[at] as Node[], BEAM);
      if (nodes.length === 0) continue;
      for (const { to, score, tiles } of this.#options(atoms, at))
        for (const node of nodes)
          (beams[to] as Node[]).push({ score: node.score + score, tiles, before: node });
    }
    const found = best(beams[atoms.length] as Node[], MOST_KEPT).map((node): Neutral => {
      const tiles = tilesOf(node);
      return { fixed: node.score - inCompany(tiles, NO_COMPANY), tiles };
    });
    if (this.#known.size > MOST_REMEMBERED) this.#known.clear();
    this.#known.set(key, found);
    return found;
  }

  #options(atoms: readonly Atom[], at: number): readonly Option[] {
    const atom = atoms[at] as Atom;
    const options: Option[] = [
      ...this.#phrases(atoms, at),
      ...this.#parted(atoms, at),
      ...this.#single(atoms, at),
    ];
    if (isNumber(atom)) {
      const isOther =
        atom.key.length >= 3 &&
        this.#lexicon.has(atom.key) &&
        !this.#lexicon.of(atom.key).some((s) => s.kind === 'microphone');
      options.push({
        to: at + 1,
        score: isOther ? -1.6 : -0.05,
        tiles: [{ kind: 'number', from: at }],
      });
    } else {
      const first = this.#candidates.of(atom.key)[0]?.[0];
      const score = atom.key.length === 1 ? -0.9 : first && first.how !== 'exact' ? -2.6 : -2.2;
      options.push({ to: at + 1, score, tiles: [{ kind: 'unknown', from: at }] });
    }
    return options.sort((a, b) => b.score - a.score).slice(0, MOST_OPTIONS);
  }

  /** Several atoms that together are one phrase. */
  #phrases(atoms: readonly Atom[], at: number): Option[] {
    const out: Option[] = [];
    let text = (atoms[at] as Atom).key;
    const hard: number[] = [];
    const soft: number[] = [];
    for (let to = at + 1; to < Math.min(atoms.length, at + LONGEST_SPAN); to++) {
      const next = atoms[to] as Atom;
      (next.hard ? hard : soft).push(text.length);
      text += next.key;
      if (text.length > this.#lexicon.longestKey) break;
      const senses = this.#lexicon.of(text);
      for (const sense of senses)
        out.push(
          option(
            {
              kind: 'word',
              sense,
              from: at,
              to: to + 1,
              how: 'exact',
              cost: 0,
              meanings: this.#lexicon.meanings(text),
            },
            edgeScore(sense, hard, soft, text.length),
          ),
        );
    }
    return out;
  }

  /** Two atoms that a slip of the hand has parted: `voc als`. */
  #parted(atoms: readonly Atom[], at: number): Option[] {
    const [first, second] = [atoms[at] as Atom, atoms[at + 1]];
    if (!second || isNumber(first) || isNumber(second) || first.key.length > 4) return [];
    const text = first.key + second.key;
    if (
      text.length < 5 ||
      this.#lexicon.has(second.key) ||
      this.#lexicon.of(first.key).some((s) => s.kind === 'part' && s.weight === 1)
    )
      return [];
    return this.#candidates.nearly(text).flatMap(({ key, distance }) => {
      if (key[0] !== text[0]) return [];
      const senses = this.#lexicon.of(key);
      return senses.map((sense) =>
        option(
          {
            kind: 'word',
            sense,
            from: at,
            to: at + 2,
            how: 'mistyped',
            cost: 0.6 + distance,
            meanings: this.#lexicon.meanings(key),
          },
          -0.6 - 1.1 * distance,
        ),
      );
    });
  }

  /** One atom, as one word or as several written together. */
  #single(atoms: readonly Atom[], at: number): Option[] {
    const { key: word, shown } = atoms[at] as Atom;
    const out: Option[] = [];
    for (const candidate of this.#candidates.of(word)) {
      let combined: { score: number; tiles: readonly Word[] }[] = [{ score: 0, tiles: [] }];
      for (const step of candidate) {
        const senses = this.#sensesOf(step, word);
        const meanings = this.#lexicon.meanings(step.key);
        combined = combined
          .flatMap(({ score, tiles }) =>
            senses.map((sense) => {
              const { how, cost } = step;
              const next: Word = { kind: 'word', sense, from: at, to: at + 1, how, cost, meanings };
              return {
                score: score - cost + inCompany([next], NO_COMPANY) + markScore(sense, shown),
                tiles: [...tiles, next],
              };
            }),
          )
          .sort((a, b) => b.score - a.score)
          .slice(0, MOST_COMBINATIONS);
      }
      for (const { score, tiles } of combined) out.push({ to: at + 1, score, tiles });
    }
    return out;
  }

  #sensesOf(step: Step, word: string): readonly Sense[] {
    const isSlip = step.how === 'mistyped' || step.how === 'vowels';
    return this.#lexicon.of(step.key).filter(
      (s) =>
        (step.languages === null || step.languages.includes(s.language)) &&
        // A short word with another first letter is hardly a side or a place.
        !(isSlip && (s.kind === 'side' || s.kind === 'position') && step.key[0] !== word[0]),
    );
  }
}

const option = (word: Word, score: number): Option => ({
  to: word.to,
  score: score + inCompany([word], NO_COMPANY),
  tiles: [word],
});

/** What the company makes of the words of a tiling. */
function inCompany(tiles: readonly Tile[], company: Company): number {
  let score = 0;
  for (const tile of tiles) {
    if (tile.kind !== 'word') continue;
    score += senseScore(tile.sense, tile.meanings, company);
    if (GUESSES.has(tile.how)) score -= rarity(tile.sense, company);
  }
  return score;
}

/** Where words meet in the name and in the alias: alike is good, a separator that the alias lacks is not. */
function edgeScore(sense: Sense, hard: readonly number[], soft: readonly number[], length: number): number {
  let score = 0;
  let lacking = 0;
  let shared = 0;
  for (const at of hard) {
    if (sense.bounds.has(at)) shared++;
    else lacking++;
  }
  for (const at of soft) {
    if (sense.bounds.has(at)) shared++;
    else score += 0.45;
  }
  score += 1.2 * shared - 0.9 * lacking - 0.05 * (sense.bounds.size - shared);
  return lacking > 0 && length < 5 ? score - 1.2 : score;
}

function best(nodes: Node[], width: number): Node[] {
  nodes.sort((a, b) => b.score - a.score);
  if (nodes.length > width) nodes.length = width;
  return nodes;
}

function tilesOf(end: Node): Tile[] {
  const groups: (readonly Tile[])[] = [];
  for (let node: Node | null = end; node; node = node.before) groups.push(node.tiles);
  return groups.reverse().flat();
}
