import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { familyEdit, partEdits } from './family-edits';

const by = { style: DEFAULT_STYLE, busIds: new Set(['bus-drums']) };
const track = { ...newTrack('t', 'rec0011.wav', {}, DEFAULT_STYLE) };

it('a family by hand brings its colour, sum, mute and name; what was set by hand stays', () => {
  expect(familyEdit(track, 'drums', by)).toMatchObject({
    fields: {
      family: 'drums',
      confidence: 1,
      color: DEFAULT_STYLE.colors.drums,
      busId: 'bus-drums',
      muted: false,
      byHand: ['family'],
    },
  });
  expect(familyEdit(track, 'reference', by)).toMatchObject({ fields: { busId: null, muted: true } });
  const hand = familyEdit({ ...track, byHand: ['busId', 'muted', 'color', 'name'] }, 'reference', by);
  expect(hand).toEqual({
    kind: 'track.change',
    id: 't',
    fields: {
      family: 'reference',
      part: null,
      role: null,
      confidence: 1,
      byHand: ['busId', 'muted', 'color', 'name', 'family'],
    },
  });
});
it('a part by hand confirms the family and brings its name', () => {
  expect(partEdits(track, 'drums', 'snare', by).at(-1)).toMatchObject({
    fields: { part: 'snare', name: 'Snare', byHand: ['family', 'part'] },
  });
});

it('a part of another family is none of this one; one of its own stays', () => {
  expect(familyEdit({ ...track, part: 'kick' }, 'guitars', by)).toMatchObject({ fields: { part: null } });
  expect(familyEdit({ ...track, part: 'kick' }, 'drums', by)).toMatchObject({ fields: { part: 'kick' } });
});
