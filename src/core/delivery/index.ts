export {
  packageBytes,
  PLAYED_BASE,
  type Overs,
  type PackagePlan,
  type PackageSource,
  type PlannedFile,
  type PlannedNotes,
  planPackage,
  soundFiles,
} from './plan';
export { numberedMap } from './bar-numbers';
export { notesBefore, notesMidi } from './notes-midi';
export { tempoMidi } from './tempo-midi';
export { markersCsv, parseTable, type ReceivedFile, tracksCsv } from './csv';
export { projectXml, projectMetadataXml } from './project-xml';
export { COVER_NOTE_PATH, coverNote, type CoverNoteFacts } from './cover-note';
export { BAG_DECLARATION, bagInfo, manifestText, parseManifest } from './bag';
export { checkSession, type CheckFacts, type SessionCheck } from './checks';
export { soundChanges, whatWasDone } from './what-was-done';
export { handedLanes, type PlannedTake } from './takes';
