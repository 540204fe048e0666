export { DEFAULT_STYLE, type FolderRule, type HouseStyle } from './house-style';
export { proposalEdits, proposeSort, type SortProposal, type SortRow } from './propose';
export { newTrack } from './new-track';
export { fileNameFor, packageFolderName } from './file-names';
export { type Lesson, lessonsOf, withWord } from './learn';
export { wordsFor } from './propose';
