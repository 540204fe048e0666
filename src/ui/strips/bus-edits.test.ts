import type { Bus } from '@/core/session';
import { busEdit, busStripText, steppedBusFields, typedBusFields } from './bus-edits';

const bus: Bus = {
  ...{ id: 'b', name: 'Drums', color: null, kind: 'sum', outputBusId: null },
  ...{ gainDb: -3, pan: 0, muted: false, sends: [], byHand: ['name'] },
};

it('is said by hand, whatever the house style says later', () => {
  expect(busEdit(bus, { muted: true })).toEqual({
    ...{ kind: 'bus.change', id: 'b' },
    fields: { muted: true, byHand: ['name', 'muted'] },
  });
});

it.each([
  ['level', '-4,5', { gainDb: -4.5 }],
  ['pan', 'L30', { pan: -0.3 }],
  ['pan', 'c', { pan: 0 }],
] as const)('%s typed as %s', (field, text, fields) => {
  expect(typedBusFields(field, text, bus)).toEqual(fields);
});

it.each([
  ['level', 'loud'],
  ['level', '99'],
  ['pan', 'L300'],
] as const)('%s cannot be %s, and it is said why', (field, text) => {
  expect(typedBusFields(field, text, bus)).toHaveProperty('error');
});

it('steps as far as it can, and not from its end', () => {
  expect(steppedBusFields('level', 0.5, bus)).toEqual({ gainDb: -2.5 });
  expect(steppedBusFields('level', 100, bus)).toEqual({ gainDb: 24 });
  expect(steppedBusFields('pan', -5, { ...bus, pan: -0.98 })).toEqual({ pan: -1 });
  expect(steppedBusFields('pan', 5, { ...bus, pan: 1 })).toBeNull();
});

it('is told in words only as far as it does something', () => {
  expect(busStripText(bus)).toBe('−3.0 dB');
  expect(busStripText({ gainDb: 0, pan: 0, muted: false })).toBe('');
  expect(busStripText({ gainDb: 1, pan: 0.2, muted: true })).toMatch(/^\+1\.0 dB, .*20.*, muted$/);
});
