'use client';
import { type SessionListItem, type Shelf, WASTE_DAYS } from '@/contracts';
import { Button } from '@/ui/kit';

/** Sessions that were just put elsewhere. */
export interface Moved {
  readonly songs: readonly SessionListItem[];
  readonly from: Shelf;
  readonly to: Shelf;
}

const counted = (songs: readonly SessionListItem[]): string =>
  songs.length === 1 ? `“${songs[0]?.name ?? ''}”` : `${songs.length} sessions`;

const WHERE: Readonly<Record<Shelf, string>> = {
  list: 'on the list again',
  archive: 'in the archive',
  waste: `in the waste basket, and kept there for ${WASTE_DAYS} days`,
};

/** Says where sessions went, and takes them back. */
export function ShelfNotice({
  moved: { songs, from, to },
  onBack,
  onClose,
}: {
  readonly moved: Moved;
  readonly onBack: (songs: readonly SessionListItem[], to: Shelf) => void;
  readonly onClose: () => void;
}) {
  // As they stand now: what is put back was put from here.
  const now = songs.map((s) => ({ ...s, shelf: to }));
  return (
    <p className="fm-over-hand" role="status">
      {counted(songs)} {songs.length === 1 ? 'is' : 'are'} {WHERE[to]}.{' '}
      <Button
        tone="link"
        onClick={() => {
          onClose();
          onBack(now, from);
        }}
      >
        Undo
      </Button>{' '}
      <Button tone="link" onClick={onClose}>
        Close
      </Button>
    </p>
  );
}

/** What can be done to the chosen sessions together. */
export function SelectionBar({
  selected,
  shelf,
  onPut,
  onDelete,
}: {
  readonly selected: readonly SessionListItem[];
  readonly shelf: Shelf;
  readonly onPut: (songs: readonly SessionListItem[], to: Shelf) => void;
  readonly onDelete: (songs: readonly SessionListItem[]) => void;
}) {
  if (selected.length === 0) return null;
  return (
    <div className="fm-selection-bar" role="group" aria-label="Selected sessions">
      <span>{selected.length} selected</span>
      {shelf !== 'list' && <Button onClick={() => onPut(selected, 'list')}>Put back on the list</Button>}
      {shelf === 'list' && <Button onClick={() => onPut(selected, 'archive')}>Archive</Button>}
      {shelf === 'waste' ? (
        <Button tone="danger" onClick={() => onDelete(selected)}>
          Delete for good
        </Button>
      ) : (
        <Button onClick={() => onPut(selected, 'waste')}>Delete</Button>
      )}
    </div>
  );
}
