import { plainTrack } from '../../../../tests/support/random-edits';
import { DEFAULT_STYLE } from '@/core/style';
import { NO_RELATIONS } from '@/core/findings';
import { NO_METADATA } from '@/core/audio';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import type { SessionView } from '@/contracts';
import {
  applyChanges,
  emptySession,
  firstLaneId,
  ROOT,
  type ConformSettings,
  type Change,
  type Edit,
  type Track,
} from '@/core/session';
import { SessionProvider } from '@/ui/client';
import { PlayerProvider } from '@/ui/listening';
import { ConformHalf } from './conform-half';

jest.mock('next/navigation', () => ({ useRouter: () => ({ push: jest.fn() }) }));

const PULSES = Array.from({ length: 33 }, (_, i) => 1 + 0.55 * i + 0.02 * Math.sin(i / 3));
const track = (id: string, name: string, family: Track['family'], part: string): Change => ({
  kind: 'track.add',
  parentId: ROOT,
  index: 99,
  track: { ...plainTrack(id), receivedName: `${name}.wav`, name, family, part, confidence: 1 },
});
const recording = (id: string): SessionView['recordings'][number] => ({
  id: `r-${id}`,
  receivedName: id,
  sizeBytes: 1,
  state: 'ready',
  fault: null,
  sha256: 'a',
  sampleRateHz: 48_000,
  channels: 1,
  encoding: 's24',
  bitDepth: 24,
  lengthFrames: 960_000,
  facts: null,
  truePeakDbtp: null,
  heard: null,
  container: 'wav',
  lossy: false,
  channelIndex: null,
  metadata: NO_METADATA,
  warnings: [],
  sameAs: null,
  convertedToHz: null,
  sessionFrames: 960_000,
  inPlace: null,
  notes: null,
  passingHz: 48_000,
  listened: true,
  hasLevels: true,
});

function viewOf(
  options: {
    readonly map?: boolean;
    readonly conform?: ConformSettings;
    readonly ready?: readonly string[];
    readonly rendering?: boolean;
  } = {},
): SessionView {
  const made = applyChanges(emptySession('Slip'), [
    track('k', 'Kick', 'drums', 'kick'),
    track('s', 'Snare', 'drums', 'snare'),
    track('v', 'Lead Vocal', 'lead-vocal', 'vocal'),
    { kind: 'session.rate', sampleRateHz: 48_000 },
    ...(options.map === false
      ? []
      : [
          {
            kind: 'map.replace' as const,
            map: {
              schemaVersion: 1 as const,
              points: PULSES.map((seconds, quarters) => ({ quarters, seconds })),
              meters: [{ bar: 1, numerator: 4, denominator: 4 }],
            },
            facts: {
              steady: false,
              bpm: null,
              foundBy: null,
              pulses: PULSES.map((seconds) => ({ seconds, confidence: 1 })),
            },
          },
        ]),
    { kind: 'conform.set', conform: options.conform ?? null },
  ]);
  if (!made.ok) throw new Error(made.code);
  const job = {
    id: 'j',
    kind: 'conform.render' as const,
    sessionId: 's1',
    subject: 'kit',
    state: 'running' as const,
    progress: 0.4,
    fault: null,
    createdAt: '',
    finishedAt: null,
  };
  return {
    id: 's1',
    revision: 1,
    rest: '',
    session: made.session,
    recordings: ['k', 's', 'v'].map(recording),
    jobsElsewhere: [],
    jobs: options.rendering ? [job] : [],
    handovers: [],
    tempo: null,
    balance: null,
    sections: null,
    takes: null,
    measuredBy: null,
    undoLabel: null,
    redoLabel: null,
    relations: NO_RELATIONS,
    style: DEFAULT_STYLE,
    styleNewest: null,
    dismissals: [],
    freeBytes: 1e12,
    conform: options.conform
      ? {
          ready: (options.ready ?? []).map((trackId) => ({
            trackId,
            laneId: firstLaneId(trackId),
            key: trackId,
            lengthFrames: 960_000,
            matchDb: 0,
          })),
          wanted: 3,
        }
      : null,
  };
}

const conformed = (conform: ConformSettings | null): Edit => ({
  kind: 'patch',
  of: 'song',
  id: 'song',
  fields: { conform },
});
const posts: { readonly path: string; readonly body: { readonly edits?: readonly Edit[] } }[] = [];
function show(view: SessionView): void {
  posts.length = 0;
  globalThis.fetch = jest.fn(
    async (path: string, options?: { readonly method?: string; readonly body?: string }) => {
      if (options?.body)
        posts.push({ path, body: JSON.parse(options.body) as (typeof posts)[number]['body'] });
      return {
        ok: true,
        status: 200,
        json: async () =>
          options?.method === 'POST' ? { revision: 2 } : (JSON.parse(JSON.stringify(view)) as unknown),
      };
    },
  ) as unknown as typeof fetch;
  Object.assign(globalThis, {
    EventSource: jest.fn(() => ({ addEventListener: () => undefined, close: () => undefined })),
    ResizeObserver: class {
      observe(): void {
        /* no layout here */
      }
      disconnect(): void {
        /* no layout here */
      }
    },
  });
  render(
    <SessionProvider initial={view}>
      <PlayerProvider>
        <ConformHalf tabs={null} />
      </PlayerProvider>
    </SessionProvider>,
  );
}
const settings = (more: Partial<ConformSettings> = {}): ConformSettings => ({
  bpm: 109,
  treatments: {},
  heard: 'played',
  ...more,
});
const sent = (): readonly Change[] => posts.flatMap((p) => p.body.edits ?? []);

it('without an accepted map it says what to do first, and its key does nothing', async () => {
  show(viewOf({ map: false }));
  expect(screen.getByText('No accepted map yet.')).toBeTruthy();
  fireEvent.keyDown(window, { key: 'Enter', ctrlKey: true });
  await new Promise((done) => setTimeout(done, 50));
  expect(sent()).toEqual([]);
});

it('proposes the tempo that changes least, the kit as one group, each with its way', () => {
  show(viewOf());
  expect((screen.getByLabelText('Target tempo, BPM') as HTMLInputElement).value).toBe('109');
  expect(screen.getByRole('row', { name: /Drum kit 2 tracks/ })).toBeTruthy();
  expect((screen.getByLabelText('How Lead Vocal follows') as HTMLSelectElement).value).toBe('held middle');
  expect(screen.getByText(/Nothing is conformed yet/)).toBeTruthy();
});

it('another tempo and another way for one track are kept in hand until they are accepted, as one step', async () => {
  show(viewOf());
  const box = screen.getByLabelText('Target tempo, BPM');
  fireEvent.change(box, { target: { value: '112,5' } });
  fireEvent.keyDown(box, { key: 'Enter' });
  expect(screen.getByRole('button', { name: '109 changes least' })).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: /Drum kit/ }));
  fireEvent.change(screen.getByLabelText('How Snare follows'), { target: { value: 'held short' } });
  expect(screen.queryByRole('row', { name: /Drum kit/ })).toBeNull();
  expect(sent()).toEqual([]);
  fireEvent.click(screen.getByRole('button', { name: /^Conform to 112.5/ }));
  await waitFor(() =>
    expect(sent()).toEqual([
      conformed({ bpm: 112.5, treatments: { s: { method: 'held', block: 'short' } }, heard: 'played' }),
    ]),
  );
});

it('nonsense in the box leaves the tempo as it was', () => {
  show(viewOf());
  const box = screen.getByLabelText('Target tempo, BPM') as HTMLInputElement;
  for (const nonsense of ['fast', '4', '9999', '']) {
    fireEvent.change(box, { target: { value: nonsense } });
    fireEvent.keyDown(box, { key: 'Enter' });
    expect(box.value).toBe('109');
  }
});

it('while it is being made it says how far; what was cancelled can be asked for again', () => {
  show(viewOf({ conform: settings(), ready: ['k', 's'], rendering: true }));
  expect(screen.getByText(/2 of 3 tracks/)).toBeTruthy();
  expect(screen.getByRole('row', { name: /Drum kit/ }).textContent).toContain('ready');
  expect(screen.getByRole('row', { name: /Lead Vocal/ }).textContent).toContain('waiting');
});

it('missing tracks are said when nothing is under way any more', async () => {
  show(viewOf({ conform: settings(), ready: ['k', 's'] }));
  fireEvent.click(screen.getByRole('button', { name: 'Make them' }));
  await waitFor(() => expect(posts.map((p) => p.path)).toContain('/api/sessions/s1/conform'));
});

it('nothing is said to be conformed before the server has told what there is to make', () => {
  show({ ...viewOf({ conform: settings() }), conform: null });
  expect(screen.queryByText('conformed to 109')).toBeNull();
});

it('either version can be heard; leaving it as played is one step', async () => {
  show(viewOf({ conform: settings(), ready: ['k', 's', 'v'] }));
  expect(screen.getByText('conformed to 109')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Conformed to 109' }));
  await waitFor(() => expect(sent()).toEqual([conformed(settings({ heard: 'conformed' }))]));
  fireEvent.click(screen.getByRole('button', { name: 'Leave it as played' }));
  await waitFor(() => expect(sent().at(-1)).toEqual(conformed(null)));
});

it('bars tied to time are part of what is accepted, and can follow again', async () => {
  show(viewOf());
  fireEvent.change(screen.getByLabelText('First bar tied to time'), { target: { value: '4' } });
  fireEvent.change(screen.getByLabelText('Last bar tied to time'), { target: { value: '5' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep' }));
  expect(screen.getByText('Bars 4–5 keep their time')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: /Conform to 109/ }));
  await waitFor(() => expect(sent()).toEqual([conformed(settings({ keep: [{ fromBar: 2, toBar: 3 }] }))]));
  fireEvent.click(screen.getByRole('button', { name: 'Let bars 4 to 5 follow' }));
  expect(screen.queryByText('Bars 4–5 keep their time')).toBeNull();
  for (const [from, to] of [
    ['6', '4'],
    ['2', '3'],
    ['x', '5'],
    ['3.5', '4'],
  ] as const) {
    fireEvent.change(screen.getByLabelText('First bar tied to time'), { target: { value: from } });
    fireEvent.change(screen.getByLabelText('Last bar tied to time'), { target: { value: to } });
    expect((screen.getByRole('button', { name: 'Keep' }) as HTMLButtonElement).disabled).toBe(true);
  }
});

it('says what it takes on the disk, and when that does not fit', () => {
  show(viewOf());
  // 3 mono tracks of 20 s at 48 kHz, 4 bytes each: 11.5 MB, a little more or less with the tempo.
  expect(screen.getByText(/Takes about 11\.\d MB on this disk; 1\.0 TB are free\./)).toBeTruthy();
});

it('says so when it does not fit', () => {
  show({ ...viewOf(), freeBytes: 1e6 });
  expect(screen.getByText(/That does not fit/)).toBeTruthy();
});
