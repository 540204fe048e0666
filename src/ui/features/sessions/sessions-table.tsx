'use client';
import Link from 'next/link';
import { useStore } from 'zustand';
import { type SessionListItem, type Shelf, WASTE_DAYS } from '@/contracts';
import { uploadsStore } from '@/ui/client';
import {
  Button,
  CheckBox,
  ColumnHead,
  formatBytes,
  formatDuration,
  formatPercent,
  Icon,
  IconButton,
  Menu,
  type MenuItem,
  Table,
} from '@/ui/kit';
import type { ListColumn, ListOrder, ListRow } from './list-order';

interface TableProps {
  readonly rows: readonly ListRow[];
  readonly shelf: Shelf;
  readonly order: ListOrder;
  readonly onOrder: (order: ListOrder) => void;
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (ids: ReadonlySet<string>) => void;
  readonly onMeasure: (song: SessionListItem) => void;
  readonly onOpenMatters: (project: string) => void;
  readonly onPut: (songs: readonly SessionListItem[], to: Shelf) => void;
  readonly onCopy: (song: SessionListItem) => void;
  readonly onDelete: (songs: readonly SessionListItem[]) => void;
}

const COLUMNS: readonly (readonly [title: string, by: ListColumn | null, isFigure: boolean])[] = [
  ['Song', 'name', false],
  ['Artist', 'artist', false],
  ['Tracks', 'tracks', true],
  ['Length', 'length', true],
  ['Size', 'size', true],
  ['Tempo', null, false],
  ['Handover', null, false],
  ['Last change', 'changed', false],
];

/** Sessions in rows: sorted by a click on a column's name, chosen by their boxes. */
export function SessionsTable({ rows, chosen, onChoose, ...props }: TableProps) {
  const songs = rows.flatMap((r) => (r.kind === 'song' ? [r.song] : []));
  const isAll = songs.length > 0 && songs.every((s) => chosen.has(s.id));
  const choose = (ids: readonly string[], on: boolean): void => {
    const next = new Set(chosen);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    onChoose(next);
  };
  if (songs.length === 0) return null;
  return (
    <Table className="fm-session-list">
      <thead>
        <tr>
          <th>
            <CheckBox
              aria-label="Select all sessions shown"
              checked={isAll}
              onChange={(e) =>
                choose(
                  songs.map((s) => s.id),
                  e.target.checked,
                )
              }
            />
          </th>
          {COLUMNS.map(([title, by, isFigure]) => (
            <ColumnHead<ListColumn>
              key={title}
              title={by === 'changed' && props.shelf === 'waste' ? 'Kept' : title}
              by={by}
              isFigure={isFigure}
              isDownFirst={isFigure || by === 'changed'}
              order={props.order}
              onOrder={props.onOrder}
            />
          ))}
          <th>
            <span className="fm-unseen">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) =>
          row.kind === 'project' ? (
            <tr key={`project ${row.name}`} className="fm-project">
              <td colSpan={COLUMNS.length + 2}>
                <b>{row.name}</b>{' '}
                <span className="fm-faint">
                  {row.songs.length} {row.songs.length === 1 ? 'song' : 'songs'}
                </span>{' '}
                <Button onClick={() => props.onOpenMatters(row.name)}>What is open</Button>
              </td>
            </tr>
          ) : (
            <SessionRow
              key={row.song.id}
              {...props}
              song={row.song}
              isChosen={chosen.has(row.song.id)}
              onTick={(on) => choose([row.song.id], on)}
            />
          ),
        )}
      </tbody>
    </Table>
  );
}

type RowProps = Omit<TableProps, 'rows' | 'chosen' | 'onChoose' | 'order' | 'onOrder'> & {
  readonly song: SessionListItem;
  readonly isChosen: boolean;
  readonly onTick: (on: boolean) => void;
};

function SessionRow({ song: s, isChosen, onTick, shelf, onMeasure, ...does }: RowProps) {
  return (
    <tr className={`${s.project ? 'fm-of-project' : ''}${isChosen ? ' is-chosen' : ''}`}>
      <td>
        <CheckBox
          aria-label={`Select ${s.name}`}
          checked={isChosen}
          onChange={(e) => onTick(e.target.checked)}
        />
      </td>
      <td>
        <Link href={`/sessions/${s.id}`} className="fm-strong-link">
          {s.name}
        </Link>
      </td>
      <td>{s.artist}</td>
      <td className="num">
        {s.trackCount}
        {s.recordingCount > s.trackCount ? <span className="fm-faint"> of {s.recordingCount}</span> : null}
      </td>
      <td className="num">{s.lengthSeconds > 0 ? formatDuration(s.lengthSeconds) : '–'}</td>
      <td className="num">
        <Button
          tone="quiet"
          className="fm-size"
          onClick={() => onMeasure(s)}
          title="Space on this disk, and cleaning up"
          aria-label={`Space of ${s.name}: ${formatBytes(s.sizeBytes)}`}
        >
          {formatBytes(s.sizeBytes)}
        </Button>
      </td>
      <td>{s.hasMap ? 'mapped' : <span className="fm-faint">not yet</span>}</td>
      <td>{s.handoverCount > 0 ? `v${s.handoverCount}` : <span className="fm-faint">not yet</span>}</td>
      <td>{s.deletedAt === null ? <LastChange song={s} /> : <LeftDays deletedAt={s.deletedAt} />}</td>
      <td className="fm-end">
        <span className="fm-row-actions">
          <Menu
            label={`More for ${s.name}`}
            className="fm-quiet fm-no-caret"
            items={rowItems(s, shelf, does)}
          >
            <Icon name="list" />
          </Menu>
          {shelf === 'waste' ? (
            <Button onClick={() => does.onPut([s], 'list')} aria-label={`Put ${s.name} back on the list`}>
              Put back
            </Button>
          ) : (
            <IconButton label={`Delete ${s.name}`} onClick={() => does.onPut([s], 'waste')}>
              <Icon name="trash3" />
            </IconButton>
          )}
        </span>
      </td>
    </tr>
  );
}

function rowItems(
  song: SessionListItem,
  shelf: Shelf,
  { onPut, onCopy, onDelete }: Pick<TableProps, 'onPut' | 'onCopy' | 'onDelete'>,
): MenuItem[] {
  return [
    { label: 'Duplicate', isDisabled: shelf === 'waste', run: () => onCopy(song) },
    ...(shelf === 'list' ? [{ label: 'Archive', run: () => onPut([song], 'archive') }] : []),
    ...(shelf !== 'list' ? [{ label: 'Put back on the list', run: () => onPut([song], 'list') }] : []),
    'line',
    shelf === 'waste'
      ? { label: 'Delete for good', run: () => onDelete([song]) }
      : { label: 'Delete', run: () => onPut([song], 'waste') },
  ];
}

const When = ({ at }: { readonly at: string }) => (
  <time dateTime={at} suppressHydrationWarning>
    {new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
  </time>
);

const DAY_MS = 86_400_000;

/** Until when the waste basket keeps it. */
function LeftDays({ deletedAt }: { readonly deletedAt: string }) {
  const end = new Date(new Date(deletedAt).getTime() + WASTE_DAYS * DAY_MS);
  return (
    <span>
      kept until{' '}
      <time dateTime={end.toISOString()} suppressHydrationWarning>
        {end.toLocaleDateString('en-GB', { dateStyle: 'medium' })}
      </time>
    </span>
  );
}

/** What goes on in a session, files on their way or jobs, in the place of its last change: no row grows when work begins. */
function LastChange({ song }: { readonly song: SessionListItem }) {
  const sending = useStore(
    uploadsStore,
    (u) =>
      u.items.filter(
        (i) => i.sessionId === song.id && ['waiting', 'sending', 'paused', 'failed'].includes(i.state),
      ).length,
  );
  if (sending > 0)
    return (
      <span className="fm-note" role="status" title="From this page: keep it open">
        {sending} {sending === 1 ? 'file' : 'files'} being sent
      </span>
    );
  if (song.openJobs > 0)
    return (
      <span className="fm-note" role="status">
        {song.openJobs} {song.openJobs === 1 ? 'job' : 'jobs'} at work
        {song.jobProgress !== null ? ` · ${formatPercent(song.jobProgress)}` : ''}
      </span>
    );
  return <When at={song.updatedAt} />;
}
