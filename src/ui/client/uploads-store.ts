import { createStore } from 'zustand/vanilla';
import { faultText } from '@/contracts';

/** One file on its way to the server. */
export interface UploadItem {
  readonly key: string;
  readonly sessionId: string;
  readonly name: string;
  readonly sizeBytes: number;
  readonly sentBytes: number;
  readonly bytesPerSecond: number;
  readonly state: 'waiting' | 'sending' | 'paused' | 'sent' | 'failed' | 'cancelled';
  readonly message: string | null;
  pause(): void;
  resume(): void;
  cancel(): void;
}

/** All uploads of this page, oldest first. */
export const uploadsStore = createStore<{ readonly items: readonly UploadItem[] }>(() => ({ items: [] }));

/** Whether files are still on their way: a page that is closed now breaks them off. */
export const isUploading = (): boolean =>
  uploadsStore.getState().items.some((i) => ['waiting', 'sending', 'paused'].includes(i.state));

/** What there is to do for a file that could not even be begun. */
const refused = (sessionId: string, file: File, index: number): UploadItem => ({
  key: `r${performance.now()}-${index}`,
  sessionId,
  name: file.webkitRelativePath || file.name,
  sizeBytes: file.size,
  sentBytes: 0,
  bytesPerSecond: 0,
  state: 'failed',
  message: faultText({ code: 'upload.broken_off' }),
  pause: () => undefined,
  resume: () => undefined,
  cancel: () => undefined,
});

/** Takes files for a session; what sends them is loaded when the first ones come. */
export function startUploads(sessionId: string, files: readonly File[]): void {
  void import('./uploads').then(
    (sender) => sender.startUploads(sessionId, files),
    () =>
      uploadsStore.setState(({ items }) => ({
        items: [...items, ...files.map((file, i) => refused(sessionId, file, i))],
      })),
  );
}
