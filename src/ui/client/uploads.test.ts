import { startUploads } from './uploads';
import { type UploadItem, uploadsStore } from './uploads-store';

interface FakeUpload {
  readonly file: { readonly name: string };
  readonly options: {
    metadata: Record<string, string>;
    onProgress: (sent: number) => void;
    onSuccess: () => void;
    onError: (error: object) => void;
    onShouldRetry: (error: object) => boolean;
  };
  started: number;
  aborted: (boolean | undefined)[];
  resumed: object | null;
}
const made: FakeUpload[] = [];
let earlier: object[] = [];

jest.mock('tus-js-client', () => ({
  Upload: class {
    started = 0;
    aborted: (boolean | undefined)[] = [];
    resumed: object | null = null;
    constructor(
      readonly file: { readonly name: string },
      readonly options: FakeUpload['options'],
    ) {
      made.push(this as unknown as FakeUpload);
    }
    start(): void {
      this.started++;
    }
    async abort(forGood?: boolean): Promise<void> {
      this.aborted.push(forGood);
    }
    async findPreviousUploads(): Promise<object[]> {
      return earlier;
    }
    resumeFromPreviousUpload(previous: object): void {
      this.resumed = previous;
    }
  },
}));

const files = (count: number): File[] =>
  Array.from(
    { length: count },
    (_, i) =>
      ({
        name: `t${i}.wav`,
        size: 1000,
        lastModified: 1,
        webkitRelativePath: i === 0 ? 'Song/t0.wav' : '',
      }) as unknown as File,
  );
const items = (): readonly UploadItem[] => uploadsStore.getState().items;
const states = (): string[] => items().map((i) => i.state);
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));

beforeEach(() => {
  made.length = 0;
  earlier = [];
  uploadsStore.setState({ items: [] });
});

it('sends four at a time, the rest wait their turn', async () => {
  startUploads('s', files(6));
  await settle();
  expect(states()).toEqual(['sending', 'sending', 'sending', 'sending', 'waiting', 'waiting']);
  made[1]?.options.onSuccess();
  expect(states()).toEqual(['sending', 'sent', 'sending', 'sending', 'sending', 'waiting']);
  expect(made.map((u) => u.started)).toEqual([1, 1, 1, 1, 1, 0]);
});

it('tells the server the session and the path inside a dropped folder', () => {
  startUploads('s', files(2));
  expect(made.map((u) => u.options.metadata)).toEqual([
    { sessionId: 's', name: 'Song/t0.wav' },
    { sessionId: 's', name: 't1.wav' },
  ]);
});

it('goes on with what an earlier life of the page had begun', async () => {
  earlier = [{ uploadUrl: '/x' }];
  startUploads('s', files(1));
  await settle();
  expect(made[0]?.resumed).toEqual({ uploadUrl: '/x' });
});

it('pauses, goes on, and cancels for good; each makes room for the next', async () => {
  startUploads('s', files(5));
  await settle();
  items()[0]?.pause();
  expect(states()).toEqual(['paused', 'sending', 'sending', 'sending', 'sending']);
  items()[0]?.resume();
  expect(states()[0]).toBe('waiting');
  items()[1]?.cancel();
  expect(made[1]?.aborted).toEqual([true]);
  expect(states()).toEqual(['sending', 'cancelled', 'sending', 'sending', 'sending']);
});

it('says in words why one failed', async () => {
  startUploads('s', files(5));
  await settle();
  const body = (text: string, status = 400): object => ({
    originalResponse: { getBody: () => text, getStatus: () => status },
  });
  made[0]?.options.onError(body('store.disk_full'));
  made[1]?.options.onError(body('session.not_found'));
  made[2]?.options.onError({});
  made[3]?.options.onError(body('upload.too_many', 413));
  made[4]?.options.onError(body('Maximum size exceeded', 413));
  expect(items().map((i) => i.message)).toEqual([
    'The disk is full. Free some space, then try again; nothing received so far is lost.',
    'This session does not exist any more.',
    'The upload broke off. Try again, or add the file again: it goes on where it stopped.',
    'This session holds as many files as it can (2000). Make another session for the rest.',
    'The file is larger than 64 GiB. Ask for it in parts.',
  ]);
});

it('tries again by itself what broke, not what was refused', () => {
  startUploads('s', files(1));
  const retries = (status: number | null): boolean | undefined =>
    made[0]?.options.onShouldRetry({
      originalResponse: status === null ? null : { getStatus: () => status },
    });
  expect([null, 500, 502, 409, 423].map(retries)).toEqual([true, true, true, true, true]);
  expect([404, 413, 403, 507].map(retries)).toEqual([false, false, false, false]);
});
