import { type LOCK, Transaction } from 'sequelize';
import type { Family } from '@/core/naming';
import {
  type ConformSettings,
  emptySession,
  isFolder,
  isTrack,
  ROOT,
  type Bus,
  type Folder,
  type KeptMap,
  type MapFacts,
  type Send,
  type SessionState,
  type Track,
} from '@/core/session';
import { inSnapshot } from './connection';
import { currentTransaction } from './current-transaction';
import { isUuid } from './ids';
import {
  BusModel,
  FolderModel,
  GroupModel,
  MarkerModel,
  MeterModel,
  SendModel,
  SessionModel,
  TempoMapModel,
  TempoPointModel,
  TrackModel,
} from './models';

/** Builds the state of a session from its rows, all as of one revision; null when there is no such session. With `lock`, no one else can change it meanwhile. */
export const loadSession = (
  id: string,
  transaction?: Transaction,
  lock = false,
): Promise<{ revision: number; session: SessionState } | null> =>
  !isUuid(id)
    ? Promise.resolve(null)
    : transaction
      ? readSession(id, transaction, lock)
      : inSnapshot(() => readSession(id, undefined, false));

/**
 * How the session's own row is held while the others are read. Every edit takes it first, so that in a transaction which
 * sees what others commit meanwhile nobody edits between two of our statements; a snapshot needs nothing.
 */
function headLock(given: Transaction | undefined, forUpdate: boolean): { readonly lock?: LOCK } {
  const transaction = given ?? currentTransaction();
  if (!transaction) return {};
  if (forUpdate) return { lock: Transaction.LOCK.UPDATE };
  const { isolationLevel } = (transaction as unknown as { options: { isolationLevel?: string } }).options;
  return isolationLevel === Transaction.ISOLATION_LEVELS.REPEATABLE_READ
    ? {}
    : { lock: Transaction.LOCK.SHARE };
}

async function readSession(
  id: string,
  transaction: Transaction | undefined,
  lock: boolean,
): Promise<{ revision: number; session: SessionState } | null> {
  const head = await SessionModel.findByPk(id, { transaction, ...headLock(transaction, lock) });
  if (!head) return null;
  const where = { sessionId: id };
  // One after the other: in a transaction they share one connection, which would only queue them.
  const buses = await BusModel.findAll({ where, order: [['position', 'ASC']], transaction });
  const sends = sendsBySource(
    await SendModel.findAll({
      where,
      order: [
        ['fromId', 'ASC'],
        ['position', 'ASC'],
      ],
      transaction,
    }),
  );
  const groups = await GroupModel.findAll({ where, order: [['position', 'ASC']], transaction });
  const folders = await FolderModel.findAll({ where, order: [['id', 'ASC']], transaction });
  const tracks = await TrackModel.findAll({ where, order: [['id', 'ASC']], transaction });
  const map = await TempoMapModel.findOne({ where, transaction });
  const points = await TempoPointModel.findAll({ where, order: [['index', 'ASC']], transaction });
  const meters = await MeterModel.findAll({ where, order: [['bar', 'ASC']], transaction });
  const markers = await MarkerModel.findAll({
    where,
    order: [
      ['seconds', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction,
  });
  const nodes: Record<string, Track | Folder> = {};
  for (const f of folders)
    nodes[f.id] = { kind: 'folder', id: f.id, name: f.name, color: f.color, busId: f.busId };
  for (const t of tracks) nodes[t.id] = toTrack(t, sends.get(t.id) ?? []);
  const children: Record<string, string[]> = { [ROOT]: [] };
  for (const f of folders) children[f.id] = [];
  for (const row of [...folders, ...tracks].sort((a, b) => a.position - b.position)) {
    const siblings = children[row.parentId];
    // Read past, it would be missing from every list and every package without a word.
    if (!siblings) throw new Error(`session ${id}: ${row.id} lies in ${row.parentId}, which is not there`);
    siblings.push(row.id);
  }
  return {
    revision: head.revision,
    session: {
      ...emptySession(head.name, head.artist, head.notes),
      sampleRateHz: head.sampleRateHz,
      nodes,
      children,
      buses: Object.fromEntries(
        buses.map((b) => [
          b.id,
          {
            id: b.id,
            name: b.name,
            color: b.color,
            kind: b.kind as Bus['kind'],
            outputBusId: b.outputBusId,
            sends: sends.get(b.id) ?? [],
            byHand: b.byHand as string[],
          } satisfies Bus,
        ]),
      ),
      busOrder: buses.map((b) => b.id),
      groups: groups.map((g) => ({
        id: g.id,
        name: g.name,
        trackIds: g.trackIds as string[],
        on: g.isOn,
        gainDb: g.gainDb,
        byHand: g.byHand,
      })),
      map:
        map && points.length > 0
          ? {
              schemaVersion: 1,
              points: points.map((p) => ({
                quarters: p.quarters,
                seconds: p.seconds,
                ...(p.ramp === null ? {} : { ramp: p.ramp }),
              })),
              meters: meters.map((m) => ({
                bar: m.bar,
                numerator: m.numerator,
                denominator: m.denominator,
                ...(m.groups ? { groups: m.groups as number[] } : {}),
                ...(m.number === null ? {} : { number: m.number }),
              })),
            }
          : null,
      mapFacts: (map?.facts as MapFacts | null | undefined) ?? null,
      keptMaps: head.keptMaps as KeptMap[],
      timekeepers: (head.timekeepers as string[] | null) ?? null,
      cutBars: head.cutBars,
      words: (head.words as SessionState['words'] | null) ?? [],
      style:
        head.styleId === null || head.styleVersion === null
          ? null
          : { id: head.styleId, version: head.styleVersion },
      markers: markers.map((m) => ({ id: m.id, name: m.name, seconds: m.seconds })),
      conform: (head.conform as ConformSettings | null) ?? null,
    },
  };
}

function sendsBySource(rows: readonly SendModel[]): ReadonlyMap<string, readonly Send[]> {
  const sends = new Map<string, Send[]>();
  for (const r of rows)
    sends.set(r.fromId, [
      ...(sends.get(r.fromId) ?? []),
      { busId: r.busId, gainDb: r.gainDb, pan: r.pan, before: r.beforeLevel },
    ]);
  return sends;
}

function toTrack(t: TrackModel, sends: readonly Send[]): Track {
  return {
    kind: 'track',
    id: t.id,
    recordingId: t.recordingId,
    receivedName: t.receivedName,
    startFrames: Number(t.startFrames),
    name: t.name,
    family: t.family as Family,
    part: t.part,
    role: t.role,
    position: t.place,
    side: t.side,
    number: t.number,
    color: t.color,
    busId: t.busId,
    sends,
    gainDb: t.gainDb,
    pan: t.pan,
    muted: t.muted,
    inverted: t.inverted,
    monoFrom: t.monoFrom as Track['monoFrom'],
    keepsSamples: t.keepsSamples,
    tiedTo: t.tiedTo as Track['tiedTo'],
    confidence: t.confidence,
    evidence: t.evidence as Track['evidence'],
    byHand: t.byHand as string[],
  };
}

/** Writes what differs between two states of a session, and its new revision. */
export async function saveSession(
  id: string,
  before: SessionState,
  after: SessionState,
  revision: number,
  transaction: Transaction,
): Promise<void> {
  await SessionModel.update(
    {
      name: after.name,
      artist: after.artist,
      notes: after.notes,
      sampleRateHz: after.sampleRateHz,
      timekeepers: after.timekeepers,
      cutBars: after.cutBars,
      words: after.words,
      keptMaps: after.keptMaps,
      styleId: after.style?.id ?? null,
      styleVersion: after.style?.version ?? null,
      conform: after.conform,
      revision,
      updatedAt: new Date(),
    },
    { where: { id }, transaction },
  );
  await saveBuses(id, before, after, transaction);
  await saveNodes(id, before, after, transaction);
  await saveSends(id, before, after, transaction);
  if (before.groups !== after.groups) await saveGroups(id, after, transaction);
  if (before.markers !== after.markers) await saveMarkers(id, after, transaction);
  if (before.map !== after.map || before.mapFacts !== after.mapFacts) await saveMap(id, after, transaction);
}

async function saveBuses(
  sessionId: string,
  before: SessionState,
  after: SessionState,
  transaction: Transaction,
): Promise<void> {
  if (before.buses === after.buses && before.busOrder === after.busOrder) return;
  await BusModel.destroy({ where: { sessionId }, transaction });
  await BusModel.bulkCreate(
    after.busOrder.map((id, position) => {
      const { sends: _sends, ...bus } = after.buses[id] as Bus;
      return { ...bus, sessionId, position };
    }),
    { transaction },
  );
}

/** Only of what sends otherwise than before. */
async function saveSends(
  sessionId: string,
  before: SessionState,
  after: SessionState,
  transaction: Transaction,
): Promise<void> {
  if (before.nodes === after.nodes && before.buses === after.buses) return;
  const sendsOf = (s: SessionState): Map<string, readonly Send[]> =>
    new Map(
      [...Object.values(s.nodes).filter(isTrack), ...Object.values(s.buses)].map((x) => [x.id, x.sends]),
    );
  const was = sendsOf(before);
  const is = sendsOf(after);
  const dirty = [...new Set([...was.keys(), ...is.keys()])].filter(
    (id) => was.get(id) !== is.get(id) && (was.get(id) ?? []).length + (is.get(id) ?? []).length > 0,
  );
  if (dirty.length === 0) return;
  await SendModel.destroy({ where: { sessionId, fromId: dirty }, transaction });
  await SendModel.bulkCreate(
    dirty.flatMap((fromId) =>
      (is.get(fromId) ?? []).map((x, position) => ({
        sessionId,
        fromId,
        busId: x.busId,
        position,
        gainDb: x.gainDb,
        pan: x.pan,
        beforeLevel: x.before,
      })),
    ),
    { transaction },
  );
}

async function saveGroups(
  sessionId: string,
  { groups }: SessionState,
  transaction: Transaction,
): Promise<void> {
  await GroupModel.destroy({ where: { sessionId }, transaction });
  await GroupModel.bulkCreate(
    groups.map((g, position) => ({
      sessionId,
      id: g.id,
      position,
      name: g.name,
      trackIds: g.trackIds,
      isOn: g.on,
      gainDb: g.gainDb,
      byHand: g.byHand,
    })),
    { transaction },
  );
}

async function saveNodes(
  sessionId: string,
  before: SessionState,
  after: SessionState,
  transaction: Transaction,
): Promise<void> {
  if (before.nodes === after.nodes && before.children === after.children) return;
  const places = (s: SessionState): Map<string, string> =>
    new Map(
      Object.entries(s.children).flatMap(([parentId, ids]) =>
        ids.map((id, position) => [id, `${position}:${parentId}`] as const),
      ),
    );
  const was = places(before);
  const is = places(after);
  const gone = Object.keys(before.nodes).filter((id) => !after.nodes[id]);
  if (gone.length > 0) {
    await TrackModel.destroy({ where: { sessionId, id: gone }, transaction });
    await FolderModel.destroy({ where: { sessionId, id: gone }, transaction });
  }
  const dirty = Object.values(after.nodes).filter(
    (n) => before.nodes[n.id] !== n || was.get(n.id) !== is.get(n.id),
  );
  const place = (id: string): { parentId: string; position: number } => {
    const [position, parentId] = (is.get(id) ?? `0:${ROOT}`).split(':') as [string, string];
    return { parentId, position: Number(position) };
  };
  const folders = dirty
    .filter(isFolder)
    .map((f) => ({ sessionId, id: f.id, name: f.name, color: f.color, busId: f.busId, ...place(f.id) }));
  const tracks = dirty
    .filter((n): n is Track => n.kind === 'track')
    .map(({ kind: _kind, sends: _sends, position: micPlace, ...t }) => ({
      ...t,
      sessionId,
      place: micPlace,
      ...place(t.id),
    }));
  if (folders.length > 0)
    await FolderModel.bulkCreate(folders, {
      transaction,
      updateOnDuplicate: ['parentId', 'position', 'name', 'color', 'busId'],
    });
  if (tracks.length > 0) {
    const columns = Object.keys(tracks[0] as object).filter(
      (k) => !['sessionId', 'id'].includes(k),
    ) as (keyof (typeof tracks)[number])[];
    await TrackModel.bulkCreate(tracks, { transaction, updateOnDuplicate: columns });
  }
}

async function saveMarkers(
  sessionId: string,
  { markers }: SessionState,
  transaction: Transaction,
): Promise<void> {
  await MarkerModel.destroy({ where: { sessionId }, transaction });
  await MarkerModel.bulkCreate(
    markers.map((m) => ({ sessionId, ...m })),
    { transaction },
  );
}

async function saveMap(sessionId: string, after: SessionState, transaction: Transaction): Promise<void> {
  for (const model of [TempoPointModel, MeterModel, TempoMapModel])
    await (model as typeof MeterModel).destroy({ where: { sessionId }, transaction });
  if (!after.map) return;
  await TempoMapModel.create({ sessionId, facts: after.mapFacts }, { transaction });
  await TempoPointModel.bulkCreate(
    after.map.points.map((p, index) => ({ sessionId, index, ramp: null, ...p })),
    { transaction },
  );
  await MeterModel.bulkCreate(
    after.map.meters.map((m) => ({ sessionId, groups: null, number: null, ...m })),
    { transaction },
  );
}
