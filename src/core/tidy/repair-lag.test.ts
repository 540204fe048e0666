import { createRandom } from '../units';
import { repairLag } from './repair-lag';

const random = createRandom(4);
const sound = Float32Array.from({ length: 2000 }, (_, i) => Math.sin(i / 7) + 0.3 * (random() - 0.5));

it.each([-40, -3, 0, 17, 40])('finds what is %d frames away, whatever its level', (lag) => {
  const other = sound.slice(500 - 40 - lag, 500 + 300 + 40 - lag).map((x) => 0.1 * x);
  expect(repairLag(sound.slice(500, 800), other, 40)).toBe(lag);
});

it('silence says nothing', () => {
  expect(repairLag(sound.slice(0, 300), new Float32Array(380), 40)).toBe(0);
  expect(repairLag(new Float32Array(300), sound.slice(0, 380), 40)).toBe(0);
});
