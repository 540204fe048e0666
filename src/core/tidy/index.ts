export { proposeTidy, type NothingBecause, type TidyProposal, type TidyTrack } from './propose';
export { type CutSettings } from './wanted';
export { TIDY_REASONS, type TidyPiece, type TidyReason } from './reasons';
