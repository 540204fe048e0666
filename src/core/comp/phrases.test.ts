import { createRandom } from '../units';
import { LEVELS_PER_SECOND, phrasesAlong, phrasesOf, soundsShare, type TakeLevels } from './phrases';
import { bestFirst, type RatedTake, roughPass } from './rough-pass';

const RATE = 48_000;

/** Levels of a take that sounds in some stretches, s. */
const levels = (
  seconds: number,
  sounding: readonly (readonly [number, number])[],
  startSeconds = 0,
): TakeLevels => {
  const db = new Float32Array(seconds * LEVELS_PER_SECOND).fill(-90);
  for (const [from, to] of sounding)
    db.fill(
      -20,
      Math.round((from - startSeconds) * LEVELS_PER_SECOND),
      Math.round((to - startSeconds) * LEVELS_PER_SECOND),
    );
  return { db, startSeconds };
};
const take = (number: number, own: TakeLevels, said: Partial<RatedTake['lane']> = {}): RatedTake => ({
  lane: { id: `l${number}`, takeNumber: number, takeRating: null, takeAside: false, ...said },
  levels: own,
  fromFrames: Math.round(own.startSeconds * RATE),
  toFrames: Math.round((own.startSeconds + own.db.length / LEVELS_PER_SECOND) * RATE),
});

it('phrases meet where all takes rest, shortly before the next begins', () => {
  const a = levels(20, [
    [1, 4],
    [6, 9],
    [12, 15],
  ]);
  const b = levels(20, [
    [1.1, 4.2],
    [5.9, 9],
    [9.1, 10],
    [12, 15],
  ]);
  const found = phrasesOf([a, b]);
  expect(found).toHaveLength(3);
  const [first, second] = found;
  expect(first?.toSeconds).toBeGreaterThan(4.2);
  expect(first?.toSeconds).toBeLessThan(5.9);
  expect(second?.toSeconds).toBeGreaterThan(10);
  expect(second?.toSeconds).toBeLessThan(12);
  expect([first?.fromSeconds, found.at(-1)?.toSeconds]).toEqual([0, 20]);
  expect(found.every((p, i) => i === 0 || p.fromSeconds === found[i - 1]?.toSeconds)).toBe(true);
});

it('a long run is parted where it dips between words, and nowhere else', () => {
  const long = levels(30, [[1, 28]]);
  expect(phrasesOf([long])).toHaveLength(1);
  const db = long.db.slice();
  db.fill(-34, 14 * LEVELS_PER_SECOND, 14.1 * LEVELS_PER_SECOND);
  const found = phrasesOf([{ ...long, db }]);
  expect(found).toHaveLength(2);
  expect(found[0]?.toSeconds).toBeCloseTo(14.05, 1);
  expect(found[0]?.isRestAtEnd).toBe(false);
});

it('nothing that sounds has no phrases; takes that begin late or before the common start are placed', () => {
  expect(phrasesOf([levels(10, [])])).toEqual([]);
  expect(phrasesOf([])).toEqual([]);
  const found = phrasesOf([levels(10, [[3, 6]], 2), levels(6, [[-1, 1]], -2)]);
  expect(found).toHaveLength(2);
  expect(found[0]?.fromSeconds).toBe(0);
});

it('along sections, each is put to the rest nearest to its line', () => {
  const phrases = phrasesOf([
    levels(20, [
      [1, 4],
      [6, 9],
      [12, 15],
    ]),
  ]);
  const found = phrasesAlong(phrases, [0, 6, 11.5], 1.5);
  expect(found.map((p) => p.toSeconds)).toEqual([phrases[0]?.toSeconds, phrases[1]?.toSeconds, 20]);
  expect(phrasesAlong([], [3], 1)).toEqual([]);
});

it('a rough pass goes through with the best take, and leaves no phrase empty that some take has', () => {
  const full: [number, number][] = [
    [1, 4],
    [6, 9],
    [12, 15],
    [17, 19],
  ];
  const takes = [
    take(1, levels(20, full.slice(0, 2)), { takeRating: 'keep' }),
    take(2, levels(20, full)),
    take(3, levels(16, full.slice(0, 3))),
    take(4, levels(20, full), { takeRating: 'no' }),
  ];
  const phrases = phrasesOf(takes.map((t) => t.levels));
  expect(bestFirst(takes, phrases).map((t) => t.lane.takeNumber)).toEqual([1, 2, 3, 4]);
  expect(roughPass(takes, phrases, RATE).map((c) => c.laneId)).toEqual(['l1', 'l1', 'l2', 'l2']);
  // What nobody else has is taken even from one that was refused.
  const alone = [takes[0] as RatedTake, takes[3] as RatedTake];
  expect(roughPass(alone, phrases, RATE).map((c) => c.laneId)).toEqual(['l1', 'l1', 'l4', 'l4']);
});

it('rough passes of random takes have no hole where any take reaches (200 cases)', () => {
  const random = createRandom(3);
  for (let n = 0; n < 200; n++) {
    const takes = Array.from({ length: 1 + Math.floor(4 * random()) }, (_, i) => {
      const start = Math.floor(6 * random());
      const own = Array.from({ length: 6 }, (): [number, number] => {
        const from = start + 14 * random();
        return [from, from + 2 * random()];
      });
      return take(i + 1, levels(8 + Math.floor(10 * random()), own, start), { takeAside: random() < 0.2 });
    });
    const phrases = phrasesOf(takes.map((t) => t.levels));
    const choices = roughPass(takes, phrases, RATE).sort((a, b) => a.fromFrames - b.fromFrames);
    choices.forEach((c, i) => {
      expect(c.toFrames).toBeGreaterThan(c.fromFrames);
      if (i > 0) expect(c.fromFrames).toBeGreaterThanOrEqual(choices[i - 1]?.toFrames ?? 0);
    });
    for (const t of takes)
      for (const p of phrases) {
        if (soundsShare(t.levels, p) === 0) continue;
        const [from, to] = [p.fromSeconds, p.toSeconds].map((s) => Math.round(s * RATE)) as [number, number];
        const covered = choices.some((c) => c.fromFrames < to && c.toFrames > from);
        if (!covered) expect([n, p, t.lane.id]).toEqual('covered');
      }
  }
});
