import { type DetailedError, Upload } from 'tus-js-client';
import { type FaultCode, faultText } from '@/contracts';
import { type UploadItem, uploadsStore } from './uploads-store';

const PARALLEL = 4;
const CHUNK_BYTES = 8 << 20;
let counter = 0;

const update = (key: string, change: Partial<UploadItem>): void =>
  uploadsStore.setState(({ items }) => ({
    items: items.map((i) => (i.key === key ? { ...i, ...change } : i)),
  }));
const find = (key: string): UploadItem | undefined =>
  uploadsStore.getState().items.find((i) => i.key === key);

const uploads = new Map<string, Upload>();

function begin(key: string): void {
  update(key, { state: 'sending', message: null });
  uploads.get(key)?.start();
}

function pump(): void {
  const { items } = uploadsStore.getState();
  const free = PARALLEL - items.filter((i) => i.state === 'sending').length;
  items
    .filter((i) => i.state === 'waiting')
    .slice(0, Math.max(0, free))
    .forEach((i) => begin(i.key));
}

// The longer of two that begin alike first.
const REFUSALS = ['session.not_found', 'store.disk_full', 'upload.too_many_open', 'upload.too_many'] as const;

/** Why an upload ended: what the server said, else the way was broken. */
function faultOf(error: Error | DetailedError): FaultCode {
  const answer = 'originalResponse' in error ? error.originalResponse : null;
  const body = answer?.getBody() ?? '';
  return (
    REFUSALS.find((code) => body.includes(code)) ??
    (answer?.getStatus() === 413 ? 'upload.too_large' : 'upload.broken_off')
  );
}

/** A broken way is tried again by itself; a refusal is not, so that its reason is seen at once. */
const isWorthRetrying = (error: DetailedError): boolean => {
  const status = error.originalResponse?.getStatus() ?? 0;
  return status < 400 || status === 409 || status === 423 || (status >= 500 && status !== 507);
};

function make(file: File, sessionId: string, key: string): Upload {
  let last = { at: performance.now(), bytes: 0 };
  return new Upload(file, {
    endpoint: '/api/uploads',
    chunkSize: CHUNK_BYTES,
    retryDelays: [0, 500, 1000, 2000, 3000, 5000, 10_000, 20_000, 30_000],
    onShouldRetry: isWorthRetrying,
    // The path inside a dropped folder is part of what the sender said.
    metadata: { sessionId, name: file.webkitRelativePath || file.name },
    // A reloaded page goes on where the file stopped: same file, same session.
    fingerprint: async () =>
      ['fernmoss', sessionId, file.webkitRelativePath || file.name, file.size, file.lastModified].join('/'),
    removeFingerprintOnSuccess: true,
    onProgress(sent) {
      const now = performance.now();
      if (now - last.at < 250 && sent < file.size) return;
      const rate = ((sent - last.bytes) / Math.max(1, now - last.at)) * 1000;
      const before = find(key)?.bytesPerSecond ?? 0;
      last = { at: now, bytes: sent };
      update(key, { sentBytes: sent, bytesPerSecond: before > 0 ? 0.7 * before + 0.3 * rate : rate });
    },
    onSuccess() {
      update(key, { state: 'sent', sentBytes: file.size });
      pump();
    },
    onError(error) {
      update(key, { state: 'failed', message: faultText({ code: faultOf(error) }) });
      pump();
    },
  });
}

/** Takes files for a session; four go at a time, the rest wait. */
export function startUploads(sessionId: string, files: readonly File[]): void {
  const items = files.map((file): UploadItem => {
    const key = `u${++counter}`;
    const upload = make(file, sessionId, key);
    uploads.set(key, upload);
    return {
      key,
      sessionId,
      name: file.webkitRelativePath || file.name,
      sizeBytes: file.size,
      sentBytes: 0,
      bytesPerSecond: 0,
      state: 'waiting',
      message: null,
      pause() {
        void upload.abort();
        update(key, { state: 'paused', bytesPerSecond: 0 });
        pump();
      },
      resume() {
        update(key, { state: 'waiting' });
        pump();
      },
      cancel() {
        void upload.abort(true).catch(() => undefined);
        update(key, { state: 'cancelled' });
        pump();
      },
    };
  });
  uploadsStore.setState(({ items: before }) => ({ items: [...before, ...items] }));
  // Uploads of an earlier page life are continued, not begun again.
  void Promise.all(
    items.map(async (item) => {
      const upload = uploads.get(item.key);
      const earlier = await upload?.findPreviousUploads().catch(() => []);
      if (earlier?.[0]) upload?.resumeFromPreviousUpload(earlier[0]);
    }),
  ).then(pump);
}
