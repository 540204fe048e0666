'use client';
import { useEffect, useRef, useState } from 'react';
import type { MeasuresResult } from '@/contracts';
import { measuredKey } from '@/core/matching';
import { soundTracks } from '@/core/session';
import { api, useSession, useSessionStore } from '@/ui/client';

/** How loud the tracks are as they are cut. */
export interface Measures {
  readonly result: MeasuresResult | null;
  readonly isMeasuring: boolean;
  /** 0–1 while it measures. */
  readonly share: number | null;
  /** Why there is no figure, and how to ask again. */
  readonly failed: boolean;
  readonly again: () => void;
  readonly cancel: () => void;
}

/** Fetches what was measured, and has measured what was cut since: once for each way the tracks are cut. */
export function useMeasures(): Measures {
  const store = useSessionStore();
  const id = useSession((s) => s.view.id);
  const by = useSession((s) => s.view.measuredBy);
  const job = useSession((s) => s.view.jobs.find((j) => j.kind === 'loudness.measure'));
  const isSettled = useSession((s) =>
    s.view.recordings.every((r) => r.state === 'ready' || r.state === 'failed'),
  );
  const wanted = useSession((s) => soundTracks(s.view.session).map(measuredKey).join(' '));
  const [state, setState] = useState<{
    readonly by: string | null;
    readonly result: MeasuresResult | null;
    readonly failed: boolean;
  }>({ by: null, result: null, failed: false });
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    if (by === null) return undefined;
    let isGone = false;
    void api<MeasuresResult | null>(`/api/sessions/${id}/loudness`)
      .then((result) => !isGone && setState({ by, result, failed: false }))
      .catch(() => !isGone && setState((s) => ({ ...s, failed: true })));
    return () => {
      isGone = true;
    };
  }, [id, by, attempt]);
  const isMeasuring = job?.state === 'queued' || job?.state === 'running';
  const known = new Set(state.result?.tracks.map((t) => t.key));
  const isOpen = wanted.split(' ').some((key) => key !== '' && !known.has(key));
  const isLoaded = state.by === by;
  // Once for each way the tracks are cut: what cannot be measured is not asked for in a ring.
  const asked = useRef('');
  const ask = `${attempt} ${wanted}`;
  useEffect(() => {
    if (!isLoaded || !isOpen || !isSettled || isMeasuring || asked.current === ask) return;
    asked.current = ask;
    void store.getState().call(`/api/sessions/${id}/loudness`);
  }, [ask, isLoaded, isOpen, isSettled, isMeasuring, id, store]);
  return {
    result: state.result,
    isMeasuring,
    share: isMeasuring ? job.progress : null,
    failed: state.failed || (job?.state === 'failed' && isOpen),
    again: () => setAttempt((n) => n + 1),
    cancel: () => {
      if (job) void store.getState().call(`/api/jobs/${job.id}/cancel`);
    },
  };
}
