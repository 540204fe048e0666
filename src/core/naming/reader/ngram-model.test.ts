import { createRandom } from '@/core/units';
import { atomsOf } from './atoms';
import { NgramModel, ngramModel, packed, unpacked, WIDTH } from './ngram-model';
import { ROWS, rowsOf } from './ngrams';

const opinionOf = (name: string, around: readonly string[] = []) =>
  ngramModel().opinionOf(rowsOf(atomsOf(name), around));

it('sees the same in a name however it is written, and counts no number', () => {
  expect(rowsOf(atomsOf('SNARE_top 2'), [])).toEqual(rowsOf(atomsOf('Snare-Top 17'), []));
  expect(rowsOf(atomsOf('Snare'), [])).not.toEqual(rowsOf(atomsOf('Snare'), ['drums']));
  expect(rowsOf([], [])).toEqual([]);
});

it('keeps weights to half a step, the largest cut off', () => {
  const random = createRandom(3);
  const weights = Float32Array.from({ length: 5000 }, () => random() + random() + random() - 1.5);
  const { text, scale } = packed(weights);
  expect(text).toHaveLength(weights.length);
  const back = unpacked(text, scale);
  weights.forEach((x, i) => expect(Math.abs(x - (back[i] as number))).toBeLessThanOrEqual(scale / 2 + 1e-6));
  const { text: flat, scale: step } = packed(new Float32Array(4));
  expect(Array.from(unpacked(flat, step))).toEqual([0, 0, 0, 0]);
});

it('adds what the rows say, evened out by their number (worked by hand)', () => {
  const rows = new Float32Array(ROWS * WIDTH);
  const outputs = new Float32Array(2 * WIDTH);
  rows[7 * WIDTH] = 1;
  rows[9 * WIDTH] = 3;
  outputs[0] = 1;
  outputs[WIDTH] = -1;
  const model = new NgramModel({ classes: ['drums/kick', 'keys/piano'], rows, outputs });
  // Middle (1 + 3) / √2; the classes differ by twice that.
  const kick = 1 / (1 + Math.exp(-2 * (4 / Math.SQRT2)));
  const { families, logLikelihood } = model.opinionOf([7, 9]);
  expect(families.get('drums')).toBeCloseTo(kick, 6);
  expect(logLikelihood('keys', 'piano')).toBeCloseTo(Math.log(1 - kick), 4);
  expect(model.opinionOf([]).families.get('keys')).toBeCloseTo(0.5, 6);
  expect(() => new NgramModel({ classes: [], rows: new Float32Array(3), outputs })).toThrow('size');
});

it('knows by their letters names that no lexicon holds', () => {
  const likeliest = (name: string, around: readonly string[] = []): string | undefined =>
    [...opinionOf(name, around).families].sort((a, b) => b[1] - a[1])[0]?.[0];
  expect(likeliest('Snarre Topp', ['drums'])).toBe('drums');
  expect(likeliest('Strumgitarre')).toBe('guitars');
  expect(likeliest('Untitled Audio')).toBe('unknown');
});
