'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import type { Finding } from '@/core/findings';
import { findingsOf, useSession, useSessionStore } from '@/ui/client';
import { Button, ColumnHead, differingPath, Line, Table, type TableOrder, TextInput } from '@/ui/kit';
import { marksOf, RecordingRow } from './recording-row';
import type { RecordingColumn } from './recording-order';
import type { IntakeInHand } from './use-intake-choice';

const COLUMNS: readonly (readonly [title: string, by: RecordingColumn, isFigure: boolean])[] = [
  ['As received', 'name', false],
  ['State', 'state', false],
  ['Rate', 'rate', true],
  ['Depth', 'depth', true],
  ['Channels', 'channels', false],
  ['Length', 'length', true],
  ['Peak dBFS', 'peak', true],
  ['LUFS', 'loudness', true],
  ['Size', 'size', true],
];

/** From so many on only those in sight are drawn. */
const LONG_LIST = 60;
/** A row of one line, CSS px; longer ones are measured. */
const ROW_PX = 34;
/** From so many on one searches. */
const SEARCHED_FROM = 8;

/** What came in, file by file. `scroller` is what it scrolls in. */
export function RecordingsTable({
  inHand,
  scroller,
}: {
  readonly inHand: IntakeInHand;
  readonly scroller: RefObject<HTMLDivElement | null>;
}) {
  const { recordings, order } = inHand;
  const total = useSession((s) => s.view.recordings.length);
  return (
    <>
      {total >= SEARCHED_FROM && (
        <Line gap={3} wraps className="fm-recordings-search">
          <TextInput
            type="search"
            className="fm-list-search"
            aria-label="Search recordings"
            placeholder="search recordings"
            value={inHand.search}
            onChange={(e) => inHand.find(e.target.value)}
          />
          {inHand.search !== '' && (
            <span role="status">
              {recordings.length === 0 ? 'Nothing is called so.' : `${recordings.length} of ${total}`}{' '}
              <Button tone="link" onClick={() => inHand.find('')}>
                Clear the search
              </Button>
            </span>
          )}
        </Line>
      )}
      <Table className="fm-recordings" aria-rowcount={recordings.length + 1}>
        <thead>
          <tr>
            {COLUMNS.map(([title, by, isFigure]) => (
              <ColumnHead<RecordingColumn>
                key={by}
                {...{ title, by, isFigure, order }}
                onOrder={(next: TableOrder<RecordingColumn>) => inHand.sort(next)}
              />
            ))}
          </tr>
        </thead>
        <Rows inHand={inHand} scroller={scroller} />
      </Table>
    </>
  );
}

function Rows({ inHand, scroller }: Parameters<typeof RecordingsTable>[0]) {
  const { recordings, recording, finding } = inHand;
  const body = useRef<HTMLTableSectionElement>(null);
  const [above, setAbove] = useState(0);
  const isLong = recordings.length > LONG_LIST;
  const rowOf = useRowOf(inHand);
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: recordings.length,
    enabled: isLong,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
    scrollMargin: above,
    initialRect: { width: 1000, height: 800 },
  });
  useEffect(() => {
    const [table, pane] = [body.current, scroller.current];
    if (table && pane)
      setAbove(table.getBoundingClientRect().top - pane.getBoundingClientRect().top + pane.scrollTop);
  }, [scroller, recordings.length, inHand.findings.length]);
  const at = finding || !recording ? -1 : recordings.indexOf(recording);
  useEffect(() => {
    if (at < 0) return;
    if (isLong) virtual.scrollToIndex(at);
    else body.current?.children[at]?.scrollIntoView({ block: 'nearest' });
    // Only where another is chosen, not wherever it moves to.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [recording?.id]);
  if (!isLong) return <tbody ref={body}>{recordings.map((_, i) => rowOf(i))}</tbody>;
  const shown = virtual.getVirtualItems();
  const before = (shown[0]?.start ?? above) - above;
  const after = virtual.getTotalSize() - ((shown.at(-1)?.end ?? above) - above);
  return (
    <tbody ref={body}>
      <Gap height={before} />
      {shown.map((item) => rowOf(item.index, virtual.measureElement))}
      <Gap height={after} />
    </tbody>
  );
}

/** Where rows are that are not drawn. */
const Gap = ({ height }: { readonly height: number }) =>
  height > 0 ? (
    <tr aria-hidden="true" className="fm-gap">
      <td colSpan={COLUMNS.length} style={{ height }} />
    </tr>
  ) : null;

/** Draws the recording at a place of the list. */
function useRowOf(
  inHand: IntakeInHand,
): (index: number, measure?: (row: HTMLTableRowElement | null) => void) => ReactNode {
  const view = useSession((s) => s.view);
  const store = useSessionStore();
  const { recordings, recording, finding, choose } = inHand;
  const { open } = findingsOf(view);
  const about = useMemo(() => findingsByFile(open), [open]);
  const shownName = useMemo(() => differingPath(recordings.map((r) => r.receivedName)), [recordings]);
  const used = useMemo(
    () =>
      new Set(Object.values(view.session.nodes).flatMap((n) => (n.kind === 'track' ? [n.recordingId] : []))),
    [view.session.nodes],
  );
  const jobs = useMemo(
    () =>
      new Map(
        view.jobs
          .filter((j) => j.state === 'running' || j.state === 'queued')
          .reverse()
          .map((j) => [j.subject, j]),
      ),
    [view.jobs],
  );
  const actions = useMemo(
    () => ({
      onSelect: (id: string): void => choose(id),
      onRetry: (id: string): void => void store.getState().call(`/api/recordings/${id}/retry`),
      onDismiss: (id: string): void =>
        void store.getState().call(`/api/recordings/${id}`, undefined, 'DELETE'),
    }),
    [store, choose],
  );
  const draw = (index: number, measure?: (row: HTMLTableRowElement | null) => void): ReactNode => {
    const r = recordings[index];
    return (
      r && (
        <RecordingRow
          key={r.id}
          recording={r}
          job={jobs.get(r.receivedName) ?? null}
          sessionRateHz={view.session.sampleRateHz}
          inSession={used.has(r.id)}
          marks={marksOf(about.get(r.id) ?? [])}
          {...shownName(r.receivedName)}
          here={finding === null && recording?.id === r.id}
          index={index}
          measure={measure}
          {...actions}
        />
      )
    );
  };
  return draw;
}

/** Findings by the recordings they are about. */
function findingsByFile(open: readonly Finding[]): ReadonlyMap<string, readonly Finding[]> {
  const map = new Map<string, Finding[]>();
  for (const f of open)
    for (const id of new Set(f.files.flatMap((p) => (p.other === null ? [p.id] : [p.id, p.other]))))
      map.set(id, [...(map.get(id) ?? []), f]);
  return map;
}
