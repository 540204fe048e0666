import type { Family, OwnWord } from '../naming';
import { isTrack, type SessionState, tracksInOrder } from '../session';
import type { HouseStyle } from './house-style';
import { namesFor } from './propose';

/** A name of a delivery that a person has said to be something, with the words in force. */
export interface CorrectedName {
  readonly names: readonly string[];
  /** Its place among the names. */
  readonly at: number;
  readonly said: { readonly family: Family; readonly part: string | null };
  readonly own: readonly OwnWord[];
  readonly junk: readonly string[];
}

/** What could be learned from a correction, and what else would follow. */
export interface NameLesson {
  readonly word: OwnWord;
  /** The word meant something else, or nothing. */
  readonly before: string | null;
  /** Other names that would be read otherwise: by their places, before, after. */
  readonly also: readonly { readonly at: number; readonly before: string; readonly after: string }[];
}

/** A track as a person has set it; null where nobody has said what it is. */
export function correctedName(
  session: SessionState,
  style: HouseStyle,
  trackId: string,
): CorrectedName | null {
  const track = session.nodes[trackId];
  if (!isTrack(track) || !track.byHand.includes('family') || track.family === 'unknown') return null;
  const [names, own = [], junk = []] = namesFor(session, style);
  const { family, part } = track;
  return {
    names,
    at: tracksInOrder(session).findIndex((t) => t.id === trackId),
    said: { family, part },
    own,
    junk,
  };
}

/** The words of a delivery with one more; it takes the place of an older meaning. */
export const withWord = (words: readonly OwnWord[], word: OwnWord): OwnWord[] => [
  ...words.filter((w) => w.text !== word.text),
  word,
];
