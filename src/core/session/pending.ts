import type { EditFault } from './checks';
import { applyEdits, type Edit } from './edits';
import { type Conflict, rebase } from './rebase';
import type { SessionState } from './state';

/** Edits of one step, made here and not confirmed yet. */
export interface Batch {
  readonly id: string;
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** A batch on what it was made on. */
export interface PendingBatch extends Batch {
  /** The session with it. */
  readonly after: SessionState;
}

/** A step that others' edits stand against: a person says whose hold. */
export interface AskedBatch {
  readonly batch: Batch;
  /** What it was made on. */
  readonly base: SessionState;
  readonly conflicts: readonly Conflict[];
  /** Why it does not fit, beside the conflicts; null = nothing else. */
  readonly fault: EditFault | null;
}

/** What a page holds of a session: the last state it was told, and on top of that its own steps that are on their way. */
export interface HeldSession {
  readonly revision: number;
  readonly confirmed: SessionState;
  /** Oldest first, each made on what the one before led to. */
  readonly pending: readonly PendingBatch[];
}

/** A session as it was told, nothing on its way. */
export const holdSession = (revision: number, confirmed: SessionState): HeldSession => ({
  revision,
  confirmed,
  pending: [],
});

/** What a person sees: their own steps are there at once. */
export const shownSession = ({ confirmed, pending }: HeldSession): SessionState =>
  pending.at(-1)?.after ?? confirmed;

/** A session with one more step of its own, made on what is shown. */
export const withPending = (held: HeldSession, batch: PendingBatch): HeldSession => ({
  ...held,
  pending: [...held.pending, batch],
});

/**
 * Goes on to a newer state of the server: own steps that are in it, or that it refused, are let go (`gone`, by id), the
 * others are laid over what is new. Those that others stand against are in `asked`, and done no more.
 */
export function goneOn(
  held: HeldSession,
  to: { readonly revision: number; readonly session: SessionState },
  gone: ReadonlySet<string>,
): { readonly held: HeldSession; readonly asked: readonly AskedBatch[] } {
  const pending: PendingBatch[] = [];
  const asked: AskedBatch[] = [];
  let base = held.confirmed;
  let now = to.session;
  for (const batch of held.pending) {
    const own = base;
    base = batch.after;
    if (gone.has(batch.id)) continue;
    if (own === now) {
      pending.push(batch);
      now = batch.after;
      continue;
    }
    const laid = rebase(batch.edits, own, now);
    if (!laid.ok) asked.push({ batch, base: own, conflicts: laid.conflicts, fault: laid.fault });
    else if (laid.edits.length > 0) {
      pending.push({ ...batch, edits: laid.edits, after: laid.session });
      now = laid.session;
    }
  }
  return { held: { revision: to.revision, confirmed: to.session, pending }, asked };
}

/** A batch as the server did it. */
export interface DoneBatch {
  readonly revision: number;
  readonly batchId: string | null;
  readonly edits: readonly Edit[];
}

/**
 * Takes what the server did since, oldest first; what is known already is passed by. Null = there is a gap, or it does
 * not fit what is held: the whole is to be asked for.
 */
export function withBatches(
  held: HeldSession,
  batches: readonly DoneBatch[],
): ReturnType<typeof goneOn> | null {
  const fresh = batches.filter((b) => b.revision > held.revision);
  let { revision, confirmed } = held;
  const done = new Set<string>();
  for (const batch of fresh) {
    if (batch.revision !== revision + 1) return null;
    const own = held.pending[done.size];
    // A step of one's own that met nobody is what is shown already.
    const isAsMade =
      own !== undefined &&
      own.id === batch.batchId &&
      (done.size === 0 ? held.confirmed : held.pending[done.size - 1]?.after) === confirmed &&
      own.edits.length === batch.edits.length;
    const outcome = isAsMade ? null : applyEdits(confirmed, batch.edits);
    if (outcome && !outcome.ok) return null;
    confirmed = outcome ? outcome.session : (own as PendingBatch).after;
    revision = batch.revision;
    if (batch.batchId !== null) done.add(batch.batchId);
  }
  return goneOn(held, { revision, session: confirmed }, done);
}
