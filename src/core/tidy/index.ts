export { BEGIN_REACH_SECONDS, beginningIn, CROSSING_REACH_SECONDS, crossingNear } from './edges';
export { matchGains, type MatchedTrack, type MatchTrack } from './match';
export { proposeTidy, type NothingBecause, type TidyProposal, type TidyTrack } from './propose';
export { DOUBTFUL, TIDY_REASONS, type TidyPiece, type TidyReason } from './reasons';
export { TIDY_DEFAULTS, type TidySettings } from './settings';
export { type CutSettings } from './wanted';
