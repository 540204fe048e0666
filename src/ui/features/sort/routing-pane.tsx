'use client';
import { type Bus, type Change, membersOf, NOWHERE } from '@/core/session';
import { rowColor } from '@/core/style';
import { selectOnly, useSession, useSessionStore, useWorkbench, workbench } from '@/ui/client';
import { Button, Check, Icon, Line, NumberField, Pictogram, TextInput } from '@/ui/kit';
import { busStripText } from '@/ui/strips';
import { changeGroup, newBus } from './routing-edits';
import { type RoutingRow, routingRows, trackNotes } from './routing-rows';

const many = (n: number, one: string, more: string): string =>
  n === 0 ? '' : `${n} ${n === 1 ? one : more}`;

/** Where everything goes: sums and returns on their way to the mix bus, what does not get there, and the groups. */
export function RoutingPane() {
  const store = useSessionStore();
  const { session, style } = useSession((s) => s.view);
  const current = useWorkbench((w) => w.current);
  const rows = routingRows(session);
  const notes = trackNotes(session);
  const add = (kind: Bus['kind']): void => {
    const made = newBus(session, kind, kind === 'return' ? 'New return' : 'New bus');
    if (store.getState().commit(kind === 'return' ? 'New return' : 'New bus', [made.edit]))
      selectOnly(made.id);
  };
  return (
    <div className="fm-scroll fm-routing">
      {notes.length > 0 && (
        <ul className="fm-routing-notes">
          {notes.map((n) => (
            <li key={n.id}>
              <Button tone="link" onClick={() => selectOnly(n.id)}>
                {session.nodes[n.id]?.name}
              </Button>{' '}
              {n.code === 'past-sum'
                ? `goes past the sum of its folder, the ${session.buses[n.sumId]?.name} bus.`
                : 'does not reach the mix bus.'}
            </li>
          ))}
        </ul>
      )}
      <table className="fm-table" aria-label="Sums and returns">
        <thead>
          <tr>
            <th>Bus</th>
            <th>Comes to it</th>
            <th>Goes to</th>
            <th>Level and pan</th>
            <th>Sends</th>
            <th>
              <span className="fm-unseen">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <Row
              key={r.bus?.id ?? 'mix'}
              row={r}
              color={r.bus ? r.bus.color : rowColor(style, 'mix-bus', 'Mix bus')}
              names={session.buses}
              isCurrent={r.bus !== null && r.bus.id === current}
            />
          ))}
        </tbody>
      </table>
      <Line align="start" className="fm-inside-2 fm-sides-2">
        <Button onClick={() => add('sum')}>
          <Icon name="plus" /> New bus
        </Button>
        <Button onClick={() => add('return')}>
          <Icon name="plus" /> New return
        </Button>
      </Line>
      <Groups />
    </div>
  );
}

function Row({
  row,
  color,
  names,
  isCurrent,
}: {
  readonly row: RoutingRow;
  readonly color: string | null;
  readonly names: Readonly<Record<string, Bus>>;
  readonly isCurrent: boolean;
}) {
  const { bus } = row;
  const wayText =
    bus === null
      ? ''
      : bus.outputBusId === null
        ? 'mix bus'
        : bus.outputBusId === NOWHERE
          ? 'nowhere'
          : `${names[bus.outputBusId]?.name} bus`;
  const picture = bus === null ? 'mix-bus' : bus.kind === 'return' ? 'return' : 'folder';
  const comes = [many(row.buses, 'bus', 'buses'), many(row.tracks, 'track', 'tracks')]
    .filter(Boolean)
    .join(', ');
  return (
    <tr className={isCurrent ? 'is-here' : undefined}>
      <td style={{ paddingLeft: 10 + row.depth * 18 }}>
        <span
          className="fm-swatch fm-after-2"
          style={{ background: color ?? 'transparent' }}
          aria-hidden="true"
        />
        <Pictogram of={picture} />{' '}
        {bus === null ? (
          <b>Mix bus</b>
        ) : (
          <Button
            tone="bare"
            className="fm-name-button"
            aria-current={isCurrent || undefined}
            onClick={() => selectOnly(bus.id)}
          >
            <b>{bus.name}</b> <span className="fm-faint">{bus.kind === 'return' ? 'return' : 'bus'}</span>
          </Button>
        )}
      </td>
      <td>{comes || <span className="fm-faint">nothing</span>}</td>
      <td>{wayText}</td>
      <td>{bus && busStripText(bus)}</td>
      <td>{bus?.sends.map((s) => `${names[s.busId]?.name ?? ''} ${s.gainDb} dB`).join(', ')}</td>
      <td>
        {row.note === 'unfed' ? (
          <span className="fm-attention">nothing comes to it</span>
        ) : row.note === 'bus-unheard' ? (
          <span className="fm-attention">does not reach the mix bus</span>
        ) : bus === null ? (
          ''
        ) : (
          <span className="fm-faint">empty</span>
        )}
      </td>
    </tr>
  );
}

function Groups() {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const commit = (label: string, edit: Change): void => void store.getState().commit(label, [edit]);
  return (
    <>
      <h2 className="fm-routing-head">Groups</h2>
      {session.groups.length === 0 ? (
        <p className="fm-faint fm-sides-3">
          None. Select tracks in the sheet, then “Edit as one group” in the right panel: level, pan, mute and
          begin then change together.
        </p>
      ) : (
        <table className="fm-table" aria-label="Groups">
          <thead>
            <tr>
              <th>Group</th>
              <th>Tracks</th>
              <th>Level of all, dB</th>
              <th>Edited together</th>
              <th>
                <span className="fm-unseen">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {session.groups.map((g) => {
              const members = membersOf(session, g);
              return (
                <tr key={g.id}>
                  <td>
                    <TextInput
                      key={g.name}
                      aria-label={`Name of ${g.name}`}
                      defaultValue={g.name}
                      maxLength={120}
                      onKeyDown={(e) => {
                        if (e.key === 'Enter') e.currentTarget.blur();
                      }}
                      onBlur={(e) => {
                        const name = e.target.value.trim();
                        if (name !== '' && name !== g.name)
                          commit('Name a group', changeGroup(session, g.id, { name }));
                      }}
                    />
                  </td>
                  <td>
                    <Button
                      tone="link"
                      title={members.map((t) => t.name).join(', ')}
                      onClick={() =>
                        workbench.setState({
                          selected: new Set(members.map((t) => t.id)),
                          current: members[0]?.id ?? null,
                          anchor: null,
                        })
                      }
                    >
                      {members.length} tracks
                    </Button>
                  </td>
                  <td className="fm-group-level">
                    <NumberField
                      hidden
                      label={`Level of ${g.name}, dB`}
                      value={g.gainDb}
                      min={-60}
                      max={12}
                      step={0.5}
                      onKeep={(gainDb) => commit('Level of a group', changeGroup(session, g.id, { gainDb }))}
                    />
                  </td>
                  <td>
                    <Check
                      kind="switch"
                      aria-label={`${g.name} is edited together`}
                      checked={g.on}
                      onChange={(e) =>
                        commit(
                          e.target.checked ? 'Edit a group together' : 'Put a group aside',
                          changeGroup(session, g.id, { on: e.target.checked }),
                        )
                      }
                    />
                  </td>
                  <td>
                    <Button
                      tone="quiet"
                      onClick={() => commit('Undo a group', changeGroup(session, g.id, null))}
                    >
                      Take apart
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </>
  );
}
