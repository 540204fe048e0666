import {
  asTrack,
  type Edit,
  type Field,
  KINDS,
  type Move,
  MOVE_KINDS,
  type MoveKind,
  NOWHERE,
  RECORD_KINDS,
  recordsIn,
  recordsOf,
  ROOT,
  type Send,
  type SessionState,
  type Track,
  wholeClip,
} from '@/core/session';
import type { Random } from '@/core/units';

/** A track with nothing set. */
export const plainTrack = (id: string): Track =>
  asTrack({
    kind: 'track',
    id,
    recordingId: `r-${id}`,
    receivedName: `${id}.wav`,
    startFrames: 0,
    name: id,
    family: 'unknown',
    part: null,
    role: null,
    position: null,
    side: null,
    number: null,
    color: null,
    busId: null,
    sends: [],
    gainDb: 0,
    pan: 0,
    muted: false,
    inverted: false,
    monoFrom: null,
    keepsSamples: false,
    tiedTo: null,
    confidence: 0,
    evidence: [],
    byHand: [],
  });

const randomMap = (random: Random, n: number): Move => ({
  kind: 'map.replace',
  map:
    random() < 0.3
      ? null
      : {
          schemaVersion: 1,
          points: [
            { quarters: 0, seconds: n },
            { quarters: 4, seconds: n + 2 },
          ],
          meters: [{ bar: 1, numerator: 4, denominator: 4, ...(n % 2 === 1 ? { number: n } : {}) }],
        },
  facts: null,
});
const randomConform = (random: Random, id: string): Move => ({
  kind: 'conform.set',
  conform:
    random() < 0.3
      ? null
      : {
          bpm: 60 + Math.floor(40 * random()),
          treatments: { [id]: { method: 'held', block: 'long' } },
          heard: random() < 0.5 ? 'played' : 'conformed',
        },
});

const randomMarkers = (random: Random, n: number): Move => ({
  kind: 'markers.set',
  markers: Array.from({ length: n % 4 }, (_, i) => ({
    id: `m${Math.floor(6 * random())}-${i}`,
    name: `place ${n}`,
    seconds: Math.floor(5 * random()),
  })),
});
/** To some buses, each at most once; a bus may be its own or lead back. */
const randomSends = (random: Random, s: SessionState): Send[] =>
  s.busOrder
    .filter(() => random() < 0.3)
    .map((busId) => ({
      busId,
      gainDb: 0 - Math.floor(random() * 20),
      pan: random() < 0.5 ? null : 0.5,
      before: random() < 0.5,
    }));
const randomGroups = (random: Random, s: SessionState, n: number): Move => ({
  kind: 'groups.set',
  groups: Array.from({ length: n % 3 }, (_, i) => ({
    id: `g${(n + i) % 4}`,
    name: `G ${n}`,
    trackIds: someTracks(random, s) ?? ['gone'],
    on: random() < 0.7,
    gainDb: 3 * i,
    byHand: random() < 0.5,
  })),
});
const someTracks = (random: Random, s: SessionState): string[] | null =>
  random() < 0.3 ? null : Object.keys(s.nodes).filter((i) => s.nodes[i]?.kind === 'track' && random() < 0.4);

/** A track cut into some pieces. */
function randomCut(node: SessionState['nodes'][string] | undefined, id: string, n: number): Move {
  const [whole] = wholeClip(node?.kind === 'track' ? node.laneId : 'none');
  const clips = Array.from({ length: n % 4 }, (_, i) => ({
    ...whole,
    id: `cut-${id}-${n}-${i}`,
    fromFrames: 100 * i,
    toFrames: 100 * i + 50,
    gainDb: n % 7,
  }));
  return { kind: 'track.cut', id, clips };
}

/** A random move of a random kind, often but not always fitting. */
export function randomMove(random: Random, s: SessionState): Move {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const ids = Object.keys(s.nodes);
  const folders = [ROOT, ...ids.filter((i) => s.nodes[i]?.kind === 'folder')];
  const n = Math.floor(random() * 40);
  const id = ids.length > 0 && random() < 0.9 ? pick(ids) : `x${n}`;
  const busId = s.busOrder.length > 0 && random() < 0.7 ? pick(s.busOrder) : null;
  const index = Math.floor(random() * 6);
  const moves: { readonly [K in MoveKind]: () => Move } = {
    'session.describe': () => ({
      kind: 'session.describe',
      name: `n${n}`,
      ...(random() < 0.5 ? { notes: `o${n}` } : {}),
    }),
    'session.rate': () => ({ kind: 'session.rate', sampleRateHz: pick([44100, 48000, null]) }),
    'track.add': () => ({ kind: 'track.add', track: plainTrack(`t${n}`), parentId: pick(folders), index }),
    'track.remove': () => ({ kind: 'track.remove', id }),
    'track.change': () => ({
      kind: 'track.change',
      id,
      fields: {
        name: `c${n}`,
        busId: random() < 0.1 ? NOWHERE : busId,
        pan: random() * 2 - 1,
        ...(random() < 0.4 ? { sends: randomSends(random, s) } : {}),
      },
    }),
    'track.cut': () => randomCut(s.nodes[id], id, n),
    'lanes.pack': () => {
      const lanes = ids.filter(() => random() < 0.3).map((trackId, k) => ({ trackId, takeNumber: k + 1 }));
      return { kind: 'lanes.pack', id: lanes[0]?.trackId ?? id, lanes };
    },
    'lanes.unpack': () => ({ kind: 'lanes.unpack', id }),
    'track.replace': () => ({ kind: 'track.replace', id, recordingId: `r-${n}`, receivedName: `x${n}.wav` }),
    'folder.add': () => ({
      kind: 'folder.add',
      folder: { kind: 'folder', id: `f${n % 8}`, name: 'F', color: null, busId },
      parentId: pick(folders),
      index,
    }),
    'folder.remove': () => ({ kind: 'folder.remove', id }),
    'folder.change': () => ({ kind: 'folder.change', id, fields: { name: `g${n}`, busId } }),
    'node.place': () => ({ kind: 'node.place', id, parentId: pick(folders), index }),
    'bus.add': () => ({
      kind: 'bus.add',
      bus: {
        id: `b${n % 6}`,
        name: 'B',
        color: null,
        outputBusId: busId,
        kind: n % 2 === 0 ? 'sum' : 'return',
        sends: random() < 0.3 ? randomSends(random, s) : [],
      },
      index,
    }),
    'bus.remove': () => ({ kind: 'bus.remove', id: busId ?? 'b0' }),
    'bus.change': () => ({
      kind: 'bus.change',
      id: busId ?? 'b0',
      fields: {
        outputBusId: s.busOrder.length > 0 ? pick(s.busOrder) : null,
        ...(random() < 0.5 ? { sends: randomSends(random, s) } : {}),
      },
    }),
    'groups.set': () => randomGroups(random, s, n),
    'map.replace': () => randomMap(random, n),
    'maps.keep': () => ({
      kind: 'maps.keep',
      maps: Array.from({ length: n % 3 }, (_, i) => ({
        id: `k${i}`,
        name: `map ${n}`,
        map: {
          schemaVersion: 1,
          points: [
            { quarters: 0, seconds: n, ramp: 1.5 },
            { quarters: 4, seconds: n + 2 },
          ],
          meters: [{ bar: 1, numerator: 4, denominator: 4 }],
        },
        facts: null,
      })),
    }),
    'words.set': () => ({
      kind: 'words.set',
      words: n % 3 === 0 ? [] : [{ text: `word${n}`, family: 'percussion', part: 'udu' }],
    }),
    'style.use': () => ({
      kind: 'style.use',
      style:
        n % 4 === 0 ? null : { id: `00000000-0000-4000-8000-00000000000${n % 10}`, version: 1 + (n % 3) },
    }),
    'markers.set': () => randomMarkers(random, n),
    'conform.set': () => randomConform(random, id),
    'session.cut': () => ({ kind: 'session.cut', bars: random() < 0.3 ? null : n % 5 }),
    'timekeepers.choose': () => ({ kind: 'timekeepers.choose', trackIds: someTracks(random, s) }),
  };
  return moves[pick(MOVE_KINDS)]();
}

/** A random edit of some record, made from what its kind says of its fields; often but not always fitting. */
export function randomEdit(random: Random, s: SessionState): Edit {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const of = pick(RECORD_KINDS);
  const records = recordsOf(s);
  const fields = Object.entries<Field<unknown>>(KINDS[of].fields);
  const value = ({ refersTo, random: make }: Field<unknown>): unknown => {
    const known = Object.keys(records[refersTo?.kind ?? 'track']);
    return refersTo && known.length === 0 ? null : make(random, known);
  };
  const id = pick([...recordsIn(records, of).map((r) => r.id), `${of}-${Math.floor(random() * 30)}`]);
  const kind = pick(['put', 'patch', 'patch', 'remove'] as const);
  if (kind === 'remove') return { kind, of, id };
  const some = kind === 'put' ? fields : fields.filter(() => random() < 0.3);
  const values = Object.fromEntries(some.map(([name, field]) => [name, value(field)]));
  return (
    kind === 'put' ? { kind, of, record: { id, ...values } } : { kind, of, id, fields: values }
  ) as Edit;
}
