'use client';
import { useState } from 'react';
import {
  conditionText,
  type GroupRule,
  type HouseStyle,
  type ReturnRule,
  rowColor,
  type SendRule,
} from '@/core/style';
import { Button, Icon, Line } from '@/ui/kit';
import { ColorField } from '../color-field';
import { ConditionEditor } from '../condition-editor';
import { changedAt, Choice, freeKey, moved, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** Returns with what is sent to them from the start, and the groups there are. */
export function RoutingPart(props: PartProps) {
  return (
    <>
      <h2 className="fm-part-head">Returns</h2>
      <Returns {...props} />
      <h2 className="fm-part-head">Sent from the start</h2>
      <Sends {...props} />
      <h2 className="fm-part-head">Groups</h2>
      <Groups {...props} />
    </>
  );
}

function Returns({ style, change }: PartProps) {
  const { returns } = style;
  const set = (next: readonly ReturnRule[]): void => change({ returns: next });
  const remove = (key: string): void =>
    change({ returns: returns.filter((r) => r.key !== key), sends: style.sends.filter((s) => s.to !== key) });
  return (
    <>
      <p className="fm-faint">
        A return is made in a session where something is sent to it. It arrives empty: what it does is the
        mixer’s.
      </p>
      {returns.map((r, i) => (
        <div key={r.key} className="fm-rule">
          <Line align="end">
            <TextField
              label={`Name of return ${i + 1}`}
              hidden
              value={r.name}
              onKeep={(t) =>
                t.trim() === ''
                  ? 'give it a name'
                  : set(changedAt(returns, i, { ...r, name: t.trim().slice(0, 60) }))
              }
            />
            <Choice
              label={`${r.name} goes into`}
              hidden
              value={r.into ?? ''}
              of={[
                ['', 'into the mix bus'],
                ...style.folders
                  .filter((f) => f.bus !== null)
                  .map((f) => [f.key, `into the ${f.bus} bus`] as const),
              ]}
              onChoose={(into) => set(changedAt(returns, i, { ...r, into: into || null }))}
            />
            <ColorField
              label={`Colour of ${r.name}`}
              value={r.color ?? rowColor(style, 'return', r.name)}
              onKeep={(color) => set(changedAt(returns, i, { ...r, color }))}
            />
            <span className="fm-faint fm-grow">
              {style.sends.filter((s) => s.to === r.key).length === 0 ? 'nothing is sent to it yet' : ''}
            </span>
            <RowKeys
              name={r.name}
              index={i}
              count={returns.length}
              onMove={(to) => set(moved(returns, i, to))}
              onRemove={() => remove(r.key)}
            />
          </Line>
        </div>
      ))}
      <Button
        onClick={() =>
          set([
            ...returns,
            {
              key: freeKey(
                'return',
                returns.map((r) => r.key),
              ),
              name: freeName('New return', returns),
              color: null,
              into: null,
            },
          ])
        }
      >
        <Icon name="plus" /> New return
      </Button>
    </>
  );
}

const freeName = (stem: string, list: readonly { readonly name: string }[]): string => {
  let n = 1;
  while (list.some((x) => x.name === (n === 1 ? stem : `${stem} ${n}`))) n++;
  return n === 1 ? stem : `${stem} ${n}`;
};

const levelText = (s: SendRule): string =>
  `${String(s.gainDb).replace('-', '−')} dB, ${s.before ? 'before' : 'after'} the level${s.pan === null ? '' : `, pan ${Math.round(s.pan * 100)}`}`;

function Sends({ style, change }: PartProps) {
  const [open, setOpen] = useState<number | null>(null);
  const { sends, returns } = style;
  const set = (next: readonly SendRule[]): void => change({ sends: next });
  const first = returns[0];
  if (!first) return <p className="fm-faint">Make a return first.</p>;
  return (
    <>
      <p className="fm-faint">Of several to one return, the first that a track or sum meets holds.</p>
      <ol className="fm-rules">
        {sends.map((s, i) => (
          <li key={i} className={`fm-rule ${open === i ? 'is-open' : ''}`}>
            <Line>
              <Button
                tone="bare"
                className="fm-rule-head"
                aria-expanded={open === i}
                onClick={() => setOpen(open === i ? null : i)}
              >
                <span className="fm-faint">{s.from} when</span> {conditionText(s.when)}{' '}
                <span className="fm-faint">→</span> <b>{returns.find((r) => r.key === s.to)?.name ?? s.to}</b>{' '}
                <span className="fm-faint">{levelText(s)}</span>
              </Button>
              <RowKeys
                name={`Send ${i + 1}`}
                index={i}
                count={sends.length}
                onMove={(to) => {
                  set(moved(sends, i, to));
                  setOpen(null);
                }}
                onRemove={() => {
                  set(sends.filter((_, k) => k !== i));
                  setOpen(null);
                }}
              />
            </Line>
            {open === i && (
              <OneSend send={s} style={style} onChange={(next) => set(changedAt(sends, i, next))} />
            )}
          </li>
        ))}
      </ol>
      <Button
        onClick={() => {
          set([
            ...sends,
            {
              from: 'tracks',
              when: { family: ['lead-vocal'] },
              to: first.key,
              gainDb: -12,
              pan: null,
              before: false,
            },
          ]);
          setOpen(sends.length);
        }}
      >
        <Icon name="plus" /> New send
      </Button>
    </>
  );
}

function OneSend({
  send: s,
  style,
  onChange,
}: {
  readonly send: SendRule;
  readonly style: HouseStyle;
  readonly onChange: (s: SendRule) => void;
}) {
  const number = (text: string, least: number, most: number, keep: (n: number) => void): string | null => {
    const n = Number(text.replace(',', '.').replace('−', '-'));
    if (text.trim() === '' || !(n >= least && n <= most)) return `${least} to ${most}`;
    keep(n);
    return null;
  };
  return (
    <div className="fm-rule-body">
      <div className="fm-fields">
        <Choice
          label="From"
          value={s.from}
          of={[
            ['tracks', 'tracks'],
            ['sums', 'sums of folders'],
          ]}
          onChoose={(from) => onChange({ ...s, from })}
        />
        <Choice
          label="To"
          value={s.to}
          of={style.returns.map((r) => [r.key, r.name] as const)}
          onChoose={(to) => onChange({ ...s, to })}
        />
        <TextField
          label="Level, dB"
          value={String(s.gainDb)}
          onKeep={(t) => number(t, -60, 12, (gainDb) => onChange({ ...s, gainDb }))}
        />
        <Choice
          label="Taken"
          value={s.before ? 'before' : 'after'}
          of={[
            ['after', 'after the level'],
            ['before', 'before the level'],
          ]}
          onChoose={(x) => onChange({ ...s, before: x === 'before' })}
        />
        <TextField
          label="Pan, −100 … 100"
          value={s.pan === null ? '' : String(Math.round(s.pan * 100))}
          placeholder="that of the track"
          onKeep={(t) =>
            t.trim() === ''
              ? onChange({ ...s, pan: null })
              : number(t, -100, 100, (n) => onChange({ ...s, pan: n / 100 }))
          }
        />
      </div>
      <h3>Sent from {s.from === 'sums' ? 'sums that meet' : 'tracks that meet'}</h3>
      <ConditionEditor
        value={s.when}
        style={style}
        of="Send, when"
        onChange={(when) => onChange({ ...s, when })}
      />
    </div>
  );
}

function Groups({ style, change }: PartProps) {
  const [open, setOpen] = useState<string | null>(null);
  const { groups } = style;
  const set = (next: readonly GroupRule[]): void => change({ groups: next });
  return (
    <>
      <p className="fm-faint">
        Tracks of a group are edited as one: level, pan, mute and place in the song move together. One is made
        from two tracks on.
      </p>
      <ol className="fm-rules">
        {groups.map((g, i) => (
          <li key={g.key} className={`fm-rule ${open === g.key ? 'is-open' : ''}`}>
            <Line>
              <Button
                tone="bare"
                className="fm-rule-head"
                aria-expanded={open === g.key}
                onClick={() => setOpen(open === g.key ? null : g.key)}
              >
                <b>{g.name}</b> <span className="fm-faint">of what meets:</span> {conditionText(g.when)}
              </Button>
              <RowKeys
                name={g.name}
                index={i}
                count={groups.length}
                onMove={(to) => set(moved(groups, i, to))}
                onRemove={() => set(groups.filter((_, k) => k !== i))}
              />
            </Line>
            {open === g.key && (
              <div className="fm-rule-body">
                <TextField
                  label="Name"
                  className="fm-narrow"
                  value={g.name}
                  onKeep={(t) =>
                    t.trim() === ''
                      ? 'give it a name'
                      : set(changedAt(groups, i, { ...g, name: t.trim().slice(0, 60) }))
                  }
                />
                <h3>Tracks that meet</h3>
                <ConditionEditor
                  value={g.when}
                  style={style}
                  of={`${g.name}, when`}
                  onChange={(when) => set(changedAt(groups, i, { ...g, when }))}
                />
              </div>
            )}
          </li>
        ))}
      </ol>
      <Button
        onClick={() => {
          const key = freeKey(
            'group',
            groups.map((g) => g.key),
          );
          set([...groups, { key, name: freeName('New group', groups), when: { family: [] } }]);
          setOpen(key);
        }}
      >
        <Icon name="plus" /> New group
      </Button>
    </>
  );
}
