import { HEARD_KINDS, type HeardAs, type HeardKind } from '../analysis';
import type { Evidence, Family } from '../naming';

/** From here on what is heard is said. */
export const HEARD_FROM = 0.7;
/** From here on a clear name is asked again when the sound says otherwise. */
const DISAGREES_FROM = 0.9;

/** Families a kind of sound may be, the likeliest first. */
const FAMILIES_OF: Readonly<Record<HeardKind, readonly Family[]>> = {
  drums: ['drums', 'percussion'],
  bass: ['bass', 'synths'],
  sustained: ['strings', 'synths', 'keys', 'winds', 'brass'],
  plucked: ['guitars', 'keys', 'strings', 'percussion'],
  'voice-like': ['lead-vocal', 'backing-vocal'],
};

/** Kinds that a family's instruments can well sound like; what has no entry can be anything. */
const KINDS_OF: Readonly<Partial<Record<Family, readonly HeardKind[]>>> = {
  drums: ['drums'],
  percussion: ['drums', 'plucked'],
  bass: ['bass', 'plucked', 'sustained'],
  guitars: ['plucked', 'sustained', 'bass'],
  keys: ['plucked', 'sustained', 'bass', 'voice-like'],
  strings: ['sustained', 'plucked', 'voice-like', 'bass'],
  brass: ['sustained', 'voice-like', 'bass'],
  winds: ['sustained', 'voice-like'],
  'lead-vocal': ['voice-like', 'sustained'],
  'backing-vocal': ['voice-like', 'sustained'],
};

/** Kinds whose first family is proposed where the name says nothing: the others could be too much. */
const PROPOSES: ReadonlySet<HeardKind> = new Set(['drums', 'bass', 'voice-like', 'plucked']);
/** A guess by ear is always to be checked. */
const BY_EAR = 0.5;
/** A doubtful name that sounds as it says is believed; but a voice does not say whether it leads. */
const AGREED = 0.75;
const DOUBT = 0.65;
const CLEAR = 0.7;

/** Families to choose from, by ear. */
export const familiesHeard = (heard: HeardAs | null): readonly Family[] =>
  heard !== null && heard.confidence >= HEARD_FROM ? FAMILIES_OF[heard.kind] : [];

const article: Readonly<Record<HeardKind, string>> = {
  drums: 'drums',
  bass: 'a bass',
  sustained: 'a held sound',
  plucked: 'a plucked or struck string',
  'voice-like': 'a voice',
};

/** What is heard, in words and how surely; null where the ear is not sure enough to speak. */
export const heardWords = (heard: HeardAs | null): string | null =>
  heard !== null && heard.confidence >= HEARD_FROM && HEARD_KINDS.includes(heard.kind)
    ? `sounds like ${article[heard.kind]} (${heard.confidence.toFixed(2)})`
    : null;

/** What the ear adds to a reading: it speaks where the name is silent or doubtful, never overrules a clear name, and says when the two disagree. Null = nothing. */
export function withHeard(
  family: Family,
  confidence: number,
  heard: HeardAs | null,
): { readonly family: Family; readonly confidence: number; readonly evidence: Evidence } | null {
  const said = heardWords(heard);
  if (heard === null || said === null) return null;
  const evidence = (means: string): Evidence => ({ kind: 'sound', text: 'heard', means });
  if (family === 'unknown')
    return PROPOSES.has(heard.kind)
      ? { family: FAMILIES_OF[heard.kind][0] as Family, confidence: BY_EAR, evidence: evidence(said) }
      : { family, confidence, evidence: evidence(said) };
  const kinds = KINDS_OF[family];
  if (!kinds) return null;
  if (kinds.includes(heard.kind))
    return confidence < CLEAR && kinds[0] === heard.kind && heard.kind !== 'voice-like'
      ? { family, confidence: AGREED, evidence: evidence(`${said}, as its name says`) }
      : null;
  if (confidence < CLEAR)
    return { family, confidence, evidence: evidence(`${said}, not like its name: check`) };
  return heard.confidence >= DISAGREES_FROM
    ? {
        family,
        confidence: DOUBT,
        evidence: evidence(`named ${family.replaceAll('-', ' ')}, ${said}: check`),
      }
    : null;
}
