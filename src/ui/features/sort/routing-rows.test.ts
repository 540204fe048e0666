import { applyChanges, emptySession, type Change, NOWHERE, ROOT } from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { routingRows, trackNotes } from './routing-rows';

const bus = (id: string, outputBusId: string | null, index: number, more: object = {}): Change => ({
  kind: 'bus.add',
  bus: { id, name: id, color: null, outputBusId, ...more },
  index,
});
const track = (id: string, busId: string | null, sends: string[] = []): Change => ({
  kind: 'track.add',
  track: {
    ...newTrack(id, id, {}, DEFAULT_STYLE),
    busId,
    sends: sends.map((to) => ({ busId: to, gainDb: 0, pan: null, before: false })),
  },
  parentId: ROOT,
  index: 99,
});

it('lists the mix bus, what leads to it in steps, sums before returns, and then what goes nowhere', () => {
  const made = applyChanges(emptySession('s'), [
    bus('room', null, 0, { kind: 'return' }),
    bus('all', null, 1),
    bus('drums', 'all', 2),
    bus('aside', NOWHERE, 3),
    bus('idle', 'all', 4),
    track('kick', 'drums', ['room']),
    track('hat', 'drums'),
    track('guide', 'aside'),
    track('voice', null),
  ]);
  if (!made.ok) throw new Error(made.code);
  expect(
    routingRows(made.session).map((r) => [r.bus?.id ?? 'mix', r.depth, r.tracks, r.buses, r.note]),
  ).toEqual([
    ['mix', 0, 1, 2, null],
    ['all', 1, 0, 2, null],
    ['drums', 2, 2, 0, null],
    ['idle', 2, 0, 0, 'unfed'],
    ['room', 1, 1, 0, null],
    ['aside', 0, 1, 0, 'bus-unheard'],
  ]);
  expect(trackNotes(made.session)).toEqual([{ code: 'track-unheard', id: 'guide' }]);
});
