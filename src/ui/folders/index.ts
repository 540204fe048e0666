export { FolderBrowser, useFolders } from './folder-browser';
export { FolderDialog } from './folder-dialog';
