import { everySeconds, madeStreams } from '../../../tests/support/made-streams';
import { createRandom } from '../units';
import type { Stream } from './streams';
import { quietEnds } from './trim';

const bars = everySeconds(3, 2, 33);
const offBeats = (bar: number) =>
  bar < 8 ? { hat: '..x...x...x...x.' } : { kick: 'X...X...X...X...', hat: '..x...x...x...x.' };
const played = everySeconds(3 + 8 * 2, 0.5, 24 * 4);

it('an introduction of off-beats belongs to the song', () => {
  const { before, after } = quietEnds(played, madeStreams(bars, offBeats, 1, 3), 2);
  expect(before.length).toBe(32);
  expect(before[0]).toBeCloseTo(3, 2);
  expect(after).toEqual([]);
});
it('talk before the music does not, nor anything where the tempo moves', () => {
  const music = madeStreams(bars, (bar) => (bar < 8 ? {} : { kick: 'X...X...X...X...' }), 1, 3);
  const random = createRandom(4);
  const talk: Stream = {
    role: 'percussion',
    swells: false,
    own: [],
    seconds: Array.from({ length: 70 }, () => 18 * random()).sort((a, b) => a - b),
    strength: new Array<number>(70).fill(0.6),
  };
  expect(quietEnds(played, [...music, talk], 2).before.length).toBeLessThan(4);
  const moving = played.map((t, i) => t + 0.3 * Math.sin(i / 12));
  expect(
    quietEnds(
      moving,
      madeStreams([...moving.filter((_, i) => i % 4 === 0), 70], () => ({ kick: 'XXXX' }), 1, 5),
      2,
    ),
  ).toEqual({ before: [], after: [] });
});
