import { MATCH_DEFAULTS, type MatchRules } from '../matching';
import type { Family, OwnWord } from '../naming';
import { TIDY_DEFAULTS, type TidySettings } from '../tidy';
import type { ClickParts, ClickSound } from '../time';
import type { Shades } from './colors';
import type { Condition } from './conditions';
import type { NameRules } from './names';

/** A folder of the mixer's session and the sum it feeds. */
export interface FolderRule {
  /** Stable key, `[a-z][a-z0-9-]*`. */
  readonly key: string;
  /** Name people read. */
  readonly name: string;
  /** Families whose tracks go in. */
  readonly families: readonly Family[];
  /** Tracks that go in whatever their family; asked before the families of all folders. Null = none. */
  readonly when: Condition | null;
  /** Key of the folder it stands in; null = the top level. Its sum feeds that folder's. */
  readonly parent: string | null;
  /** Name of its sum bus; null = none of its own: its tracks go to the sum of the folder it stands in, or to the mix bus. */
  readonly bus: string | null;
  /** Make it from this many tracks on; fewer go to the folder it stands in, or stay at the top level. */
  readonly atLeast: number;
  /** Its own colour; null = that of its first family. */
  readonly color: string | null;
  /** How its tracks are coloured. */
  readonly shades: Shades;
}

/** What a rule sets. Only what is there is set. */
export interface RuleResult {
  readonly family?: Family;
  readonly part?: string | null;
  readonly role?: string | null;
  readonly position?: string | null;
  readonly side?: 'left' | 'right' | null;
  /** Name in the session, as it stands here; equal names are numbered. */
  readonly name?: string;
  readonly color?: string;
  /** Key of a folder. */
  readonly folder?: string;
  readonly muted?: boolean;
  /** −1 left … 1 right. */
  readonly pan?: number;
}

/** When → then. Rules run from first to last, each on what those before it left. */
export interface Rule {
  /** Said in the evidence; no two are alike. */
  readonly name: string;
  readonly on: boolean;
  readonly when: Condition;
  readonly then: RuleResult;
}

/** A return of the mixer's session; it is made where something is sent to it, and arrives empty. */
export interface ReturnRule {
  /** Stable key, `[a-z][a-z0-9-]*`. */
  readonly key: string;
  readonly name: string;
  /** Its own colour; null = that of returns. */
  readonly color: string | null;
  /** Key of the folder whose sum it feeds; null = the mix bus. */
  readonly into: string | null;
}

/** A send there is from the start. */
export interface SendRule {
  /** Whether tracks send, or sums. */
  readonly from: 'tracks' | 'sums';
  /** Which of them. */
  readonly when: Condition;
  /** Key of a return. */
  readonly to: string;
  /** dB. */
  readonly gainDb: number;
  /** −1 left … 1 right; null = that of what sends. */
  readonly pan: number | null;
  /** Before the level of what sends, or after it. */
  readonly before: boolean;
}

/** Tracks that are edited as one from the start, if there are at least two. */
export interface GroupRule {
  readonly key: string;
  readonly name: string;
  readonly when: Condition;
}

/** Small drawings there are, besides those named like the families. */
export const MORE_PICTURES = [
  'kick',
  'snare',
  'cymbal',
  'piano',
  'organ',
  'note',
  'return',
  'mix-bus',
  'section',
] as const;

/** Name of a small drawing. */
export type Picture = Family | (typeof MORE_PICTURES)[number];

/** A filter over the sheet. */
export interface LensRule {
  readonly key: string;
  readonly name: string;
  readonly when: Condition;
}

/** How tracks are cut as long as nobody says otherwise: all of them, and what is otherwise in some families. */
export interface CutDefaults {
  readonly all: TidySettings;
  readonly families: Partial<Readonly<Record<Family, Partial<TidySettings>>>>;
}

/** The mixer's rules as data. */
export interface HouseStyle {
  readonly name: string;
  readonly version: number;
  /** Words of the house; they go before those of the trade. */
  readonly words: readonly OwnWord[];
  /** Words that say nothing here. */
  readonly junk: readonly string[];
  readonly names: NameRules;
  readonly rules: readonly Rule[];
  /** Family → colour `#rrggbb`. */
  readonly colors: Readonly<Record<Family, string>>;
  /** Part → colour `#rrggbb`; goes before the family's. */
  readonly partColors: Readonly<Record<string, string>>;
  /** Colours of rows that are no tracks. */
  readonly rowColors: { readonly return: string; readonly 'mix-bus': string; readonly section: string };
  /** Family or part → its drawing; what is not named has that of its family. */
  readonly pictures: Readonly<Record<string, Picture>>;
  /** Folders in the order of the session. */
  readonly folders: readonly FolderRule[];
  /** Order of parts within a folder; parts not named come after, by name. */
  readonly partOrder: readonly string[];
  /** Order of microphone positions within a part; those not named come after. */
  readonly positionOrder: readonly string[];
  /** Family → word that stands in file names. */
  readonly fileWords: Readonly<Record<Family, string>>;
  /** What stands between the words of a file name. */
  readonly fileJoin: '' | '_' | '-';
  /** Longest file name without extension, characters. */
  readonly maxFileNameLength: number;
  /** Families that arrive muted. */
  readonly muted: readonly Family[];
  readonly lenses: readonly LensRule[];
  /** In order. */
  readonly returns: readonly ReturnRule[];
  /** Of several to one return the first that is met holds. */
  readonly sends: readonly SendRule[];
  readonly groups: readonly GroupRule[];
  readonly cuts: CutDefaults;
  /** How levels of tracks are brought to each other. */
  readonly matching: MatchRules;
  /** What applies by itself once all that was sent has arrived: nothing, or what is certain. */
  readonly atImport: 'nothing' | 'certain';
  /** Whole bars before the first downbeat in a package. */
  readonly leadInBars: number;
  /** How the click of a package sounds, and into how many parts it divides each pulse. */
  readonly click: { readonly sound: ClickSound; readonly parts: ClickParts };
  /** Whether the takes of a track lie in a package beside what was put together from them. */
  readonly takes: 'none' | 'all';
}

const folder = (
  key: string,
  name: string,
  families: readonly Family[],
  bus: string | null = name,
): FolderRule => ({
  key,
  name,
  families,
  when: null,
  parent: null,
  bus,
  atLeast: 1,
  color: null,
  shades: 'own',
});

const FOLDERS: readonly FolderRule[] = [
  folder('drums', 'Drums', ['drums']),
  folder('percussion', 'Percussion', ['percussion']),
  folder('bass', 'Bass', ['bass']),
  folder('guitars', 'Guitars', ['guitars']),
  folder('keys', 'Keys', ['keys', 'synths']),
  folder('strings', 'Strings', ['strings']),
  folder('brass-winds', 'Brass & Winds', ['brass', 'winds']),
  folder('voices', 'Voices', ['lead-vocal', 'backing-vocal']),
  folder('ensemble-mics', 'Ensemble mics', ['mains']),
  folder('effects', 'Effects', ['effects']),
  folder('reference', 'Reference', ['reference', 'click'], null),
];

/**
 * The house style a new house begins with. Colours: our own search in OKLCH: hues spread, lightness and chroma near each
 * other, at least 3 : 1 on both grounds, neighbours told apart by those who see few hues too.
 */
export const DEFAULT_STYLE: HouseStyle = {
  name: 'Plain house',
  version: 1,
  words: [],
  junk: [],
  names: {
    template: '{part} {role} {position} {number} {side}',
    families: {},
    // "Floor Tom", but "Snare Top".
    parts: { tom: '{position} {part} {role} {number} {side}' },
    words: {
      hihat: 'Hat',
      kit: 'Drums',
      mix: 'Rough Mix',
      'electric-bass': 'Bass',
      di: 'DI',
      vocal: 'Lead Vocal',
      'lead-vocal.lead': '',
      'backing-vocal.vocal': 'Backing Vocal',
      'backing-vocal.lead': '',
    },
    case: 'capitals',
    numbers: 'digits',
    longest: 60,
    forbidden: '',
  },
  rules: [],
  colors: {
    drums: '#9e78b4',
    percussion: '#ab4682',
    bass: '#5e8ce6',
    guitars: '#087398',
    keys: '#009f98',
    synths: '#007c4d',
    strings: '#71995f',
    brass: '#826900',
    winds: '#b08837',
    'lead-vocal': '#b74732',
    'backing-vocal': '#c47287',
    mains: '#7d7fc0',
    effects: '#656c6e',
    unknown: '#8c8877',
    reference: '#8a9089',
    click: '#6a716b',
  },
  partColors: {},
  rowColors: { return: '#4f8f86', 'mix-bus': '#6a7680', section: '#6f7fb0' },
  pictures: {
    kick: 'kick',
    snare: 'snare',
    hihat: 'cymbal',
    cymbal: 'cymbal',
    ride: 'cymbal',
    overhead: 'cymbal',
    piano: 'piano',
    organ: 'organ',
  },
  folders: FOLDERS,
  partOrder: [
    'kick',
    'snare',
    'hihat',
    'tom',
    'ride',
    'cymbal',
    'overhead',
    'room',
    'kit',
    'loop',
    'electric-bass',
    'double-bass',
    'synth-bass',
    'acoustic-guitar',
    'guitar',
    'electric-guitar',
    'banjo',
    'mandolin',
    'piano',
    'electric-piano',
    'organ',
    'accordion',
    'concertina',
    'keys',
    'violin',
    'viola',
    'cello',
    'trumpet',
    'horn',
    'trombone',
    'tuba',
    'vocal',
    'choir',
    'main-pair',
    'tree',
    'outrigger',
    'surround',
    'hall',
    'audience',
    'mix',
    'guide',
    'talkback',
    'click',
  ],
  positionOrder: [
    'in',
    'out',
    'sub',
    'trigger',
    'top',
    'bottom',
    'side',
    'rack',
    'high',
    'mid',
    'low',
    'floor',
    'close',
    'near',
    'far',
    'di',
    'amp',
    'mic',
  ],
  fileWords: {
    drums: 'Drums',
    percussion: 'Perc',
    bass: 'Bass',
    guitars: 'Gtr',
    keys: 'Keys',
    synths: 'Synth',
    strings: 'Strings',
    brass: 'Brass',
    winds: 'Winds',
    'lead-vocal': 'LeadVox',
    'backing-vocal': 'BackVox',
    mains: 'Mains',
    effects: 'FX',
    unknown: 'Other',
    reference: 'Ref',
    click: 'Click',
  },
  fileJoin: '',
  maxFileNameLength: 31,
  muted: ['reference', 'click'],
  lenses: FOLDERS.map(({ key, name, families }) => ({ key, name, when: { family: families } })),
  returns: [],
  sends: [],
  groups: [
    {
      key: 'kit',
      name: 'Kit',
      when: { all: [{ family: ['drums'] }, { row: ['track'] }, { not: { part: ['loop'] } }] },
    },
  ],
  cuts: { all: TIDY_DEFAULTS, families: {} },
  matching: MATCH_DEFAULTS,
  atImport: 'nothing',
  leadInBars: 2,
  click: { sound: 'tone', parts: 1 },
  takes: 'none',
};

/** How a track of a family is cut as long as nobody says otherwise. */
export const cutSettingsFor = ({ cuts }: Pick<HouseStyle, 'cuts'>, family: Family): TidySettings => ({
  ...cuts.all,
  ...cuts.families[family],
});
