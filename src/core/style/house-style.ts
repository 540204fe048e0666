import type { Family, OwnWord } from '../naming';

/** A folder of the mixer's session and the sum it feeds. */
export interface FolderRule {
  /** Stable key, `[a-z-]+`. */
  readonly key: string;
  /** Name people read. */
  readonly name: string;
  /** Families whose tracks go in. */
  readonly families: readonly Family[];
  /** Name of its sum bus; null = its tracks are not summed (references, click). */
  readonly bus: string | null;
  /** Make it from this many members on; default 1. */
  readonly atLeast: number;
}

/** The mixer's rules as data. */
export interface HouseStyle {
  readonly name: string;
  readonly version: number;
  /** Words of the house; they go before those of the trade. */
  readonly words: readonly OwnWord[];
  /** Family → colour `#rrggbb`. */
  readonly colors: Readonly<Record<Family, string>>;
  /** Folders in the order of the session. */
  readonly folders: readonly FolderRule[];
  /** Order of parts within a folder; parts not named come after, by name. */
  readonly partOrder: readonly string[];
  /** Family → word that stands in file names. */
  readonly fileWords: Readonly<Record<Family, string>>;
  /** Longest file name without extension, characters. */
  readonly maxFileNameLength: number;
  /** Families that arrive muted. */
  readonly muted: readonly Family[];
  /** Whole bars before the first downbeat in a package. */
  readonly leadInBars: number;
}

/**
 * The house style a new house begins with. Colours: OKLCH, lightness 0.58, chroma 0.12, hues spread
 * (own; computed once), so that no family shouts.
 */
export const DEFAULT_STYLE: HouseStyle = {
  name: 'Plain house',
  version: 1,
  words: [],
  colors: {
    drums: '#8a6cb4', percussion: '#a9649f', bass: '#4f74bd', guitars: '#2f8f83', keys: '#5b9440', synths: '#3f8aa8', strings: '#9a8424', brass: '#b9713a',
    winds: '#a87a2a', 'lead-vocal': '#c05a5f', 'backing-vocal': '#bb5f7f', effects: '#7a7f86', unknown: '#8c8877', reference: '#6d756f', click: '#6d756f',
  },
  folders: [
    { key: 'drums', name: 'Drums', families: ['drums'], bus: 'Drums', atLeast: 1 },
    { key: 'percussion', name: 'Percussion', families: ['percussion'], bus: 'Percussion', atLeast: 1 },
    { key: 'bass', name: 'Bass', families: ['bass'], bus: 'Bass', atLeast: 1 },
    { key: 'guitars', name: 'Guitars', families: ['guitars'], bus: 'Guitars', atLeast: 1 },
    { key: 'keys', name: 'Keys', families: ['keys', 'synths'], bus: 'Keys', atLeast: 1 },
    { key: 'strings', name: 'Strings', families: ['strings'], bus: 'Strings', atLeast: 1 },
    { key: 'brass-winds', name: 'Brass & Winds', families: ['brass', 'winds'], bus: 'Brass & Winds', atLeast: 1 },
    { key: 'voices', name: 'Voices', families: ['lead-vocal', 'backing-vocal'], bus: 'Voices', atLeast: 1 },
    { key: 'effects', name: 'Effects', families: ['effects'], bus: 'Effects', atLeast: 1 },
    { key: 'reference', name: 'Reference', families: ['reference', 'click'], bus: null, atLeast: 1 },
  ],
  partOrder: ['kick', 'snare', 'hihat', 'tom', 'ride', 'cymbal', 'overhead', 'room', 'kit', 'loop', 'electric-bass', 'double-bass', 'synth-bass', 'acoustic-guitar', 'guitar', 'electric-guitar', 'banjo', 'mandolin', 'piano', 'electric-piano', 'organ', 'accordion', 'concertina', 'keys', 'violin', 'viola', 'cello', 'trumpet', 'horn', 'trombone', 'tuba', 'vocal', 'choir', 'mix', 'guide', 'talkback', 'click'],
  fileWords: { drums: 'Drums', percussion: 'Perc', bass: 'Bass', guitars: 'Gtr', keys: 'Keys', synths: 'Synth', strings: 'Strings', brass: 'Brass', winds: 'Winds', 'lead-vocal': 'LeadVox', 'backing-vocal': 'BackVox', effects: 'FX', unknown: 'Other', reference: 'Ref', click: 'Click' },
  maxFileNameLength: 31,
  muted: ['reference', 'click'],
  leadInBars: 2,
};
