import { act, fireEvent, render, screen } from '@testing-library/react';
import { PulledMark } from './pulled-mark';

const mark = (kept: number[]) => (
  <PulledMark
    label="Level"
    value={0}
    range={{ min: -60, max: 10 }}
    textOf={String}
    placeOf={() => 0.5}
    pulled={(byShare) => ({ value: byShare, heldBy: null })}
    onKeep={(value) => kept.push(value)}
    onHold={() => undefined}
    isReachable
  />
);
const pointer = (type: string, clientX: number): MouseEvent =>
  Object.assign(new MouseEvent(type, { bubbles: true, clientX }), { pointerId: 1 });

beforeEach(() => {
  jest.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockReturnValue({ width: 100 } as DOMRect);
  // jsdom has no capture of pointers.
  HTMLElement.prototype.setPointerCapture = () => undefined;
});
afterEach(() => jest.restoreAllMocks());

it('counts the last move of a pull, also where the page was not drawn between it and the release', () => {
  const kept: number[] = [];
  render(mark(kept));
  const slider = screen.getByRole('slider');
  fireEvent(slider, pointer('pointerdown', 0));
  fireEvent(slider, pointer('pointermove', 10));
  act(() => {
    slider.dispatchEvent(pointer('pointermove', 20));
    slider.dispatchEvent(pointer('pointermove', 40));
    slider.dispatchEvent(pointer('pointerup', 40));
  });
  expect(kept).toEqual([0.4]);
});

it('keeps nothing of a pull that was let go by Escape, or that only pointed', () => {
  const kept: number[] = [];
  render(mark(kept));
  const slider = screen.getByRole('slider');
  fireEvent(slider, pointer('pointerdown', 0));
  fireEvent(slider, pointer('pointermove', 30));
  fireEvent.keyDown(slider, { key: 'Escape' });
  fireEvent(slider, pointer('pointerup', 30));
  fireEvent(slider, pointer('pointerdown', 0));
  fireEvent(slider, pointer('pointermove', 2));
  fireEvent(slider, pointer('pointerup', 2));
  expect(kept).toEqual([]);
});
