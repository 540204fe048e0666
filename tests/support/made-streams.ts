import type { Role, Stream } from '@/core/tempo/streams';
import { createRandom, type Random } from '@/core/units';

const STRENGTH: Readonly<Record<string, number>> = { X: 1, x: 0.7, o: 0.3 };

/** Near enough normal: mean 0, deviation 1. */
export const bell = (random: Random): number =>
  Array.from({ length: 12 }, () => random()).reduce((a, x) => a + x, -6);

/**
 * Hits of roles that repeat bar by bar, as patterns over the bar (`X` accent, `x` played, `o` soft, `.` rest), spread by `spreadMs`.
 * `barLines`: moments of the bars and of the end; `patterns` may depend on the bar.
 */
export function madeStreams(
  barLines: readonly number[],
  patterns: (bar: number) => Partial<Record<Role, string>>,
  spreadMs: number,
  seed: number,
): Stream[] {
  const random = createRandom(seed);
  const hits = new Map<Role, { t: number; s: number }[]>();
  barLines.slice(0, -1).forEach((from, bar) => {
    const length = (barLines[bar + 1] as number) - from;
    for (const [role, pattern] of Object.entries(patterns(bar)) as [Role, string][])
      [...pattern].forEach((c, i) => {
        const s = STRENGTH[c];
        if (s === undefined) return;
        const list = hits.get(role) ?? [];
        list.push({
          t: from + (length * i) / pattern.length + (spreadMs / 1000) * bell(random),
          s: s * (0.85 + 0.15 * random()),
        });
        hits.set(role, list);
      });
  });
  return [...hits].map(([role, list]) => {
    list.sort((a, b) => a.t - b.t);
    return { role, seconds: list.map((h) => h.t), strength: list.map((h) => h.s), own: [], swells: false };
  });
}

/** Moments from `from` on, each `gap` after the one before. */
export const everySeconds = (from: number, gap: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => from + i * gap);
