import type { SectionKind } from '../../src/core/sections';
import { pick, type Random } from './dice';

/** Kinds of section that are made. */
export type MadeKind = Exclude<SectionKind, 'other'>;

/** A section as it is laid down: how many bars of what. */
export interface FormPart {
  readonly kind: MadeKind;
  readonly bars: number;
}

const V = 'verse';
const C = 'chorus';
const P = 'pre-chorus';

/** Orders of sections, common practice, no source. */
const FORMS: readonly (readonly MadeKind[])[] = [
  ['intro', V, C, V, C, 'bridge', C, 'outro'],
  ['intro', V, P, C, V, P, C, 'bridge', C, C, 'outro'],
  [V, V, C, V, C, 'solo', V, C, C],
  ['intro', V, C, 'interlude', V, C, 'bridge', 'break', C, 'outro'],
  ['intro', V, C, 'post-chorus', V, C, 'post-chorus', 'bridge', C, 'outro'],
  ['intro', V, V, 'bridge', V, 'solo', 'bridge', V, 'outro'],
  ['intro', V, P, C, 'break', V, P, C, 'solo', C, 'outro'],
  ['intro', V, C, V, 'break', C, 'bridge', V, 'break', C, 'outro'],
  ['intro', C, V, C, V, C, 'solo', C, 'outro'],
  ['intro', V, V, C, 'interlude', V, C, 'solo', C, C, 'outro'],
  [V, P, C, V, P, C, 'bridge', V, C, 'outro'],
  ['intro', V, C, V, C, V, C, 'outro'],
];
/** Lengths by kind, the commoner more often. */
const LENGTHS: Readonly<Record<MadeKind, readonly number[]>> = {
  intro: [4, 4, 4, 8, 8, 2, 3],
  verse: [8, 8, 8, 8, 16, 16, 12],
  'pre-chorus': [4, 4, 4, 8],
  chorus: [8, 8, 8, 8, 16, 12],
  'post-chorus': [4, 4, 8],
  bridge: [8, 8, 4, 6],
  solo: [8, 8, 16],
  break: [4, 2, 2, 3, 4, 8],
  interlude: [4, 4, 8, 2],
  outro: [4, 4, 8, 8],
};
const ODD: readonly number[] = [7, 9, 6, 10, 14, 5];

/** The sections of a song; `odd` = lengths of some kinds are unusual. Alike sections are alike in length but for a repeat cut in half now and then. */
export function layForm(random: Random, odd: boolean, halves: boolean): FormPart[] {
  const form = pick(random, FORMS);
  const lengths = new Map<MadeKind, number>();
  return form.map((kind, i) => {
    if (!lengths.has(kind)) {
      const own = LENGTHS[kind];
      lengths.set(kind, odd && own.includes(8) && random() < 0.5 ? pick(random, ODD) : pick(random, own));
    }
    const bars = lengths.get(kind) as number;
    const again = form.slice(0, i).includes(kind);
    return { kind, bars: halves && again && bars >= 8 && random() < 0.25 ? Math.floor(bars / 2) : bars };
  });
}
