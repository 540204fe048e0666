import { chord, levelsOfSound, sine, soundOf, struck } from '../../../tests/support/tidy-sounds';
import type { Family } from '../naming';
import { createRandom } from '../units';
import { hearTracks, type TidyTrack } from './heard';
import { proposeCuts, proposeTidy, type TidyProposal } from './propose';
import { TIDY_DEFAULTS } from './settings';

const track = (id: string, sound: Float32Array, more: Partial<TidyTrack> = {}): TidyTrack => ({
  id,
  levels: levelsOfSound(sound),
  family: 'guitars' as Family,
  part: null,
  source: null,
  ...more,
});
const propose = (...tracks: TidyTrack[]): TidyProposal[] => proposeTidy(tracks, TIDY_DEFAULTS);
const one = (sound: Float32Array, more: Partial<TidyTrack> = {}): TidyProposal =>
  propose(track('a', sound, more))[0] as TidyProposal;
const kept = (p: TidyProposal): [number, number][] =>
  p.pieces.filter((x) => x.keeps).map((x) => [x.from / 50, x.to / 50]);

it('keeps the notes with pads and their ring, and takes what lies between', () => {
  const p = one(
    soundOf(
      20,
      (t, noise) => 3e-4 * noise() + 0.3 * struck(t - 3, 220, 0.8) + 0.3 * struck(t - 12, 330, 0.8),
    ),
  );
  expect(p.pieces.map((x) => x.reason)).toEqual(['head', 'sound', 'noise', 'sound', 'tail']);
  const [[from1, to1] = [0, 0], [from2, to2] = [0, 0]] = kept(p);
  for (const [from, to, at] of [
    [from1, to1, 3],
    [from2, to2, 12],
  ] as const) {
    expect(from).toBeLessThanOrEqual(at - 0.04);
    expect(from).toBeGreaterThan(at - 0.22);
    // It reaches the floor (−70 dBFS, 57 dB under) at about 0.75 s.
    expect(to).toBeGreaterThan(at + 0.7);
    expect(to).toBeLessThan(at + 1.6);
  }
  expect(Math.abs((p.floorDbfs as number) + 70.5)).toBeLessThan(0.5);
});

it.each<[string, Float32Array, string]>([
  ['digital silence', soundOf(5, () => 0), 'silent'],
  ['white noise', soundOf(20, (_, n) => 0.01 * n()), 'even'],
  ['a constant', soundOf(10, () => 0.2), 'even'],
  ['a constant with noise', soundOf(10, (_, n) => 0.2 + 1e-3 * n()), 'even'],
  ['a held chord', soundOf(30, (t) => 0.2 * chord(t)), 'no-floor'],
  ['a held chord in noise', soundOf(30, (t, n) => 0.2 * chord(t) + 1e-3 * n()), 'no-floor'],
  [
    'a chord played softer for long',
    soundOf(48, (t, n) => (t < 16 || t > 32 ? 0.05 : 0.25) * chord(t) + 3e-4 * n()),
    'no-floor',
  ],
  ['a tremolo', soundOf(30, (t, n) => 0.2 * (1 + 0.5 * sine(5, t)) * chord(t) + 1e-3 * n()), 'no-floor'],
  ['rain', soundOf(30, (t, n) => 0.05 * n() * (1 + 0.8 * Math.abs(sine(0.3, t)))), 'even'],
  ['clipped throughout', soundOf(10, (_, n) => Math.max(-1, Math.min(1, 3 * n()))), 'even'],
  ['a fifth of a second', soundOf(0.2, (t) => 0.1 * chord(t)), 'no-floor'],
])('%s is left whole, and it is said why', (_, sound, because) => {
  const p = one(sound);
  expect(p.pieces).toHaveLength(1);
  expect(p.pieces[0]).toMatchObject({ from: 0, keeps: true });
  expect(p.nothingBecause).toBe(because);
});

it('one hit in three minutes is kept', () => {
  const p = one(soundOf(60, (t, n) => 1e-4 * n() + 0.5 * struck(t - 31, 180, 0.4)));
  expect(kept(p)).toHaveLength(1);
  const [[from, to]] = kept(p) as [[number, number]];
  expect([from < 31 - 0.04, to > 31.3, to < 32.5]).toEqual([true, true, true]);
});

it('a track that was gated before loses only zeros, however quiet the rest is', () => {
  const loud = (t: number): number => (t > 2 && t < 4 ? 0.3 : t > 10 && t < 12 ? 0.001 : 0);
  const p = one(soundOf(16, (t) => loud(t) * chord(t)));
  expect(p.floorDbfs).toBeNull();
  expect(kept(p)).toEqual([
    [2, 4],
    [10, 12],
  ]);
  expect(p.pieces.map((x) => x.reason)).toEqual(['head', 'sound', 'silence', 'sound', 'tail']);
});

it('hum is called so', () => {
  const hum = (t: number): number => 2e-3 * (sine(50, t) + 0.5 * sine(100, t) + 0.4 * sine(150, t));
  const p = one(
    soundOf(20, (t, n) => hum(t) + 1e-4 * n() + 0.4 * struck(t - 4, 196, 1) + 0.4 * struck(t - 12, 247, 1)),
  );
  expect(p.pieces.map((x) => x.reason)).toEqual(['head', 'sound', 'hum', 'sound', 'tail']);
});

it('a preamp that is turned up in a rest makes no sound of its own', () => {
  const p = one(
    soundOf(
      40,
      (t, n) => (t < 20 ? 3e-4 : 9e-4) * n() + 0.3 * struck(t - 5, 220, 0.8) + 0.3 * struck(t - 33, 220, 0.8),
    ),
  );
  expect(kept(p).length).toBeLessThanOrEqual(3);
  expect(kept(p).reduce((sum, [from, to]) => sum + to - from, 0)).toBeLessThan(8);
});

describe('what spills in from others', () => {
  const beats = Array.from({ length: 30 }, (_, k) => 1 + k);
  const drums = soundOf(
    40,
    (t, n) =>
      1e-4 * n() + 0.4 * beats.reduce((s, b) => s + (t >= b && t < b + 0.5 ? struck(t - b, 900, 0.4) : 0), 0),
  );
  const voice = (t: number): number => (t > 12 && t < 15 ? 0.2 * chord(t) * Math.min(1, 20 * (t - 12)) : 0);
  const sung = soundOf(40, (t, n) => 3e-4 * n() + voice(t), 6).map((v, i) => v + 0.01 * (drums[i - 96] ?? 0));

  it('is taken out where the mix foretells it, and the voice stays', () => {
    const mix = sung.map((v, i) => 0.5 * v + 0.8 * (drums[i] as number));
    const alone = propose(track('v', sung, { family: 'lead-vocal' }))[0] as TidyProposal;
    const [p] = propose(
      track('v', sung, { family: 'lead-vocal' }),
      track('m', mix, { family: 'reference', part: 'mix' }),
    ) as [TidyProposal, TidyProposal];
    const gone = (of: TidyProposal): number =>
      of.pieces.reduce((s, x) => s + (x.keeps ? 0 : x.to - x.from), 0) / 50;
    expect(gone(p)).toBeGreaterThan(gone(alone) + 5);
    expect(kept(p).some(([from, to]) => from < 12 && to > 15)).toBe(true);
    expect(p.pieces.some((x) => x.reason === 'spill' || x.reason === 'head')).toBe(true);
  });

  it('is never foretold by a double that plays along', () => {
    const double = sung.map((v) => 0.7 * v);
    const [a] = propose(
      track('a', sung, { family: 'lead-vocal' }),
      track('b', double, { family: 'lead-vocal' }),
    ) as [TidyProposal];
    expect(kept(a).some(([from, to]) => from < 12 && to > 15)).toBe(true);
  });
});

describe('a kit', () => {
  const at =
    (begin: number, hz: number) =>
    (t: number): number =>
      t >= begin ? struck(t - begin, hz, 0.5) : 0;
  const kick = at(3, 60);
  const snare = at(8, 190);
  const tom = at(14, 110);
  const mic = (own: (t: number) => number, seed: number): Float32Array =>
    soundOf(24, (t, n) => 1e-4 * n() + 0.3 * own(t) + 0.02 * (kick(t) + snare(t) + tom(t)), seed);
  const kit = [
    track('kick', mic(kick, 1), { family: 'drums', part: 'kick' }),
    track('snare', mic(snare, 2), { family: 'drums', part: 'snare' }),
    track('tom', mic(tom, 3), { family: 'drums', part: 'tom' }),
    track(
      'oh',
      mic((t) => 0.3 * (kick(t) + snare(t) + tom(t)), 4),
      { family: 'drums', part: 'overhead' },
    ),
  ];

  it('is cut as one, but for its toms', () => {
    const [k, s, t, o] = proposeTidy(kit, TIDY_DEFAULTS) as [
      TidyProposal,
      TidyProposal,
      TidyProposal,
      TidyProposal,
    ];
    expect([k.group, s.group, t.group, o.group]).toEqual(['kit', 'kit', null, 'kit']);
    expect(kept(s)).toEqual(kept(k));
    expect(kept(o)).toEqual(kept(k));
    for (const begin of [3, 8, 14])
      expect(kept(k).some(([from, to]) => from < begin && to > begin + 0.3)).toBe(true);
    expect(kept(t).some(([from, to]) => from < 14 && to > 14.3)).toBe(true);
  });

  it('one of it is cut by itself where a person says so; the others go on as one', () => {
    const byThreshold = { ...TIDY_DEFAULTS, thresholdDb: -25 };
    const [k, s, , o] = proposeCuts(
      hearTracks(kit),
      ({ id }) => (id === 'snare' ? byThreshold : TIDY_DEFAULTS),
      new Set(['snare']),
    ) as [TidyProposal, TidyProposal, TidyProposal, TidyProposal];
    expect([k.group, s.group, o.group]).toEqual(['kit', null, 'kit']);
    expect(kept(o)).toEqual(kept(k));
    expect(kept(s)).toHaveLength(1);
    expect(kept(s).some(([from, to]) => from < 8 && to > 8.1)).toBe(true);
    expect(kept(k).some(([from, to]) => from < 3 && to > 3.3)).toBe(true);
  });

  it('keeps a note that only a tom has', () => {
    const [k] = proposeTidy(
      kit.map((x) =>
        x.id === 'tom'
          ? x
          : {
              ...x,
              levels: levelsOfSound(
                soundOf(24, (t, n) => 1e-4 * n() + (x.id === 'kick' ? 0.3 * kick(t) : 0), 9),
              ),
            },
      ),
      TIDY_DEFAULTS,
    ) as [TidyProposal];
    expect(kept(k).some(([from, to]) => from < 14 && to > 14.3)).toBe(true);
  });
});

it('both sides of a pair have the same cuts, and what is earlier or longer does not matter', () => {
  const left = soundOf(20, (t, n) => 2e-4 * n() + 0.3 * struck(t - 4, 220, 0.6), 1);
  const right = soundOf(19, (t, n) => 2e-4 * n() + 0.3 * struck(t - 9, 220, 0.6), 2);
  const [l, r] = propose(track('l', left, { source: 'keys' }), track('r', right, { source: 'keys' })) as [
    TidyProposal,
    TidyProposal,
  ];
  expect(l.group).toBe('keys');
  expect(kept(l)).toEqual(kept(r));
  expect(kept(l)).toHaveLength(2);
  expect(r.pieces.at(-1)?.to).toBe(19 * 50);
});

it('a threshold set by hand decides alone', () => {
  const sound = soundOf(
    10,
    (t, n) => 1e-3 * n() + (t > 2 && t < 3 ? 0.3 : t > 6 && t < 7 ? 0.01 : 0) * chord(t),
  );
  const at = (thresholdDb: number): [number, number][] =>
    kept(proposeTidy([track('a', sound)], { ...TIDY_DEFAULTS, thresholdDb })[0] as TidyProposal);
  expect(at(-30)).toHaveLength(1);
  expect(at(-52)).toHaveLength(2);
});

it('three hours in which something nearly always sounds', () => {
  const frames = 3 * 3600 * 50;
  const random = createRandom(12);
  const level = (n: number): number => (n % 400_000 < 60 ? 60 : 190);
  const total = Uint8Array.from({ length: frames }, (_, n) => level(n) + Math.floor(3 * random()));
  const bands = Uint8Array.from(
    { length: 24 * frames },
    (_, k) => level(Math.floor(k / 24)) - 28 + Math.floor(6 * random()),
  );
  const [p] = propose({
    id: 'long',
    levels: { frames, total, bands },
    family: 'effects',
    part: null,
    source: null,
  });
  expect(p?.pieces.at(-1)?.to).toBe(frames);
}, 60_000);

it('whatever comes, pieces cover the track without overlap, in order, each sure between 0 and 1', () => {
  const random = createRandom(77);
  for (let round = 0; round < 12; round++) {
    const notes = Array.from(
      { length: Math.floor(8 * random()) },
      () => [random() * 9, 80 + 900 * random(), random()] as const,
    );
    const level = 10 ** (-5 * random());
    const sound = soundOf(
      0.02 + 10 * random(),
      (t, n) =>
        level * 0.3 * n() +
        notes.reduce((s, [b, hz, a]) => s + (t >= b && t < b + 1 ? a * struck(t - b, hz, 0.5) : 0), 0),
      round,
    );
    const tracks = [
      track('a', sound, { family: 'drums', part: 'snare' }),
      track(
        'b',
        sound.map((v) => 0.3 * v),
        { family: 'drums', part: 'tom' },
      ),
      track('c', sound.subarray(0, Math.ceil(sound.length / 2))),
    ];
    proposeTidy(tracks, {
      ...TIDY_DEFAULTS,
      shortestSeconds: random(),
      beforeSeconds: random() / 2,
      afterSeconds: random() / 2,
    }).forEach((p, i) => {
      let end = 0;
      for (const piece of p.pieces) {
        expect(piece.from).toBe(end);
        expect(piece.to).toBeGreaterThan(piece.from);
        expect(piece.confidence >= 0 && piece.confidence <= 1).toBe(true);
        end = piece.to;
      }
      expect(end).toBe((tracks[i] as TidyTrack).levels.frames);
      expect(p.begins).toHaveLength(p.pieces.filter((x) => x.keeps).length);
    });
  }
});
