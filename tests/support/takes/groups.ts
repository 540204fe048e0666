import { pick, type Random } from '../../../bench/sections/dice';
import { type Manner, melody, type Note, RATE, SECONDS, sing, strum } from './sounds';

/** What a group of files is. */
export type GroupTruth = 'takes' | 'unison' | 'harmony' | 'octave' | 'microphones' | 'after' | 'answer';

/** Files that look alike, what they are, and which of them the song has. */
export interface Group {
  readonly kind: string;
  readonly truth: GroupTruth;
  readonly instrument: 'voice' | 'guitar';
  readonly sounds: readonly Float32Array[];
  /** Which sound in the song, by their places. */
  readonly wanted: readonly number[];
  /** The one that is put together from the others; null = none. */
  readonly comp: number | null;
}

const manner = (random: Random, more: Partial<Manner> = {}): Manner => ({
  loose: 0.004 + 0.03 * random(),
  size: 0.95 + 0.15 * random(),
  gain: 1,
  changed: 0,
  ...more,
});

type Make = (random: Random, chords: readonly number[]) => Omit<Group, 'kind'>;

const voices = (
  random: Random,
  lines: readonly (readonly Note[])[],
  truth: GroupTruth,
  options: { readonly manners?: readonly Partial<Manner>[]; readonly wanted?: readonly number[] } = {},
): Omit<Group, 'kind'> => {
  const own = manner(random);
  return {
    truth,
    instrument: 'voice',
    sounds: lines.map((line, k) => sing(line, { ...own, ...options.manners?.[k] }, random)),
    wanted: options.wanted ?? lines.map((_, k) => k),
    comp: null,
  };
};

const times = <T>(n: number, x: T): T[] => Array.from({ length: n }, () => x);
const moved = (line: readonly Note[], by: number): Note[] => line.map((n) => ({ ...n, pitch: n.pitch + by }));
const within = (line: readonly Note[], from: number, to: number): Note[] =>
  line.filter((n) => n.at >= from && n.at < to);

/** Takes of a voice, and one put together of them. */
function comped(random: Random, cross: boolean): Omit<Group, 'kind'> {
  const line = melody(random);
  const group = voices(random, times(3, line), 'takes');
  const comp = new Float32Array(group.sounds[0]?.length ?? 0);
  for (let from = 0; from < SECONDS; from += 4) {
    const source = group.sounds[Math.floor(from / 4) % 2] as Float32Array;
    const edge = cross ? 0.02 * RATE : 0;
    for (let i = from * RATE; i < Math.min(comp.length, (from + 4) * RATE); i++) {
      const gain = Math.min(1, edge > 0 ? (i - from * RATE) / edge : 1);
      comp[i] = gain * (source[i] as number);
    }
  }
  return { ...group, sounds: [...group.sounds, comp], wanted: [3], comp: 3 };
}

/** A second microphone: later, duller, in more of the room. */
function secondMicrophone(sound: Float32Array, random: Random): Float32Array {
  const delay = Math.round((0.0005 + 0.002 * random()) * RATE);
  let low = 0;
  return sound.map((_, i) => {
    low += 0.6 * ((sound[i - delay] ?? 0) - low);
    return 0.7 * low + 0.12 * (sound[i - delay - 331] ?? 0);
  });
}

const KINDS: Readonly<Record<string, Make>> = {
  'takes, tight': (r) => {
    const [line, n] = [melody(r), 3 + Math.floor(2 * r())];
    return voices(r, times(n, line), 'takes', {
      manners: times(n, { loose: 0.005 }),
      wanted: [Math.floor(n * r())],
    });
  },
  'takes, loose': (r) =>
    voices(r, times(4, melody(r)), 'takes', {
      manners: times(4, { loose: 0.04 }),
      wanted: [Math.floor(4 * r())],
    }),
  'takes, changed notes': (r) =>
    voices(r, times(3, melody(r)), 'takes', { manners: times(3, { changed: 0.15 }), wanted: [1] }),
  'two takes': (r) => voices(r, times(2, melody(r)), 'takes', { wanted: [Math.floor(2 * r())] }),
  'takes, unequal level': (r) =>
    voices(r, times(3, melody(r)), 'takes', {
      manners: [{ gain: 1 }, { gain: 0.35 }, { gain: 0.6 }],
      wanted: [1],
    }),
  'takes, one of them partial': (r) => {
    const line = melody(r);
    return voices(r, [line, within(line, 4, 14), line], 'takes', { wanted: [2] });
  },
  'takes, wanted in turn': (r) => {
    const group = voices(r, times(2, melody(r)), 'takes');
    return { ...group, wanted: [-1] };
  },
  'guitar takes': (r, chords) => ({
    truth: 'takes',
    instrument: 'guitar',
    sounds: times(3, 0).map(() => strum(r, chords, 0.012)),
    wanted: [Math.floor(3 * r())],
    comp: null,
  }),
  'comp and sources': (r) => comped(r, false),
  'comp, cross-faded': (r) => comped(r, true),
  'double, tight': (r) => voices(r, times(2, melody(r)), 'unison', { manners: times(2, { loose: 0.004 }) }),
  'double, loose': (r) => voices(r, times(2, melody(r)), 'unison', { manners: times(2, { loose: 0.03 }) }),
  triple: (r) => voices(r, times(3, melody(r)), 'unison'),
  'double, soft': (r) => voices(r, times(2, melody(r)), 'unison', { manners: [{}, { gain: 0.15 }] }),
  'double of a passage': (r) => {
    const line = melody(r);
    return voices(r, [line, within(line, 7, 16)], 'unison');
  },
  'guitar double': (r, chords) => ({
    truth: 'unison',
    instrument: 'guitar',
    sounds: times(2, 0).map(() => strum(r, chords, 0.012)),
    wanted: [0, 1],
    comp: null,
  }),
  gang: (r) =>
    voices(r, times(4, melody(r)), 'unison', {
      manners: [{ size: 0.9 }, { size: 1 }, { size: 1.1 }, { size: 1.2 }],
    }),
  third: (r) => {
    const line = melody(r);
    return voices(r, [line, moved(line, 4)], 'harmony');
  },
  'third of a passage': (r) => {
    const line = melody(r);
    return voices(r, [line, within(moved(line, 3), 6, 15)], 'harmony');
  },
  'third and fifth': (r) => {
    const line = melody(r);
    return voices(r, [line, moved(line, 4), moved(line, 7)], 'harmony');
  },
  octave: (r) => {
    const line = melody(r);
    return voices(r, [line, moved(line, 12)], 'octave');
  },
  'two microphones': (r) => {
    const group = voices(r, [melody(r)], 'microphones');
    const [first] = group.sounds as [Float32Array];
    return { ...group, sounds: [first, secondMicrophone(first, r)], wanted: [0, 1] };
  },
  'punch-ins': (r) => {
    const line = melody(r);
    return voices(r, [within(line, 0, 9), within(line, 9, 20)], 'after');
  },
  'call and answer': (r) => {
    const line = melody(r);
    const turns = (k: number): Note[] => line.filter((n) => Math.floor(n.at / 4) % 2 === k);
    return voices(r, [turns(0), turns(1)], 'answer', { manners: [{ size: 0.95 }, { size: 1.2 }] });
  },
};

/** Names of all kinds of groups. */
export const GROUP_KINDS = Object.keys(KINDS);

/** Chords that a song goes round by. */
export const chordsOf = (random: Random): number[] =>
  pick(random, [
    [45, 41, 48, 43],
    [40, 45, 47, 40],
    [43, 38, 40, 48],
  ]);

/** Makes a group of a kind. */
export function makeGroup(kind: string, random: Random, chords: readonly number[]): Group {
  const made = (KINDS[kind] as Make)(random, chords);
  const peak = Math.max(...made.sounds.map((s) => s.reduce((m, x) => Math.max(m, Math.abs(x)), 0)));
  return { kind, ...made, sounds: made.sounds.map((s) => s.map((x) => (LOUDEST * x) / peak)) };
}

/** Highest sample of a group. */
const LOUDEST = 0.4;
