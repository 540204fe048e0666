import { createRandom, type Random } from '../units';
import { alignMix, type AlignBlock, readAligned } from './align';
import { levelChanges, stretchesOf } from './changes';
import { type MixModel, MixSample } from './common-gain';
import { fitBalance, stripOf } from './fit';
import { mixLikeness } from './is-mix';
import { missingParts } from './missing';
import { type GatheredMix, MixGramBuilder } from './mix-gram';
import { nonNegativeLeastSquares } from './nnls';
import { readGathered } from './read-gathered';
import { roughBalance, type RoughTrack } from './rough';

const RATE = 48_000;
const SECONDS = 16;

/** A part that plays now and then in its own range: noise through a resonance. */
function part(random: Random, hz: number): Float32Array {
  const out = new Float32Array(SECONDS * RATE);
  const r = 0.995;
  const a = 2 * r * Math.cos((2 * Math.PI * hz) / RATE);
  let [y1, y2, envelope, next] = [0, 0, 0, 0];
  for (let i = 0; i < out.length; i++) {
    if (i >= next) {
      envelope = random() < 0.7 ? 0.2 + random() : 0;
      next = i + RATE * (0.1 + 0.5 * random());
    }
    const y = envelope * (random() - 0.5) + a * y1 - r * r * y2;
    [y2, y1] = [y1, y];
    out[i] = y + 0.1 * envelope * (random() - 0.5);
  }
  const rms = Math.sqrt(out.reduce((sum, v) => sum + v * v, 0) / out.length);
  return out.map((v) => (0.05 * v) / rms);
}

const random = createRandom(31);
const parts = [90, 300, 420, 900, 1700, 4200].map((hz) => part(random, hz));
const GAINS_DB = [0, -3, -8, 2, -5, -10];
const PANS = [0, -0.6, 0.4, 0, 0.8, -0.3];
const angle = (pan: number): number => ((pan + 1) * Math.PI) / 4;
const mixOf = (
  list: readonly Float32Array[],
  turn = (x: number): number => x,
): [Float32Array, Float32Array] => {
  const sides = [new Float32Array(SECONDS * RATE), new Float32Array(SECONDS * RATE)] as [
    Float32Array,
    Float32Array,
  ];
  list.forEach((x, k) => {
    const gain = 10 ** ((GAINS_DB[k] as number) / 20);
    const [l, r] = [gain * Math.cos(angle(PANS[k] as number)), gain * Math.sin(angle(PANS[k] as number))];
    for (let i = 0; i < x.length; i++) {
      sides[0][i] = (sides[0][i] as number) + l * (x[i] as number);
      sides[1][i] = (sides[1][i] as number) + r * (x[i] as number);
    }
  });
  return [sides[0].map(turn), sides[1].map(turn)];
};

function gramOf(
  tracks: readonly (readonly Float32Array[])[],
  mix: readonly Float32Array[],
  model: MixModel | null = null,
): GatheredMix {
  const channels = tracks.map((t) => t.length);
  const builder = new MixGramBuilder(RATE, channels, mix.length, model);
  const all = [...tracks.flat(), ...mix];
  for (let at = 0; at < SECONDS * RATE; at += 50_000)
    builder.push(all.map((x) => x.subarray(at, at + 50_000)));
  return builder.finish();
}

/** What a mix is about made of, told from all of it. */
function modelOf(tracks: readonly Float32Array[], mix: readonly Float32Array[]): MixModel | null {
  const sample = new MixSample(
    RATE,
    tracks.map(() => 1),
    mix.length,
  );
  for (let at = 0; at < SECONDS; at += 2)
    sample.push([...tracks, ...mix].map((x) => x.subarray(at * RATE, (at + 2) * RATE)));
  return sample.model();
}

it('non-negative least squares are the least of all, against trying every set of free entries', () => {
  const r = createRandom(4);
  for (let round = 0; round < 60; round++) {
    const n = 1 + Math.floor(5 * r());
    const rows = Array.from({ length: n + 3 }, () => Array.from({ length: n }, () => r() - 0.4));
    const y = rows.map(() => r() - 0.5);
    const a = Array.from({ length: n * n }, (_, k) =>
      rows.reduce((s, row) => s + (row[Math.floor(k / n)] as number) * (row[k % n] as number), 0),
    );
    const c = Array.from({ length: n }, (_, i) =>
      rows.reduce((s, row, k) => s + (row[i] as number) * (y[k] as number), 0),
    );
    const costOf = (x: ArrayLike<number>): number =>
      rows.reduce(
        (s, row, k) => s + (row.reduce((v, q, i) => v + q * (x[i] as number), 0) - (y[k] as number)) ** 2,
        0,
      );
    const found = nonNegativeLeastSquares(a, c);
    expect([...found].every((v) => v >= 0)).toBe(true);
    // No step in any single direction makes it less (the problem is convex; pairs of directions are tried too).
    const cost = costOf(found);
    for (let i = 0; i < n; i++)
      for (const d of [1e-3, -1e-3]) {
        const moved = Float64Array.from(found);
        moved[i] = Math.max(0, (moved[i] as number) + d);
        expect(costOf(moved)).toBeGreaterThanOrEqual(cost - 1e-12);
      }
  }
});

describe('a mix of known gains', () => {
  it.each<[string, (x: number) => number, number, number]>([
    ['as it is', (x) => x, 0.1, 0.01],
    ['saturated', (x) => Math.tanh(3 * x) / 3, 0.8, 0.05],
  ])('%s is read to the gain and the place', (_, turn, gainError, panError) => {
    const fit = fitBalance(
      gramOf(
        parts.map((p) => [p]),
        mixOf(parts, turn),
      ),
    );
    expect(fit.share).toBeGreaterThan(0.97);
    const strips = parts.map(
      (_part, i) =>
        stripOf(1, fit.gains[0]?.[i] as number, fit.gains[1]?.[i] as number) as {
          gainDb: number;
          pan: number;
        },
    );
    const off = strips.map((s, i) => s.gainDb - (GAINS_DB[i] as number));
    const common = [...off].sort((x, y) => x - y)[3] as number;
    strips.forEach((s, i) => {
      expect(Math.abs((off[i] as number) - common)).toBeLessThan(gainError);
      expect(Math.abs(s.pan - (PANS[i] as number))).toBeLessThan(panError);
    });
  });

  it('what a limiter holds down is told from levels, and nothing is held down where there is none', () => {
    // The lowest part now and then hits hard, and a limiter turns the whole down for as long.
    const hits = createRandom(8);
    let hit = 0;
    const [low, ...others] = parts as [Float32Array, ...Float32Array[]];
    const loud = low.map((v, i) => {
      if (i % 24_000 === 0) hit = hits() < 0.5 ? 6 : 1;
      hit = 1 + (hit - 1) * 0.9998;
      return v * hit;
    });
    const tracks = [loud, ...others];
    const whole = mixOf(tracks);
    let gain = 1;
    const held = whole[0].map((l, i) => {
      const peak = Math.max(Math.abs(l), Math.abs(whole[1][i] as number));
      gain = Math.min(gain + 4e-5, 1, 0.12 / Math.max(1e-9, peak));
      return gain;
    });
    const limited = whole.map((x) => x.map((v, i) => v * (held[i] as number)));
    const worst = (mix: readonly Float32Array[], isTold: boolean): { dB: number; held: number } => {
      const gram = gramOf(
        tracks.map((x) => [x]),
        mix,
        isTold ? modelOf(tracks, mix) : null,
      );
      const { gains } = fitBalance(gram.held ?? gram);
      const off = GAINS_DB.map(
        (db, i) => (stripOf(1, gains[0]?.[i] as number, gains[1]?.[i] as number)?.gainDb ?? -99) - db,
      );
      return { dB: Math.max(...off) - Math.min(...off), held: gram.heldDownDb };
    };
    const untold = worst(limited, false);
    expect(untold.dB).toBeGreaterThan(3);
    const told = worst(limited, true);
    expect(told.dB).toBeLessThan(untold.dB / 3);
    expect(told.held).toBeLessThan(-4);
    const free = worst(whole, true);
    expect(free.dB).toBeLessThan(0.1);
    expect(free.held).toBeGreaterThan(-0.1);
  });

  it('levels that step are found to the second, and none where they stay', () => {
    const STEP_AT = 9;
    const stepped = parts.map((x, k) =>
      // The third goes up by 6 dB, the fifth down by 4.
      x.map((v, i) => (i < STEP_AT * RATE ? v : v * 10 ** ((k === 2 ? 6 : k === 4 ? -4 : 0) / 20))),
    );
    const tracks = parts.map((p) => [p]);
    const gram = gramOf(
      tracks,
      mixOf(stepped, (x) => Math.tanh(2 * x) / 2),
    );
    const changes = levelChanges(stretchesOf(gram, fitBalance(gram)));
    expect(changes.map((c) => c.map((x) => x.seconds))).toEqual([[], [], [0, STEP_AT], [], [0, STEP_AT], []]);
    const stepOf = (k: number): number => (changes[k]?.[1]?.gainDb ?? 0) - (changes[k]?.[0]?.gainDb ?? 0);
    expect(Math.abs(stepOf(2) - 6)).toBeLessThan(0.5);
    expect(Math.abs(stepOf(4) + 4)).toBeLessThan(0.5);
    // Steps are not taken for a limiter, and nothing is claimed to be missing for them.
    const mixed = mixOf(stepped);
    const read = readGathered(gramOf(tracks, mixed, modelOf(parts, mixed)));
    expect(read).toMatchObject({ heldDownDb: 0, missing: [] });
    expect(read.changes.map((c) => c.length)).toEqual([0, 0, 2, 0, 2, 0]);
    const still = gramOf(tracks, mixOf(parts));
    expect(levelChanges(stretchesOf(still, fitBalance(still))).flat()).toEqual([]);
  });

  it('a tilt of the whole is its own, not the tracks’', () => {
    // A first difference mixed in: about 6 dB from the low end to the top.
    const tilted = mixOf(parts).map((x) => x.map((v, i) => v - 0.5 * (x[i - 1] ?? 0))) as [
      Float32Array,
      Float32Array,
    ];
    const fit = fitBalance(
      gramOf(
        parts.map((p) => [p]),
        tilted,
      ),
    );
    const off = parts.map(
      (_, i) =>
        (stripOf(1, fit.gains[0]?.[i] as number, fit.gains[1]?.[i] as number)?.gainDb ?? -99) -
        (GAINS_DB[i] as number),
    );
    expect(Math.max(...off) - Math.min(...off)).toBeLessThan(2.5);
    expect(fit.equaliser[22] as number).toBeGreaterThan(1.4 * (fit.equaliser[2] as number));
  });

  it('a stereo track has its balance', () => {
    const [left, right] = [parts[1] as Float32Array, parts[3] as Float32Array];
    const mix = [
      left.map((v, i) => 0.5 * v + (parts[0]?.[i] as number)),
      right.map((v, i) => 0.25 * v + (parts[0]?.[i] as number)),
    ];
    const fit = fitBalance(gramOf([[parts[0] as Float32Array], [left, right]], mix));
    const strip = stripOf(2, fit.gains[0]?.[1] as number, fit.gains[1]?.[1] as number);
    expect(strip?.gainDb).toBeCloseTo(20 * Math.log10(0.5), 1);
    expect(strip?.pan).toBeCloseTo(-0.5, 1);
  });

  it('says what no track explains, and nothing of a mix that is whole', () => {
    const whole = gramOf(
      parts.map((p) => [p]),
      mixOf(parts),
    );
    expect(missingParts(whole, stretchesOf(whole, fitBalance(whole)))).toEqual([]);
    const without = gramOf(
      parts.filter((_, i) => i !== 3).map((p) => [p]),
      mixOf(parts),
    );
    const [first] = missingParts(without, stretchesOf(without, fitBalance(without)));
    expect(first).toBeDefined();
    // 900 Hz lies in band 12 of 24 from 40 Hz to 16 kHz.
    expect((first?.fromBand as number) <= 12 && (first?.toBand as number) >= 12).toBe(true);
  });
});

it('tells the mix of the others from its parts', () => {
  const [left] = mixOf(parts);
  const gram = gramOf(
    [...parts, left].map((x) => [x]),
    [new Float32Array(SECONDS * RATE)],
  );
  expect(mixLikeness(gram, parts.length)).toMatchObject({ isMix: true });
  parts.forEach((_, k) => expect(mixLikeness(gram, k).isMix).toBe(false));
});

describe('a mix that does not lie where the tracks do', () => {
  const sum = parts.reduce((s, x) => s.map((v, i) => v + (x[i] as number)), new Float32Array(SECONDS * RATE));
  const reach = 4000;
  const blocksOf = (mixAt: (frame: number) => number): AlignBlock[] =>
    [0, 3, 6, 9, 12].map((s) => {
      const [at, size] = [s * RATE, 3 * RATE];
      return {
        at,
        sum: sum.slice(at, at + size),
        mix: Float32Array.from({ length: size + 2 * reach }, (_, i) => mixAt(at - reach + i)),
      };
    });

  it.each([
    [0, 1],
    [657, 1],
    [-311, -1],
  ])('%i frames late, polarity %i', (late, sign) => {
    const found = alignMix(
      blocksOf((frame) => sign * (sum[frame - late] ?? 0)),
      RATE,
      reach,
    );
    expect(Math.abs((found?.offsetFrames as number) - late)).toBeLessThan(0.3);
    expect(Math.abs(found?.driftPpm as number)).toBeLessThan(0.5);
    expect(found?.isInverted).toBe(sign < 0);
  });

  it('drifting by 60 ppm', () => {
    const drifting = readAligned(
      sum,
      0,
      { offsetFrames: -120, driftPpm: -60, isInverted: false, agreement: 1 },
      { from: 0, count: sum.length },
    );
    const found = alignMix(
      blocksOf((frame) => drifting[frame] ?? 0),
      RATE,
      reach,
    );
    expect(Math.abs((found?.driftPpm as number) - 60)).toBeLessThan(1);
    expect(Math.abs((found?.offsetFrames as number) - 120)).toBeLessThan(0.6);
  });

  it('a few blocks that lie elsewhere make no drift', () => {
    const late = (frames: number): AlignBlock[] => blocksOf((frame) => sum[frame - frames] ?? 0);
    // The last two are found elsewhere, as even notes are.
    const blocks = [...late(0).slice(0, 3), ...late(40).slice(3, 4), ...late(80).slice(4)];
    const found = alignMix(blocks, RATE, reach);
    expect(found).toMatchObject({ offsetFrames: 0, driftPpm: 0, isInverted: false });
  });

  it('something else altogether is not placed', () => {
    const other = createRandom(99);
    expect(
      alignMix(
        blocksOf(() => other() - 0.5),
        RATE,
        reach,
      ),
    ).toBeNull();
  });
});

describe('the rough balance', () => {
  const track = (more: Partial<RoughTrack>): RoughTrack => ({
    family: 'guitars',
    part: null,
    role: null,
    position: null,
    side: null,
    number: null,
    channels: 1,
    integratedLufs: -24,
    ...more,
  });

  it('sets the voice forward, overheads under kick and snare, whatever their loudness as recorded', () => {
    const tracks = [
      track({ family: 'lead-vocal', integratedLufs: -35 }),
      track({ family: 'guitars', integratedLufs: -12 }),
      track({ family: 'drums', part: 'kick', integratedLufs: -20 }),
      track({ family: 'drums', part: 'overhead', integratedLufs: -20 }),
      track({ integratedLufs: null }),
    ];
    const reached = roughBalance(tracks).map((s, i) => s.gainDb + (tracks[i]?.integratedLufs ?? 0));
    expect(reached[0]).toBeGreaterThan((reached[1] as number) + 3);
    expect(reached[2]).toBeGreaterThan((reached[3] as number) + 3);
    expect(roughBalance(tracks)[4]?.gainDb).toBe(0);
  });

  it('spreads pairs, doubles and toms, and leaves what carries in the middle', () => {
    const pans = roughBalance([
      track({ family: 'drums', part: 'overhead', side: 'left' }),
      track({ family: 'drums', part: 'overhead', side: 'right' }),
      track({ number: 1 }),
      track({ number: 2 }),
      track({ family: 'drums', part: 'tom', number: 1 }),
      track({ family: 'drums', part: 'tom', number: 2 }),
      track({ family: 'bass' }),
      track({ family: 'keys', channels: 2 }),
    ]).map((s) => s.pan);
    expect(pans[0]).toBe(-(pans[1] as number));
    expect(pans[2]).toBe(-(pans[3] as number));
    expect(pans[4]).toBeGreaterThan(pans[5] as number);
    expect(pans.slice(6)).toEqual([0, 0]);
  });
});
