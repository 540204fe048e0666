import type { Reader } from './reader';
import { formerSession, type FormerRow, type FormerSession } from './former-session';

type Row = Readonly<Record<string, unknown>>;

const number = (value: unknown): number => Number(value);

const trackOf = (t: Row, sends: readonly Row[]): FormerRow => ({
  kind: 'track',
  id: t.id as string,
  recordingId: t.recording_id,
  receivedName: t.received_name,
  startFrames: number(t.start_frames),
  name: t.name,
  family: t.family,
  part: t.part,
  role: t.role,
  position: t.place,
  side: t.side,
  number: t.number,
  color: t.color,
  busId: t.bus_id,
  sends,
  gainDb: t.gain_db,
  pan: t.pan,
  muted: t.muted,
  inverted: t.inverted,
  monoFrom: t.mono_from,
  keepsSamples: t.keeps_samples,
  tiedTo: t.tied_to,
  confidence: t.confidence,
  evidence: t.evidence,
  byHand: t.by_hand,
});

/** A session as its rows told it before there were records. */
export async function formerState(q: Reader, head: Row): Promise<FormerSession> {
  const read = (sql: string): Promise<Row[]> => q.select(sql, { session: head.id });
  const sends = new Map<unknown, Row[]>();
  for (const s of await read('select * from former_sends where session_id = :session order by position'))
    sends.set(s.from_id, [
      ...(sends.get(s.from_id) ?? []),
      { busId: s.bus_id, gainDb: s.gain_db, pan: s.pan, before: s.before_level },
    ]);
  const buses = await read('select * from former_buses where session_id = :session order by position');
  const folders = await read('select * from former_folders where session_id = :session');
  const tracks = await read('select * from former_tracks where session_id = :session');
  const rows = [...folders, ...tracks].sort((a, b) => number(a.position) - number(b.position));
  const children: Record<string, string[]> = { root: [] };
  for (const f of folders) children[f.id as string] = [];
  for (const row of rows) children[row.parent_id as string]?.push(row.id as string);
  const groups = await read(
    'select * from former_track_groups where session_id = :session order by position',
  );
  return {
    ...formerSession(head.name as string, head.artist as string, head.notes as string),
    sampleRateHz: head.sample_rate_hz as number | null,
    timekeepers: head.timekeepers as FormerSession['timekeepers'],
    cutBars: head.cut_bars as number | null,
    words: head.words as FormerSession['words'],
    style: head.style_id === null ? null : { id: head.style_id, version: head.style_version },
    conform: head.conform,
    keptMaps: head.kept_maps as FormerSession['keptMaps'],
    nodes: Object.fromEntries([
      ...folders.map(({ id, name, color, bus_id: busId }) => [
        id,
        { kind: 'folder', id, name, color, busId },
      ]),
      ...tracks.map((t) => [t.id, trackOf(t, sends.get(t.id) ?? [])]),
    ]) as FormerSession['nodes'],
    children,
    buses: Object.fromEntries(
      buses.map((b) => [
        b.id,
        {
          id: b.id,
          name: b.name,
          color: b.color,
          kind: b.kind,
          outputBusId: b.output_bus_id,
          sends: sends.get(b.id) ?? [],
          byHand: b.by_hand,
        },
      ]),
    ) as FormerSession['buses'],
    busOrder: buses.map((b) => b.id as string),
    groups: groups.map((g) => ({
      id: g.id,
      name: g.name,
      trackIds: g.track_ids,
      on: g.is_on,
      gainDb: g.gain_db,
      byHand: g.by_hand,
    })),
    ...(await mapOf(q, head.id)),
    markers: (await read(
      'select id, name, seconds from former_markers where session_id = :session order by seconds, id',
    )) as unknown as FormerSession['markers'],
  };
}

async function mapOf(q: Reader, session: unknown): Promise<Pick<FormerSession, 'map' | 'mapFacts'>> {
  const read = (sql: string): Promise<Row[]> => q.select(sql, { session });
  const [head] = await read('select facts from former_tempo_maps where session_id = :session');
  const points = await read(
    'select quarters, seconds, ramp from tempo_points where session_id = :session order by index',
  );
  const meters = await read(
    'select bar, numerator, denominator, groups, number from meters where session_id = :session order by bar',
  );
  if (!head || points.length === 0) return { map: null, mapFacts: null };
  const said = (row: Row): Row =>
    Object.fromEntries(Object.entries(row).filter(([, value]) => value !== null));
  return {
    map: { schemaVersion: 1, points: points.map(said), meters: meters.map(said) },
    mapFacts: head.facts,
  };
}
