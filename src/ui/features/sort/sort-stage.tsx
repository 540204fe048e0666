'use client';
import { useCallback, useMemo, useState } from 'react';
import { tracksInOrder, tracksUnder } from '@/core/session';
import { changesSomething } from '@/core/style';
import { selectOnly, useGoOn, useSession, useSessionStore, useWorkbench, workbench } from '@/ui/client';
import { later, type MenuItem, useShortcuts } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { groupKeys } from '@/ui/strips';
import { EvidencePanel } from './evidence-panel';
import { useGroupedCommit } from './fields';
import { emptyFolderEdits } from './moves';
import { QuickAssign } from './quick-assign';
import { RoutingPane } from './routing-pane';
import { trackNotes } from './routing-rows';
import { type RowCommands, rowCommands } from './row-commands';
import { stepRowHeight, useRowHeight } from './row-height';
import { rowMenu, rowsMenu } from './row-menu-items';
import type { SheetRow } from './rows';
import type { EditedCell } from './row-view';
import type { ColumnId } from './sheet-columns';
import { Sheet } from './sheet';
import { nextStep, SortHead } from './sort-head';
import { SORT_VIEWS, type SortView } from './sort-views';
import { SortNotes } from './sort-notes';
import { type ProposalInHand, useProposal } from './use-proposal';
import { openTakes } from './open-takes';
import { TakesView } from './takes-view';
import { KeptColumns } from './use-column-choice';
import { useOnceRead } from './use-once-read';
import { useSheetRows } from './use-sheet-rows';

// It brings the engine for patterns.
const NamesDialog = later(() => import('./names-dialog').then((m) => m.NamesDialog));
const MoveDialog = later(() => import('./move-dialog').then((m) => m.MoveDialog));

/** The sheet with what the house style proposes for every track. `keptColumns`: the columns as they were kept. */
export function SortStage({
  openAt,
  keptColumns,
}: {
  readonly openAt: SortView;
  readonly keptColumns: string | undefined;
}) {
  const hasTracks = useSession((s) => tracksInOrder(s.view.session).length > 0);
  if (!hasTracks) return <NoTracks />;
  return (
    <KeptColumns value={keptColumns}>
      <SortTracks openAt={openAt} />
    </KeptColumns>
  );
}

function SortTracks({ openAt }: { readonly openAt: SortView }) {
  const session = useSession((s) => s.view.session);
  const inHand = useProposal();
  const sheet = useSheetRows(inHand.proposal);
  const [editing, setEditing] = useState<EditedCell | null>(null);
  const [asks, setAsks] = useState<'names' | 'move' | null>(null);
  const [quick, setQuick] = useState(false);
  const [view, setView] = useView(openAt);
  const commands = useRowCommands(sheet.sorted !== null);
  const endQuick = useCallback(() => setQuick(false), []);
  const toAssign = inHand.names === 'read' ? inHand.doubtful + inHand.unmatched : 0;
  const goOn = useGoOn('tidy');
  const main = nextStep(inHand, toAssign, tracksInOrder(session).length);
  const runMain = {
    apply: inHand.apply,
    assign: () => setQuick(true),
    'go-on': goOn,
    none: () => undefined,
  }[main.kind];
  const toggleQuick = (): void => setQuick(!quick && toAssign > 0);
  useSortKeys({
    inHand,
    commands,
    onMain: runMain,
    onQuick: toggleQuick,
    isQuick: quick,
    isTakes: view === 'takes',
    onNames: () => setAsks('names'),
    onMove: () => setAsks('move'),
    onView: () => setView(SORT_VIEWS[(SORT_VIEWS.indexOf(view) + 1) % SORT_VIEWS.length] as SortView),
  });
  const menus = useMenus(inHand, commands, setAsks, setEditing);
  const above = (
    <>
      <SortHead
        view={view}
        onView={setView}
        astray={useMemo(() => trackNotes(session).length, [session])}
        takes={useOpenTakes()}
        inHand={inHand}
        menu={menus.ofAll}
        quick={quick}
        onQuick={() => setQuick(!quick)}
        toAssign={toAssign}
        main={main}
        onMain={runMain}
      />
      {quick && <QuickAssign onEnd={endQuick} />}
      <SortNotes
        inHand={inHand}
        shown={sheet.shown}
        isSorted={sheet.sorted !== null && view === 'tracks'}
        onUnsort={() => sheet.setSorted(null)}
        isEmpty={sheet.rows.length === 0 && view === 'tracks'}
      />
    </>
  );
  const evidence = <EvidencePanel proposal={inHand.proposal} />;
  return (
    <section className="fm-split" aria-label="Sort">
      {view === 'takes' ? (
        <TakesView above={above} evidence={evidence} />
      ) : (
        <>
          <div className="fm-pane">
            {above}
            {view === 'routing' && <RoutingPane />}
            {view === 'tracks' && (
              <Sheet
                rows={sheet.rows}
                sorted={sheet.sorted}
                onSort={sheet.setSorted}
                tickOf={inHand.tickOf}
                onTick={inHand.tick}
                editing={editing}
                onEdit={setEditing}
                commands={commands}
                menuOf={menus.ofRow}
              />
            )}
          </div>
          {evidence}
        </>
      )}
      {asks === 'names' && <NamesOfMany inHand={inHand} onHide={() => setAsks(null)} />}
      {asks === 'move' && <MoveDialog onHide={() => setAsks(null)} />}
    </section>
  );
}

/** How many parts could be packed, and questions be answered. */
function useOpenTakes(): number {
  const view = useSession((s) => s.view);
  return useMemo(() => {
    const { offers, questions } = openTakes(view);
    return offers.length + questions.length;
  }, [view]);
}

/** Which view is shown; the address says it, for a link or a reload. */
function useView(openAt: SortView): readonly [SortView, (to: SortView) => void] {
  const [view, setView] = useState(openAt);
  const show = (to: SortView): void => {
    setView(to);
    window.history.replaceState(null, '', to === 'tracks' ? window.location.pathname : `?view=${to}`);
  };
  return [view, show];
}

function useRowCommands(isSorted: boolean): RowCommands {
  const store = useSessionStore();
  const player = usePlayer();
  const commitGrouped = useGroupedCommit();
  return rowCommands({ store, player, commitGrouped, isSorted });
}

/** Keys of the stage, whichever view it shows. */
function useSortKeys({
  inHand,
  commands,
  isQuick,
  isTakes,
  ...on
}: {
  readonly inHand: ProposalInHand;
  readonly commands: RowCommands;
  readonly isQuick: boolean;
  /** Takes have keys of their own in the place of some. */
  readonly isTakes: boolean;
  readonly onMain: () => void;
  readonly onQuick: () => void;
  readonly onNames: () => void;
  readonly onMove: () => void;
  readonly onView: () => void;
}): void {
  const store = useSessionStore();
  const rowHeight = useRowHeight();
  const onceRead = useOnceRead(inHand.names === 'reading', {
    main: on.onMain,
    quick: on.onQuick,
    accept: () => inHand.accept(workbench.getState().current),
    acceptHeard: inHand.acceptHeard,
  });
  const tick = (): void => {
    const ids = [...workbench.getState().selected].filter((id) => inHand.tickOf(id) !== null);
    const isOn = ids.some((id) => inHand.tickOf(id) === false);
    for (const id of ids) inHand.tick(id, isOn);
  };
  useShortcuts([
    { key: 'r', run: on.onNames },
    { key: 'w', run: on.onMove },
    { key: 'b', run: on.onView },
    ...(isTakes
      ? []
      : [
          { key: ',', run: () => stepRowHeight(rowHeight, -1) },
          { key: '.', run: () => stepRowHeight(rowHeight, 1) },
          ...groupKeys(() => store.getState().view.session),
        ]),
    { key: 'x', run: tick },
    { key: 'q', run: onceRead.quick },
    { key: 'enter', mod: true, run: onceRead.main },
    { key: 'y', shift: false, run: onceRead.accept },
    { key: 'y', shift: true, run: onceRead.acceptHeard },
    { key: 's', run: commands.alone },
    { key: 'm', run: commands.mute },
    ...(isQuick || isTakes ? [] : [{ key: 'escape', run: leaveSelection }]),
  ]);
}

/** Leaves the cell one stands on, and every row. */
function leaveSelection(): void {
  workbench.setState({ column: null });
  selectOnly(null);
}

/** The menus over all rows, and over one. */
function useMenus(
  inHand: ProposalInHand,
  commands: RowCommands,
  onAsk: (asks: 'names' | 'move') => void,
  onEdit: (cell: EditedCell) => void,
): {
  readonly ofAll: readonly MenuItem[];
  readonly ofRow: (row: SheetRow, columns: readonly ColumnId[]) => readonly MenuItem[];
} {
  const session = useSession((s) => s.view.session);
  const selected = useWorkbench((w) => w.selected);
  const rowHeight = useRowHeight();
  const tracks = tracksUnder(session, selected);
  const onNames = (): void => onAsk('names');
  const onMove = (): void => onAsk('move');
  const context = { commands, onNames, onMove, inHand, trackCount: tracks.length, rowCount: selected.size };
  return {
    ofAll: rowsMenu({ ...context, rowHeight, hasEmptyFolders: emptyFolderEdits(session).length > 0 }),
    ofRow: (row, columns) =>
      rowMenu({
        ...context,
        row,
        columns,
        onEdit,
        isMuted: tracks.length > 0 && tracks.every((t) => t.muted),
        isProposed: row.kind === 'track' && row.proposal !== null && changesSomething(row.proposal),
      }),
  };
}

/** Names of the selected tracks at once, or of all. */
function NamesOfMany({ inHand, onHide }: { readonly inHand: ProposalInHand; readonly onHide: () => void }) {
  const session = useSession((s) => s.view.session);
  const selected = useWorkbench((w) => w.selected);
  const chosen = tracksUnder(session, selected);
  const tracks = chosen.length > 0 ? chosen : tracksInOrder(session);
  const shownName = new Map(inHand.proposal.rows.map((r) => [r.trackId, r.name]));
  return (
    <NamesDialog tracks={tracks} names={tracks.map((t) => shownName.get(t.id) ?? t.name)} onHide={onHide} />
  );
}

function NoTracks() {
  const sessionId = useSession((s) => s.view.id);
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
}
