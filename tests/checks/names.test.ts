import { join } from 'node:path';
import { labelledNames, scoreNames } from '../support/labelled-names';

// Names of imagined engineers with what a person of the trade reads in them; see names/README.md.
it('reads family and part, and knows when it does not', () => {
  const score = scoreNames(labelledNames(join(__dirname, 'names')));
  expect(score.count).toBeGreaterThanOrEqual(300);
  expect(score.family).toBeGreaterThanOrEqual(0.97);
  expect(score.part).toBeGreaterThanOrEqual(0.95);
  expect(score.wrongDoubtful).toBeGreaterThanOrEqual(0.8);
  expect(score.rightDoubtful).toBeLessThanOrEqual(0.15);
});
