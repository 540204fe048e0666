import type { Evidence, Family, Position } from './reading';
import { type Meaning, SIDES, WORDS } from './words';

/** What the other names of the delivery say. */
export interface NameContext {
  /** Whether another name, as lower-case words joined by spaces, has the pattern. */
  readonly someNeighbour: (pattern: RegExp) => boolean;
  readonly neighbourFamilies: Pick<ReadonlySet<Family>, 'has'>;
  readonly neighbourParts: Pick<ReadonlySet<string>, 'has'>;
  /** Words of the house and the delivery. */
  readonly own: ReadonlyMap<string, Meaning>;
}

/** How a word that can mean several things was taken; `meaning: null` = not an instrument here. */
export interface Resolved {
  readonly length: number;
  readonly meaning: Meaning | null;
  readonly rule: Evidence;
}

interface Place extends NameContext {
  readonly words: readonly string[];
  readonly at: number;
  readonly before: string;
  readonly after: string;
  /** Families and parts that the other words of this name clearly say. */
  readonly nameFamilies: ReadonlySet<Family>;
  readonly kit: boolean;
}

type Resolver = (p: Place) => Resolved | null;

const isNumber = (word: string): boolean => /^\d+$/.test(word);

const as = (p: Place, meaning: Meaning | null, why: string, length = 1): Resolved => ({
  length,
  meaning,
  rule: { kind: 'rule', text: p.words.slice(p.at, p.at + length).join(' '), means: why },
});

const hasNeighbour = (p: Place, pattern: RegExp): boolean => p.someNeighbour(pattern);

/**
 * The words of the trade that mean different things in different company (common practice, no source).
 * Each resolver sees the rest of the name and the delivery; null leaves the plain table to decide.
 */
const RESOLVERS: Readonly<Record<string, Resolver>> = {
  tom: (p) => {
    const others = [...p.nameFamilies].filter((f) => f !== 'drums');
    if (others.length > 0) return as(p, null, 'Tom is a player here: another source is named');
    if (isNumber(p.after) || p.before === 'rack' || p.kit || hasNeighbour(p, /\btom\b/))
      return as(p, { family: 'drums', part: 'tom' }, 'a tom: numbered or among drums');
    return as(
      p,
      { family: 'drums', part: 'tom', sure: 0.55 },
      'a tom, or a player called Tom: no other drums in the delivery',
    );
  },
  t: (p) => {
    if (!isNumber(p.after)) return null;
    const alone = p.nameFamilies.size === 0 && p.words.filter((w) => !isNumber(w)).length === 1;
    if (alone && (p.kit || hasNeighbour(p, /^(\d+ )?t \d+$/)))
      return as(
        p,
        { family: 'drums', part: 'tom', sure: 0.85 },
        'T with a number, alone, among drums: a tom',
      );
    return null;
  },
  key: (p) => {
    if (p.after === 'of' || /^[a-g]$/.test(p.after))
      return as(p, null, 'the key of the song, not an instrument', Math.min(3, p.words.length - p.at));
    return as(
      p,
      { family: 'keys', part: 'keys', sure: 0.65 },
      'perhaps keyboards; “key” can also mean the key of the song',
    );
  },
  od: (p) => {
    if (p.nameFamilies.has('guitars') || p.nameFamilies.has('bass'))
      return as(p, null, 'overdrive: a sound of the guitar or bass');
    return as(p, null, 'overdub');
  },
  db: (p) => {
    if (isNumber(p.before) || p.before === 'minus' || p.before === 'plus') return as(p, null, 'decibels');
    return as(p, { family: 'bass', part: 'double-bass', sure: 0.85 }, 'DB: double bass');
  },
  ft: (p) => {
    const nextKnown =
      p.after === '' || isNumber(p.after) || WORDS.has(p.after) || SIDES[p.after] !== undefined;
    if (!nextKnown || (p.nameFamilies.size > 0 && !p.nameFamilies.has('drums')))
      return as(p, null, '“feat.”: a guest is named');
    return as(
      p,
      { family: 'drums', part: 'tom', position: 'floor', sure: p.kit ? 0.9 : 0.6 },
      p.kit ? 'FT among drums: floor tom' : 'FT: floor tom or “feat.”',
    );
  },
  rt: (p) => {
    if (p.nameFamilies.size > 0) return null;
    return as(
      p,
      { family: 'drums', part: 'tom', position: 'rack', sure: p.kit ? 0.85 : 0.5 },
      'RT alone: rack tom rather than right',
    );
  },
  ht: (p) => {
    if (p.neighbourParts.has('hihat') || hasNeighbour(p, /\b(lt|mt|ft)\b/))
      return as(
        p,
        { family: 'drums', part: 'tom', position: 'high', sure: 0.85 },
        'HT beside a hat or other toms: high tom',
      );
    return as(p, { family: 'drums', part: 'hihat', sure: 0.6 }, 'HT: hat, or high tom');
  },
  lt: (p) =>
    p.kit && p.nameFamilies.size === 0
      ? as(p, { family: 'drums', part: 'tom', position: 'low', sure: 0.8 }, 'LT among drums: low tom')
      : null,
  mt: (p) =>
    p.kit && p.nameFamilies.size === 0
      ? as(p, { family: 'drums', part: 'tom', position: 'mid', sure: 0.8 }, 'MT among drums: mid tom')
      : null,
  cb: (p) => {
    const orchestral =
      p.neighbourFamilies.has('strings') || p.neighbourFamilies.has('winds') || p.neighbourParts.has('cello');
    const band =
      p.neighbourParts.has('kick') || p.neighbourParts.has('snare') || p.neighbourFamilies.has('guitars');
    if (orchestral && (!band || !p.neighbourFamilies.has('percussion')))
      return as(p, { family: 'bass', part: 'double-bass', sure: 0.8 }, 'CB among strings: contrabass');
    if (p.neighbourFamilies.has('percussion') || p.kit)
      return as(
        p,
        { family: 'percussion', part: 'cowbell', sure: 0.75 },
        'CB among drums and percussion: cowbell',
      );
    return as(p, { family: 'percussion', part: 'cowbell', sure: 0.45 }, 'CB: cowbell or contrabass');
  },
  bg: (p) => {
    if (WORDS.get(`bg ${p.after}`)) return null;
    if (p.nameFamilies.has('lead-vocal') || p.nameFamilies.has('backing-vocal'))
      return as(p, { family: 'backing-vocal', part: 'vocal' }, 'BG with a voice: backing vocal');
    const single = !isNumber(p.after) && !hasNeighbour(p, /\bbg\b/);
    if (single && !p.neighbourFamilies.has('bass') && (p.kit || p.neighbourFamilies.has('guitars')))
      return as(
        p,
        { family: 'bass', part: 'electric-bass', sure: 0.6 },
        'BG, once, in a band without another bass: bass guitar?',
      );
    return as(p, { family: 'backing-vocal', part: 'vocal', sure: 0.75 }, 'BG: backing vocal');
  },
  bgs: (p) => as(p, { family: 'backing-vocal', part: 'vocal', sure: 0.85 }, 'BGs: backing vocals'),
  sub: (p) => {
    if (p.nameFamilies.size > 0) return null;
    if (p.neighbourFamilies.has('bass') || !p.kit)
      return as(
        p,
        { family: 'bass', part: 'synth-bass', sure: 0.55 },
        'SUB alone: sub bass, kick sub or a submix',
      );
    return as(
      p,
      { family: 'drums', part: 'kick', position: 'sub', sure: 0.6 },
      'SUB alone in a kit without other bass: kick sub?',
    );
  },
  acc: (p) => {
    if (p.nameFamilies.has('guitars')) return null;
    return as(p, { family: 'keys', part: 'accordion', sure: 0.6 }, 'ACC: accordion, or acoustic');
  },
  tb: (p) =>
    p.nameFamilies.size > 0
      ? null
      : (p.neighbourFamilies.has('brass') || hasNeighbour(p, /\b(tp|tpt|trp)\b/)) &&
          !p.neighbourParts.has('trombone')
        ? as(p, { family: 'brass', part: 'trombone', sure: 0.6 }, 'TB among brass: trombone, or talkback')
        : as(p, { family: 'reference', part: 'talkback', sure: 0.8 }, 'TB: talkback'),
  vcl: (p) =>
    p.neighbourFamilies.has('strings') && p.nameFamilies.size === 0
      ? as(p, { family: 'strings', part: 'cello', sure: 0.85 }, 'VCL among strings: violoncello')
      : null,
  cl: (p) => {
    if (p.nameFamilies.size > 0) return null;
    if (isOrchestra(p))
      return as(
        p,
        { family: 'winds', part: 'clarinet', sure: 0.85 },
        'CL in an orchestra: clarinet',
        tuningAfter(p),
      );
    return as(p, { family: 'click', part: 'click', sure: 0.5 }, 'CL: click, or clarinet');
  },
  bari: (p) => saxOf(p, 'baritone'),
  baritone: (p) => saxOf(p, 'baritone'),
  tenor: (p) => saxOf(p, 'tenor'),
  alto: (p) => saxOf(p, 'alto'),
  soprano: (p) => saxOf(p, 'soprano'),
  tc: (p) => as(p, { family: 'reference', part: 'talkback', sure: 0.8 }, 'TC: timecode'),
  harp: (p) => {
    if (['blues', 'mouth', 'amp'].includes(p.before) || p.after === 'amp' || p.after === 'mic')
      return as(
        p,
        { family: 'winds', part: 'harmonica', sure: 0.85 },
        'a harp with an amp or the blues: harmonica',
      );
    if (p.neighbourFamilies.has('strings') || p.neighbourFamilies.has('winds'))
      return as(p, { family: 'strings', part: 'harp', sure: 0.85 }, 'a harp among strings');
    if (p.kit)
      return as(
        p,
        { family: 'winds', part: 'harmonica', sure: 0.55 },
        'a harp in a band: harmonica, or the strings',
      );
    return as(p, { family: 'strings', part: 'harp', sure: 0.6 }, 'harp: the strings, or a harmonica');
  },
  ch: (p) =>
    as(p, null, isNumber(p.after) ? 'channel' : 'chorus: a part of the song', isNumber(p.after) ? 2 : 1),
  pad: (p) => {
    if (p.nameFamilies.has('drums') || p.before === 'drum')
      return as(p, { family: 'drums', part: 'kit', sure: 0.8 }, 'a pad of the drums');
    return as(p, { family: 'synths', part: 'pad', sure: 0.9 }, 'a synth pad');
  },
  lead: (p) => {
    if (p.nameFamilies.size > 0) return null;
    return as(
      p,
      { family: 'lead-vocal', part: 'vocal', role: 'lead', sure: 0.6 },
      'LEAD alone: the voice, else a guitar or synth',
    );
  },
  room: (p) => resolveRoom(p),
  rooms: (p) => resolveRoom(p),
  rm: (p) => resolveRoom(p),
  rms: (p) => resolveRoom(p),
  raum: (p) => resolveRoom(p),
  sala: (p) => resolveRoom(p),
  salle: (p) => resolveRoom(p),
  as: (p) =>
    p.nameFamilies.size === 0 &&
    p.words.filter((w) => !isNumber(w)).length === 1 &&
    (p.neighbourFamilies.has('brass') || hasNeighbour(p, /\bts\b/))
      ? as(p, { family: 'winds', part: 'saxophone', sure: 0.65 }, 'AS alone beside horns: alto sax')
      : null,
  st: (p) => kitLetter(p, 'snare', 'top', /^(\d+ )?s[bnu]( \d+)?$/),
  sb: (p) => kitLetter(p, 'snare', 'bottom', /^(\d+ )?s[tn]( \d+)?$/),
  ki: (p) => kitLetter(p, 'kick', 'in', /^(\d+ )?ko( \d+)?$/),
  ko: (p) => kitLetter(p, 'kick', 'out', /^(\d+ )?ki( \d+)?$/),
  tf: (p) => kitLetter(p, 'tom', 'floor', /^(\d+ )?(t [12]|tr|th|rt)( \d+)?$/),
  bus: (p) => as(p, null, 'a sum of several sources'),
  stem: (p) => as(p, null, 'a sum of several sources'),
  k: (p) =>
    p.kit && p.nameFamilies.size === 0 && !WORDS.has(`k ${p.after}`)
      ? as(p, { family: 'drums', part: 'kick', sure: 0.75 }, 'K among drums: kick')
      : null,
};

const isOrchestra = (p: Place): boolean =>
  p.neighbourFamilies.has('strings') &&
  (p.neighbourFamilies.has('winds') || p.neighbourFamilies.has('brass'));

/** “in A”, “in Bb” after an instrument that is tuned so. */
const tuningAfter = (p: Place): number =>
  p.after === 'in' && /^[a-h](s|b|#|es|is)?$/.test(p.words[p.at + 2] ?? '') ? 3 : 1;

/** A letter for a drum and one for its place: surer where the delivery writes the drum's other places so, too; among other things than drums it is nothing. */
function kitLetter(p: Place, part: string, position: Position, companion: RegExp): Resolved | null {
  const isAlone = p.nameFamilies.size === 0 && p.words.filter((w) => !isNumber(w)).length === 1;
  if (!isAlone || !p.kit) return null;
  const sure = hasNeighbour(p, companion) ? 0.8 : 0.6;
  const text = p.words[p.at]?.toUpperCase() ?? '';
  return as(p, { family: 'drums', part, position, sure }, `${text} among drums: ${part} ${position}`);
}

/** Voices and saxophones share their ranges' names. */
function saxOf(p: Place, range: string): Resolved | null {
  if (p.nameFamilies.size > 0 || WORDS.has(`${p.words[p.at]} ${p.after}`)) return null;
  const sung =
    p.neighbourParts.has('choir') ||
    (p.neighbourFamilies.has('backing-vocal') &&
      !p.neighbourFamilies.has('brass') &&
      !p.neighbourParts.has('saxophone'));
  if (sung)
    return as(
      p,
      p.words.includes('solo')
        ? { family: 'lead-vocal', part: 'vocal', role: 'solo', sure: 0.8 }
        : { family: 'backing-vocal', part: 'vocal', sure: 0.75 },
      `${range} beside a choir: a voice`,
    );
  if (p.neighbourFamilies.has('brass') || p.neighbourFamilies.has('winds'))
    return as(p, { family: 'winds', part: 'saxophone', sure: 0.8 }, `${range} beside horns: a saxophone`);
  return as(p, { family: 'winds', part: 'saxophone', sure: 0.5 }, `${range}: a saxophone, or a voice`);
}

function resolveRoom(p: Place): Resolved | null {
  const source = [...p.nameFamilies].find((f) => f !== 'drums');
  if (source) return null;
  if (p.nameFamilies.has('drums')) return null;
  if (p.after === 'tone' || p.after === 'noise') return null;
  if (p.kit)
    return as(
      p,
      { family: 'drums', part: 'room', sure: 0.85 },
      'a room in a delivery with drums: the drum room',
    );
  return as(p, { family: 'effects', part: 'ambience', sure: 0.55 }, 'a room without drums: whose?');
}

/** Whether a word means different things in different company. */
export const isAmbiguous = (word: string): boolean => Object.hasOwn(RESOLVERS, word);

/** Takes a word in its company, if it is one of the ambiguous ones and no longer phrase covers it. */
export function resolveAmbiguous(
  words: readonly string[],
  at: number,
  phraseLength: number,
  context: NameContext,
): Resolved | null {
  const word = words[at] ?? '';
  const resolver = isAmbiguous(word) ? RESOLVERS[word] : undefined;
  if (!resolver || phraseLength > 1) return null;
  const nameFamilies = new Set<Family>();
  for (let i = 0; i < words.length; i++) {
    if (i === at) continue;
    for (let length = Math.min(3, words.length - i); length > 0; length--) {
      if (i < at && i + length > at) continue;
      const phrase = words.slice(i, i + length).join(' ');
      const meaning = context.own.get(phrase) ?? WORDS.get(phrase);
      if (meaning && (meaning.sure ?? 1) >= 0.6) {
        nameFamilies.add(meaning.family);
        break;
      }
    }
  }
  return resolver({
    ...context,
    words,
    at,
    before: words[at - 1] ?? '',
    after: words[at + 1] ?? '',
    nameFamilies,
    kit: context.neighbourFamilies.has('drums'),
  });
}
