import { bell, everySeconds, madeStreams } from '../../../tests/support/made-streams';
import { createRandom } from '../units';
import { estimateClock, type PulseMoment, toConsensus } from './clock';

const heardAt = (seconds: readonly number[], spread = 0.008): PulseMoment[] =>
  seconds.map((s) => ({ seconds: s, spread }));
const worst = (a: readonly number[], b: readonly number[]): number =>
  Math.max(...a.map((t, i) => Math.abs(t - (b[i] as number))));
const rms = (a: readonly number[], b: readonly number[]): number =>
  Math.sqrt(a.reduce((s, t, i) => s + (t - (b[i] as number)) ** 2, 0) / a.length);

it('leaves exact moments where they are', () => {
  const truth = everySeconds(1.5, 0.5, 60);
  expect(worst(estimateClock(heardAt(truth), 0.5), truth)).toBeLessThan(1e-6);
});

it('averages the jitter of players without lagging behind a tempo that moves (seeds 1–5)', () => {
  for (let seed = 1; seed <= 5; seed++) {
    const random = createRandom(seed);
    const truth = [2];
    for (let i = 0; i < 160; i++) truth.push((truth.at(-1) as number) + 0.5 * (1 + 0.04 * Math.sin(i / 12)));
    const played = truth.map((t) => t + 0.01 * bell(random));
    const clock = estimateClock(heardAt(played, 0.01), 0.5);
    expect(rms(clock, truth)).toBeLessThan(0.65 * rms(played, truth));
    const bias = clock.reduce((s, t, i) => s + t - (truth[i] as number), 0) / truth.length;
    expect(Math.abs(bias)).toBeLessThan(0.002);
  }
});

it('goes on through what is not heard and is not pulled by one that is far off', () => {
  const truth = everySeconds(0, 0.6, 60);
  const heard = heardAt(truth).map((h, i) =>
    i >= 20 && i < 28 ? { ...h, spread: Infinity } : i === 40 ? { ...h, seconds: h.seconds + 0.06 } : h,
  );
  const clock = estimateClock(heard, 0.6);
  expect(worst(clock.slice(20, 28), truth.slice(20, 28))).toBeLessThan(0.003);
  expect(Math.abs((clock[40] as number) - (truth[40] as number))).toBeLessThan(0.008);
});

it('keeps pulses of uneven bars apart as they are', () => {
  const lengths = Array.from({ length: 60 }, (_, i) => [2, 2, 3][i % 3] as number);
  const truth = lengths.slice(0, -1).reduce((all, l) => [...all, (all.at(-1) as number) + 0.21 * l], [1]);
  expect(worst(estimateClock(heardAt(truth), 0.21, lengths), truth)).toBeLessThan(1e-6);
});

it('takes out what each role leans, with the pulse between those who strike', () => {
  const bars = everySeconds(1, 2, 31);
  const streams = madeStreams(
    bars,
    () => ({ kick: 'X.X.', snare: '.X.X', hat: 'xxxxxxxx', chords: 'xxxx' }),
    4,
    3,
  ).map((s) => (s.role === 'chords' ? { ...s, seconds: s.seconds.map((t) => t + 0.02) } : s));
  const { beats, leanings } = toConsensus(everySeconds(1.02, 0.5, 120), streams, { rounds: 3 });
  const truth = everySeconds(1, 0.5, 120);
  // Chords that are late by 20 ms count a little: the band is where its players are.
  expect(Math.abs(beats.reduce((s, t, i) => s + t - (truth[i] as number), 0) / beats.length)).toBeLessThan(
    0.005,
  );
  const late = (role: string): number => (leanings.find((l) => l.role === role) as { late: number }).late;
  expect(late('chords') - late('kick')).toBeCloseTo(0.02, 2);
});

it('hears swung eighths between the pulses as leaning, not as error', () => {
  const bars = everySeconds(1, 2, 31);
  const swung = madeStreams(bars, () => ({ hat: 'x..x..x..x..', kick: 'X.....X.....' }), 2, 4).map((s) =>
    s.role === 'hat'
      ? {
          ...s,
          seconds: s.seconds.flatMap((t) => [t, t + 0.31]),
          strength: s.strength.flatMap((x) => [x, x]),
        }
      : s,
  );
  const { beats } = toConsensus(everySeconds(1.01, 0.5, 120), swung, { rounds: 3, parts: 2 });
  expect(worst(beats, everySeconds(1, 0.5, 120))).toBeLessThan(0.006);
});
