export {
  FAMILIES,
  type Evidence,
  type Family,
  type NameReading,
  type OwnWord,
  type Position,
  type ReadNames,
  type Side,
} from './reading';
export { readNames, unreadPhrases } from './read-names';
export { type DeliveryGap, findGaps, findMicGroups, type MicGroup, type SourceFields } from './mics';
export { asNoun, partsOf } from './parts';
export { findPairs, type StereoPair } from './pairs';
export { siblingsOf } from './siblings';
export { describeReading } from './describe-reading';
export {
  isOtherFileName,
  isSoundFileName,
  isTextFileName,
  stripExtension,
  tokenise,
  toSafeText,
} from './tokens';
export { factsInName, factsInText, type NameFact } from './name-facts';
export { NO_RENAME, type Rename, renameAll } from './rename';
