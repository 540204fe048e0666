export { channelsOf, endOf, type Fade, type LaneSound, type Piece, piecesOf } from './pieces';
export { addPiece, gainAt } from './gain';
export { arrangedBlocks, channelFor, partIn, type ReadSound } from './blocks';
