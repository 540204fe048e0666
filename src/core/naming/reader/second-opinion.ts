import type { Company } from './company';
import type { Weighed } from './heads';
import type { Opinion } from './ngram-model';
import { shortFormScore } from './short-forms';

/** What the letters count beside the words: chosen on names they had not learned. */
const LETTERS_WEIGHT = 0.45;
/** Of a voice, a register or a room, of which the company knows more. */
const OPEN_WEIGHT = 0.3;
/** Readings that the words make this unlikely are not brought back. */
const LEAST_SHARE = 1e-3;

/**
 * The ways to read a name, with what its letters say of each; a word of the house is not argued with.
 * Letters make it less likely that a name says nothing, never more: that they resemble nothing learned is no proof of
 * it (`cncrtna`).
 */
export function weighedAnew(ways: readonly Weighed[], opinion: Opinion, company: Company): Weighed[] {
  if (ways.length < 2 || ways[0]?.sense?.own) return [...ways];
  if (isJudged(ways[0], company)) return [...ways];
  const weight = isOpen(ways[0]) ? OPEN_WEIGHT : LETTERS_WEIGHT;
  const said = ways.map((w) => opinion.logLikelihood(w.family, w.part));
  const likeliest = Math.max(...said.filter((_, i) => ways[i]?.family !== 'unknown'));
  const weights = ways.map((w, i) => {
    const log = w.family === 'unknown' ? Math.min(said[i] as number, likeliest) : (said[i] as number);
    return (w.share + LEAST_SHARE) * Math.exp(weight * log);
  });
  const sum = weights.reduce((a, b) => a + b, 0);
  return ways
    .map((w, i) => ({ ...w, share: (weights[i] as number) / sum }))
    .sort((a, b) => b.share - a.share);
}

/** Whether a reading is one of a word that the lexicon leaves to the company. */
const isOpen = (way: Weighed | undefined): boolean => way?.sense != null && way.sense.open !== null;

/** Whether a reading is a short form of which a rule says what it is in this company. */
function isJudged(way: Weighed | undefined, company: Company): boolean {
  if (way?.head?.how !== 'exact') return false;
  const { family, part } = way;
  return shortFormScore(way.head.sense.key, { family, part, company, isAlone: true }) !== null;
}

/** From this share of the other names on a family counts as one of the delivery. */
const LEAST_AROUND = 0.15;

/** For each name: families of the others. */
export function familiesAround(ways: readonly (readonly Weighed[])[]): string[][] {
  const top = ways.map((w) => w[0]?.family ?? 'unknown');
  const counts = new Map<string, number>();
  for (const family of top) counts.set(family, (counts.get(family) ?? 0) + 1);
  return top.map((own) =>
    [...counts]
      .filter(([family, n]) => (n - (family === own ? 1 : 0)) / Math.max(1, top.length - 1) >= LEAST_AROUND)
      .map(([family]) => family),
  );
}
