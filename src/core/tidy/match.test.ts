import { soundOf, TIDY_RATE } from '../../../tests/support/tidy-sounds';
import { LoudnessMeter } from '../analysis';
import { matchGains, type MatchTrack } from './match';
import { TIDY_DEFAULTS } from './settings';

function matchTrack(sound: Float32Array, more: Partial<MatchTrack> = {}): MatchTrack {
  const meter = new LoudnessMeter(TIDY_RATE, 1);
  meter.push([sound]);
  const peak = sound.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  return {
    family: 'keys',
    part: null,
    group: null,
    peak,
    truePeakDbtp: peak > 0 ? 20 * Math.log10(peak) : null,
    blocks: meter.gatingBlocks(),
    ...more,
  };
}
const tone = (level: number, seconds = 10, from = 0): Float32Array =>
  soundOf(seconds, (t) => (t < from ? 0 : level * Math.sin(2 * Math.PI * 997 * t)));

it('brings a track to what is usual, as far as its peaks allow, and says what it reaches', () => {
  // ITU-R BS.1770-4: a sine of 997 Hz at full scale in one channel reads −3.01 LUFS.
  const [quiet, loud] = matchGains([matchTrack(tone(0.001)), matchTrack(tone(0.5))], TIDY_DEFAULTS);
  expect(quiet).toMatchObject({ gainDb: 24 });
  expect(quiet?.reachedLufs).toBeCloseTo(-63 + 24, 1);
  expect(loud?.gainDb).toBeCloseTo(-17, 1);
  expect(loud?.reachedLufs).toBeCloseTo(-26, 1);
  const [peaky] = matchGains([matchTrack(tone(0.2).map((v, i) => (i === 9000 ? 1 : v)))], TIDY_DEFAULTS);
  expect(peaky?.reachedPeakDbfs).toBeLessThanOrEqual(TIDY_DEFAULTS.peakDbfs + 1e-6);
  expect(peaky?.gainDb).toBeCloseTo(-12, 1);
});

it('a float file far above full scale is brought under the ceiling all the same', () => {
  const [hot] = matchGains([matchTrack(tone(3000))], TIDY_DEFAULTS);
  expect(hot?.reachedPeakDbfs).toBeLessThanOrEqual(TIDY_DEFAULTS.peakDbfs + 1e-6);
});

it('a sparse part is not pushed up by its silence', () => {
  const [long, sparse] = matchGains([matchTrack(tone(0.05)), matchTrack(tone(0.05, 10, 7))], TIDY_DEFAULTS);
  expect(sparse?.gainDb).toBeCloseTo(long?.gainDb as number, 0);
});

it('what was recorded together moves together, by what its loudest can take', () => {
  const both = matchGains(
    [
      matchTrack(tone(0.5), { group: 'kit' }),
      matchTrack(tone(0.01), { group: 'kit' }),
      matchTrack(new Float32Array(48_000), { group: 'kit' }),
    ],
    TIDY_DEFAULTS,
  );
  expect(new Set(both.map((m) => m.gainDb)).size).toBe(1);
  expect(both[2]).toMatchObject({ reachedLufs: null, reachedPeakDbfs: null });
});

it('a mix, a click and silence stay as they are', () => {
  for (const more of [{ family: 'reference' }, { family: 'click' }] as const)
    expect(matchGains([matchTrack(tone(0.9), more)], TIDY_DEFAULTS)[0]?.gainDb).toBe(0);
  expect(matchGains([matchTrack(new Float32Array(4800))], TIDY_DEFAULTS)[0]).toEqual({
    gainDb: 0,
    reachedLufs: null,
    reachedPeakDbfs: null,
  });
});
