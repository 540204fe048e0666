export { packageBytes, PLAYED_BASE, type PackagePlan, type PackageSource, type PlannedFile, planPackage } from './plan';
export { tempoMidi } from './tempo-midi';
export { tracksCsv, markersCsv } from './csv';
export { projectXml, projectMetadataXml } from './project-xml';
export { coverNote, type CoverNoteFacts } from './cover-note';
export { BAG_DECLARATION, bagInfo, manifestText, parseManifest } from './bag';
export { checkSession, type SessionCheck } from './checks';
