'use client';
import { useId } from 'react';
import { Form } from 'react-bootstrap';
import { type Change, NOWHERE, withGroups } from '@/core/session';
import { useSession, useSessionStore, workbench } from '@/ui/client';

/** Where something goes: the mix bus, a sum, nowhere. `except` cannot be chosen. */
export function WayField({
  label,
  value,
  onChoose,
  except = [],
  hidden = false,
}: {
  readonly label: string;
  readonly value: string | null;
  readonly onChoose: (busId: string | null) => void;
  readonly except?: readonly string[];
  readonly hidden?: boolean;
}) {
  const { buses, busOrder } = useSession((s) => s.view.session);
  const id = useId();
  return (
    <Form.Group className={hidden ? '' : 'fm-field'} controlId={id}>
      <Form.Label visuallyHidden={hidden}>{label}</Form.Label>
      <Form.Select size="sm" value={value ?? ''} onChange={(e) => onChoose(e.target.value || null)}>
        <option value="">mix bus</option>
        {busOrder
          .filter((b) => buses[b]?.kind === 'sum' && !except.includes(b))
          .map((b) => (
            <option key={b} value={b}>
              {buses[b]?.name} bus
            </option>
          ))}
        <option value={NOWHERE}>nowhere, only what is sent</option>
      </Form.Select>
    </Form.Group>
  );
}

/** Does edits of tracks together with what follows for their groups, unless one is to change alone. */
export function useGroupedCommit(): (label: string, edits: readonly Change[]) => void {
  const store = useSessionStore();
  return (label, edits) =>
    void store
      .getState()
      .commit(label, workbench.getState().alone ? edits : withGroups(store.getState().view.session, edits));
}
