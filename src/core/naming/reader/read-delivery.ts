import type { Lexicon } from '../lexicon/lexicon';
import { COMMON_PARTS } from '../lexicon/near-keys';
import type { Language, Sense } from '../lexicon/sense';
import { type Atom, atomsOf, isNumber, partsOfPath } from './atoms';
import { CandidateFinder } from './candidates';
import type { NgramModel, Opinion } from './ngram-model';
import { rowsOf, withoutCommon } from './ngrams';
import { type Company, type Hint, type Neighbour, NO_COMPANY } from './company';
import { type Interpretation, interpretationsOf, type Weighed } from './heads';
import { familiesAround, weighedAnew } from './second-opinion';
import { withoutShared } from './shared-words';
import { type Tile, type Tiling, TilingFinder, type Word } from './tilings';

/** A name with what was made of it. */
export interface ReadName {
  readonly input: string;
  readonly atoms: readonly Atom[];
  readonly hints: readonly Hint[];
  readonly neighbours: readonly Neighbour[];
  /** Ways to read it, the likeliest first; one for each family and part. */
  readonly ways: readonly Weighed[];
  /** What its letters say; null = they were not asked. */
  readonly opinion: Opinion | null;
}

/** A delivery read: its names in the order given, and what it is as a whole. */
export interface ReadDelivery {
  readonly names: readonly ReadName[];
  readonly company: Company;
}

/** Tilings that are followed up. */
const MOST_TILINGS = 12;
/** A tiling so much less likely than the best cannot win by what its words tell of each other. */
const WORTH_TRYING = 6;
/** Softness of the choice between ways to read a name. */
const TEMPERATURE = 0.75;
/** Each pass knows what the one before made of the other names. */
const PASSES = 3;
const FOLDER_WEIGHT = 1.6;
const UNCLEAR_FOLDER_WEIGHT = 0.5;
const SHARED_WORD_WEIGHT = 0.5;

/** Reads all names of a delivery together: what is clear in some helps the others. */
export class DeliveryReader {
  readonly #lexicon: Lexicon;
  readonly #tilings: TilingFinder;
  readonly #letters: NgramModel | null;

  /** `letters`: a second opinion on each name; null = the lexicon alone decides. */
  constructor(lexicon: Lexicon, letters: NgramModel | null) {
    this.#lexicon = lexicon;
    this.#letters = letters;
    this.#tilings = new TilingFinder(lexicon, new CandidateFinder(lexicon));
  }

  read(inputs: readonly string[], without: (atoms: readonly Atom[]) => readonly Atom[]): ReadDelivery {
    const paths = inputs.map(partsOfPath);
    const trimmed = withoutShared(
      paths.map((p) => without(atomsOf(p.base))),
      this.#lexicon,
    );
    const hints = trimmed.map((t, i) => [
      ...this.#folderHints(paths[i]?.folders ?? []),
      ...this.#sharedHints(t.taken),
    ]);
    const joined = trimmed.map((t) =>
      t.atoms
        .filter((a) => !isNumber(a))
        .map((a) => a.key)
        .join(''),
    );
    // Behind what they are headed by, too: "Box A BD".
    const endings = trimmed.flatMap((t) => t.atoms.filter((a) => !isNumber(a)).at(-1)?.key ?? []);
    const known = {
      names: inputs.length,
      keys: new Set([...joined, ...endings]),
      terse: joined.filter((k) => k.length <= TERSE).length / Math.max(1, joined.length),
    };
    let company: Company = { ...NO_COMPANY, ...known };
    const heading = trimmed.map((t) => (t.atoms.length > 1 ? (t.atoms[0]?.key ?? '') : ''));
    let neighbours: readonly (readonly Neighbour[])[] = inputs.map(() => []);
    let ways: readonly (readonly Weighed[])[] = [];
    for (let pass = 0; pass < PASSES; pass++) {
      if (pass > 0) {
        company = { ...companyOf(ways, this.#lexicon), ...known };
        neighbours = neighboursOf(ways, heading);
      }
      ways = trimmed.map((t, i) =>
        this.#waysOf(t.atoms, {
          company,
          hints: hints[i] as readonly Hint[],
          neighbours: neighbours[i] as readonly Neighbour[],
        }),
      );
    }
    const around = familiesAround(ways);
    const telling = this.#letters ? withoutCommon(trimmed.map((t) => t.atoms)) : [];
    return {
      company,
      names: inputs.map((input, i) => {
        const atoms = trimmed[i]?.atoms ?? [];
        const opinion = this.#letters?.opinionOf(rowsOf(telling[i] ?? [], around[i] ?? [])) ?? null;
        return {
          input,
          atoms,
          hints: hints[i] as readonly Hint[],
          neighbours: neighbours[i] as readonly Neighbour[],
          ways: opinion
            ? weighedAnew(ways[i] as readonly Weighed[], opinion, company)
            : (ways[i] as readonly Weighed[]),
          opinion,
        };
      }),
    };
  }

  /** What the folders of a file say, the innermost most. */
  #folderHints(folders: readonly string[]): Hint[] {
    return [...folders].reverse().flatMap((folder, depth) => {
      const [tiling] = this.#tilings.of(atomsOf(folder), NO_COMPANY, 1);
      if (!tiling) return [];
      const isClear = tiling.tiles.every((t) => t.kind !== 'unknown');
      const weight = (isClear ? FOLDER_WEIGHT : UNCLEAR_FOLDER_WEIGHT) / (1 + depth);
      return sourcesIn(tiling)
        .slice(0, 2)
        .map((w) => hintOf(w.sense, folder, weight));
    });
  }

  /** An instrument's word that all names share, and nothing else: the songs of a session for that instrument. */
  #sharedHints(taken: readonly string[]): Hint[] {
    const words = taken.filter((t) => !/^\d+$/.test(t));
    const [word = ''] = words;
    if (words.length !== 1 || word.length < 4) return [];
    const parts = this.#lexicon.of(word).filter((s) => s.kind === 'part');
    return parts.some((s) => s.weight === 1)
      ? parts.slice(0, 2).map((s) => hintOf(s, word, SHARED_WORD_WEIGHT))
      : [];
  }

  #waysOf(atoms: readonly Atom[], at: Parameters<typeof interpretationsOf>[3]): Weighed[] {
    const number = lastNumber(atoms);
    const tilings: readonly Tiling[] =
      atoms.length === 0 ? [{ score: 0, tiles: [] }] : this.#tilings.of(atoms, at.company, MOST_TILINGS);
    const best = new Map<string, { way: Interpretation; tiles: readonly Tile[] }>();
    const least = (tilings[0]?.score ?? 0) - WORTH_TRYING;
    for (const tiling of tilings.filter((t) => t.score >= least))
      for (const way of interpretationsOf(tiling, atoms, number, at)) {
        const key = `${way.family}/${way.part}`;
        if (way.score > (best.get(key)?.way.score ?? -Infinity)) best.set(key, { way, tiles: tiling.tiles });
      }
    const all = [...best.values()].sort((a, b) => b.way.score - a.way.score);
    const highest = all[0]?.way.score ?? 0;
    const likelihood = (score: number): number => Math.exp((score - highest) / TEMPERATURE);
    const sum = all.reduce((s, { way }) => s + likelihood(way.score), 0);
    return all.map(({ way, tiles }) => ({ ...way, tiles, share: likelihood(way.score) / sum }));
  }
}

const sourcesIn = (tiling: Tiling): Word[] =>
  tiling.tiles.filter((t): t is Word => t.kind === 'word' && t.sense.kind === 'part');

const hintOf = (s: Sense, text: string, weight: number): Hint => ({
  family: s.family ?? 'unknown',
  part: s.part,
  open: s.open,
  text,
  weight,
});

function lastNumber(atoms: readonly Atom[]): number | null {
  const last = atoms.filter((a) => isNumber(a) && a.key.length < 3).at(-1);
  return last ? Number(last.key) : null;
}

/** So many names that begin with one word are a group. */
const LEAST_GROUP = 3;
const GROUP_WEIGHT = 1.5;

/** Families of the names before and after, and of those that begin with the same word, by how sure they are. Equal words beside each other prove little. */
function neighboursOf(ways: readonly (readonly Weighed[])[], headings: readonly string[]): Neighbour[][] {
  const top = ways.map((w) => w[0]);
  const groups = new Map<string, number[]>();
  headings.forEach((h, i) => {
    if (h !== '') groups.set(h, [...(groups.get(h) ?? []), i]);
  });
  return top.map((own, i) => {
    const beside = [top[i - 1], top[i + 1]].flatMap((other): Neighbour[] => {
      if (!other || other.family === 'unknown') return [];
      const isSameWord = other.head !== null && other.head.sense.key === own?.head?.sense.key;
      return [{ family: other.family, weight: other.share * (isSameWord ? 0.3 : 1) }];
    });
    const group = (groups.get(headings[i] ?? '') ?? []).filter((k) => k !== i);
    if (group.length + 1 < LEAST_GROUP || group.length + 1 >= top.length) return beside;
    const votes = group.flatMap((k): Neighbour[] => {
      const other = top[k];
      return !other || other.family === 'unknown'
        ? []
        : [{ family: other.family, weight: (GROUP_WEIGHT * other.share) / group.length }];
    });
    return [...beside, ...votes];
  });
}

/** Letters of a name that is a code. */
const TERSE = 3;
const LEAST_REGISTER = 0.1;
const LEAST_TAG_NAMES = 2;
const cap = (x: number): number => Math.min(1, x);

/** What the names together say of the delivery. */
function companyOf(
  ways: readonly (readonly Weighed[])[],
  lexicon: Lexicon,
): Omit<Company, 'names' | 'keys' | 'terse'> {
  const top = ways.flatMap((w) => (w[0] ? [w[0]] : []));
  const n = top.length;
  const languages = languagesOf(top, lexicon);
  const tags = tagsOf(top, n);
  const weigh = (is: (w: Weighed) => boolean): number =>
    top.reduce((sum, w) => sum + (is(w) ? w.share : 0), 0);
  const isIn = (w: Weighed, families: string, parts = ''): boolean =>
    families.split(' ').includes(w.family) && (parts === '' || parts.split(' ').includes(w.part ?? ''));
  const kit = weigh((w) => isIn(w, 'drums', 'kick hihat tom overhead ride kit'));
  const orchestra = weigh(
    (w) =>
      w.part === 'timpani' ||
      (isIn(w, 'strings winds brass mains') &&
        !['strings', 'brass', 'saxophone', 'audience'].includes(w.part ?? '')),
  );
  const saxophones = weigh((w) => w.part === 'saxophone' || isIn(w, 'brass', 'trumpet trombone'));
  const instruments = weigh((w) => w.part !== 'organ' && isIn(w, 'guitars keys synths bass'));
  const leads = weigh(
    (w) =>
      w.family === 'lead-vocal' &&
      (['lead', 'beatbox', 'adlib'].includes(w.sense?.role ?? '') ||
        w.tiles.some((t) => t.kind === 'word' && t.sense.kind === 'role' && t.sense.value === 'lead')),
  );
  const isRegister = (w: Weighed): boolean => w.sense?.open === 'register';
  // A register that is not the likeliest reading counts as well: several of them make each other likely.
  const registers = new Set(
    ways.flatMap((all) =>
      all.filter((w) => isRegister(w) && w.share >= LEAST_REGISTER).map((w) => w.sense?.register),
    ),
  ).size;
  const choirs = top.filter((w) => w.part === 'choir' && !isRegister(w)).length;
  const led = leads > 0.5 && choirs === 0 && !top.some((w) => w.family === 'mains') ? 0.35 : 1;
  const fewHorns = 1 - 0.8 * cap(registers < 4 ? saxophones / 4 : 0);
  return {
    languages,
    tags,
    kit: cap(kit / 2),
    orchestra: cap(orchestra / Math.max(3, 0.35 * n)),
    saxophones: cap(saxophones / 3),
    clear: clearOf(top),
    live: cap(weigh((w) => w.part === 'audience' || w.part === 'talkback')),
    choir: cap((registers >= 2 ? registers / 3 : 0) + 0.2 * choirs) * fewHorns * led,
    voices: top.filter((w) => isIn(w, 'lead-vocal backing-vocal', 'vocal')).length,
    isVocalGroup: registers >= 3 && kit < 1 && instruments < 3,
    unclear: top.reduce((s, w) => s + (w.family === 'unknown' ? 1 : 1 - w.share), 0) / Math.max(1, n),
  };
}

function clearOf(top: readonly Weighed[]): Map<string, number> {
  const clear = new Map<string, number>();
  const add = (key: string, share: number): unknown => clear.set(key, (clear.get(key) ?? 0) + share);
  for (const { head, family, part, share } of top) {
    if (head?.sense.weight !== 1 || head.how !== 'exact') continue;
    add(family, share);
    add(`${family}/${part}`, share);
  }
  return clear;
}

function languagesOf(top: readonly Weighed[], lexicon: Lexicon): Map<Language, number> {
  const heard = new Map<Language, number>();
  for (const { tiles } of top)
    for (const t of tiles) {
      if (t.kind !== 'word' || t.sense.language === 'xx' || t.sense.key.length < 3) continue;
      const senses = lexicon.of(t.sense.key);
      // What the whole trade says proves no language.
      if (senses.some((s) => s.language === 'xx' && s.kind === t.sense.kind)) continue;
      const among = new Set(senses.map((s) => s.language)).size;
      heard.set(t.sense.language, (heard.get(t.sense.language) ?? 0) + 1 / among);
    }
  const total = [...heard.values()].reduce((a, b) => a + b, 0);
  return new Map([...heard].map(([l, n]) => [l, cap(n / Math.max(1.5, 0.6 * total))]));
}

/** Each word counts once: five equal misreadings must not support each other. */
const REPEATED = 0.15;

function tagsOf(top: readonly Weighed[], n: number): Map<string, number> {
  const counts = new Map<string, number>();
  const seen = new Set<string>();
  for (const { sense, share } of top) {
    if (!sense) continue;
    if (sense.tag !== null && sense.open !== 'register')
      counts.set(sense.tag, (counts.get(sense.tag) ?? 0) + share * (seen.has(sense.key) ? REPEATED : 1));
    seen.add(sense.key);
  }
  return new Map([...counts].map(([tag, c]) => [tag, cap(c / Math.max(LEAST_TAG_NAMES, 0.25 * n))]));
}

/** Whether a part is one that many deliveries have. */
export const isCommonPart = (part: string | null): boolean => COMMON_PARTS.has(part);
