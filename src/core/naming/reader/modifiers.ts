import { isSung, type Sense, type SenseFamily } from '../lexicon/sense';
import type { Word } from './tilings';

/** Two words of one name that both name a source: is the first the source, with the second telling more of it? */
interface Pairing {
  readonly head: Sense;
  readonly other: Sense;
  /** The head stands before the other. */
  readonly isFirst: boolean;
  /** In the languages of this name the noun comes first: `guitare voix`. */
  readonly nounFirst: boolean;
  /** More than two families are named. */
  readonly isList: boolean;
  /** What the order says against the head: the noun stands last, first in Romance languages. */
  readonly order: number;
}

/** What it costs to take the head for the source, in log units; null = this rule says nothing. */
type Rule = (p: Pairing) => number | null;

const WINDS: ReadonlySet<SenseFamily | null> = new Set<SenseFamily | null>(['strings', 'brass', 'winds']);
/** Words for a whole family, which say less than any of its instruments. */
const GENERAL: ReadonlySet<string> = new Set([
  'drums/kit',
  'guitars/guitar',
  'strings/strings',
  'brass/brass',
  'winds/winds',
  'percussion/percussion',
  'keys/keys',
  'synths/synth',
  'effects/effect',
  'voice/vocal',
  'bass/electric-bass',
  'backing-vocal/vocal',
  'percussion/mallet',
  'drums/cymbal',
]);
const VOICE_ROLES: ReadonlySet<string | null> = new Set(['harmony', 'double', 'adlib', 'gang', 'lead']);

const isVoice = (s: Sense): boolean => isSung(s.family);
const isRoom = (s: Sense): boolean => s.open === 'room' || is(s, 'drums', 'room');
const is = (s: Sense, family: SenseFamily, part: string): boolean => s.family === family && s.part === part;
/** Whether a sense is a word for a whole family. */
export const isGeneral = (s: Sense): boolean => GENERAL.has(`${s.family}/${s.part}`);

/** Words of the house go before those of the trade. */
const house: Rule = ({ head, other }) => {
  if (head.own) return 0;
  return other.own ? 4 : null;
};

const references: Rule = ({ head, other }) => {
  if (is(head, 'reference', 'guide') || head.part === 'talkback') return 0;
  if (is(other, 'reference', 'guide') || other.part === 'talkback') return 3;
  if (head.family === 'click') return 0.3;
  if (other.family === 'click') return 2.5;
  if (is(head, 'reference', 'mix')) return 2.2;
  return is(other, 'reference', 'mix') ? 0.2 : null;
};

/** `Tom` beside anything but drums is a person. */
const people: Rule = ({ head, other }) => {
  if (head.key === 'tom' && other.family !== 'drums') return 2.5;
  return other.key === 'tom' && head.family !== 'drums' ? 0 : null;
};

const manners: Rule = ({ head, other }) => {
  const isManner = (s: Sense): boolean => s.part === 'pluck' || s.part === 'arp';
  const isPlayed = (s: Sense): boolean =>
    s.family === 'guitars' || s.family === 'keys' || s.family === 'strings';
  if (isManner(head) && (isPlayed(other) || other.family === 'bass')) return 1.2;
  return isManner(other) && isPlayed(head) ? 0.1 : null;
};

/** A room beside a source is where its microphone stands. */
const rooms: Rule = ({ head, other }) => {
  if (isRoom(other)) return is(head, 'drums', 'kit') ? 1.5 : 0;
  if (isRoom(head)) return is(other, 'drums', 'kit') ? 0 : 2.2;
  return null;
};

/** Tenor sax, soprano recorder: beside an instrument a register belongs to it. */
const registers: Rule = ({ head, other }) => {
  // Another take of it.
  if (head.key === 'alt') return 2.6;
  if (other.key === 'alt') return 0;
  if (head.open === 'register') {
    if (isVoice(other)) return head.weight === 1 ? 0 : 0.3;
    if (WINDS.has(other.family) || ['keys', 'bass', 'guitars', 'percussion'].includes(other.family as string))
      return 2.6;
  }
  if (other.open !== 'register') return null;
  return head.family === 'winds' || head.family === 'brass' || head.family === 'strings' || isVoice(head)
    ? 0.1
    : 0.6;
};

const voicesAmongThemselves: Rule = ({ head, other, order }) => {
  if (!isVoice(head) || !isVoice(other)) return null;
  if (other.part === 'choir' && head.part !== 'choir') return 0.7;
  if (head.part === 'choir') return 0;
  if (head.role !== null && other.role === null) return 0;
  if (head.family === 'voice') return other.family === 'backing-vocal' ? 1.8 : 1;
  return head.family === 'backing-vocal' && other.family === 'lead-vocal' ? 0.3 : 0.2 + order;
};

const sameFamily: Rule = ({ head, other, order }) => {
  if (head.family !== other.family) return null;
  if (head.part === 'overhead') return 0;
  if (other.part === 'overhead') return 0.9;
  if (isGeneral(head) && !isGeneral(other)) return 1.5;
  if (isGeneral(other) && !isGeneral(head)) return 0;
  if (head.part === 'loop') return 0.4;
  if (head.part === 'synth-lead' && ['arp', 'pad', 'pluck'].includes(other.part ?? '')) return 0.5;
  return 0.35 + 1.5 * order;
};

/** Bass clarinet, bass trombone, bass drum: a register before winds, brass and drums. */
const lowRegister: Rule = ({ head, other, nounFirst }) => {
  if (is(head, 'bass', 'electric-bass') && ['winds', 'brass', 'drums'].includes(other.family as string))
    return 2.6;
  if (!is(other, 'bass', 'electric-bass')) return null;
  if (head.family === 'winds' || head.family === 'brass') return 0;
  return isVoice(head) && !nounFirst ? 0.6 : null;
};

/** Risers and impacts are what they are, whatever they were made of; an effect or noise of a source is the source's. */
const effects: Rule = ({ head, other }) => {
  const isVague = (s: Sense): boolean => ['effect', 'noise', 'ambience'].includes(s.part ?? '');
  if (head.family === 'effects') {
    if (isVague(head)) return other.family === 'synths' ? 0.5 : 1.9;
    if (head.part === 'reverse') return 0.5;
    return ['synths', 'drums', 'percussion', 'bass'].includes(other.family as string) ? 0.25 : 0.7;
  }
  if (other.family !== 'effects') return null;
  return isVague(other) ? 0.2 : other.part === 'reverse' ? 0.5 : 1.2;
};

const ensembleMics: Rule = ({ head, other }) => {
  if (head.family === 'mains')
    return WINDS.has(other.family) || (isVoice(other) && head.part !== 'audience') ? 0.7 : 1.4;
  if (other.family !== 'mains') return null;
  return ['main-pair', 'hall', 'outrigger'].includes(other.part ?? '') ? 0.3 : 1;
};

/** `Harmony`, `double`, `lead` beside an instrument are what it plays. */
const voiceRoles: Rule = ({ head, other }) => {
  const isInstrument = ['guitars', 'keys', 'synths', 'strings', 'brass', 'winds', 'bass'].includes(
    other.family as string,
  );
  if (isVoice(head) && (VOICE_ROLES.has(head.role) || head.role === 'scream') && isInstrument) return 2;
  return isVoice(other) && VOICE_ROLES.has(other.role) ? 0.15 : null;
};

const generalWords: Rule = ({ head, other }) => {
  if (head.part === 'loop') return other.family === 'percussion' ? 1.5 : 2;
  if (other.part === 'loop') return 0.1;
  if (is(head, 'drums', 'kit')) return 1.2;
  if (is(other, 'drums', 'kit')) return 0.15;
  if (is(head, 'percussion', 'percussion')) return 1;
  if (is(other, 'percussion', 'percussion')) return 0.15;
  const isAcoustic = ['strings', 'brass', 'keys', 'winds', 'guitars', 'bass'].includes(
    other.family as string,
  );
  if (is(head, 'synths', 'synth') && isAcoustic) return 0.5;
  return is(other, 'synths', 'synth') ? 0.3 : null;
};

const byOrder: Rule = ({ head, other, order, isFirst, isList }) => {
  if (isVoice(head) || isVoice(other)) return 0.5 + order;
  // A list of instruments: the first is as good as any.
  return 0.7 + (isList ? (isFirst ? 0 : 0.5) : order);
};

/** In this order; the first that says something decides. Common practice, no source. */
const RULES: readonly Rule[] = [
  house,
  references,
  people,
  manners,
  rooms,
  registers,
  voicesAmongThemselves,
  sameFamily,
  lowRegister,
  effects,
  ensembleMics,
  voiceRoles,
  generalWords,
  byOrder,
];

/** What it costs to take `head` for the source of a name that also says `other`, in log units. */
export function modifierCost(head: Word, other: Word, nounFirst: boolean, families: number): number {
  const isFirst = head.from < other.from;
  const pairing: Pairing = {
    head: head.sense,
    other: other.sense,
    isFirst,
    nounFirst,
    isList: families > 2,
    order: isFirst !== nounFirst ? 0.35 : 0,
  };
  for (const rule of RULES) {
    const cost = rule(pairing);
    if (cost !== null) return cost;
  }
  return 0;
}
