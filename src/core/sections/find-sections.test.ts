import { SKETCH_BANDS, SKETCH_PER_SECOND } from '../analysis';
import type { Family } from '../naming';
import { createRandom } from '../units';
import { findSections } from './find-sections';
import type { SectionTrack } from './section-track';
import { sectionNames } from './section-names';

const BAR = 2;
/** What is played in a bar: hits of a bar's eighths in a range of bands, and pitch classes by quarter. */
interface Playing {
  readonly bands: readonly [number, number];
  readonly hits: string;
  readonly chords?: readonly number[];
}

/** A track of a made song: what it plays bar by bar, drawn as its sketch and pitch classes. */
function track(
  family: Family,
  part: string | null,
  bars: readonly (Playing | null)[],
  seed: number,
): SectionTrack {
  const random = createRandom(seed);
  const levels = new Uint8Array(bars.length * BAR * SKETCH_PER_SECOND * SKETCH_BANDS);
  const chroma = new Float32Array(bars.length * BAR * 10 * 12);
  bars.forEach((playing, bar) => {
    if (!playing) return;
    const eighth = (BAR * SKETCH_PER_SECOND) / 8;
    [...playing.hits].forEach((hit, e) => {
      if (hit !== 'x') return;
      for (let n = 0; n < eighth; n++)
        for (let b = playing.bands[0]; b < playing.bands[1]; b++)
          levels[(Math.round((bar * 8 + e) * eighth) + n) * SKETCH_BANDS + b] = 200 - 2 * n + 6 * random();
    });
    for (let k = 0; k < BAR * 10; k++) {
      const root = playing.chords?.[Math.floor((4 * k) / (BAR * 10))];
      if (root !== undefined)
        for (const step of [0, 4, 7])
          chroma[(bar * BAR * 10 + k) * 12 + ((root + step) % 12)] = 1 + 0.2 * random();
    }
  });
  return {
    family,
    part,
    pieces: [{ sketch: { frames: levels.length / SKETCH_BANDS, levels }, chroma, atSeconds: 0 }],
  };
}

/** A song by a letter a bar. */
function song(letters: string): SectionTrack[] {
  const on = (of: Readonly<Record<string, Playing>>) => [...letters].map((l) => of[l] ?? null);
  const chords: Readonly<Record<string, readonly number[]>> = {
    v: [0, 0, 9, 9],
    c: [5, 7, 0, 4],
    i: [0, 0, 9, 9],
  };
  const all = (bands: readonly [number, number], hits: Readonly<Record<string, string>>) =>
    on(
      Object.fromEntries(
        Object.entries(hits).map(([l, h]) => [l, { bands, hits: h, chords: chords[l] ?? [] }]),
      ),
    );
  return [
    track('drums', 'kick', all([0, 4], { v: 'x...x...', c: 'x.x.x.x.' }), 1),
    track('drums', 'snare', all([8, 18], { v: '..x...x.', c: '..x...x.' }), 2),
    track('bass', null, all([2, 9], { v: 'x.x.x.x.', c: 'xxxxxxxx' }), 3),
    track('guitars', 'electric-guitar', all([8, 18], { i: 'x.x.x.x.', v: 'x.x.x.x.', c: 'xxxxxxxx' }), 4),
    track('lead-vocal', 'vocal', all([9, 17], { v: 'xx.xx.x.', c: 'x.xxx.xx' }), 5),
  ];
}
const lines = (bars: number): number[] => Array.from({ length: bars + 1 }, (_, i) => i * BAR);

it('finds the parts of a plain song on their bar lines, which are alike, and what they are', () => {
  const letters = 'iiii' + 'vvvvvvvv' + 'cccccccc' + 'vvvvvvvv' + 'cccccccc';
  const { sections } = findSections(song(letters), lines(letters.length));
  expect(sections.map((s) => [s.fromBar, s.toBar])).toEqual([
    [0, 4],
    [4, 12],
    [12, 20],
    [20, 28],
    [28, 36],
  ]);
  const [intro, verse, chorus, ...again] = sections.map((s) => s.group);
  expect(again).toEqual([verse, chorus]);
  expect(new Set([intro, verse, chorus]).size).toBe(3);
  expect(sections[0]?.kind).toBe('intro');
  expect(sections.every((s) => s.confidence > 0.5)).toBe(true);
});

it('is the same wherever the recordings begin, and however a track was cut', () => {
  const letters = 'vvvvvvvvcccccccc';
  const whole = song(letters);
  const halved = whole.map((t) => ({
    ...t,
    pieces: t.pieces.flatMap((p) => [
      { ...p, toSeconds: 16 },
      { ...p, fromSeconds: 16 },
    ]),
  }));
  const found = findSections(whole, lines(16)).sections.map((s) => [s.fromBar, s.group, s.kind]);
  expect(findSections(halved, lines(16)).sections.map((s) => [s.fromBar, s.group, s.kind])).toEqual(found);
  const later = whole.map((t) => ({ ...t, pieces: t.pieces.map((p) => ({ ...p, atSeconds: 10 })) }));
  const moved = lines(16).map((x) => x + 10);
  expect(findSections(later, moved).sections.map((s) => [s.fromBar, s.group, s.kind])).toEqual(found);
});

it('says nothing where nothing sounds, and one section of a song that has only one', () => {
  expect(findSections([], lines(8)).sections).toEqual([]);
  expect(findSections(song('........'), lines(8)).sections).toEqual([]);
  expect(findSections(song('vvvv'), []).sections).toEqual([]);
  expect(findSections(song('v'), lines(1)).sections.map((s) => [s.fromBar, s.toBar])).toEqual([[0, 1]]);
  const { sections } = findSections(song('vvvvvvvv' + '....'), lines(12));
  expect(sections.map((s) => [s.fromBar, s.toBar])).toEqual([[0, 8]]);
});

it('numbers what comes more than once, and asks where it does not know', () => {
  const one = (kind: 'verse' | 'chorus' | 'bridge', group: number, kindConfidence: number) => ({
    kind,
    group,
    kindConfidence,
  });
  expect(
    sectionNames([one('verse', 0, 0.9), one('chorus', 1, 0.8), one('verse', 0, 0.95), one('bridge', 2, 0.5)]),
  ).toEqual(['Verse 1', 'Chorus', 'Verse 2', 'C?']);
});
