import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { StepLabels } from '@/contracts';
import {
  applyChanges,
  applyEdits,
  type Change,
  concerns,
  type Edit,
  emptySession,
  type LogEntry,
  nextRedo,
  nextUndo,
  type SessionState,
} from '@/core/session';
import { db, EditModel, loadSession, RecordingModel, saveSession } from '../db';
import { RequestFault } from '../http';
import { enqueueConforming, mustFitConforming } from './conform';
import { keepSnapshot } from './past';
import { enqueueConversions } from './recordings';
import { mustBeKept } from './must-be-kept';
import { mustHaveStyle } from './styles';

/** Who did it and what it is called in the history. */
export interface EditMeta {
  readonly label: string;
  readonly author: 'person' | 'intake' | 'demo' | 'style';
  /** Default true; arrivals are passed by when undoing. */
  readonly undoable?: boolean;
}

/**
 * Makes changes to a session in one transaction: rows, log line, revision + 1.
 * With `baseRevision` the session must still be there, else `session.stale_revision` with what happened since; what a
 * person's page sends is laid over it instead (`acceptBatch`).
 */
export async function applyToSession(
  sessionId: string,
  changes: readonly Change[],
  meta: EditMeta,
  options: { baseRevision?: number; transaction?: Transaction } = {},
): Promise<number> {
  const work = async (transaction: Transaction): Promise<number> => {
    const loaded = await mustLoad(sessionId, transaction);
    if (options.baseRevision !== undefined && options.baseRevision !== loaded.revision) {
      const since = await EditModel.findAll({
        where: { sessionId },
        order: [['revision', 'ASC']],
        attributes: ['revision', 'label', 'author'],
        transaction,
      });
      throw new RequestFault({
        code: 'session.stale_revision',
        revision: loaded.revision,
        since: since
          .filter((e) => e.revision > (options.baseRevision as number))
          .map((e) => ({ label: e.label, author: e.author })),
      });
    }
    return commit(sessionId, loaded, changes, { ...meta, action: 'do', of: null }, transaction);
  };
  return options.transaction ? work(options.transaction) : db().transaction(work);
}

/** Takes back the newest step that is not undone, or brings the newest undone one again; returns the new revision. */
export async function stepBack(sessionId: string, action: 'undo' | 'redo'): Promise<number> {
  return db().transaction(async (transaction) => {
    const loaded = await mustLoad(sessionId, transaction);
    await mustBeKept(sessionId, transaction);
    const of = await nextStep(sessionId, action, transaction);
    if (of === null)
      throw new RequestFault({
        code: action === 'undo' ? 'history.nothing_to_undo' : 'history.nothing_to_redo',
      });
    // An undo takes back what was done last for that step: the original or its latest redo.
    const latest = (await EditModel.findOne({
      where: { sessionId, [Op.or]: [{ revision: of }, { ofRevision: of }] },
      order: [['revision', 'DESC']],
      transaction,
    })) as EditModel;
    // A redo or an undo is called what the step itself was.
    const meta = { label: latest.label, author: 'person', action, of } as const;
    return commit(sessionId, loaded, latest.inverse as Edit[], meta, transaction);
  });
}

/** A session with its revision, held against other edits until the transaction ends; else `session.not_found`. */
export async function mustLoad(
  sessionId: string,
  transaction: Transaction,
): Promise<{ revision: number; session: SessionState }> {
  db();
  const loaded = await loadSession(sessionId, transaction, true);
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  return loaded;
}

/** Makes changes to a loaded session and writes the log line; returns the new revision. */
export async function commit(
  sessionId: string,
  loaded: { revision: number; session: SessionState },
  changes: readonly Change[],
  meta: EditMeta & {
    readonly action: 'do' | 'undo' | 'redo';
    readonly of: number | null;
    readonly batchId?: string | null;
  },
  transaction: Transaction,
): Promise<number> {
  const outcome = applyChanges(loaded.session, changes);
  if (!outcome.ok) throw new RequestFault({ code: outcome.code, id: outcome.id });
  const { edits, session } = outcome;
  await mustOwn(sessionId, edits, transaction);
  if (meta.action === 'do') {
    if (session.conform !== null && session.conform !== loaded.session.conform)
      await mustFitConforming(sessionId, session, transaction);
    if (session.style !== null && session.style !== loaded.session.style)
      await mustHaveStyle(session.style, transaction);
  }
  const revision = loaded.revision + 1;
  await saveSession(sessionId, loaded.session, session, revision, transaction);
  await EditModel.create(
    {
      sessionId,
      revision,
      action: meta.action,
      ofRevision: meta.of,
      undoable: meta.undoable ?? true,
      label: meta.label,
      author: meta.author,
      edits,
      inverse: outcome.inverse,
      batchId: meta.batchId ?? null,
    },
    { transaction },
  );
  await keepSnapshot(sessionId, revision, session, transaction);
  if (session.sampleRateHz !== loaded.session.sampleRateHz || concerns(edits, 'lane', 'keepsSamples'))
    await enqueueConversions(sessionId, session, transaction);
  // What the new state asks for is rendered; what is there already costs nothing.
  await enqueueConforming(sessionId, session, transaction);
  return revision;
}

/** Whether the rate of a session is what a person chose, before anything came or later; undone it is not. */
export async function rateWasChosen(sessionId: string, transaction: Transaction): Promise<boolean> {
  const [last] = await db().query<{ author: string; action: string }>(
    `select author, action from edits where session_id = :sessionId and jsonb_path_exists(edits, '$[*].fields.sampleRateHz')
     order by revision desc limit 1`,
    { replacements: { sessionId }, type: QueryTypes.SELECT, transaction },
  );
  return last !== undefined && last.author === 'person' && last.action !== 'undo';
}

/** What takes a track's place must be a recording of this session that has arrived. */
async function mustOwn(sessionId: string, edits: readonly Edit[], transaction: Transaction): Promise<void> {
  const ids = new Set(
    edits.flatMap((e) =>
      e.kind === 'patch' && e.of === 'lane' && e.fields.recordingId ? [e.fields.recordingId] : [],
    ),
  );
  if (
    ids.size > 0 &&
    (await RecordingModel.count({ where: { id: [...ids], sessionId, state: 'ready' }, transaction })) <
      ids.size
  )
    throw new RequestFault({ code: 'edit.unknown_id', id: [...ids][0] as string });
}

/** Lines of the log that are read first: nearly always enough. */
const LINES_READ_FIRST = 64;

/** Revision of the step that undo or redo is about next; null = none. Reads as much of the log as decides it. */
export async function nextStep(
  sessionId: string,
  action: 'undo' | 'redo',
  transaction?: Transaction,
): Promise<number | null> {
  for (let limit = LINES_READ_FIRST; ; limit *= 8) {
    const rows = await EditModel.findAll({
      where: { sessionId },
      order: [['revision', 'DESC']],
      attributes: ['revision', 'action', 'ofRevision', 'undoable'],
      limit,
      transaction,
    });
    const { revision, isSure } = (action === 'undo' ? nextUndo : nextRedo)(rows.map(toLogEntry));
    if (isSure || rows.length < limit) return revision;
  }
}

/** What undo and redo would be about. */
export async function stepLabels(sessionId: string, transaction?: Transaction): Promise<StepLabels> {
  const labelOf = async (action: 'undo' | 'redo'): Promise<string | null> => {
    const revision = await nextStep(sessionId, action, transaction);
    if (revision === null) return null;
    const where = { sessionId, revision };
    return (await EditModel.findOne({ where, attributes: ['label'], transaction }))?.label ?? null;
  };
  return { undoLabel: await labelOf('undo'), redoLabel: await labelOf('redo') };
}

const toLogEntry = (r: EditModel): LogEntry => ({
  revision: r.revision,
  action: r.action as LogEntry['action'],
  of: r.ofRevision,
  undoable: r.undoable,
});

/** Replays the log from revision 0 and returns both states, which must be equal. */
export async function verifyReplay(
  sessionId: string,
): Promise<{ readonly rows: SessionState; readonly replayed: SessionState }> {
  db();
  const loaded = await loadSession(sessionId);
  if (!loaded) throw new RequestFault({ code: 'session.not_found' });
  let state = emptySession('');
  for (const entry of await EditModel.findAll({ where: { sessionId }, order: [['revision', 'ASC']] })) {
    const outcome = applyEdits(state, entry.edits as Edit[]);
    if (!outcome.ok)
      throw new Error(`revision ${entry.revision} does not replay: ${outcome.code} ${outcome.id}`);
    state = outcome.session;
  }
  return { rows: loaded.session, replayed: state };
}
