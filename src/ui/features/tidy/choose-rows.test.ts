import { selectOnly, workbench } from '@/ui/client';
import { chooseRow, takeHold } from './choose-rows';

const IDS = ['a', 'b', 'c', 'd'];
const plain = { shiftKey: false, ctrlKey: false, metaKey: false };
const chosen = (): string => [...workbench.getState().selected].sort().join('');

beforeEach(() => selectOnly(null));

it('a click takes one, Shift all up to it either way, Ctrl one more or less', () => {
  chooseRow(IDS, plain, 'c');
  expect(chosen()).toBe('c');
  chooseRow(IDS, { ...plain, shiftKey: true }, 'a');
  expect(chosen()).toBe('abc');
  chooseRow(IDS, { ...plain, shiftKey: true }, 'd');
  expect(chosen()).toBe('cd');
  chooseRow(IDS, { ...plain, ctrlKey: true }, 'a');
  chooseRow(IDS, { ...plain, metaKey: true }, 'd');
  expect(chosen()).toBe('ac');
});

it('what is taken hold of keeps the others selected; another row is taken alone, and what held for one alone ends', () => {
  chooseRow(IDS, plain, 'a');
  chooseRow(IDS, { ...plain, shiftKey: true }, 'b');
  workbench.setState({ alone: true });
  takeHold('a');
  expect([chosen(), workbench.getState().current, workbench.getState().alone]).toEqual(['ab', 'a', true]);
  takeHold('d');
  expect([chosen(), workbench.getState().current, workbench.getState().alone]).toEqual(['d', 'd', false]);
});
