import * as yup from 'yup';
import {
  type BarRange,
  concerns,
  CONFORM_SCHEMAS,
  type Edit,
  ids,
  isOwnId,
  KINDS,
  MOST_NOTES,
  RECORD_KINDS,
  type RecordKind,
  type Treatment,
  uuid,
} from '@/core/session';
import { CLICK_PARTS, CLICK_SOUNDS } from '@/core/time';

const text = (max: number) => yup.string().max(max);
const id = yup
  .string()
  .test('id', '${path} is not an id', (text) => text === undefined || isOwnId(text))
  .required();
const index = yup.number().integer().min(0).required();

/** A new session. */
export const newSessionSchema = yup
  .object({
    name: text(120).trim().min(1, 'Give the song a name').required('Give the song a name'),
    artist: text(120).trim().default(''),
    notes: text(MOST_NOTES).trim().default(''),
    project: text(120).trim().default(''),
  })
  .noUnknown();

/** What is said of a song. */
export const describeSchema = newSessionSchema.pick(['name', 'artist', 'notes']).shape({
  key: text(40).trim().default(''),
});

/** What {@link newSessionSchema} yields. */
export type NewSession = yup.InferType<typeof newSessionSchema>;

/** Where a session stands: on the list, in the archive, or in the waste basket. */
export const SHELVES = ['list', 'archive', 'waste'] as const;
export type Shelf = (typeof SHELVES)[number];

/** Days a deleted session lies in the waste basket before it is gone for good. */
export const WASTE_DAYS = 30;

/** Sessions that are to stand elsewhere, all or none. */
export const shelfRequestSchema = yup
  .object({
    ids: yup.array(yup.string().uuid().required()).min(1).max(500).required(),
    shelf: yup.string().oneOf(SHELVES).required(),
  })
  .noUnknown();

/** What {@link shelfRequestSchema} yields. */
export type ShelfRequest = yup.InferType<typeof shelfRequestSchema>;

/** All fields of a kind that a page may set, each checked by the schema of its record. */
const fieldSchemas = (kind: RecordKind, isWhole: boolean): Record<string, yup.AnySchema> =>
  Object.fromEntries(
    Object.entries(KINDS[kind].fields)
      .filter(([, field]) => !(field.isReceived && isWhole))
      .map(([name, { schema, initial }]) => {
        const own: yup.AnySchema = schema;
        return [
          name,
          !isWhole ? own.default(undefined) : initial === undefined ? own.defined() : own.default(initial),
        ];
      }),
  );

const once = <T>(make: (kind: RecordKind) => T): ((kind: RecordKind) => T) => {
  const made = new Map<RecordKind, T>();
  return (kind) => {
    const known = made.get(kind) ?? make(kind);
    made.set(kind, known);
    return known;
  };
};

const EDIT_SCHEMAS: Readonly<Record<Edit['kind'], (of: RecordKind) => yup.ObjectSchema<object>>> = {
  put: once((of) => {
    const record = yup.object({ id, ...fieldSchemas(of, true) }).noUnknown();
    return yup.object({
      kind: yup.string().required(),
      of: yup.string().required(),
      record: record.required(),
    });
  }),
  patch: once((of) => {
    const some = yup.object(fieldSchemas(of, false)).noUnknown();
    return yup.object({
      kind: yup.string().required(),
      of: yup.string().required(),
      id,
      fields: some.required(),
    });
  }),
  remove: once(() => yup.object({ kind: yup.string().required(), of: yup.string().required(), id })),
};

/** What a page may do to records of a kind: what comes with recordings is changed or taken out, never made. */
const mayBe = (kind: Edit['kind'], of: RecordKind): boolean =>
  KINDS[of].isMadeByHand || kind === 'patch' || (kind === 'remove' && of === 'track');

/** One edit of a request. */
export const editSchema = yup.lazy((value: unknown) => {
  const { kind, of } = (value ?? {}) as { kind?: unknown; of?: unknown };
  const isKnown =
    typeof kind === 'string' &&
    Object.hasOwn(EDIT_SCHEMAS, kind) &&
    typeof of === 'string' &&
    (RECORD_KINDS as readonly string[]).includes(of) &&
    mayBe(kind as Edit['kind'], of as RecordKind);
  return isKnown
    ? EDIT_SCHEMAS[kind as Edit['kind']](of as RecordKind).noUnknown()
    : yup.object({ kind: yup.string().oneOf([], '${path} is no edit that a page can make').required() });
});

/** Edits of one request. */
const MOST_EDITS = 5000;

/** Edits the page wants done, as one undo step; each is checked by {@link editSchema}. */
export const editRequestSchema = yup
  .object({
    batchId: uuid().notRequired().nullable().default(null),
    baseRevision: yup.number().integer().min(0).required(),
    label: text(120).trim().min(1).required(),
    edits: yup.array().min(1).max(MOST_EDITS).required(),
  })
  .noUnknown();

/** What {@link editRequestSchema} yields. */
export interface EditRequest {
  /** Named by who made it: sent again it is not done twice; null = it is not sent again. */
  readonly batchId: string | null;
  /** What the edits were made on; what others did since is laid under them. */
  readonly baseRevision: number;
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** Whether a request says what family some track is of. */
export const saysFamily = ({ edits }: EditRequest): boolean => concerns(edits, 'track', 'family');

/** A batch as the server did it: its edits are laid over what others did. */
export interface CommittedBatch {
  readonly revision: number;
  /** As the page that made it named it; null = made on the server. */
  readonly batchId: string | null;
  readonly action: 'do' | 'undo' | 'redo';
  readonly undoable: boolean;
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** What undo and redo would be about; null = there is nothing. */
export interface StepLabels {
  readonly undoLabel: string | null;
  readonly redoLabel: string | null;
}

/** What a page is answered that sent a batch; with labels where steps were taken back or brought again. */
export interface BatchAnswer extends Partial<StepLabels> {
  readonly revision: number;
  /** All that was done after the revision the batch was made on, its own at the end; null = too much: ask for the whole. */
  readonly since: readonly CommittedBatch[] | null;
}

/** What the event stream tells a page; with labels where steps were taken back or brought again. */
export interface SessionNews extends Partial<StepLabels> {
  readonly revision: number;
  /** Another text whenever anything besides the steps changed: recordings, jobs, packages. */
  readonly rest: string;
  /** How far running jobs are, 0–1, by id. */
  readonly progress?: Readonly<Record<string, number>>;
  /** What was done since the message before; missing in the first one, null = too much. */
  readonly since?: readonly CommittedBatch[] | null | undefined;
}

/** Puts findings aside with a note (may be empty), or takes them up again (null). */
export const dismissRequestSchema = yup
  .object({
    keys: yup
      .array(
        yup
          .string()
          .matches(/^[a-z-]{2,40}( [0-9a-f]{64}){1,2}$/, 'not the key of a finding')
          .required(),
      )
      .min(1)
      .max(2000)
      .required(),
    note: text(400).trim().nullable().defined(),
  })
  .noUnknown();

/** What {@link dismissRequestSchema} yields. */
export interface DismissRequest {
  readonly keys: string[];
  readonly note: string | null;
}

/** Start of a tempo detection; null = let it choose its timekeepers. `between`: only from one pulse of the session's map to another, by index. */
export const detectRequestSchema = yup
  .object({
    timekeepers: ids(2000).nullable().default(null),
    between: yup.object({ from: index, to: index }).noUnknown().nullable().default(null),
  })
  .noUnknown();

/** What {@link detectRequestSchema} yields. */
export type DetectRequest = yup.InferType<typeof detectRequestSchema>;

/** How the click of a file sounds and counts, and what is heard beside it: nothing, all tracks, or one. */
export const clickRequestSchema = yup
  .object({
    sound: yup
      .string()
      .oneOf([...CLICK_SOUNDS])
      .default('tone'),
    parts: yup
      .number()
      .oneOf([...CLICK_PARTS])
      .default(1),
    bars: yup.number().integer().min(0).max(8).default(0),
    level: yup.number().min(-60).max(12).default(0),
    guide: yup
      .string()
      .matches(/^[A-Za-z0-9_-]{1,64}$/)
      .default('none'),
  })
  .noUnknown();

/** A click file asked for. */
export type ClickRequest = yup.InferType<typeof clickRequestSchema>;

/** Tracks heard in an audition, at most: rendering is to take seconds. Few of them are voices of their own, see the page. */
export const AUDITION_TRACKS = 24;

/** A part of the song to be heard at another tempo before anything is decided. Seconds of the conformed song. */
export const auditionRequestSchema = yup
  .object({
    ...CONFORM_SCHEMAS,
    fromSeconds: yup.number().min(0).max(36_000).required(),
    toSeconds: yup.number().moreThan(yup.ref('fromSeconds')).max(36_000).required(),
    trackIds: yup.array(id).min(1).max(AUDITION_TRACKS).required(),
  })
  .noUnknown();

/** What {@link auditionRequestSchema} yields. */
export interface AuditionRequest {
  readonly bpm: number;
  readonly treatments: Readonly<Record<string, Treatment>>;
  readonly keep?: readonly BarRange[];
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly trackIds: readonly string[];
}

/** A folder of this machine; whether it is allowed is asked where it is used. */
const path = yup
  .string()
  .max(4096)
  .matches(/^\/[^\0]*$/, 'a folder is named from the root on');

/** What a package is to hold: the recordings as played, or conformed; and an allowed folder to write it to as well. */
export const handoverRequestSchema = yup
  .object({
    contents: yup.string().oneOf(['played', 'conformed', 'both']).default('played'),
    folder: path.nullable().default(null),
  })
  .noUnknown();

/** The recordings as played, conformed, or both side by side. */
export const PACKAGE_CONTENTS = ['played', 'conformed', 'both'] as const;

/** One of {@link PACKAGE_CONTENTS}. */
export type PackageContents = (typeof PACKAGE_CONTENTS)[number];

/** What {@link handoverRequestSchema} yields. */
export interface HandoverRequest {
  readonly contents: PackageContents;
  readonly folder: string | null;
}

/** A name for the present state. */
export const checkpointRequestSchema = yup.object({ name: text(80).trim().min(1).required() }).noUnknown();

/** Where to go back to; 0 = as received. */
export const returnRequestSchema = yup
  .object({
    revision: yup.number().integer().min(0).required(),
    baseRevision: yup.number().integer().min(0).required(),
  })
  .noUnknown();

/** What to clean away of a session. */
export const cleanRequestSchema = yup
  .object({
    leftovers: yup.boolean().default(false),
    conformed: yup.boolean().default(false),
    packages: ids(1000).default([]),
  })
  .noUnknown();

/** What {@link cleanRequestSchema} yields. */
export interface CleanRequest {
  readonly leftovers: boolean;
  readonly conformed: boolean;
  readonly packages: readonly string[];
}

/** Files and folders of this machine to be used where they lie. */
export const inPlaceRequestSchema = yup
  .object({ paths: yup.array(path.required()).min(1).max(2000).required() })
  .noUnknown();

/** An allowed folder to look for lost files in; null = only where they were. */
export const findRequestSchema = yup.object({ folder: path.nullable().default(null) }).noUnknown();

/** A new house style: the text of a file, or a copy of one that is there. */
export const newStyleSchema = yup
  .object({
    text: yup.string().max(11 << 20),
    copyOf: yup
      .object({ id: uuid(), version: yup.number().integer().min(1).nullable().default(null) })
      .noUnknown()
      .default(undefined),
    name: text(80).trim().min(1),
  })
  .noUnknown()
  .test('one', 'give a file or a style to copy', (v) => (v.text !== undefined) !== (v.copyOf !== undefined));

/** What {@link newStyleSchema} yields. */
export type NewStyle = yup.InferType<typeof newStyleSchema>;

/** A changed house style; what it must be is said by its own schema. */
export const saveStyleSchema = yup
  .object({
    base: yup.number().integer().min(1).required(),
    style: yup.mixed().required(),
    note: text(200).trim().default(''),
  })
  .noUnknown();

/** What {@link saveStyleSchema} yields. */
export interface SaveStyle {
  readonly base: number;
  readonly style: unknown;
  readonly note: string;
}

/** Two tracks to be joined, or one to be split. */
export const pairRequestSchema = yup
  .object({
    join: yup.array(id).length(2).default(undefined),
    split: yup.string().matches(/^[A-Za-z0-9_-]{1,64}$/, '${path} is not an id'),
  })
  .noUnknown()
  .test(
    'one',
    'give two tracks to join, or one to split',
    (v) => (v.join === undefined) !== (v.split === undefined),
  );

/** What {@link pairRequestSchema} yields. */
export type PairRequest = yup.InferType<typeof pairRequestSchema>;

/** An allowed folder to write a package to. */
export const copyRequestSchema = yup.object({ folder: path.required() }).noUnknown();
