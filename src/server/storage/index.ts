export { BlobStore, blobStore, readRange, sweepTemporary, syncPath, nameTemporaryFolder } from './blob-store';
