import type { FoundSections } from '../../src/core/sections';
import type { SongTruth } from './compose-song';

/** How near what was found of a song is to what is true. The first section and the held end count for nothing. */
export interface SongScore {
  readonly name: string;
  readonly precision: number;
  readonly recall: number;
  readonly f: number;
  /** Lines said with 0.9 or more: how many, how many of them right. */
  readonly sure: readonly [number, number];
  /** Of pairs of bars, how well those of one label are told: F. */
  readonly labels: number;
  /** Share of the bars whose kind is right. */
  readonly kinds: number;
  /** Sections named with 0.9 or more: how many, how many right over most of their bars. */
  readonly named: readonly [number, number];
}

export const fOf = (p: number, r: number): number => (p + r === 0 ? 0 : (2 * p * r) / (p + r));

export function scoreSong(truth: SongTruth, { sections }: FoundSections): SongScore {
  const want = truth.sections.slice(1).map((s) => s.fromBar);
  const got = sections.slice(1).map((s) => s.fromBar);
  const right = got.filter((b) => want.includes(b)).length;
  const precision = got.length === 0 ? Number(want.length === 0) : right / got.length;
  const recall = want.length === 0 ? 1 : right / want.length;
  const sure = sections.slice(1).filter((s) => s.confidence >= 0.9);
  const bars = Array.from({ length: truth.sections.at(-1)?.toBar ?? 0 }, (_, i) => i);
  const kindAt = (bar: number): string =>
    truth.sections.find((s) => bar >= s.fromBar && bar < s.toBar)?.kind ?? '';
  const foundAt = (bar: number) => sections.find((s) => bar >= s.fromBar && bar < s.toBar);
  const named = sections.filter((s) => s.kindConfidence >= 0.9);
  return {
    name: truth.name,
    precision,
    recall,
    f: fOf(precision, recall),
    sure: [sure.length, sure.filter((s) => want.includes(s.fromBar)).length],
    labels: pairwise(
      bars.map(kindAt),
      bars.map((b) => foundAt(b)?.group ?? -1),
    ),
    kinds: bars.filter((b) => foundAt(b)?.kind === kindAt(b)).length / Math.max(1, bars.length),
    named: [
      named.length,
      named.filter((s) => {
        const own = bars.filter((b) => b >= s.fromBar && b < s.toBar);
        return own.filter((b) => kindAt(b) === s.kind).length * 2 > own.length;
      }).length,
    ],
  };
}

/** F of pairs of bars that have the same label. */
export function pairwise(truth: readonly unknown[], found: readonly unknown[]): number {
  let [both, inTruth, inFound] = [0, 0, 0];
  for (let i = 0; i < truth.length; i++)
    for (let j = 0; j < i; j++) {
      const [t, f] = [truth[i] === truth[j], found[i] === found[j]];
      both += Number(t && f);
      inTruth += Number(t);
      inFound += Number(f);
    }
  return fOf(inFound ? both / inFound : 0, inTruth ? both / inTruth : 0);
}

/** A line of figures over songs. */
export function told(name: string, scores: readonly SongScore[]): string {
  const mean = (of: (s: SongScore) => number): string =>
    (scores.reduce((sum, s) => sum + of(s), 0) / Math.max(1, scores.length)).toFixed(3);
  const share = (of: (s: SongScore) => readonly [number, number]): string => {
    const [all, right] = scores.reduce(([a, r], s) => [a + of(s)[0], r + of(s)[1]], [0, 0]);
    return `${((100 * right) / Math.max(1, all)).toFixed(1)} % of ${all}`;
  };
  const good = scores.filter((s) => s.f >= 0.85).length / Math.max(1, scores.length);
  return [
    name.padEnd(22),
    `F ${mean((s) => s.f)}`,
    `≥.85 ${(100 * good).toFixed(0)} %`,
    `P ${mean((s) => s.precision)}`,
    `R ${mean((s) => s.recall)}`,
    `sure ${share((s) => s.sure)}`,
    `labels ${mean((s) => s.labels)}`,
    `kinds ${mean((s) => s.kinds)}`,
    `named ${share((s) => s.named)}`,
  ].join(' · ');
}
