import { type Piece, piecesOf } from '@/core/arrange';
import { plainTrack } from './random-edits';

/** All of a sound, from a frame of the session on. */
export const wholePiece = <S>(sound: S, lengthFrames: number, startFrames = 0): Piece<S> =>
  piecesOf({ ...plainTrack('t'), startFrames }, () => ({ sound, lengthFrames }))[0] as Piece<S>;
