'use client';
import { type Bus, type Change, hasLoop, type Send } from '@/core/session';
import { useSession } from '@/ui/client';
import { Button, Icon, Labelled, NumberField, Select, TextInput } from '@/ui/kit';
import { newBus } from './routing-edits';

interface Props {
  /** Track or bus that sends. */
  readonly ownerId: string;
  readonly sends: readonly Send[];
  /** Its own pan, −1 … 1: what a send starts from. */
  readonly ownPan: number;
  /** Keeps the sends, after edits that make what they need. */
  readonly onKeep: (label: string, sends: readonly Send[], before?: readonly Change[]) => void;
}

/** What goes to returns: each with a level, a pan of its own if wanted, before or after the level. */
export function SendsEditor({ ownerId, sends, ownPan, onKeep }: Props) {
  const session = useSession((s) => s.view.session);
  const { buses, busOrder } = session;
  const owner = buses[ownerId];
  const fits = (bus: Bus): boolean =>
    bus.id !== ownerId &&
    !sends.some((s) => s.busId === bus.id) &&
    !(
      owner &&
      hasLoop(
        {
          ...buses,
          [ownerId]: {
            ...owner,
            sends: [...owner.sends, { busId: bus.id, gainDb: 0, pan: null, before: false }],
          },
        },
        ownerId,
      )
    );
  const free = busOrder.map((id) => buses[id] as Bus).filter((b) => b.kind === 'return' && fits(b));
  const nameOf = (s: Send): string => buses[s.busId]?.name ?? 'a return';
  const change = (s: Send, fields: Partial<Send>, label = 'Send'): void =>
    onKeep(
      label,
      sends.map((x) => (x === s ? { ...x, ...fields } : x)),
    );
  const add = (value: string): void => {
    const send = (busId: string): readonly Send[] => [
      ...sends,
      { busId, gainDb: -12, pan: null, before: false },
    ];
    if (value !== 'new') return onKeep('Send to a return', send(value));
    const made = newBus(
      session,
      'return',
      `Return ${busOrder.filter((id) => buses[id]?.kind === 'return').length + 1}`,
    );
    onKeep('Send to a new return', send(made.id), [made.edit]);
  };
  return (
    <div className="fm-field" role="group" aria-label="Sends">
      <span className="fm-label">Sends</span>
      {sends.map((s) => (
        <div key={s.busId} className="fm-send">
          <span className="fm-send-name" title={nameOf(s)}>
            {nameOf(s)}
          </span>
          <Button
            tone="quiet"
            aria-label={`No more to ${nameOf(s)}`}
            title="Send no more"
            onClick={() =>
              onKeep(
                'Send no more',
                sends.filter((x) => x !== s),
              )
            }
          >
            <Icon name="x-lg" />
          </Button>
          <div className="fm-send-fields">
            <NumberField
              label="Level, dB"
              value={s.gainDb}
              min={-60}
              max={12}
              step={0.5}
              onKeep={(gainDb) => change(s, { gainDb })}
            />
            <Labelled id={`taken-${s.busId}`} label="Taken">
              <Select
                value={s.before ? 'before' : 'after'}
                onChange={(e) => change(s, { before: e.target.value === 'before' })}
              >
                <option value="after">after it</option>
                <option value="before">before it</option>
              </Select>
            </Labelled>
            <PanField
              id={`pan-${s.busId}`}
              value={s.pan}
              ownPan={ownPan}
              onKeep={(pan) => change(s, { pan }, 'Pan of a send')}
            />
          </div>
        </div>
      ))}
      <Select aria-label="Send to" value="" onChange={(e) => add(e.target.value)}>
        <option value="" disabled>
          send to …
        </option>
        {free.map((b) => (
          <option key={b.id} value={b.id}>
            {b.name}
          </option>
        ))}
        <option value="new">a new return</option>
      </Select>
    </div>
  );
}

/** Pan of a send, −100 … 100; left empty it is that of what sends. */
function PanField({
  id,
  value,
  ownPan,
  onKeep,
}: {
  readonly id: string;
  readonly value: number | null;
  readonly ownPan: number;
  readonly onKeep: (pan: number | null) => void;
}) {
  const keep = (text: string): void => {
    const pan = text.trim() === '' ? null : Math.max(-100, Math.min(100, Number(text))) / 100;
    if (pan !== value && !Number.isNaN(pan)) onKeep(pan);
  };
  return (
    <Labelled id={id} label="Pan">
      <TextInput
        key={value}
        type="number"
        min={-100}
        max={100}
        step={5}
        defaultValue={value === null ? '' : Math.round(value * 100)}
        placeholder={`own, ${Math.round(ownPan * 100)}`}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
        }}
        onBlur={(e) => keep(e.target.value)}
      />
    </Labelled>
  );
}
