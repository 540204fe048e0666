import { alikeFacts, type BarSpan, groupAlike } from './alike';
import { type BarFeatures, barFeatures, barsBetween } from './bar-features';
import { logSum, mean } from './bar-math';
import { type BorderPath, borderPath } from './border-path';
import { borderCues, type Cues } from './cues';
import { KIND_FACTS, kindFacts, SECTION_KINDS, type SectionKind } from './kinds';
import { barLikenesses } from './likeness';
import { SECTION_MODEL } from './section-model';
import { KIND_DOUBT } from './section-names';
import type { SectionTrack } from './section-track';

/** Weights that were learned on made songs. */
export interface SectionModel {
  /** Log-odds of a bar line from its cues. */
  readonly border: { readonly bias: number; readonly weights: Readonly<Record<string, number>> };
  /** Log-odds of two sections being alike, from their facts. */
  readonly alike: { readonly bias: number; readonly weights: readonly number[] };
  /** Log-odds of each kind from the facts of a section. */
  readonly kinds: { readonly bias: readonly number[]; readonly weights: readonly (readonly number[])[] };
}

/** A section that was found. */
export interface FoundSection extends BarSpan {
  /** How likely a section begins here, 0–1. */
  readonly confidence: number;
  /** Number of its group: alike sections have the same, from 0 in order of appearance. */
  readonly group: number;
  readonly kind: SectionKind;
  readonly kindConfidence: number;
}

export interface FoundSections {
  readonly sections: readonly FoundSection[];
  /** Bar lines inside of sections where one might begin as well. */
  readonly maybe: readonly { readonly bar: number; readonly confidence: number }[];
}

/** A line is drawn from here on; inside a section one is told from there on. */
const [LIKELY, MAYBE] = [0.25, 0.3];
/** What lies so far below the loudest bar is no music, dB. */
const SILENT_BELOW_DB = 45;
/** The last bars begin nothing: a held chord is no section. */
const LAST_BARS = 2;
/** Of more sections than this keys are not compared. */
const MANY_SECTIONS = 120;

/**
 * Sections of a song between bar lines, s (one line more than bars), on bar lines; from the first bar to the last that
 * sounds. Nothing where there are no bars or nothing sounds.
 * Sources: Foote 2000; Serrà, Müller, Grosche & Arcos 2014, from memory; a trial of our own for how they are put together.
 */
export function findSections(
  tracks: readonly SectionTrack[],
  lines: readonly number[],
  model: SectionModel = SECTION_MODEL,
): FoundSections {
  if (lines.length < 2) return { sections: [], maybe: [] };
  const bars = soundingBars(barFeatures(tracks, lines));
  if (bars.count === 0 || bars.tracks.length === 0) return { sections: [], maybe: [] };
  const path = likelyLines(borderPath(borderOdds(bars, model)));
  return { sections: namedSections(bars, path, model), maybe: maybeLines(path) };
}

/** The bars up to the last in which something sounds. */
export function soundingBars(bars: BarFeatures): BarFeatures {
  const loudest = bars.levelDb.reduce((m, x) => Math.max(m, x), -Infinity);
  return barsBetween(bars, 0, bars.levelDb.findLastIndex((x) => x > loudest - SILENT_BELOW_DB) + 1);
}

/** Log-odds of every bar line. */
export function borderOdds(bars: BarFeatures, { border }: SectionModel, cues = cuesOf(bars)): Float64Array {
  const odds = new Float64Array(bars.count).fill(border.bias);
  for (const [name, weight] of Object.entries(border.weights)) {
    const values = cues.get(name);
    if (values)
      for (let i = 0; i < odds.length; i++) odds[i] = (odds[i] as number) + weight * (values[i] as number);
  }
  // Where sound begins all is new in the second bar: that says nothing.
  return odds.fill(-Infinity, 1, 2).fill(-Infinity, Math.max(1, odds.length - LAST_BARS));
}

/** Bars that are compared with each other at once, and how many of those at an end only lend the others what is around them. */
const [AT_ONCE, AROUND] = [1024, 64];

/** Cues of every bar line; a very long recording is looked at in parts that lap over. */
export function cuesOf(bars: BarFeatures): Cues {
  if (bars.count <= AT_ONCE) return borderCues(bars, barLikenesses(bars));
  const out = new Map<string, Float32Array>();
  for (let at = 0; at < bars.count; at += AT_ONCE - 2 * AROUND) {
    const from = Math.max(0, at - AROUND);
    const part = barsBetween(bars, from, Math.min(bars.count, from + AT_ONCE));
    for (const [name, values] of borderCues(part, barLikenesses(part))) {
      const whole = out.get(name) ?? new Float32Array(bars.count);
      out.set(name, whole);
      whole.set(values.subarray(at - from), at);
    }
  }
  return out;
}

/** The way over the lines without those that are hardly likely. */
export const likelyLines = ({ begins, likely }: BorderPath): BorderPath => ({
  begins: begins.filter((at) => (likely[at] as number) >= LIKELY),
  likely,
});

const maybeLines = ({ begins, likely }: BorderPath): FoundSections['maybe'] =>
  [...likely].flatMap((confidence, bar) =>
    confidence >= MAYBE && !begins.includes(bar) ? [{ bar, confidence }] : [],
  );

/** Spans between the bars at which sections begin. */
export const spansOf = (begins: readonly number[], count: number): BarSpan[] =>
  begins.map((fromBar, i) => ({ fromBar, toBar: begins[i + 1] ?? count }));

export const groupsOf = (bars: BarFeatures, spans: readonly BarSpan[], { alike }: SectionModel): number[] => {
  const keys = spans.length > MANY_SECTIONS ? 1 : undefined;
  return groupAlike(spans.length, (a, b) =>
    alikeFacts(bars, spans[a] as BarSpan, spans[b] as BarSpan, keys).reduce(
      (sum, fact, k) => sum + fact * (alike.weights[k] ?? 0),
      alike.bias,
    ),
  );
};

function namedSections(
  bars: BarFeatures,
  { begins, likely }: BorderPath,
  model: SectionModel,
): FoundSection[] {
  const spans = spansOf(begins, bars.count);
  const groups = groupsOf(bars, spans, model);
  const grouped = spans.map((s, i) => ({ ...s, group: groups[i] as number }));
  const kinds = kindsOf(kindFacts(bars, grouped), groups, model);
  return grouped.map((s, i) => ({
    ...s,
    confidence: likely[s.fromBar] as number,
    ...(kinds[i] as (typeof kinds)[number]),
  }));
}

const softmax = (odds: readonly number[]): number[] => {
  const all = logSum(odds);
  return odds.map((o) => Math.exp(o - all));
};

const FIRST_SUNG = KIND_FACTS.indexOf('like the first sung');
const VOICE = KIND_FACTS.indexOf('voice of its like');

/** Whether a section is of a group that is sung and comes again, but not the one sung first: of two such, the second is the chorus more often than not (common practice, no source). */
function isSecondSung(i: number, facts: readonly (readonly number[])[], groups: readonly number[]): boolean {
  const [own, count] = [facts[i], groups.filter((g) => g === groups[i]).length];
  return own !== undefined && own[FIRST_SUNG] === 0 && (own[VOICE] as number) > 0.4 && count > 1;
}

/** The likeliest kind of every section; what alike sections say counts as much as what one says of itself. */
function kindsOf(
  facts: readonly (readonly number[])[],
  groups: readonly number[],
  { kinds }: SectionModel,
): Pick<FoundSection, 'kind' | 'kindConfidence'>[] {
  const odds = facts.map((row) =>
    kinds.weights.map((w, k) => row.reduce((sum, f, d) => sum + f * (w[d] ?? 0), kinds.bias[k] ?? 0)),
  );
  return odds.map((own, i) => {
    const alike = odds.filter((_, j) => groups[j] === groups[i]);
    const both = own.map((o, k) => (o + mean(alike.map((a) => a[k] as number))) / 2);
    const shares = softmax(both);
    const best = shares.indexOf(Math.max(...shares));
    const kind = SECTION_KINDS[best] ?? 'other';
    const isSecond = kind === 'verse' && (shares[best] ?? 0) < KIND_DOUBT && isSecondSung(i, facts, groups);
    return { kind: isSecond ? 'chorus' : kind, kindConfidence: shares[best] ?? 0 };
  });
}
