export { findJoin, type Join } from './joins';
export {
  LEVELS_PER_SECOND,
  levelsOfPeaks,
  type Phrase,
  phrasesAlong,
  phrasesOf,
  soundsShare,
  type TakeLevels,
} from './phrases';
export { type LaneChoice, putTogether, type PutTogether, withChoices } from './put-together';
export { ribbonOf, type RibbonPiece } from './ribbon';
export { bestFirst, type RatedTake, roughPass } from './rough-pass';
export { compInUse, newVersion, removeVersion, switchTo } from './versions';
