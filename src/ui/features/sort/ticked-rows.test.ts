import {
  applyChanges,
  emptySession,
  ROOT,
  type Change,
  type SessionState,
  tracksInOrder,
} from '@/core/session';
import { DEFAULT_STYLE, newTrack, proposeSort } from '@/core/style';
import { tickedRows } from './ticked-rows';

const NAMES = ['zz 03.wav', 'LV.wav', 'Kick in.wav', 'qqq.wav', 'Snare top.wav', 'Bass DI.wav', 'xyzzy.wav'];

function arrived(names: readonly string[] = NAMES): SessionState {
  const edits = names.map((name, index): Change => ({
    kind: 'track.add',
    track: newTrack(`t${index}`, name, { dualMono: false }, DEFAULT_STYLE),
    parentId: ROOT,
    index,
  }));
  const made = applyChanges(emptySession('x'), [{ kind: 'session.rate', sampleRateHz: 48_000 }, ...edits]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
}
const rowsOf = (session: SessionState, chosen: ReadonlyMap<string, boolean> = new Map()) =>
  tickedRows(session, DEFAULT_STYLE, proposeSort(session, DEFAULT_STYLE), chosen);

it('what is offered does something, and once it is done nothing of it is offered again', () => {
  let session = arrived();
  const first = rowsOf(session);
  expect(first.ticked.length).toBeGreaterThan(2);
  expect(first.open.length).toBeGreaterThan(first.ticked.length);
  for (let turn = 0; turn < 3; turn++) {
    const { ticked, edits } = rowsOf(session);
    expect(ticked.length > 0 ? edits.length > 0 : edits.length === 0).toBe(true);
    const made = applyChanges(session, edits);
    if (!made.ok) throw new Error(made.code);
    session = made.session;
  }
  const left = rowsOf(session);
  expect([left.ticked, left.edits]).toEqual([[], []]);
  // What waits for a decision is still open.
  expect(left.open.map((r) => r.group)).not.toContain('certain');
  expect(left.open.length).toBeGreaterThan(0);
  // A box to tick stands only where ticking does something.
  for (const t of tracksInOrder(session))
    expect(left.tickOf(t.id) !== null).toBe(left.open.some((r) => r.trackId === t.id));
});
it('a settled row that only waits for the place of doubtful ones has no box', () => {
  const session = arrived(['sala P.wav', 'sala L.wav', 'Audience.wav', 'Kick in.wav', 'Snare top.wav']);
  const made = applyChanges(session, rowsOf(session).edits);
  if (!made.ok) throw new Error(made.code);
  const left = rowsOf(made.session);
  expect(left.open.map((r) => r.group)).toContain('doubtful');
  expect([left.edits, left.tickOf('t2')]).toEqual([[], null]);
});
it('what a person ticks is ticked', () => {
  const session = arrived();
  const doubtful = rowsOf(session).open.find((r) => r.group !== 'certain')?.trackId ?? '';
  expect(rowsOf(session, new Map([[doubtful, true]])).ticked.map((r) => r.trackId)).toContain(doubtful);
});
