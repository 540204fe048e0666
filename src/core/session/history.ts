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

/** What the newest lines of a log say; not sure = older ones decide. */
export interface LogAnswer {
  /** Revision of the step; null = there is none. */
  readonly revision: number | null;
  readonly isSure: boolean;
}

/** Which step undo takes back next: the newest that no later line took back. `newest`: lines of the log, the newest first. */
export function nextUndo(newest: readonly LogEntry[]): LogAnswer {
  const undone = new Set<number>();
  for (const e of newest) {
    const of = e.action === 'do' ? e.revision : e.of;
    if (of === null || (e.action === 'do' && !e.undoable) || undone.has(of)) continue;
    if (e.action !== 'undo') return { revision: of, isSure: true };
    undone.add(of);
  }
  return { revision: null, isSure: false };
}

/** Which step redo brings again next: the newest taken back that no later line brought again; a new step ends what could be. */
export function nextRedo(newest: readonly LogEntry[]): LogAnswer {
  const redone = new Set<number>();
  for (const e of newest) {
    if (e.action === 'do' && e.undoable) return { revision: null, isSure: true };
    if (e.of === null || redone.has(e.of)) continue;
    if (e.action === 'undo') return { revision: e.of, isSure: true };
    redone.add(e.of);
  }
  return { revision: null, isSure: false };
}

/** Revision of the entry that undo takes back next; null = nothing. `log`: oldest first. */
export const undoable = (log: readonly LogEntry[]): number | null => nextUndo([...log].reverse()).revision;

/** Revision of the entry that redo brings again next; null = nothing. `log`: oldest first. */
export const redoable = (log: readonly LogEntry[]): number | null => nextRedo([...log].reverse()).revision;

/** A state to begin from, and the revision it is of. */
export interface StateThen {
  readonly revision: number;
  readonly session: SessionState;
}

/**
 * The state of a session at a revision, from its log; what arrived later is there as well, as it came.
 * Revision 0 = as received. `from`: a state of before, from which the log goes on. Throws RangeError when the log does not replay.
 */
export function stateAt(
  log: readonly (Pick<LogEntry, 'revision' | 'undoable'> & { readonly edits: readonly Edit[] })[],
  revision: number,
  from: StateThen = { revision: 0, session: emptySession('') },
): SessionState {
  let state = from.session;
  for (const entry of log) {
    if (entry.revision <= from.revision || (entry.revision > revision && entry.undoable)) continue;
    const outcome = applyEdits(state, entry.edits);
    if (!outcome.ok)
      throw new RangeError(`revision ${entry.revision} does not replay: ${outcome.code} ${outcome.id}`);
    state = outcome.session;
  }
  return state;
}
