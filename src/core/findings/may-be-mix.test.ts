import type { SoundLikeness, SoundKind } from '../analysis';
import type { Family } from '../naming';
import { mayBeMix, mixGroup } from './index';

const as = (kind: SoundKind, confidence = 0.95): { readonly as: SoundLikeness } => ({
  as: { kind, confidence },
});
const source = (family: Family, confidence = 0.9) => ({
  family,
  part: null,
  role: null,
  position: null,
  side: null,
  number: null,
  take: null,
  confidence,
});

it('what sounds like one thing is no mix, though by its levels it could be: a kick microphone hears the kit', () => {
  const unknown = { channels: 1, source: source('unknown') };
  expect(mayBeMix({ ...unknown, heard: null })).toBe(true);
  expect(mayBeMix({ ...unknown, heard: as('several') })).toBe(true);
  expect(mayBeMix({ ...unknown, heard: as('drums', 0.8) })).toBe(true);
  expect(mayBeMix({ ...unknown, heard: as('drums') })).toBe(false);
  expect(mayBeMix({ channels: 2, source: source('bass'), heard: as('several') })).toBe(true);
  expect(mayBeMix({ channels: 2, source: source('bass'), heard: as('bass') })).toBe(false);
  expect(mayBeMix({ channels: 1, source: source('bass'), heard: as('several') })).toBe(false);
  expect(mayBeMix({ channels: 2, source: source('effects', 0.4), heard: null })).toBe(true);
});

it('parts of a mix are grouped by family; where no name says it, by what they sound like', () => {
  const group = (family: Family, heard: { readonly as: SoundLikeness } | null): string =>
    mixGroup({ id: 'x', source: source(family), heard: heard as never });
  expect(group('drums', null)).toBe('drums');
  expect(group('unknown', as('drums', 0.75))).toBe('drums');
  expect(group('unknown', as('voice-like'))).toBe('lead-vocal');
  expect(group('unknown', as('plucked'))).toBe('x');
  expect(group('unknown', as('drums', 0.5))).toBe('x');
  expect(group('unknown', null)).toBe('x');
});
