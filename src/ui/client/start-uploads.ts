import { faultText } from '@/contracts';
import { type UploadItem, uploadsStore } from './uploads-store';

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
