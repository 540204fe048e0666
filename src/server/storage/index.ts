export { BlobStore, blobStore } from './blob-store';
