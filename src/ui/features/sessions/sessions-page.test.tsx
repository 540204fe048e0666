import { act, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import type { SessionListItem } from '@/contracts';
import { DEFAULT_STYLE } from '@/core/style';
import { NO_RELATIONS } from '@/core/findings';
import { emptySession } from '@/core/session';
import { SessionsPage } from './sessions-page';

const push = jest.fn();
jest.mock('next/navigation', () => ({ useRouter: () => ({ push }) }));

const item = (change: Partial<SessionListItem>): SessionListItem => ({
  id: 's1',
  name: 'Low Water',
  project: '',
  artist: 'Nine',
  revision: 4,
  trackCount: 12,
  recordingCount: 12,
  lengthSeconds: 87,
  sizeBytes: 333_000_000,
  hasMap: true,
  handoverCount: 2,
  updatedAt: '2026-11-25T09:00:00.000Z',
  openJobs: 0,
  lastJobAt: null,
  jobProgress: null,
  shelf: 'list',
  deletedAt: null,
  isDemo: false,
  ...change,
});
const calls: { path: string; method: string; body: unknown }[] = [];
let answer: (path: string, method: string) => { status: number; value: unknown };

beforeEach(() => {
  calls.length = 0;
  push.mockClear();
  answer = () => ({ status: 200, value: [] });
  globalThis.fetch = jest.fn((path: string, options: { method?: string; body?: string } = {}) => {
    const method = options.method ?? 'GET';
    calls.push({ path, method, body: options.body ? (JSON.parse(options.body) as unknown) : null });
    const { status, value } = answer(path, method);
    return Promise.resolve({ ok: status < 400, status, json: () => Promise.resolve(value) });
  }) as unknown as typeof fetch;
  window.matchMedia = (() => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  })) as unknown as typeof window.matchMedia;
});

it('lists each session with its state in words', () => {
  render(
    <SessionsPage
      initial={[
        item({}),
        item({
          id: 's2',
          name: 'High Water',
          updatedAt: '2026-11-24T09:00:00.000Z',
          hasMap: false,
          handoverCount: 0,
          trackCount: 3,
          recordingCount: 5,
          openJobs: 2,
          jobProgress: 0.4,
        }),
      ]}
    />,
  );
  const [, first, second] = screen.getAllByRole('row');
  expect(within(first!).getByRole('link', { name: 'Low Water' })).toHaveAttribute('href', '/sessions/s1');
  expect(first).toHaveTextContent('mapped');
  expect(first).toHaveTextContent('v2');
  expect(first).toHaveTextContent('1:27');
  expect(second).toHaveTextContent('3 of 5');
  expect(second).toHaveTextContent('2 jobs at work · 40 %');
  expect(second).toHaveTextContent('not yet');
});

it('says what to do when there is none', () => {
  render(<SessionsPage initial={[]} />);
  expect(screen.getByText('No sessions yet.')).toBeInTheDocument();
  expect(screen.getByText('Make one, then drop the recordings of a song on it.')).toBeInTheDocument();
});

it('makes a session only with a name, and goes there', async () => {
  answer = (_path, method) => ({ status: 200, value: method === 'POST' ? { id: 'new' } : [] });
  render(<SessionsPage initial={[item({})]} />);
  fireEvent.click(screen.getByRole('button', { name: 'New session' }));
  fireEvent.click(await screen.findByRole('button', { name: 'Make session' }));
  expect(await screen.findByText('Give the song a name')).toBeInTheDocument();
  expect(calls.filter((c) => c.method === 'POST')).toEqual([]);
  fireEvent.change(screen.getByLabelText('Song'), { target: { value: '  Slip ' } });
  fireEvent.click(screen.getByRole('button', { name: 'Make session' }));
  await waitFor(() => expect(push).toHaveBeenCalledWith('/sessions/new/intake'));
  expect(calls.find((c) => c.method === 'POST')?.body).toEqual({
    name: 'Slip',
    artist: '',
    notes: '',
  });
});

/** The server's list, as moves and deletions leave it. */
function serverList(list: SessionListItem[]): void {
  answer = (path, method) => {
    const { body } = calls.at(-1) as { body: unknown };
    if (path === '/api/sessions/shelf') {
      const { ids, shelf } = body as { ids: string[]; shelf: SessionListItem['shelf'] };
      const deletedAt = shelf === 'waste' ? '2026-11-30T09:00:00.000Z' : null;
      list = list.map((s) => (ids.includes(s.id) ? { ...s, shelf, deletedAt } : s));
    } else if (method === 'DELETE') list = list.filter((s) => !path.endsWith(s.id));
    return { status: 200, value: list };
  };
}

it('puts what is deleted into the waste basket, and takes it back', async () => {
  const list = [item({}), item({ id: 's2', name: 'High Water' })];
  serverList(list);
  render(<SessionsPage initial={list} />);
  fireEvent.click(screen.getByRole('button', { name: 'Delete Low Water' }));
  expect(
    await screen.findByText(/“Low Water” is in the waste basket, and kept there for 30 days/),
  ).toBeInTheDocument();
  expect(calls.filter((c) => c.method === 'DELETE')).toEqual([]);
  await waitFor(() => expect(screen.queryByRole('link', { name: 'Low Water' })).toBeNull());
  fireEvent.click(screen.getByRole('button', { name: 'Undo' }));
  expect(await screen.findByRole('link', { name: 'Low Water' })).toBeInTheDocument();
  expect(screen.getByText(/“Low Water” is on the list again/)).toBeInTheDocument();
});

it('says of a session no more that it is kept when it was deleted for good', async () => {
  const list = [item({}), item({ id: 's2', name: 'High Water' })];
  serverList(list);
  render(<SessionsPage initial={list} />);
  fireEvent.click(screen.getByRole('button', { name: 'Delete Low Water' }));
  await screen.findByText(/kept there for 30 days/);
  fireEvent.click(screen.getByRole('button', { name: 'Waste basket 1' }));
  fireEvent.click(screen.getByRole('checkbox', { name: 'Select Low Water' }));
  fireEvent.click(screen.getByRole('button', { name: 'Delete for good' }));
  fireEvent.click(await screen.findByRole('button', { name: 'Delete session and recordings' }));
  await waitFor(() => expect(screen.queryByText(/kept there for 30 days/)).toBeNull());
});

it('says what goes before it deletes for good, keeps it on “Cancel”, and shows a fault in words', async () => {
  const list = [item({ shelf: 'waste', deletedAt: '2026-11-30T09:00:00.000Z' })];
  serverList(list);
  render(<SessionsPage initial={list} />);
  fireEvent.click(screen.getByRole('button', { name: 'Waste basket 1' }));
  expect(screen.getByText(/kept until/)).toHaveTextContent('30 Dec 2026');
  const ask = async (): Promise<HTMLElement> => {
    fireEvent.click(screen.getByRole('checkbox', { name: 'Select Low Water' }));
    fireEvent.click(screen.getByRole('button', { name: 'Delete for good' }));
    return screen.findByRole('dialog');
  };
  const dialog = await ask();
  expect(dialog).toHaveTextContent('12 recordings (333 MB), unless another session uses the same files');
  expect(dialog).toHaveTextContent('its 2 packages on this machine');
  fireEvent.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(calls.filter((c) => c.method === 'DELETE')).toEqual([]);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  answer = (_path, method) =>
    method === 'DELETE'
      ? { status: 404, value: { fault: { code: 'session.not_found' } } }
      : { status: 200, value: list };
  fireEvent.click(screen.getByRole('button', { name: 'Delete for good' }));
  await act(async () =>
    fireEvent.click(await screen.findByRole('button', { name: 'Delete session and recordings' })),
  );
  expect(calls.some((c) => c.method === 'DELETE' && c.path === '/api/sessions/s1')).toBe(true);
  expect(await screen.findByText('This session does not exist any more.')).toBeInTheDocument();
});

it('finds by song, artist and project, says where nothing is found, and sorts by a column', () => {
  render(
    <SessionsPage
      initial={[
        item({ id: 'a', name: 'Ébb', artist: 'Ropewalk', sizeBytes: 5 }),
        item({ id: 'b', name: 'Flood', project: 'Harbour', sizeBytes: 9 }),
      ]}
    />,
  );
  const field = screen.getByRole('searchbox');
  const songs = (): (string | null)[] =>
    screen.getAllByRole('link').flatMap((l) => (l.className.includes('strong') ? [l.textContent] : []));
  fireEvent.change(field, { target: { value: 'ROPE ebb' } });
  expect(songs()).toEqual(['Ébb']);
  fireEvent.change(field, { target: { value: 'harbour' } });
  expect(songs()).toEqual(['Flood']);
  fireEvent.change(field, { target: { value: 'gull' } });
  expect(screen.getByText(/No session here has “gull”/)).toBeInTheDocument();
  fireEvent.click(screen.getByRole('button', { name: 'Clear the search' }));
  fireEvent.click(screen.getByRole('button', { name: 'Size' }));
  expect(songs()).toEqual(['Flood', 'Ébb']);
  fireEvent.click(screen.getByRole('button', { name: 'Size' }));
  expect(songs()).toEqual(['Ébb', 'Flood']);
});

it('keeps the songs of a project together, and lists what is open in them', async () => {
  const view = {
    id: 's1',
    revision: 1,
    session: emptySession('Low Water'),
    recordings: [],
    jobs: [],
    jobsElsewhere: [],
    handovers: [],
    conform: null,
    relations: NO_RELATIONS,
    style: DEFAULT_STYLE,
    styleNewest: null,
    dismissals: [],
    tempo: null,
    undoLabel: null,
    redoLabel: null,
    freeBytes: 1,
  };
  const songs = [
    item({ id: 's3', name: 'Alone' }),
    item({ id: 's2', name: 'Slack Tide', project: 'Harbour' }),
    item({ id: 's1', name: 'Low Water', project: 'Harbour' }),
  ];
  answer = (path) => ({
    status: 200,
    value: path === '/api/sessions' ? songs : { ...view, id: path.split('/').at(-1) },
  });
  render(<SessionsPage initial={songs} />);
  expect(
    screen
      .getAllByRole('row')
      .slice(1)
      .map((r) => r.textContent?.slice(0, 14)),
  ).toEqual([
    expect.stringContaining('Alone'),
    expect.stringContaining('Harbour 2 song'),
    expect.stringContaining('Low Water'),
    expect.stringContaining('Slack Tide'),
  ]);
  fireEvent.click(screen.getByRole('button', { name: 'What is open' }));
  const dialog = await screen.findByRole('dialog');
  expect(await within(dialog).findAllByText('add files')).toHaveLength(2);
  expect(within(dialog).getByRole('link', { name: 'Slack Tide' })).toHaveAttribute('href', '/sessions/s2');
  // A job so short that the list never saw it at work has changed what is open: looked at again, and only there.
  calls.length = 0;
  answer = (path) => ({
    status: 200,
    value:
      path === '/api/sessions'
        ? songs.map((s) => (s.id === 's2' ? { ...s, lastJobAt: '2026-11-25T09:01:00.000Z' } : s))
        : { ...view, id: path.split('/').at(-1) },
  });
  await waitFor(() => expect(calls.some((c) => c.path === '/api/sessions/s2')).toBe(true), { timeout: 9000 });
  expect(calls.some((c) => c.path === '/api/sessions/s1')).toBe(false);
}, 12_000);
