import { applyEdits, type Edit } from './edits';
import { emptySession, type SessionState } from './state';

/** One line of the edit log, as far as undo needs it. */
export interface LogEntry {
  readonly revision: number;
  /** `do`: a person's or a job's edits; `undo`/`redo`: of the entry named by `of`. */
  readonly action: 'do' | 'undo' | 'redo';
  /** Revision of the `do` entry that an `undo` or `redo` is about. */
  readonly of: number | null;
  /** False for what arrived (recordings): undo passes it by. */
  readonly undoable: boolean;
}

/** Undone and done entries, as two stacks; a new edit empties the redo stack. */
function stacks(log: readonly LogEntry[]): { done: number[]; undone: number[] } {
  const done: number[] = [];
  const undone: number[] = [];
  for (const e of log) {
    if (e.action === 'do' && e.undoable) {
      done.push(e.revision);
      undone.length = 0;
    } else if (e.action === 'undo' && e.of !== null) {
      done.splice(done.lastIndexOf(e.of), 1);
      undone.push(e.of);
    } else if (e.action === 'redo' && e.of !== null) {
      undone.splice(undone.lastIndexOf(e.of), 1);
      done.push(e.of);
    }
  }
  return { done, undone };
}

/** Revision of the entry that undo takes back next; null = nothing. */
export const undoable = (log: readonly LogEntry[]): number | null => stacks(log).done.at(-1) ?? null;

/** Revision of the entry that redo brings again next; null = nothing. */
export const redoable = (log: readonly LogEntry[]): number | null => stacks(log).undone.at(-1) ?? null;

/**
 * The state of a session at a revision, from its log; what arrived later is there as well, as it came.
 * Revision 0 = as received. Throws RangeError when the log does not replay.
 */
export function stateAt(
  log: readonly (Pick<LogEntry, 'revision' | 'undoable'> & { readonly edits: readonly Edit[] })[],
  revision: number,
): SessionState {
  let state = emptySession('');
  for (const entry of log) {
    if (entry.revision > revision && entry.undoable) continue;
    const outcome = applyEdits(state, entry.edits);
    if (!outcome.ok)
      throw new RangeError(`revision ${entry.revision} does not replay: ${outcome.code} ${outcome.id}`);
    state = outcome.session;
  }
  return state;
}
