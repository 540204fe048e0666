import { plainTrack } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import {
  applyChanges,
  type Bus,
  emptySession,
  hasLoop,
  NOWHERE,
  isHeard,
  reachesMix,
  ROOT,
  routingNotes,
  type Change,
  type Send,
  type SessionState,
  type Track,
  wayToMix,
} from './index';

const send = (busId: string, before = false): Send => ({ busId, gainDb: -6, pan: null, before });
const bus = (id: string, outputBusId: string | null = null, more: Partial<Bus> = {}): Bus => ({
  id,
  name: id,
  color: null,
  kind: 'sum',
  outputBusId,
  ...{ gainDb: 0, pan: 0, muted: false },
  sends: [],
  byHand: [],
  ...more,
});
const made = (edits: readonly Change[]): SessionState => {
  const outcome = applyChanges(emptySession('S'), edits);
  if (!outcome.ok) throw new Error(`${outcome.code} ${outcome.id}`);
  return outcome.session;
};
const add = (b: Bus, index: number): Change => ({ kind: 'bus.add', bus: b, index });
const track = (fields: Partial<Track> & { readonly id: string }, parentId: string = ROOT): Change => ({
  kind: 'track.add',
  track: { ...plainTrack(fields.id), ...fields },
  parentId,
  index: 99,
});
const folder = (id: string, busId: string | null, parentId: string = ROOT): Change => ({
  kind: 'folder.add',
  folder: { kind: 'folder', id, name: id, color: null, busId },
  parentId,
  index: 99,
});

describe('notes on the routing', () => {
  it('says nothing where all is routed', () => {
    expect(
      routingNotes(
        made([
          add(bus('all'), 0),
          add(bus('drums', 'all'), 1),
          add(bus('room', null, { kind: 'return' }), 2),
          folder('kit', 'drums'),
          folder('inner', null, 'kit'),
          track({ id: 'kick', busId: 'drums', sends: [send('room')] }, 'inner'),
          track({ id: 'voice' }),
        ]),
      ),
    ).toEqual([]);
  });
  it('names tracks and buses that do not reach the mix bus, and one that only its send carries', () => {
    const session = made([
      add(bus('room', null, { kind: 'return' }), 0),
      add(bus('aside', NOWHERE), 1),
      add(bus('under', 'aside'), 2),
      track({ id: 'lost', busId: NOWHERE }),
      track({ id: 'sent', busId: NOWHERE, sends: [send('room', true)] }),
      track({ id: 'deep', busId: 'under' }),
    ]);
    expect(routingNotes(session)).toEqual([
      { code: 'track-unheard', id: 'lost' },
      { code: 'track-unheard', id: 'deep' },
      { code: 'bus-unheard', id: 'aside' },
      { code: 'bus-unheard', id: 'under' },
    ]);
  });
  it('outputs alone lead to the mix bus, or not', () => {
    const session = made([
      add(bus('room', null, { kind: 'return' }), 0),
      add(bus('aside', NOWHERE, { sends: [send('room')] }), 1),
      add(bus('under', 'aside'), 2),
      add(bus('sum'), 3),
    ]);
    expect([null, NOWHERE, 'aside', 'under', 'sum'].map((id) => reachesMix(session, id))).toEqual([
      true,
      false,
      false,
      false,
      true,
    ]);
  });
  it('levels and pans of the buses on the way add up; a muted one lets nothing through', () => {
    const session = made([
      add(bus('band', null, { gainDb: -6, pan: 0.5 }), 0),
      add(bus('drums', 'band', { gainDb: 2, pan: -0.25 }), 1),
      add(bus('quiet', null, { muted: true }), 2),
      add(bus('under', 'quiet'), 3),
    ]);
    // By hand: −4 dB are 0.6310; left 1 · 0.5, right 0.75 · 1.
    const way = wayToMix(session, 'drums');
    expect(way?.left).toBeCloseTo(0.631 * 0.5, 3);
    expect(way?.right).toBeCloseTo(0.631 * 0.75, 3);
    expect(wayToMix(session, null)).toEqual({ left: 1, right: 1 });
    expect([wayToMix(session, 'under'), reachesMix(session, 'quiet')]).toEqual([null, false]);
    expect(
      [
        { muted: false, busId: 'drums' },
        { muted: true, busId: 'drums' },
        { muted: false, busId: 'under' },
      ].map((track) => isHeard(session, track)),
    ).toEqual([true, false, false]);
  });
  it('names what passes the sum of its folder by, and what nothing comes to', () => {
    const session = made([
      add(bus('drums'), 0),
      add(bus('idle', null, { kind: 'return' }), 1),
      folder('kit', 'drums'),
      folder('inner', null, 'kit'),
      track({ id: 'kick', busId: 'drums' }, 'kit'),
      track({ id: 'snare' }, 'inner'),
    ]);
    expect(routingNotes(session)).toEqual([
      { code: 'past-sum', id: 'snare', sumId: 'drums' },
      { code: 'unfed', id: 'idle' },
    ]);
  });
});

it('a loop is found over outputs and sends, as a walk of every way finds it (400 random nets, seed 3)', () => {
  const random = createRandom(3);
  /** Plain reference: every way is walked, at most as many steps as there are buses. */
  const walks = (buses: Record<string, Bus>, from: string, to: string, steps: number): boolean =>
    steps > 0 &&
    [buses[from]?.outputBusId ?? null, ...(buses[from]?.sends ?? []).map((x) => x.busId)].some(
      (next) => next === to || (next !== null && walks(buses, next, to, steps - 1)),
    );
  let loops = 0;
  for (let i = 0; i < 400; i++) {
    const ids = ['a', 'b', 'c', 'd', 'e'];
    const pick = (): string => ids[Math.floor(random() * ids.length)] as string;
    const buses = Object.fromEntries(
      ids.map((id) => [
        id,
        bus(id, random() < 0.5 ? pick() : null, { sends: random() < 0.3 ? [send(pick())] : [] }),
      ]),
    );
    for (const id of ids) {
      const found = hasLoop(buses, id);
      expect(found).toBe(walks(buses, id, id, ids.length));
      loops += found ? 1 : 0;
    }
  }
  expect(loops).toBeGreaterThan(200);
});
