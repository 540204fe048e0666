import { readFileSync } from 'node:fs';
import { applyEdits, EDIT_KINDS, emptySession } from '@/core/session';
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
      'folder.remove': { id: 'f' },
      'folder.change': { id: 'f', fields: { busId: null } },
      'node.place': { id: 'a', parentId: 'root', index: 3 },
      'bus.add': { bus: { id: 'b', name: 'B', color: null, outputBusId: null }, index: 0 },
      'bus.remove': { id: 'b' },
      'bus.change': {
        id: 'b',
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
    for (const kind of EDIT_KINDS)
      expect([kind, valid([{ kind, ...good[kind] }])]).toEqual([kind, kind !== 'track.add']);
  });
  it.each<[string, unknown]>([
    ['unknown kind', { kind: 'session.burn' }],
    ['kind of the prototype', { kind: 'constructor' }],
    ['no kind', { id: 'a' }],
    [
      'treatment of no track',
      {
        kind: 'conform.set',
        conform: { bpm: 104, treatments: { '../x': { method: 'held', block: 'long' } }, heard: 'played' },
      },
    ],
    [
      'unknown method',
      {
        kind: 'conform.set',
        conform: { bpm: 104, treatments: { t: { method: 'melt', block: 'long' } }, heard: 'played' },
      },
    ],
    ['tempo beyond', { kind: 'conform.set', conform: { bpm: 4000, treatments: {}, heard: 'played' } }],
    ['word with a path', { kind: 'words.set', words: [{ text: '../x', family: 'drums', part: null }] }],
    ['word of no family', { kind: 'words.set', words: [{ text: 'udu', family: 'pots', part: null }] }],
    ['path as id', { kind: 'track.remove', id: '../../etc' }],
    ['colour that is none', { kind: 'track.change', id: 'a', fields: { color: 'red; background: url(x)' } }],
    ['pan beyond', { kind: 'track.change', id: 'a', fields: { pan: 2 } }],
    ['gain not a number', { kind: 'track.change', id: 'a', fields: { gainDb: NaN } }],
    ['unknown field', { kind: 'track.change', id: 'a', fields: { recordingId: 'x' } }],
    ['unknown member', { kind: 'track.remove', id: 'a', more: 1 }],
    ['name of 201 characters', { kind: 'track.change', id: 'a', fields: { name: 'x'.repeat(201) } }],
    [
      'a ramp without end',
      {
        kind: 'map.replace',
        map: {
          schemaVersion: 1,
          points: [
            { quarters: 0, seconds: 0, ramp: 1e9 },
            { quarters: 1, seconds: 1 },
          ],
          meters: [{ bar: 1, numerator: 4, denominator: 4 }],
        },
        facts: null,
      },
    ],
    [
      'one point',
      {
        kind: 'map.replace',
        map: {
          schemaVersion: 1,
          points: [{ quarters: 0, seconds: 0 }],
          meters: [{ bar: 1, numerator: 4, denominator: 4 }],
        },
        facts: null,
      },
    ],
  ])('refuses: %s', (_why, edit) => {
    expect(valid([edit])).toBe(false);
  });
  it('refuses none and too many', () => {
    expect(valid([])).toBe(false);
    expect(valid(new Array(5001).fill({ kind: 'track.remove', id: 'a' }))).toBe(false);
  });
  it('leaves a map that is shaped well but runs backwards to the state, which must not take it', () => {
    const outcome = applyEdits(emptySession('x'), [
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
