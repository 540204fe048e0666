import type { Family } from '../../src/core/naming';
import { proposeTidy, type TidyTrack } from '../../src/core/tidy';
import { type FloorHabit, madeSession, type MadeTrack } from './made-tracks';
import { levelsOf, type Score, scoreOf } from './score';

const SETTINGS = { thresholdDb: null, shortestSeconds: 0.4, beforeSeconds: 0.06, afterSeconds: 0.12 };
const KIT: Readonly<Record<string, string>> = {
  kick: 'kick',
  snare: 'snare',
  'snare bottom': 'snare',
  hat: 'hihat',
  tom: 'tom',
  overhead: 'overhead',
};
const FAMILY: Readonly<Record<string, Family>> = {
  'lead voice': 'lead-vocal',
  'backing voice': 'backing-vocal',
  bass: 'bass',
  horns: 'brass',
  'strings spot': 'strings',
  'hand percussion': 'percussion',
  piano: 'keys',
  'chair after': 'keys',
  pad: 'synths',
  'gated loop': 'drums',
};

const asTidy = (t: MadeTrack, i: number): TidyTrack => ({
  id: String(i),
  levels: cachedLevels(t),
  family: t.isKit ? 'drums' : (FAMILY[t.kind] ?? 'guitars'),
  part: t.isKit ? (KIT[t.kind] as string) : t.kind === 'gated loop' ? 'loop' : null,
  source: t.isKit && t.kind.startsWith('snare') ? 'snare' : null,
});

var sets: [string, number, number, FloorHabit][] =
  process.argv[2] === 'fresh'
    ? [
        ['f1', 901, -78, 'steady'],
        ['f2', 902, -63, 'steps'],
        ['f3', 903, -50, 'wanders'],
        ['f4', 904, -70, 'quiet'],
      ]
    : [
        ['-84', 1, -84, 'steady'],
        ['-70', 2, -70, 'steady'],
        ['-57', 3, -57, 'steady'],
        ['-46', 4, -46, 'steady'],
        ['steps', 5, -63, 'steps'],
        ['wander', 6, -63, 'wanders'],
        ['quiet', 7, -63, 'quiet'],
      ];
const byKind = new Map<string, Score[]>();
const sum = (s: readonly Score[], f: (x: Score) => number): number => s.reduce((a, x) => a + f(x), 0);
const line = (name: string, s: readonly Score[]): string =>
  `${name.padEnd(16)} lost ${sum(s, (x) => x.lost)}/${sum(s, (x) => x.wanted)} · onsets cut ${sum(s, (x) => x.cut)}/${sum(s, (x) => x.onsets)} · found ${((100 * sum(s, (x) => x.found)) / s.length).toFixed(0)} % of ${((100 * sum(s, (x) => x.oracle)) / s.length).toFixed(0)} · cuts/min ${(sum(s, (x) => x.cuts) / s.length / 0.8).toFixed(1)} · floor ${s.map((x) => x.floorOff?.toFixed(1) ?? '–').join(' ')}`;
const everything: Score[] = [];
const free: Score[] = [];
const freeAlone: Score[] = [];
const without: Score[] = [];
for (const [name, seed, floor, habit] of sets) {
  const { tracks, mix } = madeSession(seed, floor, habit);
  const asked = tracks.map(asTidy);
  const withMix: TidyTrack[] = [
    ...asked,
    { id: 'mix', levels: levelsOf(mix), family: 'reference', part: 'mix', source: null },
  ];
  const t0 = performance.now();
  const got = proposeTidy(withMix, SETTINGS);
  const ms = performance.now() - t0;
  const scores = tracks.map((t, i) => scoreOf(t, got[i]!));
  tracks.forEach((t, i) => byKind.set(t.kind, [...(byKind.get(t.kind) ?? []), scores[i]!]));
  everything.push(...scores);
  free.push(...scores.filter((_, i) => !tracks[i]!.isKit || tracks[i]!.kind === 'tom'));
  without.push(...tracks.map((t, i) => scoreOf(t, proposeTidy([asked[i]!], SETTINGS)[0]!)));
  process.stdout.write(`${line(name, scores)} · ${ms.toFixed(0)} ms\n`);
}
for (const [kind, s] of byKind) process.stdout.write(`${line(kind, s)}\n`);
freeAlone.push(
  ...without.filter((_, i) => {
    const k = i % 19;
    return k < 13 || k === 17;
  }),
);
process.stdout.write(
  `${line('cut alone', free)}\n${line('same, no refs', freeAlone)}\n${line('with references', everything)}\n${line('alone', without)}\n`,
);
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { encodeBandLevels, readBandLevels } from '../../src/core/analysis';
import { createHash } from 'node:crypto';
function cachedLevels(t: MadeTrack) {
  const h = createHash('md5')
    .update(new Uint8Array(t.samples.buffer, t.samples.byteOffset, 4 * t.samples.length))
    .digest('hex');
  const f = `/tmp/lv/${h}`;
  if (!existsSync(f)) writeFileSync(f, encodeBandLevels(levelsOf(t.samples)));
  return readBandLevels(new Uint8Array(readFileSync(f)));
}
