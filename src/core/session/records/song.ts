import * as yup from 'yup';
import { type Field, integer, nullable, text, whole } from './field';
import { kind } from './kind';
import { ids, isOwnId } from './plain-rows';
import { uuid } from './uuid';

/** Longest notes of a session, characters. */
export const MOST_NOTES = 4000;

/** How material follows a new tempo: cut and moved, held by a phase vocoder, moved without stretching, or tied to time (it stays where it is). */
export type ConformMethod = 'slices' | 'held' | 'none' | 'still';

/** All methods. */
export const CONFORM_METHODS = [
  'slices',
  'held',
  'none',
  'still',
] as const satisfies readonly ConformMethod[];

/** Length of the phase vocoder's block: what is held longest without beating against what is hit sharpest. */
export type BlockLength = 'long' | 'middle' | 'short';

/** All block lengths. */
export const BLOCK_LENGTHS = ['long', 'middle', 'short'] as const satisfies readonly BlockLength[];

/** A method and, where it is held, the block. */
export interface Treatment {
  readonly method: ConformMethod;
  readonly block: BlockLength;
}

/** Bars from the first to the last, both included, as the played map counts them. */
export interface BarRange {
  readonly fromBar: number;
  readonly toBar: number;
}

/** An accepted conforming. The map as played stays; which of the two is heard and handed over is `heard`. */
export interface ConformSettings {
  /** Pulses a minute. */
  readonly bpm: number;
  /** Choices of the person by track id; other tracks get what suits their family. */
  readonly treatments: Readonly<Record<string, Treatment>>;
  /** Bars tied to time: they keep the tempo they were played in; missing = none. */
  readonly keep?: readonly BarRange[];
  readonly heard: 'played' | 'conformed';
}

/** Which house style a session follows. */
export interface StyleRef {
  readonly id: string;
  readonly version: number;
}

const bar = yup.number().integer().min(1).max(100_000).required();
/** Schemas of the fields of a {@link Treatment}. */
export const TREATMENT_SCHEMAS = {
  method: yup
    .string()
    .oneOf([...CONFORM_METHODS])
    .required(),
  block: yup
    .string()
    .oneOf([...BLOCK_LENGTHS])
    .required(),
};
const treatment = yup.object(TREATMENT_SCHEMAS).noUnknown();

/** Schemas of what a conforming is made with. */
export const CONFORM_SCHEMAS = {
  bpm: yup.number().min(20).max(400).required(),
  /** Track ids with their treatments: the names are data, so each is checked as one. */
  treatments: yup.lazy((value: unknown) => {
    const keys = typeof value === 'object' && value !== null ? Object.keys(value) : [];
    return yup
      .object(Object.fromEntries(keys.slice(0, 2000).map((k) => [k, treatment.required()])))
      .noUnknown()
      .test('ids', '${path} has names that are no ids', () => keys.every(isOwnId))
      .required();
  }),
  /** Missing stays missing, so that a setting reads back as it was written. */
  keep: yup
    .array(
      yup
        .object({ fromBar: bar, toBar: bar.min(yup.ref('fromBar'), 'a range ends before it begins') })
        .noUnknown(),
    )
    .max(200),
};

const conforming = yup
  .object({ ...CONFORM_SCHEMAS, heard: yup.string().oneOf(['played', 'conformed']).required() })
  .noUnknown()
  .default(undefined);
const styleRef = yup
  .object({ id: uuid(), version: yup.number().integer().min(1).required() })
  .noUnknown()
  .default(undefined);

const conform = (): Field<ConformSettings> =>
  whole<ConformSettings>(
    conforming,
    (random, known) => ({
      bpm: 60 + Math.floor(40 * random()),
      treatments: Object.fromEntries(
        known.filter(() => random() < 0.3).map((id) => [id, { method: 'held', block: 'long' } as const]),
      ),
      heard: random() < 0.5 ? 'played' : 'conformed',
    }),
    { merge: 'parts' },
  );
const style = (): Field<StyleRef> =>
  whole<StyleRef>(styleRef, (random) => ({
    id: `00000000-0000-4000-8000-00000000000${Math.floor(10 * random())}`,
    version: 1 + Math.floor(3 * random()),
  }));
const trackIds = (): Field<readonly string[]> =>
  whole<readonly string[]>(ids(2000), (random, known) => known.filter(() => random() < 0.4));

/** What is said of the song as a whole: a session has one. */
export const SONG = kind(
  'sessions',
  {
    name: text(120, { min: 1 }),
    artist: text(120, { initial: '' }),
    notes: text(MOST_NOTES, { initial: '' }),
    /** Key of the song as a person says it, `G minor`; empty = not said. */
    key: text(40, { initial: '' }),
    /** Null until the first recording says it. */
    sampleRateHz: nullable(integer(8000, 384_000)),
    /** Track ids chosen to keep the time; null = let the detection choose. Ids of tracks that went are kept and do nothing: a choice taken back must always fit. */
    timekeepers: nullable(trackIds()),
    /** It is handed over from so many bars before the first downbeat, and what lies before is cut; null = from wherever sound begins. */
    cutBars: nullable(integer(0, 16)),
    /** Null = the style every house begins with. */
    style: nullable(style()),
    /** Null = as played. */
    conform: nullable(conform()),
  },
  ({ name }) => name,
  { isMadeByHand: false },
);
