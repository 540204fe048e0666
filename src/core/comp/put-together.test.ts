import {
  measureJoins,
  rendered,
  type TakeSounds,
  trackOfTakes,
} from '../../../tests/support/takes/measure-joins';
import { sungLine, sungTake } from '../../../tests/support/takes/sung-takes';
import type { Clip, Lane } from '../session';
import type { HandTrack } from '../tidy';
import { createRandom } from '../units';
import { type LaneChoice, putTogether, type PutTogether } from './put-together';
import { ribbonOf } from './ribbon';

const RATE = 48_000;
const SECONDS = 24;

/** Takes of one line, and how their samples are read. */
function sungTrack(count: number, seed: number) {
  const random = createRandom(seed);
  const line = sungLine(random, SECONDS);
  const takes = Array.from({ length: count }, () =>
    sungTake(random, line, { seconds: SECONDS, sampleRateHz: RATE }),
  );
  const { hand, sounds } = trackOfTakes(takes);
  const how: PutTogether = { read: reader(sounds), sampleRateHz: RATE, rests: [] };
  return { hand, sounds, random, how };
}
const reader =
  (sounds: TakeSounds): PutTogether['read'] =>
  ({ recordingId }: Lane, from, count) =>
    Promise.resolve([(sounds.get(recordingId) as Float32Array).subarray(from, from + count)]);
const withClips = (hand: HandTrack, clips: readonly Clip[]): HandTrack => ({
  ...hand,
  track: { ...hand.track, clips },
});
/** Which lane sounds from where, s. */
const told = (hand: HandTrack): (readonly [string, number, number])[] =>
  ribbonOf(hand).map((p) => [p.laneId, p.fromFrames / RATE, p.toFrames / RATE]);

it.each([false, true])(
  'takes go over to each other without a step or a click, in rests and in the middle of notes (edges kept: %s)',
  async (isByHand) => {
    const { hand, sounds, random, how } = sungTrack(4, 41);
    // Anywhere, as somebody draws.
    const choices: LaneChoice[] = Array.from({ length: 16 }, (_, i) => ({
      laneId: `lane-${1 + (i % 4)}`,
      fromFrames: Math.round((1 + 1.3 * i + 0.3 * random()) * RATE),
      toFrames: Math.round((2.3 + 1.3 * i) * RATE),
    }));
    const clips = await putTogether(hand, choices, { ...how, isByHand });
    const made = await rendered(hand, sounds, clips, SECONDS * RATE);
    const joins = measureJoins(hand, sounds, { clips, made, rateHz: RATE });
    const sounding = joins.filter((j) => j.isSounding);
    expect(sounding.length).toBeGreaterThan(8);
    // Where a person puts an edge where one take is between notes, nothing is brought to the level of that.
    const met = sounding.filter((j) => !isByHand || Math.abs(j.stepDb) < 8);
    expect(met.length).toBeGreaterThan(sounding.length - 3);
    const worst = (values: readonly number[]): number => Math.max(...values);
    expect(worst(met.map((j) => Math.abs(j.stepDb)))).toBeLessThan(0.5);
    expect(worst(met.map((j) => j.bumpDb))).toBeLessThan(0.5);
    expect(worst(joins.map((j) => j.clickDb))).toBeLessThan(-60);
  },
);

it('what was joined stays as it was when another stretch is chosen, and the same again changes nothing', async () => {
  const { hand, how } = sungTrack(3, 7);
  const first = await putTogether(
    hand,
    [{ laneId: 'lane-2', fromFrames: 4 * RATE, toFrames: 8 * RATE }],
    how,
  );
  const once = withClips(hand, first);
  const second = await putTogether(
    once,
    [{ laneId: 'lane-3', fromFrames: 12 * RATE, toFrames: 15 * RATE }],
    how,
  );
  const before = told(once);
  expect(told(withClips(hand, second)).slice(0, 2)).toEqual(before.slice(0, 2));
  const [, middle] = told(withClips(hand, second));
  expect(middle?.[0]).toBe('lane-2');
  const [, from] = middle as readonly [string, number, number];
  const again = await putTogether(
    once,
    [{ laneId: 'lane-2', fromFrames: Math.round(from * RATE) + 100, toFrames: 7 * RATE }],
    how,
  );
  expect(again).toEqual(first);
});

it('level and place go back to what was recorded at the next rest', async () => {
  const { hand, how, sounds } = sungTrack(2, 11);
  // The second was sung much more softly.
  const soft = (sounds.get('r2') as Float32Array).map((x) => x * 0.5);
  const read = reader(new Map([...sounds, ['r2', soft]]));
  const clips = await putTogether(hand, [{ laneId: 'lane-2', fromFrames: 3 * RATE, toFrames: 22 * RATE }], {
    ...how,
    read,
    rests: [8 * RATE],
    isByHand: true,
  });
  const pieces = ribbonOf(withClips(hand, clips));
  const at = (s: number) => pieces.find((p) => p.fromFrames <= s * RATE && p.toFrames > s * RATE);
  expect(at(9)).toMatchObject({ laneId: 'lane-2', gainDb: 0, slipFrames: 0 });
  const joined = at(3.1);
  if (joined?.gainDb !== 0) expect(joined?.gainDb).toBeGreaterThan(1);
});

it('a take that ends early is chosen as far as it reaches; where the sound cannot be had nothing is joined', async () => {
  const { hand, how, sounds } = sungTrack(2, 13);
  const short = new Map([...sounds, ['r2', (sounds.get('r2') as Float32Array).subarray(0, 10 * RATE)]]);
  const shorter: HandTrack = { ...hand, lengthOf: (l) => short.get(l.recordingId)?.length ?? 0 };
  const choices = [{ laneId: 'lane-2', fromFrames: 6 * RATE, toFrames: 14 * RATE }];
  const clips = await putTogether(shorter, choices, { ...how, read: reader(short) });
  const pieces = told({ ...shorter, track: { ...shorter.track, clips } });
  expect(pieces.at(-1)?.[0]).toBe('lane-1');
  // No hole: one begins where the other ends.
  pieces.slice(1).forEach((p, i) => expect(p[1]).toBe(pieces[i]?.[2]));
  const failing: PutTogether['read'] = () => Promise.reject(new Error('away'));
  await expect(putTogether(hand, choices, { ...how, read: failing })).rejects.toThrow('away');
});

it('takes of which one is polarity-turned or silent are joined as they sound', async () => {
  const { hand, how, sounds } = sungTrack(2, 17);
  const silent = reader(new Map([...sounds, ['r2', new Float32Array(SECONDS * RATE)]]));
  const choices = [{ laneId: 'lane-2', fromFrames: 6 * RATE, toFrames: 8 * RATE }];
  const clips = await putTogether(hand, choices, { ...how, read: silent });
  expect(clips.every((c) => Number.isFinite(c.gainDb) && Math.abs(c.gainDb) <= 12)).toBe(true);
});
