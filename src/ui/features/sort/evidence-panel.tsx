'use client';
import { FAMILIES, type Family, partsOf } from '@/core/naming';
import {
  isFolder,
  isTrack,
  repitch,
  ROOT,
  tracksUnder,
  type Change,
  type Folder,
  type Track,
  type TrackFields,
} from '@/core/session';
import { type NoteFacts, pitchName } from '@/core/time';
import { changesSomething, type SortProposal, type SortRow, type TrackKind } from '@/core/style';
import { selectOnly, useSession, useSessionStore, useWorkbench } from '@/ui/client';
import { GroupLine, LEVEL_RANGE, PAN_RANGE, withHand } from '@/ui/strips';
import {
  Button,
  Check,
  formatDb,
  formatRate,
  formatRepitch,
  Icon,
  Kbd,
  Labelled,
  Line,
  NumberField,
  Pictogram,
  pictureOf,
  Select,
  TextInput,
  useShortcuts,
} from '@/ui/kit';
import { usePlayer, WhereItPlays } from '@/ui/listening';
import { JoinOffer, SplitOffer } from './pair-offers';
import { acceptEdits } from './accept-edits';
import { choicesFor, isSameKind } from './choices';
import { familyEdit, kindEdit, partEdits, partOfText } from './family-edits';
import { useGroupedCommit, WayField } from './fields';
import { LanesField } from './lanes-field';
import { LearnOffer, RememberedWords } from './learn-offer';
import { COLOR_BY, type ColorBy, colorEdits } from './color-edits';
import { intoEdits } from './moves';
import { BusPanel } from './bus-panel';
import { newGroupEdits, ownSumEdits, sumFolderEdits } from './routing-edits';
import { kindText, shownKind } from './rows';
import { SendsEditor } from './sends-editor';
import { SiblingOffer } from './sibling-offer';
import { StartField } from './start-field';

/** The selected track: why it is what it is, and every part of it to change by hand. */
export function EvidencePanel({ proposal }: { readonly proposal: SortProposal }) {
  const session = useSession((s) => s.view.session);
  const current = useWorkbench((w) => w.current);
  const selected = useWorkbench((w) => w.selected);
  const tracks = [...selected].map((id) => session.nodes[id]).filter(isTrack);
  const track = current === null ? undefined : session.nodes[current];
  if (tracks.length > 1)
    return (
      <aside className="fm-panel" aria-label="Selected tracks">
        <h2>{tracks.length} tracks</h2>
        {tracks.length === 2 && <JoinOffer tracks={tracks} />}
        <ManyEditor tracks={tracks} />
      </aside>
    );
  const bus = current === null ? undefined : session.buses[current];
  if (bus)
    return (
      <aside className="fm-panel" aria-label="Bus">
        <BusPanel key={bus.id} bus={bus} />
      </aside>
    );
  if (isFolder(track))
    return (
      <aside className="fm-panel" aria-label="Folder">
        <OneFolder key={track.id} folder={track} />
      </aside>
    );
  if (!isTrack(track))
    return (
      <aside className="fm-panel" aria-label="Details">
        <h2>What is this track?</h2>
        <p className="fm-faint">
          Choose a row to see why it was named so, and to change it. <Kbd>N</Kbd> walks to the next one to
          check.
        </p>
        <RememberedWords />
      </aside>
    );
  return (
    <aside className="fm-panel" aria-label="Details">
      <OneTrack
        key={track.id}
        track={track}
        row={proposal.rows.find((r) => r.trackId === track.id) ?? null}
        proposal={proposal}
      />
    </aside>
  );
}

function OneTrack({
  track,
  row,
  proposal,
}: {
  readonly track: Track;
  readonly row: SortRow | null;
  readonly proposal: SortProposal;
}) {
  const { session, style, recordings } = useSession((s) => s.view);
  const recording = recordings.find((r) => r.id === track.recordingId);
  const store = useSessionStore();
  const commit = (label: string, edits: readonly Change[]): void =>
    void store.getState().commit(label, edits);
  // What a track is, is its own; its level, pan, mute and begin go with its groups.
  const together = useGroupedCommit();
  const change = (label: string, fields: Partial<TrackFields>, ...hand: (keyof TrackFields)[]): void =>
    together(label, [
      { kind: 'track.change', id: track.id, fields: { ...fields, byHand: withHand(track, ...hand) } },
    ]);
  const by = { style, busIds: new Set(session.busOrder) };
  const kind = shownKind(track, row);
  const choices = choicesFor(style, row, recording?.heard?.as ?? null);
  const choose = (choice: TrackKind, name: string): void =>
    row && isSameKind(row, choice) && changesSomething(row)
      ? commit(`Accept ${row.name}`, acceptEdits(session, style, proposal, [row]))
      : commit(`Call it ${name}`, [
          choice.part === null ? familyEdit(track, choice.family, by) : kindEdit(track, choice, by),
        ]);
  useShortcuts(choices.map((c, i) => ({ key: String(i + 1), run: () => choose(c, c.name) })));
  return (
    <>
      <h2>What is this track?</h2>
      <p className="fm-mono fm-break">{track.receivedName}</p>
      <h3>Why</h3>
      {(row?.evidence ?? track.evidence).length === 0 ? (
        <p className="fm-faint">No word of its name is known. Listen, then choose.</p>
      ) : (
        <ul className="fm-evidence">
          {(row?.evidence ?? track.evidence).map((e, i) => (
            <li key={`${e.text}-${i}`}>
              <span className="fm-chip fm-mono">{e.text}</span> <span>{e.means}</span>
            </li>
          ))}
        </ul>
      )}
      <Line align="start" className="fm-above-2 fm-below-2">
        {track.tiedTo === null ? (
          <WhereItPlays trackId={track.id} />
        ) : (
          <span className="fm-faint">
            Notes: they are seen, ordered and handed over, and make no sound here.
          </span>
        )}
      </Line>
      <h3>Choose, or set by hand</h3>
      <div className="fm-choices" role="group" aria-label="Family">
        {choices.map((choice, i) => (
          <Button
            key={choice.name}
            tone="choice"
            isOn={isSameKind(track, choice)}
            onClick={() => choose(choice, choice.name)}
          >
            <Kbd>{String(i + 1)}</Kbd> <Pictogram of={pictureOf(style, choice)} />{' '}
            <span className="fm-grow">{choice.name}</span>
            {choice.confidence !== null && <span className="fm-mono">{choice.confidence.toFixed(2)}</span>}
          </Button>
        ))}
      </div>
      <Labelled className="fm-field" id="family" label="Family">
        <Select
          value={track.family}
          onChange={(e) => {
            const family = e.target.value as Family;
            choose({ family, part: null, role: null }, family.replaceAll('-', ' '));
          }}
        >
          {FAMILIES.map((f) => (
            <option key={f} value={f}>
              {f.replaceAll('-', ' ')}
            </option>
          ))}
        </Select>
      </Labelled>
      <PartField
        key={`${kind.family} ${kind.part}`}
        kind={kind}
        onKeep={(part) => commit('Say what it is', partEdits(track, kind.family, part, by))}
      />
      <SiblingOffer track={track} />
      <LearnOffer track={track} />
      <WayField
        label="Routed to"
        value={track.busId}
        onChoose={(busId) => change('Route to a bus', { busId }, 'busId')}
      />
      <SendsEditor
        ownerId={track.id}
        sends={track.sends}
        ownPan={track.pan}
        onKeep={(label, sends, before = []) =>
          commit(label, [
            ...before,
            { kind: 'track.change', id: track.id, fields: { sends, byHand: withHand(track, 'sends') } },
          ])
        }
      />
      <Labelled className="fm-field" id="colour" label="Colour">
        <TextInput
          key={track.color}
          type="color"
          defaultValue={track.color ?? '#888888'}
          onBlur={(e) => {
            if (e.target.value !== track.color) change('Colour by hand', { color: e.target.value }, 'color');
          }}
        />
      </Labelled>
      <GroupLine track={track} />
      <Line align="start">
        <NumberField
          label="Track level, dB"
          value={track.gainDb}
          {...LEVEL_RANGE}
          step={0.5}
          onKeep={(gainDb) => change('Level', { gainDb }, 'gainDb')}
        />
        <NumberField
          label="Pan, −100 … 100"
          value={Math.round(track.pan * 100)}
          {...PAN_RANGE}
          step={5}
          onKeep={(pan) => change('Pan', { pan: pan / 100 }, 'pan')}
        />
      </Line>
      <Check
        className="fm-above-2"
        id="muted"
        label="Muted"
        checked={track.muted}
        onChange={(e) => change(e.target.checked ? 'Mute' : 'Unmute', { muted: e.target.checked }, 'muted')}
      />
      <LanesField track={track} />
      {track.tiedTo === null ? (
        <SoundFields
          track={track}
          channels={recording?.channels ?? null}
          recordedHz={recording?.sampleRateHz ?? null}
          change={change}
        />
      ) : (
        <NoteFields track={track} notes={recording?.notes ?? null} change={change} />
      )}
      <p className="fm-faint fm-above-2 fm-tight">
        {kindText(track)}
        {recording?.sampleRateHz
          ? ` · ${formatRate(recording.sampleRateHz)} kHz ${recording.channels === 1 ? 'mono' : 'stereo'}`
          : ''}
        {recording?.facts ? ` · peak ${formatDb(recording.facts.peakDbfs)} dBFS` : ''}
      </p>
      {track.byHand.length > 0 && (
        <Button
          tone="quiet"
          className="fm-above-2"
          onClick={() =>
            commit('Let the house style decide', [
              { kind: 'track.change', id: track.id, fields: { byHand: [], confidence: 0 } },
            ])
          }
        >
          Let the house style decide again
        </Button>
      )}
    </>
  );
}

/** What makes the sound: one of the known, or a noun of one's own. */
function PartField({
  kind,
  onKeep,
}: {
  readonly kind: Pick<Track, 'family' | 'part'>;
  readonly onKeep: (part: string | null) => void;
}) {
  const known = partsOf(kind.family);
  const keep = (text: string): void => {
    const part = partOfText(text);
    if (part !== kind.part) onKeep(part);
  };
  return (
    <Labelled className="fm-field" id="part" label="Part">
      <TextInput
        list="parts"
        defaultValue={kind.part?.replaceAll('-', ' ') ?? ''}
        disabled={kind.family === 'unknown'}
        placeholder={kind.family === 'unknown' ? 'choose a family first' : 'not said'}
        maxLength={40}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
        }}
        onBlur={(e) => keep(e.target.value)}
      />
      <datalist id="parts">
        {known.map((p) => (
          <option key={p} value={p.replaceAll('-', ' ')} />
        ))}
      </datalist>
    </Labelled>
  );
}

type SetFields = (label: string, fields: Partial<TrackFields>, ...hand: (keyof TrackFields)[]) => void;

/** What only a sound has. */
function SoundFields({
  track,
  channels,
  recordedHz,
  change,
}: {
  readonly track: Track;
  readonly channels: number | null;
  readonly recordedHz: number | null;
  readonly change: SetFields;
}) {
  const sessionHz = useSession((s) => s.view.session.sampleRateHz);
  return (
    <>
      <Check
        id="inverted"
        label="Invert polarity"
        checked={track.inverted}
        onChange={(e) =>
          change(
            e.target.checked ? 'Invert polarity' : 'Polarity as recorded',
            { inverted: e.target.checked },
            'inverted',
          )
        }
      />
      {(channels === 2 || track.monoFrom !== null) && (
        <Labelled className="fm-field" id="mono-from" label="Channels">
          <Select
            value={track.monoFrom ?? ''}
            onChange={(e) =>
              change('Channels', { monoFrom: (e.target.value || null) as Track['monoFrom'] }, 'monoFrom')
            }
          >
            <option value="">stereo, as recorded</option>
            <option value="left">mono, from the left</option>
            <option value="right">mono, from the right</option>
          </Select>
        </Labelled>
      )}
      {recordedHz !== null && sessionHz !== null && recordedHz !== sessionHz && (
        <Check
          id="keeps-samples"
          label={`Samples kept: ${formatRepitch(repitch(recordedHz, sessionHz))}`}
          checked={track.keepsSamples}
          onChange={(e) =>
            change(
              e.target.checked ? 'Keep the samples' : 'Convert',
              { keepsSamples: e.target.checked },
              'keepsSamples',
            )
          }
        />
      )}
      <StartField track={track} change={change} />
      <SplitOffer track={track} />
    </>
  );
}

/** What only notes have. */
function NoteFields({
  track,
  notes,
  change,
}: {
  readonly track: Track;
  readonly notes: NoteFacts | null;
  readonly change: SetFields;
}) {
  return (
    <>
      <Labelled className="fm-field" id="tied-to" label="When the tempo map changes">
        <Select
          value={track.tiedTo ?? 'time'}
          onChange={(e) => change('Tie notes', { tiedTo: e.target.value as 'bars' | 'time' }, 'tiedTo')}
        >
          <option value="bars">they keep their bars, from the first downbeat</option>
          <option value="time">they keep their moments, from the common zero</option>
        </Select>
      </Labelled>
      {track.tiedTo === 'time' && <StartField track={track} change={change} />}
      {notes && (
        <p className="fm-faint fm-above-2 fm-tight">
          {notes.notes} {notes.notes === 1 ? 'note' : 'notes'}, {pitchName(notes.lowestPitch)} to{' '}
          {pitchName(notes.highestPitch)}
          {notes.tempoSaid ? '' : '; the file says no tempo'}
        </p>
      )}
    </>
  );
}

function OneFolder({ folder }: { readonly folder: Folder }) {
  const player = usePlayer();
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const tracks = tracksUnder(session, [folder.id]);
  const ids = new Set(tracks.map((t) => t.id));
  return (
    <>
      <h2>{folder.name}</h2>
      <p className="fm-faint">
        {tracks.length} track{tracks.length === 1 ? '' : 's'}.
      </p>
      <Line align="start" className="fm-above-2 fm-below-2">
        <Button
          onClick={() => {
            player.setSolo(ids);
            void player.play();
          }}
        >
          <Icon name="headphones" /> Listen alone <Kbd>S</Kbd>
        </Button>
        <Button
          tone="quiet"
          onClick={() => {
            player.setSolo(new Set());
            player.stop();
          }}
        >
          All again
        </Button>
      </Line>
      <Labelled className="fm-field" id="folder-sum" label="Summed on">
        <Select
          value={folder.busId ?? ''}
          onChange={(e) =>
            void store
              .getState()
              .commit(
                'Sum a folder',
                e.target.value === 'new'
                  ? ownSumEdits(session, folder)
                  : sumFolderEdits(session, folder, e.target.value || null),
              )
          }
        >
          <option value="">none of its own</option>
          {session.busOrder
            .filter((id) => session.buses[id]?.kind === 'sum')
            .map((id) => (
              <option key={id} value={id}>
                {session.buses[id]?.name} bus
              </option>
            ))}
          <option value="new">a new bus of its own</option>
        </Select>
      </Labelled>
      {folder.busId !== null && session.buses[folder.busId] && (
        <Button tone="link" onClick={() => selectOnly(folder.busId)}>
          Open the {session.buses[folder.busId]?.name} bus
        </Button>
      )}
      <h3>All its tracks</h3>
      <ManyEditor tracks={tracks} />
    </>
  );
}

function ManyEditor({ tracks }: { readonly tracks: readonly Track[] }) {
  const store = useSessionStore();
  const { session, style } = useSession((s) => s.view);
  const by = { style, busIds: new Set(session.busOrder) };
  const together = useGroupedCommit();
  const mute = (muted: boolean): void =>
    together(
      `${muted ? 'Mute' : 'Unmute'} ${tracks.length} tracks`,
      tracks.map((t) => ({
        kind: 'track.change',
        id: t.id,
        fields: { muted, byHand: withHand(t, 'muted') },
      })),
    );
  const all = (label: string, make: (t: Track) => Change): void =>
    void store.getState().commit(`${label} ${tracks.length} tracks`, tracks.map(make));
  return (
    <>
      <Labelled className="fm-field" id="many-family" label="Family of all">
        <Select
          value=""
          onChange={(e) => all('Set family of', (t) => familyEdit(t, e.target.value as Family, by))}
        >
          <option value="" disabled>
            choose
          </option>
          {FAMILIES.map((f) => (
            <option key={f} value={f}>
              {f.replaceAll('-', ' ')}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled className="fm-field" id="many-folder" label="Folder of all">
        <Select
          value=""
          onChange={(e) =>
            void store.getState().commit(
              `Move ${tracks.length} tracks`,
              intoEdits(
                session,
                tracks.map((t) => t.id),
                e.target.value,
              ),
            )
          }
        >
          <option value="" disabled>
            choose
          </option>
          <option value={ROOT}>the top level</option>
          {Object.values(session.nodes)
            .filter(isFolder)
            .map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}
              </option>
            ))}
        </Select>
      </Labelled>
      <Line align="end" className="fm-field">
        <Labelled className="fm-grow" id="many-colour-by" label="Colour of all">
          <Select
            value=""
            onChange={(e) =>
              void store
                .getState()
                .commit(
                  `Colour ${tracks.length} tracks`,
                  colorEdits(session, style, tracks, e.target.value as ColorBy),
                )
            }
          >
            <option value="" disabled>
              choose, or by hand →
            </option>
            {COLOR_BY.map(([by, label]) => (
              <option key={by} value={by}>
                {label}
              </option>
            ))}
          </Select>
        </Labelled>
        <TextInput
          aria-label="Colour of all by hand"
          type="color"
          defaultValue={tracks[0]?.color ?? '#888888'}
          onBlur={(e) => {
            if (tracks.some((t) => t.color !== e.target.value))
              all('Colour', (t) => ({
                kind: 'track.change',
                id: t.id,
                fields: { color: e.target.value, byHand: withHand(t, 'color') },
              }));
          }}
        />
      </Line>
      <Line align="start" wraps className="fm-above-2">
        <Button onClick={() => mute(true)}>Mute</Button>
        <Button onClick={() => mute(false)}>Unmute</Button>
        <Button
          disabled={tracks.length < 2}
          onClick={() =>
            store.getState().commit(
              'New group',
              newGroupEdits(
                session,
                tracks.map((t) => t.id),
              ),
            )
          }
        >
          Edit as one group
        </Button>
        <Button
          onClick={() =>
            all('Neutral level and pan of', (t) => ({
              kind: 'track.change',
              id: t.id,
              fields: { gainDb: 0, pan: 0, byHand: withHand(t, 'gainDb', 'pan') },
            }))
          }
        >
          Level and pan neutral
        </Button>
      </Line>
    </>
  );
}
