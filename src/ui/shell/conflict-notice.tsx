'use client';
import { useState } from 'react';
import { Alert, Button, ButtonGroup } from 'react-bootstrap';
import type { AskedBatch, Choice, Conflict } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
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
    <Alert variant="warning" className="mb-0" role="alertdialog" aria-label="Changed by somebody else">
      <p className="mb-1">
        Before your step “{asked.batch.label}” arrived, somebody else changed the same. Whose holds?
      </p>
      <ul className="fm-conflicts">
        {asked.conflicts.map((c) => (
          <li key={keyOf(c)}>
            <span className="fm-conflict-subject">{conflictSubject(c)}</span>
            {c.isDecided ? (
              <span>cannot be done any more: {conflictValue(c.field, c.theirs, session)}</span>
            ) : (
              <ButtonGroup size="sm" aria-label={conflictSubject(c)}>
                {(['mine', 'theirs'] as const).map((choice) => (
                  <Button
                    key={choice}
                    variant={choiceOf(c) === choice ? 'secondary' : 'outline-secondary'}
                    aria-pressed={choiceOf(c) === choice}
                    onClick={() => choose(c, choice)}
                  >
                    {choice === 'mine' ? 'Mine' : 'Theirs'}: {conflictValue(c.field, c[choice], session)}
                  </Button>
                ))}
              </ButtonGroup>
            )}
          </li>
        ))}
      </ul>
      <div className="d-flex gap-2 flex-wrap mt-2">
        <Button size="sm" onClick={() => store.getState().decide(choiceOf)}>
          Apply
        </Button>
        {open.length > 1 && (
          <>
            <Button size="sm" variant="outline-secondary" onClick={() => all('mine')}>
              All mine
            </Button>
            <Button size="sm" variant="outline-secondary" onClick={() => all('theirs')}>
              All theirs
            </Button>
          </>
        )}
        <Button size="sm" variant="outline-secondary" onClick={() => store.getState().decide(null)}>
          Let my step go
        </Button>
      </div>
    </Alert>
  );
}
