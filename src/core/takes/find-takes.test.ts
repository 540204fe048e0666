import { sketchOf, SKETCH_BANDS, type SoundSketch } from '../analysis';
import { createRandom } from '../units';
import { findTakes, type TakeFile, type TakeSounds } from './find-takes';
import type { MixWindows } from './in-mix';
import type { PitchLine } from './pitch-line';
import type { WaveRelation } from './wave-relation';

const SECONDS = 12;

/** Notes that come and go, in some bands. */
function sketch(from = 0, to = SECONDS): SoundSketch {
  const random = createRandom(7);
  const powers = new Float64Array(SECONDS * 50 * SKETCH_BANDS);
  for (let n = 0; n < SECONDS * 50; n++) {
    const loud = n % 25 < 18 && n >= 50 * from && n < 50 * to ? 10 ** (-2 - random()) : 1e-9;
    for (let b = 6; b < 16; b++) powers[n * SKETCH_BANDS + b] = loud;
  }
  return sketchOf(powers);
}

const line = (by = 0): PitchLine =>
  Float32Array.from({ length: SECONDS * 100 }, (_, n) => 57 + by + (Math.floor(n / 50) % 5));

const NO_SOURCE = { role: null, position: null, side: null, number: null };
const file = (name: string, more: Partial<TakeFile> = {}): TakeFile => ({
  name,
  family: 'lead-vocal',
  part: 'vocal',
  isSilent: false,
  source: NO_SOURCE,
  startSeconds: 0,
  sketch: sketch(),
  ...more,
});

const APART: WaveRelation = { windows: 30, copied: 0, alike: 0, correlation: 0.4 };

const sounds = (more: Partial<TakeSounds> = {}): TakeSounds => ({
  line: () => Promise.resolve(line()),
  waves: () => Promise.resolve(APART),
  mix: () => Promise.resolve(null),
  hasMix: more.mix !== undefined,
  progress: () => undefined,
  ...more,
});

/** A mix in stretches of 3 s that has the files with these gains, and something else at 1. */
const mixOf = (...gains: number[][]): TakeSounds['mix'] => {
  const windows: MixWindows = { seconds: 3, gains: gains.map((g) => [...g, 1]) };
  return () => Promise.resolve(windows);
};

const TWO = [
  file('Vox 1.wav'),
  file('Vox 2.wav'),
  file('Bass.wav', { family: 'bass', part: 'electric-bass' }),
];

it('two of one line are asked about where nothing tells', async () => {
  expect(await findTakes(TWO, sounds())).toEqual({
    takes: [],
    together: [],
    questions: [{ files: [0, 1], question: { kind: 'same-line', because: 'no-mix' } }],
  });
});

it('a mix that has one of them tells which is wanted', async () => {
  const mix = mixOf([0.02, 0.9], [0.03, 1], [0.01, 0.9], [0.02, 1]);
  const { takes, questions } = await findTakes(TWO, sounds({ mix }));
  expect(questions).toEqual([]);
  expect(takes).toMatchObject([
    {
      lanes: [
        { file: 0, number: 1 },
        { file: 1, number: 2 },
      ],
      wanted: 1,
      reason: { kind: 'mix-one', wanted: 'Vox 2.wav' },
    },
  ]);
});

it('a mix that has now one, now the other was made of takes', async () => {
  const mix = mixOf([0.02, 0.9], [0.03, 1], [0.9, 0.02], [1, 0.02]);
  expect((await findTakes(TWO, sounds({ mix }))).takes).toMatchObject([
    { wanted: null, reason: { kind: 'mix-in-turn', files: ['Vox 1.wav', 'Vox 2.wav'] } },
  ]);
});

it('a mix that has both has a double, also a soft one', async () => {
  const mix = mixOf([1, 0.4], [1, 0.35], [0.9, 0.4], [1, 0.4]);
  const { takes, together } = await findTakes(TWO, sounds({ mix }));
  expect([takes, together.map((t) => t.reason.kind)]).toEqual([[], ['mix']]);
});

it.each([
  ['none of them', mixOf([0.03, 0.05], [0.02, 0.04], [0.05, 0.05], [0.04, 0.05]), 'mix-has-none'],
  ['too little in common', () => Promise.resolve(null), 'mix-unfit'],
  ['something between', mixOf([1, 0.2], [1, 0.22], [1, 0.2], [1, 0.21]), 'mix-unclear'],
])('a mix that has %s settles nothing', async (_, mix, because) => {
  expect((await findTakes(TWO, sounds({ mix }))).questions).toMatchObject([
    { question: { kind: 'same-line', because } },
  ]);
});

it.each([
  [4, 'harmony'],
  [12, 'octave'],
])('%s semitones apart they sound together', async (by, kind) => {
  const own = sounds({ line: (k) => Promise.resolve(line(k === 1 ? by : 0)) });
  const { takes, together, questions } = await findTakes(TWO, own);
  expect([takes, questions, together.map((t) => t.reason.kind)]).toEqual([[], [], [kind]]);
});

it('a comp is known by its samples, whatever it is called', async () => {
  const files = ['a', 'b', 'c', 'd'].map((x) => file(`REC ${x}.wav`, { isSilent: true }));
  const waves: TakeSounds['waves'] = (a, b) =>
    Promise.resolve(b === 3 && a < 2 ? { windows: 40, copied: 0.48, alike: 0.52, correlation: 0.96 } : APART);
  const { takes, questions } = await findTakes(files, sounds({ waves }));
  expect(questions).toEqual([]);
  expect(takes).toMatchObject([
    { lanes: [{ file: 0 }, { file: 1 }, { file: 2 }, { file: 3 }], wanted: 3, reason: { kind: 'copies' } },
  ]);
});

it('a comp that is called otherwise goes with the takes it has the samples of', async () => {
  const files = [file('Lead t1.wav'), file('Lead t2.wav'), file('Vox FINAL.wav'), TWO[2] as TakeFile];
  const waves: TakeSounds['waves'] = (_, b) =>
    Promise.resolve(b === 2 ? { windows: 40, copied: 0.5, alike: 0.5, correlation: 0.9 } : APART);
  const mix = mixOf([0.02, 0.5, 0.5], [0.5, 0.02, 0.5], [0.02, 0.5, 0.5]);
  const { takes, questions } = await findTakes(files, sounds({ waves, mix }));
  expect(questions).toEqual([]);
  expect(takes).toMatchObject([
    {
      lanes: [
        { file: 0, number: 1 },
        { file: 1, number: 2 },
        { file: 2, number: 3 },
      ],
      wanted: 2,
      reason: { kind: 'names' },
    },
  ]);
});

it('two microphones and a file that came twice are no takes', async () => {
  const of = (waves: WaveRelation) => findTakes(TWO, sounds({ waves: () => Promise.resolve(waves) }));
  const mics = await of({ windows: 40, copied: 0.6, alike: 1, correlation: 0.996 });
  const twice = await of({ windows: 40, copied: 1, alike: 1, correlation: 1 });
  expect([mics, twice].map(({ takes, together }) => [takes.length, together[0]?.reason.kind])).toEqual([
    [0, 'microphones'],
    [0, 'same-recording'],
  ]);
});

it('names that say takes are asked about where the sound or the mix says otherwise', async () => {
  const files = [file('Vox t1.wav'), file('Vox t2.wav'), TWO[2] as TakeFile];
  const agreed = await findTakes(files, sounds());
  expect(agreed.takes).toMatchObject([{ lanes: [{ number: 1 }, { number: 2 }], reason: { kind: 'names' } }]);
  const harmony = await findTakes(files, sounds({ line: (k) => Promise.resolve(line(4 * k)) }));
  const both = await findTakes(files, sounds({ mix: mixOf([1, 0.9], [1, 1], [1, 1], [0.9, 1]) }));
  expect([harmony, both].map((f) => [f.takes.length, f.questions[0]?.question])).toEqual([
    [0, { kind: 'names-against', sound: 'harmony' }],
    [0, { kind: 'names-against', sound: 'mix' }],
  ]);
});

it('what follows one another is one track by time stamps, else asked', async () => {
  const parts = [file('Vox 1.wav', { sketch: sketch(0, 5) }), file('Vox 2.wav', { sketch: sketch(6, 12) })];
  expect((await findTakes(parts, sounds())).questions).toMatchObject([
    { question: { kind: 'one-after-another' } },
  ]);
  const stamped = [file('Vox 1.wav'), file('Vox 2.wav', { startSeconds: 20 })];
  expect((await findTakes(stamped, sounds())).takes).toMatchObject([{ reason: { kind: 'stamps' } }]);
  // Of a recorder's names nobody knows who sings.
  const silent = stamped.map((f, i) => ({ ...f, name: `REC${i}.wav`, isSilent: true }));
  expect(await findTakes(silent, sounds())).toMatchObject({
    takes: [],
    questions: [{ question: { kind: 'one-after-another' } }],
  });
});

it('other instruments and a kit’s parts are never taken for takes', async () => {
  const files = [
    file('Bass.wav', { family: 'bass', part: 'electric-bass' }),
    file('Cello.wav', { family: 'strings', part: 'cello' }),
    ...['Tom 1.wav', 'Tom 2.wav'].map((name) => file(name, { family: 'drums', part: 'tom' })),
  ];
  expect(await findTakes(files, sounds())).toEqual({ takes: [], together: [], questions: [] });
});

it('lanes get the numbers of the names, and free ones where two are alike', async () => {
  const files = ['Vox t4.wav', 'Vox t4 alt.wav', 'Vox.wav', 'Vox t1.wav'].map((name) => file(name));
  const { takes } = await findTakes(files, sounds());
  const numbers = takes[0]?.lanes.map((l) => l.number) ?? [];
  expect([takes.length, new Set(numbers).size, numbers.includes(4), numbers.includes(1)]).toEqual([
    1,
    4,
    true,
    true,
  ]);
});

it('says nothing of an empty delivery, one file, or files without sound', async () => {
  const nothing = { takes: [], together: [], questions: [] };
  expect(await findTakes([], sounds())).toEqual(nothing);
  expect(await findTakes([file('Vox.wav')], sounds())).toEqual(nothing);
  expect(
    await findTakes([file('Vox 1.wav', { sketch: null }), file('Vox 2.wav', { sketch: null })], sounds()),
  ).toEqual(nothing);
});
