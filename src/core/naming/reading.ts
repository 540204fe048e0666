/** Kinds of source, in the default order of a session; `unknown` when nothing speaks for any. */
export const FAMILIES = [
  'drums',
  'percussion',
  'bass',
  'guitars',
  'keys',
  'synths',
  'strings',
  'brass',
  'winds',
  'lead-vocal',
  'backing-vocal',
  'mains',
  'effects',
  'unknown',
  'reference',
  'click',
] as const;

/** One of {@link FAMILIES}. */
export type Family = (typeof FAMILIES)[number];

/** Place of a microphone or kind of pick-up. */
export type Position =
  | 'in'
  | 'out'
  | 'top'
  | 'bottom'
  | 'side'
  | 'close'
  | 'near'
  | 'far'
  | 'di'
  | 'amp'
  | 'mic'
  | 'sub'
  | 'trigger'
  | 'front'
  | 'rear'
  | 'high'
  | 'mid'
  | 'low'
  | 'room'
  | 'floor'
  | 'rack'
  | 'open'
  | 'closed';

/** Side of a pair, or mid/side. */
export type Side = 'left' | 'right' | 'mid' | 'side';

/** Why something was concluded. */
export interface Evidence {
  /** Words of the name, a context rule, other names of the delivery, or what was heard. */
  readonly kind: 'word' | 'rule' | 'neighbour' | 'sound';
  /** What was seen, as it stood there. */
  readonly text: string;
  /** What it was taken to mean, in plain words. */
  readonly means: string;
}

/** What a word means in this house or delivery, whatever it means elsewhere. */
export interface OwnWord {
  /** Lower case, without marks, one space between words. */
  readonly text: string;
  readonly family: Family;
  readonly part: string | null;
}

/** What a name says about a track. */
export interface NameReading {
  /** The name as given. */
  readonly input: string;
  readonly family: Family;
  /** What makes the sound (`kick`, `acoustic-guitar` …); null when unknown. */
  readonly part: string | null;
  /** How it is used (`rhythm`, `double` …); null when the name does not say. */
  readonly role: string | null;
  readonly position: Position | null;
  readonly side: Side | null;
  /** Number of a double, as in `Tom 2`. */
  readonly number: number | null;
  readonly take: number | null;
  /** 0–1; below 0.7 means doubtful. */
  readonly confidence: number;
  readonly evidence: readonly Evidence[];
  /** Nothing in it is a word: a recorder's name. */
  readonly isSilent: boolean;
}

/** How the names of one delivery are read: here, or by a worker that has read them before. See `readNames`. */
export type ReadNames = (
  names: readonly string[],
  own?: readonly OwnWord[],
  junk?: readonly string[],
) => readonly NameReading[];
