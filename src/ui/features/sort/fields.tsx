'use client';
import { useId } from 'react';
import { type Change, NOWHERE, withGroups } from '@/core/session';
import { useSession, useSessionStore, workbench } from '@/ui/client';
import { Labelled, Select } from '@/ui/kit';

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
    <Labelled className={hidden ? '' : 'fm-field'} id={id} label={label} isHidden={hidden}>
      <Select value={value ?? ''} onChange={(e) => onChoose(e.target.value || null)}>
        <option value="">mix bus</option>
        {busOrder
          .filter((b) => buses[b]?.kind === 'sum' && !except.includes(b))
          .map((b) => (
            <option key={b} value={b}>
              {buses[b]?.name} bus
            </option>
          ))}
        <option value={NOWHERE}>nowhere, only what is sent</option>
      </Select>
    </Labelled>
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
