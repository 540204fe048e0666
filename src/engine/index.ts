export { fileSink, fileSource, type OpenFile } from './files';
export { inspectFile, type Inspection } from './inspect-file';
export { runTask, type TaskMap, type TaskName } from './compute-pool';
export { hashFile, type MadeFile } from './tasks';
export { buildPackage, type BuiltPackage, type PackageInput } from './build-package';
export { type PackageCheck, verifyPackage } from './verify-package';
export { NotAPackage, unzipPackage } from './unzip-package';
export { zipFolder } from './zip-folder';
