import { act, renderHook } from '@testing-library/react';
import { panned, zoomed } from '@/ui/kit';
import { usePlotWindow } from './use-plot-window';

const LANES = { from: 40, to: 50 };
const plot = () => renderHook(() => usePlotWindow(100, LANES));

test('shows the whole song until it is zoomed, and again on the second turn', () => {
  const { result } = plot();
  expect(result.current.window).toEqual({ from: 0, to: 100 });
  act(() => result.current.turn());
  expect(result.current.window).toEqual({ from: 25, to: 65 });
  expect(result.current.isWhole).toBe(false);
  act(() => result.current.turn());
  expect(result.current.isWhole).toBe(true);
});

test('is zoomed where one looks and moved within the song, no nearer than a few seconds', () => {
  const { result } = plot();
  const { limits } = result.current;
  act(() => result.current.change((w) => zoomed(w, 0.5, 80, limits)));
  expect(result.current.window).toEqual({ from: 40, to: 90 });
  act(() => result.current.change((w) => panned(w, 5, limits)));
  expect(result.current.window).toEqual({ from: 50, to: 100 });
  act(() => result.current.change((w) => zoomed(w, 1e-6, 70, limits)));
  expect(result.current.window.to - result.current.window.from).toBeCloseTo(4, 9);
});
