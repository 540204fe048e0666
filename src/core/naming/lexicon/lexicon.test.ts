import { fold, keyOf, keysOf } from './fold';
import { partsOf } from '../parts';
import { FAMILIES } from '../reading';
import { lexicon, LEXICON_SOURCES, partsInLexicon } from './lexicon';
import { editDistance, skeletonOf } from './near-keys';
import { parseLexicon } from './parse-lexicon';

const all = LEXICON_SOURCES.flatMap((text) => parseLexicon(text).senses);

describe('the lexicon as data', () => {
  it('has no line that cannot be read', () => {
    expect(LEXICON_SOURCES.flatMap((text) => parseLexicon(text).faults)).toEqual([]);
    expect(all.length).toBeGreaterThan(9000);
  });

  it('gives no word two parts at full weight in one language: one of them is ambiguous then', () => {
    const parts = new Map<string, Set<string>>();
    for (const s of all)
      if (s.kind === 'part' && s.weight === 1) {
        const word = `${s.language}: ${s.key}`;
        parts.set(word, (parts.get(word) ?? new Set()).add(`${s.family}/${s.part}/${s.register ?? ''}`));
      }
    expect([...parts].filter(([, m]) => m.size > 1).map(([w, m]) => `${w} ${[...m].join(', ')}`)).toEqual([]);
  });

  it('names the same fault for what a writer of it can get wrong', () => {
    const faults = (line: string): string[] => parseLexicon(line).faults.map((f) => f.reason);
    expect(faults('@colour\nred | xx: red')).toEqual(['no such kind of word', 'no such family']);
    expect(faults('drumz/kick | xx: kick')).toEqual(['no such family']);
    expect(faults('drums/kick | qq: kick')).toEqual(['no such language: qq: kick']);
    expect(faults('drums kick | xx: kick')).toEqual(['cannot be read']);
  });

  it('reads weights, places and numbers out of the aliases', () => {
    const [a, b] = parseLexicon('strings/violin {orch} | xx: !violin close, vln 2').senses;
    expect(a).toMatchObject({ weight: 0.5, position: 'close', tag: 'orch', key: 'violinclose' });
    expect([...(a?.bounds ?? [])]).toEqual([6]);
    expect(b).toMatchObject({ weight: 1, number: 2, key: 'vln2' });
  });

  it('knows the parts of a family, singers too', () => {
    expect(partsOf('drums').slice(0, 2)).toEqual(['kick', 'snare']);
    // What a page offers without the lexicon is what the lexicon has.
    for (const f of FAMILIES) expect([f, partsOf(f)]).toEqual([f, partsInLexicon(f)]);
    expect(partsOf('lead-vocal')).toContain('vocal');
    expect(partsOf('mains')).toEqual(['main-pair', 'tree', 'outrigger', 'surround', 'audience', 'hall']);
  });
});

it('folds marks away and remembers both spellings', () => {
  expect(fold('Große Trommel')).toBe('grosse trommel');
  expect(keyOf('Hi-Hat')).toBe('hihat');
  expect(keysOf('Flügel')).toEqual(['flugel', 'fluegel']);
  expect(keysOf('Ståbas')).toEqual(['stabas', 'staabas']);
});

describe('words that resemble', () => {
  it('counts edits; two letters that changed places are less than two', () => {
    expect(editDistance('snare', 'snare', 2)).toBe(0);
    expect(editDistance('snaer', 'snare', 2)).toBeCloseTo(0.7, 9);
    expect(editDistance('guittar', 'guitar', 2)).toBe(1);
    expect(editDistance('kick', 'violin', 2)).toBe(Infinity);
  });

  it('finds every key within the limit: the quick way against the plain one', () => {
    const keys = [...new Set(all.map((s) => s.key))];
    for (const word of ['snaer', 'tromppet', 'akustik', 'violn', 'zzzzzz']) {
      const limit = word.length < 7 ? 1 : 2;
      const found = lexicon().near().mistyped(word, limit);
      const plain = keys.filter((k) => editDistance(word, k, limit) <= limit);
      for (const { key, distance } of found) expect(editDistance(word, key, limit)).toBe(distance);
      // What the quick way leaves out are short forms and words that no guess aims at.
      for (const { key } of found) expect(plain).toContain(key);
      if (plain.length > 0 && word !== 'zzzzzz') expect(found.length).toBeGreaterThan(0);
    }
  });

  it('leaves the consonants of a word', () => {
    expect([skeletonOf('trumpet'), skeletonOf('trmpt'), skeletonOf('guittar')]).toEqual([
      'trmpt',
      'trmpt',
      'gtr',
    ]);
  });
});
