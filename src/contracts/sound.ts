import * as yup from 'yup';
import { uuid } from '@/core/session';

/** Frames of one piece, at most. */
export const MAX_SOUND_FRAMES = 1 << 20;
/** Pieces in one request, at most. */
export const MAX_SOUND_PIECES = 512;

/** Pieces of sound at the session's rate, as they lie in their files: `recordings/<id>` or `conformed/<key>`, one side of it with `/left` or `/right` behind, frames `[from, from + count)`. */
export const soundRequestSchema = yup
  .object({
    pieces: yup
      .array(
        yup
          .object({
            sound: yup
              .string()
              .matches(
                /^(recordings\/[0-9a-f-]{36}|conformed\/[0-9a-f]{64})(\/(left|right))?$/,
                'no sound has this name',
              )
              .required(),
            from: yup.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
            count: yup.number().integer().min(1).max(MAX_SOUND_FRAMES).required(),
          })
          .noUnknown(),
      )
      .min(1)
      .max(MAX_SOUND_PIECES)
      .required(),
  })
  .noUnknown();

/** Name of a sound, as {@link soundRequestSchema} wants it. */
export type SoundName = `recordings/${string}` | `conformed/${string}`;

/** One of the pieces that {@link soundRequestSchema} asks for. */
export interface SoundPiece {
  readonly sound: string;
  readonly from: number;
  readonly count: number;
}

/** Recordings in one request for waveforms, at most. */
export const MAX_PEAKS = 256;

/** Waveforms of many recordings at one resolution: the coarsest kept that has at least an entry for so many frames. */
export const peaksRequestSchema = yup
  .object({
    recordings: yup.array(uuid()).min(1).max(MAX_PEAKS).required(),
    framesPerEntry: yup
      .number()
      .integer()
      .min(1)
      .max(1 << 24)
      .required(),
  })
  .noUnknown();

/** Levels of many recordings over time (`core/analysis/band-levels.ts`). */
export const levelsRequestSchema = yup
  .object({ recordings: yup.array(uuid()).min(1).max(MAX_PEAKS).required() })
  .noUnknown();

/** Recordings in one request for edges, and stretches of each, at most. */
export const [MAX_EDGE_FILES, MAX_EDGE_STRETCHES] = [1000, 20_000];
const frame = () => yup.number().integer().min(0).max(Number.MAX_SAFE_INTEGER);

/** Stretches of recordings that stay, frames at the session's rate, whose edges are to be put to the sample. */
export const edgesRequestSchema = yup
  .object({
    files: yup
      .array(
        yup
          .object({
            recordingId: uuid().required(),
            beforeSeconds: yup.number().min(0).max(10).required(),
            kept: yup
              .array(
                yup
                  .object({
                    from: frame().required(),
                    to: frame().required(),
                    sound: frame().nullable().defined(),
                  })
                  .noUnknown(),
              )
              .min(1)
              .max(MAX_EDGE_STRETCHES)
              .required(),
          })
          .noUnknown(),
      )
      .min(1)
      .max(MAX_EDGE_FILES)
      .required(),
  })
  .noUnknown();

/** What {@link edgesRequestSchema} asks for. */
export type EdgesRequest = yup.InferType<typeof edgesRequestSchema>;

/** Edges to the sample, of each file as asked for; null = it could not be read, and its edges stay as they were asked for. */
export type EdgesAnswer = readonly (readonly { readonly from: number; readonly to: number }[] | null)[];
