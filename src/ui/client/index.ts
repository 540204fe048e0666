export { api, ApiFault } from './api';
export { SessionProvider, useSession, useSessionStore, type SessionStore } from './session-store';
export { proposalOf } from './proposal';
export { usePeaks } from './peaks';
export { startUploads, uploadsStore, type UploadItem } from './uploads';
export { selectOnly, useWorkbench, workbench, type Workbench } from './workbench';
