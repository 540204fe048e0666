import * as yup from 'yup';

const figure = () => yup.number().required();
const strip = { gainDb: figure(), pan: figure() };

/** What was found of the levels of a session, as its job keeps it. */
const balanceSchema = yup
  .object({
    /** Of the session it was worked out for. */
    revision: figure(),
    /** The track that is the mix of the others; null = none is. */
    mixTrackId: yup.string().nullable().defined(),
    /** Share of the mix's energy that the tracks explain, 0–1. */
    explained: yup.number().nullable().defined(),
    /** How the mix lies to the tracks: so much later, s, and turned over or not. */
    laterSeconds: yup.number().nullable().defined(),
    isInverted: yup.boolean().required(),
    isMonoMix: yup.boolean().required(),
    /** How far the mix is held down where it is most (a limiter, saturation), dB: 0 or less; what was found before this was looked for does not say. */
    heldDownDb: yup.number(),
    /** By how much each balance, measured, is louder than its tracks say one by one, dB; missing in what was found before this was measured. */
    louderThanSum: yup
      .object({ neutral: figure().nullable(), rough: figure().nullable(), mix: figure().nullable() })
      .optional(),
    /** Highest sample of the mix bus under the rough balance, dBFS; null for silence. */
    peakDbfs: yup.number().nullable().defined(),
    tracks: yup
      .array(
        yup
          .object({
            trackId: yup.string().required(),
            /** What its pieces were turned up by then, dB; levels come on top of it. */
            pieceGainDb: figure(),
            /** By its role, for a first listen. */
            rough: yup.object(strip).required(),
            /** As the mix has it; null = not heard in it. */
            mix: yup
              .object({
                ...strip,
                /** Levels from a moment on where they step, s and dB. */
                changes: yup.array(yup.object({ seconds: figure(), gainDb: figure() })).required(),
              })
              .nullable()
              .defined(),
          })
          .required(),
      )
      .required(),
    /** What of the mix is in no track: when, where, how much of what is there. */
    missing: yup
      .array(
        yup.object({
          fromSeconds: figure(),
          toSeconds: figure(),
          fromHz: figure(),
          toHz: figure(),
          range: yup.string().required(),
          left: figure(),
          confidence: figure(),
        }),
      )
      .required(),
  })
  .required();

/** Levels and pans for a session: by role, and as the sender's mix has them. */
export type BalanceResult = yup.InferType<typeof balanceSchema>;

/** What a job kept; null where it was kept in another way than today. */
export const readBalance = (kept: unknown): BalanceResult | null =>
  balanceSchema.isValidSync(kept, { strict: true }) ? kept : null;
