import {
  SOUND_KINDS,
  SOUND_CLASSES,
  type SoundModel,
  likenessFromOdds,
  soundOdds,
  type SoundClass,
  type SoundSource,
  kindOfSound,
} from '../../src/core/analysis';
import type { Example } from './examples';

/** How a model does on examples: sure = confidence 0.7 or more. */
export interface Judgement {
  readonly count: number;
  readonly sure: number;
  /** Right among the sure, 0–1. */
  readonly right: number;
  /** Right whatever the confidence. */
  readonly rightOfAll: number;
  readonly names: readonly string[];
  /** Rows: what it is; columns: what it is heard as; the last: not said. */
  readonly table: readonly (readonly number[])[];
}

const SURE = 0.7;

/** What a model takes an example for. */
export const likeliest = (model: SoundModel, { features }: Example): SoundSource =>
  likenessFromOdds(soundOdds(model, features)).sounds?.[0] as SoundSource;

/** Counts what a model says of each example that is one sound. */
export const judgeSounds = (model: SoundModel, examples: readonly Example[]): Judgement =>
  counted(
    SOUND_CLASSES,
    examples
      .filter((e) => e.label.length === 1)
      .map((e) => {
        const { sound, confidence } = likeliest(model, e);
        return { is: e.label[0] as SoundClass, said: sound, confidence };
      }),
  );

/** The same by kind of sound. */
export const judgeKinds = (model: SoundModel, examples: readonly Example[]): Judgement =>
  counted(
    SOUND_KINDS,
    examples
      .filter((e) => new Set(e.label.map(kindOfSound)).size === 1)
      .map((e) => {
        const { kind, confidence } = likenessFromOdds(soundOdds(model, e.features));
        return { is: kindOfSound(e.label[0] as SoundClass), said: kind, confidence };
      }),
  );

function counted<T extends string>(
  names: readonly T[],
  answers: readonly { readonly is: T; readonly said: T; readonly confidence: number }[],
): Judgement {
  const table = names.map(() => new Array<number>(names.length + 1).fill(0));
  for (const { is, said, confidence } of answers) {
    const row = table[names.indexOf(is)] as number[];
    const column = confidence >= SURE ? names.indexOf(said) : names.length;
    row[column] = (row[column] as number) + 1;
  }
  const sure = table.reduce((s, row) => s + row.slice(0, -1).reduce((a, b) => a + b, 0), 0);
  const right = table.reduce((s, row, k) => s + (row[k] as number), 0);
  return {
    count: answers.length,
    sure,
    right: sure === 0 ? 0 : right / sure,
    rightOfAll: answers.filter((a) => a.is === a.said).length / Math.max(1, answers.length),
    names,
    table,
  };
}

const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;

/** A confusion table as Markdown. */
export function confusionMarkdown(j: Judgement): string {
  const there = j.names.map((_, k) => k).filter((k) => (j.table[k] as readonly number[]).some((n) => n > 0));
  return [
    `${j.count} examples: right ${percent(j.right)} where it is said (confidence from 0.7), not said ${percent(1 - j.sure / Math.max(1, j.count))}; right ${percent(j.rightOfAll)} of all if it always had to say.`,
    '',
    `| is \\ heard as | ${j.names.join(' | ')} | not said |`,
    `|${'---|'.repeat(j.names.length + 2)}`,
    ...there.map(
      (k) => `| ${j.names[k]} | ${(j.table[k] as readonly number[]).map((n) => n || '').join(' | ')} |`,
    ),
  ].join('\n');
}
