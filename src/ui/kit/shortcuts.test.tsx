import { fireEvent, render, screen } from '@testing-library/react';
import { useLayoutEffect } from 'react';
import { setSingleKeys, useShortcuts, type Shortcut } from './shortcuts';
import { formatBytes, formatDb, formatDuration, formatPercent, formatRate } from './numbers';

function Keys({ shortcuts }: { readonly shortcuts: readonly Shortcut[] }) {
  useShortcuts(shortcuts);
  return (
    <>
      <input aria-label="text" />
      <input type="checkbox" aria-label="tick" />
      <input type="range" aria-label="threshold" />
      <button type="button">go</button>
    </>
  );
}

it('runs a key once it is pressed on the page, with the right modifiers only', () => {
  const run = jest.fn();
  const save = jest.fn();
  const lens = jest.fn();
  render(
    <Keys
      shortcuts={[
        { key: 'n', run },
        { key: 'enter', mod: true, run: save },
        { code: 'Digit3', shift: true, run: lens },
      ]}
    />,
  );
  fireEvent.keyDown(window, { key: 'n' });
  fireEvent.keyDown(window, { key: 'n', altKey: true });
  fireEvent.keyDown(window, { key: 'Enter' });
  expect([run.mock.calls.length, save.mock.calls.length]).toEqual([1, 0]);
  fireEvent.keyDown(window, { key: 'Enter', ctrlKey: true });
  fireEvent.keyDown(window, { key: 'Enter', metaKey: true });
  expect(save).toHaveBeenCalledTimes(2);
  // Shift + 3 is # on one layout and · on another: the key's place counts.
  fireEvent.keyDown(window, { key: '·', code: 'Digit3', shiftKey: true });
  fireEvent.keyDown(window, { key: '3', code: 'Digit3' });
  expect(lens).toHaveBeenCalledTimes(1);
});
it('leaves letters to those who type, and Space to buttons', () => {
  const run = jest.fn();
  render(
    <Keys
      shortcuts={[
        { key: 'n', run },
        { key: ' ', run },
      ]}
    />,
  );
  fireEvent.keyDown(screen.getByLabelText('text'), { key: 'n' });
  fireEvent.keyDown(screen.getByRole('button'), { key: ' ' });
  expect(run).not.toHaveBeenCalled();
  fireEvent.keyDown(screen.getByLabelText('tick'), { key: 'n' });
  expect(run).toHaveBeenCalledTimes(1);
});
it('does what is drawn, from the moment it is drawn', () => {
  const done: string[] = [];
  function Stage({ main }: { readonly main: string }) {
    useLayoutEffect(() => {
      // As somebody who presses at the first sight of it.
      fireEvent.keyDown(window, { key: 'Enter', ctrlKey: true });
    }, [main]);
    return <Keys shortcuts={[{ key: 'enter', mod: true, run: () => done.push(main) }]} />;
  }
  const { rerender } = render(<Stage main="on to the next" />);
  rerender(<Stage main="cut" />);
  expect(done).toEqual(['on to the next', 'cut']);
});
it('leaves a slider the keys that move it, and nothing else', () => {
  const [step, next] = [jest.fn(), jest.fn()];
  render(
    <Keys
      shortcuts={[
        { key: 'arrowright', run: step },
        { key: 'n', run: next },
      ]}
    />,
  );
  fireEvent.keyDown(screen.getByLabelText('threshold'), { key: 'ArrowRight' });
  fireEvent.keyDown(screen.getByLabelText('threshold'), { key: 'n' });
  expect([step.mock.calls.length, next.mock.calls.length]).toEqual([0, 1]);
  fireEvent.keyDown(window, { key: 'ArrowRight' });
  expect(step).toHaveBeenCalledTimes(1);
});

it("after a click on a button Space is the page's again, until the keyboard comes back to it", () => {
  const run = jest.fn();
  render(<Keys shortcuts={[{ key: ' ', run }]} />);
  const button = screen.getByRole('button');
  fireEvent.pointerDown(button);
  button.focus();
  fireEvent.keyDown(button, { key: ' ' });
  expect(run).toHaveBeenCalledTimes(1);
  screen.getByLabelText('tick').focus();
  button.focus();
  fireEvent.keyDown(button, { key: ' ' });
  expect(run).toHaveBeenCalledTimes(1);
});
it('keeps quiet on single keys when they are switched off (WCAG 2.1.4), not on others', () => {
  const run = jest.fn();
  render(
    <Keys
      shortcuts={[
        { key: 'n', run },
        { key: '?', run },
        { key: 'enter', mod: true, run },
        { key: 'arrowdown', run },
      ]}
    />,
  );
  setSingleKeys(false);
  fireEvent.keyDown(window, { key: 'n' });
  expect(run).not.toHaveBeenCalled();
  fireEvent.keyDown(window, { key: '?' });
  fireEvent.keyDown(window, { key: 'Enter', ctrlKey: true });
  fireEvent.keyDown(window, { key: 'ArrowDown' });
  setSingleKeys(true);
  fireEvent.keyDown(window, { key: 'n' });
  expect(run).toHaveBeenCalledTimes(4);
});
it('writes numbers as people read them', () => {
  expect([formatBytes(0), formatBytes(999), formatBytes(41_200_000), formatBytes(2.5e9)]).toEqual([
    '0 B',
    '999 B',
    '41.2 MB',
    '2.5 GB',
  ]);
  expect([formatDb(-6.02), formatDb(null), formatDb(-Infinity), formatDb(0)]).toEqual([
    '−6.0',
    'silent',
    'silent',
    '0.0',
  ]);
  expect([formatDuration(59.6), formatPercent(0.256), formatRate(44_100)]).toEqual(['1:00', '26 %', '44.1']);
});

it('leaves Escape to an open menu', () => {
  const leave = jest.fn();
  render(<Keys shortcuts={[{ key: 'escape', run: leave }]} />);
  const menu = document.createElement('div');
  menu.className = 'dropdown-menu show';
  document.body.append(menu);
  // Closed by the same key, before the page hears of it.
  document.addEventListener('keydown', () => menu.remove(), { once: true });
  fireEvent.keyDown(document.body, { key: 'Escape' });
  expect(leave).not.toHaveBeenCalled();
  fireEvent.keyDown(document.body, { key: 'Escape' });
  expect(leave).toHaveBeenCalledTimes(1);
});
