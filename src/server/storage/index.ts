export { BlobStore, blobStore, readRange, syncPath } from './blob-store';
