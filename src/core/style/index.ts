export {
  type CutDefaults,
  cutSettingsFor,
  DEFAULT_STYLE,
  type FolderRule,
  type GroupRule,
  type HouseStyle,
  type LensRule,
  MORE_PICTURES,
  type Picture,
  type ReturnRule,
  type Rule,
  type RuleResult,
  type SendRule,
} from './house-style';
export {
  type Condition,
  conditionText,
  DEEPEST_CONDITION,
  meets,
  patternOf,
  ROW_KINDS,
  type RowKind,
  type Subject,
  TESTS,
} from './conditions';
export { resultText } from './rules';
export { likenessWords, kindKnown, likelyKinds, type TrackKind, withLikeness } from './sound-reading';
export {
  changesSomething,
  NO_FACTS,
  namesFor,
  proposeBy,
  type ProposeOptions,
  type SortProposal,
  type SortRow,
  type TrackFacts,
  wordsFor,
} from './propose';
export { proposeSort } from './propose-sort';
export { proposalEdits } from './proposal-edits';
export { groupId, nameOfReturn, returnId, rowColor } from './routing';
export { busId, folderColor, folderId, FolderTree, treeOf } from './folders';
export {
  NAME_FIELDS,
  type NameRules,
  numberEqual,
  numberText,
  sessionName,
  TEMPLATE,
  tidyName,
} from './names';
export {
  type ColorDoubt,
  doubtsOfColors,
  freeColor,
  hexOf,
  type Lch,
  lchOf,
  readableColor,
  type Shades,
  SHADES,
  shadeOf,
  spreadColors,
} from './colors';
export { newTrack } from './new-track';
export { fetchOtherScripts, fetchPatternEngine } from '#style-libraries';
export { fileNameFor, fileNameWord, holdsOtherScripts, packageFolderName } from './file-names';
export { holdsPatterns, needsPatternEngine } from './needed-libraries';
export { type CorrectedName, correctedName, type NameLesson, withWord } from './corrected-name';
export { lessonsOf } from './learn';
export { triedBy, type TriedName } from './tried-names';
export { tryNames } from './try-names';
export { tracksMeeting } from './lenses';
export { compareStyles, sendText, STYLE_PARTS, type StyleDifference, type StylePart } from './compare';
