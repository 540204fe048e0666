import { describeReading, type NameReading, readNames, tokenise, unreadPhrases } from '../naming';
import type { CorrectedName, NameLesson } from './corrected-name';

const MOST_LESSONS = 3;

/**
 * Words that would have read a name as a person has set it; none where it is read so already, or says nothing to learn from.
 * What stood for nothing is offered first, then the word that misled. Each is tried: only what brings the right family, and part if there is one, is offered.
 */
export function lessonsOf({ names, at, said, own, junk }: CorrectedName): NameLesson[] {
  const readings = readNames(names, own, junk);
  const reading = readings[at];
  if (!reading) return [];
  // A part that is only left over from a reading of another family was not meant.
  const wanted = said.part === reading.part ? null : said.part;
  const isRight = (r: NameReading | undefined): boolean =>
    r?.family === said.family && (wanted === null || r.part === wanted);
  if (isRight(reading)) return [];
  const misled = reading.evidence
    .filter((e) => e.kind === 'word' && e.means.includes(' · '))
    .map((e) => wordsIn(e.text));
  const phrases = [...unreadPhrases(names, at, own, junk), ...misled];
  return [...new Set(phrases)]
    .flatMap((text): NameLesson[] => {
      const word = { text, family: said.family, part: wanted };
      const after = readNames(names, [...own, word], junk);
      if (!isRight(after[at])) return [];
      const before = misled.includes(text)
        ? (reading.evidence.find((e) => wordsIn(e.text) === text)?.means ?? null)
        : null;
      return [{ word, before, also: otherwise(readings, after).filter((o) => o.at !== at) }];
    })
    .slice(0, MOST_LESSONS);
}

/** Names that are read otherwise after than before. */
const otherwise = (before: readonly NameReading[], after: readonly NameReading[]): NameLesson['also'] =>
  before.flatMap((was, at) => {
    const is = after[at];
    return !is || (was.family === is.family && was.part === is.part)
      ? []
      : [{ at, before: kindOf(was), after: kindOf(is) }];
  });

const kindOf = ({ family, part }: NameReading): string => describeReading({ family, part });

/** As words are compared. */
const wordsIn = (text: string): string =>
  tokenise(text)
    .map((t) => t.text)
    .join(' ');
