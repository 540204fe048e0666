import { sharedPrefixLength, stripExtension, tokenise } from './tokens';

const words = (name: string): string[] => tokenise(name).map((t) => t.text);

it.each<[string, string[]]>([
  ['KICK in_03.wav', ['kick', 'in', '03']],
  ['snareTop57.WAV', ['snare', 'top', '57']],
  ['OHL.wav', ['ohl']],
  ['LVMain.wav', ['lv', 'main']],
  ['12str-gtr (2).aiff', ['12', 'str', 'gtr', '2']],
  ['Flöte.wav', ['flote']],
  ['Straße.wav', ['strasse']],
  ['a/b\\Kick.wav', ['kick']],
  ['Hat.v2.wav', ['hat', 'v', '2']],
  ['🥁 toms', ['toms']],
  ['', []],
  ['....', []],
])('splits %s', (name, want) => {
  expect(words(name)).toEqual(want);
});

it('keeps how a word stood beside how it is compared', () => {
  expect(tokenise('Flöte_OK')).toEqual([
    { text: 'flote', shown: 'Flöte' },
    { text: 'ok', shown: 'OK' },
  ]);
});

it('takes off the extension of a sound file, and no other dot', () => {
  expect(stripExtension('a.b.wav')).toBe('a.b');
  expect(stripExtension('take.2')).toBe('take.2');
  expect(stripExtension('x.FLAC')).toBe('x');
  expect(stripExtension('letter.txt')).toBe('letter.txt');
});

describe('what all names share', () => {
  const shared = (names: readonly string[], known: readonly string[] = []): number =>
    sharedPrefixLength(names.map(tokenise), (w) => known.includes(w));
  it('is the song, when three names begin alike', () => {
    expect(shared(['Slip - Kick', 'Slip - Snare', 'Slip - Bass'])).toBe(1);
    expect(shared(['Low Water Kick', 'Low Water Snare', 'Low Water LV'])).toBe(2);
  });
  it('is never a word of the trade, a whole name, or a pattern of two', () => {
    expect(shared(['Bass 1', 'Bass 2', 'Bass 3'], ['bass'])).toBe(0);
    expect(shared(['Slip', 'Slip Kick', 'Slip Bass'])).toBe(0);
    expect(shared(['Slip Kick', 'Slip Bass'])).toBe(0);
    expect(shared([])).toBe(0);
  });
});
