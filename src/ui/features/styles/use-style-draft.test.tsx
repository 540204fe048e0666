import { act, renderHook } from '@testing-library/react';
import { DEFAULT_STYLE } from '@/core/style';
import { useStyleDraft } from './use-style-draft';

beforeEach(() => window.sessionStorage.clear());
const KEY = 'fernmoss-style-draft s 1';

it('changes, goes back and forth, and says what must be mended', () => {
  const { result } = renderHook(() => useStyleDraft('s', DEFAULT_STYLE));
  expect(result.current).toMatchObject({ isChanged: false, canUndo: false, issues: [] });
  act(() => result.current.change({ leadInBars: 4 }));
  act(() => result.current.change({ leadInBars: 99 }));
  expect(result.current.issues[0]?.path).toBe('leadInBars');
  act(() => result.current.undo());
  expect(result.current).toMatchObject({
    isChanged: true,
    canRedo: true,
    issues: [],
    style: { leadInBars: 4 },
  });
  act(() => result.current.redo());
  expect(result.current.style.leadInBars).toBe(99);
  act(() => result.current.undo());
  act(() => result.current.undo());
  expect(result.current).toMatchObject({ isChanged: false, canUndo: false, canRedo: true });
});

it('what is not kept yet survives a reload; what was taken back does not', () => {
  const first = renderHook(() => useStyleDraft('s', DEFAULT_STYLE));
  act(() => first.result.current.change({ junk: ['harbour'] }));
  first.unmount();
  const second = renderHook(() => useStyleDraft('s', DEFAULT_STYLE));
  expect(second.result.current).toMatchObject({
    isChanged: true,
    canUndo: true,
    style: { junk: ['harbour'] },
  });
  act(() => second.result.current.undo());
  expect(window.sessionStorage.getItem(KEY)).toBeNull();
  second.unmount();
  expect(renderHook(() => useStyleDraft('s', DEFAULT_STYLE)).result.current.isChanged).toBe(false);
});

it('a draft that is damaged, or begins from another version, is left alone', () => {
  window.sessionStorage.setItem(KEY, '{"leadInBars": "many"}');
  expect(renderHook(() => useStyleDraft('s', DEFAULT_STYLE)).result.current.isChanged).toBe(false);
  window.sessionStorage.setItem(KEY, JSON.stringify({ ...DEFAULT_STYLE, junk: ['x'] }));
  expect(
    renderHook(() => useStyleDraft('s', { ...DEFAULT_STYLE, version: 2 })).result.current.isChanged,
  ).toBe(false);
});
