import { join } from 'node:path';
import { readNames } from '@/core/naming';
import { createRandom } from '@/core/units';
import { labelledDeliveries, labelledNames, labelledWords, scoreNames } from '../support/labelled-names';

// Names of imagined engineers with what a person of the trade reads in them; see names/README.md.
it('reads family and part, place, side and number, and knows when it does not', () => {
  const score = scoreNames(labelledNames(join(__dirname, 'names')));
  expect(score.count).toBeGreaterThanOrEqual(2600);
  expect(score.family).toBeGreaterThanOrEqual(0.965);
  expect(score.part).toBeGreaterThanOrEqual(0.965);
  expect(Math.min(score.position, score.side, score.number)).toBeGreaterThanOrEqual(0.97);
  expect(score.invented).toBeLessThanOrEqual(0.04);
  expect(score.wrongDoubtful).toBeGreaterThanOrEqual(0.8);
  expect(score.rightDoubtful).toBeLessThanOrEqual(0.12);
});

// Never tuned on: a floor below what the first sight gave.
it('reads deliveries it was never tuned on', () => {
  const score = scoreNames(labelledNames(join(__dirname, 'names-kept')));
  expect(score.family).toBeGreaterThanOrEqual(0.92);
  expect(score.part).toBeGreaterThanOrEqual(0.9);
  expect(score.wrongDoubtful).toBeGreaterThanOrEqual(0.68);
  expect(score.rightDoubtful).toBeLessThanOrEqual(0.12);
});

it('knows the words of the trade one by one, in many kinds of delivery and seven languages', () => {
  const score = scoreNames(labelledWords(join(__dirname, 'names-words')));
  expect(score.count).toBeGreaterThanOrEqual(3300);
  expect(score.family).toBeGreaterThanOrEqual(0.96);
  expect(score.part).toBeGreaterThanOrEqual(0.94);
});

/** What senders write behind or before a name that says nothing of what it is (common practice, no source). */
const NOISE: readonly ((name: string) => string)[] = [
  ...[
    ' dry',
    '_comp',
    '_PRINT',
    '-bounce',
    ' (edit)',
    '_stem',
    ' tuned',
    '_consolidated',
    '_merged',
    ' rendered',
  ],
  ...[
    '.1',
    '_01',
    '_48k24b',
    ' 24bit 96kHz',
    '_2024-05-17',
    ' WET',
    '_raw',
    '(mono)',
    ' tk3',
    ' copy',
    '_ALT',
    '_ed2',
  ],
].map((text) => (name) => name + text);

it('reads names the same with treatments, dates, rates and takes behind some of them, and invents no number from those', () => {
  const random = createRandom(41);
  let [read, changed] = [0, 0];
  for (const { names } of labelledDeliveries(join(__dirname, 'names'))) {
    const plain = names.map((n) => n.name.replace(/\.(wav|aif)$/i, ''));
    if (plain.length < 8 || plain.some((n) => /[\\/]/.test(n))) continue;
    const noisy = plain.map((n) =>
      random() < 0.6 ? (NOISE[Math.floor(random() * NOISE.length)] ?? String)(n) : n,
    );
    const [before, after] = [readNames(plain), readNames(noisy)];
    before.forEach((b, i) => {
      if (b.confidence < 0.7) return;
      read++;
      const a = after[i];
      if (a?.family !== b.family || a.part !== b.part || a.side !== b.side || a.number !== b.number)
        changed++;
    });
  }
  expect(read).toBeGreaterThan(1800);
  expect(changed / read).toBeLessThan(0.025);
});
