import type { Position, Side } from '../reading';
import { lexicon } from '../lexicon/lexicon';
import type { SensePosition } from '../lexicon/sense';
import { GUESSES } from './candidates';
import type { Weighed } from './heads';
import type { ReadName } from './read-delivery';
import type { Word } from './tilings';

/** How a source is used, where its microphone stands, which side it is. */
export interface Details {
  readonly role: string | null;
  readonly position: Position | null;
  readonly side: Side | null;
}

/** Words about places that say nothing of the place of a microphone. */
const NO_PLACE: ReadonlySet<string> = new Set(['mono', 'stereo', 'center', 'on-source', 'room-like']);
/** Places that give way to more telling ones. */
const VAGUE: ReadonlySet<string> = new Set(['mic', 'room']);

/** One letter behind a drum says where its microphone stands (common practice, no source). */
const PLACE_LETTERS: ReadonlyMap<string, Position> = new Map([
  ['snare t', 'top'],
  ['snare o', 'top'],
  ['snare b', 'bottom'],
  ['snare u', 'bottom'],
  ['kick i', 'in'],
  ['kick o', 'out'],
]);

const placeLetter = (way: Pick<Weighed, 'family' | 'part'>, key: string): Position | undefined =>
  way.family === 'drums' ? PLACE_LETTERS.get(`${way.part} ${key}`) : undefined;

/** Whether a letter beside a drum says the place of its microphone. */
export const isPlaceLetter = (way: Pick<Weighed, 'family' | 'part'>, key: string): boolean =>
  placeLetter(way, key) !== undefined;

/** Whether a number is that of a common microphone. */
export const isMicrophoneType = (digits: string): boolean =>
  lexicon()
    .of(digits)
    .some((s) => s.kind === 'microphone');

/** What the words beside the head say of it. */
export function detailsOf(name: ReadName): Details {
  const [way] = name.ways;
  if (!way) return { role: null, position: null, side: null };
  const words = way.tiles.filter((t): t is Word => t.kind === 'word');
  return {
    role: way.family === 'unknown' || way.family === 'click' ? null : roleOf(way, words),
    position: positionOf(name, way, words),
    side: sideOf(way, words),
  };
}

/** Other sources in a name, which tell how the first is used; what only looks like one tells nothing. */
const otherSources = (way: Weighed, words: readonly Word[]): Word[] =>
  words.filter((w) => w.sense.kind === 'part' && w !== way.head && !GUESSES.has(w.how));

function roleOf(way: Weighed, words: readonly Word[]): string | null {
  return (
    way.sense?.role ??
    words.find((w) => w.sense.kind === 'role')?.sense.value ??
    otherSources(way, words).find((w) => w.sense.role !== null)?.sense.role ??
    null
  );
}

function sideOf(way: Weighed, words: readonly Word[]): Side | null {
  const said = [
    way.sense?.side,
    ...words.filter((w) => w.sense.kind === 'side').map((w) => w.sense.value),
    ...otherSources(way, words).map((w) => w.sense.side),
  ].filter((s): s is Side => s !== undefined && s !== null && s !== 'center');
  // Of "S li" the S is a soprano, not the side of a mid; of "dx 7 L" the letter at the end is the side.
  const sides = words.filter((w) => w.sense.kind === 'side' && w.sense.value !== 'center');
  const last = sides.at(-1)?.sense.value;
  if (sides.length > 1 && (last === 'left' || last === 'right')) return last;
  return said.find((s) => s === 'left' || s === 'right') ?? said[0] ?? null;
}

function positionOf(name: ReadName, way: Weighed, words: readonly Word[]): Position | null {
  const places: (string | SensePosition)[] = [];
  for (const { key } of name.atoms) {
    const place = placeLetter(way, key);
    if (place) places.push(place);
  }
  if (way.sense?.position) places.push(way.sense.position);
  for (const w of words) {
    if (w.sense.kind === 'position') places.push(w.sense.value);
    // A mistyped place is still a place.
    if (w.sense.kind !== 'part' || w === way.head) continue;
    if (w.sense.position && w.sense.family === way.family) places.push(w.sense.position);
    if (w.sense.open === 'room' || w.sense.part === 'room') places.push('room');
    if (w.sense.part === 'overhead') places.push('room-like');
  }
  const isSpace = way.part === 'room' || way.part === 'hall' || way.part === 'ambience';
  const said = places.filter((p) => !NO_PLACE.has(p) && !(isSpace && p === 'room'));
  const place = said.find((p) => !VAGUE.has(p)) ?? said[0];
  if (place !== undefined) return place as Position;
  // A microphone's type beside a bass or guitar says that it is no direct line.
  const hasMicrophone =
    words.some((w) => w.sense.kind === 'microphone') || name.atoms.some((a) => isMicrophoneType(a.key));
  return hasMicrophone && (way.family === 'bass' || way.family === 'guitars') ? 'mic' : null;
}
