'use client';
import { useState } from 'react';
import type { AskedBatch, Choice, Conflict } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Line, Notice } from '@/ui/kit';
import { conflictSubject, conflictValue } from './conflict-words';

const keyOf = ({ record, field }: Conflict): string => `${record.kind} ${record.id} ${field}`;

/** A step that meets what somebody else did meanwhile: field by field, whose value holds. */
export function ConflictNotice({ asked }: { readonly asked: AskedBatch }) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const [chosen, setChosen] = useState<ReadonlyMap<string, Choice>>(new Map());
  const choiceOf = (c: Conflict): Choice => (c.isDecided ? 'theirs' : (chosen.get(keyOf(c)) ?? 'theirs'));
  const choose = (c: Conflict, choice: Choice): void => setChosen(new Map(chosen).set(keyOf(c), choice));
  const all = (choice: Choice): void => store.getState().decide((c) => (c.isDecided ? 'theirs' : choice));
  const open = asked.conflicts.filter((c) => !c.isDecided);
  return (
    <Notice tone="warning" className="fm-tight" role="alertdialog" aria-label="Changed by somebody else">
      <p className="fm-below-1">
        Before your step “{asked.batch.label}” arrived, somebody else changed the same. Whose holds?
      </p>
      <ul className="fm-conflicts">
        {asked.conflicts.map((c) => (
          <li key={keyOf(c)}>
            <span className="fm-conflict-subject">{conflictSubject(c)}</span>
            {c.isDecided ? (
              <span>cannot be done any more: {conflictValue(c.field, c.theirs, session)}</span>
            ) : (
              <Line role="group" gap={1} wraps aria-label={conflictSubject(c)}>
                {(['mine', 'theirs'] as const).map((choice) => (
                  <Button
                    key={choice}
                    tone="choice"
                    isOn={choiceOf(c) === choice}
                    onClick={() => choose(c, choice)}
                  >
                    {choice === 'mine' ? 'Mine' : 'Theirs'}: {conflictValue(c.field, c[choice], session)}
                  </Button>
                ))}
              </Line>
            )}
          </li>
        ))}
      </ul>
      <Line align="start" wraps className="fm-above-2">
        <Button tone="main" onClick={() => store.getState().decide(choiceOf)}>
          Apply
        </Button>
        {open.length > 1 && (
          <>
            <Button onClick={() => all('mine')}>All mine</Button>
            <Button onClick={() => all('theirs')}>All theirs</Button>
          </>
        )}
        <Button onClick={() => store.getState().decide(null)}>Let my step go</Button>
      </Line>
    </Notice>
  );
}
