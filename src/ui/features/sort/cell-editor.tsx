'use client';
import { type KeyboardEvent, useId, useRef, useState } from 'react';
import { partsOf } from '@/core/naming';
import { isTrack, NOWHERE, type Track, withGroups } from '@/core/session';
import { selectOnly, useSession, useSessionStore, useWorkbench, workbench } from '@/ui/client';
import { ErrorTip, Select, TextInput } from '@/ui/kit';
import { allKinds, cellEdits, type EditedColumn } from './cell-edits';
import { COLUMNS } from './sheet-columns';
import type { EditedCell } from './row-view';

/** Words that are often said, to choose from while one types. */
const OFTEN: Readonly<Partial<Record<EditedColumn, readonly string[]>>> = {
  role: ['lead', 'double', 'harmony', 'rhythm', 'solo', 'ad lib', 'high', 'low'],
  position: ['in', 'out', 'top', 'bottom', 'close', 'near', 'far', 'room', 'spot', 'di', 'amp'],
};

interface CellEditorProps {
  readonly track: Track;
  /** As the cell shows it, with what is proposed. */
  readonly shown: Track;
  readonly column: EditedColumn;
  readonly text: string;
  readonly nextId: string | null;
  readonly onEdit: (cell: EditedCell | null) => void;
}

/**
 * Edits one cell in its place, for all selected tracks where its row is one of several: Enter keeps, Tab keeps and goes
 * on to the next row, Escape gives up. What cannot be read stays, and says why.
 */
export function CellEditor({ track, shown, column, text, nextId, onEdit }: CellEditorProps) {
  const store = useSessionStore();
  const targets = useTargets(track);
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const id = useId();
  const box = useRef<HTMLSpanElement>(null);
  /** Gives all of them what was typed; the reason where that cannot be. */
  const keep = (value: string): string | null => {
    const { view } = store.getState();
    const by = { session: view.session, style: view.style, shownFamily: shown.family };
    const result = cellEdits(column, value, targets, by);
    if ('error' in result) return result.error;
    // Level and pan go with their groups; what a track is, is its own.
    const isGrouped = (column === 'level' || column === 'pan') && !workbench.getState().alone;
    const edits = isGrouped ? withGroups(view.session, result.edits) : result.edits;
    if (edits.length > 0) void store.getState().commit(result.label, edits);
    return null;
  };
  const done = (next: EditedCell | null): void => {
    // Typed over, even by the same words: others of the selected may say something else.
    const wrong = typed === null ? null : keep(typed);
    if (wrong !== null) return setError(wrong);
    onEdit(next);
    if (next) selectOnly(next.id);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    event.stopPropagation();
    if (event.key === 'Escape') onEdit(null);
    else if (event.key === 'Enter') done(null);
    else if (event.key === 'Tab') {
      event.preventDefault();
      done(nextId === null ? null : { id: nextId, column });
    }
  };
  const label = `${COLUMNS[column].title}${targets.length > 1 ? ` of ${targets.length} tracks` : ''}`;
  return (
    <span ref={box} className="fm-cell-editor" onClick={stop} onDoubleClick={stop}>
      {column === 'bus' ? (
        <BusChoice
          label={label}
          // Where several go different ways, each of them can be chosen for all.
          value={targets.every((t) => t.busId === track.busId) ? (shown.busId ?? '') : SEVERAL}
          onKeyDown={onKeyDown}
          onEnd={() => onEdit(null)}
          onChoose={(busId) => {
            keep(busId);
            onEdit(null);
          }}
        />
      ) : (
        <>
          <TextInput
            className="fm-name-input"
            value={typed ?? text}
            maxLength={80}
            autoFocus
            list={id}
            autoComplete="off"
            aria-label={label}
            aria-invalid={error !== null}
            aria-errormessage={error === null ? undefined : `${id}-error`}
            onFocus={(e) => e.target.select()}
            onChange={(e) => {
              setTyped(e.target.value);
              setError(null);
            }}
            onKeyDown={onKeyDown}
            // Left with what cannot be read, it is given up: nothing is guessed.
            onBlur={() => {
              if (typed !== null && error === null) keep(typed);
              onEdit(null);
            }}
          />
          <datalist id={id}>
            {words(column, shown).map((word) => (
              <option key={word} value={word} />
            ))}
          </datalist>
        </>
      )}
      {targets.length > 1 && <span className="fm-cell-count">×{targets.length}</span>}
      <ErrorTip target={box} text={error} id={`${id}-error`} />
    </span>
  );
}

const stop = (event: { stopPropagation: () => void }): void => event.stopPropagation();

function words(column: EditedColumn, shown: Track): readonly string[] {
  if (column === 'kind')
    return [...partsOf(shown.family).map((p) => p.replaceAll('-', ' ')), ...allKinds()].filter(
      (word, i, all) => all.indexOf(word) === i,
    );
  return OFTEN[column] ?? [];
}

/** All selected tracks, where this one is among several; else itself. */
function useTargets(track: Track): readonly Track[] {
  const selected = useWorkbench((w) => w.selected);
  const nodes = useSession((s) => s.view.session.nodes);
  const tracks = [...selected].map((id) => nodes[id]).filter(isTrack);
  return tracks.length > 1 && selected.has(track.id) ? tracks : [track];
}

/** No bus is called so: ids are longer. */
const SEVERAL = '*';

function BusChoice({
  label,
  value,
  onChoose,
  onEnd,
  onKeyDown,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChoose: (busId: string) => void;
  readonly onEnd: () => void;
  readonly onKeyDown: (event: KeyboardEvent) => void;
}) {
  const { buses, busOrder } = useSession((s) => s.view.session);
  return (
    <Select
      autoFocus
      className="fm-name-input"
      aria-label={label}
      value={value}
      onChange={(e) => onChoose(e.target.value)}
      onKeyDown={onKeyDown}
      onBlur={onEnd}
    >
      {value === SEVERAL && (
        <option value={SEVERAL} disabled>
          several
        </option>
      )}
      <option value="">mix bus</option>
      {busOrder
        .filter((id) => buses[id]?.kind === 'sum')
        .map((id) => (
          <option key={id} value={id}>
            {buses[id]?.name}
          </option>
        ))}
      <option value={NOWHERE}>nowhere, only what is sent</option>
    </Select>
  );
}
