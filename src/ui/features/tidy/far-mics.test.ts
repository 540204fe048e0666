import { plainTrack } from '../../../../tests/support/random-edits';
import type { FarMicFact } from '@/core/findings';
import {
  applyChanges,
  type Change,
  emptySession,
  type SessionState,
  soundTracks,
  type Track,
} from '@/core/session';
import { farMicRows, togetherEdits, turnEdits } from './far-mics';

const made = applyChanges(emptySession('s'), [
  ...['snare', 'left', 'right', 'room'].map((id, index) => ({
    kind: 'track.add' as const,
    track: {
      ...plainTrack(id),
      ...{ recordingId: `r-${id}`, family: 'drums' as const },
      part: id === 'room' || id === 'snare' ? id : 'overhead',
    },
    parentId: 'root',
    index,
  })),
  { kind: 'session.rate' as const, sampleRateHz: 48_000 },
]);
if (!made.ok) throw new Error(made.code);
const session: SessionState = made.session;
const fact = (id: string, ms: number, more: Partial<FarMicFact> = {}): FarMicFact => ({
  ...{ leader: 'r-snare', other: `r-${id}`, channel: 0, polarity: 1, correlation: 0.4, confidence: 0.9 },
  // Of recordings at 96 kHz.
  delaySamples: 96 * ms,
  ...more,
});
const recordings = ['snare', 'left', 'right', 'room'].map((id) => ({
  ...{ id: `r-${id}`, channels: 1, sampleRateHz: 96_000 },
}));
const after = (edits: readonly Change[]): SessionState => {
  const done = applyChanges(session, edits);
  if (!done.ok) throw new Error(done.code);
  return done.session;
};
const rowsOf = (of: SessionState, facts: readonly FarMicFact[]) =>
  farMicRows(of, soundTracks(of), facts, recordings);
const told = (of: SessionState, facts: readonly FarMicFact[]): [string, number, number | null][] =>
  rowsOf(of, facts).rows.map((r) => [r.track.id, Math.round(1e4 * r.laterSeconds) / 10, r.polarity]);

it('overheads move by the same, the room stays; what is said then is what is then', () => {
  const facts = [fact('left', 3), fact('right', 4), fact('room', 15)];
  const { edits, bySeconds } = togetherEdits(session, rowsOf(session, facts).rows);
  expect(bySeconds).toBeCloseTo(-0.0035);
  expect(edits.map((e) => [(e as { id: string }).id, (e as { fields: Partial<Track> }).fields])).toEqual([
    ['left', { startFrames: -168 }],
    ['right', { startFrames: -168 }],
  ]);
  expect(told(after(edits), facts)).toEqual([
    ['left', -0.5, 1],
    ['right', 0.5, 1],
    ['room', 15, 1],
  ]);
  expect(togetherEdits(after(edits), rowsOf(after(edits), facts).rows).edits).toEqual([]);
});

it('those that are turned over are turned back; then nothing is left to turn', () => {
  const facts = [fact('left', 3, { polarity: -1 }), fact('right', 4, { polarity: -1 }), fact('room', 15)];
  const turned = turnEdits(rowsOf(session, facts).rows);
  expect(turned.map((e) => (e as { id: string }).id)).toEqual(['left', 'right']);
  expect(told(after(turned), facts).map((t) => t[2])).toEqual([1, 1, 1]);
  expect(turnEdits(rowsOf(after(turned), facts).rows)).toEqual([]);
  const [one] = turnEdits(rowsOf(session, [fact('left', 3, { polarity: -1 }), fact('right', 4)]).rows);
  expect(one).toMatchObject({ id: 'left', fields: { inverted: true } });
});

it('what could not be told is named; what is gone is not', () => {
  const found = rowsOf(session, [fact('left', 3), fact('room', 1, { confidence: 0.1 }), fact('gone', 2)]);
  expect(found.rows.map((r) => r.track.id)).toEqual(['left']);
  expect(found.untold.map((t) => t.id)).toEqual(['room']);
});

it('what was compared under another name says nothing any more', () => {
  const facts = [fact('left', 3, { polarity: -1 }), fact('right', 4)];
  const renamed = after([
    { kind: 'track.change', id: 'left', fields: { family: 'guitars', part: 'guitar' } },
  ]);
  expect(told(renamed, facts).map((r) => r[0])).toEqual(['right']);
  expect(rowsOf(renamed, facts).untold).toEqual([]);
  const noSnare = after([{ kind: 'track.change', id: 'snare', fields: { part: 'tom' } }]);
  expect(told(noSnare, facts)).toEqual([]);
});
