'use client';
import { SOUND_NAMES } from '@/core/analysis';
import { FINDING_CODES } from '@/core/findings';
import { asNoun, FAMILIES } from '@/core/naming';
import {
  type Condition,
  DEEPEST_CONDITION,
  type HouseStyle,
  patternOf,
  ROW_KINDS,
  type TESTS,
} from '@/core/style';
import { Button, Icon, Line } from '@/ui/kit';
import { changedAt, Choice, listed, RowKeys, Several, TextField } from './fields';

type Kind = (typeof TESTS)[number] | 'all' | 'any' | 'not';

const KINDS: readonly (readonly [Kind, string])[] = [
  ['nameHas', 'name has'],
  ['nameIs', 'name is'],
  ['nameMatches', 'name matches pattern'],
  ['family', 'family is'],
  ['part', 'part is'],
  ['role', 'role is'],
  ['position', 'position is'],
  ['channels', 'channels'],
  ['color', 'colour is'],
  ['folder', 'goes in folder'],
  ['row', 'row is'],
  ['finding', 'has finding'],
  ['heard', 'sounds like'],
  ['all', 'all of these'],
  ['any', 'any of these'],
  ['not', 'not'],
];

const kindOf = (c: Condition): Kind => KINDS.map(([k]) => k).find((k) => k in c) ?? 'all';

/** A condition of a kind, keeping what it was where that can be. */
function ofKind(kind: Kind, was: Condition): Condition {
  if (kind === 'all' || kind === 'any')
    return {
      [kind]: 'all' in was ? was.all : 'any' in was ? was.any : 'not' in was ? [was.not] : [was],
    } as unknown as Condition;
  if (kind === 'not') return { not: 'not' in was ? was.not : was };
  const starts: Readonly<Record<(typeof TESTS)[number], Condition>> = {
    nameHas: { nameHas: [] },
    nameIs: { nameIs: [] },
    nameMatches: { nameMatches: '.' },
    family: { family: [] },
    part: { part: [] },
    role: { role: [] },
    position: { position: [] },
    channels: { channels: [2] },
    color: { color: [] },
    folder: { folder: [] },
    row: { row: ['track'] },
    finding: { finding: [] },
    heard: { heard: ['drums'] },
  };
  return starts[kind];
}

interface Props {
  readonly value: Condition;
  readonly style: HouseStyle;
  readonly onChange: (value: Condition) => void;
  /** Said before its own labels. */
  readonly of: string;
  readonly depth?: number;
}

/** Builds a condition from small parts: tests, joined by all, any and not, as deep as it takes. */
export function ConditionEditor({ value, style, onChange, of, depth = 0 }: Props) {
  const kind = kindOf(value);
  const kinds =
    depth >= DEEPEST_CONDITION - 1 ? KINDS.filter(([k]) => !['all', 'any', 'not'].includes(k)) : KINDS;
  return (
    <div className="fm-condition">
      <Line align="start" wraps>
        <Choice
          label={`${of}: what is asked`}
          hidden
          value={kind}
          of={kinds}
          onChoose={(k) => onChange(ofKind(k, value))}
        />
        <Values value={value} style={style} onChange={onChange} of={of} />
      </Line>
      {'not' in value && (
        <div className="fm-condition-inner">
          <ConditionEditor
            value={value.not}
            style={style}
            of={`${of}, not`}
            depth={depth + 1}
            onChange={(not) => onChange({ not })}
          />
        </div>
      )}
      {('all' in value || 'any' in value) && (
        <Group value={value} style={style} onChange={onChange} of={of} depth={depth} />
      )}
    </div>
  );
}

function Group({
  value,
  style,
  onChange,
  of,
  depth = 0,
}: Props & { readonly value: Extract<Condition, { readonly all: unknown } | { readonly any: unknown }> }) {
  const list = 'all' in value ? value.all : value.any;
  const set = (next: readonly Condition[]): void => onChange('all' in value ? { all: next } : { any: next });
  return (
    <div className="fm-condition-inner">
      {list.map((c, i) => (
        <Line key={i} gap={1} align="start">
          <div className="fm-grow">
            <ConditionEditor
              value={c}
              style={style}
              of={`${of}, ${i + 1}`}
              depth={depth + 1}
              onChange={(x) => set(changedAt(list, i, x))}
            />
          </div>
          <RowKeys
            name={`${of}, ${i + 1}`}
            index={i}
            count={list.length}
            onRemove={() => set(list.filter((_, k) => k !== i))}
          />
        </Line>
      ))}
      <Button tone="quiet" onClick={() => set([...list, { nameHas: [] }])}>
        <Icon name="plus" /> Another test
      </Button>
    </div>
  );
}

const number = (text: string): number[] | string => {
  const numbers = listed(text).map(Number);
  return numbers.length > 0 && numbers.every((n) => Number.isInteger(n) && n >= 1 && n <= 32)
    ? numbers
    : 'numbers from 1 to 32, with commas between';
};

function Values({ value, style, onChange, of }: Omit<Props, 'depth'>) {
  if ('all' in value || 'any' in value || 'not' in value) return null;
  if ('family' in value)
    return (
      <Several label={of} value={value.family} of={FAMILIES} onChoose={(family) => onChange({ family })} />
    );
  if ('row' in value)
    return <Several label={of} value={value.row} of={ROW_KINDS} onChoose={(row) => onChange({ row })} />;
  if ('folder' in value)
    return (
      <Several
        label={of}
        value={value.folder}
        of={style.folders.map((f) => f.key)}
        onChoose={(folder) => onChange({ folder })}
      />
    );
  if ('finding' in value)
    return (
      <Several
        label={of}
        value={value.finding}
        of={FINDING_CODES}
        onChoose={(finding) => onChange({ finding })}
      />
    );
  if ('heard' in value)
    return (
      <Several label={of} value={value.heard} of={SOUND_NAMES} onChoose={(heard) => onChange({ heard })} />
    );
  if ('nameMatches' in value)
    return (
      <TextField
        label={`${of}: pattern`}
        hidden
        mono
        className="fm-grow"
        value={value.nameMatches}
        onKeep={(text) =>
          text === '' || patternOf(text) === null
            ? 'not a pattern: RE2 knows no look-around and no back references'
            : onChange({ nameMatches: text })
        }
      />
    );
  if ('channels' in value)
    return (
      <TextField
        label={`${of}: channels`}
        hidden
        value={value.channels.join(', ')}
        onKeep={(text) => {
          const n = number(text);
          return typeof n === 'string' ? n : onChange({ channels: n });
        }}
      />
    );
  if ('color' in value)
    return (
      <TextField
        label={`${of}: colours`}
        hidden
        mono
        value={value.color.join(', ')}
        placeholder="#8a6cb4"
        onKeep={(text) =>
          listed(text).every((c) => /^#[0-9a-f]{6}$/i.test(c))
            ? onChange({ color: listed(text).map((c) => c.toLowerCase()) })
            : 'colours like #8a6cb4, with commas between'
        }
      />
    );
  if ('nameHas' in value || 'nameIs' in value) {
    const words = 'nameHas' in value ? value.nameHas : value.nameIs;
    return (
      <TextField
        label={`${of}: words`}
        hidden
        mono
        className="fm-grow"
        value={words.join(', ')}
        placeholder="words, with commas between"
        onKeep={(text) => onChange('nameHas' in value ? { nameHas: listed(text) } : { nameIs: listed(text) })}
      />
    );
  }
  const [test, list] = Object.entries(value)[0] as ['part' | 'role' | 'position', readonly string[]];
  return (
    <TextField
      label={`${of}: ${test}`}
      hidden
      className="fm-grow"
      value={list.join(', ')}
      placeholder={test === 'part' ? 'kick, snare' : test === 'role' ? 'lead, double' : 'in, room, di'}
      list={test === 'part' ? style.partOrder : test === 'position' ? style.positionOrder : undefined}
      onKeep={(text) => onChange({ [test]: listed(text).map(asNoun) } as unknown as Condition)}
    />
  );
}
