import { createRandom } from '../units';
import {
  AttackFinder,
  attackRank,
  createWarp,
  type EditList,
  mergeAttacks,
  planGroups,
  planMoves,
  planSlices,
  type ReadFrames,
  refineAttack,
  renderEditList,
  renderHeld,
  soundRegions,
  sourceKeys,
  type Vocoder,
} from './index';

const RATE = 48_000;

/** Channels in memory as a source; silence outside. */
const reader =
  (channels: readonly Float32Array[]): ReadFrames =>
  (start, frames) => {
    expect(Number.isInteger(start) && frames >= 0).toBe(true);
    return Promise.resolve(
      channels.map((c) => {
        const out = new Float32Array(frames);
        for (let i = 0; i < frames; i++) out[i] = c[start + i] ?? 0;
        return out;
      }),
    );
  };

async function collect(blocks: AsyncGenerator<readonly Float32Array[]>): Promise<Float32Array[]> {
  const parts: (readonly Float32Array[])[] = [];
  for await (const b of blocks) parts.push(b.map((c) => c.slice()));
  return (parts[0] ?? []).map((_, c) => Float32Array.from(parts.flatMap((p) => [...(p[c] as Float32Array)])));
}

/** Short knocks at given moments: a burst with an edge, dying away in 30 ms. */
function knocks(moments: readonly number[], seconds: number, seed = 1): Float32Array {
  const random = createRandom(seed);
  const { exp } = Math;
  const out = new Float32Array(Math.round(seconds * RATE));
  for (const t of moments)
    for (let i = 0, at = Math.round(t * RATE); i < 3000 && at + i < out.length; i++)
      out[at + i] = (i === 0 ? 0.9 : (random() - 0.5) * exp(-i / 500)) + (out[at + i] as number);
  return out;
}

describe('an edit list', () => {
  it('equals a plain sum of ramped copies, whole or in part, for any list (seed 4)', async () => {
    const random = createRandom(4);
    const whole = (n: number): number => Math.floor(random() * n);
    for (let round = 0; round < 60; round++) {
      const source = Float32Array.from({ length: 500 + whole(3000) }, () => random() - 0.5);
      let at = 0;
      const segments = Array.from({ length: 1 + whole(12) }, (_, i) => {
        const step = 1 + whole(400);
        const s = { at, source: random() < 0.2 ? null : whole(source.length), fade: i === 0 ? 0 : whole(60) };
        at += step;
        return { ...s, step };
      });
      const list: EditList = {
        frames: at,
        segments: segments.map((s, i) => ({
          at: s.at,
          source: s.source,
          fade: Math.min(
            s.fade,
            i === 0 ? 0 : (segments[i - 1] as { step: number }).step,
            s.source ?? s.fade,
          ),
        })),
      };
      const plain = new Float32Array(list.frames);
      list.segments.forEach((s, i) => {
        const next = list.segments[i + 1];
        const stop = next?.at ?? list.frames;
        for (let t = s.at - s.fade; t < stop; t++) {
          const rise = t < s.at ? (t - (s.at - s.fade) + 0.5) / s.fade : 1;
          const fall = next && t >= stop - next.fade ? 1 - (t - (stop - next.fade) + 0.5) / next.fade : 1;
          if (s.source !== null)
            plain[t] = (plain[t] as number) + Math.fround(rise * fall * (source[s.source + t - s.at] ?? 0));
        }
      });
      const [from, to] = [whole(at / 2), at - whole(at / 2)];
      for (const range of [undefined, { from, to }]) {
        const [out] = (await collect(renderEditList(list, 1, reader([source]), range))) as [Float32Array];
        const want = range ? plain.subarray(from, to) : plain;
        expect(out.length).toBe(want.length);
        out.forEach((v, i) => {
          if (Math.abs(v - (want[i] as number)) > 1e-6)
            throw new Error(`round ${round}, frame ${i}: ${v} instead of ${want[i]}`);
        });
      }
    }
  });
});

describe('finding hits', () => {
  it('knows each hit to the sample on a quiet ground', () => {
    const moments = [0.5, 0.75, 1.1, 1.9];
    const x = knocks(moments, 2.5);
    const finder = new AttackFinder(RATE);
    for (let i = 0; i < x.length; i += 777) finder.push(x.subarray(i, i + 777));
    const found = finder
      .finish()
      .map((a) => a.frame - 192 + refineAttack(x.slice(a.frame - 192, a.frame + 384), 144));
    expect(found).toEqual(moments.map((t) => Math.round(t * RATE)));
  });
  it('finds none in silence, and none in a steady tone after its beginning', () => {
    const silent = new AttackFinder(RATE);
    silent.push(new Float32Array(9000));
    expect(silent.finish()).toEqual([]);
    const steady = new AttackFinder(RATE);
    steady.push(Float32Array.from({ length: 3 * RATE }, (_, i) => Math.sin(i / 40)));
    expect(steady.finish().filter((a) => a.frame > 0.1 * RATE)).toEqual([]);
  });
  it('leads with the leading channels; bleed of the same hit adds none', () => {
    const near = [
      { frame: 10_000, strength: 1 },
      { frame: 30_000, strength: 0.8 },
    ];
    const overhead = [
      { frame: 10_120, strength: 0.7 },
      { frame: 20_000, strength: 0.4 },
      { frame: 30_100, strength: 1 },
    ];
    expect(
      mergeAttacks(
        [
          { attacks: overhead, rank: 2 },
          { attacks: near, rank: 0 },
        ],
        RATE,
      ).map((a) => [a.frame, a.channel]),
    ).toEqual([
      [10_000, 1],
      [20_000, 0],
      [30_000, 1],
    ]);
  });
});

describe('slices', () => {
  const moments = Array.from({ length: 20 }, (_, i) => 0.4 + i * 0.31 + (i % 3) * 0.004);
  const sourceFrames = 7 * RATE;
  const plan = (channels: readonly Float32Array[], warp: ReturnType<typeof createWarp>) => {
    const outputFrames = Math.round(warp.toConformed(7) * RATE);
    return planSlices(
      {
        attacks: moments.map((t) => Math.round(t * RATE)),
        warp,
        sampleRateHz: RATE,
        sourceFrames,
        outputFrames,
      },
      reader(channels),
    );
  };
  it.each([0.8, 0.9, 0.98, 1.02, 1.1, 1.3])(
    'at ratio %d every hit lies at its place to the sample, whole, and the length is as planned',
    async (ratio) => {
      const x = knocks(moments, 7);
      const warp = createWarp(moments.map((t, i) => ({ played: t, conformed: 0.4 + i * 0.31 * ratio })));
      const list = await plan([x], warp);
      const [out] = (await collect(renderEditList(list, 1, reader([x])))) as [Float32Array];
      expect(out.length).toBe(list.frames);
      moments.forEach((t, i) => {
        const [from, to] = [Math.round(t * RATE), Math.round((0.4 + i * 0.31 * ratio) * RATE)];
        expect([...out.slice(to, to + 1500)]).toEqual([...x.slice(from, from + 1500)]);
      });
    },
  );
  it('ratio 1 copies the samples, a shift moves them', async () => {
    const x = knocks(moments, 7);
    for (const shift of [0, 0.25, -0.25]) {
      const list = await plan(
        [x],
        createWarp([
          { played: 1, conformed: 1 + shift },
          { played: 2, conformed: 2 + shift },
        ]),
      );
      const [out] = (await collect(renderEditList(list, 1, reader([x])))) as [Float32Array];
      const by = Math.round(shift * RATE);
      out.forEach((v, i) => {
        if (v !== (x[i - by] ?? 0)) throw new Error(`shift ${shift}: frame ${i}`);
      });
    }
  });
  it('channels share the cuts: equal channels stay equal', async () => {
    const x = knocks(moments, 7);
    const y = x.map((v) => v / 2);
    const list = await plan(
      [x, y],
      createWarp(moments.map((t, i) => ({ played: t, conformed: 0.4 + i * 0.33 }))),
    );
    const [a, b] = (await collect(renderEditList(list, 2, reader([x, y])))) as [Float32Array, Float32Array];
    a.forEach((v, i) => {
      if (Math.abs(v - 2 * (b[i] as number)) > 1e-7) throw new Error(`frame ${i}`);
    });
  });
});

describe('moving without stretching', () => {
  it('each region goes where its beginning goes, unchanged; silence between', async () => {
    const x = new Float32Array(4 * RATE);
    x.fill(0.25, RATE, 1.5 * RATE);
    x.fill(0.5, 2.5 * RATE, 3 * RATE);
    const regions = soundRegions(
      Array.from({ length: 400 }, (_, k) => Math.abs(x[k * 480 + 240] as number)),
      { stepFrames: 480, floor: 0.001, gapSteps: 20, totalFrames: x.length },
    );
    expect(regions.map((r) => [r.from, r.to])).toEqual([
      [RATE - 480, 1.5 * RATE + 480],
      [2.5 * RATE - 480, 3 * RATE + 480],
    ]);
    const warp = createWarp([
      { played: 0, conformed: 0 },
      { played: 4, conformed: 4.4 },
    ]);
    const list = planMoves({ regions, warp, sampleRateHz: RATE, outputFrames: Math.round(4.4 * RATE) });
    const [out] = (await collect(renderEditList(list, 1, reader([x])))) as [Float32Array];
    const at = Math.round(warp.toConformed((RATE - 480) / RATE) * RATE);
    expect(out.slice(at, at + 480 + RATE / 2).every((v, i) => v === (x[RATE - 480 + i] as number))).toBe(
      true,
    );
    expect(out.filter((v) => v === 0.5)).toHaveLength(RATE / 2);
    expect(out.length).toBe(Math.round(4.4 * RATE));
  });
});

/** A stand-in that takes for each output frame the input at its place: what is tested is how it is driven. */
function plainVocoder(channels: number, latencies = { input: 700, output: 500 }): Vocoder {
  // Output is late by both latencies: keep a history of inputs and answer with nearest neighbours.
  let history: Float32Array[] = [];
  let places: number[] = [];
  return {
    maxFrames: 1 << 16,
    inputLatency: latencies.input,
    outputLatency: latencies.output,
    seek(before) {
      history = before.map((c) => Float32Array.from(c));
      places = [];
    },
    process(inputs, frames) {
      const start = history[0]?.length ?? 0;
      const taken = inputs[0]?.length ?? 0;
      history = history.map((h, c) => {
        const out = new Float32Array(h.length + taken);
        out.set(h);
        out.set(inputs[c] as Float32Array, h.length);
        return out;
      });
      for (let i = 0; i < frames; i++) places.push(start + (i * taken) / frames - latencies.input);
      return Array.from({ length: channels }, (_, c) =>
        Float32Array.from(
          { length: frames },
          (__, i) =>
            history[c]?.[Math.round(places[places.length - frames + i - latencies.output] ?? NaN)] ?? 0,
        ),
      );
    },
  };
}

describe('held', () => {
  const x = Float32Array.from({ length: 4 * RATE }, (_, i) => i);
  it('asks the vocoder for the right moment: every output frame shows the source of its place', async () => {
    const warp = createWarp([
      { played: 0.5, conformed: 0.5 },
      { played: 1.5, conformed: 1.53 },
      { played: 3.9, conformed: 3.85 },
    ]);
    const outputFrames = Math.round(warp.toConformed(4) * RATE);
    const [out] = (await collect(
      renderHeld(
        { warp, sampleRateHz: RATE, channels: 1, outputFrames, from: 0, to: outputFrames },
        plainVocoder(1),
        reader([x]),
      ),
    )) as [Float32Array];
    expect(out.length).toBe(outputFrames);
    for (let i = 0.55 * RATE; i < 3.8 * RATE; i += 97)
      expect(
        Math.abs((out[Math.round(i)] as number) - warp.toPlayed(Math.round(i) / RATE) * RATE),
      ).toBeLessThan(12);
  });
  it('copies what has ratio 1 for long, sample for sample, and joins it to the rest', async () => {
    const warp = createWarp([
      { played: 2, conformed: 2 },
      { played: 3, conformed: 3.1 },
    ]);
    const outputFrames = Math.round(4.1 * RATE);
    const [out] = (await collect(
      renderHeld(
        { warp, sampleRateHz: RATE, channels: 1, outputFrames, from: 0, to: outputFrames },
        plainVocoder(1),
        reader([x]),
      ),
    )) as [Float32Array];
    expect(out.subarray(0, Math.round(1.98 * RATE)).every((v, i) => v === i)).toBe(true);
  });
  it('an excerpt is what the whole has there', async () => {
    const warp = createWarp([
      { played: 0, conformed: 0 },
      { played: 4, conformed: 4.2 },
    ]);
    const all = { warp, sampleRateHz: RATE, channels: 1, outputFrames: Math.round(4.2 * RATE) };
    const [whole] = (await collect(
      renderHeld({ ...all, from: 0, to: all.outputFrames }, plainVocoder(1), reader([x])),
    )) as [Float32Array];
    const [part] = (await collect(
      renderHeld({ ...all, from: RATE, to: 2 * RATE }, plainVocoder(1), reader([x])),
    )) as [Float32Array];
    expect(part.length).toBe(RATE);
    part.forEach((v, i) => {
      if (Math.abs(v - (whole[RATE + i] as number)) > 2)
        throw new Error(`frame ${i}: ${v} and ${whole[RATE + i]}`);
    });
  });
  it('the same map is a copy of everything', async () => {
    const warp = createWarp([
      { played: 0, conformed: 0 },
      { played: 4, conformed: 4 },
    ]);
    const [out] = (await collect(
      renderHeld(
        { warp, sampleRateHz: RATE, channels: 1, outputFrames: x.length, from: 0, to: x.length },
        plainVocoder(1),
        reader([x]),
      ),
    )) as [Float32Array];
    expect(out.every((v, i) => v === i)).toBe(true);
  });
});

describe('what goes together', () => {
  const track = (
    id: string,
    family: 'drums' | 'bass' | 'guitars' | 'percussion',
    part: string,
    more: object = {},
  ) => ({ id, family, part, sourceKey: null, sampleRateHz: RATE, treatment: null, ...more });
  it('one kit, one group a source, the rest alone; methods by family', () => {
    const groups = planGroups([
      track('k', 'drums', 'kick'),
      track('b1', 'bass', 'electric-bass', { sourceKey: 'b' }),
      track('s', 'drums', 'snare'),
      track('b2', 'bass', 'electric-bass', { sourceKey: 'b' }),
      track('g', 'guitars', 'guitar'),
      track('p', 'percussion', 'shaker'),
    ]);
    expect(groups.map((g) => [g.trackIds.join('+'), g.method, g.block])).toEqual([
      ['k+s', 'slices', 'short'],
      ['b1+b2', 'held', 'long'],
      ['g', 'held', 'middle'],
      ['p', 'slices', 'short'],
    ]);
  });
  it('another choice or rate takes a track out of its group; a drum loop is no microphone', () => {
    expect(
      planGroups([
        track('k', 'drums', 'kick'),
        track('r', 'drums', 'room', { treatment: { method: 'held', block: 'short' } }),
        track('l', 'drums', 'loop'),
        track('o', 'drums', 'overhead', { sampleRateHz: 44_100 }),
      ]).map((g) => g.trackIds),
    ).toEqual([['k'], ['r'], ['l'], ['o']]);
  });
  it('pairs and microphones of one source share a key; kick and snare lead', () => {
    const fields = (part: string, position: string | null, side: string | null) => ({
      family: 'guitars' as const,
      part,
      role: null,
      number: null,
      position,
      side,
    });
    const keys = sourceKeys([
      fields('electric-guitar', 'di', null),
      fields('electric-guitar', 'amp', null),
      fields('acoustic-guitar', null, 'left'),
      fields('ukulele', null, null),
      fields('acoustic-guitar', null, 'right'),
    ]);
    expect([keys[0] === keys[1], keys[2] === keys[4], keys[0] === keys[2], keys[3]]).toEqual([
      true,
      true,
      false,
      null,
    ]);
    expect([attackRank('kick'), attackRank('hihat'), attackRank('overhead'), attackRank(null)]).toEqual([
      0, 1, 2, 2,
    ]);
  });
});
