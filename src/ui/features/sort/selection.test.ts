import { selectOnly, workbench } from '@/ui/client';
import type { SheetRow } from './rows';
import { rowFurther, selectOneMore, selectUpTo } from './selection';

const rows = ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id }) as SheetRow);
const selected = (): string => [...workbench.getState().selected].sort().join('');

beforeEach(() => selectOnly('c'));

it('grows away from where the selection began, and shrinks towards it', () => {
  selectUpTo(rows, 'd');
  selectUpTo(rows, 'e');
  expect(selected()).toBe('cde');
  selectUpTo(rows, 'd');
  expect(selected()).toBe('cd');
  selectUpTo(rows, 'a');
  expect(selected()).toBe('abc');
  expect(workbench.getState().current).toBe('a');
});

it('begins anew where one was added by itself, and where one alone was chosen', () => {
  selectOneMore('a');
  expect(selected()).toBe('ac');
  selectUpTo(rows, 'b');
  expect(selected()).toBe('ab');
  selectOneMore('b');
  expect(selected()).toBe('a');
  selectOnly('e');
  selectUpTo(rows, 'd');
  expect(selected()).toBe('de');
});

it('what the selection began at is gone: it begins here', () => {
  selectOnly('gone');
  selectUpTo(rows, 'b');
  expect(selected()).toBe('b');
  selectUpTo(rows, 'nobody');
  expect(selected()).toBe('b');
});

it('goes no further than the ends', () => {
  expect([rowFurther(rows, 1), rowFurther(rows, 10), rowFurther(rows, -10)]).toEqual(['d', 'e', 'a']);
  selectOnly(null);
  expect(rowFurther(rows, 1)).toBe('a');
  expect(rowFurther([], 1)).toBeNull();
});
