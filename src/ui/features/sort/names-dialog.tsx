'use client';
import { useMemo, useState } from 'react';
import { NO_RENAME, type Rename, renameAll } from '@/core/naming';
import type { Track } from '@/core/session';
import { useSessionStore } from '@/ui/client';
import { Button, Check, Dialog, Field, Labelled, Select, TextInput } from '@/ui/kit';

const LETTERS = {
  'as-they-are': 'as they are',
  small: 'small',
  capitals: 'CAPITALS',
  'Each Word': 'Each Word',
} as const;

/** Names of many tracks changed at once, each seen before and after. `names`: what the sheet shows for each, proposed or set. */
export function NamesDialog({
  tracks,
  names,
  onHide,
}: {
  readonly tracks: readonly Track[];
  readonly names: readonly string[];
  readonly onHide: () => void;
}) {
  const store = useSessionStore();
  const [rename, setRename] = useState<Rename>(NO_RENAME);
  const set = (change: Partial<Rename>): void => setRename((r) => ({ ...r, ...change }));
  const made = useMemo(() => renameAll(names, rename), [names, rename]);
  const rows = made.ok
    ? tracks.map((track, i) => ({ track, now: names[i] as string, name: made.value[i] as string }))
    : [];
  const changed = rows.filter((r) => r.name !== r.now);
  const apply = (): void => {
    if (changed.length === 0) return;
    void store.getState().commit(
      `Rename ${changed.length} ${changed.length === 1 ? 'track' : 'tracks'}`,
      changed.map(({ track, name }) => ({
        kind: 'track.change',
        id: track.id,
        fields: { name, byHand: [...new Set([...track.byHand, 'name'])] },
      })),
    );
    onHide();
  };
  return (
    <Dialog
      title={
        <>
          Names of {tracks.length} {tracks.length === 1 ? 'track' : 'tracks'}
        </>
      }
      isWide
      onClose={onHide}
      onSubmit={(e) => {
        e.preventDefault();
        apply();
      }}
      footer={
        <>
          <span className="fm-faint fm-push">Names set by hand are kept by the house style.</span>
          <Button tone="quiet" onClick={onHide}>
            Cancel
          </Button>
          <Button type="submit" tone="main" disabled={changed.length === 0}>
            Rename {changed.length}
          </Button>
        </>
      }
    >
      <div className="fm-rename">
        <Labelled id="rename-find" label="Find">
          <TextInput
            autoFocus
            value={rename.find}
            isInvalid={!made.ok}
            onChange={(e) => set({ find: e.target.value })}
            aria-describedby="rename-fault"
          />
        </Labelled>
        <Field
          id="rename-replace"
          label="Replace by"
          isSmall
          value={rename.replace}
          placeholder="nothing"
          onChange={(replace) => set({ replace })}
        />
        <Check
          className="fm-self-end"
          id="rename-pattern"
          label="Pattern ($1, $2 for its groups)"
          checked={rename.isPattern}
          onChange={(e) => set({ isPattern: e.target.checked })}
        />
        <Check
          className="fm-self-end"
          id="rename-minds"
          label="Capitals matter"
          checked={rename.minds}
          onChange={(e) => set({ minds: e.target.checked })}
        />
        <Field
          id="rename-before"
          label="Put before"
          isSmall
          value={rename.before}
          onChange={(before) => set({ before })}
        />
        <Field
          id="rename-after"
          label="Put after"
          isSmall
          value={rename.after}
          onChange={(after) => set({ after })}
        />
        <Labelled id="rename-letters" label="Letters">
          <Select
            value={rename.letters}
            onChange={(e) => set({ letters: e.target.value as Rename['letters'] })}
          >
            {Object.entries(LETTERS).map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled id="rename-number" label="Number from">
          <TextInput
            type="number"
            min={0}
            max={9999}
            value={rename.number?.first ?? ''}
            placeholder="no numbers"
            onChange={(e) =>
              set({
                number:
                  e.target.value === ''
                    ? null
                    : {
                        first: Math.max(0, Math.min(9999, Math.round(Number(e.target.value)))),
                        digits: e.target.value.startsWith('0') ? 2 : 1,
                      },
              })
            }
          />
        </Labelled>
      </div>
      <p id="rename-fault" className="fm-attention fm-below-1" role="status">
        {made.ok ? '' : `This pattern cannot be read: ${made.error.reason}`}
      </p>
      <div className="fm-rename-list" tabIndex={0} role="group" aria-label="Names before and after">
        <table>
          <thead>
            <tr>
              <th>Now</th>
              <th>After</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ track, now, name }) => (
              <tr key={track.id} className={name === now ? 'fm-faint' : ''}>
                <td>{now}</td>
                <td>{name === now ? 'the same' : <b>{name}</b>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Dialog>
  );
}
