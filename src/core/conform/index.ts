export { createWarp, type Peg, proposeTarget, steadyMap, type TargetProposal, type Warp, warpBetween, type WarpRange } from './warp';
export { type CopySegment, type EditList, type ReadFrames, renderEditList } from './edit-list';
export { AttackFinder, type ChannelAttacks, type GroupAttack, mergeAttacks, refineAttack, type RoughAttack } from './attacks';
export { planSlices, type SliceInput } from './slices';
export { type HeldInput, renderHeld, type Vocoder } from './held';
export { attackRank, BLOCK_SECONDS, type BlockLength, CONFORM_METHODS, type ConformGroup, type ConformMethod, type ConformTrack, defaultTreatment, planGroups, sourceKeys, type Treatment } from './groups';
export { planMoves, soundRegions, type SoundRegion } from './moves';
