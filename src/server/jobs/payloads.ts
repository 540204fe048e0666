import * as yup from 'yup';
import { type JobKind, PACKAGE_CONTENTS } from '@/contracts';
import { numbers, rows, TREATMENT_SCHEMAS, uuid } from '@/core/session';

const frames = yup.number().integer().required();
const id = yup.string().max(64).required();

/** A moment of the song as played, and where it is in the conformed one; s. */
interface Peg {
  readonly played: number;
  readonly conformed: number;
}

const FAR = 1e9;

/** Recordings of one group, and what is to become of them. */
const renderRequest = yup
  .object({
    /** Whom it is for, for people. */
    subject: yup.string().defined(),
    ...TREATMENT_SCHEMAS,
    pegs: rows<Peg>({ played: numbers(-FAR, FAR), conformed: numbers(-FAR, FAR) }).required(),
    /** Only this part of the conformed song, frames; null = all of it. */
    excerpt: yup.object({ from: frames, to: frames }).nullable().defined(),
    sources: yup
      .array(
        yup
          .object({
            trackId: id,
            /** Missing in what was asked for before tracks had several lanes. */
            laneId: yup.string().max(64).default(''),
            /** Blob at the session's rate. */
            sha256: yup.string().required(),
            startFrames: frames,
            rank: yup.number().required(),
            /** Name of the result: the hash of all that decides its bytes. */
            key: yup.string().required(),
          })
          .required(),
      )
      .required(),
  })
  .required();

/** What each kind of job is given: checked when it is claimed, as it may have been asked for by another version of this program. */
export const JOB_PAYLOADS = {
  'recording.arrive': yup.object({
    recordingId: uuid().required(),
    path: yup.string().required(),
    /** The file is not ours: it stays where it is, and its sound is read there. */
    inPlace: yup.boolean().default(false),
    /** Archives it came out of. */
    depth: yup.number().integer().default(0),
  }),
  'recording.listen': yup.object({ recordingId: uuid().required() }),
  'recording.convert': yup.object({
    recordingId: uuid().required(),
    toHz: yup.number().positive().required(),
    /** Its samples stay as they are, only said to be at that rate. */
    keepSamples: yup.boolean().default(false),
  }),
  'pair.join': yup.object({ trackIds: yup.array(id).length(2).required() }),
  'session.relate': yup.object({}),
  'places.find': yup.object({ folder: yup.string().nullable().defined() }),
  'places.copy-in': yup.object({}),
  'tempo.detect': yup.object({
    sessionId: uuid().required(),
    /** Null = it chooses. */
    timekeepers: yup.array(id).nullable().defined(),
    /** Only between two pulses of the map, by their index. */
    between: yup.object({ from: frames, to: frames }).nullable().default(null),
  }),
  'balance.find': yup.object({ sessionId: uuid().required() }),
  'sections.find': yup.object({ sessionId: uuid().required() }),
  'takes.find': yup.object({ sessionId: uuid().required() }),
  'loudness.measure': yup.object({ sessionId: uuid().required() }),
  'conform.render': renderRequest,
  'conform.audition': yup.object({ requests: yup.array(renderRequest).required() }),
  'package.build': yup.object({
    handoverId: uuid().required(),
    contents: yup
      .string()
      .oneOf([...PACKAGE_CONTENTS])
      .default('played'),
    /** Where it is copied to as well; null = nowhere. */
    folder: yup.string().nullable().default(null),
  }),
  'package.copy': yup.object({ handoverId: uuid().required(), folder: yup.string().required() }),
  'demo.make': yup.object({ untouched: uuid().required(), carried: uuid().required() }),
} satisfies Readonly<Record<JobKind, yup.AnySchema>>;

/** All the way down. */
type Frozen<T> = { readonly [P in keyof T]: Frozen<T[P]> };

/** What a job of a kind is given. */
export type JobPayload<K extends JobKind> = Frozen<yup.InferType<(typeof JOB_PAYLOADS)[K]>>;

/** A payload as its kind says; null = it is something else. */
export function payloadOf<K extends JobKind>(kind: K, payload: unknown): JobPayload<K> | null {
  try {
    return (JOB_PAYLOADS[kind] as yup.AnySchema).validateSync(payload) as JobPayload<K>;
  } catch {
    return null;
  }
}
