import type { Language, SenseFamily } from '../lexicon/sense';

/** What a delivery as a whole says about each of its names. Shares and strengths are 0–1. */
export interface Company {
  /** How much of each language is spoken; null before anything is read. */
  readonly languages: ReadonlyMap<Language, number> | null;
  /** How far it is a band, an orchestra, a choir … by the words that only these have. */
  readonly tags: ReadonlyMap<string, number>;
  readonly kit: number;
  readonly orchestra: number;
  readonly saxophones: number;
  readonly live: number;
  /** All names, folded and joined, without digits. */
  readonly keys: ReadonlySet<string>;
  /** Names of the delivery. */
  readonly names: number;
  /** Share of names that are one to three letters. */
  readonly terse: number;
  /** How surely families, and parts of them (`drums/hihat`), are there by words of one meaning. */
  readonly clear: ReadonlyMap<string, number>;
  readonly choir: number;
  /** Names that are a voice. */
  readonly voices: number;
  /** Several registers, and no band around them. */
  readonly isVocalGroup: boolean;
  /** Share of names that are unclear. */
  readonly unclear: number;
}

/** Before anything is read. */
export const NO_COMPANY: Company = {
  languages: null,
  tags: new Map(),
  kit: 0,
  orchestra: 0,
  saxophones: 0,
  live: 0,
  keys: new Set(),
  names: 0,
  terse: 0,
  clear: new Map(),
  choir: 0.3,
  voices: 2,
  isVocalGroup: false,
  unclear: 0,
};

/** What stands before and after a name, and how surely. */
export interface Neighbour {
  readonly family: SenseFamily;
  readonly weight: number;
}

/** What folders and shared words say of a name. */
export interface Hint {
  readonly family: SenseFamily;
  readonly part: string | null;
  readonly open: 'voice' | 'register' | 'room' | null;
  readonly text: string;
  readonly weight: number;
}

/** What is known of one name besides its own words. */
export interface Surroundings {
  readonly company: Company;
  readonly hints: readonly Hint[];
  readonly neighbours: readonly Neighbour[];
}

/** How strongly the neighbours are of a family. */
export const neighbourWeight = (at: Surroundings, family: SenseFamily): number =>
  at.neighbours.reduce((sum, n) => sum + (n.family === family ? n.weight : 0), 0);
