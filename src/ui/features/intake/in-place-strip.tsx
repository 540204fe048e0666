'use client';
import { useEffect, useRef, useState } from 'react';
import type { RecordingView } from '@/contracts';
import { useSession, useSessionStore } from '@/ui/client';
import { FolderDialog } from '@/ui/folders';
import { Button, formatBytes, Icon } from '@/ui/kit';

const files = (n: number): string => `${n} ${n === 1 ? 'file' : 'files'}`;

/** What is used in place, what became of it, and how to get free of it. */
export function InPlaceStrip() {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const [searching, setSearching] = useState(false);
  const asked = useRef('');
  // Channels of one file are one file.
  const placed = [
    ...new Map(view.recordings.flatMap((r) => (r.inPlace ? [[r.inPlace.path, r] as const] : []))).values(),
  ];
  const inState = (state: NonNullable<RecordingView['inPlace']>['state']): readonly RecordingView[] =>
    placed.filter((r) => r.inPlace?.state === state);
  const [missing, touched, changed] = [inState('missing'), inState('touched'), inState('changed')];
  const busy = view.jobs.some(
    (j) =>
      (j.kind === 'places.find' || j.kind === 'places.copy-in') &&
      (j.state === 'queued' || j.state === 'running'),
  );
  const base = `/api/sessions/${view.id}/in-place`;
  const find = (folder: string | null): void => void store.getState().call(`${base}/find`, { folder });
  const key = touched.map((r) => r.id).join(' ');
  useEffect(() => {
    // Another time stamp alone says nothing: the file is read through, once.
    if (key === '' || asked.current === key) return;
    asked.current = key;
    void store.getState().call(`/api/sessions/${view.id}/in-place/find`, { folder: null });
  }, [key, store, view.id]);
  if (placed.length === 0) return null;
  const acceptChanged = (): void =>
    void store.getState().call(base, { paths: other.flatMap((r) => r.inPlace?.path ?? []) });
  const other = [...changed, ...(busy ? [] : touched)];
  return (
    <div className="fm-in-place" role="group" aria-label="In place">
      <div className="fm-in-place-line">
        <Icon name="link-45deg" />
        <span>
          <b>In place</b> · {files(placed.length)}, {formatBytes(placed.reduce((n, r) => n + r.sizeBytes, 0))}
          , not copied
        </span>
        <span className="fm-top-spring" />
        <Button
          tone="quiet"
          disabled={busy || missing.length + changed.length === placed.length}
          onClick={() => void store.getState().call(`${base}/copy`)}
        >
          Copy everything in
        </Button>
      </div>
      {missing.length > 0 && (
        <div className="fm-in-place-line fm-attention">
          <Icon name="exclamation-triangle" />
          <span>
            {files(missing.length)} {missing.length === 1 ? 'is' : 'are'} not where{' '}
            {missing.length === 1 ? 'it was' : 'they were'}: silent until found.
          </span>
          <span className="fm-top-spring" />
          <Button disabled={busy} onClick={() => find(null)}>
            Look again
          </Button>
          <Button disabled={busy} onClick={() => setSearching(true)}>
            Look in a folder
          </Button>
        </div>
      )}
      {other.length > 0 && (
        <div className="fm-in-place-line fm-attention">
          <Icon name="exclamation-triangle" />
          <span>
            {files(other.length)} {other.length === 1 ? 'was' : 'were'} changed since: silent here. What
            stands there now can come in as a replacement.
          </span>
          <span className="fm-top-spring" />
          <Button disabled={busy} onClick={acceptChanged}>
            Take in as now
          </Button>
          <Button disabled={busy} onClick={() => setSearching(true)}>
            Look for the old ones
          </Button>
        </div>
      )}
      {searching && (
        <FolderDialog
          title="Where to look for them"
          confirm="Look here and below"
          use="files can then be found there."
          onClose={() => setSearching(false)}
          onChoose={(folder) => {
            setSearching(false);
            find(folder);
          }}
        />
      )}
    </div>
  );
}
