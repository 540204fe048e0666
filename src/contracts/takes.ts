import * as yup from 'yup';

const trackId = () =>
  yup
    .string()
    .matches(/^[A-Za-z0-9_-]{1,64}$/, '${path} is not an id')
    .required();
const tracks = () => yup.array(trackId()).min(2).required();

const piece = () =>
  yup
    .object({
      trackId: trackId(),
      /** Null = from its beginning; to its end. */
      fromSeconds: yup.number().min(0).nullable().defined(),
      toSeconds: yup.number().min(0).nullable().defined(),
    })
    .noUnknown()
    .required();

const takesSchema = yup
  .object({
    takes: yup
      .array(
        yup
          .object({
            /** In the order of the takes. */
            lanes: yup
              .array(
                yup
                  .object({
                    trackId: trackId(),
                    number: yup.number().integer().min(1).max(9999).required(),
                    confidence: yup.number().required(),
                  })
                  .required(),
              )
              .min(2)
              .required(),
            /** The lane that is in the song, as far as something says so. */
            wantedId: yup.string().nullable().defined(),
            /** Where each sounds, of what follows one another; null = one sounds throughout. */
            pieces: yup.array(piece()).min(1).nullable().defined(),
            reason: yup.string().required(),
          })
          .required(),
      )
      .required(),
    /** Look-alikes that sound together. */
    together: yup
      .array(yup.object({ trackIds: tracks(), reason: yup.string().required() }).required())
      .required(),
    questions: yup
      .array(yup.object({ trackIds: tracks(), question: yup.string().required() }).required())
      .required(),
    /** The track whose mix was asked; null = there was none. */
    mixTrackId: yup.string().nullable().defined(),
  })
  .required();

/** Takes that were found in a session. */
export type TakesResult = yup.InferType<typeof takesSchema>;

/** What a job kept; null where it was kept in another way than today. */
export const readTakes = (kept: unknown): TakesResult | null =>
  takesSchema.isValidSync(kept, { strict: true }) ? kept : null;

const NAMED = ['find', 'pack', 'unpack'] as const;

/** To look for takes, to make lanes of tracks, or tracks of lanes again. */
export const takesRequestSchema = yup
  .object({
    find: yup.boolean().oneOf([true]),
    pack: yup
      .object({
        /** Each lists its tracks in the order of the takes; `id` is the one that stays and sounds. */
        groups: yup
          .array(
            yup
              .object({
                id: trackId(),
                name: yup.string().trim().min(1).max(200).required(),
                lanes: yup
                  .array(
                    yup
                      .object({
                        trackId: trackId(),
                        takeNumber: yup.number().integer().min(1).max(9999).required(),
                      })
                      .noUnknown()
                      .required(),
                  )
                  .min(2)
                  .max(500)
                  .required(),
                pieces: yup.array(piece()).max(5000).nullable().default(null),
              })
              .noUnknown()
              .required(),
          )
          .min(1)
          .max(500)
          .required(),
      })
      .noUnknown()
      .default(undefined),
    unpack: yup.string().matches(/^[A-Za-z0-9_-]{1,64}$/, '${path} is not an id'),
  })
  .noUnknown()
  .test(
    'one',
    'say one of find, pack and unpack',
    (v) => NAMED.filter((n) => v[n] !== undefined).length === 1,
  );

/** What {@link takesRequestSchema} yields. */
export type TakesRequest = yup.InferType<typeof takesRequestSchema>;
