import { plainTrack } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import {
  applyChanges,
  applyEdits,
  type Change,
  type Clip,
  emptySession,
  isUncut,
  type Lane,
  lanesOf,
  rateEdits,
  recordsOf,
  ROOT,
  type SessionState,
  stateOf,
  type Track,
  wholeClip,
} from './index';

const [WHOLE] = wholeClip('lane-t');
const apply = (s: SessionState, changes: readonly Change[]): SessionState => {
  const done = applyChanges(s, changes);
  if (!done.ok) throw new Error(`${done.code} ${done.id}`);
  return done.session;
};
const faultOf = (s: SessionState, changes: readonly Change[]): string | null => {
  const done = applyChanges(s, changes);
  return done.ok ? null : `${done.code} ${done.id}`;
};
const START = apply({ ...emptySession('x'), sampleRateHz: 48_000 }, [
  { kind: 'track.add', track: plainTrack('t'), parentId: ROOT, index: 0 },
  { kind: 'track.add', track: { ...plainTrack('n'), tiedTo: 'bars' }, parentId: ROOT, index: 1 },
]);
const trackOf = (s: SessionState, id = 't'): Track => s.nodes[id] as Track;
const put = (id: string, change: Partial<Clip>): Change => ({
  kind: 'put',
  of: 'clip',
  record: { ...WHOLE, id, ...change },
});
const patch = (fields: Partial<Clip>, id = WHOLE.id): Change => ({ kind: 'patch', of: 'clip', id, fields });
const SECOND: Lane = {
  ...(lanesOf(plainTrack('t'))[0] as Lane),
  id: 'second',
  recordingId: 'r-2',
  takeNumber: 2,
  startFrames: 500,
};
const TAKE: Change = { kind: 'put', of: 'lane', record: { ...SECOND, trackId: 't' } };
const CUT: readonly Change[] = [
  TAKE,
  patch({ toFrames: 1000, fadeOutFrames: 100 }),
  put('b', { laneId: 'second', fromFrames: 900, toFrames: 2000, fadeInFrames: 100, slipFrames: 7 }),
];

it('a track that arrives sounds from end to end, and says so by its one clip', () => {
  expect(isUncut(trackOf(START))).toBe(true);
  expect(recordsOf(START).clip).toEqual({
    'clip-lane-t': WHOLE,
    'clip-lane-n': { ...wholeClip('lane-n')[0] },
  });
  expect(isUncut(trackOf(apply(START, [patch({ gainDb: 1 })])))).toBe(false);
});

it('clips and takes stand in the row of their track, in order of time and by their numbers', () => {
  const cut = apply(START, [...CUT].reverse().reverse());
  expect(trackOf(cut).clips.map((c) => c.id)).toEqual([WHOLE.id, 'b']);
  expect(lanesOf(trackOf(cut)).map((l) => l.id)).toEqual(['lane-t', 'second']);
  // Another take may become the first, and the track is then called after its recording.
  const other = apply(cut, [
    { kind: 'patch', of: 'lane', id: 'second', fields: { takeNumber: 1 } },
    {
      kind: 'patch',
      of: 'lane',
      id: 'lane-t',
      fields: { takeNumber: 3 },
    },
  ]);
  expect(trackOf(other)).toMatchObject({ laneId: 'second', recordingId: 'r-2', startFrames: 500 });
  expect(stateOf(recordsOf(other))).toEqual(other);
});

it('every step has its way back, a track’s removal with all it owns', () => {
  const cut = apply(START, CUT);
  const gone = applyEdits(cut, [{ kind: 'remove', of: 'track', id: 't' }]);
  if (!gone.ok) throw new Error(gone.code);
  expect(Object.keys(recordsOf(gone.session).clip)).toEqual(['clip-lane-n']);
  const back = applyEdits(gone.session, gone.inverse);
  expect(back.ok && back.session).toEqual(cut);
});

it.each<[string, readonly Change[]]>([
  ['edit.clip_too_short clip-lane-t', [patch({ fromFrames: 10, toFrames: 10 })]],
  [
    'edit.clip_too_short clip-lane-t',
    [patch({ fromFrames: 0, toFrames: 10, fadeInFrames: 6, fadeOutFrames: 5 })],
  ],
  ['edit.clips_overlap b', [patch({ toFrames: 100 }), put('b', { fromFrames: 99 })]],
  [
    'edit.clips_overlap b',
    [patch({ toFrames: 100, fadeOutFrames: 50 }), put('b', { fromFrames: 60, fadeInFrames: 39 })],
  ],
  // Where a lane ends is not known: nothing can follow on it, and nothing come before one that begins with its lane.
  ['edit.clips_overlap b', [put('b', { fromFrames: 60_000 })]],
  ['edit.unknown_id nowhere', [put('b', { laneId: 'nowhere', fromFrames: 0 })]],
  ['edit.mixed_lanes second', [{ kind: 'put', of: 'lane', record: { ...SECOND, trackId: 'n' } }]],
  ['edit.cut_notes clip-lane-n', [patch({ toFrames: 5 }, 'clip-lane-n')]],
  ['edit.incomplete t', [{ kind: 'remove', of: 'lane', id: 'lane-t' }]],
])('refuses what does not hold together: %s', (fault, changes) =>
  expect(faultOf(START, changes)).toBe(fault),
);

it('may leave gaps, cross over, lie side by side, and be silent altogether', () => {
  expect(faultOf(START, CUT)).toBeNull();
  expect(faultOf(START, [patch({ toFrames: 100 }), put('b', { fromFrames: 100 })])).toBeNull();
  expect(faultOf(START, [patch({ toFrames: 100 }), put('b', { fromFrames: 400, off: true })])).toBeNull();
  expect(faultOf(START, [{ kind: 'remove', of: 'clip', id: WHOLE.id }])).toBeNull();
});

it('a track that is moved takes its takes and edges along; what was moved inside stays so', () => {
  const moved = apply(apply(START, CUT), [{ kind: 'track.change', id: 't', fields: { startFrames: 250 } }]);
  expect(trackOf(moved)).toMatchObject({
    startFrames: 250,
    otherLanes: [{ id: 'second', startFrames: 750 }],
    clips: [
      { fromFrames: null, toFrames: 1250, fadeOutFrames: 100 },
      { fromFrames: 1150, toFrames: 2250, slipFrames: 7 },
    ],
  });
});

it('polarity turns over in all takes, each against its own', () => {
  const other: Change = { kind: 'patch', of: 'lane', id: 'second', fields: { inverted: true } };
  const turned = apply(apply(START, [...CUT, other]), [
    { kind: 'track.change', id: 't', fields: { inverted: true, monoFrom: 'left' } },
  ]);
  expect(lanesOf(trackOf(turned)).map((l) => [l.inverted, l.monoFrom])).toEqual([
    [true, 'left'],
    [false, 'left'],
  ]);
});

it('goes to another rate edge by edge; what crossed over still does (seed 4)', () => {
  const random = createRandom(4);
  for (let round = 0; round < 200; round++) {
    let at = Math.floor(random() * 1000);
    const changes: Change[] = [{ kind: 'remove', of: 'clip', id: WHOLE.id }];
    for (let i = 0; i < 6; i++) {
      const cross = 1 + Math.floor(random() * 40);
      const length = 100 + Math.floor(random() * 500);
      changes.push(
        put(`c${i}`, {
          fromFrames: at,
          toFrames: at + length,
          fadeInFrames: i === 0 ? 0 : cross,
          fadeOutFrames: 50,
          slipFrames: Math.floor(random() * 50),
        }),
      );
      at += length - (i === 5 ? 0 : 1);
    }
    const cut = applyChanges(START, changes);
    if (!cut.ok) throw new Error(cut.code);
    const there = apply(cut.session, rateEdits(cut.session, random() < 0.5 ? 44_100 : 96_000));
    const rate = there.sampleRateHz as number;
    trackOf(there).clips.forEach((c, i) => {
      const was = trackOf(cut.session).clips[i] as Clip;
      expect(c.fromFrames).toBe(Math.round(((was.fromFrames as number) * rate) / 48_000));
      expect(c.slipFrames).toBe(Math.round((was.slipFrames * rate) / 48_000));
      const fadeEnd = (x: Clip): number => (x.fromFrames as number) + x.fadeInFrames;
      expect(fadeEnd(c)).toBe(Math.round((fadeEnd(was) * rate) / 48_000));
    });
  }
});

it('two people who pull edges over each other are told, not merged into what cannot be', () => {
  const cut = apply(START, [patch({ toFrames: 1000 }), put('b', { fromFrames: 1000, toFrames: 2000 })]);
  const mine = apply(cut, [patch({ fromFrames: 900 }, 'b'), patch({ toFrames: 900 })]);
  expect(faultOf(mine, [patch({ toFrames: 1100 })])).toBe('edit.clips_overlap b');
});
