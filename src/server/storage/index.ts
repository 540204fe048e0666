export { BlobStore, blobStore, readRange } from './blob-store';
