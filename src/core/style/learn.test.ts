import {
  applyChanges,
  emptySession,
  ROOT,
  type SessionState,
  type Track,
  type TrackFields,
} from '../session';
import {
  correctedName,
  DEFAULT_STYLE,
  lessonsOf,
  type NameLesson,
  newTrack,
  proposeSort,
  withWord,
} from './index';

const sessionOf = (names: readonly string[]): SessionState => {
  const made = applyChanges(
    emptySession('Low Water'),
    names.map((name, index) => ({
      kind: 'track.add',
      track: newTrack(`t${index}`, name, {}, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
  );
  if (!made.ok) throw new Error(made.code);
  return made.session;
};
const corrected = (s: SessionState, id: string, fields: Partial<TrackFields>): SessionState => {
  const done = applyChanges(s, [
    {
      kind: 'track.change',
      id,
      fields: { ...fields, byHand: [...(s.nodes[id] as Track).byHand, ...Object.keys(fields)] },
    },
  ]);
  if (!done.ok) throw new Error(done.code);
  return done.session;
};
/** What is learned of a track. */
const lessonsFor = (s: SessionState, id: string): NameLesson[] => {
  const corrected = correctedName(s, DEFAULT_STYLE, id);
  return corrected ? lessonsOf(corrected) : [];
};
const withWords = (s: SessionState, ...words: SessionState['words']): SessionState => ({
  ...s,
  words: words.reduce<SessionState['words']>((list, w) => withWord(list, w), s.words),
});

it('a word that said nothing is learned from one correction, with all others it reads', () => {
  const s = corrected(sessionOf(['Zixomar 1.wav', 'ZIXOMAR_L.wav', 'Kick.wav', 'rec0011.wav']), 't0', {
    family: 'percussion',
    part: 'jawbone',
  });
  const [lesson, ...more] = lessonsFor(s, 't0');
  expect(more).toEqual([]);
  expect(lesson).toEqual({
    word: { text: 'zixomar', family: 'percussion', part: 'jawbone' },
    before: null,
    also: [{ at: 1, before: 'unknown', after: 'percussion · jawbone' }],
  });
  const after = proposeSort(withWords(s, lesson!.word), DEFAULT_STYLE).rows;
  expect(after.find((r) => r.trackId === 't1')).toMatchObject({
    family: 'percussion',
    group: 'certain',
    name: 'Jawbone L',
  });
  // Learned: there is nothing left to offer.
  expect(lessonsFor(withWords(s, lesson!.word), 't0')).toEqual([]);
});
it('a word that misled is offered with what it meant', () => {
  const s = corrected(sessionOf(['Egg.wav', 'Egg 2.wav', 'Snare.wav']), 't0', { family: 'keys' });
  expect(lessonsFor(s, 't0')).toMatchObject([
    {
      word: { text: 'egg', family: 'keys', part: null },
      before: 'percussion · shaker',
      also: [{ at: 1 }],
    },
  ]);
});
it('phrases before single words, each only if it brings what was said', () => {
  const s = corrected(sessionOf(['Wuxel Dovik hi.wav', 'Wuxel bell.wav', 'Bass.wav']), 't0', {
    family: 'effects',
  });
  expect(lessonsFor(s, 't0').map((l) => l.word.text)).toEqual(['wuxel dovik', 'wuxel', 'dovik']);
});
it.each(['rec0011.wav', 'Audio 7_02.wav', '03.wav', 'New Recording 14.wav', 'x2.wav'])(
  'nothing is learned from a name that says nothing: %s',
  (name) => {
    expect(
      lessonsFor(corrected(sessionOf([name, 'Kick.wav', 'Bass.wav']), 't0', { family: 'guitars' }), 't0'),
    ).toEqual([]);
  },
);
it('nor from what all names share, nor without a correction', () => {
  const names = ['Lanterns_wuxel.wav', 'Lanterns_Kick.wav', 'Lanterns_Bass.wav'];
  expect(
    lessonsFor(corrected(sessionOf(names), 't0', { family: 'synths' }), 't0').map((l) => l.word.text),
  ).toEqual(['wuxel']);
  expect(lessonsFor(sessionOf(names), 't0')).toEqual([]);
});
it('a learned source keeps its room, as a known one does', () => {
  const s = corrected(sessionOf(['Zixomar close.wav', 'zixomar room.wav', 'Kick.wav', 'Snare.wav']), 't0', {
    family: 'percussion',
    part: 'jawbone',
  });
  expect(lessonsFor(s, 't0')[0]?.also).toMatchObject([
    { at: 1, before: 'drums · room', after: 'percussion · jawbone' },
  ]);
});
it('a part by hand stays in the name that is proposed', () => {
  const s = corrected(sessionOf(['Gtr 2 L.wav', 'Kick.wav']), 't0', { family: 'guitars', part: 'mandolin' });
  expect(proposeSort(s, DEFAULT_STYLE).rows.find((r) => r.trackId === 't0')?.name).toBe('Mandolin 2 L');
});
it('words of the delivery go before those of the house, and the last meaning holds', () => {
  const style = { ...DEFAULT_STYLE, words: [{ text: 'blip', family: 'effects', part: 'effect' }] } as const;
  const family = (s: SessionState) => proposeSort(s, style).rows[0]?.family;
  const s = sessionOf(['blip.wav']);
  expect(family(s)).toBe('effects');
  expect(family(withWords(s, { text: 'blip', family: 'synths', part: 'arp' }))).toBe('synths');
  expect(
    withWord([{ text: 'a b', family: 'keys', part: null }], { text: 'a b', family: 'bass', part: null }),
  ).toEqual([{ text: 'a b', family: 'bass', part: null }]);
});
