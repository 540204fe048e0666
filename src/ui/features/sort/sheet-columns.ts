import { array, number, object, string } from 'yup';

/** What a sheet can show of a track, in the order it does until a person changes it. */
export const COLUMN_IDS = [
  'name',
  'kind',
  'role',
  'position',
  'bus',
  'level',
  'pan',
  'wave',
  'peak',
] as const;
export type ColumnId = (typeof COLUMN_IDS)[number];

interface SheetColumn {
  readonly title: string;
  /** Over the column, where that says more. */
  readonly head?: string;
  /** CSS px: as it comes, and the ends of what it can be made. */
  readonly width: number;
  readonly least: number;
  readonly most: number;
  readonly isFigure?: boolean;
  /** Shown until a person chooses. */
  readonly isShown?: boolean;
}

export const COLUMNS: Readonly<Record<ColumnId, SheetColumn>> = {
  name: {
    title: 'Name',
    head: 'Name · as received',
    width: 232,
    least: 140,
    most: 640,
    isShown: true,
  },
  kind: { title: 'Family and part', head: 'Family · part', width: 150, least: 80, most: 320, isShown: true },
  role: { title: 'Role', width: 90, least: 60, most: 200 },
  position: { title: 'Position', width: 96, least: 60, most: 200 },
  bus: { title: 'Bus', width: 104, least: 60, most: 240 },
  level: { title: 'Level', head: 'Level dB', width: 84, least: 56, most: 120, isFigure: true },
  pan: { title: 'Pan', width: 56, least: 48, most: 100, isFigure: true },
  wave: { title: 'Waveform', width: 60, least: 60, most: Infinity, isShown: true },
  peak: { title: 'Peak', width: 62, least: 56, most: 120, isFigure: true, isShown: true },
};

/** Columns as a person keeps them. */
export interface ColumnChoice {
  /** All columns; those to be shown stand so. */
  readonly order: readonly ColumnId[];
  readonly shown: ReadonlySet<ColumnId>;
  /** Widths set by hand, CSS px. */
  readonly widths: Readonly<Partial<Record<ColumnId, number>>>;
}

export const FIRST_CHOICE: ColumnChoice = {
  order: COLUMN_IDS,
  shown: new Set(COLUMN_IDS.filter((id) => COLUMNS[id].isShown)),
  widths: {},
};

/** What always stands in the sheet. */
export const isFixed = (id: ColumnId): boolean => id === 'name' || id === 'wave';

/** Columns as they lie in a sheet of some width. */
export interface SheetLayout {
  readonly columns: readonly ColumnId[];
  /** Chosen, but without room here. */
  readonly leftOut: readonly ColumnId[];
  /** CSS px. */
  readonly widths: Readonly<Record<ColumnId, number>>;
  /** From the left edge to the waveform, CSS px. */
  readonly before: number;
  readonly wave: number;
}

/** Tick, colour, picture; the mark at the end. The style sheet has the same figures (`.fm-sheet` in `fernmoss.css`), so that the first page needs no measuring. */
export const [BEFORE_COLUMNS, AFTER_COLUMNS] = [30 + 10 + 26, 30];
const [LEAST_NAME, MOST_NAME, LEAST_WAVE] = [232, 480, 60];
/** Of the room a wide window offers, names take this share, the waveform the rest. */
const SHARE_OF_NAMES = 0.3;
/** Where there is no room for all, the first of these goes first. */
const FIRST_LEFT_OUT: readonly ColumnId[] = ['position', 'role', 'pan', 'level', 'bus', 'kind', 'peak'];

/** Lays the chosen columns out in a sheet so wide. */
export function layOut(choice: ColumnChoice, sheetWidth: number): SheetLayout {
  const room = sheetWidth - BEFORE_COLUMNS - AFTER_COLUMNS;
  const nameLeast = choice.widths.name ?? LEAST_NAME;
  const widthOf = (id: ColumnId): number =>
    id === 'wave' ? LEAST_WAVE : id === 'name' ? nameLeast : (choice.widths[id] ?? COLUMNS[id].width);
  const needed = (ids: readonly ColumnId[]): number => ids.reduce((sum, id) => sum + widthOf(id), 0);
  let columns = choice.order.filter((id) => isFixed(id) || choice.shown.has(id));
  for (const id of FIRST_LEFT_OUT) {
    if (needed(columns) <= room) break;
    columns = columns.filter((c) => c !== id);
  }
  const free = room - needed(columns) + LEAST_WAVE;
  // Up to here the waveform gets all: its shape is what one looks for first.
  const beyond = Math.max(0, free - 2 * LEAST_NAME);
  const name = choice.widths.name ?? Math.min(MOST_NAME, LEAST_NAME + SHARE_OF_NAMES * beyond);
  const widths = Object.fromEntries(
    COLUMN_IDS.map((id) => [id, id === 'name' ? name : widthOf(id)]),
  ) as Record<ColumnId, number>;
  const wave = Math.max(LEAST_WAVE, free - (name - nameLeast));
  const before = columns
    .slice(0, columns.indexOf('wave'))
    .reduce((sum, id) => sum + widths[id], BEFORE_COLUMNS);
  return {
    columns,
    leftOut: choice.order.filter((id) => choice.shown.has(id) && !columns.includes(id)),
    widths: { ...widths, wave },
    before,
    wave,
  };
}

const isColumn = (id: unknown): id is ColumnId => COLUMN_IDS.includes(id as ColumnId);

const keptSchema = object({
  order: array(string().required()).max(40).required(),
  shown: array(string().required()).max(40).required(),
  widths: object().required(),
}).noUnknown();
const widthSchema = number().required().min(1).max(2000);

/** Columns as they were kept; what cannot be read, or is not known any more, is as it comes. */
export function readChoice(kept: string | undefined): ColumnChoice {
  try {
    const { order, shown, widths } = keptSchema.validateSync(JSON.parse(kept ?? ''), { strict: true });
    const known = [...new Set(order.filter(isColumn))];
    return {
      order: [...known, ...COLUMN_IDS.filter((id) => !known.includes(id))],
      shown: new Set(shown.filter(isColumn)),
      widths: Object.fromEntries(
        Object.entries(widths).flatMap(([id, width]) =>
          isColumn(id) && id !== 'wave' && widthSchema.isValidSync(width, { strict: true })
            ? [[id, within(id, width)]]
            : [],
        ),
      ),
    };
  } catch {
    return FIRST_CHOICE;
  }
}

/** As {@link readChoice} reads it. */
export const keptText = ({ order, shown, widths }: ColumnChoice): string =>
  JSON.stringify({ order, shown: [...shown], widths });

/** A width that a column can have, whole CSS px. */
export const within = (id: ColumnId, width: number): number =>
  Math.round(Math.max(COLUMNS[id].least, Math.min(COLUMNS[id].most, width)));

/** With a column where another stands, which gives way. */
export function movedTo(choice: ColumnChoice, id: ColumnId, target: ColumnId): ColumnChoice {
  const { order } = choice;
  const rest = order.filter((c) => c !== id);
  const at = rest.indexOf(target) + (order.indexOf(id) < order.indexOf(target) ? 1 : 0);
  return { ...choice, order: [...rest.slice(0, at), id, ...rest.slice(at)] };
}

/** With a column one further left (−1) or right (1) among those shown. */
export function moved(choice: ColumnChoice, id: ColumnId, by: -1 | 1): ColumnChoice {
  const seen = choice.order.filter((c) => isFixed(c) || choice.shown.has(c));
  const other = seen[seen.indexOf(id) + by];
  return other === undefined ? choice : movedTo(choice, id, other);
}
