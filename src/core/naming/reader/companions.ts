import type { Side } from '../reading';
import { stripExtension } from '../tokens';
import type { Details } from './details';
import type { ReadName } from './read-delivery';
import { tellingAtoms } from './telling';

/** Letters for left and right in languages other than English: only where both are there. */
const LETTER_PAIRS: readonly (readonly [string, string])[] = [
  ['v', 'h'],
  ['g', 'd'],
  ['e', 'd'],
  ['i', 'd'],
  ['s', 'd'],
  ['l', 'p'],
];

/** What names say only together: sides by letters that come in pairs, mid and side. */
export function withCompanions(names: readonly ReadName[], details: readonly Details[]): Details[] {
  const out = details.map((d) => ({ ...d }));
  const at = new Map(
    names.map((n, i) => [
      tellingAtoms(n)
        .map((a) => a.key)
        .join(' '),
      i,
    ]),
  );
  const setSide = (i: number, side: Side): void => {
    const d = out[i];
    if (d) d.side = side;
  };
  for (const [left, right] of LETTER_PAIRS)
    for (const [text, i] of at) {
      if (!text.endsWith(` ${left}`)) continue;
      const stem = text.slice(0, -left.length);
      const j = at.get(stem + right);
      if (
        j === undefined ||
        at.has(`${stem}${left === 'l' ? 'r' : 'l'}`) ||
        (out[i]?.side ?? 'left') !== 'left' ||
        out[j]?.side !== null
      )
        continue;
      setSide(i, 'left');
      setSide(j, 'right');
    }
  withGluedSides(names, out);
  withoutLoneMidSide(names, out);
  return out;
}

type Changeable = { -readonly [K in keyof Details]: Details[K] };

/** `ShakeL` and `ShakeR`, `SnrTL` and `SnrTR`: names that differ in nothing but this letter are a pair. */
function withGluedSides(names: readonly ReadName[], out: readonly Changeable[]): void {
  const bases = names.map((n) => stripExtension(n.input));
  const at = new Map(bases.map((b, i) => [b, i]));
  bases.forEach((base, i) => {
    const other = base.endsWith('L') ? at.get(`${base.slice(0, -1)}R`) : undefined;
    const [left, right] = [out[i], other === undefined ? undefined : out[other]];
    if (!left || !right) return;
    if (left.side === null && right.side !== 'left') left.side = 'left';
    if (right.side === null && left.side === 'left') right.side = 'right';
  });
}

/** A mid without a side is a place of its own, or nothing. */
function withoutLoneMidSide(names: readonly ReadName[], details: Changeable[]): void {
  const sourceOf = (i: number): string =>
    JSON.stringify([names[i]?.ways[0]?.family, names[i]?.ways[0]?.part, details[i]?.position]);
  const sides = new Map<string, Set<Side>>();
  details.forEach((d, i) => {
    if (d.side) sides.set(sourceOf(i), (sides.get(sourceOf(i)) ?? new Set()).add(d.side));
  });
  details.forEach((d, i) => {
    const there = sides.get(sourceOf(i));
    if ((d.side !== 'mid' && d.side !== 'side') || (there?.has('mid') && there.has('side'))) return;
    if (d.side === 'side' && d.position === null && names[i]?.ways[0]?.family === 'drums')
      d.position = 'side';
    d.side = null;
  });
}
