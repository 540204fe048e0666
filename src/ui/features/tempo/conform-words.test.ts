import { changeText, rangeText } from './conform-words';

it('writes changes with their sign and as many places as they need', () => {
  expect([changeText(0.0204), changeText(-0.004), changeText(0.12), changeText(0)]).toEqual([
    '+2.0 %',
    '−0.4 %',
    '+12 %',
    '+0.0 %',
  ]);
  expect([rangeText({ low: -0.026, high: 0.031 }), rangeText({ low: 0.02, high: 0.0202 })]).toEqual([
    '−2.6 … +3.1 %',
    '+2.0 %',
  ]);
});
