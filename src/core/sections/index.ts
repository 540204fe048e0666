export { type HeardPiece, playedTracks, type SectionTrack } from './section-track';
export { findSections, type FoundSection, type FoundSections, type SectionModel } from './find-sections';
export { SECTION_KINDS, type SectionKind } from './kinds';
export {
  isSectionName,
  KIND_DOUBT,
  kindOfName,
  kindWord,
  letterOf,
  numberedAlike,
  sectionNames,
} from './section-names';
export { type SongLines, songLines } from './song-lines';
export { lineBar, lineSeconds, toldSections, type ToldSection } from './told-sections';
