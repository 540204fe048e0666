import {
  applyChanges,
  emptySession,
  isTrack,
  ROOT,
  tracksInOrder,
  type Change,
  type SessionState,
  type Track,
} from '../session';
import {
  type Condition,
  conditionText,
  DEFAULT_STYLE,
  folderId,
  type HouseStyle,
  meets,
  newTrack,
  proposalEdits,
  proposeSort,
  type Rule,
  type Subject,
  tryNames,
} from './index';

const subject: Subject = {
  name: 'Cajón L_02',
  rows: ['track', 'child'],
  family: 'percussion',
  part: 'cajon',
  role: null,
  position: 'in',
  channels: 2,
  color: '#aabbcc',
  folder: 'percussion',
  findings: ['clipped'],
  heard: { kind: 'drums', confidence: 0.8 },
};
const style = (rules: readonly Rule[], more: Partial<HouseStyle> = {}): HouseStyle => ({
  ...DEFAULT_STYLE,
  ...more,
  rules,
});
const rule = (name: string, when: Condition, then: Rule['then']): Rule => ({ name, on: true, when, then });

it.each<[Condition, boolean, string]>([
  [{ nameHas: ['CAJON'] }, true, 'name has “CAJON”'],
  [{ nameHas: ['caj'] }, false, 'name has “caj”'],
  [{ nameHas: ['kick', 'l 02'] }, true, 'name has “kick” or “l 02”'],
  [{ nameHas: [''] }, false, 'name has “”'],
  [{ nameIs: ['cajon l 02'] }, true, 'name is “cajon l 02”'],
  [{ nameIs: ['cajon'] }, false, 'name is “cajon”'],
  [{ nameMatches: '^caj.n' }, true, 'name matches /^caj.n/'],
  [{ nameMatches: '(' }, false, 'name matches /(/'],
  [{ family: ['drums', 'percussion'] }, true, 'family is drums or percussion'],
  [{ part: ['shaker'] }, false, 'part is shaker'],
  [{ role: ['lead'] }, false, 'role is lead'],
  [{ position: ['in'] }, true, 'position is in'],
  [{ channels: [2] }, true, 'channels is 2'],
  [{ color: ['#AABBCC'] }, true, 'is coloured #AABBCC'],
  [{ folder: ['percussion'] }, true, 'goes in percussion'],
  [{ row: ['child'] }, true, 'stands in a folder'],
  [{ row: ['unnamed', 'bus'] }, false, 'has a name that says nothing or is a bus'],
  [{ finding: ['clipped'] }, true, 'has finding clipped'],
  [{ heard: ['voice-like', 'drums'] }, true, 'sounds like voice like or drums'],
  [{ heard: ['bass'] }, false, 'sounds like bass'],
  [{ all: [] }, true, 'always'],
  [{ any: [] }, false, 'never'],
  [{ not: { part: ['kick'] } }, true, 'not (part is kick)'],
  [
    { all: [{ channels: [2] }, { any: [{ part: ['kick'] }, { not: { family: ['bass'] } }] }] },
    true,
    'channels is 2 and (part is kick or not (family is bass))',
  ],
])('%j', (condition, met, text) => {
  expect(meets(condition, subject)).toBe(met);
  expect(conditionText(condition)).toBe(text);
});

it('rules run in order, each on what those before it left, and say so', () => {
  const rules = [
    rule('Frogs', { nameHas: ['frog'] }, { family: 'percussion', part: 'guiro' }),
    rule('Scraped is far', { part: ['guiro'] }, { position: 'far', pan: 0.5 }),
    rule(
      'Frogs are quiet',
      { all: [{ family: ['percussion'] }, { nameHas: ['frog'] }] },
      { muted: true, color: '#123456', name: 'The Frog' },
    ),
    { ...rule('Off', { all: [] }, { family: 'click' }), on: false },
  ];
  const [row] = tryNames(['Frog 3', 'Kick'], style(rules));
  expect(row).toMatchObject({
    family: 'percussion',
    part: 'guiro',
    position: 'far',
    name: 'The Frog',
    color: '#123456',
    folders: ['Percussion'],
    rules: ['Frogs', 'Scraped is far', 'Frogs are quiet'],
    confidence: 0.95,
  });
  expect(row?.evidence.at(-3)).toEqual({ kind: 'rule', text: 'Frogs', means: 'percussion · guiro' });
});

const received = (names: readonly string[], s: HouseStyle = DEFAULT_STYLE): SessionState =>
  run(
    emptySession('s'),
    names.map((n, index) => ({
      kind: 'track.add',
      track: newTrack(`t${index}`, n, {}, s),
      parentId: ROOT,
      index,
    })),
  );
function run(state: SessionState, edits: readonly Change[]): SessionState {
  const made = applyChanges(state, edits);
  if (!made.ok) throw new Error(`${made.code} ${made.id}`);
  return made.session;
}
const applied = (s: SessionState, h: HouseStyle, overHand = false): SessionState => {
  const proposal = proposeSort(s, h, { overHand });
  return run(s, proposalEdits(s, h, proposal, new Set(proposal.rows.map((r) => r.trackId))));
};
/** Folders with what they hold, as text. */
const outline = (s: SessionState, parent: string = ROOT): string =>
  (s.children[parent] ?? [])
    .map((id) => {
      const n = s.nodes[id];
      return n?.kind === 'folder' ? `${n.name}[${outline(s, id)}]` : (n?.name ?? '?');
    })
    .join(' ');
const sumOf = (s: SessionState, id: string | null): string =>
  id === null ? 'mix' : `${s.buses[id]?.name}>${sumOf(s, s.buses[id]?.outputBusId ?? null)}`;
const trackNamed = (s: SessionState, name: string): Track =>
  tracksInOrder(s).find((t) => t.name === name) as Track;

const NESTED = style([], {
  folders: [
    ...DEFAULT_STYLE.folders.filter((f) => f.key !== 'drums'),
    {
      key: 'toms',
      name: 'Toms',
      families: [],
      when: { part: ['tom'] },
      parent: 'drums',
      bus: 'Toms',
      atLeast: 2,
      color: null,
      shades: 'own',
    },
    {
      key: 'kicks',
      name: 'Kicks',
      families: [],
      when: { part: ['kick'] },
      parent: 'drums',
      bus: null,
      atLeast: 2,
      color: '#445566',
      shades: 'steps',
    },
    {
      key: 'drums',
      name: 'Drums',
      families: ['drums'],
      when: null,
      parent: null,
      bus: 'Drums',
      atLeast: 1,
      color: null,
      shades: 'spread',
    },
  ],
});

it('nests folders, sums of sums, and makes none for too few', () => {
  const s = applied(received(['Kick In', 'Kick Out', 'Snare', 'Tom 1', 'Tom 2', 'Bass', 'Click']), NESTED);
  expect(outline(s)).toBe(
    'Bass[Bass] Reference[Click] Drums[Toms[Tom 1 Tom 2] Kicks[Kick In Kick Out] Snare]',
  );
  expect(sumOf(s, trackNamed(s, 'Tom 1').busId)).toBe('Toms>Drums>mix');
  // A folder without a sum of its own feeds the one it stands in.
  expect(sumOf(s, trackNamed(s, 'Kick In').busId)).toBe('Drums>mix');
  const few = applied(received(['Kick In', 'Snare', 'Tom 1']), NESTED);
  expect(outline(few)).toBe('Drums[Kick In Snare Tom 1]');
  expect(Object.keys(few.buses)).toEqual(['bus-drums']);
});

it('a folder asked for by too few tracks leaves them at the top level, on the mix bus', () => {
  const s = applied(
    received(['Kick', 'Bass']),
    style([], { folders: DEFAULT_STYLE.folders.map((f) => ({ ...f, atLeast: 2 })) }),
  );
  expect(outline(s)).toBe('Kick Bass');
  expect(tracksInOrder(s).map((t) => t.busId)).toEqual([null, null]);
});

it('colours by part, in steps of a folder, along the spectrum, and by rule; folders and sums too', () => {
  const s = applied(received(['Kick In', 'Kick Out', 'Tom 1', 'Tom 2', 'Snare', 'Bass']), {
    ...NESTED,
    partColors: { 'electric-bass': '#101112' },
    rules: [rule('Sums are dark', { row: ['bus'] }, { color: '#202122' })],
  });
  expect(trackNamed(s, 'Bass').color).toBe('#101112');
  const colors = ['Kick In', 'Kick Out', 'Tom 1', 'Tom 2'].map((n) => trackNamed(s, n).color);
  expect(new Set(colors).size).toBe(4);
  expect(s.buses['bus-drums']?.color).toBe('#202122');
  expect(s.nodes[folderId('kicks')]).toMatchObject({ color: '#445566' });
});

it('what a person put somewhere stays there; applied again over it, it goes', () => {
  const first = applied(received(['Kick', 'Snare', 'Bass', 'rec0011']), DEFAULT_STYLE);
  const bass = trackNamed(first, 'Bass');
  const moved = run(first, [
    { kind: 'node.place', id: bass.id, parentId: folderId('drums'), index: 0 },
    { kind: 'track.change', id: bass.id, fields: { byHand: ['place', 'color'], color: '#010203' } },
  ]);
  expect(
    proposeSort(moved, DEFAULT_STYLE).rows.filter((r) => r.moves || Object.keys(r.fields).length > 0),
  ).toEqual([]);
  const over = proposeSort(moved, DEFAULT_STYLE, { overHand: true }).rows.find((r) => r.trackId === bass.id);
  expect(over).toMatchObject({
    moves: true,
    overwrites: ['place', 'color'],
    fields: { color: DEFAULT_STYLE.colors.bass, byHand: [] },
  });
  const again = applied(moved, DEFAULT_STYLE, true);
  expect(outline(again)).toBe(outline(first));
});

it('another style takes the folders and sums of the one before away, and leaves those made by hand', () => {
  const before = run(applied(received(['Kick', 'Bass', 'Vox']), DEFAULT_STYLE), [
    {
      kind: 'folder.add',
      folder: { kind: 'folder', id: 'folder-own-1', name: 'Mine', color: null, busId: null },
      parentId: ROOT,
      index: 0,
    },
  ]);
  const other = style([], {
    folders: [
      {
        key: 'all',
        name: 'All',
        families: [...new Set(DEFAULT_STYLE.folders.flatMap((f) => f.families))],
        when: null,
        parent: null,
        bus: 'All',
        atLeast: 1,
        color: null,
        shades: 'folder',
      },
    ],
  });
  const s = applied(before, other);
  expect(outline(s)).toBe('All[Kick Bass Lead Vocal] Mine[]');
  expect(Object.keys(s.buses)).toEqual(['bus-all']);
  expect(new Set(tracksInOrder(s).map((t) => t.color)).size).toBe(1);
});

it('a rule that says the family it is already leaves the part', () => {
  expect(
    tryNames(
      ['Cajon frog', 'Kick frog'],
      style([rule('Frogs', { nameHas: ['frog'] }, { family: 'percussion' })]),
    ).map((t) => t.part),
  ).toEqual(['cajon', null]);
});

it('junk of the house says nothing', () => {
  expect(
    tryNames(['Harbour Kick', 'Bass'], style([], { junk: ['harbour'] }))[0]?.evidence.map((e) => e.text),
  ).toEqual(['Kick']);
});

it('a rule for tracks by channel count and findings', () => {
  const s = received(['Pad', 'Bass']);
  const h = style([
    rule('Stereo far', { all: [{ channels: [2] }, { finding: ['quiet'] }] }, { color: '#0a0b0c' }),
  ]);
  const { rows, hits } = proposeSort(s, h, {
    factsOf: (t) => ({ channels: t.id === 't0' ? 2 : 1, findings: ['quiet'], heard: null }),
  });
  expect(hits.get('Stereo far')).toEqual(['t0']);
  expect(rows.find((r) => r.trackId === 't0')?.fields.color).toBe('#0a0b0c');
  expect(isTrack(s.nodes.t0)).toBe(true);
});
