import { act, renderHook } from '@testing-library/react';
import { panned, zoomed } from '@/ui/kit';
import { useLanesWindow } from './use-lanes-window';

const LIMITS = { lengthSeconds: 120, shortestSeconds: 1.5 };
const lanes = (position: number) =>
  renderHook(({ at }: { at: number }) => useLanesWindow('s1', 120, at), { initialProps: { at: position } });

beforeEach(() => window.sessionStorage.clear());

it('goes along with the play position, and stands where it was moved to until that moves', () => {
  const { result, rerender } = lanes(40);
  expect(result.current.window).toEqual({ from: 37.75, to: 46.75 });
  act(() => result.current.change((w) => panned(w, 1, LIMITS)));
  expect(result.current.window).toEqual({ from: 46.75, to: 55.75 });
  rerender({ at: 60 });
  expect(result.current.window.from).toBe(57.75);
});
it('takes nothing from a tab that holds what is no length', () => {
  for (const kept of ['Infinity', 'NaN', '-3', '', 'a']) {
    window.sessionStorage.setItem('fernmoss-tempo-span-s1', kept);
    expect(lanes(40).result.current.window).toEqual({ from: 37.75, to: 46.75 });
  }
});
it('zooms where one looks, within the song, and keeps how near over a reload', () => {
  const { result } = lanes(40);
  act(() => result.current.change((w) => zoomed(w, 0.5, w.from, LIMITS)));
  expect(result.current.window).toEqual({ from: 37.75, to: 42.25 });
  act(() => result.current.zoom(1e-6));
  expect(result.current.window.to - result.current.window.from).toBe(1.5);
  act(() => result.current.zoom(1e6));
  expect(result.current.window).toEqual({ from: 0, to: 120 });
  act(() => result.current.zoom(0.1));
  const again = lanes(40).result.current.window;
  expect(again.to - again.from).toBe(12);
});
