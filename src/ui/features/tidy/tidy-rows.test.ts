import { plainTrack } from '../../../../tests/support/random-edits';
import type { RecordingView } from '@/contracts';
import {
  applyChanges,
  type Change,
  emptySession,
  type SessionState,
  soundTracks,
  wholeClip,
} from '@/core/session';
import type { SortProposal } from '@/core/style';
import type { TidyPiece, TidyProposal } from '@/core/tidy';
import {
  doubtsOf,
  goneOf,
  kept,
  type TidyRow,
  tidyRows,
  togetherWith,
  tracksToHear,
  withoutLevels,
} from './tidy-rows';

const RATE = 1000;
const ids = ['a', 'b', 'c'];
const made = applyChanges(emptySession('s'), [
  { kind: 'session.rate', sampleRateHz: RATE },
  ...ids.map((id, index): Change => ({
    kind: 'track.add',
    track: { ...plainTrack(id), recordingId: `r-${id}`, startFrames: id === 'b' ? 3008 : 0 },
    parentId: 'root',
    index,
  })),
]);
if (!made.ok) throw new Error(made.code);
const session: SessionState = made.session;
const recording = (id: string, more: Partial<RecordingView> = {}): RecordingView =>
  ({
    ...{ id: `r-${id}`, state: 'ready', container: 'wav', hasLevels: true, sessionFrames: 10_000 },
    ...{ sampleRateHz: RATE, passingHz: RATE },
    ...more,
  }) as RecordingView;
const recordings = ids.map((id) => recording(id));
const unsorted: SortProposal = { rows: [] } as unknown as SortProposal;

const piece = (from: number, to: number, keeps: boolean, confidence = 0.9): TidyPiece => ({
  ...{ from, to, keeps, confidence },
  reason: keeps ? 'sound' : 'noise',
});
/** Pieces in frames of 20 ms; here 20 frames of the session each. */
const proposal = (id: string, pieces: readonly TidyPiece[], group: string | null = null): TidyProposal => ({
  ...{ id, group, floorDbfs: -70, pieces, begins: [], ends: [], nothingBecause: null },
});
const NOTHING = { choices: {}, ticks: {} };
const rowsOf = (
  proposals: readonly TidyProposal[],
  decided: Parameters<typeof tidyRows>[2] = NOTHING,
  of = session,
): TidyRow[] => tidyRows({ session: of, recordings }, new Map(proposals.map((p) => [p.id, p])), decided);
const spans = (row: TidyRow | undefined): number[][] =>
  kept(row?.pieces ?? []).map((s) => [s.fromFrames, s.toFrames]);

it('is heard as far as levels are known, where it begins and as fast as it passes', () => {
  const heard = tracksToHear(
    {
      session,
      recordings: [recording('a'), recording('b', { passingHz: 1100 }), recording('c', { hasLevels: false })],
    },
    unsorted,
  );
  expect(heard.map((t) => [t.id, t.startSeconds, t.speed])).toEqual([
    ['a', 0, 1],
    ['b', 3.008, 1.1],
  ]);
  expect(withoutLevels({ recordings: [recording('c', { hasLevels: false })] })).toHaveLength(1);
  expect(withoutLevels({ recordings: [recording('c', { hasLevels: false, container: 'midi' })] })).toEqual(
    [],
  );
});

it('what is not sorted yet is what the house style would make of it', () => {
  const rows = [{ trackId: 'a', fields: { side: 'left' }, family: 'drums', part: 'tom' }];
  const [a, b] = tracksToHear({ session, recordings }, { rows } as unknown as SortProposal);
  expect([a?.family, a?.part, b?.family]).toEqual(['drums', 'tom', 'unknown']);
});

it('shows a proposal that will be done, inside of its recording, to its very ends', () => {
  const [a, b, c] = rowsOf([
    proposal('a', [piece(0, 50, false), piece(50, 400, true), piece(400, 500, false)]),
    // It begins at 3008: frame 150 of the levels is 8 before that, and the end lies behind the last.
    proposal('b', [piece(0, 150, false), piece(150, 300, true), piece(300, 651, false)]),
  ]);
  expect(spans(a)).toEqual([[1000, 8000]]);
  expect(a?.ticked).toBe(true);
  expect(spans(b)).toEqual([[3008, 6000]]);
  expect(b?.pieces.at(-1)?.toFrames).toBe(13_008);
  expect(goneOf(a as TidyRow, RATE)).toEqual({ seconds: 3, places: 2 });
  expect([c?.leftBecause, c?.ticked, spans(c)]).toEqual(['waiting', null, [[0, 10_000]]]);
});

it('without its tick a track is shown as it is; one that is cut waits to be asked', () => {
  const asked = [proposal('a', [piece(0, 50, false), piece(50, 500, true)])];
  const [left] = rowsOf(asked, { choices: {}, ticks: { a: false } });
  expect([left?.ticked, spans(left)]).toEqual([false, [[0, 10_000]]]);
  const [whole] = soundTracks(session)[0]?.clips ?? [];
  if (!whole) throw new Error('no clip');
  const cut = applyChanges(session, [
    { kind: 'track.cut', id: 'a', clips: [{ ...whole, id: 'x', fromFrames: 4000 }] },
  ]);
  if (!cut.ok) throw new Error(cut.code);
  const [other] = rowsOf(asked, NOTHING, cut.session);
  expect([other?.ticked, spans(other)]).toEqual([false, [[4000, 10_000]]]);
  const same = applyChanges(session, [
    { kind: 'track.cut', id: 'a', clips: [{ ...whole, id: 'x', fromFrames: 1060 }] },
  ]);
  if (!same.ok) throw new Error(same.code);
  // Put to the sample it is still the cut that was proposed.
  expect(rowsOf(asked, NOTHING, same.session)[0]?.ticked).toBeNull();
});

it('what was arranged by hand, or is not there, is left and says so', () => {
  const [whole] = soundTracks(session)[0]?.clips ?? [];
  if (!whole) throw new Error('no clip');
  const moved = applyChanges(session, [
    { kind: 'track.cut', id: 'a', clips: [{ ...whole, slipFrames: 50 }] },
  ]);
  if (!moved.ok) throw new Error(moved.code);
  expect(rowsOf([proposal('a', [piece(0, 500, true)])], NOTHING, moved.session)[0]?.leftBecause).toBe(
    'arranged',
  );
  const gone = tidyRows({ session, recordings: [] }, new Map(), NOTHING);
  expect(gone.map((r) => r.leftBecause)).toEqual(['missing', 'missing', 'missing']);
});

it('what is cut together is decided together, and walked through once', () => {
  const doubtful = [piece(0, 50, true, 0.5), piece(50, 100, false), piece(100, 500, true)];
  const rows = rowsOf([
    proposal('a', doubtful, 'kit'),
    proposal('b', doubtful, 'kit'),
    proposal('c', doubtful),
  ]);
  expect(togetherWith(rows, ['b'])).toEqual(['a', 'b']);
  expect(togetherWith(rows, ['c'])).toEqual(['c']);
  expect(doubtsOf(rows).map((d) => d.row.track.id)).toEqual(['a', 'c']);
  const decided = rowsOf([proposal('c', doubtful)], {
    choices: { c: [{ from: 0, to: 50, keeps: false }] },
    ticks: {},
  });
  expect(doubtsOf(decided)).toEqual([]);
  expect(spans(decided[2])).toEqual([[2000, 10_000]]);
});

it('what was silenced is shown as that, and no part of what is proposed', () => {
  const [whole] = soundTracks(session)[0]?.clips ?? [];
  if (!whole) throw new Error('no clip');
  const apart = applyChanges(session, [
    {
      kind: 'track.cut',
      id: 'a',
      clips: [
        { ...whole, id: 'clip-talk', toFrames: 2000, off: true },
        { ...whole, id: 'clip-song', fromFrames: 2000 },
      ],
    },
  ]);
  if (!apart.ok) throw new Error(apart.code);
  const proposed = proposal('a', [piece(0, 300, true), piece(300, 500, false)]);
  const [row] = rowsOf([proposed], { choices: {}, ticks: { a: true } }, apart.session);
  expect(row?.pieces.map((p) => [p.fromFrames, p.toFrames, p.keeps, p.isSilenced])).toEqual([
    [0, 2000, false, true],
    [2000, 6000, true, false],
    [6000, 10_000, false, false],
  ]);
  // Nothing else would go: it is done.
  const [done] = rowsOf([proposal('a', [piece(0, 500, true)])], NOTHING, apart.session);
  expect(done?.ticked).toBeNull();
});

it('fades that are there are shown, crossing over where two pieces do; of what is only proposed none', () => {
  const [whole] = wholeClip('lane-a');
  const crossed = applyChanges(session, [
    {
      kind: 'track.cut',
      id: 'a',
      clips: [
        { ...whole, id: 'clip-1', toFrames: 3000, fadeOutFrames: 400, fadeOutShape: 'equal-power' },
        { ...whole, id: 'clip-2', fromFrames: 2600, fadeInFrames: 400, fadeInShape: 'equal-power' },
      ],
    },
  ]);
  if (!crossed.ok) throw new Error(crossed.code);
  const [row] = rowsOf([], NOTHING, crossed.session);
  expect(row?.fades).toEqual([
    { fromFrames: 2600, toFrames: 3000, isIn: false, shape: 'equal-power' },
    { fromFrames: 2600, toFrames: 3000, isIn: true, shape: 'equal-power' },
  ]);
  const proposed = proposal('a', [piece(0, 300, true), piece(300, 500, false)]);
  const [asked] = rowsOf([proposed], { choices: {}, ticks: { a: true } }, crossed.session);
  expect(asked?.fades).toEqual([]);
});

it('a row is the same as long as its track and all it is made of are', () => {
  const a = proposal('a', [piece(0, 300, true), piece(300, 500, false)]);
  const [before, other] = rowsOf([a], NOTHING, session);
  const [again, changed] = rowsOf(
    [a, proposal('b', [piece(0, 100, true), piece(100, 500, false)])],
    NOTHING,
    session,
  );
  expect(again).toBe(before);
  expect(changed).not.toBe(other);
  expect(rowsOf([a], { choices: {}, ticks: { a: false } }, session)[0]).toMatchObject({ ticked: false });
});
