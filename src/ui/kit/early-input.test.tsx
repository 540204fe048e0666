import { act, cleanup, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { answerEarlyInput, holdEarlyInput } from './early-input';
import { useShortcuts } from './shortcuts';

const done: string[] = [];

function Page() {
  const [text, setText] = useState('');
  useShortcuts([
    { key: 'k', run: () => done.push('key k') },
    { key: 'enter', mod: true, run: () => done.push(`main with ${text}`) },
  ]);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        done.push(`form ${text}`);
      }}
    >
      <input aria-label="Word" value={text} onChange={(e) => setText(e.target.value)} />
      <input type="checkbox" aria-label="Tick" onChange={(e) => done.push(`tick ${e.target.checked}`)} />
      <button type="button" onClick={(e) => done.push(`button ${e.shiftKey}`)}>
        Go
      </button>
    </form>
  );
}

/** As the browser does it, with a page that hears nothing of it yet. */
function typed(field: HTMLElement, text: string): void {
  (field as HTMLInputElement).value = text;
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

beforeEach(() => {
  done.length = 0;
});
afterEach(() => {
  window.fernmossEarly?.release();
  cleanup();
});

it('does what was given to a page before it could answer, once and in its order', async () => {
  holdEarlyInput();
  render(<Page />);
  const field = screen.getByLabelText('Word');
  typed(field, 'oa');
  typed(field, 'oar');
  const enter = new KeyboardEvent('keydown', {
    key: 'Enter',
    ctrlKey: true,
    bubbles: true,
    cancelable: true,
  });
  field.dispatchEvent(enter);
  screen.getByText('Go').dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey: true }));
  screen.getByLabelText('Tick').click();
  // Pressed again, as nothing happened: meant once.
  screen.getByLabelText('Tick').click();
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'k', bubbles: true }));
  expect([done, enter.defaultPrevented]).toEqual([[], true]);
  await act(answerEarlyInput);
  expect(done).toEqual(['main with oar', 'button true', 'tick true', 'key k']);
  await act(answerEarlyInput);
  screen.getByText('Go').click();
  expect(done).toHaveLength(5);
});

it('lets go what is the browser’s own: letters in a field, Tab, links', () => {
  holdEarlyInput();
  render(
    <>
      <input aria-label="Word" />
      <a href="#there">There</a>
    </>,
  );
  const keys = [
    [screen.getByLabelText('Word'), 'k'],
    [document.body, 'Tab'],
    [screen.getByText('There'), 'Enter'],
  ] as const;
  for (const [target, key] of keys) {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
    target.dispatchEvent(event);
    expect([key, event.defaultPrevented]).toEqual([key, false]);
  }
  expect(window.fernmossEarly?.inputs).toEqual([]);
});

it('does nothing to what is gone since', async () => {
  holdEarlyInput();
  const { unmount } = render(<Page />);
  screen.getByText('Go').dispatchEvent(new MouseEvent('click', { bubbles: true }));
  unmount();
  await act(answerEarlyInput);
  expect(done).toEqual([]);
});

function Delivery() {
  return (
    <section
      aria-label="Drop here"
      onDrop={({ dataTransfer: { items, files } }) =>
        done.push(
          `dropped ${[...items].map((i) => i.webkitGetAsEntry()?.name)}, ${[...files].map((f) => f.name)}`,
        )
      }
    >
      <input
        type="file"
        aria-label="Files"
        onChange={(e) => done.push(`chosen ${[...(e.target.files ?? [])].map((f) => f.name)}`)}
      />
      <select aria-label="Rate" onChange={(e) => done.push(`rate ${e.target.value}`)}>
        <option>44100</option>
        <option>48000</option>
      </select>
    </section>
  );
}

it('takes in files that were chosen or dropped before the page could answer', async () => {
  holdEarlyInput();
  render(<Delivery />);
  const input = screen.getByLabelText('Files');
  Object.defineProperty(input, 'files', { value: [new File(['x'], 'Oar.wav')], configurable: true });
  for (const type of ['input', 'change']) input.dispatchEvent(new Event(type, { bubbles: true }));
  const rate = screen.getByLabelText<HTMLSelectElement>('Rate');
  rate.value = '48000';
  for (const type of ['input', 'change']) rate.dispatchEvent(new Event(type, { bubbles: true }));
  // As the page's own code does it with what it holds to be chosen.
  rate.value = '44100';

  const over = new Event('dragover', { bubbles: true, cancelable: true });
  const drop = new Event('drop', { bubbles: true, cancelable: true });
  const carried: { items: unknown[]; files: File[] } = {
    items: [{ webkitGetAsEntry: () => ({ name: 'Album' }) }],
    files: [new File(['y'], 'Keel.wav')],
  };
  Object.defineProperty(drop, 'dataTransfer', { value: carried, configurable: true });
  for (const event of [over, drop]) screen.getByLabelText('Drop here').dispatchEvent(event);
  // As the browser does once the event is over.
  Object.assign(carried, { items: [], files: [] });
  expect([done, over.defaultPrevented, drop.defaultPrevented]).toEqual([[], true, true]);
  await act(answerEarlyInput);
  expect(done).toEqual(['chosen Oar.wav', 'rate 48000', 'dropped Album, Keel.wav']);
});
