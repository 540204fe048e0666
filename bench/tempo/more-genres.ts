import type { Genre } from './genres';

const FOUR = [1, 1, 1, 1] as const;
const SONG = [['intro', 4], ['verse', 8], ['chorus', 8], ['verse', 8], ['break', 4], ['chorus', 8], ['end', 1]] as const;

/** Written when the detection was done with the first list, to see how it does on what it was not made with. */
export const MORE_GENRES: readonly Genre[] = [
  {
    name: 'two-in-a-bar', meter: [2, 4], pulses: [1, 1], bpm: 116, behaviour: 'drift', mics: 'pair', spreadMs: 9, form: [['intro', 4], ['verse', 16], ['chorus', 16], ['verse', 16], ['chorus', 16], ['end', 1]],
    kit: { verse: { kick: ['X...', 'X..o'], snare: ['..X.', '..Xo'], hat: ['.x.x'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Tuba', program: 58, plays: 'bass', patterns: ['X.x.'] }, { file: 'Accordion', program: 21, plays: 'chords', patterns: ['.x.x'] }, { file: 'Clarinet', program: 71, plays: 'line', patterns: [] }],
  },
  {
    name: 'seven-and-four', meter: [7, 8], pulses: [1, 1, 1.5], bpm: 150, behaviour: 'drift', mics: 'close', spreadMs: 7, form: [['intro', 4], ['verse', 7], ['chorus', 8], ['verse', 7], ['chorus', 8], ['verse', 7], ['chorus', 8], ['end', 1]], oddBars: { section: 'verse', meter: [4, 4], pulses: FOUR },
    kit: { verse: { kick: ['X...x..', 'X.....x'], snare: ['..X...X', '....X..'], hat: ['xoxoxoo'] }, end: { kick: ['X......'], crash: ['X......'] } },
    parts: [{ file: 'Bass', program: 34, plays: 'bass', patterns: ['X.x.x..', 'X...x..'] }, { file: 'Gtr L', program: 29, plays: 'chords', patterns: ['X.x.x.x', 'X.x.x..'] }, { file: 'Organ', program: 17, plays: 'held', patterns: [] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'five-eighths', meter: [5, 8], pulses: [1.5, 1], bpm: 158, behaviour: 'steady', mics: 'close', spreadMs: 7, form: [['intro', 4], ['verse', 16], ['chorus', 16], ['verse', 16], ['chorus', 16], ['end', 1]],
    kit: { verse: { kick: ['X....', 'X.x..'], snare: ['...X.', '...Xo'], hat: ['xooxo'] }, chorus: { kick: ['X..x.'], snare: ['...X.'], ride: ['x.xx.'] }, end: { kick: ['X....'], crash: ['X....'] } },
    parts: [{ file: 'Bass DI', program: 33, plays: 'bass', patterns: ['X..x.', 'X.xx.'] }, { file: 'Piano', program: 0, plays: 'chords', patterns: ['X..x.', 'X....'] }, { file: 'Flute', program: 73, plays: 'line', patterns: [] }],
  },
  {
    name: 'half-time-chorus', meter: [4, 4], pulses: FOUR, bpm: 138, behaviour: 'steady', mics: 'close', spreadMs: 7, countIn: 4, form: SONG,
    kit: { verse: { kick: ['X..xX...', 'X...X.x.'], snare: ['..X...X.'], hat: ['xxxxxxxx'] }, chorus: { kick: ['X.....xx', 'X..x....'], snare: ['....X...'], crash: ['x.x.x.x.'] }, break: { hat: ['x.x.x.x.'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 34, plays: 'bass', patterns: ['xxxxxxxx', 'X..xX..x'] }, { file: 'Gtr L', program: 30, plays: 'chords', patterns: ['X..x..x.', 'xxxxxxxx'] }, { file: 'Gtr R', program: 29, plays: 'chords', patterns: ['X..x..x.', 'X...x...'] }, { file: 'Lead Vox', program: 54, plays: 'line', patterns: [] }],
  },
  {
    name: 'octaves', meter: [4, 4], pulses: FOUR, bpm: 119, behaviour: 'drift', mics: 'close', spreadMs: 6, form: [['intro', 8], ['verse', 16], ['chorus', 16], ['break', 8], ['chorus', 16], ['end', 1]],
    kit: { verse: { kick: ['X...X...X...X...'], snare: ['....X.......X...', '....X.......X..o'], hat: ['xoXoxoXoxoXoxoXo', '..X...X...X...X.'] }, break: { kick: ['X...X...X...X...'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 37, plays: 'bass', patterns: ['x.Xxx.Xxx.Xxx.Xx', 'xXxXxXxX'] }, { file: 'Gtr wah', program: 28, plays: 'chords', patterns: ['..xx..x...xx..x.', 'xxxxxxxxxxxxxxxx'] }, { file: 'Strings', program: 48, plays: 'line', patterns: [] }, { file: 'Piano', program: 1, plays: 'chords', patterns: ['X..x..x.', 'X...x...'] }],
  },
  {
    name: 'low-drum-on-two', meter: [4, 4], pulses: FOUR, bpm: 98, behaviour: 'live', mics: 'one', spreadMs: 9, form: [['verse', 12], ['chorus', 12], ['verse', 12], ['chorus', 12], ['end', 1]],
    kit: { verse: {} },
    parts: [{ file: 'Low drum', program: -41, plays: 'broken', patterns: ['o...X...o...X...'] }, { file: 'Tambourine', program: -54, plays: 'broken', patterns: ['XoxXxoxXXoxXxoxX', 'XooxXooxXooxXoox'] }, { file: 'Small guitar', program: 24, plays: 'chords', patterns: ['x.xx.xx.x.x.xx.x', 'x..x..x.x..x.x..'] }, { file: 'Nylon Gtr', program: 24, plays: 'bass', patterns: ['X...x...X...x...', 'X..xx...X..xx...'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'slow-six', meter: [6, 8], pulses: [1.5, 1.5], bpm: 48, behaviour: 'live', mics: 'close', spreadMs: 10, slowsAtEnd: true, form: [['intro', 4], ['verse', 8], ['chorus', 8], ['verse', 8], ['chorus', 8], ['end', 1]],
    kit: { verse: { kick: ['X.....', 'X....x', 'X.x...'], snare: ['...X..'], hat: ['xxxxxx', 'xoxxox'] }, end: { kick: ['X.....'], crash: ['X.....'] } },
    parts: [{ file: 'Bass', program: 33, plays: 'bass', patterns: ['X..x..', 'X....x'] }, { file: 'Piano', program: 0, plays: 'broken', patterns: ['xxxxxx', 'xxxxxxxxxxxx'] }, { file: 'Organ', program: 16, plays: 'held', patterns: [] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'claps-and-choir', meter: [4, 4], pulses: FOUR, bpm: 100, behaviour: 'drift', mics: 'one', spreadMs: 12, form: [['intro', 4], ['verse', 8], ['chorus', 8], ['verse', 8], ['chorus', 8], ['end', 1]],
    kit: { verse: { clap: ['.X.X'] }, intro: {}, chorus: { clap: ['.X.X', '..X..XX.'] } },
    parts: [{ file: 'Choir Bass', program: 52, plays: 'bass', patterns: ['X.x.X.x.', 'X..xX..x'] }, { file: 'Choir Alto', program: 52, plays: 'chords', patterns: ['X...x...', 'x..x..x.'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'chop', meter: [4, 4], pulses: FOUR, bpm: 132, behaviour: 'live', mics: 'one', spreadMs: 8, form: [['intro', 4], ['verse', 16], ['chorus', 16], ['verse', 16], ['chorus', 16], ['end', 1]],
    kit: { verse: {} },
    parts: [{ file: 'Double Bass', program: 32, plays: 'bass', patterns: ['X...x...'] }, { file: 'Mandolin', program: 25, plays: 'chords', patterns: ['..X...X.', '..X..xX.'] }, { file: 'Acoustic Gtr', program: 25, plays: 'chords', patterns: ['X.xxX.xx'] }, { file: 'Banjo', program: 105, plays: 'broken', patterns: ['XxxxXxxxXxxxXxxx'] }, { file: 'Fiddle', program: 40, plays: 'line', patterns: [] }],
  },
  {
    name: 'late-band', meter: [4, 4], pulses: FOUR, bpm: 124, behaviour: 'drift', mics: 'close', spreadMs: 8, freeBars: 8, form: [['intro', 8], ['verse', 12], ['chorus', 12], ['verse', 12], ['chorus', 12], ['end', 1]],
    kit: { intro: {}, verse: { kick: ['X...X.x.', 'X..xX...'], snare: ['..X...X.'], hat: ['xxxxxxxx'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Piano', program: 0, plays: 'broken', patterns: ['XxxxXxxx', 'X.xxX.xx'] }, { file: 'Bass', program: 33, plays: 'bass', patterns: ['X..xX...', 'xxxxxxxx'] }, { file: 'Gtr', program: 29, plays: 'chords', patterns: ['X...x...', 'X..x..x.'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'held-middle', meter: [4, 4], pulses: FOUR, bpm: 84, behaviour: 'drift', mics: 'close', spreadMs: 8, countIn: 4, form: [['intro', 4], ['verse', 8], ['chorus', 8], ['bridge', 4], ['verse', 8], ['chorus', 8], ['end', 1]], heldAfter: 'bridge',
    kit: { verse: { kick: ['X...X...', 'X..xX...'], snare: ['..X...X.'], hat: ['xxxxxxxx'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 33, plays: 'bass', patterns: ['X..xX...', 'X...x.x.'] }, { file: 'Piano', program: 0, plays: 'chords', patterns: ['X.x.x.x.', 'X...x...'] }, { file: 'Acoustic Gtr', program: 25, plays: 'chords', patterns: ['X.xx.xxx', 'x.x.x.x.'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'broken-drums', meter: [4, 4], pulses: FOUR, bpm: 174, behaviour: 'steady', mics: 'machine', spreadMs: 0.5, form: [['intro', 8], ['verse', 16], ['chorus', 32], ['break', 8], ['chorus', 16], ['end', 1]],
    kit: { intro: { hat: ['x.x.x.x.x.x.x.x.'] }, verse: { kick: ['X.........X.....', 'X.........x.....'], snare: ['....X..o.o..X...', '....X.......X..o'], hat: ['x.x.x.x.x.x.x.x.'] }, break: {}, end: { kick: ['X...'] } },
    parts: [{ file: 'Sub bass', program: 38, plays: 'bass', patterns: ['X.........x.....', 'X.......'] }, { file: 'Pad', program: 89, plays: 'held', patterns: [] }, { file: 'Keys', program: 4, plays: 'chords', patterns: ['..x..x....x.....', 'X.....x.........'] }],
  },
  {
    name: 'marked-four', meter: [4, 4], pulses: FOUR, bpm: 122, behaviour: 'live', mics: 'one', spreadMs: 11, slowsAtEnd: true, form: [['intro', 4], ['verse', 16], ['chorus', 16], ['verse', 16], ['end', 1]],
    kit: { verse: {} },
    parts: [{ file: 'Double Bass', program: 32, plays: 'bass', patterns: ['X.x.X.x.', 'X..xX.x.'] }, { file: 'Piano', program: 0, plays: 'chords', patterns: ['X.x.X.x.', 'X..xx.x.'] }, { file: 'Accordion', program: 21, plays: 'chords', patterns: ['X.x.x.x.', 'X..xX...'] }, { file: 'Violin', program: 40, plays: 'line', patterns: [] }],
  },
  {
    name: 'three-three-two', meter: [4, 4], pulses: FOUR, bpm: 94, behaviour: 'steady', mics: 'machine', spreadMs: 0.5, form: [['intro', 4], ['verse', 16], ['chorus', 16], ['verse', 8], ['chorus', 16], ['end', 1]],
    kit: { intro: { hat: ['x.x.x.x.'] }, verse: { kick: ['X...X...X...X...'], snare: ['...X..X....X..X.'], hat: ['x.x.x.x.x.x.x.x.'] }, end: { kick: ['X...'] } },
    parts: [{ file: 'Bass synth', program: 38, plays: 'bass', patterns: ['X..x..x.X..x..x.', 'X.....x.x.....x.'] }, { file: 'Pluck', program: 45, plays: 'broken', patterns: ['x..x..x.x..x..x.'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'swung-three', meter: [3, 4], pulses: [1, 1, 1], bpm: 144, behaviour: 'live', mics: 'pair', spreadMs: 10, form: [['verse', 16], ['chorus', 16], ['verse', 16], ['chorus', 16], ['end', 1]], swing: { pair: 1, share: 0.64 },
    kit: { verse: { ride: ['X.xxx.', 'X.x.xx'], hat: ['..x...', '..x.x.'], snare: ['...o..', '.....o', '......'], kick: ['o.....', '......'] }, end: { crash: ['X..'] } },
    parts: [{ file: 'Double Bass', program: 32, plays: 'walk', patterns: ['xxx', 'X..'] }, { file: 'Piano', program: 0, plays: 'chords', patterns: ['x..x..', '...x..', 'x.....'] }, { file: 'Sax', program: 65, plays: 'line', patterns: [] }],
  },
  {
    name: 'gallop', meter: [4, 4], pulses: FOUR, bpm: 196, behaviour: 'drift', mics: 'close', spreadMs: 7, countIn: 4, form: [['intro', 8], ['verse', 16], ['chorus', 16], ['verse', 16], ['break', 4], ['chorus', 16], ['end', 1]],
    kit: { verse: { kick: ['X..xX..x', 'X..x.xX.'], snare: ['..X...X.'], crash: ['x.x.x.x.'] }, break: { tom: ['xxxxxxxx'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 34, plays: 'bass', patterns: ['xxxxxxxx'] }, { file: 'Gtr L', program: 30, plays: 'chords', patterns: ['xxxxxxxx', 'X.xXxxX.'] }, { file: 'Gtr R', program: 30, plays: 'chords', patterns: ['xxxxxxxx'] }, { file: 'Lead Vox', program: 54, plays: 'line', patterns: [] }],
  },
  {
    name: 'quiet-slow', meter: [4, 4], pulses: FOUR, bpm: 66, behaviour: 'steady', mics: 'close', spreadMs: 10, countIn: 4, form: [['intro', 2], ['verse', 8], ['chorus', 8], ['verse', 8], ['chorus', 8], ['end', 1]],
    kit: { intro: {}, verse: { kick: ['X.......', 'X....x..'], rim: ['..x...x.'], hat: ['oooooooo'] }, chorus: { kick: ['X..x.x..', 'X....x..'], snare: ['..X...X.'], ride: ['xxxxxxxx'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 35, plays: 'bass', patterns: ['X......x', 'X...x...'] }, { file: 'Piano', program: 0, plays: 'chords', patterns: ['X...x...', 'X.x.x.x.'] }, { file: 'Pad', program: 89, plays: 'held', patterns: [] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'threes-over-four', meter: [4, 4], pulses: FOUR, bpm: 110, behaviour: 'drift', mics: 'close', spreadMs: 6, form: SONG,
    kit: { verse: { kick: ['X..x..x..x..x..x', 'X..x..x..x..x.x.'], snare: ['....X.......X...', '........X.......'], hat: ['x...x...x...x...'] }, chorus: { kick: ['X.....x...x.....'], snare: ['....X.......X...'], ride: ['x.x.x.x.x.x.x.x.'] }, break: { hat: ['x...x...x...x...'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 34, plays: 'bass', patterns: ['X..x..x..x..x..x', 'X.....x...x.....'] }, { file: 'Gtr L', program: 30, plays: 'chords', patterns: ['X..x..x..x..x..x'] }, { file: 'Gtr R', program: 30, plays: 'chords', patterns: ['X..x..x..x..x..x', 'X.......'] }, { file: 'Synth', program: 81, plays: 'line', patterns: [] }],
  },
  {
    name: 'striding', meter: [4, 4], pulses: FOUR, bpm: 168, behaviour: 'live', mics: 'one', spreadMs: 10, form: [['intro', 4], ['verse', 16], ['chorus', 16], ['verse', 16], ['end', 1]], swing: { pair: 1, share: 0.6 },
    kit: { verse: {} },
    parts: [{ file: 'Piano low', program: 0, plays: 'bass', patterns: ['X...X...'] }, { file: 'Piano high', program: 0, plays: 'chords', patterns: ['..x...x.'] }, { file: 'Clarinet', program: 71, plays: 'line', patterns: [] }],
  },
  {
    name: 'three-in-four', meter: [4, 4], pulses: FOUR, bpm: 128, behaviour: 'steady', mics: 'close', spreadMs: 6, click: true, countIn: 4, form: [['intro', 4], ['verse', 8], ['chorus', 7], ['verse', 8], ['chorus', 7], ['bridge', 8], ['chorus', 7], ['end', 1]], oddBars: { section: 'chorus', meter: [3, 4], pulses: [1, 1, 1] },
    kit: { verse: { kick: ['X..xX...', 'X...X.x.'], snare: ['..X...X.'], hat: ['xxxxxxxx'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass DI', program: 33, plays: 'bass', patterns: ['xxxxxxxx', 'X..xX..x'] }, { file: 'Gtr L', program: 29, plays: 'chords', patterns: ['X..x..x.', 'X...x...'] }, { file: 'Keys', program: 4, plays: 'chords', patterns: ['X...x...', 'x..x..x.'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
  {
    name: 'seven-in-four', meter: [4, 4], pulses: FOUR, bpm: 134, behaviour: 'drift', mics: 'close', spreadMs: 7, countIn: 4, form: [['intro', 4], ['verse', 7], ['chorus', 8], ['verse', 7], ['chorus', 8], ['verse', 7], ['end', 1]], oddBars: { section: 'verse', meter: [7, 8], pulses: [1, 1, 1.5] },
    kit: { verse: { kick: ['X..xX...', 'X...X.x.'], snare: ['..X...X.'], hat: ['xxxxxxxx'] }, end: { kick: ['X...'], crash: ['X...'] } },
    parts: [{ file: 'Bass', program: 33, plays: 'bass', patterns: ['xxxxxxxx', 'X..xX..x'] }, { file: 'Gtr L', program: 29, plays: 'chords', patterns: ['X..x..x.', 'X.x.x.x.'] }, { file: 'Keys', program: 4, plays: 'chords', patterns: ['X...x...', 'x..x..x.'] }, { file: 'Lead Vox', program: 53, plays: 'line', patterns: [] }],
  },
];
