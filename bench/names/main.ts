import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { LEXICON_SOURCES } from '../../src/core/naming/lexicon/lexicon';
import { parseLexicon } from '../../src/core/naming/lexicon/parse-lexicon';
import { packed } from '../../src/core/naming/reader/ngram-model';
import {
  type Label,
  labelledDeliveries,
  labelledNames,
  type LabelledName,
  scoreNames,
  wordLists,
} from '../../tests/support/labelled-names';
import { calibrate } from './calibrate';
import { ngramExamples, trainNgrams } from './train-ngrams';

/** Sets of labelled deliveries: those tuned on, and those kept apart. */
const SETS = ['names', 'names-kept'] as const;
const folderOf = (set: string): string => join(process.cwd(), 'tests', 'checks', set);
const percent = (x: number): string => `${(100 * x).toFixed(1)} %`;
const WORST = 20;
/** What stands before the weights in their file. */
const MADE = '/** Made by `npm run train:names` from';

if (process.argv.includes('--write')) write();
else for (const set of SETS) report(set, labelledNames(folderOf(set)));

/** A file of the reader that is written here, with what stands before the weights in it. */
function reader(file: string): { readonly head: string; readonly keep: (text: string) => void } {
  const path = join(process.cwd(), 'src', 'core', 'naming', 'reader', file);
  return {
    head: readFileSync(path, 'utf8').split(MADE)[0] ?? '',
    keep: (text) => writeFileSync(path, text),
  };
}

/** Learns the weights of the letters, then those of confidence, which judge by the letters as well. Never from the sets kept apart. */
function write(): void {
  const hand = labelledDeliveries(folderOf('names')).map((d) => d.names);
  const lists = wordLists(folderOf('names-words')).map((d) => d.names);
  writeLetters(hand, lists);
  if (!process.argv.includes('--letters')) writeCalibration(hand, lists);
}

function writeLetters(hand: Label[][], lists: Label[][]): void {
  const senses = LEXICON_SOURCES.flatMap((t) => parseLexicon(t).senses);
  const examples = ngramExamples(senses, hand, lists);
  const { classes, rows, outputs } = trainNgrams(examples);
  const [inner, outer] = [packed(rows), packed(outputs)];
  const { head, keep } = reader('ngram-weights.ts');
  keep(`${head}${MADE} ${examples.length} words and names. */
export const NGRAM_WEIGHTS: PackedNgrams = {
  classes: '${classes.join(' ')}'.split(' '),
  rowScale: ${inner.scale},
  outputScale: ${outer.scale},
  rows: '${inner.text}',
  outputs: '${outer.text}',
};
`);
  console.log(`letters learned from ${examples.length} words and names, ${classes.length} classes`);
}

function writeCalibration(hand: Label[][], lists: Label[][]): void {
  const { bias, units, examples } = calibrate(hand, lists);
  const { head, keep } = reader('calibration.ts');
  const lines = units.map(
    (u) => `    { bias: ${u.bias}, weight: ${u.weight}, weights: [${u.weights.join(', ')}] },`,
  );
  keep(`${head}${MADE} ${examples} readings. */
// prettier-ignore
export const CALIBRATION: Calibration = {
  bias: ${bias},
  units: [
${lines.join('\n')}
  ],
};
`);
  console.log(`calibration learned from ${examples} readings; build anew to use it`);
}

function report(set: string, names: readonly LabelledName[]): void {
  const s = scoreNames(names);
  console.log(
    `\n${set}: ${s.count} names · family ${percent(s.family)} · part ${percent(s.part)} · position ${percent(s.position)} · side ${percent(s.side)} · number ${percent(s.number)} · invented ${percent(s.invented)}`,
  );
  console.log(
    `wrong ones doubtful ${percent(s.wrongDoubtful)} of ${s.wrong.length} · right ones doubtful ${percent(s.rightDoubtful)}`,
  );
  // Of the kept sets only figures are shown: who has seen its errors would tune on them.
  if (set !== 'names') return;
  const mistaken = new Map<string, number>();
  for (const { label, reading } of s.wrong) {
    const pair = `${label.families.join('|')} → ${reading.family}`;
    mistaken.set(pair, (mistaken.get(pair) ?? 0) + 1);
  }
  for (const [pair, n] of [...mistaken].sort((a, b) => b[1] - a[1]).slice(0, WORST))
    console.log(`  ${String(n).padStart(3)}  ${pair}`);
  console.log('worst:');
  for (const { label, reading } of [...s.wrong]
    .sort((a, b) => b.reading.confidence - a.reading.confidence)
    .slice(0, WORST))
    console.log(
      `  ${reading.confidence.toFixed(2)}  ${label.name}: ${label.families.join('|')}/${label.parts?.join('|') ?? '-'} → ${reading.family}/${reading.part ?? '-'}`,
    );
}
