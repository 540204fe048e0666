import { followEvents } from './session-events';

/** A stream that the test lets speak. */
class FakeStream {
  static readonly all: FakeStream[] = [];
  onmessage?: (event: { data: string }) => void;
  onerror?: () => void;
  onopen?: () => void;
  readonly listeners = new Map<string, () => void>();
  isClosed = false;
  constructor(readonly path: string) {
    FakeStream.all.push(this);
  }
  addEventListener(name: string, listener: () => void): void {
    this.listeners.set(name, listener);
  }
  close(): void {
    this.isClosed = true;
  }
}

let state: { online: boolean; view: { revision: number }; receive: jest.Mock; refresh: jest.Mock };
let stop: () => void;
const lastStream = (): FakeStream => FakeStream.all.at(-1)!;

beforeEach(() => {
  jest.useFakeTimers();
  FakeStream.all.length = 0;
  Object.assign(globalThis, { EventSource: FakeStream });
  state = { online: true, view: { revision: 7 }, receive: jest.fn(), refresh: jest.fn() };
  const store = { getState: () => state, setState: (part: object) => Object.assign(state, part) };
  stop = followEvents(store as unknown as Parameters<typeof followEvents>[0], 'song');
});
afterEach(() => {
  stop();
  jest.useRealTimers();
});

it('asks for what came after the revision that is shown, and hands on what it hears', () => {
  expect(lastStream().path).toBe('/api/sessions/song/events?after=7');
  lastStream().onmessage?.({ data: '{"revision":8}' });
  expect(state.receive).toHaveBeenCalledWith({ revision: 8 });
});

it('a stream that has been silent for too long is replaced, and the server asked', () => {
  lastStream().onopen?.();
  jest.advanceTimersByTime(39_000);
  lastStream().listeners.get('alive')?.();
  jest.advanceTimersByTime(39_000);
  expect(FakeStream.all).toHaveLength(1);
  expect(state.refresh).not.toHaveBeenCalled();
  jest.advanceTimersByTime(6_000);
  expect(FakeStream.all.map((s) => s.isClosed)).toEqual([true, false]);
  expect(state.refresh).toHaveBeenCalledTimes(1);
});

it('a server that takes the connection and says nothing is said to be away, and asked again in its time', () => {
  jest.advanceTimersByTime(9_000);
  expect([state.online, FakeStream.all.length]).toEqual([true, 1]);
  jest.advanceTimersByTime(3_000);
  expect([state.online, FakeStream.all.length]).toEqual([false, 2]);
  // A slow one is not cut off by the next question.
  jest.advanceTimersByTime(8_000);
  expect(FakeStream.all.length).toBe(2);
  lastStream().onopen?.();
  expect(state.online).toBe(true);
});

it('a stream that broke says so at once, and is tried again', () => {
  lastStream().onerror?.();
  expect(state.online).toBe(false);
  jest.advanceTimersByTime(3_000);
  expect(FakeStream.all).toHaveLength(2);
  lastStream().onopen?.();
  expect(state.online).toBe(true);
});

it('when the browser says that it is offline or back, the server is asked whether it answers', () => {
  window.dispatchEvent(new Event('offline'));
  window.dispatchEvent(new Event('online'));
  expect(state.refresh).toHaveBeenCalledTimes(2);
  stop();
  window.dispatchEvent(new Event('offline'));
  expect(state.refresh).toHaveBeenCalledTimes(2);
});

it('asks at once when the browser was offline before anybody listened', () => {
  stop();
  const isOnline = jest.spyOn(navigator, 'onLine', 'get').mockReturnValue(false);
  const store = { getState: () => state, setState: (part: object) => Object.assign(state, part) };
  stop = followEvents(store as unknown as Parameters<typeof followEvents>[0], 'song');
  isOnline.mockRestore();
  expect(state.refresh).toHaveBeenCalledTimes(1);
});
