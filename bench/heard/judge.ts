import { HEARD_KINDS, type HeardModel, heardOdds } from '../../src/core/analysis';
import type { Example } from './examples';

/** How a model does on examples: sure = confidence 0.7 or more. */
export interface Judgement {
  readonly count: number;
  readonly sure: number;
  /** Right among the sure, 0–1. */
  readonly right: number;
  /** Right whatever the confidence. */
  readonly rightOfAll: number;
  /** Rows: what it is; columns: what it is heard as; the last: not said. */
  readonly table: readonly (readonly number[])[];
}

const SURE = 0.7;

/** Counts what a model says of each example. */
export function judge(model: HeardModel, examples: readonly Example[]): Judgement {
  const table = HEARD_KINDS.map(() => new Array<number>(HEARD_KINDS.length + 1).fill(0));
  let all = 0;
  for (const e of examples) {
    const odds = heardOdds(model, e.features);
    const best = odds.indexOf(Math.max(...odds));
    const row = table[HEARD_KINDS.indexOf(e.kind)] as number[];
    if (HEARD_KINDS[best] === e.kind) all++;
    const column = (odds[best] as number) >= SURE ? best : HEARD_KINDS.length;
    row[column] = (row[column] as number) + 1;
  }
  const sure = table.reduce((s, row) => s + row.slice(0, -1).reduce((a, b) => a + b, 0), 0);
  const right = table.reduce((s, row, k) => s + (row[k] as number), 0);
  return {
    count: examples.length,
    sure,
    right: sure === 0 ? 0 : right / sure,
    rightOfAll: all / Math.max(1, examples.length),
    table,
  };
}

const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;

/** A confusion table as Markdown. */
export function confusionMarkdown(j: Judgement): string {
  const head = `| is \\ heard as | ${HEARD_KINDS.join(' | ')} | not said |`;
  return [
    `${j.count} examples: right ${percent(j.right)} where it is said (confidence from 0.7), not said ${percent(1 - j.sure / Math.max(1, j.count))}; right ${percent(j.rightOfAll)} of all if it always had to say.`,
    '',
    head,
    `|${'---|'.repeat(HEARD_KINDS.length + 2)}`,
    ...HEARD_KINDS.map((k, i) => `| ${k} | ${(j.table[i] as readonly number[]).join(' | ')} |`),
  ].join('\n');
}
