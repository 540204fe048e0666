'use client';
import { useState } from 'react';
import { asNoun, FAMILIES } from '@/core/naming';
import { conditionText, resultText, type Rule, type RuleResult } from '@/core/style';
import { Button, Check, Icon, Line } from '@/ui/kit';
import { ConditionEditor } from '../condition-editor';
import { changedAt, Choice, moved, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** When → then, in order: each rule in words, with how many tracks it meets; one of them open to be changed. */
export function RulesPart({ style, change, hits, counted }: PartProps) {
  const [open, setOpen] = useState<number | null>(null);
  const { rules } = style;
  const set = (next: readonly Rule[]): void => change({ rules: next });
  const freeName = (wish: string): string => {
    let name = wish;
    for (let n = 2; rules.some((r) => r.name === name); n++) name = `${wish} ${n}`;
    return name;
  };
  const add = (rule: Rule): void => {
    set([...rules, rule]);
    setOpen(rules.length);
  };
  return (
    <>
      <Choice
        className="fm-narrow fm-below-3"
        label="Once all that was sent has arrived, the house style"
        value={style.atImport}
        of={[
          ['nothing', 'only proposes'],
          ['certain', 'applies by itself what is certain'],
        ]}
        onChoose={(atImport) => change({ atImport })}
      />
      <p className="fm-faint">
        Rules run from top to bottom, each on what those above it left. What a person sets by hand is kept.
        The counts are of {counted}.
      </p>
      <ol className="fm-rules">
        {rules.map((r, i) => (
          <li key={i} className={`fm-rule ${open === i ? 'is-open' : ''} ${r.on ? '' : 'is-off'}`}>
            <Line>
              <Check
                kind="switch"
                id={`rule-on-${i}`}
                aria-label={`${r.name} is on`}
                checked={r.on}
                onChange={(e) => set(changedAt(rules, i, { ...r, on: e.target.checked }))}
              />
              <Button
                tone="bare"
                className="fm-rule-head"
                aria-expanded={open === i}
                onClick={() => setOpen(open === i ? null : i)}
              >
                <b>{r.name}</b> <span className="fm-faint">when</span> {conditionText(r.when)},{' '}
                <span className="fm-faint">then</span> {resultText(r.then) || 'nothing yet'}
              </Button>
              <span className="fm-mono" title={`Meets ${hits.get(r.name)?.length ?? 0} ${counted}`}>
                {r.on ? (hits.get(r.name)?.length ?? 0) : 'off'}
              </span>
              <RowKeys
                name={r.name}
                index={i}
                count={rules.length}
                onMove={(to) => {
                  set(moved(rules, i, to));
                  setOpen(open === i ? to : null);
                }}
                onRemove={() => {
                  set(rules.filter((_, k) => k !== i));
                  setOpen(null);
                }}
              />
            </Line>
            {open === i && (
              <div className="fm-rule-body">
                <TextField
                  label="Name, said in the evidence"
                  value={r.name}
                  className="fm-narrow"
                  onKeep={(name) =>
                    name.trim() === ''
                      ? 'give it a name'
                      : rules.some((o, k) => k !== i && o.name === name.trim())
                        ? 'another rule has this name'
                        : set(changedAt(rules, i, { ...r, name: name.trim().slice(0, 80) }))
                  }
                />
                <h3>When</h3>
                <ConditionEditor
                  value={r.when}
                  style={style}
                  of={`${r.name}, when`}
                  onChange={(when) => set(changedAt(rules, i, { ...r, when }))}
                />
                <h3>Then</h3>
                <ResultEditor
                  rule={r}
                  folders={style.folders.map((f) => [f.key, f.name] as const)}
                  onChange={(then) => set(changedAt(rules, i, { ...r, then }))}
                />
                <Button
                  tone="quiet"
                  className="fm-above-2"
                  onClick={() => add({ ...r, name: freeName(`${r.name}, copy`) })}
                >
                  Make a copy
                </Button>
              </div>
            )}
          </li>
        ))}
      </ol>
      <Button onClick={() => add({ name: freeName('New rule'), on: true, when: { nameHas: [] }, then: {} })}>
        <Icon name="plus" /> New rule
      </Button>
    </>
  );
}

const YES_NO = [
  ['', 'as it is'],
  ['yes', 'muted'],
  ['no', 'not muted'],
] as const;

/** What a rule sets; a field left as it is sets nothing. */
function ResultEditor({
  rule,
  folders,
  onChange,
}: {
  readonly rule: Rule;
  readonly folders: readonly (readonly [string, string])[];
  readonly onChange: (then: RuleResult) => void;
}) {
  const { then } = rule;
  const set = <K extends keyof RuleResult>(key: K, value: RuleResult[K]): void =>
    onChange(
      Object.fromEntries(
        Object.entries({ ...then, [key]: value }).filter(([, v]) => v !== undefined),
      ) as RuleResult,
    );
  const noun = (label: string, key: 'part' | 'role' | 'position') => (
    <TextField
      label={label}
      value={then[key]?.replaceAll('-', ' ') ?? ''}
      placeholder="as it is"
      onKeep={(t) => set(key, asNoun(t) || undefined)}
    />
  );
  return (
    <div className="fm-fields">
      <Choice
        label="Family"
        value={then.family ?? ''}
        of={[['', 'as it is'], ...FAMILIES.map((f) => [f, f.replaceAll('-', ' ')] as const)]}
        onChoose={(f) => set('family', f === '' ? undefined : f)}
      />
      {noun('Part', 'part')}
      {noun('Role', 'role')}
      {noun('Position', 'position')}
      <Choice
        label="Side"
        value={then.side ?? ''}
        of={[
          ['', 'as it is'],
          ['left', 'left'],
          ['right', 'right'],
        ]}
        onChoose={(s) => set('side', s === '' ? undefined : s)}
      />
      <TextField
        label="Name in the session"
        value={then.name ?? ''}
        placeholder="by template"
        onKeep={(t) => set('name', t.trim().slice(0, 100) || undefined)}
      />
      <TextField
        label="Colour"
        mono
        value={then.color ?? ''}
        placeholder="as it is"
        onKeep={(t) =>
          t.trim() === ''
            ? set('color', undefined)
            : /^#[0-9a-f]{6}$/i.test(t.trim())
              ? set('color', t.trim().toLowerCase())
              : 'a colour like #8a6cb4'
        }
      />
      <Choice
        label="Folder"
        value={then.folder ?? ''}
        of={[['', 'by family'], ...folders]}
        onChoose={(f) => set('folder', f === '' ? undefined : f)}
      />
      <Choice
        label="Arrives"
        value={then.muted === undefined ? '' : then.muted ? 'yes' : 'no'}
        of={YES_NO}
        onChoose={(m) => set('muted', m === '' ? undefined : m === 'yes')}
      />
      <TextField
        label="Pan, −100 … 100"
        value={then.pan === undefined ? '' : String(Math.round(then.pan * 100))}
        placeholder="by side"
        onKeep={(t) => {
          const n = Number(t);
          return t.trim() === ''
            ? set('pan', undefined)
            : Number.isFinite(n) && Math.abs(n) <= 100
              ? set('pan', n / 100)
              : 'from −100 to 100';
        }}
      />
    </div>
  );
}
