// Tidy on made sessions with known truth: nothing wanted may go, how much of the rest is found, how near the floor is; then how long a proposal takes, beside the levels it is made of in the same run. `-- tidy fresh`: sessions nothing was tuned on.
import type { Family } from '../../src/core/naming';
import { proposeTidy, TIDY_DEFAULTS, type TidyTrack } from '../../src/core/tidy';
import { type FloorHabit, madeSession, type MadeTrack } from './made-tracks';
import { levelsOf, type Score, scoreOf } from './score';

const KIT_PARTS: Readonly<Record<string, string>> = {
  kick: 'kick',
  snare: 'snare',
  'snare bottom': 'snare',
  hat: 'hihat',
  tom: 'tom',
  overhead: 'overhead',
};
const FAMILIES: Readonly<Record<string, Family>> = {
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

type Made = readonly [name: string, seed: number, floorDbfs: number, habit: FloorHabit];
const TUNED: readonly Made[] = [
  ['floor −84', 1, -84, 'steady'],
  ['floor −70', 2, -70, 'steady'],
  ['floor −57', 3, -57, 'steady'],
  ['floor −46', 4, -46, 'steady'],
  ['floor steps', 5, -63, 'steps'],
  ['floor wanders', 6, -63, 'wanders'],
  ['24 dB quieter', 7, -63, 'quiet'],
];
const FRESH: readonly Made[] = [
  ['floor −78', 901, -78, 'steady'],
  ['floor steps', 902, -63, 'steps'],
  ['floor wanders', 903, -50, 'wanders'],
  ['24 dB quieter', 904, -70, 'quiet'],
];

const asTidy = (t: MadeTrack, i: number): TidyTrack => ({
  id: String(i),
  levels: levelsOf(t.samples),
  family: t.isKit ? 'drums' : (FAMILIES[t.kind] ?? 'guitars'),
  part: t.isKit ? (KIT_PARTS[t.kind] ?? null) : t.kind === 'gated loop' ? 'loop' : null,
  source: t.isKit && t.kind.startsWith('snare') ? 'snare' : null,
});

const sum = (scores: readonly Score[], of: (s: Score) => number): number =>
  scores.reduce((a, s) => a + of(s), 0);
const percent = (scores: readonly Score[], of: (s: Score) => number): string =>
  ((100 * sum(scores, of)) / scores.length).toFixed(0);

function row(name: string, scores: readonly Score[]): string {
  const floors = scores.flatMap((s) => (s.floorOff === null ? [] : [Math.abs(s.floorOff)]));
  return `| ${name} | ${sum(scores, (s) => s.lost)} of ${sum(scores, (s) => s.wanted)} | ${sum(scores, (s) => s.cut)} of ${sum(scores, (s) => s.onsets)} | ${percent(scores, (s) => s.found)} % (ideal ${percent(scores, (s) => s.oracle)}) | ${(sum(scores, (s) => s.cuts) / scores.length / (48 / 60)).toFixed(1)} | ${floors.length > 0 ? Math.max(...floors).toFixed(1) : '–'} |`;
}

const scored: { readonly track: MadeTrack; readonly score: Score; readonly alone: Score }[] = [];
const lines: string[] = [];
let [levelsMs, proposalMs] = [0, 0];
for (const [name, seed, floor, habit] of process.argv[2] === 'fresh' ? FRESH : TUNED) {
  const { tracks, mix } = madeSession(seed, floor, habit);
  const begun = performance.now();
  const asked = tracks.map(asTidy);
  const reference: TidyTrack = {
    id: 'mix',
    levels: levelsOf(mix),
    family: 'reference',
    part: 'mix',
    source: null,
  };
  levelsMs += performance.now() - begun;
  const between = performance.now();
  const got = proposeTidy([...asked, reference], TIDY_DEFAULTS);
  proposalMs += performance.now() - between;
  const here = tracks.map((track, i) => ({
    track,
    score: scoreOf(track, got[i] as (typeof got)[number]),
    alone: scoreOf(track, proposeTidy([asked[i] as TidyTrack], TIDY_DEFAULTS)[0] as (typeof got)[number]),
  }));
  scored.push(...here);
  lines.push(
    row(
      name,
      here.map((h) => h.score),
    ),
  );
}
for (const kind of new Set(scored.map((s) => s.track.kind)))
  lines.push(
    row(
      kind,
      scored.filter((s) => s.track.kind === kind).map((s) => s.score),
    ),
  );
// A kit is cut as one by rule, however much more a single microphone could lose; toms may.
const free = scored.filter((s) => !s.track.isKit || s.track.kind === 'tom');
lines.push(
  row(
    '**all but the kit as one**',
    free.map((s) => s.score),
  ),
);
lines.push(
  row(
    'the same, without references',
    free.map((s) => s.alone),
  ),
);
lines.push(
  row(
    '**all**',
    scored.map((s) => s.score),
  ),
);
process.stdout.write(
  `| tidy, 48 s a track | wanted frames removed | onsets cut | found | cuts a minute | floor off, worst, dB |\n|---|---|---|---|---|---|\n${lines.join('\n')}\n` +
    `proposal ${(proposalMs / scored.length).toFixed(0)} ms a track of 48 s, its levels ${(levelsMs / scored.length).toFixed(0)} ms\n`,
);
