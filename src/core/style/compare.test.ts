import { compareStyles, DEFAULT_STYLE, type HouseStyle } from './index';

const texts = (change: Partial<HouseStyle>): string[] =>
  compareStyles(DEFAULT_STYLE, { ...DEFAULT_STYLE, ...change }).map((d) => `${d.part}: ${d.text}`);

it('says nothing of equal styles, whatever their version', () => expect(texts({ version: 9 })).toEqual([]));

it.each<[Partial<HouseStyle>, string]>([
  [{ name: 'Saltmarsh' }, 'words: name: Plain house → Saltmarsh'],
  [
    { words: [{ text: 'frog', family: 'percussion', part: 'guiro' }] },
    'words: “frog”: percussion · guiro, new',
  ],
  [{ junk: ['harbour'] }, 'words: “harbour”: says nothing, new'],
  [
    { names: { ...DEFAULT_STYLE.names, template: '{group}_{part}' } },
    'names: template: {part} {role} {position} {number} {side} → {group}_{part}',
  ],
  [
    { names: { ...DEFAULT_STYLE.names, words: { ...DEFAULT_STYLE.names.words, hihat: 'HH' } } },
    'names: hihat: written “Hat” → written “HH”',
  ],
  [{ names: { ...DEFAULT_STYLE.names, numbers: 'letters' } }, 'names: numbers: digits → letters'],
  [
    { rules: [{ name: 'Frogs', on: false, when: { nameHas: ['frog'] }, then: { family: 'percussion' } }] },
    'rules: “Frogs”: when name has “frog”, then percussion (off), new',
  ],
  [
    { colors: { ...DEFAULT_STYLE.colors, bass: '#112233' } },
    `colours: bass: ${DEFAULT_STYLE.colors.bass} → #112233`,
  ],
  [{ partOrder: [...DEFAULT_STYLE.partOrder].reverse() }, 'order: parts stand in another order'],
  [{ folders: [...DEFAULT_STYLE.folders].reverse() }, 'folders: folders stand in another order'],
  [{ muted: [] }, 'folders: arrive muted: reference, click → none'],
  [
    { lenses: DEFAULT_STYLE.lenses.slice(1) },
    'lenses: drums: no more “Drums” shows what meets: family is drums',
  ],
  [{ leadInBars: 4 }, 'delivery: bars before the first downbeat: 2 → 4'],
  [{ takes: 'all' }, 'delivery: takes in a package: none → all'],
])('%j', (change, text) => expect(texts(change)).toEqual([text]));
