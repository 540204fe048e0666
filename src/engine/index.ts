export { fileSink, fileSource, hashFile, type OpenFile } from './files';
export { inspectFile, type Inspection } from './inspect-file';
export { type Listening, listenToFile } from './listen-file';
export { runTask, type TaskMap, type TaskName } from './compute-pool';
export { type SketchSource, type MadeFile } from './tasks';
export { copyPackage, type CopyInput, type CopyOutcome, halfCopyPath } from './copy-package';
export { buildPackage, type BuiltPackage, type PackageInput, type PackagePart } from './build-package';
export { type PackageCheck, verifyPackage } from './verify-package';
export { compareWithReceived, type ReceivedComparison, type ReceivedSound } from './compare-received';
export { NotAPackage, unzipPackage } from './unzip-package';
export { zipFolder } from './zip-folder';
export {
  type ConformedFile,
  type ConformedGroup,
  conformGroup,
  type ConformGroupInput,
} from './conform-group';
export { createVocoder } from './vocoder';
export { type DecodeFault, decodeFile, isDecodable } from './decode-file';
export {
  kindOfFile,
  type OpenedSound,
  type OpenFault,
  openSound,
  pieceName,
  type SoundPiece,
} from './open-sound';
export { type ArchiveFault, type UnpackedArchive, type UnpackedFile, unpackArchive } from './unpack-archive';
export { type AcrossInput, type AcrossFacts, factsAcross } from './facts-across';
export { pairName, type TwinCandidate } from './find-twins';
export { type GuideTrack } from './click-file';
export { splitChannels } from './split-channels';
export { type CutOutcome, type KeptStretch } from './cut-file';
export { type MixReading } from './balance-files';
export { type PlacedFile } from './placed-files';
export { type TakesInput, type TakesInputFile } from './takes-of-files';
