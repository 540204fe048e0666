import type { Family, Position, Side } from '../reading';

/** What a word can be for. `part` names a source; the rest qualifies it, links it to another, or says nothing of it. */
export const SENSE_KINDS = [
  'part',
  'role',
  'position',
  'side',
  'number',
  'take',
  'treatment',
  'return',
  'section',
  'junk',
  'unit',
  'fact',
  'microphone',
  'link',
] as const;

/** One of {@link SENSE_KINDS}. */
export type SenseKind = (typeof SENSE_KINDS)[number];

/** Languages of the lexicon; `xx` = English and what the trade says everywhere, `no` = Norwegian and Danish, `sh` = South Slavic. */
export const LANGUAGES = [
  'xx',
  'de',
  'es',
  'fr',
  'it',
  'pt',
  'nl',
  'sv',
  'no',
  'sh',
  'pl',
  'cs',
  'tr',
  'fi',
] as const;

/** One of {@link LANGUAGES}. */
export type Language = (typeof LANGUAGES)[number];

/** A family, or `voice`: a voice of which the company says whether it leads or backs. */
export type SenseFamily = Family | 'voice';

/** Whether a family is sung or spoken. */
export const isSung = (family: SenseFamily | null): boolean =>
  family === 'voice' || family === 'lead-vocal' || family === 'backing-vocal';

/** A place that the output knows, or one that only explains a word. */
export type SensePosition = Position | 'center' | 'mono' | 'stereo' | 'spot-on-source';

/** One meaning of one word or phrase. */
export interface Sense {
  readonly kind: SenseKind;
  /** Folded and joined: see `keyOf`. */
  readonly key: string;
  /** As written in the lexicon. */
  readonly alias: string;
  /** Of a part; null for other kinds. */
  readonly family: SenseFamily | null;
  readonly part: string | null;
  /** What a word that is no part says: `lead`, `top`, `left`, `2` … */
  readonly value: string;
  readonly position: SensePosition | null;
  readonly role: string | null;
  readonly side: Side | null;
  /** Number that stands in the alias itself (`Violin 2`). */
  readonly number: number | null;
  /** Meanings that only the company settles. */
  readonly open: 'voice' | 'register' | 'room' | null;
  readonly register: string | null;
  /** 1 = in no other sense in this trade and language, 0.5 = ambiguous, 0.25 = only with support. */
  readonly weight: number;
  readonly language: Language;
  /** Kind of delivery it belongs to (`band`, `orch`, `choir` …); null = any. */
  readonly tag: string | null;
  /** Places within the key where words meet. */
  readonly bounds: ReadonlySet<number>;
  /** Whether the alias carries marks that its plain spelling lacks. */
  readonly marked: boolean;
  /** A word of this house or delivery: it goes before those of the trade. */
  readonly own: boolean;
}
