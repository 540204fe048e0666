export { beforeSong, type BeforeSong } from './before-song';
export { BEGIN_REACH_SECONDS, beginningIn, CROSSING_REACH_SECONDS, crossingNear } from './edges';
export { areCutAlike, isKitMic } from './kit';
export { hearTracks, type HeardTrack, type TidyTrack } from './heard';
export { proposeCuts, proposeTidy, type NothingBecause, type TidyProposal } from './propose';
export { DOUBTFUL, TIDY_REASONS, type TidyPiece, type TidyReason } from './reasons';
export { TIDY_DEFAULTS, TIDY_LIMITS, type TidySettings } from './settings';
export { type CutSettings } from './wanted';
export { type TidyChoice, withChoices } from './choices';
export {
  cutClips,
  cutLane,
  type CutOf,
  isSameCut,
  keptStretches,
  originOf,
  silencedStretches,
  type Stretch,
  without,
} from './cut-clips';
export {
  bringBackAt,
  clipAt,
  crossAt,
  type CrossOver,
  duplicateAt,
  edgeAt,
  fadeAt,
  heardAt,
  type HeardAt,
  type HandFades,
  type HandResult,
  type HandTrack,
  joinAt,
  keptClips,
  levelAt,
  muteAt,
  pullEdge,
  removeAt,
  repairAt,
  type RepairFrom,
  SAME_EDGE_SECONDS,
  slipAt,
  splitAt,
  toldClips,
  type ToldClip,
  trimmedTo,
  type TrimFades,
} from './hand-clips';
export { sessionFrame, songSpan, type SongSpan, trimToSong } from './song-span';
export { talkApart, talkIn } from './talk-apart';
export { repairLag } from './repair-lag';
export { type LevelsPlace, placedLevels } from './placed-levels';
export { wholeTrack } from './whole-track';
export { NOTHING_WORDS, REASON_WORDS } from './words';
