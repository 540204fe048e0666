import { soundOf, struck, TIDY_RATE } from '../../../tests/support/tidy-sounds';
import { type MatchedSound, matchGains, type MatchTrack } from './match';
import { gatedLoudness, LoudnessMeter } from '../analysis';
import { loudnessAt, type SoundMeasure, SoundMeter } from './measure';
import { MATCH_DEFAULTS, type MatchRules } from './rules';

function measureOf(sound: Float32Array): SoundMeasure {
  const meter = new SoundMeter(TIDY_RATE, 1);
  meter.push([sound]);
  return meter.measure();
}

function matchTrack(sound: Float32Array, more: Partial<MatchTrack> = {}): MatchTrack {
  return { family: 'keys', part: null, group: null, whole: measureOf(sound), pieces: [], ...more };
}
const wholes = (tracks: readonly MatchTrack[], rules: MatchRules): MatchedSound[] =>
  matchGains(tracks, rules).map((t) => t.whole);
const tone = (level: number, seconds = 10, from = 0): Float32Array =>
  soundOf(seconds, (t) => (t < from ? 0 : level * Math.sin(2 * Math.PI * 997 * t)));

it('brings a track to what is usual, as far as its peaks allow, and says what it reaches', () => {
  // ITU-R BS.1770-4: a sine of 997 Hz at full scale in one channel reads −3.01 LUFS.
  const [quiet, loud] = wholes([matchTrack(tone(0.001)), matchTrack(tone(0.5))], MATCH_DEFAULTS);
  expect(quiet).toMatchObject({ gainDb: 24 });
  expect(quiet?.reachedLufs).toBeCloseTo(-63 + 24, 1);
  expect(loud?.gainDb).toBeCloseTo(-17, 1);
  expect(loud?.reachedLufs).toBeCloseTo(-26, 1);
  const [peaky] = wholes([matchTrack(tone(0.2).map((v, i) => (i === 9000 ? 1 : v)))], MATCH_DEFAULTS);
  expect(peaky?.reachedPeakDbfs).toBeLessThanOrEqual(MATCH_DEFAULTS.peakDb + 1e-6);
  expect(peaky?.gainDb).toBeCloseTo(-12, 1);
});

it('a float file far above full scale is brought under the ceiling all the same', () => {
  const [hot] = wholes([matchTrack(tone(3000))], MATCH_DEFAULTS);
  expect(hot?.reachedPeakDbfs).toBeLessThanOrEqual(MATCH_DEFAULTS.peakDb + 1e-6);
});

it('a sparse part is not pushed up by its silence', () => {
  const [long, sparse] = wholes([matchTrack(tone(0.05)), matchTrack(tone(0.05, 10, 7))], MATCH_DEFAULTS);
  expect(sparse?.gainDb).toBeCloseTo(long?.gainDb as number, 0);
});

it('what was recorded together moves together, by what its loudest can take', () => {
  const both = wholes(
    [
      matchTrack(tone(0.5), { group: 'kit' }),
      matchTrack(tone(0.01), { group: 'kit' }),
      matchTrack(new Float32Array(48_000), { group: 'kit' }),
    ],
    MATCH_DEFAULTS,
  );
  expect(new Set(both.map((m) => m.gainDb)).size).toBe(1);
  expect(both[2]).toMatchObject({ reachedLufs: null, reachedPeakDbfs: null });
});

it('a mix, a click and silence stay as they are', () => {
  for (const more of [{ family: 'reference' }, { family: 'click' }] as const)
    expect(wholes([matchTrack(tone(0.9), more)], MATCH_DEFAULTS)[0]?.gainDb).toBe(0);
  expect(wholes([matchTrack(new Float32Array(4800))], MATCH_DEFAULTS)[0]).toEqual({
    gainDb: 0,
    reachedLufs: null,
    reachedPeakDbfs: null,
    reachedTruePeakDbtp: null,
  });
});

describe('by other measures', () => {
  const peaky = tone(0.05).map((v, i) => (i === 9000 ? 0.5 : v));
  it('peaks are brought to what was asked for, samples or between them', () => {
    const at = (by: MatchRules['by']) =>
      wholes([matchTrack(peaky)], { ...MATCH_DEFAULTS, by, peakDb: -6 })[0];
    expect(at('peak')?.reachedPeakDbfs).toBeCloseTo(-6, 1);
    const truly = at('true-peak');
    expect(truly?.reachedTruePeakDbtp).toBeCloseTo(-6, 1);
    expect(truly?.gainDb).toBeLessThanOrEqual(at('peak')?.gainDb as number);
  });
  it('the ceiling holds whatever is aimed at', () => {
    // Full scale in the crests between the samples: a true peak of 0 where samples say −3 dBFS.
    const between = soundOf(4, (t) => Math.sin(2 * Math.PI * 12_000 * t + Math.PI / 4));
    const [got] = wholes([matchTrack(between)], {
      ...MATCH_DEFAULTS,
      by: 'peak',
      peakDb: 0,
      ceilingDbtp: -1,
    });
    expect(got?.reachedTruePeakDbtp).toBeLessThanOrEqual(-1);
    expect(got?.reachedPeakDbfs).toBeLessThan(-3);
  });
  it('the loudest four seconds decide, or what plays', () => {
    const sparse = soundOf(30, (t) => (t < 4 ? 0.1 : t < 14 ? 0.008 : 0) * Math.sin(2 * Math.PI * 997 * t));
    const { loudestLufs, activeLufs, loudnessLufs } = measureOf(sparse);
    expect(loudestLufs).toBeCloseTo(-23.01, 1);
    // 4 s at −23.01 and 10 s at −44.95 LUFS: the second is within 20 LU, and not within 10.
    expect(activeLufs).toBeCloseTo(10 * Math.log10((4 * 10 ** -2.301 + 10 * 10 ** -4.495) / 14), 0);
    expect(loudnessLufs).toBeCloseTo(-23.01, 0);
  });
  it('what is too soft for the gate is measured as it would be turned up', () => {
    // Hiss that the gate at −70 LUFS lets through, or not, as the gain wants it.
    const hissy = soundOf(
      14,
      (t, n) => 4e-4 * n() + 0.3 * struck(t - 3, 220, 1.4) + 0.2 * struck(t - 9, 330, 1.4),
    );
    const meter = new LoudnessMeter(TIDY_RATE, 1);
    meter.push([hissy]);
    for (const db of [-20, -3.7, 0, 5.1, 24])
      expect(loudnessAt(measureOf(hissy), 'loudness', db)).toBeCloseTo(
        gatedLoudness(meter.gatingBlocks(), db) as number,
        1,
      );
    expect(measureOf(hissy).histogram).not.toBeNull();
    const soft = measureOf(tone(0.0002));
    expect(soft.loudnessLufs).toBeNull();
    expect(wholes([matchTrack(tone(0.0002))], MATCH_DEFAULTS)[0]?.reachedLufs).toBeCloseTo(-76.99 + 24, 1);
  });
});

describe('units', () => {
  const pieces = [measureOf(tone(0.02)), measureOf(tone(0.1)), measureOf(tone(0.0))];
  const track = matchTrack(tone(0.1), { pieces });
  it('each piece by itself; silence stays as it is', () => {
    const [got] = matchGains([track], { ...MATCH_DEFAULTS, each: 'piece' });
    expect(got?.pieces.map((p) => p.reachedLufs && Math.round(p.reachedLufs))).toEqual([-26, -26, null]);
    expect(got?.pieces[2]?.gainDb).toBe(0);
    expect(got?.whole).toMatchObject({ reachedLufs: null, reachedPeakDbfs: got?.pieces[1]?.reachedPeakDbfs });
  });
  it('what was recorded together keeps one gain, piece or not', () => {
    const [a, b] = matchGains([{ ...track, group: 'kit' }, matchTrack(tone(0.3), { group: 'kit' })], {
      ...MATCH_DEFAULTS,
      each: 'piece',
    });
    expect(new Set([...(a?.pieces ?? []), b?.whole].map((p) => p?.gainDb)).size).toBe(1);
  });
  it('all by one gain: the nearest to its target decides', () => {
    const rules = { ...MATCH_DEFAULTS, each: 'all' } as const;
    const mix = matchTrack(tone(0.9), { family: 'reference' });
    const got = wholes([matchTrack(tone(0.01)), matchTrack(tone(0.05)), mix], rules);
    expect(got[0]?.gainDb).toBe(got[1]?.gainDb);
    expect(got[1]?.reachedLufs).toBeCloseTo(-26, 0);
    expect(got[2]?.gainDb).toBe(0);
  });
});
