import { parse } from 'yaml';
import { type Condition, DEFAULT_STYLE, type HouseStyle } from '@/core/style';
import { createRandom } from '@/core/units';
import { parseHouseStyle, readStyleFile, styleJsonSchema, writeStyleFile } from './index';

const read = (text: string): HouseStyle => {
  const r = readStyleFile(text);
  if (!r.ok) throw new Error(r.error.issues.map((i) => i.message).join('\n'));
  return r.value.style;
};
const issuesOf = (
  text: string,
): readonly { readonly message: string; readonly line: number | null; readonly column: number | null }[] => {
  const r = readStyleFile(text);
  return r.ok ? [] : r.error.issues;
};

it('takes what is given and fills the rest from the default', () => {
  expect(read('name: Saltmarsh\ncolors:\n  drums: "#112233"\nleadInBars: 4\n')).toMatchObject({
    name: 'Saltmarsh',
    leadInBars: 4,
    folders: DEFAULT_STYLE.folders,
    lenses: DEFAULT_STYLE.lenses,
    names: DEFAULT_STYLE.names,
    colors: { drums: '#112233', bass: DEFAULT_STYLE.colors.bass },
  });
});

it('folders of one’s own bring their lenses along, unless there are some', () => {
  const own = read(
    'folders:\n  - {key: low, name: Low end, families: [bass]}\n  - {key: rest, name: Rest, when: {not: {family: bass}}}\n',
  );
  expect(own.lenses).toEqual([
    { key: 'low', name: 'Low end', when: { family: ['bass'] } },
    { key: 'rest', name: 'Rest', when: { not: { family: ['bass'] } } },
  ]);
  expect(own.folders[0]).toEqual({
    key: 'low',
    name: 'Low end',
    families: ['bass'],
    when: null,
    parent: null,
    bus: null,
    atLeast: 1,
    color: null,
    shades: 'own',
  });
});

it('conditions read as one writes them: one value for a list of one', () => {
  const { rules } = read(
    'rules:\n  - name: Frogs\n    when: {any: [{nameHas: frog}, {all: [{part: guiro}, {not: {channels: 2}}]}]}\n    then: {family: percussion}\n',
  );
  expect(rules).toEqual([
    {
      name: 'Frogs',
      on: true,
      when: { any: [{ nameHas: ['frog'] }, { all: [{ part: ['guiro'] }, { not: { channels: [2] } }] }] },
      then: { family: 'percussion' },
    },
  ]);
});

it('keeps what it does not know, and says which', () => {
  const text =
    'name: Saltmarsh\nstudio: {desk: old}\nfolders:\n  - {key: low, name: Low, families: [bass], mood: dark}\ncolors: {kazoo: "#112233"}\n';
  const r = readStyleFile(text);
  expect(r.ok && r.value.unknown).toEqual(['studio', 'folders[0].mood', 'colors.kazoo']);
  expect(parse(writeStyleFile(read(text)))).toMatchObject({
    studio: { desk: 'old' },
    folders: [{ mood: 'dark' }],
    colors: { kazoo: '#112233' },
  });
});

it('says line and column of all that is wrong at once', () => {
  const text = [
    'name: Saltmarsh',
    'leadInBars: 0',
    'colors:',
    '  drums: green',
    'folders:',
    '  - key: "../x"',
    '    name: X',
    '    families: [drums, kazoos]',
    'names:',
    '  template: "{part}/{side}"',
    '  words: {kick: 7}',
  ].join('\n');
  expect(issuesOf(text).map(({ line, column }) => [line, column])).toEqual([
    [2, 13],
    [4, 10],
    [6, 10],
    [8, 23],
    [10, 13],
    [11, 17],
  ]);
  expect(issuesOf(text)[1]?.message).toContain('#3f7d4e');
  expect(
    issuesOf('a: [1,\nb: }').every((i) => i.line !== null && i.message.startsWith('not readable as YAML')),
  ).toBe(true);
});

it.each([
  [
    'rules:\n  - {name: A, when: {family: [drums]}, then: {}}\n  - {name: A, when: {family: [drums]}, then: {}}',
    'same name',
  ],
  ['rules:\n  - {name: A, when: {}, then: {}}', 'must have one of'],
  ['rules:\n  - {name: A, when: {family: drums, part: kick}, then: {}}', 'must have one of'],
  ['rules:\n  - {name: A, when: {nameMatches: "(a+)+\\\\1"}, then: {}}', 'RE2'],
  ['rules:\n  - {name: A, when: {family: drums}, then: {folder: nowhere}}', 'no folder nowhere'],
  ['folders:\n  - {key: a, name: A, parent: b}\n  - {key: b, name: B, parent: a}', 'stand in itself'],
  ['folders:\n  - {key: a, name: A, parent: b}', 'no folder b'],
  ['folders:\n  - {key: a, name: A}\n  - {key: a, name: B}', 'same key'],
  ['folders:\n  - {key: own-1, name: A}', 'own-'],
  ['names: {words: {"../x": y}}', 'not a name'],
  ['- a\n- b', 'names with values'],
  ['42', 'names with values'],
  ['just words', 'names with values'],
  ['', 'names with values'],
  [
    `rules:\n  - {name: A, when: ${'{not: '.repeat(14)}{family: drums}${'}'.repeat(14)}, then: {}}`,
    'nested more than 12',
  ],
])('refuses %j in words', (text, words) => {
  expect(
    issuesOf(text)
      .map((i) => i.message)
      .join(' · '),
  ).toContain(words);
});

it('refuses 10 MB, 100 levels, and what would take a reader apart', () => {
  expect(issuesOf(`name: ${'x'.repeat(11 << 20)}`)[0]?.message).toContain('10 MB');
  expect(issuesOf(`name: x\nmore: ${'['.repeat(99)}${']'.repeat(99)}`)[0]?.message).toContain('100 deep');
  expect(issuesOf(`name: x\nmore: ${'['.repeat(98)}${']'.repeat(98)}`)).toEqual([]);
  for (const deep of [
    '['.repeat(200_000),
    '{a: '.repeat(50_000),
    '- '.repeat(100_000),
    Array.from({ length: 3000 }, (_, i) => `${' '.repeat(i)}a:`).join('\n'),
  ])
    expect(issuesOf(deep).length).toBeGreaterThan(0);
  // Names that stand for each other, ever more.
  const bomb = [
    'a0: &a0 [x, x, x, x, x, x, x, x, x]',
    ...Array.from({ length: 12 }, (_, i) => `a${i + 1}: &a${i + 1} [${Array(9).fill(`*a${i}`).join(', ')}]`),
  ].join('\n');
  expect(issuesOf(bomb).length).toBeGreaterThan(0);
});

/** A style with something of everything, made up by chance. */
function randomStyle(seed: number): HouseStyle {
  const random = createRandom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const condition = (depth: number): Condition => {
    const kind = depth > 3 ? 5 : Math.floor(random() * 9);
    if (kind === 0) return { all: [condition(depth + 1), condition(depth + 1)] };
    if (kind === 1) return { any: [condition(depth + 1)] };
    if (kind === 2) return { not: condition(depth + 1) };
    return pick<Condition>([
      { nameHas: ['frog', 'day two'] },
      { nameMatches: '^(a|b)+: "x" #{2}' },
      { family: ['drums', 'bass'] },
      { channels: [1, 2] },
      { row: ['child'] },
      { color: ['#aabbcc'] },
    ]);
  };
  return {
    ...DEFAULT_STYLE,
    name: pick(['Saltmarsh', 'yes', '007', 'Ünï: "x"', '#tide']),
    words: [{ text: 'frog', family: 'percussion', part: pick([null, 'guiro']) }],
    junk: ['harbour', 'day two'],
    partColors: { kick: '#010203' },
    fileJoin: pick(['', '_', '-']),
    rules: Array.from({ length: 4 }, (_, i) => ({
      name: `Rule ${i}: ${pick(['null', 'no', "it's"])}`,
      on: random() < 0.5,
      when: condition(0),
      then: pick<HouseStyle['rules'][number]['then']>([
        { family: 'keys', part: null },
        { color: '#ffffff', muted: true, pan: -0.25 },
        { name: 'A: b', folder: 'drums' },
      ]),
    })),
    folders: DEFAULT_STYLE.folders.map((f, i) => ({
      ...f,
      when: random() < 0.3 ? condition(0) : null,
      parent: i > 3 && random() < 0.5 ? 'drums' : null,
      shades: pick(['own', 'steps', 'spread', 'folder'] as const),
    })),
    names: {
      ...DEFAULT_STYLE.names,
      words: { kick: pick(['', 'BD', 'true']) },
      families: { drums: '{part}-{number}' },
      forbidden: '/:"\'\\',
    },
  };
}

it('reads back what it has written (200 styles, seeds 1–200)', () => {
  for (let seed = 1; seed <= 200; seed++) {
    const style = randomStyle(seed);
    expect(read(writeStyleFile(style))).toEqual(style);
  }
});

it('is one readable file: short things stand on one line', () => {
  const text = writeStyleFile({
    ...DEFAULT_STYLE,
    rules: [
      {
        name: 'Frogs',
        on: true,
        when: { any: [{ nameHas: ['frog'] }, { part: ['guiro'] }] },
        then: { family: 'percussion', part: 'guiro' },
      },
    ],
  });
  expect(text).toContain(
    '    when: {any: [{nameHas: [frog]}, {part: [guiro]}]}\n    then: {family: percussion, part: guiro}\n',
  );
  expect(text.split('\n').every((l) => l.length < 130)).toBe(true);
});

it('the JSON Schema comes from the same rules', () => {
  const json = styleJsonSchema() as {
    properties: Record<
      string,
      {
        properties?: Record<string, object>;
        items?: { properties: Record<string, object>; required?: string[] };
      }
    >;
    $defs: { condition: { properties: Record<string, object> } };
  };
  expect(Object.keys(json.properties).sort()).toEqual(Object.keys(DEFAULT_STYLE).sort());
  expect(json.properties.colors?.properties?.drums).toMatchObject({
    type: 'string',
    pattern: '^#[0-9A-Fa-f]{6}$',
  });
  expect(json.properties.folders?.items).toMatchObject({
    required: ['key', 'name'],
    properties: {
      atLeast: { type: 'integer', minimum: 1, maximum: 99 },
      when: { $ref: '#/$defs/condition' },
    },
  });
  expect(json.$defs.condition.properties.channels).toMatchObject({
    anyOf: [{ type: 'integer', minimum: 1, maximum: 32 }, { type: 'array' }],
  });
  expect(parseHouseStyle(DEFAULT_STYLE)).toMatchObject({ ok: true, value: { unknown: [] } });
});
