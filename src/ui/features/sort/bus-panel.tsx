'use client';
import { type Bus, type Change, hasLoop, tracksInOrder } from '@/core/session';
import { selectOnly, useSession, useSessionStore } from '@/ui/client';
import { Button, Check, Labelled, NumberField, TextInput } from '@/ui/kit';
import { busEdit, type BusFields, LEVEL_RANGE, PAN_RANGE } from '@/ui/strips';
import { WayField } from './fields';
import { removeBusEdits } from './routing-edits';
import { SendsEditor } from './sends-editor';

/** The selected sum or return: what comes to it, where it goes, what it sends. */
export function BusPanel({ bus }: { readonly bus: Bus }) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const { buses } = session;
  const commit = (label: string, edits: readonly Change[]): void =>
    void store.getState().commit(label, edits);
  const change = (label: string, fields: BusFields, before: readonly Change[] = []): void =>
    commit(label, [...before, busEdit(bus, fields)]);
  const tracks = tracksInOrder(session).filter(
    (t) => t.busId === bus.id || t.sends.some((s) => s.busId === bus.id),
  );
  const feeding = Object.values(buses).filter(
    (b) => b.outputBusId === bus.id || b.sends.some((s) => s.busId === bus.id),
  );
  const loops = session.busOrder.filter(
    (id) => id === bus.id || hasLoop({ ...buses, [bus.id]: { ...bus, outputBusId: id } }, bus.id),
  );
  const isReturn = bus.kind === 'return';
  return (
    <>
      <h2>
        {bus.name} {isReturn ? 'return' : 'bus'}
      </h2>
      <p className="fm-faint">
        {isReturn ? 'Takes what is sent to it.' : 'Sums what is routed to it.'} It is handed over empty of
        processing{isReturn ? ', so nothing of it is heard here' : ''}.
      </p>
      <Labelled className="fm-field" id="bus-name" label="Name">
        <TextInput
          key={bus.name}
          defaultValue={bus.name}
          maxLength={120}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
          onBlur={(e) => {
            const name = e.target.value.trim();
            if (name !== '' && name !== bus.name) change('Name a bus', { name });
          }}
        />
      </Labelled>
      <Labelled className="fm-field" id="bus-colour" label="Colour">
        <TextInput
          key={bus.color}
          type="color"
          defaultValue={bus.color ?? '#888888'}
          onBlur={(e) => {
            if (e.target.value !== (bus.color ?? '#888888'))
              change('Colour a bus', { color: e.target.value });
          }}
        />
      </Labelled>
      <BusStrip bus={bus} onChange={change} />
      <WayField
        label="Goes to"
        value={bus.outputBusId}
        except={loops}
        onChoose={(outputBusId) => change('Route a bus', { outputBusId })}
      />
      <SendsEditor
        ownerId={bus.id}
        sends={bus.sends}
        ownPan={0}
        onKeep={(label, sends, before) => change(label, { sends }, before)}
      />
      <h3>Comes to it</h3>
      {tracks.length + feeding.length === 0 ? (
        <p className="fm-attention">Nothing yet.</p>
      ) : (
        <ul className="fm-plain-list">
          {feeding.map((b) => (
            <li key={b.id}>
              <Button tone="link" onClick={() => selectOnly(b.id)}>
                {b.name} {b.kind === 'return' ? 'return' : 'bus'}
              </Button>
            </li>
          ))}
          {tracks.map((t) => (
            <li key={t.id}>
              <Button tone="link" onClick={() => selectOnly(t.id)}>
                {t.name}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Button
        tone="quiet"
        className="fm-above-2"
        onClick={() => {
          commit(`Remove ${bus.name}`, removeBusEdits(session, bus.id));
          selectOnly(null);
        }}
      >
        Remove this {isReturn ? 'return' : 'bus'}
      </Button>
      <p className="fm-faint">
        {isReturn ? 'What was sent to it is sent no more.' : 'What came to it then goes where it went.'}
      </p>
    </>
  );
}

/** Its level, pan and mute. */
function BusStrip({
  bus,
  onChange,
}: {
  readonly bus: Bus;
  readonly onChange: (label: string, fields: BusFields) => void;
}) {
  return (
    <>
      <div className="fm-tidy-times">
        <NumberField
          label="Level, dB"
          value={bus.gainDb}
          step={0.5}
          {...LEVEL_RANGE}
          onKeep={(gainDb) => onChange('Level of a bus', { gainDb })}
        />
        <NumberField
          label="Pan, −100 to 100"
          value={Math.round(bus.pan * 100)}
          step={5}
          {...PAN_RANGE}
          onKeep={(pan) => onChange('Pan of a bus', { pan: pan / 100 })}
        />
      </div>
      <Check
        id="bus-muted"
        kind="switch"
        label="Muted"
        className="fm-below-2"
        checked={bus.muted}
        onChange={(e) =>
          onChange(e.target.checked ? 'Mute a bus' : 'Unmute a bus', { muted: e.target.checked })
        }
      />
    </>
  );
}
