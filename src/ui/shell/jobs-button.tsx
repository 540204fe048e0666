'use client';
import { faultText, type JobKind, liesInFile } from '@/contracts';
import { Button, formatPercent, Line, Panel, Progress } from '@/ui/kit';
import { useSession, useSessionStore } from '@/ui/client';
import { useBatch, waitsFor } from './job-progress';

const WORDS: Readonly<Record<JobKind, string>> = {
  'recording.arrive': 'Taking in',
  'recording.listen': 'Listening to',
  'recording.convert': 'Converting',
  'pair.join': 'Joining',
  'session.relate': 'Looking at',
  'places.find': 'Looking for',
  'places.copy-in': 'Copying in',
  'tempo.detect': 'Finding the tempo of',
  'balance.find': 'Working out levels of',
  'sections.find': 'Finding the sections of',
  'takes.find': 'Looking for takes in',
  'loudness.measure': 'Measuring',
  'conform.render': 'Conforming',
  'conform.audition': 'Rendering a few bars of',
  'package.build': 'Building the package of',
  'package.copy': 'Writing package',
  'demo.make': 'Playing the demo',
};

/** What is being worked on, with progress and cancel. */
export function JobsButton() {
  const store = useSessionStore();
  const jobs = useSession((s) => s.view.jobs);
  const elsewhere = useSession((s) => s.view.jobsElsewhere);
  const open = jobs.filter((j) => j.state === 'running' || j.state === 'queued');
  // That no tempo was found is said at Tempo, and was perhaps not even asked for.
  const failed = jobs.filter((j) => j.state === 'failed' && !j.fault?.code.startsWith('tempo.')).slice(0, 5);
  const batch = useBatch(open);
  if (open.length === 0 && failed.length === 0) return null;
  return (
    <Panel
      label="Jobs"
      isNamedByButton
      buttonClass="fm-quiet"
      className="fm-jobs"
      button={
        <span aria-live="polite">
          {open.length > 0
            ? `${open.length} ${open.length === 1 ? 'job' : 'jobs'} · ${formatPercent(batch.share)}`
            : `${failed.length} stopped`}
        </span>
      }
    >
      {[
        ...open.filter((j) => j.state === 'running'),
        ...open.filter((j) => j.state === 'queued').slice(0, 8),
      ].map((j) => (
        <div key={j.id} className="fm-job">
          <Progress
            label={`${WORDS[j.kind]} ${j.subject}`}
            share={j.state === 'running' ? j.progress : null}
            amount={
              j.state === 'running'
                ? undefined
                : waitsFor(j, open, elsewhere, (other) => `${WORDS[other.kind]} ${other.subject}`)
            }
            onCancel={() => void store.getState().call(`/api/jobs/${j.id}/cancel`)}
          />
        </div>
      ))}
      {open.length > 10 && <div className="fm-job fm-faint">and {open.length - 10} more waiting</div>}
      {failed.map((j) => (
        <div key={j.id} className="fm-job">
          <Line>
            <b className="fm-grow fm-truncate">
              {WORDS[j.kind]} {j.subject}
            </b>
            {!(j.fault && liesInFile(j.fault)) && (
              <Button tone="quiet" onClick={() => void store.getState().call(`/api/jobs/${j.id}/retry`)}>
                Try again
              </Button>
            )}
            <Button tone="quiet" onClick={() => void store.getState().call(`/api/jobs/${j.id}/dismiss`)}>
              Dismiss
            </Button>
          </Line>
          <div className="fm-attention">{j.fault ? faultText(j.fault) : 'stopped'}</div>
        </div>
      ))}
    </Panel>
  );
}
