'use client';
import { useCallback, useMemo, useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { tracksInOrder, tracksUnder } from '@/core/session';
import { changesSomething, type SortRow } from '@/core/style';
import { tickedRows } from './ticked-rows';
import {
  namesStateOf,
  proposalOf,
  proposalWith,
  selectOnly,
  useGoOn,
  useSession,
  useSessionStore,
  useWorkbench,
  workbench,
} from '@/ui/client';
import { Button, Kbd, type Shortcut, useShortcuts } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { acceptEdits, heardRows } from './accept-edits';
import { EvidencePanel } from './evidence-panel';
import { useGroupedCommit } from './fields';
import { selectGroup } from './group-line';
import { lensTracks } from './lens-tracks';
import { copyNameEdits, emptyFolderEdits, moveEdits, nestEdits, newFolderEdits, removeEdits } from './moves';
import { type RowHeight, setRowHeight, stepRowHeight, useRowHeight } from './row-height';
import { sheetRows, type SortedBy, sortedRows } from './rows';
import { NamesDialog } from './names-dialog';
import { QuickAssign } from './quick-assign';
import { RoutingPane } from './routing-pane';
import { newGroupEdits } from './routing-edits';
import { trackNotes } from './routing-rows';
import { rowFurther, selectUpTo } from './selection';
import { Sheet } from './sheet';
import { useOnceRead } from './use-once-read';

/** The sheet with what the house style proposes for every track. */
export function SortStage({ openAt }: { readonly openAt: 'tracks' | 'routing' }) {
  const store = useSessionStore();
  const player = usePlayer();
  const commitGrouped = useGroupedCommit();
  const view = useSession((s) => s.view);
  const { session, style, id: sessionId } = view;
  const folded = useWorkbench((w) => w.folded);
  const lenses = useWorkbench((w) => w.lenses);
  const filter = useWorkbench((w) => w.filter);
  const current = useWorkbench((w) => w.current);
  const selected = useWorkbench((w) => w.selected);
  const [untouched, setTicks] = useState<ReadonlyMap<string, boolean>>(new Map());
  const [editing, setEditing] = useState<string | null>(null);
  const [renaming, setRenaming] = useState(false);
  const [overHand, setOverHand] = useState(false);
  const [quick, setQuick] = useState(false);
  const [shownView, setView] = useState(openAt);
  const tick = useCallback((id: string, on: boolean) => setTicks((now) => new Map(now).set(id, on)), []);
  const endQuick = useCallback(() => setQuick(false), []);
  const proposal = useMemo(
    () => (overHand ? proposalWith(view, view.style, true) : proposalOf(view)),
    [view, overHand],
  );
  const overwritten = proposal.rows.filter((r) => r.overwrites.length > 0 && changesSomething(r));
  const shown = useMemo(() => lensTracks(view, lenses, filter), [view, lenses, filter]);
  const [sorted, setSorted] = useState<SortedBy | null>(null);
  const rowHeight = useRowHeight();
  const rows = useMemo(() => {
    const all = sheetRows(session, proposal, {
      folded: sorted ? NOTHING_FOLDED : folded,
      lens: shown.trackIds,
      sumsOnly: shown.sumsOnly,
    });
    if (!sorted) return all;
    const peaks = new Map(view.recordings.map((r) => [r.id, r.facts?.peakDbfs ?? null]));
    return sortedRows(all, sorted, (t) => peaks.get(t.recordingId) ?? null);
  }, [session, proposal, folded, shown, sorted, view.recordings]);
  const { open, ticked, tickOf, edits } = useMemo(
    () => tickedRows(session, style, proposal, untouched),
    [session, style, proposal, untouched],
  );
  const count = (group: string): number =>
    proposal.rows.filter(
      (r) =>
        r.group === group &&
        !(session.nodes[r.trackId] as { byHand?: readonly string[] } | undefined)?.byHand?.includes('family'),
    ).length;
  const astray = useMemo(() => trackNotes(session).length, [session]);
  const doubtful = count('doubtful');
  const unmatched = count('unmatched');

  const names = namesStateOf(view);
  // What is not read yet is not applied.
  const canApply = edits.length > 0 && names === 'read';
  const apply = (): void => {
    if (!canApply) return;
    store
      .getState()
      .commit(
        ticked.length > 0 ? `Apply house style to ${ticked.length}` : 'Apply house style to the sums',
        edits,
      );
    setTicks(new Map());
    setOverHand(false);
  };
  const goOn = useGoOn('tempo');
  const toAssign = names === 'read' ? doubtful + unmatched : 0;
  const heard = useMemo(() => heardRows(session, proposal), [session, proposal]);
  const acceptHeard = (): void => {
    if (heard.length === 0) return;
    store.getState().commit(`Accept ${heard.length} as heard`, acceptEdits(session, style, proposal, heard));
  };
  const main = nextStep({
    names,
    canApply,
    isSorted: names === 'read' && !canApply && open.length === 0 && tracksInOrder(session).length > 0,
    toAssign,
    applyText: applyText(open.length, ticked.length, proposal.sums.length),
  });
  const runMain = { apply, assign: () => setQuick(true), 'go-on': goOn, none: () => undefined }[main.kind];
  const onceRead = useOnceRead(names === 'reading', {
    main: runMain,
    quick: () => setQuick(!quick && toAssign > 0),
    accept: () => {
      const found = proposal.rows.find((r) => r.trackId === current);
      if (found)
        store.getState().commit(`Accept ${found.name}`, acceptEdits(session, style, proposal, [found]));
    },
    acceptHeard,
  });
  const remove = (): void => {
    const edits = removeEdits(session, [...selected]);
    if (edits.length === 0) return;
    store.getState().commit(selected.size > 1 ? `Remove ${selected.size} rows` : 'Remove a row', edits);
    selectOnly(null);
  };
  const selectedTracks = tracksUnder(session, selected);
  const naming = selectedTracks.length > 0 ? selectedTracks : tracksInOrder(session);
  const shownName = (id: string, name: string): string =>
    proposal.rows.find((r) => r.trackId === id)?.name ?? name;

  const show = (to: 'tracks' | 'routing'): void => {
    setView(to);
    window.history.replaceState(null, '', to === 'routing' ? '?view=routing' : window.location.pathname);
  };

  const shortcuts = ((): Shortcut[] => {
    const step = (by: number, extend: boolean): void => {
      const next = rowFurther(rows, by);
      if (next === null) return;
      if (extend) selectUpTo(rows, next);
      else selectOnly(next);
    };
    const walk = (key: string, by: number): Shortcut[] =>
      [false, true].map((shift) => ({ key, shift, run: () => step(by, shift) }));
    const row = rows.find((r) => r.id === current);
    const fold = (on: boolean): void => {
      if (row?.kind !== 'folder') return;
      const next = new Set(folded);
      if (on) next.add(row.id);
      else next.delete(row.id);
      workbench.setState({ folded: next });
    };
    const shift = (by: -1 | 1): void => {
      if (sorted) return;
      const edits = moveEdits(session, [...selected], by);
      if (edits.length > 0)
        store.getState().commit(selected.size > 1 ? `Move ${selected.size} rows` : 'Move a row', edits);
    };
    const nest = (deeper: boolean): void => {
      if (sorted) return;
      const edits = nestEdits(session, [...selected], deeper);
      if (edits.length > 0)
        store.getState().commit(deeper ? 'Move into a folder' : 'Move out of a folder', edits);
    };
    return [
      ...walk('arrowdown', 1),
      ...walk('arrowup', -1),
      ...walk('pagedown', PAGE_ROWS),
      ...walk('pageup', -PAGE_ROWS),
      ...walk('home', -Infinity),
      ...walk('end', Infinity),
      { key: 'arrowdown', alt: true, run: () => shift(1) },
      { key: 'arrowup', alt: true, run: () => shift(-1) },
      { key: 'arrowright', alt: true, run: () => nest(true) },
      { key: 'arrowleft', alt: true, run: () => nest(false) },
      { key: 'arrowleft', run: () => fold(true) },
      { key: 'arrowright', run: () => fold(false) },
      {
        key: 'enter',
        run: () => {
          if (current) setEditing(current);
        },
      },
      { key: 'r', run: () => setRenaming(true) },
      { key: ',', run: () => stepRowHeight(rowHeight, -1) },
      { key: '.', run: () => stepRowHeight(rowHeight, 1) },
      { key: 'b', run: () => show(shownView === 'routing' ? 'tracks' : 'routing') },
      { key: 't', run: () => selectGroup(session, current) },
      { key: 'a', run: () => workbench.setState({ alone: !workbench.getState().alone }) },
      { key: 'q', run: onceRead.quick },
      { key: 'enter', mod: true, run: onceRead.main },
      { key: 'y', shift: false, run: onceRead.accept },
      { key: 'y', shift: true, run: onceRead.acceptHeard },
      { key: 's', run: () => player.toggleSolo(new Set(selectedTracks.map((t) => t.id))) },
      {
        key: 'm',
        run: () => {
          const on = selectedTracks.some((t) => !t.muted);
          commitGrouped(
            on ? 'Mute' : 'Unmute',
            selectedTracks.map((t) => ({
              kind: 'track.change',
              id: t.id,
              fields: { muted: on, byHand: [...new Set([...t.byHand, 'muted'])] },
            })),
          );
        },
      },
      {
        key: 'a',
        mod: true,
        run: () =>
          workbench.setState({ selected: new Set(rows.filter((r) => r.kind === 'track').map((r) => r.id)) }),
      },
      { key: 'delete', run: remove },
      { key: 'backspace', run: remove },
      ...(quick ? [] : [{ key: 'escape', run: () => selectOnly(null) }]),
    ];
  })();
  useShortcuts(shortcuts);

  if (tracksInOrder(session).length === 0)
    return (
      <section className="fm-pane" aria-label="Sort">
        <header className="fm-stage-head">
          <h1>Sort</h1>
        </header>
        <div className="fm-empty">
          <p>No tracks yet.</p>
          <p className="fm-faint">Each recording becomes a track as soon as it has arrived.</p>
          <a className="fm-button" href={`/sessions/${sessionId}/intake`}>
            Go to Intake
          </a>
        </div>
      </section>
    );
  return (
    <section className="fm-split" aria-label="Sort">
      <div className="fm-pane">
        <header className="fm-stage-head">
          <h1>Sort</h1>
          <div className="fm-views" role="group" aria-label="View">
            {VIEWS.map(([key, label]) => (
              <Button key={key} tone="quiet" isOn={shownView === key} onClick={() => show(key)}>
                {label}
                {key === 'routing' && astray > 0 ? <span className="fm-attention"> {astray}</span> : null}
              </Button>
            ))}{' '}
            <Kbd>B</Kbd>
          </div>
          <HowSure names={names} count={proposal.rows.length} doubtful={doubtful} unmatched={unmatched} />
          <span className="fm-top-spring" />
          <Dropdown>
            <Dropdown.Toggle as="button" type="button" className="fm-quiet">
              Rows
            </Dropdown.Toggle>
            <Dropdown.Menu>
              <Dropdown.Item onClick={() => setRenaming(true)}>
                Names of many <Kbd>R</Kbd>
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() => store.getState().commit('New folder', newFolderEdits(session, [...selected]))}
                disabled={selectedTracks.length === 0}
              >
                New folder from selection
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() =>
                  store.getState().commit(
                    'New group',
                    newGroupEdits(
                      session,
                      selectedTracks.map((t) => t.id),
                    ),
                  )
                }
                disabled={selectedTracks.length < 2}
              >
                Edit selected as one group
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() =>
                  store.getState().commit(
                    'Copy a name down',
                    copyNameEdits(
                      session,
                      selectedTracks.map((t) => t.id),
                    ),
                  )
                }
                disabled={selectedTracks.length < 2}
              >
                Copy the first name to all selected, numbered
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() => store.getState().commit('Remove empty folders', emptyFolderEdits(session))}
                disabled={emptyFolderEdits(session).length === 0}
              >
                Remove empty folders
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() =>
                  workbench.setState({
                    folded: new Set(
                      Object.values(session.nodes)
                        .filter((n) => n.kind === 'folder')
                        .map((n) => n.id),
                    ),
                  })
                }
              >
                Fold all
              </Dropdown.Item>
              <Dropdown.Item onClick={() => workbench.setState({ folded: new Set() })}>
                Unfold all
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() =>
                  workbench.setState({
                    folded: new Set(
                      Object.values(session.nodes)
                        .filter((n) => n.kind === 'folder' && !folded.has(n.id))
                        .map((n) => n.id),
                    ),
                  })
                }
              >
                Swap open and folded
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() => setTicks(new Map(open.map((r) => [r.trackId, true])))}
                disabled={open.length === 0}
              >
                Tick every proposal
              </Dropdown.Item>
              <Dropdown.Item
                onClick={() => setTicks(new Map(open.map((r) => [r.trackId, false])))}
                disabled={open.length === 0}
              >
                Untick every proposal
              </Dropdown.Item>
              <Dropdown.Divider />
              {ROW_LABELS.map(([height, label]) => (
                <Dropdown.Item
                  key={height}
                  aria-pressed={height === rowHeight}
                  className={height === rowHeight ? 'is-on' : ''}
                  onClick={() => setRowHeight(height)}
                >
                  {label}
                </Dropdown.Item>
              ))}
              <Dropdown.Divider />
              <Dropdown.Item
                onClick={() => {
                  setOverHand(!overHand);
                  setTicks(new Map());
                }}
              >
                {overHand ? 'Keep what was set by hand' : 'Propose also over what was set by hand'}
              </Dropdown.Item>
              <Dropdown.Item onClick={remove} disabled={selected.size === 0}>
                Remove selected; folders are taken apart
              </Dropdown.Item>
            </Dropdown.Menu>
          </Dropdown>
          {heard.length > 0 && (
            <Button
              tone="quiet"
              title={`Take what was heard for what they are: ${someNames(heard.map((r) => r.name))}. Their names say nothing`}
              onClick={acceptHeard}
            >
              Accept {heard.length} heard <Kbd>⇧Y</Kbd>
            </Button>
          )}
          {offersQuick(toAssign, quick, heard.length > 0 || main.kind === 'assign') && (
            <Button
              tone="quiet"
              isOn={quick}
              title="Hear the doubtful tracks one after the other; a digit says what each is"
              onClick={() => setQuick(!quick)}
            >
              Quick assign <Kbd>Q</Kbd>
            </Button>
          )}
          <Button
            tone="main"
            disabled={main.kind === 'none' || (main.kind === 'assign' && quick)}
            onClick={runMain}
          >
            {main.text} <Kbd>Ctrl ⏎</Kbd>
          </Button>
        </header>
        {quick && <QuickAssign onEnd={endQuick} />}
        {overHand && (
          <p className="fm-over-hand" role="status">
            <b>{overwritten.length}</b> {overwritten.length === 1 ? 'track that was' : 'tracks that were'} set
            by hand would be overwritten{overwritten.length > 0 ? `: ${overwrittenText(overwritten)}` : ''}.
            Names and colours of folders too.{' '}
            <Button tone="link" onClick={() => setOverHand(false)}>
              Keep them
            </Button>
          </p>
        )}
        {sorted && shownView === 'tracks' && (
          <p className="fm-over-hand" role="status">
            Sorted to look at: the order of the session stays.{' '}
            <Button tone="link" onClick={() => setSorted(null)}>
              Back to it
            </Button>
          </p>
        )}
        {shown.missed.length > 0 && (
          <p className="fm-over-hand" role="status">
            Not shown here, though of the same family: {someNames(shown.missed.map((t) => t.name))}.
          </p>
        )}
        {shownView === 'routing' ? (
          <RoutingPane />
        ) : (
          <Sheet
            rows={rows}
            sorted={sorted}
            onSort={setSorted}
            tickOf={tickOf}
            onTick={tick}
            editing={editing}
            onEdit={setEditing}
          />
        )}
      </div>
      <EvidencePanel proposal={proposal} />
      {renaming && (
        <NamesDialog
          tracks={naming}
          names={naming.map((t) => shownName(t.id, t.name))}
          onHide={() => setRenaming(false)}
        />
      )}
    </section>
  );
}

/** Rows a page key walks. */
const PAGE_ROWS = 15;
const NOTHING_FOLDED: ReadonlySet<string> = new Set();
const ROW_LABELS: readonly (readonly [RowHeight, string])[] = [
  ['low', 'Low rows'],
  ['middle', 'Higher rows'],
  ['tall', 'Tall rows'],
];
const VIEWS = [
  ['tracks', 'Tracks'],
  ['routing', 'Routing'],
] as const;

const MOST_NAMED = 4;
/** A few names, and how many more. */
const someNames = (names: readonly string[]): string =>
  `${names.slice(0, MOST_NAMED).join(', ')}${names.length > MOST_NAMED ? ` and ${names.length - MOST_NAMED} more` : ''}`;

const FIELD_WORDS: Readonly<Record<string, string>> = {
  busId: 'bus',
  place: 'place',
  color: 'colour',
  muted: 'mute',
};

/** Which tracks lose what was set by hand, in words. */
function overwrittenText(rows: readonly SortRow[]): string {
  const named = rows
    .slice(0, MOST_NAMED)
    .map((r) => `${r.name} (${r.overwrites.map((f) => FIELD_WORDS[f] ?? f).join(', ')})`)
    .join('; ');
  return rows.length > MOST_NAMED ? `${named} and ${rows.length - MOST_NAMED} more` : named;
}

/** What the main button leads to: applying; where nothing certain is left, the doubtful ones by ear; else the next stage. */
function nextStep(at: {
  readonly names: 'reading' | 'read' | 'failed';
  readonly canApply: boolean;
  readonly isSorted: boolean;
  readonly toAssign: number;
  readonly applyText: string;
}): { readonly kind: 'apply' | 'assign' | 'go-on' | 'none'; readonly text: string } {
  if (at.names !== 'read') return { kind: 'none', text: READING[at.names] };
  if (at.isSorted) return { kind: 'go-on', text: 'On to Tempo' };
  if (at.canApply) return { kind: 'apply', text: at.applyText };
  if (at.toAssign > 0) return { kind: 'assign', text: `Quick assign ${at.toAssign}` };
  return { kind: 'none', text: at.applyText };
}

/** While the worker has not read the names. */
const READING = { reading: 'Reading the names …', failed: 'Names not read, trying again' } as const;

/** How sure the proposals are, as a whole. */
function HowSure({
  names,
  count,
  doubtful,
  unmatched,
}: {
  readonly names: keyof typeof READING | 'read';
  readonly count: number;
  readonly doubtful: number;
  readonly unmatched: number;
}) {
  // The main button says what it waits for.
  if (names !== 'read') return null;
  if (doubtful + unmatched === 0)
    return (
      <span>
        all <b>{count}</b> certain
      </span>
    );
  return (
    <span className="fm-attention" title={`${doubtful} proposals to check, ${unmatched} that no rule met`}>
      {doubtful === 0
        ? `${unmatched} no rule`
        : `${doubtful}${unmatched > 0 ? ` + ${unmatched}` : ''} to check`}{' '}
      <Kbd>N</Kbd>
    </span>
  );
}

/** Whether quick assign has a button of its own: not beside another that offers the same tracks. */
const offersQuick = (toAssign: number, isOn: boolean, isOffered: boolean): boolean =>
  toAssign > 0 && (isOn || !isOffered);

/** What the main button applies: rows, else the sums that are left. */
function applyText(open: number, ticked: number, sums: number): string {
  if (open > 0) return `Apply ${ticked} of ${open}`;
  return sums === 0 ? 'Nothing to apply' : `Apply to ${sums} ${sums === 1 ? 'sum' : 'sums'}`;
}
