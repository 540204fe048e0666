'use client';
import { useState } from 'react';
import { Check, Line, TextInput } from '@/ui/kit';
import { type BenchRow, rowChanges } from './bench-rows';

interface Props {
  /** Name of the session whose tracks are tried; null = there is none. */
  readonly session: string | null;
  readonly usesSession: boolean;
  readonly onUse: (session: boolean) => void;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly rows: readonly BenchRow[];
  /** The same by the style as it is kept. */
  readonly before: readonly BenchRow[];
}

/** Names tried on the style as it stands, with the rules that met them, and what the unsaved change does. */
export function TestBench({ session, usesSession, onUse, text, onText, rows, before }: Props) {
  const [onlyChanged, setOnlyChanged] = useState(false);
  const was = new Map(before.map((r) => [r.input, r]));
  const shown = rows.map((row) => ({ row, changes: rowChanges(was.get(row.input), row) }));
  const changed = shown.filter((s) => s.changes.length > 0).length;
  return (
    <aside className="fm-panel fm-bench" aria-label="Try it">
      <Line>
        <h2>Try it</h2>
        <span className="fm-top-spring" />
        <span className="fm-mono fm-faint" role="status">
          {changed} of {rows.length} change
        </span>
      </Line>
      {session !== null && (
        <Line
          gap={3}
          align="start"
          className="fm-above-2 fm-below-2"
          role="radiogroup"
          aria-label="What is tried"
        >
          <Check
            kind="radio"
            id="bench-session"
            name="bench"
            label={`Tracks of ${session}`}
            checked={usesSession}
            onChange={() => onUse(true)}
          />
          <Check
            kind="radio"
            id="bench-names"
            name="bench"
            label="Names"
            checked={!usesSession}
            onChange={() => onUse(false)}
          />
        </Line>
      )}
      {!usesSession && (
        <TextInput
          rows={5}
          className="fm-mono fm-above-2 fm-below-2"
          aria-label="Names to try, one a line"
          placeholder="one name a line"
          value={text}
          onChange={(e) => onText(e.target.value)}
          spellCheck={false}
        />
      )}
      <Check
        id="bench-changed"
        className="fm-below-2"
        label="Only what changes"
        checked={onlyChanged}
        onChange={(e) => setOnlyChanged(e.target.checked)}
      />
      <ul className="fm-bench-rows">
        {shown
          .filter((s) => !onlyChanged || s.changes.length > 0)
          .map(({ row, changes }, i) => (
            <li
              key={`${row.input}-${i}`}
              className={changes.length > 0 ? 'is-changed' : undefined}
              style={{ borderLeftColor: row.color }}
            >
              <div>
                <b>{row.name}</b> <span className="fm-faint">{row.folder || 'no folder'}</span>
                {row.isDoubtful && (
                  <span className="fm-attention" role="img" aria-label="doubtful">
                    {' '}
                    !
                  </span>
                )}
              </div>
              <div className="fm-mono fm-faint fm-break">{row.input}</div>
              {row.rules.length > 0 && (
                <div>
                  {row.rules.map((r) => (
                    <span key={r} className="fm-chip fm-after-1">
                      {r}
                    </span>
                  ))}
                </div>
              )}
              {changes.length > 0 && <div className="fm-lake">{changes.join(', ')}</div>}
            </li>
          ))}
      </ul>
      {rows.length === 0 && (
        <p className="fm-faint">
          Type or paste names of files above: each is read as if it had just arrived.
        </p>
      )}
    </aside>
  );
}
