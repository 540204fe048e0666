import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readFileSync } from 'node:fs';
import { useState } from 'react';
import { Button, IconButton } from './button';
import { Dialog } from './dialog';
import { Field } from './field';
import { Icon } from './icon';
import { ICON_PATHS } from './icon-paths';
import { Menu } from './menu';
import { NumberField } from './number-field';
import { useLongPress } from './use-long-press';

const paths = (svg: string): (string | undefined)[] =>
  [...svg.matchAll(/<path[^>]* d="([^"]+)"/g)].map((m) => m[1]);

it('icons are drawn path by path as the set has them: some begin relative to 0, 0', () => {
  for (const name of Object.keys(ICON_PATHS) as (keyof typeof ICON_PATHS)[]) {
    const { container, unmount } = render(<Icon name={name} />);
    const set = readFileSync(`node_modules/bootstrap-icons/icons/${name}.svg`, 'utf8');
    expect(paths(container.innerHTML)).toEqual(paths(set));
    unmount();
  }
});

it('a button that holds a state tells it; inside a form only submit sends', () => {
  const sent = jest.fn((e: { preventDefault: () => void }) => e.preventDefault());
  render(
    <form onSubmit={sent}>
      <Button isOn>Loop</Button>
      <Button>Plain</Button>
    </form>,
  );
  expect(screen.getByRole('button', { name: 'Loop' })).toHaveAttribute('aria-pressed', 'true');
  expect(screen.getByRole('button', { name: 'Plain' })).not.toHaveAttribute('aria-pressed');
  fireEvent.click(screen.getByRole('button', { name: 'Plain' }));
  expect(sent).not.toHaveBeenCalled();
});

it('the name of an icon button is told and shown to the pointer, and goes when it is pressed', async () => {
  const user = userEvent.setup();
  const pressed = jest.fn();
  render(
    <IconButton label="Keys" hint="?" onClick={pressed}>
      <Icon name="keyboard" />
    </IconButton>,
  );
  const button = screen.getByRole('button', { name: 'Keys' });
  await user.hover(button);
  expect(document.querySelector('.tooltip')).toHaveTextContent('Keys ?');
  await user.click(button);
  expect(pressed).toHaveBeenCalledTimes(1);
  expect(document.querySelector('.tooltip')).toBeNull();
});

it('a dialog is named by its title, sends by Enter, and gives the focus back', async () => {
  const user = userEvent.setup();
  const sent = jest.fn();
  function Asking() {
    const [open, setOpen] = useState(false);
    const [text, setText] = useState('');
    return (
      <>
        <Button onClick={() => setOpen(true)}>Ask</Button>
        {open && (
          <Dialog
            title="A question"
            onClose={() => setOpen(false)}
            onSubmit={(e) => {
              e.preventDefault();
              sent(text);
              setOpen(false);
            }}
          >
            <Field
              id="name"
              label="Name"
              value={text}
              error={text === '' ? 'Give it a name' : null}
              onChange={setText}
            />
          </Dialog>
        )}
      </>
    );
  }
  render(<Asking />);
  await user.click(screen.getByRole('button', { name: 'Ask' }));
  expect(screen.getByRole('dialog', { name: 'A question' })).toBeVisible();
  expect(screen.getByText('Give it a name')).toBeVisible();
  await user.type(screen.getByLabelText('Name'), 'Kick{Enter}');
  expect(sent).toHaveBeenCalledWith('Kick');
  expect(screen.getByRole('button', { name: 'Ask' })).toHaveFocus();
});

describe('a number', () => {
  const field = (): HTMLElement => screen.getByRole('spinbutton', { name: 'Level' });
  const show = (onKeep: (value: number) => void) =>
    render(<NumberField label="Level" value={-3} min={-60} max={12} unit="dB" step={0.5} onKeep={onKeep} />);

  it('is kept when it is left, as it was meant; arrows step it within its ends', () => {
    const kept: number[] = [];
    show((value) => kept.push(value));
    expect(field()).toHaveValue('−3');
    fireEvent.change(field(), { target: { value: '-4,5 dB' } });
    fireEvent.blur(field());
    fireEvent.keyDown(field(), { key: 'ArrowUp' });
    fireEvent.keyDown(field(), { key: 'ArrowUp', shiftKey: true });
    expect(field()).toHaveValue('2.5');
    for (let n = 0; n < 4; n++) fireEvent.keyDown(field(), { key: 'ArrowUp', shiftKey: true });
    expect(field()).toHaveValue('12');
    fireEvent.blur(field());
    expect(kept).toEqual([-4.5, 12]);
  });

  it('stays as typed and says why where it cannot be read; Escape brings back what was', () => {
    const onKeep = jest.fn();
    show(onKeep);
    fireEvent.change(field(), { target: { value: 'louder' } });
    fireEvent.blur(field());
    expect(field()).toBeInvalid();
    expect(field()).toHaveAccessibleDescription(/Not a number/);
    fireEvent.keyDown(field(), { key: 'Escape' });
    expect(field()).toHaveValue('−3');
    expect(onKeep).not.toHaveBeenCalled();
  });
});

it('a menu opens under its button, does what is chosen, and holds back what is disabled', async () => {
  const done: string[] = [];
  render(
    <Menu
      label="Rows"
      items={[
        { label: 'Fold all', run: () => done.push('fold') },
        'line',
        { label: 'Remove', isDisabled: true, run: () => done.push('remove') },
      ]}
    />,
  );
  expect(screen.queryByRole('button', { name: 'Fold all' })).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Rows' }));
  fireEvent.click(await screen.findByRole('button', { name: 'Remove' }));
  fireEvent.click(screen.getByRole('button', { name: 'Fold all' }));
  expect(done).toEqual(['fold']);
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Fold all' })).toBeNull());
});

it('a finger that rests asks once, and lifting it is no click; one that moves or leaves soon asks nothing', () => {
  jest.useFakeTimers();
  const [held, clicked] = [jest.fn(), jest.fn()];
  function Pad() {
    return <div aria-label="pad" onClick={clicked} {...useLongPress(held)} />;
  }
  render(<Pad />);
  const pad = screen.getByLabelText('pad');
  // jsdom has no pointer events.
  const touch = (type: 'Down' | 'Move' | 'Up', clientX: number): boolean =>
    fireEvent(
      pad,
      Object.assign(new MouseEvent(`pointer${type.toLowerCase()}`, { bubbles: true, clientX, clientY: 20 }), {
        pointerType: 'touch',
      }),
    );
  touch('Down', 20);
  touch('Move', 60);
  jest.advanceTimersByTime(600);
  touch('Up', 60);
  touch('Down', 20);
  jest.advanceTimersByTime(200);
  touch('Up', 20);
  fireEvent.click(pad);
  expect([held.mock.calls.length, clicked.mock.calls.length]).toEqual([0, 1]);
  touch('Down', 20);
  jest.advanceTimersByTime(600);
  touch('Up', 20);
  fireEvent.click(pad);
  expect([held.mock.calls.length, clicked.mock.calls.length]).toEqual([1, 1]);
  jest.advanceTimersByTime(200);
  fireEvent.click(pad);
  expect(clicked).toHaveBeenCalledTimes(2);
  jest.useRealTimers();
});
