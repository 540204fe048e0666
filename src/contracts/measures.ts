import * as yup from 'yup';

const level = () => yup.number().nullable().defined();
const sound = {
  peakDbfs: level(),
  truePeakDbtp: level(),
  loudnessLufs: level(),
  loudestLufs: level(),
  activeLufs: level(),
  histogram: yup.array(yup.number().required()).nullable().defined(),
};

/** How loud the tracks of a session are, as its job keeps it. */
const measuresSchema = yup
  .object({
    tracks: yup
      .array(
        yup
          .object({
            trackId: yup.string().required(),
            /** What was measured; see `measuredKey`. */
            key: yup.string().required(),
            whole: yup.object(sound).required(),
            /** One for each clip that sounds, in order of time. */
            pieces: yup
              .array(yup.object({ clipId: yup.string().required(), ...sound }).required())
              .required(),
          })
          .required(),
      )
      .required(),
  })
  .required();

/** How loud the tracks of a session are before any gain, from end to end and piece by piece. */
export type MeasuresResult = yup.InferType<typeof measuresSchema>;

/** What a job kept; null where it was kept in another way than today. */
export const readMeasures = (kept: unknown): MeasuresResult | null =>
  measuresSchema.isValidSync(kept, { strict: true }) ? kept : null;
