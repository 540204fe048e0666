import * as yup from 'yup';
import type { SoundMeasure } from '@/core/matching';
import { plainList } from '@/core/session';

/** A piece of a track and how loud it is. */
interface PieceMeasure extends SoundMeasure {
  readonly clipId: string;
}

/** Pieces of a track at most. */
const MOST_PIECES = 200_000;

const isLevel = (x: unknown): boolean => x === null || (typeof x === 'number' && Number.isFinite(x));

/** Read by one plain loop: with a schema for each cell, a hundred tracks of a thousand pieces held a process for seconds. */
function isMeasure(x: unknown): x is SoundMeasure {
  const m = x as Partial<Record<keyof SoundMeasure, unknown>> | null;
  return (
    typeof m === 'object' &&
    m !== null &&
    [m.peakDbfs, m.truePeakDbtp, m.loudnessLufs, m.loudestLufs, m.activeLufs].every(isLevel) &&
    (m.histogram === null || (Array.isArray(m.histogram) && m.histogram.every((n) => Number.isInteger(n))))
  );
}

const isPiece = (x: unknown): boolean =>
  isMeasure(x) && typeof (x as Partial<PieceMeasure>).clipId === 'string';

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
            whole: yup.mixed(isMeasure).required(),
            /** One for each clip that sounds, in order of time. */
            pieces: plainList<PieceMeasure>(MOST_PIECES, isPiece).required(),
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
