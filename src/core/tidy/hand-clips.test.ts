import { plainTrack } from '../../../tests/support/random-edits';
import { piecesOf } from '../arrange';
import { applyChanges, type Clip, emptySession, type Lane, lanesOf, type Track } from '../session';
import { createRandom } from '../units';
import {
  bringBackAt,
  clipAt,
  crossAt,
  duplicateAt,
  edgeAt,
  fadeAt,
  type HandResult,
  type HandTrack,
  heardAt,
  joinAt,
  levelAt,
  muteAt,
  pullEdge,
  removeAt,
  repairAt,
  slipAt,
  splitAt,
  toldClips,
  trimmedTo,
} from './hand-clips';

const LENGTH = 48_000;
const LATE = 1000;
const second: Lane = {
  ...(lanesOf(plainTrack('t'))[0] as Lane),
  id: 'take-2',
  recordingId: 'r-2',
  startFrames: LATE,
};
const track: Track = { ...plainTrack('t'), startFrames: LATE, otherLanes: [second] };
const hand = (clips: readonly Clip[] = track.clips): HandTrack => ({
  track: { ...track, clips },
  lengthOf: () => LENGTH,
});
const after = (result: HandResult): HandTrack => {
  if (!result) throw new Error('nothing was done');
  return hand(result);
};
const edges = (h: HandTrack): (readonly [number, number])[] =>
  toldClips(h).map((c) => [c.fromFrames, c.toFrames]);

/** What sounds frame by frame, by the plain rule: lane and frame of its sound, for each piece; fades left aside. */
function heard(h: HandTrack, frame: number): string {
  return piecesOf(h.track, (lane) => ({ sound: lane.id, lengthFrames: LENGTH }))
    .filter((p) => frame >= p.fromFrames && frame < p.toFrames)
    .map((p) => `${p.sound}@${p.soundFrames + frame - p.fromFrames} ${p.gain.toFixed(3)}`)
    .join(' + ');
}

it('trimmed to a stretch nothing sounds outside of it, inside all is as before; what is silent stays, and an edge pulled brings it back', () => {
  const stretch = { fromFrames: 10_000, toFrames: 30_000 };
  const fades = { inFrames: 100, outFrames: 2000 };
  const trimmed = after(trimmedTo(hand(), stretch, fades));
  expect(trimmed.track.clips).toMatchObject([
    { ...stretch, fadeInFrames: 100, fadeOutFrames: 2000, slipFrames: 0 },
  ]);
  for (const frame of [1000, 9999, 30_000, 48_999]) expect(heard(trimmed, frame)).toBe('');
  expect(heard(trimmed, 20_000)).toBe(heard(hand(), 20_000));
  expect(trimmedTo(trimmed, stretch, fades)).toBeNull();
  expect(edges(after(edgeAt(trimmed, 20_000, 'begin', 0)))).toEqual([[LATE, 30_000]]);

  const cut = after(splitAt(after(splitAt(hand(), 5000)), 20_000));
  const talk = after(muteAt(cut, 3000));
  const apart = after(trimmedTo(talk, stretch, fades));
  expect(toldClips(apart).map((c) => [c.fromFrames, c.toFrames, c.off, c.fadeOutFrames])).toEqual([
    [LATE, 5000, true, 0],
    [10_000, 20_000, false, 0],
    [20_000, 30_000, false, 2000],
  ]);
  // A track of which nothing would be left stays as it is.
  expect(trimmedTo(hand(), { fromFrames: 60_000, toFrames: 70_000 }, fades)).toBeNull();
});

it('a split sounds as before, its outer ends stay open, and joined it is whole again', () => {
  const split = after(splitAt(hand(), 20_000));
  expect(split.track.clips.map((c) => [c.fromFrames, c.toFrames])).toEqual([
    [null, 20_000],
    [20_000, null],
  ]);
  for (const frame of [1000, 19_999, 20_000, 48_999]) expect(heard(split, frame)).toBe(heard(hand(), frame));
  expect(joinAt(split, 5000)).toEqual(track.clips);
  expect(splitAt(hand(), 1004)).toBeNull();
  expect(splitAt(hand(), 500)).toBeNull();
});

it('takes a piece out, silences one, sets one louder; the last of a track stays', () => {
  const split = after(splitAt(after(splitAt(hand(), 20_000)), 30_000));
  expect(edges(after(removeAt(split, 25_000)))).toEqual([
    [1000, 20_000],
    [30_000, 49_000],
  ]);
  const quiet = after(muteAt(split, 25_000));
  expect(heard(quiet, 25_000)).toBe('');
  expect(heard(after(muteAt(quiet, 25_000)), 25_000)).toBe(heard(hand(), 25_000));
  expect(heard(after(levelAt(split, 25_000, -6)), 25_000)).toMatch(/ 0\.501$/);
  expect(heard(after(levelAt(split, 25_000, -6)), 35_000)).toBe(heard(hand(), 35_000));
  expect(removeAt(hand(), 5000)).toBeNull();
  expect(removeAt(hand(), 500)).toBeNull();
});

it('slips the sound under a piece, its edges stay; back again it is as it was', () => {
  const split = after(splitAt(hand(), 20_000));
  const late = after(slipAt(split, 30_000, 480));
  expect(heard(late, 30_000)).toBe('lane-t@28520 1.000');
  expect(heard(late, 19_999)).toBe(heard(split, 19_999));
  expect(edges(late)).toEqual(edges(split));
  expect(edges(after(slipAt(late, 30_000, -480)))).toEqual(edges(split));
  // The first piece has no sound before its own beginning.
  expect(edges(after(slipAt(split, 5000, 480)))[0]).toEqual([1480, 20_000]);
  expect(slipAt(split, 5000, 60_000)).toBeNull();
});

it('says what is heard at a place: of the piece there as it was moved, else of the nearest', () => {
  const split = after(splitAt(hand(), 20_000));
  const moved = after(slipAt(split, 30_000, 480));
  const at = (h: HandTrack, frame: number) => {
    const { lane, slipFrames, soundFrame } = heardAt(h, frame) ?? {};
    return [lane?.id, slipFrames, soundFrame];
  };
  expect(at(moved, 10_000)).toEqual(['lane-t', 0, 9000]);
  expect(at(moved, 30_000)).toEqual(['lane-t', 480, 28_520]);
  expect(at(after(removeAt(moved, 10_000)), 19_000)).toEqual(['lane-t', 480, 17_520]);
  expect(heardAt(hand([]), 0)).toBeNull();
});

it('an edge goes as far as there is sound; the neighbour gives way', () => {
  const split = after(splitAt(hand(), 20_000));
  expect(edges(after(edgeAt(split, 5000, 'end', 25_000)))).toEqual([
    [1000, 25_000],
    [25_000, 49_000],
  ]);
  expect(edgeAt(split, 30_000, 'end', 99_000)).toBeNull();
  expect(edgeAt(split, 5000, 'begin', -500)).toBeNull();
  const apart = after(removeAt(after(splitAt(split, 30_000)), 25_000));
  expect(edges(after(edgeAt(apart, 35_000, 'begin', 22_000)))[1]).toEqual([22_000, 49_000]);
});

it('the nearest edge is pulled; over a gap both are one again, over itself a piece is gone', () => {
  const split = after(splitAt(after(splitAt(hand(), 20_000)), 30_000));
  const gap = after(removeAt(split, 25_000));
  const pull = (h: HandTrack, edge: number, to: number): HandResult => pullEdge(h, edge, { to, within: 100 });
  expect(edges(after(pull(gap, 20_050, 22_000)))[0]).toEqual([1000, 22_000]);
  expect(pull(gap, 20_500, 22_000)).toBeNull();
  expect(pull(gap, 20_000, 31_000)).toEqual(track.clips);
  expect(pull(gap, 30_000, 15_000)).toEqual(track.clips);
  expect(edges(after(pull(gap, 30_000, 60_000)))).toEqual([[1000, 20_000]]);
  // Where two meet, both have the edge.
  expect(edges(after(pull(split, 20_000, 15_000)))).toEqual([
    [1000, 15_000],
    [15_000, 30_000],
    [30_000, 49_000],
  ]);
});

it('what was taken out comes back, at the ends without a fade', () => {
  const cut = after(removeAt(after(splitAt(after(splitAt(hand(), 20_000)), 30_000)), 25_000));
  expect(bringBackAt(cut, 25_000)).toEqual(track.clips);
  expect(bringBackAt(cut, 5000)).toBeNull();
  const head = after(fadeAt(after(removeAt(cut, 5000)), 35_000, { inFrames: 480 }));
  expect(bringBackAt(head, 5000)).toEqual(track.clips);
});

it('a copy sounds the same elsewhere, in the place of what was there', () => {
  const split = after(splitAt(after(splitAt(hand(), 10_000)), 12_000));
  const copied = after(duplicateAt(split, 11_000, 30_000));
  expect(edges(copied)).toEqual([
    [1000, 10_000],
    [10_000, 12_000],
    [12_000, 30_000],
    [30_000, 32_000],
    [32_000, 49_000],
  ]);
  expect(heard(copied, 30_500)).toBe(heard(split, 10_500));
  expect(heard(copied, 32_500)).toBe(heard(split, 32_500));
  expect(duplicateAt(split, 11_000, 11_500)).toBeNull();
});

it('two that meet cross over by as much as both have sound for, and keep their sum', () => {
  const two = after(splitAt(hand(), 20_000));
  const crossed = after(crossAt(two, 5000, { frames: 400, shape: 'equal-gain' }));
  expect(toldClips(crossed).map((c) => [c.fromFrames, c.toFrames, c.fadeInFrames, c.fadeOutFrames])).toEqual([
    [1000, 20_200, 0, 400],
    [19_800, 49_000, 400, 0],
  ]);
  expect(crossAt(two, 30_000, { frames: 400, shape: 'equal-gain' })).toBeNull();
  // The second begins with its sound: nothing of it lies before.
  const late = after(slipAt(two, 30_000, 19_000));
  expect(toldClips(late)[1]?.fromFrames).toBe(20_000);
  expect(crossAt(late, 5000, { frames: 400, shape: 'equal-power' })?.length).toBe(2);
});

it('a spoilt place sounds from another, of the same lane or another, with nothing else moved', () => {
  const place = { fromFrames: 20_000, toFrames: 22_000 };
  const cross = { frames: 480, shape: 'equal-power' } as const;
  for (const laneId of ['lane-t', 'take-2']) {
    const mended = after(repairAt(hand(), place, { laneId, at: 31_000, cross }));
    expect(edges(mended)).toEqual([
      [1000, 20_240],
      [19_760, 22_240],
      [21_760, 49_000],
    ]);
    expect(heard(mended, 21_000)).toBe(`${laneId}@31000 1.000`);
    for (const frame of [19_000, 23_000, 48_000]) expect(heard(mended, frame)).toBe(heard(hand(), frame));
  }
  expect(repairAt(hand(), place, { laneId: 'lane-t', at: 48_500, cross })).toBeNull();
});

it('fades fit into their piece', () => {
  const faded = after(fadeAt(hand(), 5000, { inFrames: 40_000, outFrames: 40_000, shape: 'equal-power' }));
  expect(faded.track.clips[0]).toMatchObject({
    ...{ fadeInFrames: 40_000, fadeOutFrames: 8000, fadeInShape: 'equal-power' },
    ...{ fromFrames: null, toFrames: null },
  });
});

it('whatever is done one after the other fits into a session (seed 21)', () => {
  const random = createRandom(21);
  const at = (): number => Math.floor(random() * 52_000);
  const far = (): number => Math.floor((random() - 0.5) * 8000);
  const shape = (): 'equal-gain' | 'equal-power' => (random() < 0.5 ? 'equal-gain' : 'equal-power');
  const tools: readonly ((h: HandTrack) => HandResult)[] = [
    (h) => splitAt(h, at()),
    (h) => splitAt(h, at()),
    (h) => removeAt(h, at()),
    (h) => muteAt(h, at()),
    (h) => levelAt(h, at(), Math.round(random() * 20) - 10),
    (h) => slipAt(h, at(), far()),
    (h) => edgeAt(h, at(), random() < 0.5 ? 'begin' : 'end', at()),
    (h) => joinAt(h, at()),
    (h) => duplicateAt(h, at(), at()),
    (h) =>
      fadeAt(h, at(), {
        inFrames: Math.floor(random() * 900),
        outFrames: Math.floor(random() * 900),
        shape: shape(),
      }),
    (h) => crossAt(h, at(), { frames: Math.floor(random() * 900), shape: shape() }),
    (h) => {
      const fromFrames = at();
      return repairAt(
        h,
        { fromFrames, toFrames: fromFrames + 100 + Math.floor(random() * 3000) },
        { laneId: random() < 0.5 ? 'lane-t' : 'take-2', at: at(), cross: { frames: 200, shape: shape() } },
      );
    },
  ];
  const begun = applyChanges(emptySession('s'), [
    { kind: 'track.add', track: plainTrack('t'), parentId: 'root', index: 0 },
  ]);
  if (!begun.ok) throw new Error(begun.code);
  const node = begun.session.nodes.t as Track;
  let done = 0;
  for (let round = 0; round < 60; round++) {
    let now = hand();
    for (let step = 0; step < 25; step++) {
      const made = (tools[Math.floor(random() * tools.length)] as (typeof tools)[number])(now);
      if (!made) continue;
      done++;
      now = hand(made);
      const state = { ...begun.session, nodes: { t: { ...node, startFrames: LATE, otherLanes: [second] } } };
      const put = applyChanges(state, [{ kind: 'track.cut', id: 't', clips: made }]);
      expect(put.ok ? null : [put.code, made]).toBeNull();
      const told = toldClips(now);
      expect(
        told.every((c, i) => i === 0 || (told[i - 1] as (typeof told)[number]).fromFrames < c.fromFrames),
      ).toBe(true);
      expect(clipAt(told, told[0]?.fromFrames ?? 0)).not.toBeNull();
    }
  }
  expect(done).toBeGreaterThan(400);
});
