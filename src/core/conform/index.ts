export {
  createWarp,
  type Peg,
  proposeTarget,
  steadyMap,
  type TargetProposal,
  type Warp,
  warpBetween,
  type WarpRange,
} from './warp';
export { type CopySegment, type EditList, type ReadFrames, renderEditList } from './edit-list';
export {
  AttackFinder,
  type ChannelAttacks,
  type GroupAttack,
  mergeAttacks,
  refineAttack,
  type RoughAttack,
} from './attacks';
export { planSlices, type SliceInput } from './slices';
export { isHeldAt, LEVEL_STEP_SECONDS, type LevelTrack, thinPegs } from './held-pegs';
export { type HeldInput, renderHeld, type Vocoder } from './held';
export {
  attackRank,
  BLOCK_SECONDS,
  type ConformGroup,
  type ConformTrack,
  defaultTreatment,
  planGroups,
  sourceKeys,
} from './groups';
export {
  asConformed,
  asPlayedBack,
  conformedTrack,
  conformedFacts,
  type ConformedFacts,
  type ConformPlan,
  type ConformWish,
  type GroupOutlook,
  playbackWarp,
  outlookOf,
  planConform,
  pulseRatios,
  type StretchOutlook,
} from './session-plan';
export { planMoves, soundRegions, type SoundRegion } from './moves';
