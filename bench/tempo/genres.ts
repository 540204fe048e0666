/** How the tempo of a made session moves. */
export type Behaviour = 'steady' | 'drift' | 'live' | 'sections' | 'speeding';

/** A part of a band and how it plays; patterns count from the bar line. */
export interface MadePart {
  /** Name of its file, in the words of the trade. */
  readonly file: string;
  /** General MIDI program from 0. */
  readonly program: number;
  readonly plays: 'bass' | 'walk' | 'chords' | 'broken' | 'held' | 'line';
  /** Bar patterns, one chosen a section; see {@link Genre.kit}. Not for lines and held chords. */
  readonly patterns: readonly string[];
}

/**
 * A kind of song. Patterns are strings over one bar, split evenly by their length: `X` accent, `x` played, `o` soft, `.` rest;
 * of alternatives one is taken a bar. Written for this bench; none is taken from a recording.
 */
export interface Genre {
  readonly name: string;
  readonly meter: readonly [number, number];
  /** Quarters of each felt pulse of a bar. */
  readonly pulses: readonly number[];
  /** Pulses a minute; of uneven meters quarters a minute. */
  readonly bpm: number;
  readonly behaviour: Behaviour;
  /** Length of a swung pair in quarters and share of its first note. */
  readonly swing?: { readonly pair: number; readonly share: number };
  /** Pieces of the kit by section; `verse` stands for those not named, an empty one rests. */
  readonly kit: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>>;
  readonly parts: readonly MadePart[];
  /** Sections and their bars. */
  readonly form: readonly (readonly [string, number])[];
  /** Bars of another meter: at the end of which section (each time), and what. */
  readonly oddBars?: {
    readonly section: string;
    readonly meter: readonly [number, number];
    readonly pulses: readonly number[];
  };
  /** Sections in another meter. */
  readonly otherMeter?: {
    readonly section: string;
    readonly meter: readonly [number, number];
    readonly pulses: readonly number[];
  };
  readonly mics: 'close' | 'pair' | 'one' | 'machine';
  /** Spread of the drummer's hits, ms. */
  readonly spreadMs: number;
  readonly click?: boolean;
  readonly pickup?: boolean;
  readonly slowsAtEnd?: boolean;
  /** The last quarter of this section is held three times as long. */
  readonly heldAfter?: string;
  /** Bars at the start played freely. */
  readonly freeBars?: number;
  readonly countIn?: number;
}

const FOUR = [1, 1, 1, 1] as const;
const SONG = [
  ['intro', 4],
  ['verse', 8],
  ['chorus', 8],
  ['verse', 8],
  ['break', 4],
  ['chorus', 8],
  ['end', 1],
] as const;

/** Other genres and behaviours than the shared sessions have. */
export const GENRES: readonly Genre[] = [
  {
    name: 'one-drop',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 76,
    behaviour: 'steady',
    mics: 'close',
    spreadMs: 7,
    countIn: 4,
    form: SONG,
    swing: { pair: 0.5, share: 0.56 },
    kit: {
      verse: { kick: ['....X...'], rim: ['....X...'], hat: ['x.xox.xo', 'xoxoxoxo'] },
      chorus: { kick: ['X...X...'], snare: ['....X...'], hat: ['xoxoxoxo'] },
      break: { rim: ['....x..x'] },
      end: { kick: ['X.......'], crash: ['X.......'] },
    },
    parts: [
      { file: 'Bass DI', program: 33, plays: 'bass', patterns: ['X..xx.x.', '..xxX...', 'X.x.x..x'] },
      { file: 'Gtr skank', program: 27, plays: 'chords', patterns: ['..x...x.', '.x.x.x.x'] },
      { file: 'Organ', program: 16, plays: 'chords', patterns: ['.x.x.x.x'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'shuffle',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 118,
    behaviour: 'live',
    mics: 'pair',
    spreadMs: 9,
    form: [
      ['intro', 4],
      ['verse', 12],
      ['verse', 12],
      ['chorus', 12],
      ['verse', 12],
      ['end', 1],
    ],
    swing: { pair: 1, share: 0.66 },
    slowsAtEnd: true,
    kit: {
      verse: {
        kick: ['X...X...', 'X..xX...'],
        snare: ['..X...X.', '..X..oX.'],
        ride: ['x.xxx.xx', 'xxxxxxxx'],
      },
      end: { kick: ['X.......'], crash: ['X.......'] },
    },
    parts: [
      { file: 'Upright Bass', program: 32, plays: 'walk', patterns: ['x.x.x.x.'] },
      { file: 'El Gtr', program: 27, plays: 'chords', patterns: ['x.xxx.xx', '..x...x.'] },
      { file: 'Harmonica', program: 22, plays: 'line', patterns: [] },
      { file: 'Piano', program: 0, plays: 'chords', patterns: ['x..x..x.', 'xxxxxxxx'] },
    ],
  },
  {
    name: 'fast-eighths',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 186,
    behaviour: 'drift',
    mics: 'close',
    spreadMs: 8,
    countIn: 4,
    form: [
      ['intro', 8],
      ['verse', 16],
      ['chorus', 16],
      ['verse', 16],
      ['break', 4],
      ['chorus', 16],
      ['end', 1],
    ],
    kit: {
      verse: { kick: ['X...X...', 'X..xX...'], snare: ['..X...X.'], hat: ['x.x.x.x.'] },
      chorus: { kick: ['X..xX.x.'], snare: ['..X...X.'], ride: ['x.x.x.x.'] },
      intro: { tom: ['x.x.x.x.'], kick: ['X.......'] },
      break: {},
      end: { kick: ['X.......'], crash: ['X.......'] },
    },
    parts: [
      { file: 'Bass', program: 34, plays: 'bass', patterns: ['xxxxxxxx'] },
      { file: 'Gtr L', program: 30, plays: 'chords', patterns: ['xxxxxxxx', 'X..x..x.'] },
      { file: 'Gtr R', program: 29, plays: 'chords', patterns: ['xxxxxxxx', 'X...x...'] },
      { file: 'Lead Vox', program: 54, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'low-sway',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 132,
    behaviour: 'drift',
    mics: 'pair',
    spreadMs: 8,
    form: SONG,
    kit: {
      verse: { rim: ['X..X..X.', '..X.X...', 'X..X....'], kick: ['X..xX..x'], hat: ['xxxxxxxx'] },
      end: { kick: ['X.......'] },
    },
    parts: [
      { file: 'Bass', program: 32, plays: 'bass', patterns: ['X..xX..x', 'X...x...'] },
      { file: 'Nylon Gtr', program: 24, plays: 'chords', patterns: ['X..x..x.', 'x.x..x.x'] },
      { file: 'Shaker', program: -82, plays: 'broken', patterns: ['XoxoXoxo'] },
      { file: 'Flute', program: 73, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'sixteenths',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 103,
    behaviour: 'steady',
    mics: 'close',
    spreadMs: 6,
    countIn: 4,
    form: SONG,
    kit: {
      verse: {
        kick: ['X.....x...x..x..', 'X..x......x.x...', 'X.....x..xx.....'],
        snare: ['....X..o.o..X..o', '....X....o.oX...'],
        hat: ['xoxoxoxoxoxoxoxo', 'x.xxx.xxx.xxx.xx'],
      },
      break: { hat: ['x...x...x...x...'] },
      end: { kick: ['X...'], crash: ['X...'] },
    },
    parts: [
      { file: 'Bass DI', program: 36, plays: 'bass', patterns: ['X..x..x...x..xx.', 'X.....xx..x.....'] },
      { file: 'Clav', program: 7, plays: 'chords', patterns: ['.x.xx..x.x.x.xx.', 'x..x..x...x..x..'] },
      { file: 'Horns', program: 61, plays: 'chords', patterns: ['......x.........', '..x.......x.x...'] },
      { file: 'Congas', program: -63, plays: 'broken', patterns: ['x.oox.oxx.oox.xx'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'in-five',
    meter: [5, 4],
    pulses: [1, 1, 1, 1, 1],
    bpm: 124,
    behaviour: 'drift',
    mics: 'close',
    spreadMs: 7,
    countIn: 5,
    form: SONG,
    kit: {
      verse: {
        kick: ['X..x..X...', 'X.....X...'],
        snare: ['....X...X.', '..X.....X.'],
        ride: ['xxxxxxxxxx', 'x.x.x.x.x.'],
      },
      break: { hat: ['x.x.x.x.x.'] },
      end: { kick: ['X.........'], crash: ['X.........'] },
    },
    parts: [
      { file: 'Bass', program: 33, plays: 'bass', patterns: ['X..x..X.x.', 'X.....X...'] },
      { file: 'Piano', program: 0, plays: 'chords', patterns: ['X..x..X.X.', 'x..x..x...'] },
      { file: 'Sax', program: 66, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'in-seven',
    meter: [7, 8],
    pulses: [1, 1, 1.5],
    bpm: 142,
    behaviour: 'steady',
    mics: 'close',
    spreadMs: 7,
    form: [
      ['intro', 4],
      ['verse', 12],
      ['chorus', 12],
      ['verse', 12],
      ['break', 4],
      ['chorus', 12],
      ['end', 1],
    ],
    kit: {
      verse: { kick: ['X...x..', 'X......'], snare: ['..X...X', '....X..'], hat: ['xoxoxoo'] },
      break: { hat: ['x.x.x..'] },
      end: { kick: ['X......'], crash: ['X......'] },
    },
    parts: [
      { file: 'Bass', program: 33, plays: 'bass', patterns: ['X.x.x..', 'X...x..'] },
      { file: 'Gtr', program: 27, plays: 'broken', patterns: ['xxxxxxx'] },
      { file: 'Synth', program: 81, plays: 'line', patterns: [] },
      { file: 'Pad', program: 89, plays: 'held', patterns: [] },
    ],
  },
  {
    name: 'slow-twelve',
    meter: [12, 8],
    pulses: [1.5, 1.5, 1.5, 1.5],
    bpm: 62,
    behaviour: 'live',
    mics: 'close',
    spreadMs: 10,
    slowsAtEnd: true,
    form: [
      ['intro', 2],
      ['verse', 8],
      ['chorus', 8],
      ['verse', 8],
      ['chorus', 8],
      ['end', 1],
    ],
    kit: {
      verse: { kick: ['X.....X..x..', 'X....xX.....'], snare: ['...X.....X..'], hat: ['xooxooxooxoo'] },
      end: { kick: ['X...'], crash: ['X...'] },
    },
    parts: [
      { file: 'Bass', program: 33, plays: 'bass', patterns: ['X..x..X..x.x', 'X.....X.....'] },
      { file: 'Piano', program: 0, plays: 'chords', patterns: ['xxxxxxxxxxxx', 'x..x..x..x..'] },
      { file: 'Organ', program: 17, plays: 'held', patterns: [] },
      { file: 'Choir', program: 52, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'slip',
    meter: [9, 8],
    pulses: [1.5, 1.5, 1.5],
    bpm: 112,
    behaviour: 'live',
    mics: 'one',
    spreadMs: 12,
    form: [
      ['intro', 4],
      ['verse', 16],
      ['chorus', 16],
      ['verse', 16],
      ['chorus', 16],
      ['end', 1],
    ],
    kit: { verse: {} },
    parts: [
      { file: 'Frame drum', program: -61, plays: 'broken', patterns: ['XoxXoxXox', 'X.xX.xX.x'] },
      { file: 'Accordion', program: 21, plays: 'broken', patterns: ['XxxXxxXxx', 'X.xX.xX..'] },
      { file: 'Acoustic Gtr', program: 25, plays: 'chords', patterns: ['X.xX.xX.x', 'X..x..x..'] },
      { file: 'Fiddle', program: 40, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'keys-and-voice',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 72,
    behaviour: 'live',
    mics: 'one',
    spreadMs: 12,
    freeBars: 4,
    slowsAtEnd: true,
    form: [
      ['intro', 4],
      ['verse', 8],
      ['chorus', 8],
      ['verse', 8],
      ['end', 1],
    ],
    kit: { verse: {} },
    parts: [
      { file: 'Piano', program: 0, plays: 'broken', patterns: ['XxxxXxxx', 'XxxxxxxxXxxxxxxx'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
      { file: 'Strings', program: 48, plays: 'held', patterns: [] },
    ],
  },
  {
    name: 'double-kick',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 172,
    behaviour: 'steady',
    mics: 'close',
    spreadMs: 5,
    click: true,
    countIn: 4,
    form: [
      ['intro', 4],
      ['verse', 16],
      ['chorus', 16],
      ['bridge', 16],
      ['chorus', 16],
      ['end', 1],
    ],
    kit: {
      verse: {
        kick: ['XxxxXxxxXxxxXxxx', 'Xx.xXx.xXx.xXx.x'],
        snare: ['....X.......X...'],
        ride: ['x.x.x.x.'],
      },
      bridge: { kick: ['X.....x...x.....'], snare: ['........X.......'], crash: ['x...x...'] },
      end: { kick: ['X...'], crash: ['X...'] },
    },
    parts: [
      { file: 'Bass', program: 34, plays: 'bass', patterns: ['XxxxXxxxXxxxXxxx', 'X...x...'] },
      { file: 'Gtr L', program: 30, plays: 'chords', patterns: ['X.xxX.xxX.xxX.xx', 'X.......'] },
      { file: 'Gtr R', program: 30, plays: 'chords', patterns: ['X.xxX.xxX.xxX.xx', 'X.......'] },
    ],
  },
  {
    name: 'train',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 108,
    behaviour: 'sections',
    mics: 'pair',
    spreadMs: 9,
    pickup: true,
    slowsAtEnd: true,
    form: SONG,
    kit: {
      verse: { kick: ['X...X...'], snare: ['ooXoooXo', 'oooXooXo'] },
      chorus: { kick: ['X...X...'], snare: ['ooooXoooooooXooo'], tambourine: ['..x...x.'] },
      break: {},
      end: { kick: ['X...'] },
    },
    parts: [
      { file: 'Upright Bass', program: 32, plays: 'bass', patterns: ['X...x...'] },
      { file: 'Acoustic Gtr', program: 25, plays: 'chords', patterns: ['X.xxX.xx', 'x.xxx.xx'] },
      { file: 'Banjo', program: 105, plays: 'broken', patterns: ['xxxxxxxx', 'XxxXxxXx'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'off-beat-bass',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 126,
    behaviour: 'steady',
    mics: 'machine',
    spreadMs: 0.5,
    form: [
      ['intro', 8],
      ['verse', 16],
      ['break', 8],
      ['chorus', 16],
      ['break', 4],
      ['chorus', 16],
      ['end', 1],
    ],
    kit: {
      intro: { hat: ['..x...x...x...x.'] },
      verse: { kick: ['X...X...X...X...'], clap: ['....X.......X...'], hat: ['..x...x...x...x.'] },
      chorus: { kick: ['X...X...X...X...'], clap: ['....X.......X...'], hat: ['o.x.o.x.o.x.o.xo'] },
      break: {},
      end: { kick: ['X...'] },
    },
    parts: [
      { file: 'Bass synth', program: 38, plays: 'bass', patterns: ['..xx..xx..xx..xx', '.x.x.x.x'] },
      { file: 'Keys', program: 4, plays: 'chords', patterns: ['..x..x....x..x..', 'x..x..x...'] },
      { file: 'Pad', program: 90, plays: 'held', patterns: [] },
      { file: 'Synth', program: 81, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'bowed-waltz',
    meter: [3, 4],
    pulses: [1, 1, 1],
    bpm: 138,
    behaviour: 'live',
    mics: 'one',
    spreadMs: 12,
    slowsAtEnd: true,
    form: [
      ['intro', 8],
      ['verse', 16],
      ['chorus', 16],
      ['verse', 16],
      ['chorus', 16],
      ['end', 1],
    ],
    kit: { verse: {} },
    parts: [
      { file: 'Cello', program: 42, plays: 'bass', patterns: ['X..'] },
      { file: 'Viola', program: 41, plays: 'chords', patterns: ['.xx'] },
      { file: 'Violin', program: 40, plays: 'line', patterns: [] },
      { file: 'Piano', program: 0, plays: 'chords', patterns: ['Xxx', '.xx'] },
    ],
  },
  {
    name: 'ride-and-walk',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 152,
    behaviour: 'live',
    mics: 'pair',
    spreadMs: 9,
    form: [
      ['verse', 16],
      ['chorus', 16],
      ['verse', 16],
      ['chorus', 16],
      ['end', 1],
    ],
    swing: { pair: 1, share: 0.63 },
    kit: {
      verse: {
        ride: ['X.xxX.xx', 'X.x.X.xx'],
        hat: ['..x...x.'],
        snare: ['.......o', '...o....', '.....o..'],
        kick: ['o.......', '........'],
      },
      end: { crash: ['X...'] },
    },
    parts: [
      { file: 'Double Bass', program: 32, plays: 'walk', patterns: ['xxxx'] },
      { file: 'Piano', program: 0, plays: 'chords', patterns: ['x..x....', '...x..x.', '.x...x..'] },
      { file: 'Trumpet', program: 56, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'two-four-bars',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 96,
    behaviour: 'drift',
    mics: 'close',
    spreadMs: 7,
    countIn: 4,
    form: [
      ['intro', 4],
      ['verse', 7],
      ['chorus', 8],
      ['verse', 7],
      ['chorus', 8],
      ['bridge', 12],
      ['chorus', 8],
      ['end', 1],
    ],
    oddBars: { section: 'verse', meter: [2, 4], pulses: [1, 1] },
    otherMeter: { section: 'bridge', meter: [3, 4], pulses: [1, 1, 1] },
    kit: {
      verse: { kick: ['X...X...', 'X..xX...'], snare: ['..X...X.'], hat: ['xxxxxxxx'] },
      bridge: { kick: ['X.....'], snare: ['....X.', '..x.x.'], ride: ['x.x.x.'] },
      end: { kick: ['X...'], crash: ['X...'] },
    },
    parts: [
      { file: 'Bass', program: 33, plays: 'bass', patterns: ['X..xX...', 'X...x...'] },
      { file: 'Piano', program: 0, plays: 'chords', patterns: ['X.x.x.x.', 'X...x...'] },
      { file: 'Gtr', program: 27, plays: 'chords', patterns: ['..x...x.'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'swung-sixteenths',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 87.5,
    behaviour: 'steady',
    mics: 'machine',
    spreadMs: 1,
    form: [
      ['intro', 4],
      ['verse', 12],
      ['chorus', 8],
      ['verse', 12],
      ['break', 4],
      ['chorus', 8],
      ['end', 1],
    ],
    swing: { pair: 0.5, share: 0.58 },
    kit: {
      verse: {
        kick: ['X.....x...x.....', 'X..x......x.....'],
        snare: ['....X.......X...'],
        hat: ['x.x.x.x.x.x.x.xx', 'x.xxx.x.x.x.x.xx'],
      },
      break: { hat: ['x...x...x...x...'] },
      end: { kick: ['X...'] },
    },
    parts: [
      { file: 'Bass synth', program: 38, plays: 'bass', patterns: ['X.....x...x.....'] },
      { file: 'Keys', program: 4, plays: 'chords', patterns: ['X.......', 'x.....x...'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'march-six',
    meter: [6, 8],
    pulses: [1.5, 1.5],
    bpm: 104,
    behaviour: 'drift',
    mics: 'close',
    spreadMs: 8,
    countIn: 2,
    form: [
      ['intro', 4],
      ['verse', 16],
      ['chorus', 16],
      ['verse', 16],
      ['break', 4],
      ['chorus', 16],
      ['end', 1],
    ],
    kit: {
      verse: { kick: ['X.....', 'X....x'], snare: ['...X..', '..oX.o'], hat: ['xoxxox', 'x.xx.x'] },
      break: {},
      end: { kick: ['X.....'], crash: ['X.....'] },
    },
    parts: [
      { file: 'Bass', program: 33, plays: 'bass', patterns: ['X..x..', 'X.xx..'] },
      { file: 'Acoustic Gtr', program: 25, plays: 'chords', patterns: ['X.xX.x', 'xxxxxx'] },
      { file: 'Mandolin', program: 25, plays: 'broken', patterns: ['xxxxxx'] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
  {
    name: 'one-guitar',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 92,
    behaviour: 'live',
    mics: 'one',
    spreadMs: 10,
    form: [
      ['intro', 4],
      ['verse', 8],
      ['chorus', 8],
      ['verse', 8],
      ['chorus', 8],
      ['end', 1],
    ],
    kit: { verse: {} },
    parts: [{ file: 'Acoustic Gtr', program: 25, plays: 'chords', patterns: ['X.xx.xxx', 'X.x.xxx.'] }],
  },
  {
    name: 'speeding',
    meter: [4, 4],
    pulses: FOUR,
    bpm: 88,
    behaviour: 'speeding',
    mics: 'close',
    spreadMs: 8,
    countIn: 4,
    form: SONG,
    kit: {
      verse: { kick: ['X..xX...', 'X...X...'], snare: ['..X...X.'], hat: ['xxxxxxxx'] },
      chorus: { kick: ['X..xX...'], snare: ['..X...X.'], ride: ['x.x.x.x.'] },
      break: {},
      end: { kick: ['X...'], crash: ['X...'] },
    },
    parts: [
      { file: 'Bass', program: 33, plays: 'bass', patterns: ['xxxxxxxx', 'X..xX...'] },
      { file: 'Gtr L', program: 29, plays: 'chords', patterns: ['X..x..x.'] },
      { file: 'Organ', program: 16, plays: 'held', patterns: [] },
      { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] },
    ],
  },
];
