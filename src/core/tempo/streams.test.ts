import { type RhythmCurves, OnsetAnalysis } from '../analysis';
import { createRandom } from '../units';
import type { TempoTrack } from './reading';
import { hitsOf, streamsOf } from './streams';

const RATE = 24_000;
type Sound = (i: number, random: () => number) => number;
const LOW: Sound = (i) =>
  0.6 * Math.exp(-i / (0.06 * RATE)) * Math.sin((2 * Math.PI * 60 * i) / RATE) + (i < 0.004 * RATE ? 0.1 : 0);
const HISS: Sound = (i, random) => 0.3 * Math.exp(-i / (0.02 * RATE)) * (random() - 0.5);

function heard(hits: readonly (readonly [number, Sound, number])[], seconds = 8, ring = 0.3): RhythmCurves {
  const random = createRandom(2);
  const x = Float32Array.from({ length: seconds * RATE }, () => 0.0002 * (random() - 0.5));
  for (const [at, sound, gain] of hits)
    for (let i = 0; i < ring * RATE && Math.round(at * RATE) + i < x.length; i++)
      x[Math.round(at * RATE) + i] = (x[Math.round(at * RATE) + i] as number) + gain * sound(i, random);
  const analysis = new OnsetAnalysis(RATE);
  analysis.push([x]);
  return analysis.finish();
}
const track = (
  id: string,
  family: TempoTrack['family'],
  part: string | null,
  hits: Parameters<typeof heard>[0],
): TempoTrack => ({ id, family, part, curves: heard(hits) });
const kicks = Array.from({ length: 12 }, (_, i) => [0.5 + 0.6 * i, LOW, 1] as const);
const hats = Array.from({ length: 24 }, (_, i) => [0.5 + 0.3 * i, HISS, 1] as const);

it('hears the kick by its microphone, without what bleeds into it', () => {
  const bleeding = track('k', 'drums', 'kick', [
    ...kicks,
    ...hats.filter((_, i) => i % 2 === 1).map(([t, s]) => [t, s, 0.1] as const),
  ]);
  const kick = streamsOf([bleeding], [1]).find((s) => s.role === 'kick');
  expect(kick?.seconds.length).toBe(12);
  kick?.seconds.forEach((t, i) => expect(Math.abs(t - (0.5 + 0.6 * i))).toBeLessThan(0.004));
});

it.each([
  ['nobody knows what it is', 'unknown'],
  ['all that is known is that it is of a kit', 'drums'],
] as const)(
  '%s: it is no kick beside the kick microphone, and is one where there is none',
  (_why, family) => {
    const offBeat = kicks.map(([t, s, g]) => [t + 0.3, s, g] as const);
    const [kick, vague] = [track('k', 'drums', 'kick', kicks), track('v', family, null, offBeat)];
    const hitsAs = (tracks: readonly TempoTrack[]) =>
      streamsOf(
        tracks,
        tracks.map(() => 1),
      ).find((s) => s.role === 'kick')?.seconds.length;
    expect(hitsAs([kick, vague])).toBe(12);
    expect(hitsAs([vague])).toBe(12);
  },
);

it('counts two microphones of one drum once, and a distant one only for what has none of its own', () => {
  const [one, two] = [
    track('in', 'drums', 'kick', kicks),
    track(
      'out',
      'drums',
      'kick',
      kicks.map(([t, s, g]) => [t + 0.001, s, g] as const),
    ),
  ];
  const overhead = track('oh', 'drums', 'overhead', [
    ...kicks.map(([t, s]) => [t + 0.004, s, 0.6] as const),
    ...hats,
  ]);
  const streams = streamsOf([one, two, overhead], [1, 1, 1]);
  expect(streams.find((s) => s.role === 'kick')?.seconds.length).toBe(12);
  expect(streams.find((s) => s.role === 'hat')?.seconds.length).toBeGreaterThanOrEqual(12);
  expect(streamsOf([overhead], [1]).some((s) => s.role === 'kick')).toBe(true);
  expect(streamsOf([one], [0])).toEqual([]);
});

it('brings accents out and leaves what flickers', () => {
  const accents = hats.map(([t, s], i) => [t, s, i % 4 === 0 ? 1 : 0.4] as const);
  const { strength } = hitsOf(track('h', 'drums', 'hihat', accents), { low: 0, mid: 0.1, high: 1 });
  expect(strength.length).toBe(24);
  const mean = (x: readonly number[]): number => x.reduce((a, b) => a + b, 0) / x.length;
  expect(mean(strength.filter((_, i) => i % 4 === 0))).toBeGreaterThan(
    1.25 * mean(strength.filter((_, i) => i % 4 !== 0)),
  );
});

it('sees where the harmony changes', () => {
  const chord =
    (hz: number): Sound =>
    (i) =>
      0.5 * Math.exp(-i / (0.3 * RATE)) * (1 - i / (0.3 * RATE)) * Math.sin((2 * Math.PI * hz * i) / RATE);
  const played = Array.from(
    { length: 14 },
    (_, i) => [0.5 + 0.5 * i, chord(i % 8 < 4 ? 220 : 293.7), 1] as const,
  );
  const changes = streamsOf([track('g', 'guitars', null, played)], [1]).find((s) => s.role === 'harmony');
  // Bars of four strums: changes at the fifth, ninth, thirteenth; the first sound is one too.
  for (const at of [2.5, 4.5, 6.5])
    expect(Math.min(...(changes?.seconds ?? [99]).map((t) => Math.abs(t - at)))).toBeLessThan(0.03);
  // The attack before sees a change coming, but less of it.
  const strongest = (changes?.seconds ?? []).filter((_, i) => (changes?.strength[i] ?? 0) > 0.9);
  expect(strongest.length).toBe(3);
});

it('a broken chord is one chord, and what swells blurs nothing', () => {
  const note =
    (hz: number): Sound =>
    (i) =>
      0.3 * Math.exp(-i / (0.5 * RATE)) * Math.sin((2 * Math.PI * hz * i) / RATE);
  const swell =
    (hz: number): Sound =>
    (i) =>
      0.1 * Math.min(1, i / (0.3 * RATE)) * Math.sin((2 * Math.PI * hz * i) / RATE);
  const [c, f] = [
    [131, 262, 330, 392],
    [175, 262, 349, 440],
  ];
  // Eight notes a bar of 2.4 s, a new chord each bar; the strings come a moment after.
  const notes = Array.from(
    { length: 40 },
    (_, i) =>
      [0.5 + 0.3 * i, note(((Math.floor(i / 8) % 2 === 0 ? c : f) as number[])[i % 4] as number), 1] as const,
  );
  const strings = Array.from(
    { length: 5 },
    (_, bar) => [0.62 + 2.4 * bar, swell(bar % 2 === 0 ? 523 : 698), 1] as const,
  );
  const made = (id: string, family: TempoTrack['family'], hits: Parameters<typeof heard>[0]): TempoTrack => ({
    id,
    family,
    part: null,
    curves: heard(hits, 14, 1.2),
  });
  const streams = streamsOf([made('p', 'keys', notes), made('s', 'strings', strings)], [1, 1]);
  const changes = streams.find((s) => s.role === 'harmony');
  const clear = (changes?.seconds ?? []).filter(
    (t, i) => t > 1 && t < 12 && (changes?.strength[i] ?? 0) > 0.35,
  );
  expect(clear.length).toBe(4);
  clear.forEach((t, i) => expect(Math.abs(t - (2.9 + 2.4 * i))).toBeLessThan(0.03));
  expect(streams.filter((s) => s.role === 'chords').map((s) => s.swells)).toEqual([false, true]);
});

it('who plays the bass is heard as one: a cello among strings', () => {
  expect(
    streamsOf([track('c', 'strings', 'cello', kicks), track('v', 'strings', 'violin', kicks)], [1, 1])
      .map((s) => s.role)
      .filter((r) => r !== 'harmony')
      .sort(),
  ).toEqual(['bass', 'chords']);
});
