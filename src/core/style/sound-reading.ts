import {
  type HeardFacts,
  SOUND_KINDS,
  type SoundLikeness,
  type SoundKind,
  type SoundName,
  type SoundClass,
} from '../analysis';
import type { Evidence, Family } from '../naming';

/** What a track is: a choice to offer, or what is proposed. */
export interface TrackKind {
  readonly family: Family;
  readonly part: string | null;
  readonly role: string | null;
}

const kind = (family: Family, part: string | null = null, role: string | null = null): TrackKind => ({
  family,
  part,
  role,
});

/** What pulses through like a click. */
export const CLICK: TrackKind = kind('click', 'click');
/** What sounds like all others together. */
export const MIX: TrackKind = kind('reference', 'mix');

/** What each source of sound is as a track, the likeliest first. */
const KINDS_OF_SOUND: Readonly<Record<SoundClass, readonly TrackKind[]>> = {
  kick: [kind('drums', 'kick')],
  snare: [kind('drums', 'snare')],
  hat: [kind('drums', 'hihat')],
  toms: [kind('drums', 'tom')],
  cymbals: [kind('drums', 'overhead')],
  room: [kind('drums', 'room')],
  'hand-percussion': [kind('percussion', 'percussion')],
  bass: [kind('bass', 'electric-bass')],
  plucked: [kind('guitars', 'guitar')],
  keys: [kind('keys', 'keys')],
  mallets: [kind('percussion', 'mallet')],
  organ: [kind('keys', 'organ')],
  bowed: [kind('strings', 'strings')],
  blown: [kind('winds', 'winds'), kind('brass', 'brass')],
  synth: [kind('synths', 'synth')],
  voice: [kind('lead-vocal', 'vocal')],
  choir: [kind('backing-vocal', 'vocal')],
  speech: [kind('lead-vocal', 'vocal', 'spoken')],
  noise: [kind('effects', 'noise'), kind('effects', 'ambience')],
  several: [MIX],
};

/** From here on what is heard is said. */
const HEARD_FROM = 0.7;
/** From here on a clear name is asked again when the sound says otherwise: wrong once in 500 sounds never heard before. */
const DISAGREES_FROM = 0.97;

/** Families a kind of sound may be, the likeliest first. */
const FAMILIES_OF: Readonly<Record<SoundKind, readonly Family[]>> = {
  drums: ['drums', 'percussion'],
  bass: ['bass', 'synths'],
  sustained: ['strings', 'synths', 'keys', 'winds', 'brass'],
  plucked: ['guitars', 'keys', 'strings', 'percussion'],
  'voice-like': ['lead-vocal', 'backing-vocal'],
  noise: ['effects'],
  several: ['reference'],
};

/** Kinds that a family's instruments can well sound like; what has no entry can be anything. */
const KINDS_OF: Readonly<Partial<Record<Family, readonly SoundKind[]>>> = {
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
const PROPOSES: ReadonlySet<SoundKind> = new Set(['drums', 'bass', 'voice-like', 'plucked']);
/** Kinds that say against a clear name: noise may be any of them, and a track of several may be a stem. */
const CONTRADICTS: ReadonlySet<SoundKind> = new Set(['drums', 'bass', 'sustained', 'plucked', 'voice-like']);
/** A guess by ear is always to be checked. */
const BY_EAR = 0.5;
/** A doubtful name that sounds as it says is believed; but a voice does not say whether it leads. */
const AGREED = 0.75;
const DOUBT = 0.65;
const CLEAR = 0.7;
/** A source less likely than this is no choice to offer. */
const OFFERED_FROM = 0.1;

const isSaid = (heard: SoundLikeness | null): heard is SoundLikeness =>
  heard !== null && heard.confidence >= HEARD_FROM && SOUND_KINDS.includes(heard.kind);

/** The source that is heard surely enough to be said; null where none is. */
export const soundClassOf = (heard: SoundLikeness | null): SoundClass | null => {
  const [first] = heard?.sounds ?? [];
  return first && first.confidence >= HEARD_FROM && first.sound in KINDS_OF_SOUND ? first.sound : null;
};

/** Everything that is said of a sound: the source, its kind. */
export const soundNamesOf = (heard: SoundLikeness | null): readonly SoundName[] => {
  const sound = soundClassOf(heard);
  return [...(sound === null ? [] : [sound]), ...(isSaid(heard) ? [heard.kind] : [])];
};

/** What a track may be by ear, to choose from: the likeliest sources, then the families of its kind. */
export function likelyKinds(
  heard: SoundLikeness | null,
): readonly (TrackKind & { readonly sound: SoundClass | null })[] {
  const sources = (heard?.sounds ?? [])
    .filter((s) => s.confidence >= OFFERED_FROM)
    .flatMap(({ sound }) => KINDS_OF_SOUND[sound].map((k) => ({ ...k, sound })));
  const families = isSaid(heard) ? FAMILIES_OF[heard.kind] : [];
  return [...sources, ...families.map((family) => ({ ...kind(family), sound: null }))];
}

/** What a track is by ear where its name does not say it: its source, else a family; null where the ear is not sure. */
function kindByEar(heard: SoundLikeness | null): TrackKind | null {
  const sound = soundClassOf(heard);
  if (sound !== null) return sound === 'several' ? null : (KINDS_OF_SOUND[sound][0] as TrackKind);
  return isSaid(heard) && PROPOSES.has(heard.kind) ? kind(FAMILIES_OF[heard.kind][0] as Family) : null;
}

const KIND_WORDS: Readonly<Record<SoundKind, string>> = {
  drums: 'drums',
  bass: 'a bass',
  sustained: 'a held sound',
  plucked: 'a plucked or struck string',
  'voice-like': 'a voice',
  noise: 'noise',
  several: 'several instruments at once',
};
const SOUND_WORDS: Readonly<Record<SoundClass, string>> = {
  kick: 'a kick',
  snare: 'a snare',
  hat: 'a hi-hat',
  toms: 'toms',
  cymbals: 'cymbals or a kit from above',
  room: 'a kit from afar',
  'hand-percussion': 'hand percussion',
  bass: 'a bass',
  plucked: 'plucked strings',
  keys: 'a piano or the like',
  mallets: 'mallets',
  organ: 'an organ',
  bowed: 'bowed strings',
  blown: 'a wind or brass instrument',
  synth: 'a synthesiser',
  voice: 'a voice',
  choir: 'several voices',
  speech: 'somebody speaking',
  noise: 'noise',
  several: 'several instruments at once',
};

/** What is heard, in words and how surely; null where the ear is not sure enough to speak. */
export function likenessWords(heard: SoundLikeness | null): string | null {
  const sound = soundClassOf(heard);
  if (sound !== null)
    return `sounds like ${SOUND_WORDS[sound]} (${(heard?.sounds?.[0]?.confidence ?? 0).toFixed(2)})`;
  return isSaid(heard) ? `sounds like ${KIND_WORDS[heard.kind]} (${heard.confidence.toFixed(2)})` : null;
}

/** What the ear makes of a reading. */
export interface LikenessReading {
  readonly family: Family;
  /** What it is by ear, in place of what the name does not say; null = only its family. */
  readonly by: TrackKind | null;
  readonly confidence: number;
  readonly evidence: Evidence;
}

/** What the ear adds to a reading: it speaks where the name is silent or doubtful, never overrules a clear name, and says when the two disagree. Null = nothing. */
export function withLikeness(
  family: Family,
  confidence: number,
  heard: SoundLikeness | null,
): LikenessReading | null {
  const said = likenessWords(heard);
  if (heard === null || said === null) return null;
  const reading = (at: number, means: string): LikenessReading => ({
    family,
    by: null,
    confidence: at,
    evidence: { kind: 'sound', text: 'heard', means },
  });
  if (family === 'unknown') {
    const by = kindByEar(heard);
    return by ? { ...reading(BY_EAR, said), family: by.family, by } : reading(confidence, said);
  }
  const kinds = KINDS_OF[family];
  if (!kinds || !isSaid(heard)) return null;
  if (kinds.includes(heard.kind))
    return confidence < CLEAR && kinds[0] === heard.kind && heard.kind !== 'voice-like'
      ? reading(AGREED, `${said}, as its name says`)
      : null;
  if (!CONTRADICTS.has(heard.kind)) return null;
  if (confidence < CLEAR) return reading(confidence, `${said}, not like its name: check`);
  return heard.confidence >= DISAGREES_FROM
    ? reading(DOUBT, `named ${family.replaceAll('-', ' ')}, ${said}: check`)
    : null;
}

/** What a track is, as far as anybody knows: as it was sorted; else by its name, where that is clear; else by ear; else what its name may mean. */
export function kindKnown(
  track: { readonly family: Family; readonly part: string | null } | null,
  name: { readonly family: Family; readonly part: string | null; readonly confidence: number } | null,
  heard: Pick<HeardFacts, 'as' | 'click'> | null,
): { readonly family: Family; readonly part: string | null } {
  if (track && track.family !== 'unknown') return track;
  const as = heard?.as ?? null;
  if (name && name.family !== 'unknown') {
    const isAgreed = soundClassOf(as) === null && (!isSaid(as) || KINDS_OF[name.family]?.includes(as.kind));
    if (name.confidence >= CLEAR || (isAgreed && !heard?.click)) return name;
  }
  return (heard?.click ? CLICK : kindByEar(as)) ?? name ?? { family: 'unknown', part: null };
}
