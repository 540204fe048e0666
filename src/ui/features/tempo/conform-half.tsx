'use client';
import { soundingLanes } from '@/core/arrange';
import { useState } from 'react';
import { outlookOf, pulseRatios } from '@/core/conform';
import {
  type ConformMethod,
  isFolder,
  listRows,
  type Track,
  tracksUnder,
  type Treatment,
} from '@/core/session';
import { useGoOn, useSession, useSessionStore, songSeconds } from '@/ui/client';
import { Button, Clock, formatPercent, Icon, Kbd, Progress, Select, TextInput, useShortcuts } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { ConformPanel } from './conform-panel';
import { ConformPlot } from './conform-plot';
import { changeText, METHOD_WORDS, OUTLOOK_WORDS, rangeText } from './conform-words';
import { useAudition } from './use-audition';
import { type ConformDraft, useConformDraft } from './use-conform-draft';

/** Conforming: to which tempo, what that does to what, hearing it, and doing it. */
export function ConformHalf({ tabs }: { readonly tabs: React.ReactNode }) {
  const store = useSessionStore();
  const player = usePlayer();
  const { session, conform, jobs, recordings } = useSession((s) => s.view);
  const draft = useConformDraft();
  const audition = useAudition(draft);
  const length = Math.max(1, songSeconds(session, recordings));
  const rendering = jobs.filter(
    (j) => j.kind === 'conform.render' && (j.state === 'running' || j.state === 'queued'),
  );
  const [ready, wanted] = [conform?.ready.length ?? 0, conform?.wanted ?? 0];
  const goOn = useGoOn('sections');
  const accept = (): void => {
    if (draft.plan && !draft.isAccepted)
      store.getState().commit(`Conform to ${draft.bpm}`, [
        {
          kind: 'conform.set',
          conform: {
            bpm: draft.bpm,
            treatments: draft.treatments,
            ...(draft.keep.length > 0 ? { keep: draft.keep } : {}),
            heard: session.conform?.heard ?? 'played',
          },
        },
      ]);
  };
  useShortcuts([
    { key: 'enter', mod: true, run: draft.isAccepted ? goOn : accept },
    { key: '+', run: () => draft.setBpm(draft.bpm + 0.5) },
    { key: '-', run: () => draft.setBpm(draft.bpm - 0.5) },
    { key: 'b', run: () => void audition.toggle() },
  ]);
  const { plan } = draft;
  if (!plan) {
    return (
      <section className="fm-pane" aria-label="Conform">
        <header className="fm-stage-head">
          <h1>Tempo</h1>
          {tabs}
        </header>
        <div className="fm-empty">
          <p>No accepted map yet.</p>
          <p className="fm-faint">
            Find the tempo and use a map; then the recordings can follow it to one tempo.
          </p>
        </div>
      </section>
    );
  }
  const ratios = pulseRatios(plan, session.mapFacts?.pulses ?? []);
  return (
    <section className="fm-split" aria-label="Conform">
      <div className="fm-pane">
        <header className="fm-stage-head">
          <h1>Tempo</h1>
          {tabs}
          <span className="fm-top-spring" />
          {draft.isAccepted && conform && rendering.length === 0 && ready === wanted && (
            <span className="fm-good">
              <Icon name="check-lg" /> conformed to {session.conform?.bpm}
            </span>
          )}
          {session.conform && (
            <Button
              onClick={() => store.getState().commit('As played', [{ kind: 'conform.set', conform: null }])}
            >
              Leave it as played
            </Button>
          )}
          <Button tone="main" onClick={draft.isAccepted ? goOn : accept}>
            {draft.isAccepted ? 'On to Sections' : `Conform to ${draft.bpm}`} <Kbd>Ctrl ⏎</Kbd>
          </Button>
        </header>
        {rendering.length > 0 && (
          <div className="fm-stage-job">
            <Progress
              label="Conforming"
              share={ready / Math.max(1, wanted)}
              amount={`${ready} of ${wanted} tracks${ofTheNext(rendering)}`}
              onCancel={() => {
                for (const j of rendering) void store.getState().call(`/api/jobs/${j.id}/cancel`);
              }}
            />
          </div>
        )}
        {draft.isAccepted && rendering.length === 0 && ready < wanted && (
          <p className="fm-attention fm-sides-3 fm-inside-2 fm-tight">
            {wanted - ready} tracks are not conformed.{' '}
            <Button
              tone="quiet"
              onClick={() => void store.getState().call(`/api/sessions/${store.getState().view.id}/conform`)}
            >
              Make them
            </Button>
          </p>
        )}
        <TargetRow draft={draft} ratios={ratios} length={length} />
        <ConformPlot ratios={ratios} length={length} onSeek={(s) => player.seek(s)} />
        <Materials draft={draft} ratios={ratios} />
      </div>
      <ConformPanel draft={draft} audition={audition} ready={ready} wanted={wanted} />
    </section>
  );
}

function ofTheNext(jobs: readonly { readonly progress: number; readonly state: string }[]): string {
  const running = jobs.find((j) => j.state === 'running');
  return running ? ` · ${formatPercent(running.progress)} of the next` : '';
}

function TargetRow({
  draft,
  ratios,
  length,
}: {
  readonly draft: ConformDraft;
  readonly ratios: readonly { readonly ratio: number }[];
  readonly length: number;
}) {
  const [text, setText] = useState<string | null>(null);
  const { plan, proposal, bpm } = draft;
  if (!plan) return null;
  const after = plan.warp.toConformed(length);
  const most = ratios.reduce((m, r) => Math.max(m, Math.abs(r.ratio - 1)), 0);
  const enter = (value: string): void => {
    const wanted = Number(value.replace(',', '.'));
    if (wanted >= 20 && wanted <= 400) draft.setBpm(wanted);
    setText(null);
  };
  return (
    <div className="fm-target">
      <label>
        To{' '}
        <TextInput
          className="fm-mono"
          inputMode="decimal"
          aria-label="Target tempo, BPM"
          value={text ?? String(bpm)}
          onChange={(e) => setText(e.target.value)}
          onBlur={(e) => enter(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') enter(e.currentTarget.value);
            if (e.key === 'Escape') setText(null);
          }}
        />{' '}
        BPM
      </label>
      {proposal &&
        (bpm === proposal.bpm ? (
          <span className="fm-faint">changes least ({proposal.exactBpm.toFixed(2)}, rounded)</span>
        ) : (
          <Button tone="quiet" onClick={() => draft.setBpm(proposal.bpm)}>
            {proposal.bpm} changes least
          </Button>
        ))}
      <span className="fm-top-spring" />
      <span className="fm-faint" title="Length of the song before and after">
        <span className="fm-mono">
          <Clock seconds={length} />
        </span>{' '}
        →{' '}
        <span className="fm-mono">
          <Clock seconds={after} />
        </span>
      </span>
      <span className="fm-faint" title="How far the beat that changes most is stretched">
        beats up to <b className="fm-mono">{changeText(most).replace('+', '±')}</b>
      </span>
    </div>
  );
}

/** What is treated together, how, and what that will do. */
function Materials({
  draft,
  ratios,
}: {
  readonly draft: ConformDraft;
  readonly ratios: readonly { readonly ratio: number }[];
}) {
  const session = useSession((s) => s.view.session);
  const conform = useSession((s) => s.view.conform);
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const ready = new Set((conform?.ready ?? []).map((r) => r.laneId));
  const isDone = (id: string): boolean =>
    soundingLanes(session.nodes[id] as Track).every((lane) => ready.has(lane.id));
  const nameOf = (id: string): string => (session.nodes[id] as Track | undefined)?.name ?? '';
  return (
    <div className="fm-scroll">
      <table className="fm-table fm-materials">
        <thead>
          <tr>
            <th>Treated as one</th>
            <th>How it follows</th>
            <th className="num">Changes by</th>
            <th>What to expect</th>
            <th>State</th>
          </tr>
        </thead>
        <tbody>
          {draft.plan?.groups.flatMap((g) => {
            const first = session.nodes[g.trackIds[0] as string] as Track | undefined;
            if (!first) return [];
            const look = outlookOf(g, first, ratios);
            const key = g.trackIds.join();
            const many = g.trackIds.length > 1;
            const isOpen = opened.has(key);
            const toggle = (): void =>
              setOpened((o) => {
                const next = new Set(o);
                if (!next.delete(key)) next.add(key);
                return next;
              });
            const made = g.trackIds.filter(isDone).length;
            const row = (
              <tr key={key}>
                <td>
                  {many ? (
                    <Button tone="bare" className="fm-unfold" aria-expanded={isOpen} onClick={toggle}>
                      <Icon name={isOpen ? 'chevron-down' : 'chevron-right'} />
                      {g.name === 'kit' ? 'Drum kit' : nameOf(g.trackIds[0] as string)}{' '}
                      <span className="fm-faint">{g.trackIds.length} tracks</span>
                    </Button>
                  ) : (
                    <span className="fm-lone">{nameOf(g.trackIds[0] as string)}</span>
                  )}
                </td>
                <td>
                  <MethodSelect
                    treatment={g}
                    label={
                      many
                        ? `How ${g.trackIds.length} tracks follow`
                        : `How ${nameOf(g.trackIds[0] as string)} follows`
                    }
                    onChange={(t) => draft.treat(g.trackIds, t)}
                  />
                </td>
                <td className="num">{rangeText(look)}</td>
                <td
                  className={look.outlook === 'audible' || look.outlook === 'careful' ? 'fm-attention' : ''}
                >
                  {(look.outlook === 'audible' || look.outlook === 'careful') && (
                    <Icon name="exclamation-triangle" />
                  )}{' '}
                  {g.method === 'still' ? 'stays at its time' : OUTLOOK_WORDS[look.outlook]}
                </td>
                <td className="fm-faint">
                  {!draft.isAccepted ? (
                    'not yet'
                  ) : made === g.trackIds.length ? (
                    <span className="fm-good">
                      <Icon name="check-lg" /> ready
                    </span>
                  ) : made > 0 ? (
                    `${made} of ${g.trackIds.length}`
                  ) : (
                    'waiting'
                  )}
                </td>
              </tr>
            );
            const members = isOpen
              ? g.trackIds.map((id) => (
                  <tr key={id} className="fm-member">
                    <td>{nameOf(id)}</td>
                    <td>
                      <MethodSelect
                        treatment={draft.treatments[id] ?? g}
                        label={`How ${nameOf(id)} follows`}
                        onChange={(t) => draft.treat([id], t)}
                      />
                    </td>
                    <td />
                    <td className="fm-faint" colSpan={2}>
                      another way: on its own
                    </td>
                  </tr>
                ))
              : [];
            return [row, ...members];
          })}
        </tbody>
      </table>
      <WholeFolder draft={draft} />
    </div>
  );
}

/** One way for all tracks of a folder. */
function WholeFolder({ draft }: { readonly draft: ConformDraft }) {
  const session = useSession((s) => s.view.session);
  const folders = listRows(session).flatMap(({ node }) => (isFolder(node) ? [node] : []));
  const [chosen, setChosen] = useState('');
  const folder = folders.find((f) => f.id === chosen) ?? folders[0];
  if (!folder) return null;
  const ids = tracksUnder(session, [folder.id]).map((t) => t.id);
  const ways = [
    ...new Set(
      draft.plan?.groups
        .filter((g) => g.trackIds.some((id) => ids.includes(id)))
        .map((g) => (g.method === 'held' ? `held ${g.block}` : g.method)),
    ),
  ];
  return (
    <p className="fm-whole-folder">
      <label>
        A whole folder:{' '}
        <Select aria-label="Folder" value={folder.id} onChange={(e) => setChosen(e.target.value)}>
          {folders.map((f) => (
            <option key={f.id} value={f.id}>
              {f.name}
            </option>
          ))}
        </Select>
      </label>
      <Select
        aria-label={`How all tracks of ${folder.name} follow`}
        value={ways.length === 1 ? ways[0] : ''}
        onChange={(e) => {
          const option = OPTIONS.find((o) => o.value === e.target.value);
          if (option) draft.treat(ids, option.treatment);
        }}
      >
        {ways.length !== 1 && <option value="">in several ways</option>}
        {OPTIONS.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </Select>
      <span className="fm-faint">
        {ids.length} track{ids.length === 1 ? '' : 's'}
      </span>
    </p>
  );
}

const OPTIONS: readonly { readonly value: string; readonly treatment: Treatment; readonly text: string }[] = [
  { value: 'slices', treatment: { method: 'slices', block: 'short' }, text: 'cut at every hit' },
  { value: 'held short', treatment: { method: 'held', block: 'short' }, text: 'stretched: short sounds' },
  {
    value: 'held middle',
    treatment: { method: 'held', block: 'middle' },
    text: 'stretched: voices, guitars, keys',
  },
  { value: 'held long', treatment: { method: 'held', block: 'long' }, text: 'stretched: bass, full mixes' },
  { value: 'none', treatment: { method: 'none', block: 'middle' }, text: 'moved, not stretched' },
  { value: 'still', treatment: { method: 'still', block: 'middle' }, text: 'tied to time: stays' },
];

function MethodSelect({
  treatment,
  label,
  onChange,
}: {
  readonly treatment: { readonly method: ConformMethod; readonly block: Treatment['block'] };
  readonly label: string;
  readonly onChange: (t: Treatment) => void;
}) {
  const value = treatment.method === 'held' ? `held ${treatment.block}` : treatment.method;
  return (
    <Select
      aria-label={label}
      title={METHOD_WORDS[treatment.method]}
      value={value}
      onChange={(e) => {
        const chosen = OPTIONS.find((o) => o.value === e.target.value);
        if (chosen) onChange(chosen.treatment);
      }}
    >
      {OPTIONS.map((o) => (
        <option key={o.value} value={o.value}>
          {o.text}
        </option>
      ))}
    </Select>
  );
}
