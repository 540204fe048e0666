import { fireEvent, render, screen } from '@testing-library/react';
import { useEffect, useRef } from 'react';
import { type Pinch, usePinch } from './use-pinch';

const heard: Pinch[] = [];
function Pad({ onTell }: { readonly onTell: (isPinching: { readonly current: boolean }) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const pinching = usePinch(box, (p) => heard.push(p));
  useEffect(() => onTell(pinching), [onTell, pinching]);
  return <div ref={box} data-testid="pad" />;
}
const touch = (
  type: 'pointerDown' | 'pointerMove' | 'pointerUp',
  pointerId: number,
  clientX: number,
): void => {
  const pad = screen.getByTestId('pad');
  // jsdom's events of pointers carry no id.
  const event = new MouseEvent(type.toLowerCase(), { bubbles: true, clientX });
  fireEvent(pad, Object.assign(event, { pointerId, pointerType: 'touch' }));
};

it('hears two fingers by how far apart they go and where their middle goes; one alone is no pinch', async () => {
  let isPinching = { current: false };
  const tell = (now: { readonly current: boolean }): void => {
    isPinching = now;
  };
  render(<Pad onTell={tell} />);
  screen.getByTestId('pad').getBoundingClientRect = () => ({ left: 100, width: 400 }) as DOMRect;
  touch('pointerDown', 1, 200);
  touch('pointerMove', 1, 220);
  expect([heard, isPinching.current]).toEqual([[], false]);
  touch('pointerDown', 2, 320);
  expect(isPinching.current).toBe(true);
  touch('pointerMove', 2, 420);
  expect(heard).toEqual([{ spread: 2, middle: 0.55, moved: expect.closeTo(0.125, 9) }]);
  touch('pointerUp', 2, 420);
  // The finger that is left is still no pointer of its own.
  expect(isPinching.current).toBe(true);
  touch('pointerUp', 1, 220);
  await new Promise((resolve) => setTimeout(resolve, 5));
  expect(isPinching.current).toBe(false);
});
