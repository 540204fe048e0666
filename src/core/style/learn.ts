import { describeReading, type Family, type OwnWord, readNames, tokenise, unreadPhrases } from '../naming';
import { isTrack, type SessionState, tracksInOrder } from '../session';
import type { HouseStyle } from './house-style';
import { wordsFor } from './propose';

/** What could be learned from a correction, and what else would follow. */
export interface Lesson {
  readonly word: OwnWord;
  /** The word meant something else, or nothing. */
  readonly before: string | null;
  /** Other tracks that would be read otherwise: name as received, before, after. */
  readonly also: readonly {
    readonly trackId: string;
    readonly receivedName: string;
    readonly before: string;
    readonly after: string;
  }[];
}

const MOST_LESSONS = 3;

/**
 * Words that would have read a track as a person has set it; none where the name is read so already, or says nothing to learn from.
 * What stood for nothing is offered first, then the word that misled. Each is tried: only what brings the right family, and part if there is one, is offered.
 */
export function lessonsOf(session: SessionState, style: HouseStyle, trackId: string): Lesson[] {
  const track = session.nodes[trackId];
  if (!isTrack(track) || !track.byHand.includes('family') || track.family === 'unknown') return [];
  const tracks = tracksInOrder(session);
  const names = tracks.map((t) => t.receivedName);
  const at = tracks.findIndex((t) => t.id === trackId);
  const own = wordsFor(session, style);
  const readings = readNames(names, own, style.junk);
  const reading = readings[at] as (typeof readings)[number];
  const wanted = wantedPart(track.part, reading);
  const isRight = (r: { readonly family: Family; readonly part: string | null }): boolean =>
    r.family === track.family && (wanted === null || r.part === wanted);
  if (isRight(reading)) return [];
  const misled = reading.evidence
    .filter((e) => e.kind === 'word' && e.means.includes(' · '))
    .map((e) => wordsIn(e.text));
  const phrases = [...unreadPhrases(names, at, own, style.junk), ...misled];
  return [...new Set(phrases)]
    .flatMap((text): Lesson[] => {
      const word: OwnWord = { text, family: track.family, part: wanted };
      const after = readNames(names, [...own, word], style.junk);
      if (!isRight(after[at] as (typeof after)[number])) return [];
      const also = tracks.flatMap((t, i) => {
        const [was, is] = [readings[i] as (typeof readings)[number], after[i] as (typeof after)[number]];
        return t.id === trackId || (was.family === is.family && was.part === is.part)
          ? []
          : [
              {
                trackId: t.id,
                receivedName: t.receivedName,
                before: describeReading({ family: was.family, part: was.part }),
                after: describeReading({ family: is.family, part: is.part }),
              },
            ];
      });
      return [
        {
          word,
          before: misled.includes(text)
            ? (reading.evidence.find((e) => wordsIn(e.text) === text)?.means ?? null)
            : null,
          also,
        },
      ];
    })
    .slice(0, MOST_LESSONS);
}

/** As words are compared. */
const wordsIn = (text: string): string =>
  tokenise(text)
    .map((t) => t.text)
    .join(' ');

/** The part a person means: what the track says, unless it is only left over from a reading of another family. */
const wantedPart = (part: string | null, reading: { readonly part: string | null }): string | null =>
  part === reading.part ? null : part;

/** The words of a delivery with one more; it takes the place of an older meaning. */
export const withWord = (words: readonly OwnWord[], word: OwnWord): OwnWord[] => [
  ...words.filter((w) => w.text !== word.text),
  word,
];
