export {
  beginOf,
  channelsOf,
  endOf,
  soundsAt,
  type Fade,
  type LaneSound,
  movedPieces,
  type Piece,
  piecesOf,
  soundingLanes,
} from './pieces';
export { addPiece, type Faded, fadeGain, gainAt } from './gain';
export { type ArrangedPeaks, arrangedPeaks, type SoundPeaks } from './peaks';
export { arrangedBlocks, channelFor, partIn, type ReadSound } from './blocks';
