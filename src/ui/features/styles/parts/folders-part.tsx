'use client';
import { useState } from 'react';
import { FAMILIES } from '@/core/naming';
import { conditionText, type FolderRule, folderColor, type Shades, treeOf } from '@/core/style';
import { Button, Icon, Line } from '@/ui/kit';
import { ColorField } from '../color-field';
import { ConditionEditor } from '../condition-editor';
import { changedAt, Choice, freeKey, moved, RowKeys, Several, TextField } from '../fields';
import type { PartProps } from './part';

const SHADE_LABELS: readonly (readonly [Shades, string])[] = [
  ['own', 'each its own colour'],
  ['folder', 'all as the folder'],
  ['steps', 'steps of its shade'],
  ['spread', 'spread along the spectrum'],
];

/** Folders in the order of the session, what goes in, and the sums they feed. */
export function FoldersPart({ style, change }: PartProps) {
  const [open, setOpen] = useState<string | null>(null);
  const { folders } = style;
  const tree = treeOf(style);
  const set = (next: readonly FolderRule[]): void => change({ folders: next });
  const missing = FAMILIES.filter((f) => !folders.some((x) => x.families.includes(f)) && f !== 'unknown');
  const remove = (key: string): void =>
    change({
      folders: folders
        .filter((f) => f.key !== key)
        .map((f) =>
          f.parent === key ? { ...f, parent: folders.find((x) => x.key === key)?.parent ?? null } : f,
        ),
      rules: style.rules.map((r) =>
        r.then.folder === key
          ? { ...r, then: Object.fromEntries(Object.entries(r.then).filter(([k]) => k !== 'folder')) }
          : r,
      ),
    });
  return (
    <>
      <p className="fm-faint">
        A folder with a condition is asked before the families. Its sum feeds the sum of the folder it stands
        in, else the mix bus; sums arrive empty of processing.
      </p>
      {missing.length > 0 && (
        <p className="fm-lake">
          Without a folder, at the top level: {missing.map((f) => f.replaceAll('-', ' ')).join(', ')}.
        </p>
      )}
      <ol className="fm-rules">
        {folders.map((f, i) => (
          <li key={f.key} className={`fm-rule ${open === f.key ? 'is-open' : ''}`}>
            <Line style={{ paddingLeft: (tree.pathOf(f).length - 1) * 18 }}>
              <span
                className="fm-swatch"
                style={{ background: folderColor(style, f, 'folder') }}
                aria-hidden="true"
              />
              <Button
                tone="bare"
                className="fm-rule-head"
                aria-expanded={open === f.key}
                onClick={() => setOpen(open === f.key ? null : f.key)}
              >
                <b>{f.name}</b>{' '}
                <span className="fm-faint">
                  {[
                    f.families.map((x) => x.replaceAll('-', ' ')).join(', '),
                    f.when ? conditionText(f.when) : '',
                  ]
                    .filter(Boolean)
                    .join('; or ') || 'nothing yet'}
                </span>{' '}
                {f.bus === null ? (
                  <span className="fm-faint">· no sum of its own</span>
                ) : (
                  <span>→ {f.bus} bus</span>
                )}
              </Button>
              <RowKeys
                name={f.name}
                index={i}
                count={folders.length}
                onMove={(to) => set(moved(folders, i, to))}
                onRemove={() => remove(f.key)}
              />
            </Line>
            {open === f.key && (
              <OneFolder folder={f} style={style} onChange={(next) => set(changedAt(folders, i, next))} />
            )}
          </li>
        ))}
      </ol>
      <Button
        onClick={() => {
          const key = freeKey(
            'folder',
            folders.map((f) => f.key),
          );
          set([
            ...folders,
            {
              key,
              name: 'New folder',
              families: [],
              when: null,
              parent: null,
              bus: 'New folder',
              atLeast: 1,
              color: null,
              shades: 'own',
            },
          ]);
          setOpen(key);
        }}
      >
        <Icon name="plus" /> New folder
      </Button>
      <h3>Arrive muted</h3>
      <Several
        label="Families that arrive muted"
        value={style.muted}
        of={FAMILIES}
        onChoose={(muted) => change({ muted })}
        none="none"
      />
    </>
  );
}

function OneFolder({
  folder: f,
  style,
  onChange,
}: {
  readonly folder: FolderRule;
  readonly style: PartProps['style'];
  readonly onChange: (f: FolderRule) => void;
}) {
  const tree = treeOf(style);
  const parents = style.folders.filter((o) => !tree.pathOf(o).some((x) => x.key === f.key));
  return (
    <div className="fm-rule-body">
      <div className="fm-fields">
        <TextField
          label="Name"
          value={f.name}
          onKeep={(t) =>
            t.trim() === '' ? 'give it a name' : onChange({ ...f, name: t.trim().slice(0, 60) })
          }
        />
        <TextField
          label="Its sum bus"
          value={f.bus ?? ''}
          placeholder="none of its own"
          onKeep={(t) => onChange({ ...f, bus: t.trim().slice(0, 60) || null })}
        />
        <Choice
          label="Stands in"
          value={f.parent ?? ''}
          of={[['', 'the top level'], ...parents.map((p) => [p.key, p.name] as const)]}
          onChoose={(p) => onChange({ ...f, parent: p === '' ? null : p })}
        />
        <TextField
          label="Made from this many tracks on"
          value={String(f.atLeast)}
          onKeep={(t) => {
            const n = Number(t);
            return Number.isInteger(n) && n >= 1 && n <= 99 ? onChange({ ...f, atLeast: n }) : '1 to 99';
          }}
        />
        <Choice
          label="Its tracks are coloured"
          value={f.shades}
          of={SHADE_LABELS}
          onChoose={(shades) => onChange({ ...f, shades })}
        />
        <div>
          <span className="fm-label fm-block">Colour</span>
          <ColorField
            label={`Colour of ${f.name}`}
            value={f.color ?? folderColor(style, f, 'folder')}
            onKeep={(color) => onChange({ ...f, color })}
          />
          {f.color !== null && (
            <Button tone="link" onClick={() => onChange({ ...f, color: null })}>
              that of its family
            </Button>
          )}
        </div>
      </div>
      <h3>Families that go in</h3>
      <Several
        label={`Families in ${f.name}`}
        value={f.families}
        of={FAMILIES}
        onChoose={(families) => onChange({ ...f, families })}
        none="none"
      />
      <h3>And what meets this, whatever its family</h3>
      {f.when === null ? (
        <Button tone="quiet" onClick={() => onChange({ ...f, when: { nameHas: [] } })}>
          <Icon name="plus" /> A condition
        </Button>
      ) : (
        <Line gap={1} align="start">
          <div className="fm-grow">
            <ConditionEditor
              value={f.when}
              style={style}
              of={`${f.name}, when`}
              onChange={(when) => onChange({ ...f, when })}
            />
          </div>
          <RowKeys
            name={`Condition of ${f.name}`}
            index={0}
            count={1}
            onRemove={() => onChange({ ...f, when: null })}
          />
        </Line>
      )}
    </div>
  );
}
