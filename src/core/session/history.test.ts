import { createRandom } from '../units';
import { redoable, undoable, type LogEntry } from './index';

const step = (revision: number, undoable = true): LogEntry => ({
  revision,
  action: 'do',
  of: null,
  undoable,
});
const undo = (revision: number, of: number): LogEntry => ({ revision, action: 'undo', of, undoable: true });
const redo = (revision: number, of: number): LogEntry => ({ revision, action: 'redo', of, undoable: true });

it('takes back the newest step, then the one before', () => {
  const log = [step(1), step(2)];
  expect(undoable(log)).toBe(2);
  expect(redoable(log)).toBeNull();
  const once = [...log, undo(3, 2)];
  expect(undoable(once)).toBe(1);
  expect(redoable(once)).toBe(2);
  const twice = [...once, undo(4, 1)];
  expect(undoable(twice)).toBeNull();
  expect(redoable(twice)).toBe(1);
});

it('passes arrivals by and keeps redo over them', () => {
  const log = [step(1), undo(2, 1), step(3, false)];
  expect(undoable(log)).toBeNull();
  expect(redoable(log)).toBe(1);
});

it('a new step ends what could be done again', () => {
  const log = [step(1), undo(2, 1), step(3)];
  expect(redoable(log)).toBeNull();
  expect(undoable(log)).toBe(3);
});

it('a step done again can be taken back again', () => {
  const log = [step(1), undo(2, 1), redo(3, 1)];
  expect(undoable(log)).toBe(1);
  expect(redoable(log)).toBeNull();
});

it('equals two plain stacks over any history (seed 23)', () => {
  const random = createRandom(23);
  for (let round = 0; round < 100; round++) {
    const log: LogEntry[] = [];
    const done: number[] = [];
    let undone: number[] = [];
    for (let revision = 1; revision <= 40; revision++) {
      const dice = random();
      if (dice < 0.35 && done.length > 0) {
        const of = done.pop() as number;
        undone.push(of);
        log.push(undo(revision, of));
      } else if (dice < 0.6 && undone.length > 0) {
        const of = undone.pop() as number;
        done.push(of);
        log.push(redo(revision, of));
      } else if (dice < 0.7) log.push(step(revision, false));
      else {
        done.push(revision);
        undone = [];
        log.push(step(revision));
      }
      expect(undoable(log)).toBe(done.at(-1) ?? null);
      expect(redoable(log)).toBe(undone.at(-1) ?? null);
    }
  }
});
