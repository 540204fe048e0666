import { readFileSync } from 'node:fs';
import {
  applyChanges,
  type Change,
  emptySession,
  firstLaneId,
  type Move,
  MOVE_KINDS,
  wholeClip,
} from '@/core/session';
import { plainTrack } from '../../tests/support/random-edits';
import {
  detectRequestSchema,
  editRequestSchema,
  editSchema,
  FAULT_CODES,
  faultText,
  newSessionSchema,
  peaksRequestSchema,
  VERSION,
} from './index';

const valid = (edits: readonly unknown[]): boolean =>
  editRequestSchema.isValidSync({ baseRevision: 0, label: 'x', edits }, { strict: true }) &&
  edits.every((edit) => editSchema.isValidSync(edit, { strict: true }));

it('carries the version of package.json', () => {
  expect(VERSION).toBe((JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }).version);
});

const folder = (id: string): Change => ({
  kind: 'folder.add',
  folder: { kind: 'folder', id, name: id, color: null, busId: null },
  parentId: 'root',
  index: 9,
});
const bus = (id: string): Change => ({
  kind: 'bus.add',
  bus: { id, name: id, color: null, outputBusId: null },
  index: 9,
});
const BASE = (() => {
  const made = applyChanges(emptySession('Slip'), [
    ...['a', 't1', 'packed', 'lane'].map((id): Change => ({
      kind: 'track.add',
      track: { ...plainTrack(id), color: '#102030', recordingId: '3a5f45eb-2f1b-4bef-8b7d-35f0337509f0' },
      parentId: 'root',
      index: 9,
    })),
    folder('old'),
    bus('r'),
    bus('going'),
    { kind: 'folder.change', id: 'old', fields: { busId: 'r' } },
    { kind: 'timekeepers.choose', trackIds: ['a'] },
    {
      kind: 'lanes.pack',
      id: 'packed',
      lanes: [
        { trackId: 'packed', takeNumber: 1 },
        { trackId: 'lane', takeNumber: 2 },
      ],
    },
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
})();

describe('edits from a page', () => {
  it('takes well-formed edits of every kind a page may send', () => {
    const good: Record<string, object> = {
      'session.describe': { name: 'n' },
      'session.rate': { sampleRateHz: 48_000 },
      'track.remove': { id: 'a' },
      'track.change': { id: 'a', fields: { name: 'n', pan: -1, color: '#aabbcc', evidence: [] } },
      'folder.add': {
        folder: { kind: 'folder', id: 'f', name: 'F', color: null, busId: null },
        parentId: 'root',
        index: 0,
      },
      'folder.remove': { id: 'old' },
      'folder.change': { id: 'old', fields: { busId: null } },
      'node.place': { id: 'a', parentId: 'root', index: 3 },
      'bus.add': { bus: { id: 'b', name: 'B', color: null, outputBusId: null }, index: 0 },
      'bus.remove': { id: 'going' },
      'bus.change': {
        id: 'going',
        fields: { name: 'C', sends: [{ busId: 'r', gainDb: -6, pan: null, before: false }] },
      },
      'groups.set': {
        groups: [{ id: 'g', name: 'Kit', trackIds: ['a', 'b'], on: true, gainDb: 0, byHand: true }],
      },
      'map.replace': {
        map: {
          schemaVersion: 1,
          points: [
            { quarters: 0, seconds: 0 },
            { quarters: 1, seconds: 1 },
          ],
          meters: [{ bar: 1, numerator: 4, denominator: 4, number: 0 }],
        },
        facts: {
          steady: false,
          bpm: null,
          foundBy: null,
          pulses: [{ seconds: 0, confidence: 1, begins: 0.9 }],
        },
      },
      'session.cut': { bars: 1 },
      'maps.keep': {
        maps: [
          {
            id: 'm1',
            name: 'As found',
            map: {
              schemaVersion: 1,
              points: [
                { quarters: 0, seconds: 0, ramp: 1.2 },
                { quarters: 1, seconds: 1 },
              ],
              meters: [{ bar: 1, numerator: 4, denominator: 4 }],
            },
            facts: {
              steady: false,
              bpm: null,
              foundBy: null,
              pulses: [{ seconds: 0, confidence: 1, pinned: true }],
              checked: [{ seconds: 4, right: true }],
            },
            played: true,
          },
        ],
      },
      'timekeepers.choose': { trackIds: null },
      'track.cut': {
        id: 't1',
        clips: [{ ...wholeClip(firstLaneId('t1'))[0], id: 'cut', fromFrames: 4800 }],
      },
      'lanes.pack': {
        id: 't1',
        lanes: [
          { trackId: 't1', takeNumber: 1 },
          { trackId: 'a', takeNumber: 2 },
        ],
      },
      'lanes.unpack': { id: 'packed' },
      'track.replace': {
        id: 't1',
        recordingId: '3a5f45eb-2f1b-4bef-8b7d-35f0337509f3',
        receivedName: 'Vox v2.wav',
      },
      'style.use': { style: { id: '00000000-0000-4000-8000-000000000001', version: 2 } },
      'words.set': { words: [{ text: 'hand drum', family: 'percussion', part: 'hand-drum' }] },
      'markers.set': { markers: [{ id: 'm1', name: 'Verse', seconds: 12.5 }] },
      'conform.set': {
        conform: { bpm: 104, treatments: { t1: { method: 'held', block: 'long' } }, heard: 'played' },
      },
    };
    good['track.add'] = { track: plainTrack('new'), parentId: 'root', index: 0 };
    for (const kind of MOVE_KINDS) {
      const made = applyChanges(BASE, [{ kind, ...good[kind] } as Move]);
      if (!made.ok) throw new Error(`${kind}: ${made.code} ${made.id}`);
      expect(made.edits.length).toBeGreaterThan(0);
      // Tracks are made where recordings are known.
      const isOwn = kind !== 'track.add' && kind !== 'lanes.unpack';
      expect([kind, valid(made.edits)]).toEqual([kind, isOwn]);
      // As it travels.
      expect(valid(JSON.parse(JSON.stringify(made.edits)) as unknown[])).toBe(isOwn);
    }
  });
  const patch = (of: string, fields: object): object => ({ kind: 'patch', of, id: 'x', fields });
  const put = (of: string, record: object): object => ({ kind: 'put', of, record: { id: 'x', ...record } });
  const conform = (more: object): object =>
    patch('song', { conform: { bpm: 104, treatments: {}, heard: 'played', ...more } });
  const map = (points: readonly object[]): object =>
    put('map', {
      orderKey: 'a0',
      name: null,
      inForce: true,
      played: false,
      content: {
        map: { schemaVersion: 1, points, meters: [{ bar: 1, numerator: 4, denominator: 4 }] },
        facts: null,
      },
    });
  const points = [
    { quarters: 0, seconds: 0 },
    { quarters: 1, seconds: 1 },
  ];
  it('takes what the refused ones below are made of', () => {
    for (const edit of [conform({}), map(points), patch('track', { pan: 1 })])
      expect([edit, valid([edit])]).toEqual([edit, true]);
  });
  it.each<[string, unknown]>([
    ['unknown kind', { kind: 'burn', of: 'track', id: 'a' }],
    ['kind of the prototype', { kind: 'constructor', of: 'track' }],
    ['a record of no kind', { kind: 'remove', of: 'toString', id: 'a' }],
    ['no kind', { id: 'a' }],
    ['a track that no recording brought', put('track', { name: 'n' })],
    ['a lane taken from its track', { kind: 'remove', of: 'lane', id: 'x' }],
    ['treatment of no track', conform({ treatments: { '../x': { method: 'held', block: 'long' } } })],
    ['unknown method', conform({ treatments: { t: { method: 'melt', block: 'long' } } })],
    ['tempo beyond', conform({ bpm: 4000 })],
    ['word with a path', put('word', { orderKey: 'a0', text: '../x', family: 'drums', part: null })],
    ['word of no family', put('word', { orderKey: 'a0', text: 'udu', family: 'pots', part: null })],
    ['path as id', { kind: 'remove', of: 'track', id: '../../etc' }],
    ['colour that is none', patch('track', { color: 'red; background: url(x)' })],
    ['pan beyond', patch('track', { pan: 2 })],
    ['gain not a number', patch('track', { gainDb: NaN })],
    ['a key of no order', patch('track', { orderKey: '../' })],
    ['unknown field', patch('track', { recordingId: 'x' })],
    ['unknown member', { kind: 'remove', of: 'track', id: 'a', more: 1 }],
    ['name of 201 characters', patch('track', { name: 'x'.repeat(201) })],
    ['a song without a name', patch('song', { name: '  ' })],
    ['a record with something missing', put('marker', { name: 'Verse' })],
    ['a ramp without end', map([{ quarters: 0, seconds: 0, ramp: 1e9 }, points[1] as object])],
    ['one point', map([points[0] as object])],
  ])('refuses: %s', (_why, edit) => {
    expect(valid([edit])).toBe(false);
  });
  it('refuses none and too many', () => {
    expect(valid([])).toBe(false);
    expect(valid(new Array(5001).fill({ kind: 'remove', of: 'track', id: 'a' }))).toBe(false);
  });
  it('leaves a map that is shaped well but runs backwards to the state, which must not take it', () => {
    const outcome = applyChanges(emptySession('x'), [
      {
        kind: 'map.replace',
        map: {
          schemaVersion: 1,
          points: [
            { quarters: 1, seconds: 0 },
            { quarters: 0, seconds: 1 },
          ],
          meters: [{ bar: 1, numerator: 4, denominator: 4 }],
        },
        facts: null,
      },
    ]);
    expect(outcome).toMatchObject({ ok: false, code: 'map.invalid' });
  });
});

it('checks the other requests', () => {
  expect(newSessionSchema.isValidSync({ name: '  ' })).toBe(false);
  expect(newSessionSchema.cast({ name: ' Slip ' })).toEqual({
    name: 'Slip',
    artist: '',
    notes: '',
    project: '',
  });
  expect(detectRequestSchema.isValidSync({ timekeepers: ['a', 'b'] })).toBe(true);
  expect(detectRequestSchema.isValidSync({ timekeepers: 'a' })).toBe(false);
});

it('has words for every fault, without code names in them', () => {
  for (const code of FAULT_CODES) {
    const text = faultText({ code });
    expect(text.length).toBeGreaterThan(8);
    expect(text).not.toContain(code);
  }
});

// RFC 9562 §A.6 gives 2489E9AD-2EE2-8E00-8EC9-32D5F69181C0 as an example of version 8; PostgreSQL writes small letters.
it.each(['2489e9ad-2ee2-8e00-8ec9-32d5f69181c0', '3a5f45eb-2f1b-4bef-8b7d-35f0337509f3'])(
  'ids made from a name are ids like others (%s)',
  (id) => {
    expect(peaksRequestSchema.isValidSync({ recordings: [id], framesPerEntry: 256 })).toBe(true);
    expect(peaksRequestSchema.isValidSync({ recordings: [`${id}0`], framesPerEntry: 256 })).toBe(false);
  },
);
