import { drawSoon } from './draw-soon';

const frames: FrameRequestCallback[] = [];
let clock = 0;
const nextFrame = (): void => {
  for (const f of frames.splice(0)) f(clock);
};
beforeAll(() => {
  window.requestAnimationFrame = (f) => frames.push(f);
  jest.spyOn(performance, 'now').mockImplementation(() => clock);
});

it('draws what a frame has room for, the rest in the next ones, in order, and nothing taken back', () => {
  const drawn: number[] = [];
  const draw = (n: number) => () => {
    drawn.push(n);
    clock += 2;
  };
  const back = [0, 1, 2, 3, 4, 5, 6, 7].map((n) => drawSoon(draw(n)));
  expect(drawn).toEqual([0, 1, 2]);
  back[4]?.();
  nextFrame();
  expect(drawn).toEqual([0, 1, 2, 3, 5, 6]);
  nextFrame();
  expect(drawn).toEqual([0, 1, 2, 3, 5, 6, 7]);
  nextFrame();
  expect(frames.length).toBe(0);
});
