import { createStore } from 'zustand/vanilla';

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
