import type { MenuItem } from '@/ui/kit';
import { isEdited } from './cell-edits';
import type { RowCommands } from './row-commands';
import { type RowHeight, setRowHeight } from './row-height';
import type { SheetRow } from './rows';
import type { EditedCell } from './row-view';
import { COLUMNS, type ColumnId } from './sheet-columns';
import type { ProposalInHand } from './use-proposal';

const ROW_LABELS: readonly (readonly [RowHeight, string])[] = [
  ['low', 'Low rows'],
  ['middle', 'Higher rows'],
  ['tall', 'Tall rows'],
];

/** What the menus of the sheet offer. */
interface MenuContext {
  readonly commands: RowCommands;
  /** Tracks that are selected, those of selected folders too. */
  readonly trackCount: number;
  readonly rowCount: number;
  readonly onNames: () => void;
  readonly onMove: () => void;
}

const ofSelected = ({ commands, trackCount, onNames, onMove }: MenuContext): MenuItem[] => [
  { label: 'Names of many', keys: 'R', run: onNames },
  { label: 'Move in time', keys: 'W', run: onMove },
  { label: 'New folder from selection', isDisabled: trackCount === 0, run: commands.newFolder },
  { label: 'Edit selected as one group', isDisabled: trackCount < 2, run: commands.newGroup },
  {
    label: 'Copy the first name to all selected, numbered',
    isDisabled: trackCount < 2,
    run: commands.copyName,
  },
];

/** The menu over all rows. */
export function rowsMenu(
  context: MenuContext & {
    readonly inHand: ProposalInHand;
    readonly hasEmptyFolders: boolean;
    readonly rowHeight: RowHeight;
  },
): MenuItem[] {
  const { commands, inHand, hasEmptyFolders, rowHeight, rowCount } = context;
  return [
    ...ofSelected(context),
    { label: 'Remove empty folders', isDisabled: !hasEmptyFolders, run: commands.removeEmpty },
    { label: 'Fold all', run: () => commands.fold('all') },
    { label: 'Unfold all', run: () => commands.fold('none') },
    { label: 'Swap open and folded', run: () => commands.fold('swap') },
    {
      label: 'Tick every proposal',
      isDisabled: inHand.open.length === 0,
      run: () => inHand.tickAll(true),
    },
    {
      label: 'Untick every proposal',
      isDisabled: inHand.open.length === 0,
      run: () => inHand.tickAll(false),
    },
    'line',
    ...ROW_LABELS.map(([height, label]) => ({
      label,
      isOn: height === rowHeight,
      run: () => setRowHeight(height),
    })),
    'line',
    {
      label: inHand.overHand ? 'Keep what was set by hand' : 'Propose also over what was set by hand',
      run: () => inHand.proposeOverHand(!inHand.overHand),
    },
    {
      label: 'Remove selected; folders are taken apart',
      keys: '⌫',
      isDisabled: rowCount === 0,
      run: commands.remove,
    },
  ];
}

/** The menu of the rows at hand, as a right click on one of them asks for it. */
export function rowMenu(
  context: MenuContext & {
    readonly row: SheetRow;
    readonly columns: readonly ColumnId[];
    readonly isMuted: boolean;
    readonly isProposed: boolean;
    readonly inHand: ProposalInHand;
    readonly onEdit: (cell: EditedCell) => void;
  },
): MenuItem[] {
  const { commands, row, trackCount, rowCount, isMuted, inHand, onEdit } = context;
  const isTrack = row.kind === 'track';
  const cells = isTrack ? context.columns.filter(isEdited) : [];
  return [
    { label: 'Rename', keys: '⏎', run: () => onEdit({ id: row.id, column: 'name' }) },
    ...cells.map((column) => ({
      label: `Edit ${COLUMNS[column].title.toLowerCase()}${trackCount > 1 ? ` of ${trackCount}` : ''}`,
      run: () => onEdit({ id: row.id, column }),
    })),
    ...(context.isProposed
      ? [{ label: 'Accept the proposal', keys: 'Y', run: () => inHand.accept(row.id) }]
      : []),
    'line',
    { label: 'Listen alone, or all again', keys: 'S', isDisabled: trackCount === 0, run: commands.alone },
    { label: isMuted ? 'Unmute' : 'Mute', keys: 'M', isDisabled: trackCount === 0, run: commands.mute },
    { label: 'Level and pan neutral', isDisabled: trackCount === 0, run: commands.neutral },
    'line',
    ...(isTrack ? [] : folderItems(row, commands)),
    ...ofSelected(context),
    { label: 'Let the house style decide again', isDisabled: trackCount === 0, run: commands.decideAgain },
    {
      label: rowCount > 1 ? `Remove ${rowCount} rows` : isTrack ? 'Remove' : 'Take the folder apart',
      keys: '⌫',
      run: commands.remove,
    },
  ];
}

const folderItems = (row: Extract<SheetRow, { kind: 'folder' }>, commands: RowCommands): MenuItem[] => [
  {
    label: row.folded ? 'Unfold' : 'Fold',
    keys: row.folded ? '→' : '←',
    run: () => commands.foldRow(row.id, !row.folded),
  },
  { label: 'Select all its tracks', run: commands.selectInside },
];
