import { fireEvent, render, screen } from '@testing-library/react';
import type { JobView, RecordingView } from '@/contracts';
import { completeFacts } from '@/core/analysis';
import { NO_METADATA } from '@/core/audio';
import type { Finding } from '@/core/findings';
import { marksOf, RecordingRow } from './recording-row';

const ready: RecordingView = {
  id: 'r',
  receivedName: 'KICK in_03.wav',
  sizeBytes: 12_500_000,
  state: 'ready',
  fault: null,
  sha256: 'a'.repeat(64),
  sampleRateHz: 48_000,
  channels: 1,
  encoding: 's24',
  bitDepth: 24,
  lengthFrames: 48_000 * 87,
  facts: {
    ...completeFacts({}),
    peakDbfs: -8,
    rmsDbfs: -20,
    integratedLufs: -29.6,
    dcOffset: 0,
    clippedRuns: 0,
    firstSoundSeconds: 1,
    lastSoundSeconds: 80,
    dualMono: false,
  },
  truePeakDbtp: null,
  heard: null,
  container: 'wav',
  lossy: false,
  channelIndex: null,
  metadata: NO_METADATA,
  warnings: [],
  sameAs: null,
  convertedToHz: null,
  sessionFrames: 48_000 * 87,
  inPlace: null,
  notes: null,
  passingHz: 48_000,
  listened: true,
  hasLevels: true,
};
const onRetry = jest.fn();
const onDismiss = jest.fn();
function show(
  change: Partial<RecordingView>,
  more: { job?: JobView; inSession?: boolean; sessionRateHz?: number; findings?: readonly Finding[] } = {},
): void {
  render(
    <table>
      <tbody>
        <RecordingRow
          folder=""
          file={{ ...ready, ...change }.receivedName}
          recording={{ ...ready, ...change }}
          job={more.job ?? null}
          sessionRateHz={more.sessionRateHz ?? 48_000}
          inSession={more.inSession ?? true}
          marks={marksOf(more.findings ?? [])}
          here={false}
          index={0}
          onSelect={() => undefined}
          onRetry={onRetry}
          onDismiss={onDismiss}
        />
      </tbody>
    </table>,
  );
}
const text = (): string => screen.getByRole('row').textContent ?? '';

it('shows the facts of a good recording with true minus signs', () => {
  show({});
  for (const part of ['KICK in_03.wav', 'ready', '48', '24', 'mono', '1:27.0', '−8.0', '−29.6', '12.5 MB'])
    expect(text()).toContain(part);
  expect(screen.queryByRole('button')).toBeNull();
});

it('counts what was found about it, and names it to those who cannot see the sign', () => {
  show(
    {},
    {
      findings: [
        { code: 'clipped', severity: 'check', remedy: null, files: [] },
        { code: 'dual-mono', severity: 'note', remedy: 'make-mono', files: [] },
      ],
    },
  );
  expect(text()).toContain('2 found: Clipped, Stereo files that are mono');
});
it('says which channel of a file it is, and floats', () => {
  show({ channelIndex: 2, bitDepth: 32, encoding: 'f32' });
  expect(text()).toContain('mono, ch 3');
  expect(text()).toContain('32 float');
});

it('marks a foreign rate, before and after it was converted', () => {
  show({ sampleRateHz: 44_100, passingHz: 44_100 });
  expect(text()).toContain('Will be converted to 48 kHz.');
});
it('marks a converted one', () => {
  show({ sampleRateHz: 44_100, passingHz: 44_100, convertedToHz: 48_000 });
  expect(text()).toContain('Converted to 48 kHz for the session; the original is kept.');
});

it('says when its track was removed', () => {
  show({}, { inSession: false });
  expect(text()).toContain('Not in the session: its track was removed.');
});

it('offers to try again only what lies outside the file', () => {
  show({ state: 'failed', fault: { code: 'store.disk_full' }, facts: null });
  fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
  fireEvent.click(screen.getByRole('button', { name: 'Take off the list' }));
  expect([onRetry.mock.calls.length, onDismiss.mock.calls.length]).toEqual([1, 1]);
});
it('offers no second try for a broken file', () => {
  show({ state: 'failed', fault: { code: 'sound.unknown', found: 'Dear' }, facts: null });
  expect(text()).toContain('This is no sound file that can be read here (it begins with “Dear”).');
  expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
});

it('follows the work on a recording', () => {
  const job: JobView = {
    id: 'j',
    kind: 'recording.arrive',
    sessionId: 's',
    subject: '',
    state: 'running',
    progress: 0.42,
    fault: null,
    createdAt: '',
    finishedAt: null,
  };
  show({ state: 'arriving', facts: null, listened: false }, { job });
  expect(text()).toContain('arriving 42 %');
});
it('names the listening pass', () => {
  const job: JobView = {
    id: 'j',
    kind: 'recording.listen',
    sessionId: 's',
    subject: '',
    state: 'running',
    progress: 0.5,
    fault: null,
    createdAt: '',
    finishedAt: null,
  };
  show({ listened: false }, { job });
  expect(text()).toContain('listening 50 %');
});
