import { shownKind } from './rows';

it('shows what a track is set to, else what is proposed', () => {
  const proposed = { family: 'drums', fields: { family: 'drums', part: 'tom' } } as const;
  expect(shownKind({ family: 'unknown', part: null }, proposed)).toEqual({ family: 'drums', part: 'tom' });
  expect(shownKind({ family: 'keys', part: 'organ' }, proposed)).toEqual({ family: 'keys', part: 'organ' });
  expect(shownKind({ family: 'unknown', part: null }, null)).toEqual({ family: 'unknown', part: null });
  // What would not change is not among the fields.
  expect(shownKind({ family: 'unknown', part: 'tom' }, { family: 'drums', fields: { family: 'drums' } })).toEqual({ family: 'drums', part: 'tom' });
});
