import { plainTrack } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import type { Track } from '../session';
import { withChoices } from './choices';
import { cutClips, cutLane, isSameCut, keptStretches, type Stretch } from './cut-clips';
import type { TidyPiece } from './reasons';

const LENGTH = 48_000;
const track: Track = { ...plainTrack('t'), startFrames: 1000 };
const cut = (of: Track, kept: readonly Stretch[], fadeFrames = 480): Track => {
  const lane = cutLane(of);
  if (!lane) throw new Error('it cannot be cut');
  return {
    ...of,
    clips: cutClips(of, { lane, lengthFrames: LENGTH, kept, fadeFrames }),
  };
};
const stretches = (of: Track): Stretch[] => {
  const lane = cutLane(of);
  return lane ? keptStretches(of, lane, LENGTH) : [];
};

it('leaves the ends open that were not cut, fades the others, and is whole again with all of it', () => {
  const pieces = cut(track, [
    { fromFrames: 1000, toFrames: 5000 },
    { fromFrames: 9000, toFrames: 9400 },
    { fromFrames: 20_000, toFrames: 49_000 },
  ]);
  expect(pieces.clips.map((c) => [c.fromFrames, c.toFrames, c.fadeInFrames, c.fadeOutFrames])).toEqual([
    [null, 5000, 0, 480],
    [9000, 9400, 200, 200],
    [20_000, null, 480, 0],
  ]);
  expect(cut(pieces, [{ fromFrames: 0, toFrames: 60_000 }]).clips).toEqual(track.clips);
});

it('the same cut has the same ids whoever makes it; another track has others', () => {
  const kept = [
    { fromFrames: 2000, toFrames: 4000 },
    { fromFrames: 6000, toFrames: 8000 },
  ];
  const ids = (of: Track): string[] => cut(of, kept).clips.map((c) => c.id);
  expect(ids(track)).toEqual(ids(track));
  expect(new Set([...ids(track), ...ids({ ...plainTrack('u'), startFrames: 1000 })]).size).toBe(4);
});

it('pieces keep the level they had', () => {
  const [whole] = track.clips;
  if (!whole) throw new Error('no clip');
  const louder = {
    ...track,
    clips: [
      { ...whole, id: 'a', toFrames: 10_000, gainDb: 3 },
      { ...whole, id: 'b', fromFrames: 10_000, gainDb: -2 },
    ],
  };
  const kept = [
    { fromFrames: 2000, toFrames: 4000 },
    { fromFrames: 12_000, toFrames: 14_000 },
  ];
  expect(cut(louder, kept).clips.map((c) => c.gainDb)).toEqual([3, -2]);
});

it('says what stays as it was cut, whatever was asked for', () => {
  const random = createRandom(9);
  for (let round = 0; round < 50; round++) {
    const edges = Array.from({ length: 2 * (1 + Math.floor(random() * 6)) }, () =>
      Math.floor(random() * LENGTH),
    )
      .sort((a, b) => a - b)
      .filter((x, i, all) => x !== all[i - 1]);
    const kept = edges.flatMap((from, i) => {
      const to = edges[i + 1];
      return i % 2 === 0 && to !== undefined ? [{ fromFrames: 1000 + from, toFrames: 1000 + to }] : [];
    });
    if (kept.length > 0) expect(stretches(cut(track, kept))).toEqual(kept);
  }
});

it('does not touch what a person arranged', () => {
  const [whole] = track.clips;
  if (!whole) throw new Error('no clip');
  expect(cutLane({ ...track, clips: [{ ...whole, slipFrames: 10 }] })).toBeNull();
  expect(cutLane({ ...track, clips: [{ ...whole, off: true }] })).toBeNull();
  expect(cutLane({ ...track, clips: [whole, { ...whole, id: 'o', laneId: 'other' }] })).toBeNull();
  expect(cutLane({ ...track, clips: [] })).toBeNull();
});

it('cuts are the same within so many frames, never with another number of pieces', () => {
  const a = [{ fromFrames: 0, toFrames: 100 }];
  expect(isSameCut(a, [{ fromFrames: 3, toFrames: 97 }], 3)).toBe(true);
  expect(isSameCut(a, [{ fromFrames: 4, toFrames: 97 }], 3)).toBe(false);
  expect(isSameCut(a, [...a, { fromFrames: 200, toFrames: 300 }], 3)).toBe(false);
});

it('what was decided lies over what is proposed, without a gap, the later over the earlier', () => {
  const piece = (from: number, to: number, keeps: boolean): TidyPiece => ({
    ...{ from, to, keeps },
    reason: keeps ? 'sound' : 'noise',
    confidence: 0.9,
  });
  const proposed = [
    piece(0, 100, false),
    piece(100, 200, true),
    piece(200, 300, false),
    piece(300, 400, true),
  ];
  const kept = (choices: Parameters<typeof withChoices>[1]): [number, number][] =>
    withChoices(proposed, choices).flatMap((p) => (p.keeps ? [[p.from, p.to]] : []));
  expect(kept([])).toEqual([
    [100, 200],
    [300, 400],
  ]);
  expect(kept([{ from: 200, to: 300, keeps: true }])).toEqual([[100, 400]]);
  expect(kept([{ from: 300, to: 400, keeps: false }])).toEqual([[100, 200]]);
  expect(
    kept([
      { from: 90, to: 150, keeps: true },
      { from: 120, to: 130, keeps: false },
    ]),
  ).toEqual([
    [90, 120],
    [130, 200],
    [300, 400],
  ]);
  const random = createRandom(4);
  for (let round = 0; round < 50; round++) {
    const choices = Array.from({ length: 5 }, () => {
      const from = Math.floor(random() * 380);
      return { from, to: from + 1 + Math.floor(random() * 100), keeps: random() < 0.5 };
    });
    const all = withChoices(proposed, choices);
    expect(all[0]?.from).toBe(0);
    expect(all.at(-1)?.to).toBe(400);
    all.slice(1).forEach((p, i) => {
      expect(p.from).toBe(all[i]?.to);
      expect(p.keeps).not.toBe(all[i]?.keeps);
    });
    for (let n = 0; n < 400; n += 7) {
      const last = choices.findLast((c) => n >= c.from && n < c.to);
      const expected = last?.keeps ?? proposed.find((p) => n >= p.from && n < p.to)?.keeps;
      expect(all.find((p) => n >= p.from && n < p.to)?.keeps).toBe(expected);
    }
  }
});

it('what is silenced stays silent through a cut, whatever is kept', () => {
  const [whole] = track.clips;
  if (!whole) throw new Error('no clip');
  const talk: Track = {
    ...track,
    clips: [
      { ...whole, id: 'talk', toFrames: 9000, off: true },
      { ...whole, id: 'song', fromFrames: 9000 },
    ],
  };
  expect(stretches(talk)).toEqual([{ fromFrames: 9000, toFrames: 49_000 }]);
  const pieces = cut(talk, [{ fromFrames: 8000, toFrames: 20_000 }], 0);
  expect(pieces.clips.map((c) => [c.fromFrames, c.toFrames, c.off])).toEqual([
    [1000, 9000, true],
    [9000, 20_000, false],
  ]);
  expect(stretches(cut(pieces, [{ fromFrames: 0, toFrames: 60_000 }]))).toEqual(stretches(talk));
});
