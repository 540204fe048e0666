import { describeReading } from '../describe-reading';
import type { Evidence } from '../reading';
import type { Sense } from '../lexicon/sense';
import { GUESSES } from './candidates';
import type { ReadName } from './read-delivery';
import type { Word } from './tilings';

/** Why a name was read so, in words. */
export function evidenceOf(name: ReadName): Evidence[] {
  const [way] = name.ways;
  if (!way) return [];
  const out: Evidence[] = [];
  for (const tile of way.tiles) {
    if (tile.kind === 'number') continue;
    if (tile.kind === 'word')
      out.push({
        kind: 'word',
        text: shownAt(name, tile.from, tile.to),
        means:
          (way.family === 'unknown' && tile.sense.kind === 'part' ? 'could mean ' : '') + meaningOf(tile),
      });
    else if ((name.atoms[tile.from]?.key.length ?? 0) > 1)
      out.push({ kind: 'word', text: shownAt(name, tile.from, tile.from + 1), means: 'not known' });
  }
  const sources = way.tiles.filter((t): t is Word => t.kind === 'word' && t.sense.kind === 'part');
  if (way.head && sources.length > 1)
    out.push({
      kind: 'rule',
      text: sources.map((s) => shownAt(name, s.from, s.to)).join(' + '),
      means: `“${shownAt(name, way.head.from, way.head.to)}” names the source, the rest tells more of it`,
    });
  else if (!way.head && way.family !== 'unknown')
    out.push({
      kind: 'rule',
      text: name.input,
      means: `no word names the source: ${describeReading({ family: way.family, part: way.part })} by the rest`,
    });
  for (const hint of name.hints)
    if (hint.family === way.family)
      out.push({ kind: 'rule', text: hint.text, means: `folder or shared word: ${hint.family}` });
  if (way.sense?.open || (way.head && way.head.sense.weight < 1))
    out.push({ kind: 'neighbour', text: headText(name, way.head), means: companyText(way.family, way.part) });
  const other = name.ways.find((w) => w.family !== way.family);
  if (other && other.share > LEAST_OTHER)
    out.push({
      kind: 'rule',
      text: name.input,
      means: `could also be ${describeReading({ family: other.family, part: other.part })}`,
    });
  return out;
}

/** From this share on another reading is worth a word. */
const LEAST_OTHER = 0.15;

const headText = (name: ReadName, head: Word | null): string =>
  head ? shownAt(name, head.from, head.to) : name.input;
const companyText = (family: string, part: string | null): string =>
  `has several meanings; in this delivery ${describeReading({ family, part })}`;

const shownAt = (name: ReadName, from: number, to: number): string =>
  name.atoms
    .slice(from, to)
    .map((a, i) => (a.hard && i > 0 ? ` ${a.shown}` : a.shown))
    .join('');

function meaningOf({ sense, how }: Word): string {
  const means = meaningOfSense(sense);
  return GUESSES.has(how) ? `looks like “${sense.alias}”: ${means}` : means;
}

const KIND_TEXTS: Readonly<Partial<Record<Sense['kind'], string>>> = {
  treatment: 'treatment: stays with its source',
  return: 'treatment: stays with its source',
  section: 'part of the song',
  junk: 'no meaning',
  unit: 'a unit',
  fact: 'about the song, not the instrument',
  microphone: 'probably a microphone type',
  take: 'take or version',
  link: 'joins what it stands between',
};

function meaningOfSense(sense: Sense): string {
  if (sense.kind === 'part')
    return describeReading({
      family: sense.family ?? 'unknown',
      part: sense.part,
      role: sense.role,
      position: sense.position,
      side: sense.side,
    });
  const fixed = KIND_TEXTS[sense.kind];
  if (fixed) return fixed;
  if (sense.kind === 'side') return `${sense.value} side`;
  return `${sense.kind} ${sense.value.replaceAll('-', ' ')}`;
}
