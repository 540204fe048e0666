import { join } from 'node:path';
import { labelledNames, labelledWords, scoreNames } from '../support/labelled-names';

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
  expect(score.family).toBeGreaterThanOrEqual(0.86);
  expect(score.part).toBeGreaterThanOrEqual(0.83);
  expect(score.wrongDoubtful).toBeGreaterThanOrEqual(0.6);
});

it('knows the words of the trade one by one, in many kinds of delivery and seven languages', () => {
  const score = scoreNames(labelledWords(join(__dirname, 'names-words')));
  expect(score.count).toBeGreaterThanOrEqual(3300);
  expect(score.family).toBeGreaterThanOrEqual(0.96);
  expect(score.part).toBeGreaterThanOrEqual(0.94);
});
