import { axis, roundTicks, widened } from './scales';
import { barStep, clockStep } from './steps';

it('goes there and back, and holds at its edges where asked', () => {
  const x = axis([60, 120], [0, 300]);
  expect([x(90), x.invert(150), x(150)]).toEqual([150, 90, 450]);
  expect(axis([60, 120], [300, 0], true)(150)).toBe(0);
});
it('puts round values, about as many as asked', () => {
  expect(roundTicks([97.3, 104.6], 5)).toEqual([98, 100, 102, 104]);
  expect(widened([97.3, 104.6], 5)).toEqual([96, 106]);
});
it('numbers bars by powers of two and clocks by what clocks are read in, far enough apart', () => {
  expect([barStep(50, 48), barStep(48, 48), barStep(3, 48), barStep(0, 48)]).toEqual([1, 2, 32, 1024]);
  expect([clockStep(100, 60), clockStep(4, 60), clockStep(0.5, 60), clockStep(0.001, 60)]).toEqual([
    1, 30, 300, 3600,
  ]);
});
