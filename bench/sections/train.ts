import { alikeFacts } from '../../src/core/sections/alike';
import { barFeatures, type BarFeatures } from '../../src/core/sections/bar-features';
import { borderPath } from '../../src/core/sections/border-path';
import {
  borderOdds,
  cuesOf,
  groupsOf,
  type SectionModel,
  soundingBars,
  spansOf,
} from '../../src/core/sections/find-sections';
import { type GroupedSpan, kindFacts, SECTION_KINDS } from '../../src/core/sections/kinds';
import type { SectionTrack } from '../../src/core/sections';
import { createRandom } from '../../src/core/units';
import type { SongTruth } from './compose-song';
import { fitLogistic, fitSoftmax } from './fit';
import type { BenchSong } from './songs';

/** A song prepared for learning: what of it does not depend on the model. */
export interface Prepared {
  readonly truth: SongTruth;
  readonly bars: BarFeatures;
  readonly cues: ReadonlyMap<string, Float32Array>;
  /** Pairs of its true sections, and whether they are alike. */
  readonly pairs: readonly (readonly [facts: number[], same: number])[];
}

const DRUMS = new Set(['drums', 'percussion']);

/** Ways a song is heard besides whole: without drums, without voices, six tracks only, and with breaks in which only the drums stop. */
export const THINNED = ['whole', 'no drums', 'no voice', 'six tracks', 'plays on'] as const;
export type Thinned = (typeof THINNED)[number];

export function thinned({ truth, tracks }: BenchSong, how: Thinned, seed: number): BenchSong {
  const random = createRandom(seed);
  const kept: Readonly<Record<Thinned, () => readonly SectionTrack[]>> = {
    whole: () => tracks,
    'no drums': () => tracks.filter((t) => !DRUMS.has(t.family)),
    'plays on': () => tracks.map((t) => (DRUMS.has(t.family) ? t : playingOn(t, truth))),
    'no voice': () => tracks.filter((t) => !t.family.endsWith('vocal')),
    'six tracks': () =>
      [...tracks]
        .map((t) => [random(), t] as const)
        .sort(([a], [b]) => a - b)
        .slice(0, 6)
        .map(([, t]) => t),
  };
  const left = kept[how]();
  return { truth, tracks: left.length > 0 ? left : tracks };
}

/** Kinds of section in which the band may as well play and sing on. */
const PLAYED_ON = new Set(['break', 'interlude']);

/** A track that also plays in breaks what it plays in the first verse. */
function playingOn(track: SectionTrack, { sections, bars }: SongTruth): SectionTrack {
  const verse = sections.find((s) => s.kind === 'verse');
  const [whole] = track.pieces;
  if (!verse || !whole) return track;
  const at = (bar: number): number => bars[bar] as number;
  const more = sections
    .filter((s) => PLAYED_ON.has(s.kind))
    .map((s) => ({
      ...whole,
      atSeconds: at(s.fromBar) - at(verse.fromBar),
      fromSeconds: at(s.fromBar),
      toSeconds: at(Math.min(s.toBar, s.fromBar + verse.toBar - verse.fromBar)),
    }));
  return { ...track, pieces: [whole, ...more] };
}

export function prepare({ truth, tracks }: BenchSong): Prepared {
  const bars = soundingBars(barFeatures(tracks, truth.bars));
  const pairs = truth.sections.flatMap((a, i) =>
    truth.sections.slice(0, i).map((b) => [alikeFacts(bars, a, b), Number(a.kind === b.kind)] as const),
  );
  return { truth, bars, cues: cuesOf(bars), pairs };
}

/** Lines and their truth. */
function borderRows(songs: readonly Prepared[], names: readonly string[]) {
  const rows: number[][] = [];
  const ys: number[] = [];
  for (const { truth, bars, cues } of songs) {
    const begins = new Set(truth.sections.map((s) => s.fromBar));
    const values = names.map((n) => cues.get(n) as Float32Array);
    for (let at = 1; at < bars.count - 2; at++) {
      rows.push(values.map((v) => v[at] as number));
      ys.push(Number(begins.has(at)));
    }
  }
  return { rows, ys };
}

/** Weights learned on songs. */
export function train(songs: readonly Prepared[]): SectionModel {
  const names = [...(songs[0]?.cues.keys() ?? [])];
  const { rows, ys } = borderRows(songs, names);
  const line = fitLogistic(rows, ys, 6);
  const border = {
    bias: line.bias,
    weights: Object.fromEntries(names.map((n, k) => [n, line.weights[k] as number])),
  };
  const pairs = songs.flatMap((song) => song.pairs);
  const alike = fitLogistic(
    pairs.map(([row]) => row),
    pairs.map(([, same]) => same),
    1,
  );
  const facts: number[][] = [];
  const kinds: number[] = [];
  const halfway: SectionModel = { border, alike, kinds: { bias: [], weights: [] } };
  for (const song of songs) {
    const spans = song.truth.sections;
    const found = spansOf(borderPath(borderOdds(song.bars, halfway, song.cues)).begins, song.bars.count);
    for (const some of [spans, found]) {
      const groups = groupsOf(song.bars, some, halfway);
      const grouped: GroupedSpan[] = some.map((s, i) => ({ ...s, group: groups[i] as number }));
      kindFacts(song.bars, grouped).forEach((row, i) => {
        const kind = kindOver(song.truth, some[i] as GroupedSpan);
        if (kind < 0) return;
        facts.push(row);
        kinds.push(kind);
      });
    }
  }
  return { border, alike, kinds: fitSoftmax(facts, kinds, SECTION_KINDS.length, 1) };
}

/** The kind most of a span's bars are of. */
function kindOver(
  truth: SongTruth,
  { fromBar, toBar }: { readonly fromBar: number; readonly toBar: number },
): number {
  const shares = SECTION_KINDS.map((kind) =>
    truth.sections
      .filter((s) => s.kind === kind)
      .reduce((sum, s) => sum + Math.max(0, Math.min(s.toBar, toBar) - Math.max(s.fromBar, fromBar)), 0),
  );
  const most = Math.max(...shares);
  return most === 0 ? -1 : shares.indexOf(most);
}
