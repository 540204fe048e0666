export { type BlobStore, blobStore, readRange, syncPath } from './blob-store';
export { nameTemporaryFolder, sweepTemporary, temporaryPath } from './temporary';
