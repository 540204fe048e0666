export { BEGIN_REACH_SECONDS, beginningIn, CROSSING_REACH_SECONDS, crossingNear } from './edges';
export { matchGains, type MatchedTrack, type MatchTrack } from './match';
export { hearTracks, type HeardTrack, type TidyTrack } from './heard';
export { proposeCuts, proposeTidy, type NothingBecause, type TidyProposal } from './propose';
export { DOUBTFUL, TIDY_REASONS, type TidyPiece, type TidyReason } from './reasons';
export { TIDY_DEFAULTS, type TidySettings } from './settings';
export { type CutSettings } from './wanted';
export { type TidyChoice, withChoices } from './choices';
export { cutClips, cutLane, type CutOf, isSameCut, keptStretches, type Stretch } from './cut-clips';
