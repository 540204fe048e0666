import { MATCH_WORDS } from '../matching';
import { describeReading } from '../naming';
import { conditionText } from './conditions';
import type { TidySettings } from '../tidy';
import type { FolderRule, HouseStyle, ReturnRule, Rule, SendRule } from './house-style';
import { resultText } from './rules';

const thousandths = (seconds: number): string => `${Math.round(1000 * seconds)} ms`;
/** How tracks are cut, in words; what is not said is as for all. */
const CUT_TEXTS: { readonly [K in keyof TidySettings]: (value: TidySettings[K]) => string } = {
  thresholdDb: (db) => (db === null ? 'sound told by its own floor' : `sound from ${db} dBFS on`),
  shortestSeconds: (s) => `silence from ${thousandths(s)} on`,
  beforeSeconds: (s) => `${thousandths(s)} stay before`,
  afterSeconds: (s) => `${thousandths(s)} stay after`,
  fadeSeconds: (s) => `fades of ${thousandths(s)}`,
};
const cutText = (settings: Partial<TidySettings>): string =>
  (Object.keys(CUT_TEXTS) as (keyof TidySettings)[])
    .filter((key) => settings[key] !== undefined)
    .map((key) => (CUT_TEXTS[key] as (value: unknown) => string)(settings[key]))
    .join(', ');

const matchTexts = ({ matching: m }: HouseStyle): Record<string, string> => ({
  'levels are matched by': MATCH_WORDS[m.by],
  'what is matched': MATCH_WORDS[m.each],
  'highest peak of what is matched': `${m.peakDb} dBFS`,
  'highest true peak': `${m.ceilingDbtp} dBTP`,
  'gains of pieces': m.inFiles ? 'written into the files' : 'handed over as levels',
});

const clickText = ({ click }: HouseStyle): string =>
  `${click.sound}, ${click.parts === 1 ? 'pulses only' : `${click.parts} to a pulse`}`;

/** Parts of a house style as people see them. */
export const STYLE_PARTS = [
  'words',
  'names',
  'rules',
  'colours',
  'order',
  'folders',
  'routing',
  'tidy',
  'lenses',
  'delivery',
] as const;

/** One of {@link STYLE_PARTS}. */
export type StylePart = (typeof STYLE_PARTS)[number];

/** One thing in which two styles differ, in plain words. */
export interface StyleDifference {
  readonly part: StylePart;
  readonly text: string;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const plain = (key: string): string => key.replaceAll('-', ' ');
const said = (value: unknown): string =>
  value === undefined ? 'nothing' : value === '' ? 'left out' : String(value);

/** Entries that came, went or changed, by key. */
function entries<T>(
  before: Readonly<Record<string, T>>,
  after: Readonly<Record<string, T>>,
  show: (value: T) => string,
  name: (key: string) => string = plain,
): string[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((k) => {
    const [a, b] = [before[k], after[k]];
    if (same(a, b)) return [];
    return [
      a === undefined
        ? `${name(k)}: ${show(b as T)}, new`
        : b === undefined
          ? `${name(k)}: no more ${show(a)}`
          : `${name(k)}: ${show(a)} → ${show(b)}`,
    ];
  });
}

const keyed = <T>(list: readonly T[], key: (x: T) => string): Record<string, T> =>
  Object.fromEntries(list.map((x) => [key(x), x]));

/** Return → all that is sent to it, in words. */
const sendLists = (style: HouseStyle): Record<string, string> =>
  Object.fromEntries(
    [...new Set(style.sends.map((s) => s.to))].map((to) => [
      to,
      style.sends
        .filter((s) => s.to === to)
        .map(sendText)
        .join('; '),
    ]),
  );

/** Whether what both lists hold stands in another order. */
function reordered(a: readonly string[], b: readonly string[]): boolean {
  const common = new Set(a.filter((x) => b.includes(x)));
  return !same(
    a.filter((x) => common.has(x)),
    b.filter((x) => common.has(x)),
  );
}

const ruleText = (r: Rule): string =>
  `when ${conditionText(r.when)}, then ${resultText(r.then) || 'nothing'}${r.on ? '' : ' (off)'}`;
const folderText = (f: FolderRule): string =>
  [
    `“${f.name}”`,
    f.families.length > 0 ? `for ${f.families.map(plain).join(', ')}` : '',
    f.when ? `when ${conditionText(f.when)}` : '',
    f.parent ? `in ${plain(f.parent)}` : '',
    f.bus === null ? 'not summed' : `sum ${f.bus}`,
    f.atLeast > 1 ? `from ${f.atLeast} tracks on` : '',
    f.color ? `coloured ${f.color}` : '',
    f.shades === 'own' ? '' : `shades: ${f.shades}`,
  ]
    .filter((x) => x !== '')
    .join(', ');

const returnText = (r: ReturnRule): string =>
  [
    `“${r.name}”`,
    r.into ? `into the sum of ${plain(r.into)}` : 'into the mix bus',
    r.color ? `coloured ${r.color}` : '',
  ]
    .filter((x) => x !== '')
    .join(', ');

/** A send in plain words. */
export const sendText = (s: SendRule): string =>
  `${s.from} when ${conditionText(s.when)}: ${s.gainDb} dB ${s.before ? 'before' : 'after'} the level${s.pan === null ? '' : `, pan ${Math.round(s.pan * 100)}`}`;

type CutTexts = Readonly<Record<string, Partial<TidySettings>>>;
const lufsText = (lufs: number | null): string => (lufs === null ? 'left as it is' : `${lufs} LUFS`);

/** What leads from one style to the other, in the order of the parts. */
export function compareStyles(a: HouseStyle, b: HouseStyle): StyleDifference[] {
  const lists: Readonly<Record<StylePart, readonly string[]>> = {
    words: [
      ...entries(
        keyed(a.words, (w) => w.text),
        keyed(b.words, (w) => w.text),
        (w) => describeReading(w),
        (k) => `“${k}”`,
      ),
      ...entries(
        keyed(a.junk, (j) => j),
        keyed(b.junk, (j) => j),
        () => 'says nothing',
        (k) => `“${k}”`,
      ),
    ],
    names: [
      ...(same(a.names.template, b.names.template)
        ? []
        : [`template: ${a.names.template} → ${b.names.template}`]),
      ...entries(
        a.names.families as Record<string, string>,
        b.names.families as Record<string, string>,
        said,
        (k) => `template of ${plain(k)}`,
      ),
      ...entries(a.names.parts, b.names.parts, said, (k) => `template of ${plain(k)}`),
      ...entries(a.names.words, b.names.words, (v) => (v === '' ? 'left out' : `written “${v}”`)),
      ...entries(
        {
          letters: a.names.case,
          numbers: a.names.numbers,
          'longest name': String(a.names.longest),
          'not allowed': a.names.forbidden,
        },
        {
          letters: b.names.case,
          numbers: b.names.numbers,
          'longest name': String(b.names.longest),
          'not allowed': b.names.forbidden,
        },
        (v) => plain(v) || 'nothing',
      ),
    ],
    rules: [
      ...(a.atImport === b.atImport ? [] : [`by itself at import: ${a.atImport} → ${b.atImport}`]),
      ...entries(
        keyed(a.rules, (r) => r.name),
        keyed(b.rules, (r) => r.name),
        ruleText,
        (k) => `“${k}”`,
      ),
      ...(reordered(
        a.rules.map((r) => r.name),
        b.rules.map((r) => r.name),
      )
        ? ['rules run in another order']
        : []),
    ],
    colours: [
      ...entries(a.colors, b.colors, said),
      ...entries(a.partColors, b.partColors, said),
      ...entries(a.rowColors, b.rowColors, said),
      ...entries(a.pictures, b.pictures, plain, (k) => `drawing of ${plain(k)}`),
    ],
    order: [
      ...(same(a.partOrder, b.partOrder) ? [] : ['parts stand in another order']),
      ...(same(a.positionOrder, b.positionOrder) ? [] : ['positions stand in another order']),
    ],
    folders: [
      ...entries(
        keyed(a.folders, (f) => f.key),
        keyed(b.folders, (f) => f.key),
        folderText,
      ),
      ...(reordered(
        a.folders.map((f) => f.key),
        b.folders.map((f) => f.key),
      )
        ? ['folders stand in another order']
        : []),
      ...(same(a.muted, b.muted)
        ? []
        : [
            `arrive muted: ${a.muted.map(plain).join(', ') || 'none'} → ${b.muted.map(plain).join(', ') || 'none'}`,
          ]),
    ],
    routing: [
      ...entries(
        keyed(a.returns, (r) => r.key),
        keyed(b.returns, (r) => r.key),
        returnText,
      ),
      ...entries(
        sendLists(a),
        sendLists(b),
        (v) => v,
        (k) => `sends to ${plain(k)}`,
      ),
      ...entries(
        keyed(a.groups, (g) => g.key),
        keyed(b.groups, (g) => g.key),
        (g) => `group “${g.name}” of what meets: ${conditionText(g.when)}`,
      ),
    ],
    tidy: [
      ...entries({ 'all tracks': cutText(a.cuts.all) }, { 'all tracks': cutText(b.cuts.all) }, said),
      ...entries(a.cuts.families as CutTexts, b.cuts.families as CutTexts, cutText),
      ...entries(matchTexts(a), matchTexts(b), said),
      ...entries(a.matching.lufs, b.matching.lufs, lufsText, (k) => `loudness of ${plain(k)}`),
    ],
    lenses: [
      ...entries(
        keyed(a.lenses, (l) => l.key),
        keyed(b.lenses, (l) => l.key),
        (l) => `“${l.name}” shows what meets: ${conditionText(l.when)}`,
      ),
      ...(reordered(
        a.lenses.map((l) => l.key),
        b.lenses.map((l) => l.key),
      )
        ? ['lenses stand in another order']
        : []),
    ],
    delivery: [
      ...entries(a.fileWords, b.fileWords, said, (k) => `word for ${plain(k)} in file names`),
      ...entries(
        {
          'between words of file names': a.fileJoin || 'nothing',
          'longest file name': String(a.maxFileNameLength),
          'bars before the first downbeat': String(a.leadInBars),
          click: clickText(a),
          'takes in a package': a.takes,
        },
        {
          'between words of file names': b.fileJoin || 'nothing',
          'longest file name': String(b.maxFileNameLength),
          'bars before the first downbeat': String(b.leadInBars),
          click: clickText(b),
          'takes in a package': b.takes,
        },
        said,
      ),
    ],
  };
  return [
    ...(a.name === b.name ? [] : [{ part: 'words' as const, text: `name: ${a.name} → ${b.name}` }]),
    ...STYLE_PARTS.flatMap((part) => lists[part].map((text) => ({ part, text }))),
  ];
}
