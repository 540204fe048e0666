import {
  applyEdits,
  difference,
  type Edit,
  emptySession,
  recordsOf,
  type SessionState,
  stateOf,
} from '@/core/session';
import { formerlyDone, formerSession, type FormerEdit, type FormerSession } from './former-session';

/** A line of a log as it was written before there were records. */
export interface FormerLine {
  readonly revision: number;
  readonly edits: readonly FormerEdit[];
}

/** What it becomes. */
export interface CarriedLine {
  readonly revision: number;
  readonly edits: readonly Edit[];
  readonly inverse: readonly Edit[];
}

/** A former session as a session of today; what stood in order keeps the keys of `before`. */
const asToday = (former: FormerSession, before: SessionState): SessionState =>
  stateOf(recordsOf({ ...(former as unknown as SessionState), orderKeys: before.orderKeys }));

/** Follows a log of former days line by line, and says each line in edits of records. */
export class CarryOver {
  #former: FormerSession;
  #today: SessionState = emptySession('');

  /** `head`: what the song is called, for logs that begin with the first recording. */
  constructor(
    private readonly head: Pick<FormerSession, 'name' | 'artist' | 'notes'>,
    private isFirst = true,
  ) {
    this.#former = formerSession('', '', '');
  }

  /** The line in edits of records: they do and undo what it did. */
  carry({ revision, edits }: FormerLine): CarriedLine {
    if (this.isFirst && edits[0]?.kind !== 'session.describe') {
      const { name, artist, notes } = this.head;
      this.#former = { ...this.#former, name, artist, notes };
    }
    this.isFirst = false;
    this.#former = formerlyDone(this.#former, edits);
    return { revision, ...this.#goTo(this.#former) };
  }

  /** What is left to do from the end of the log to what the rows say; nothing, unless one of both was damaged. */
  end(rows: FormerSession): { readonly session: SessionState; readonly rest: Omit<CarriedLine, 'revision'> } {
    const rest = this.#goTo(rows);
    return { session: this.#today, rest };
  }

  #goTo(former: FormerSession): Omit<CarriedLine, 'revision'> {
    const edits = difference(this.#today, asToday(former, this.#today));
    const done = applyEdits(this.#today, edits);
    // A line that says what no session can be is passed by: the rows have the last word.
    if (!done.ok) return { edits: [], inverse: [] };
    this.#today = done.session;
    return { edits, inverse: done.inverse };
  }
}
