export { alignMix, type AlignBlock, inMix, type MixAlignment, readAligned } from './align';
export { type BalanceFit, fitBalance, stripOf } from './fit';
export { mixLikeness, type MixLikeness } from './is-mix';
export { missingParts, type MissingPart } from './missing';
export { MIX_BANDS, mixEdgesHz, type MixGram, MixGramBuilder } from './mix-gram';
export { levelChanges, type LevelChange } from './changes';
export { roughBalance, type RoughStrip, type RoughTrack } from './rough';
export { type MixStrip, mixStrips, rangeOfMissing, withHeadroom } from './mix-strips';
