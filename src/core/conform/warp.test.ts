import { createSongMap } from '../time';
import { createRandom } from '../units';
import { createWarp, proposeTarget, steadyMap, warpBetween } from './index';

const METERS = [{ bar: 1, numerator: 4, denominator: 4 }];

describe('a warp', () => {
  it('leads there and back exactly, inside and outside its pegs (seed 21)', () => {
    const random = createRandom(21);
    for (let round = 0; round < 100; round++) {
      let [played, conformed] = [random() * 5, random() * 5 - 1];
      const pegs = Array.from({ length: 1 + Math.floor(random() * 50) }, () => ({
        played: (played += 0.01 + random()),
        conformed: (conformed += 0.01 + random()),
      }));
      const warp = createWarp(pegs);
      for (let n = 0; n < 20; n++) {
        const t = random() * 60 - 5;
        expect(Math.abs(warp.toPlayed(warp.toConformed(t)) - t)).toBeLessThan(1e-9);
      }
      for (const p of pegs) expect(warp.toConformed(p.played)).toBeCloseTo(p.conformed, 12);
    }
  });
  it('moves without stretching before its first and after its last peg', () => {
    const warp = createWarp([
      { played: 1, conformed: 1.5 },
      { played: 2, conformed: 3.5 },
    ]);
    expect([warp.toConformed(0), warp.toConformed(1.5), warp.toConformed(10)]).toEqual([0.5, 2.5, 11.5]);
    expect([warp.ratioAt(0.5), warp.ratioAt(1), warp.ratioAt(1.9), warp.ratioAt(2)]).toEqual([1, 2, 2, 1]);
  });
  it('refuses nothing, backwards and standing still', () => {
    expect(() => createWarp([])).toThrow(RangeError);
    expect(() =>
      createWarp([
        { played: 1, conformed: 1 },
        { played: 2, conformed: 1 },
      ]),
    ).toThrow('peg 1');
    expect(() => createWarp([{ played: NaN, conformed: 1 }])).toThrow('not finite');
  });
});

describe('from one map to another', () => {
  const played = createSongMap(
    [0, 1, 2, 3, 4, 8].map((q, i) => ({ quarters: q, seconds: [2, 2.5, 3.02, 3.5, 4.01, 6][i] as number })),
    METERS,
  );
  it('equal quarters are the same moment of the music; what rings on after the end is not stretched', () => {
    const to = createSongMap(
      [
        { quarters: 0, seconds: 2 },
        { quarters: 8, seconds: 8 },
      ],
      METERS,
    );
    const warp = warpBetween(played, to, { startSeconds: 2, endSeconds: 6 });
    for (const p of played.tempo.points)
      expect(warp.toConformed(p.seconds)).toBeCloseTo(2 + (p.quarters * 6) / 8, 12);
    expect(warp.toConformed(7) - warp.toConformed(6)).toBeCloseTo(1, 12);
    expect(warp.toConformed(0)).toBeCloseTo(0, 12);
  });
  it('the same map changes nothing at all', () => {
    const warp = warpBetween(played, played, { startSeconds: 2, endSeconds: 6 });
    expect(warp.pegs.every((p) => p.played === p.conformed && warp.ratioAt(p.played) === 1)).toBe(true);
  });
  it('a steady map keeps its anchor and the bars; in 6/8 the tempo counts dotted quarters', () => {
    const four = steadyMap(played, 120, 2.5);
    expect([four.tempo.toSeconds(1), four.tempo.toSeconds(3)]).toEqual([2.5, 3.5]);
    const compound = createSongMap(played.tempo.points, [{ bar: 1, numerator: 6, denominator: 8 }]);
    expect(steadyMap(compound, 60, 2).tempo.toSeconds(1.5)).toBeCloseTo(3, 12);
  });
  it('bars tied to time stay as long as they were, moved as a whole; the rest is steady (seed 4)', () => {
    const random = createRandom(4);
    let t = 3;
    const wandering = createSongMap(
      Array.from({ length: 65 }, (_, quarters) => ({
        quarters,
        seconds: quarters === 0 ? t : (t += 0.5 + 0.1 * (random() - 0.5)),
      })),
      METERS,
    );
    const keep = [
      { fromBar: 1, toBar: 2 },
      { fromBar: 9, toBar: 9 },
    ];
    const to = steadyMap(wandering, 118, wandering.tempo.toSeconds(4), keep);
    const length = (map: typeof to, from: number, till: number): number =>
      map.tempo.toSeconds(till) - map.tempo.toSeconds(from);
    expect(to.tempo.toSeconds(4)).toBeCloseTo(wandering.tempo.toSeconds(4), 12);
    for (let q = 0; q < 60; q++) {
      const kept = q < 8 || (q >= 32 && q < 36);
      expect(length(to, q, q + 1)).toBeCloseTo(kept ? length(wandering, q, q + 1) : 60 / 118, 12);
    }
    const warp = warpBetween(wandering, to, {
      startSeconds: wandering.tempo.toSeconds(0),
      endSeconds: wandering.tempo.toSeconds(64),
    });
    expect([warp.ratioAt(wandering.tempo.toSeconds(5)), warp.ratioAt(wandering.tempo.toSeconds(33))]).toEqual(
      [1, 1],
    );
  });
  it('without such bars it is the plain steady map, to the last bit: what was conformed before keeps its name', () => {
    expect(steadyMap(played, 117, 2.5, []).tempo.points).toEqual(steadyMap(played, 117, 2.5).tempo.points);
  });
  it('an empty range is refused', () =>
    expect(() => warpBetween(played, played, { startSeconds: 3, endSeconds: 3 })).toThrow(RangeError));
});

describe('the tempo that changes least', () => {
  // Least squares over equally spaced indices, worked by hand: slope of (0, 1, 3) over (0, 1, 2) is 1.5 s.
  it('is the least-squares line through the pulses', () =>
    expect(proposeTarget([0, 1, 3])?.exactBpm).toBeCloseTo(40, 9));
  it('is rounded when that costs nothing, else kept', () => {
    const pulses = (bpm: number): number[] => Array.from({ length: 200 }, (_, i) => 1 + (60 * i) / bpm);
    expect(proposeTarget(pulses(103.8))?.bpm).toBe(104);
    expect(proposeTarget(pulses(60.45))?.bpm).toBe(60.5);
    expect(proposeTarget(pulses(60.27))?.bpm).toBe(60.3);
  });
  it('needs two pulses', () => expect(proposeTarget([1])).toBeNull());
});
