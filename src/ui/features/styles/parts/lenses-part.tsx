'use client';
import { useState } from 'react';
import { conditionText, type LensRule } from '@/core/style';
import { Button, Icon, Kbd, Line } from '@/ui/kit';
import { ConditionEditor } from '../condition-editor';
import { changedAt, freeKey, moved, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** Digits 2 to 9: 1 is everything. */
const keyOf = (index: number): string | null => (index < 8 ? `⇧${index + 2}` : null);

/** Saved filters over the sheet; those that show nothing in a session are left out there, and the digits move up. */
export function LensesPart({ style, change }: PartProps) {
  const [open, setOpen] = useState<string | null>(null);
  const { lenses } = style;
  const set = (next: readonly LensRule[]): void => change({ lenses: next });
  return (
    <>
      <p className="fm-faint">
        Each has a key at Sort, by its place among those that show something. <Kbd>⇧1</Kbd> is everything,{' '}
        <Kbd>⇧0</Kbd> what to check.
      </p>
      <ol className="fm-rules">
        {lenses.map((l, i) => (
          <li key={l.key} className={`fm-rule ${open === l.key ? 'is-open' : ''}`}>
            <Line>
              <span className="fm-lens-key">{keyOf(i) ? <Kbd>{keyOf(i) as string}</Kbd> : ''}</span>
              <Button
                tone="bare"
                className="fm-rule-head"
                aria-expanded={open === l.key}
                onClick={() => setOpen(open === l.key ? null : l.key)}
              >
                <b>{l.name}</b> <span className="fm-faint">shows what meets:</span> {conditionText(l.when)}
              </Button>
              <RowKeys
                name={l.name}
                index={i}
                count={lenses.length}
                onMove={(to) => set(moved(lenses, i, to))}
                onRemove={() => set(lenses.filter((_, k) => k !== i))}
              />
            </Line>
            {open === l.key && (
              <div className="fm-rule-body">
                <TextField
                  label="Name"
                  className="fm-narrow"
                  value={l.name}
                  onKeep={(t) =>
                    t.trim() === ''
                      ? 'give it a name'
                      : set(changedAt(lenses, i, { ...l, name: t.trim().slice(0, 40) }))
                  }
                />
                <h3>Shows what meets</h3>
                <ConditionEditor
                  value={l.when}
                  style={style}
                  of={`${l.name}, shows`}
                  onChange={(when) => set(changedAt(lenses, i, { ...l, when }))}
                />
              </div>
            )}
          </li>
        ))}
      </ol>
      <Button
        onClick={() => {
          const key = freeKey(
            'lens',
            lenses.map((l) => l.key),
          );
          set([...lenses, { key, name: 'New lens', when: { nameHas: [] } }]);
          setOpen(key);
        }}
      >
        <Icon name="plus" /> New lens
      </Button>
    </>
  );
}
