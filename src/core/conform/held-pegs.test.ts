import { createRandom } from '../units';
import { createWarp, isHeldAt, type LevelTrack, type Peg, thinPegs } from './index';

/** Pulses half a second apart that wander by some per cent, led to a steady grid. */
const wandering = (seed: number, n: number, share = 0.02): Peg[] => {
  const random = createRandom(seed);
  let played = 1;
  return Array.from({ length: n }, (_, i) => ({
    played: i === 0 ? played : (played += 0.5 * (1 + share * (2 * random() - 1))),
    conformed: 1 + 0.5 * i,
  }));
};

describe('pegs inside held notes', () => {
  it('go; those where something begins stay, as do the first and the last', () => {
    const pegs = wandering(3, 40);
    const notes = new Set([8, 16, 24].map((i) => pegs[i]?.played));
    const thin = thinPegs(pegs, (s) => !notes.has(s));
    expect(thin.length).toBeLessThan(25);
    for (const i of [0, 8, 16, 24, 39]) expect(thin).toContainEqual(pegs[i]);
  });
  it('without held notes nothing changes', () =>
    expect(thinPegs(wandering(3, 40), () => false)).toEqual(wandering(3, 40)));
  it('the line never strays more than 10 ms from the map, however long a note is held (20 maps, seeded)', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const pegs = wandering(seed, 120, 0.06);
      const warp = createWarp(thinPegs(pegs, () => true));
      for (const p of pegs)
        expect(Math.abs(warp.toConformed(p.played) - p.conformed)).toBeLessThanOrEqual(0.01 + 1e-9);
      expect(warp.pegs.length).toBeLessThan(pegs.length);
    }
  });
  it('the ends of a stretch that is copied stay', () => {
    const pegs = [
      [0, 0],
      [1, 1.01],
      [2, 2.02],
      [3, 3.02],
      [4, 4.02],
      [5, 5.03],
      [6, 6.04],
    ].map(([played, conformed]) => ({ played: played as number, conformed: conformed as number }));
    const thin = thinPegs(pegs, () => true);
    for (const i of [2, 3, 4]) expect(thin).toContainEqual(pegs[i]);
  });
});

describe('a held note', () => {
  const track = (level: (seconds: number) => number): LevelTrack => ({
    stepSeconds: 0.025,
    startSeconds: 0,
    levels: Array.from({ length: 400 }, (_, k) => level(k * 0.025)),
  });
  const held = track(() => 0.3);
  const silent = track(() => 0);
  it('sounds on with a steady level', () => {
    expect(isHeldAt([held], 4)).toBe(true);
    expect(isHeldAt([held, silent], 4)).toBe(true);
    expect(isHeldAt([track((s) => 0.3 * 10 ** ((-2 * s) / 20))], 4)).toBe(true);
  });
  it('is none where something begins, ends or swells, or where nothing sounds', () => {
    for (const other of [
      track((s) => (s < 4 ? 0 : 0.3)),
      track((s) => (s < 4.1 ? 0.3 : 0)),
      track((s) => (s < 4 ? 0.1 : 0.3)),
      track((s) => 0.3 * Math.exp(-8 * Math.abs(s - 4))),
    ])
      expect(isHeldAt([other], 4)).toBe(false);
    expect(isHeldAt([silent], 4)).toBe(false);
    expect(isHeldAt([held, track((s) => (s < 4 ? 0 : 0.3))], 4)).toBe(false);
    expect(isHeldAt([held], -3)).toBe(false);
  });
});
