import { plainTrack } from '../../../tests/support/random-edits';
import { type Clip, FADE_SHAPES, type Lane, lanesOf, type Track, wholeClip } from '../session';
import { createRandom, type Random } from '../units';
import { addPiece, arrangedBlocks, channelsOf, endOf, gainAt, type Piece, piecesOf } from './index';

const clip = (change: Partial<Clip>): Clip => ({ ...wholeClip('lane-t')[0], id: 'c', ...change });
const lane = (change: Partial<Lane>): Lane => ({ ...(lanesOf(plainTrack('t'))[0] as Lane), ...change });
const track = (clips: readonly Clip[], change: Partial<Track> = {}): Track => ({
  ...plainTrack('t'),
  clips,
  ...change,
});
const sounding = (t: Track, lengthFrames = 1000): Piece<string>[] =>
  piecesOf(t, (l) => ({ sound: l.recordingId, lengthFrames }));

describe('piecesOf', () => {
  it('gives all of a recording as it came, where it stands', () => {
    expect(sounding(plainTrack('t'))).toEqual([
      expect.objectContaining({ sound: 'r-t', fromFrames: 0, toFrames: 1000, soundFrames: 0, gain: 1 }),
    ]);
    expect(sounding({ ...plainTrack('t'), startFrames: -300 })[0]).toMatchObject({
      fromFrames: -300,
      toFrames: 700,
      soundFrames: 0,
    });
  });
  it('cuts to the clip and to the sound, whichever is shorter', () => {
    const [piece] = sounding(track([clip({ fromFrames: 200, toFrames: 5000 })], { startFrames: 100 }));
    expect(piece).toMatchObject({ fromFrames: 200, toFrames: 1100, soundFrames: 100, clipToFrames: 5000 });
    expect(sounding(track([clip({ fromFrames: 1000, toFrames: 2000 })]))).toEqual([]);
  });
  it('moves the sound under a clip by its slip, and the open edge of a clip with it', () => {
    expect(sounding(track([clip({ fromFrames: 200, toFrames: 300, slipFrames: 50 })]))[0]).toMatchObject({
      fromFrames: 200,
      soundFrames: 150,
    });
    expect(sounding(track([clip({ slipFrames: 50 })]))[0]).toMatchObject({ fromFrames: 50, toFrames: 1050 });
  });
  it('is silent where a clip is off, where there is none, and where the sound is not there', () => {
    expect(sounding(track([clip({ off: true })]))).toEqual([]);
    expect(sounding(track([]))).toEqual([]);
    expect(piecesOf(plainTrack('t'), () => null)).toEqual([]);
  });
  it('takes each clip from its lane: polarity, side and level', () => {
    const other = lane({ id: 'other', recordingId: 'second', inverted: true, monoFrom: 'right' });
    const pieces = sounding(
      track(
        [
          clip({ id: 'a', toFrames: 400 }),
          clip({ id: 'b', laneId: 'other', fromFrames: 400, gainDb: -6.0206 }),
        ],
        { otherLanes: [other] },
      ),
    );
    expect(pieces.map((p) => [p.sound, p.fromChannel])).toEqual([
      ['r-t', null],
      ['second', 1],
    ]);
    expect(pieces[1]?.gain).toBeCloseTo(-0.5, 5);
    expect(channelsOf(pieces, (sound) => (sound === 'second' ? 6 : 2))).toBe(2);
    expect(endOf(pieces)).toBe(1000);
  });
});

describe('gain', () => {
  const faded = (fade: Partial<Clip>): Piece<string> =>
    sounding(track([clip({ fromFrames: 100, toFrames: 300, ...fade })]))[0] as Piece<string>;
  it('goes in and out evenly, the same from both ends', () => {
    const piece = faded({ fadeInFrames: 4, fadeOutFrames: 4 });
    const at = (frame: number): number => gainAt(piece, frame);
    expect([100, 101, 102, 103, 104].map(at)).toEqual([0.125, 0.375, 0.625, 0.875, 1]);
    expect([299, 298, 297, 296, 295].map(at)).toEqual([0.125, 0.375, 0.625, 0.875, 1]);
  });
  it.each(FADE_SHAPES)('of two that cross over as %s keeps its sum, or that of its powers', (shape) => {
    const out = faded({ fadeOutFrames: 37, fadeOutShape: shape });
    const into = faded({
      fromFrames: 263,
      toFrames: 500,
      fadeInFrames: 37,
      fadeInShape: shape,
    });
    for (let frame = 255; frame < 310; frame++) {
      const [a, b] = [frame < 300 ? gainAt(out, frame) : 0, frame >= 263 ? gainAt(into, frame) : 0];
      expect(shape === 'equal-gain' ? a + b : a * a + b * b).toBeCloseTo(1, 12);
    }
  });
  it('is that of the rule wherever a block begins (seed 5)', () => {
    const random = createRandom(5);
    for (let round = 0; round < 200; round++) {
      const piece = faded({
        fadeInFrames: Math.floor(random() * 90),
        fadeOutFrames: Math.floor(random() * 90),
        fadeInShape: random() < 0.5 ? 'equal-gain' : 'equal-power',
        gainDb: random() * 6 - 3,
      });
      const [begin, outBegin] = [100 + Math.floor(random() * 150), 80 + Math.floor(random() * 200)];
      const samples = Float32Array.from({ length: 1 + Math.floor(random() * 50) }, () => random() - 0.5);
      const out = new Float64Array(60);
      addPiece(out, outBegin, piece, samples, begin);
      const want = Array.from(out, (_, i) => {
        const sample = samples[outBegin + i - begin];
        return sample === undefined ? 0 : sample * gainAt(piece, outBegin + i);
      });
      out.forEach((x, i) => expect(x).toBeCloseTo(want[i] as number, 12));
    }
  });
});

/** Clips one behind the other, some apart and some crossing over. */
function randomClips(random: Random, laneIds: readonly string[]): Clip[] {
  const clips: Clip[] = [];
  let at = Math.floor(random() * 60) - 30;
  for (let i = 0; i < 1 + Math.floor(random() * 5); i++) {
    const length = 20 + Math.floor(random() * 60);
    const before = clips.at(-1);
    const cross = before && random() < 0.5 ? 1 + Math.floor(random() * 8) : 0;
    if (before && cross > 0) clips[clips.length - 1] = { ...before, fadeOutFrames: cross };
    else at += Math.floor(random() * 10);
    clips.push(
      clip({
        id: `c${i}`,
        laneId: laneIds[Math.floor(random() * laneIds.length)] as string,
        fromFrames: at - cross,
        toFrames: at + length,
        slipFrames: random() < 0.3 ? Math.floor(random() * 20) - 10 : 0,
        gainDb: random() < 0.3 ? random() * 6 - 3 : 0,
        fadeInFrames: cross,
        fadeInShape: random() < 0.5 ? 'equal-gain' : 'equal-power',
        off: random() < 0.1,
      }),
    );
    at += length;
  }
  return clips;
}

describe('arrangedBlocks', () => {
  /** The same by the plain rule, a frame at a time. */
  const plainly = (t: Track, sounds: Readonly<Record<string, Float32Array>>, frame: number): number =>
    t.clips.reduce((sum, c) => {
      const l = lanesOf(t).find((x) => x.id === c.laneId) as Lane;
      const sample = sounds[l.recordingId]?.[frame - l.startFrames - c.slipFrames];
      if (c.off || sample === undefined) return sum;
      const [from, to] = [c.fromFrames ?? -Infinity, c.toFrames ?? Infinity];
      if (frame < from || frame >= to) return sum;
      const part = (shape: string, index: number, frames: number): number => {
        const share = index >= frames ? 1 : (index + 0.5) / frames;
        return shape === 'equal-gain' || share === 1 ? share : Math.sin((share * Math.PI) / 2);
      };
      const gain =
        (l.inverted ? -1 : 1) *
        10 ** (c.gainDb / 20) *
        part(c.fadeInShape, frame - from, c.fadeInFrames) *
        part(c.fadeOutShape, to - 1 - frame, c.fadeOutFrames);
      return sum + sample * gain;
    }, 0);

  it('equals the plain rule, of several takes, cut, slipped and crossed over (seed 8)', async () => {
    const random = createRandom(8);
    for (let round = 0; round < 100; round++) {
      const otherLanes = [1, 2].map((n) =>
        lane({ id: `l${n}`, recordingId: `s${n}`, startFrames: 3 * n, inverted: random() < 0.5 }),
      );
      const t = track(randomClips(random, ['lane-t', 'l1', 'l2']), { otherLanes, startFrames: -5 });
      const sounds = Object.fromEntries(
        lanesOf(t).map((l) => [
          l.recordingId,
          Float32Array.from({ length: 30 + Math.floor(random() * 300) }, () => random() - 0.5),
        ]),
      );
      const pieces = piecesOf(t, (l) => ({
        sound: l.recordingId,
        lengthFrames: (sounds[l.recordingId] as Float32Array).length,
      }));
      const [from, to] = [-40 + Math.floor(random() * 80), 60 + Math.floor(random() * 300)];
      let at = from;
      const read = (id: string, begin: number, count: number): Promise<Float32Array[]> =>
        Promise.resolve([(sounds[id] as Float32Array).slice(begin, begin + count)]);
      for await (const [block] of arrangedBlocks(pieces, { channels: 1, from, to }, read))
        for (const x of block as Float32Array) expect(x).toBeCloseTo(plainly(t, sounds, at++), 6);
      expect(at).toBe(to);
    }
  });
  it('equals the plain rule block after block where one piece covers them, up to its fades and its end', async () => {
    const frames = 3 * 65_536 + 500;
    const sounds = { 'r-t': Float32Array.from({ length: frames - 900 }, (_, i) => Math.sin(i * i)) };
    for (const change of [
      {},
      { gainDb: -6.3 },
      { fromFrames: 0, toFrames: frames - 900, fadeInFrames: 65_530, fadeOutFrames: 20 },
      { toFrames: 2 * 65_536 },
    ])
      for (const inverted of [false, true]) {
        const t = track([clip(change)], { inverted });
        const pieces = piecesOf(t, () => ({ sound: 'r-t', lengthFrames: frames - 900 }));
        const read = (_: string, from: number, n: number): Promise<Float32Array[]> =>
          Promise.resolve([sounds['r-t'].slice(from, from + n)]);
        let at = 0;
        let off = 0;
        for await (const [block, twin] of arrangedBlocks(
          pieces,
          { channels: 2, from: 0, to: frames },
          read,
        )) {
          for (const x of block as Float32Array) off = Math.max(off, Math.abs(x - plainly(t, sounds, at++)));
          expect(twin).toEqual(block);
          expect((block as Float32Array).some((x) => Object.is(x, -0))).toBe(false);
        }
        expect(at).toBe(frames);
        expect(off).toBeLessThan(1e-7);
      }
  });
  it('leaves samples alone where nothing is to be done to them', async () => {
    const odd = Float32Array.of(0.1, -1, 1e-9, 1.5, 0.3);
    const pieces = piecesOf(track([clip({ fromFrames: 1 })]), () => ({ sound: odd, lengthFrames: 5 }));
    const read = (s: Float32Array, from: number, n: number): Promise<Float32Array[]> =>
      Promise.resolve([s.subarray(from, from + n)]);
    const blocks = [];
    for await (const block of arrangedBlocks(pieces, { channels: 2, from: -1, to: 6 }, read))
      blocks.push(block);
    expect(blocks.map((b) => b.map((c) => [...c]))).toEqual([
      Array.from({ length: 2 }, () => [0, 0, ...odd.slice(1), 0]),
    ]);
  });
});
it('what cancels where it crosses over is silent, whatever its level', async () => {
  const sound = Float32Array.from({ length: 400 }, (_, i) => Math.sin(i * i));
  const t = track(
    [
      clip({ id: 'a', toFrames: 300, fadeOutFrames: 100, gainDb: 23.7 }),
      clip({ id: 'b', laneId: 'l1', fromFrames: 200, fadeInFrames: 100, gainDb: 23.7 }),
    ],
    { otherLanes: [lane({ id: 'l1', inverted: true })] },
  );
  const pieces = piecesOf(t, () => ({ sound, lengthFrames: 400 }));
  const read = (s: Float32Array, from: number, n: number): Promise<Float32Array[]> =>
    Promise.resolve([s.subarray(from, from + n)]);
  for await (const [block] of arrangedBlocks(pieces, { channels: 1, from: 240, to: 260 }, read)) {
    const want = (frame: number): number =>
      (sound[frame] as number) * 10 ** 1.185 * (1 - (2 * (frame - 200 + 0.5)) / 100);
    (block as Float32Array).forEach((x, i) =>
      expect(Math.abs(x - want(240 + i))).toBeLessThanOrEqual(2 ** -23 * Math.abs(want(240 + i)) + 1e-15),
    );
  }
});
