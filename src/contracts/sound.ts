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
