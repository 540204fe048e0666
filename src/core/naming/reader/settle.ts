import type { Family } from '../reading';
import { isFamily } from '../lexicon/parse-lexicon';
import { isSung, type Sense, type SenseFamily } from '../lexicon/sense';
import { neighbourWeight, type Surroundings } from './company';
import { NUMBERED_TOM, numberedTomScore, shortFormScore } from './short-forms';
import { saysNothing } from './telling';
import type { Word } from './tilings';

/** A meaning proposed for a name: what it would be, and how likely. Scores are log units. */
export interface Proposal {
  readonly score: number;
  readonly family: Family;
  readonly part: string | null;
}

/** What a tiling of a name says, whichever of its words is the head. */
export interface NameFacts {
  /** All words of the name. */
  readonly words: readonly Word[];
  readonly roles: ReadonlySet<string>;
  /** Words of more than one letter that nothing is known of. */
  readonly unread: number;
  /** Last number of one or two digits in the name. */
  readonly number: number | null;
  readonly at: Surroundings;
}

/** A head of a name with all that stands beside it. */
export interface HeadInName extends NameFacts {
  readonly sense: Sense;
  /** Where it stands; null = concluded without a word for it. */
  readonly word: Word | null;
  readonly score: number;
  /** Other words of the name that name sources. */
  readonly others: readonly Word[];
}

type Settle = (h: HeadInName) => Proposal[];

const KIN: readonly (readonly [Family, Family])[] = [
  ['drums', 'percussion'],
  ['keys', 'synths'],
];
const isKin = (a: SenseFamily, b: SenseFamily): boolean =>
  KIN.some(([x, y]) => (a === x && b === y) || (a === y && b === x));

/** What folders say of a family and part. */
function hintScore({ at }: HeadInName, family: Family, part: string | null): number {
  let score = 0;
  for (const hint of at.hints) {
    if (hint.family === family || (hint.family === 'voice' && isSung(family))) score += hint.weight;
    else if (isKin(hint.family, family)) score += 0.5 * hint.weight;
    else if (hint.family === 'strings' && part === 'double-bass') score += hint.weight;
  }
  return score;
}

/** What the company says of the very word. */
function wordScore(
  { at: { company }, word, words, others, unread }: HeadInName,
  family: Family,
  part: string | null,
): number {
  if (!word) return 0;
  const { key } = word.sense;
  const asTom = NUMBERED_TOM.test(key)
    ? numberedTomScore(
        words.every((w) => w === word || (saysNothing(w.sense) && w.sense.kind !== 'junk')) && unread === 0,
        company,
      )
    : 0;
  if (word.how !== 'exact') return asTom;
  return asTom + (shortFormScore(key, { family, part, company, isAlone: others.length === 0 }) ?? 0);
}

/** What folders, neighbours and the kind of delivery say of a family and part. */
function prior(h: HeadInName, family: Family, part: string | null): number {
  const { kit, orchestra } = h.at.company;
  let score = hintScore(h, family, part) + wordScore(h, family, part) + 0.35 * neighbourWeight(h.at, family);
  const isKitPart = family === 'drums' && !['snare', 'cymbal', 'kit'].includes(part ?? '');
  if (isKitPart && orchestra > 0.5 && kit === 0) score -= 0.8;
  if (family === 'percussion' && part === 'bass-drum' && kit === 0 && orchestra > 0.3) score += 1.6;
  if (family === 'percussion' && part === 'cymbal' && kit > 0) score -= 0.8;
  return score;
}

const propose = (h: HeadInName, family: Family, part: string | null, score: number): Proposal => ({
  family,
  part,
  score: h.score + score + prior(h, family, part),
});

const LEADING = ['lead', 'solo', 'double', 'adlib', 'rap', 'scream', 'whisper', 'spoken', 'distorted'];
const BACKING = ['harmony', 'gang', 'octave'];

/** A voice of which its name does not say whether it leads: role words, numbers and the count of voices decide. */
const voice: Settle = (h) => {
  const roles = new Set([
    ...h.roles,
    ...h.others.flatMap((o) => (isSung(o.sense.family) && o.sense.role ? [o.sense.role] : [])),
  ]);
  const says = (list: readonly string[]): boolean => list.some((r) => roles.has(r));
  const { company } = h.at;
  let [lead, backing] = [-0.35, -1.3];
  if (h.words.some((w) => w.sense.kind === 'position' && w.sense.value === 'rear'))
    [lead, backing] = [-1.6, -0.2];
  else if (says(BACKING)) [lead, backing] = [-2.5, -0.1];
  else if (says(LEADING)) [lead, backing] = [-0.1, -1.9];
  else if (company.voices <= 1) [lead, backing] = [-0.05, -2.6];
  else if ((h.number ?? 0) >= 2) [lead, backing] = [-0.6, -0.9];
  if (company.choir > 0.5 && !says(['lead', 'solo'])) backing += 0.6;
  return [propose(h, 'lead-vocal', 'vocal', lead), propose(h, 'backing-vocal', 'vocal', backing)];
};

/** Soprano, alto, tenor …: singers of a choir, voices of a group, or saxophones. */
const register: Settle = (h) => {
  const { choir, saxophones, kit, orchestra, isVocalGroup } = h.at.company;
  const besideChoir = h.others.some((o) => o.sense.part === 'choir');
  const besideVoice = h.others.some((o) => isSung(o.sense.family) && o.sense.part !== 'choir');
  const isBass = h.sense.register === 'bass';
  const asChoir =
    -0.2 + 1.6 * (choir - 0.5) + (besideChoir ? 2 : 0) - (besideVoice ? 2.5 : 0) - (isBass ? 0.8 : 0);
  const asVoice =
    -1.5 + (isVocalGroup && choir < 0.5 ? 1.2 : 0) + (besideVoice ? 2.2 : 0) - (orchestra > 0 ? 0.3 : 0);
  // "Tenor Gtr", but not "Reed 3 Tenor".
  const isOfAnother = h.others.some(
    ({ sense }) => !isSung(sense.family) && sense.family !== 'winds' && sense.weight === 1,
  );
  const asSaxophone = isBass || isOfAnother ? -9 : -1.2 + 2.6 * saxophones + 0.8 * kit - 1.5 * choir;
  const isSolo = h.roles.has('solo');
  const less = isSolo ? 1.2 : 0;
  return [
    propose(h, 'backing-vocal', 'choir', asChoir - less),
    propose(h, 'backing-vocal', 'vocal', asVoice - less),
    propose(h, 'winds', 'saxophone', asSaxophone - less),
    propose(h, 'lead-vocal', 'vocal', isSolo ? -0.1 : asVoice - 0.4),
  ];
};

/** The room of a kit, or the hall of an ensemble. */
const room: Settle = (h) => {
  const { orchestra, choir, kit, clear } = h.at.company;
  const isOfDrums = h.sense.open !== 'room' || h.others.some((o) => o.sense.family === 'drums');
  // A band without any drums has no room of theirs.
  const hasOthers = [...clear].some(([family]) => !family.includes('/'));
  const isDrumless = hasOthers && !clear.has('drums') ? 0.8 : 0;
  const asHall = isOfDrums ? 0 : (1 - kit) * Math.max(orchestra, choir, isDrumless);
  return [
    propose(h, 'drums', 'room', -0.1 - 1.6 * asHall),
    propose(h, 'mains', 'hall', -1.9 + 1.9 * (isOfDrums ? 0 : Math.max(asHall, 0.3 * (1 - kit)))),
  ];
};

/** Neighbours and siblings that are nearly all voices. */
const MOSTLY_VOICES = 1.5;
const BASS_WORDS = new Set(['bass', 'bs', 'bas', 'basse', 'bajo', 'basso', 'baixo']);

/** `Bass`: the instrument, the lowest voice of a vocal group, or a synthesizer's in electronic music. */
const bass: Settle = (h) => {
  const out = [propose(h, 'bass', 'electric-bass', 0)];
  if (!h.word || !BASS_WORDS.has(h.word.sense.key)) return out;
  const { company } = h.at;
  if (company.isVocalGroup || neighbourWeight(h.at, 'backing-vocal') > MOSTLY_VOICES)
    out.push({
      score: h.score + 0.9,
      family: 'backing-vocal',
      part: company.choir > 0.5 ? 'choir' : 'vocal',
    });
  // Among strings and winds, without a kit, a bass is a double bass.
  if (company.orchestra > 0.4 && company.kit === 0)
    out.push(propose(h, 'bass', 'double-bass', -0.6 + 1.6 * company.orchestra));
  const isPluggedIn = h.words.some(
    (w) => w.sense.kind === 'position' && ['di', 'amp'].includes(w.sense.value),
  );
  if (isPluggedIn) return out;
  const electronic = company.tags.get('elec') ?? 0;
  const isBand = (company.tags.get('band') ?? 0) > 0.9;
  const sections = h.words.filter((w) => w.sense.kind === 'section').length;
  out.push({
    score: h.score - 1.3 + 1.5 * electronic * (isBand ? 0.3 : 1) + 0.6 * sections * electronic,
    family: 'bass',
    part: 'synth-bass',
  });
  return out;
};

/** A hall by a word that could be a room as well. */
const weakHall: Settle = (h) => {
  const { kit, live } = h.at.company;
  const asHall = propose(h, 'mains', 'hall', -(live > 0 ? 0.3 : 1.2 * kit));
  const isOfDrums = h.others.some((o) => o.sense.family === 'drums');
  return [asHall, { family: 'drums', part: 'room', score: h.score + (isOfDrums ? 0.2 : -0.9 + 0.8 * kit) }];
};

const ELECTRIC_WORDS = new Set(['el', 'elec', 'electric', 'elek']);

/** What the words beside a piano or a guitar make of it; a mix by an ambiguous word is less sure beside a source. */
const plain: Settle = (h) => {
  const { family, part, weight } = h.sense;
  if (family === null || !isFamily(family)) return [];
  if (part === 'piano' && h.words.some((w) => ELECTRIC_WORDS.has(w.sense.key)))
    return [propose(h, family, 'electric-piano', 0)];
  const isVagueMix = family === 'reference' && part === 'mix' && weight < 1 && h.others.length > 0;
  const out = [propose(h, family, part, isVagueMix ? -1 : 0)];
  if (part === 'guitar' && ['distorted', 'lead', 'solo'].some((r) => h.roles.has(r)))
    // Overdrive is electric; a lead or a solo may be either.
    out.push(propose(h, family, 'electric-guitar', h.roles.has('distorted') ? 0.3 : -1.5));
  return out;
};

/** Who decides on a head: by what company leaves open, else by family and part. */
function settlerOf({ sense, word }: HeadInName): Settle {
  const { family, part, open, weight } = sense;
  if (open === 'register') return register;
  if (open === 'voice' || family === 'voice') return voice;
  if (open === 'room' || (family === 'drums' && part === 'room')) return room;
  if (family === 'bass' && part === 'electric-bass') return bass;
  return family === 'mains' && part === 'hall' && word && weight < 1 ? weakHall : plain;
}

/** What a head is in this company, with what else it could be. */
export function settle(h: HeadInName): Proposal[] {
  const { family, part, own } = h.sense;
  if (own && family !== null && isFamily(family)) return [{ family, part, score: h.score }];
  return settlerOf(h)(h);
}
