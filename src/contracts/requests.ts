import * as yup from 'yup';
import { ownWordSchema } from './house-style';
import { FAMILIES } from '@/core/naming';
import {
  type BarRange,
  BLOCK_LENGTHS,
  CONFORM_METHODS,
  EDIT_KINDS,
  type Edit,
  type MapFacts,
  MOST_KEPT_MAPS,
  type Treatment,
  MOST_NOTES,
} from '@/core/session';
import { CLICK_PARTS, CLICK_SOUNDS } from '@/core/time';
import { uuid } from './uuid';
import { mapFileSchema } from './map-file';
import { ids, isOwnId, numbers, rows } from './rows';

const text = (max: number) => yup.string().max(max);
const id = yup
  .string()
  .test('id', '${path} is not an id', (text) => text === undefined || isOwnId(text))
  .required();
/** Id of a bus; empty for what is no bus. */
const busId = yup
  .string()
  .test('id', '${path} is not an id', (text) => text == null || isOwnId(text))
  .nullable();
const color = yup
  .string()
  .matches(/^#[0-9a-f]{6}$/i)
  .nullable();
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

/** What {@link newSessionSchema} yields. */
export type NewSession = yup.InferType<typeof newSessionSchema>;

const evidence = yup
  .array(
    yup
      .object({
        kind: yup.string().oneOf(['word', 'rule', 'neighbour', 'sound']).required(),
        text: text(400).defined(),
        means: text(400).defined(),
      })
      .noUnknown(),
  )
  .max(60);

const decibels = yup.number().min(-120).max(24);
const sends = yup
  .array(
    yup
      .object({
        busId: id,
        gainDb: decibels.required(),
        pan: yup.number().min(-1).max(1).nullable().defined(),
        before: yup.boolean().required(),
      })
      .noUnknown(),
  )
  .max(40);

const mapFacts = yup
  .object({
    steady: yup.boolean().required(),
    bpm: yup.number().min(10).max(500).nullable().defined(),
    foundBy: text(64).nullable().defined().default(null),
    pulses: rows<MapFacts['pulses'][number]>({
      seconds: numbers(-86_400, 86_400),
      confidence: numbers(0, 1),
      begins: numbers(0, 1, { optional: true }),
      pinned: { type: 'boolean', optional: true },
    }).required(),
    endErrorSeconds: yup.number().min(0).max(60),
    checked: rows<{ seconds: number; right: boolean }>({
      seconds: numbers(-86_400, 86_400),
      right: { type: 'boolean' },
    }).max(1000),
  })
  .noUnknown();

const byHand = yup.array(text(40).required()).max(30);

const trackFields = yup
  .object({
    name: text(200).trim().min(1),
    family: yup.string().oneOf([...FAMILIES]),
    part: text(60).nullable(),
    role: text(60).nullable(),
    position: text(60).nullable(),
    side: text(60).nullable(),
    number: yup.number().integer().min(0).max(9999).nullable(),
    color,
    busId,
    sends,
    gainDb: decibels,
    pan: yup.number().min(-1).max(1),
    muted: yup.boolean(),
    startFrames: yup
      .number()
      .integer()
      .min(-(2 ** 40))
      .max(2 ** 40),
    inverted: yup.boolean(),
    monoFrom: yup.string().oneOf(['left', 'right']).nullable(),
    keepsSamples: yup.boolean(),
    tiedTo: yup.string().oneOf(['bars', 'time']),
    confidence: yup.number().min(0).max(1),
    evidence,
    byHand,
  })
  .noUnknown();

const bpm = yup.number().min(20).max(400).required();
/** Bars; missing stays missing, so that a setting reads back as it was written. */
const bar = yup.number().integer().min(1).max(100_000).required();
const keep = yup
  .array(
    yup
      .object({ fromBar: bar, toBar: bar.min(yup.ref('fromBar'), 'a range ends before it begins') })
      .noUnknown(),
  )
  .max(200);
const treatment = yup
  .object({
    method: yup
      .string()
      .oneOf([...CONFORM_METHODS])
      .required(),
    block: yup
      .string()
      .oneOf([...BLOCK_LENGTHS])
      .required(),
  })
  .noUnknown();
/** Track ids with their treatments: the names are data, so each is checked as one. */
const treatments = yup.lazy((value: unknown) => {
  const keys = typeof value === 'object' && value !== null ? Object.keys(value) : [];
  return yup
    .object(Object.fromEntries(keys.slice(0, 2000).map((k) => [k, treatment.required()])))
    .noUnknown()
    .test('ids', '${path} has names that are no ids', () => keys.every(isOwnId))
    .required();
});

const fields: { readonly [kind: string]: yup.ObjectSchema<object> } = {
  'session.describe': yup.object({ name: text(120).trim().min(1), artist: text(120), notes: text(4000) }),
  'session.rate': yup.object({ sampleRateHz: yup.number().integer().min(8000).max(384_000).required() }),
  'track.remove': yup.object({ id }),
  'track.change': yup.object({ id, fields: trackFields.required() }),
  'track.replace': yup.object({ id, recordingId: uuid(), receivedName: text(200).required() }),
  'folder.add': yup.object({
    folder: yup
      .object({
        kind: yup.string().oneOf(['folder']).required(),
        id,
        name: text(120).trim().min(1).required(),
        color: color.defined(),
        busId: busId.defined(),
      })
      .noUnknown(),
    parentId: id,
    index,
  }),
  'folder.remove': yup.object({ id }),
  'folder.change': yup.object({
    id,
    fields: yup
      .object({ name: text(120).trim().min(1), color, busId })
      .noUnknown()
      .required(),
  }),
  'node.place': yup.object({ id, parentId: id, index }),
  'bus.add': yup.object({
    bus: yup
      .object({
        id,
        name: text(120).trim().min(1).required(),
        color: color.defined(),
        kind: yup.string().oneOf(['sum', 'return']).default('sum'),
        outputBusId: busId.defined(),
        sends: sends.default([]),
        byHand: byHand.default([]),
      })
      .noUnknown(),
    index,
  }),
  'bus.remove': yup.object({ id }),
  'bus.change': yup.object({
    id,
    fields: yup
      .object({ name: text(120).trim().min(1), color, outputBusId: busId, sends, byHand })
      .noUnknown()
      .required(),
  }),
  'groups.set': yup.object({
    groups: yup
      .array(
        yup
          .object({
            id,
            name: text(120).trim().min(1).required(),
            trackIds: ids(2000).defined(),
            on: yup.boolean().required(),
            gainDb: decibels.required(),
            byHand: yup.boolean().required(),
          })
          .noUnknown(),
      )
      .max(200)
      .defined(),
  }),
  'map.replace': yup.object({
    map: mapFileSchema.nullable().defined().default(null),
    facts: mapFacts.nullable().defined().default(null),
  }),
  'maps.keep': yup.object({
    maps: yup
      .array(
        yup
          .object({
            id,
            name: text(120).trim().min(1).required(),
            map: mapFileSchema.required(),
            facts: mapFacts.nullable().defined().default(null),
            played: yup.boolean(),
          })
          .noUnknown(),
      )
      .max(MOST_KEPT_MAPS)
      .defined(),
  }),
  'session.cut': yup.object({ bars: yup.number().integer().min(0).max(16).nullable().defined() }),
  'timekeepers.choose': yup.object({ trackIds: ids(2000).nullable().defined() }),
  'words.set': yup.object({ words: yup.array(ownWordSchema).max(2000).defined() }),
  'style.use': yup.object({
    style: yup
      .object({ id: uuid(), version: yup.number().integer().min(1).required() })
      .noUnknown()
      .nullable()
      .defined()
      .default(null),
  }),
  'markers.set': yup.object({
    markers: yup
      .array(
        yup
          .object({
            id,
            name: text(120).trim().min(1).required(),
            seconds: yup.number().min(-86_400).max(86_400).required(),
          })
          .noUnknown(),
      )
      .max(2000)
      .defined(),
  }),
  'conform.set': yup.object({
    conform: yup
      .object({ bpm, treatments, keep, heard: yup.string().oneOf(['played', 'conformed']).required() })
      .noUnknown()
      .nullable()
      .defined()
      .default(null),
  }),
};

/** Kinds a page may send; tracks are added by arriving recordings only. */
const PAGE_KINDS = EDIT_KINDS.filter((k) => k !== 'track.add');

/** One edit of a request. */
export const editSchema = yup.lazy((value: unknown) => {
  const kind = (value as { kind?: unknown } | null)?.kind;
  const schema =
    typeof kind === 'string' && (PAGE_KINDS as readonly string[]).includes(kind) ? fields[kind] : undefined;
  return (schema ?? yup.object())
    .shape({
      kind: yup
        .string()
        .oneOf([...PAGE_KINDS])
        .required(),
    })
    .noUnknown();
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

/** What a page is answered that sent a batch. */
export interface BatchAnswer {
  readonly revision: number;
  /** All that was done after the revision the batch was made on, its own at the end; null = too much: ask for the whole. */
  readonly since: readonly CommittedBatch[] | null;
}

/** What the event stream tells a page. */
export interface SessionNews {
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
    bpm,
    treatments,
    keep,
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
export type PackageContents = 'played' | 'conformed' | 'both';

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
