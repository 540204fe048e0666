'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { soundTracks } from '@/core/session';
import { cutSettingsFor, type HouseStyle } from '@/core/style';
import type { TidyProposal } from '@/core/tidy';
import { api, namesStateOf, proposalOf, useNamesRead, useSession } from '@/ui/client';
import { type HouseControls, tidyHand, useTidyHand } from './tidy-hand';
import type { FromTidyWorker, ToTidyWorker, TrackToHear } from './tidy-messages';
import { tracksToHear, withoutLevels } from './tidy-rows';

/** What Tidy would take out, as it comes. */
export interface Proposals {
  readonly byTrack: ReadonlyMap<string, TidyProposal>;
  /** How many tracks are weighed, and of how many; null once all are. */
  readonly progress: { readonly done: number; readonly of: number } | null;
  /** Levels could not be fetched. */
  readonly failed: boolean;
  /** Recordings that are being listened to first. */
  readonly waiting: number;
  /** How long the last proposals took, ms. */
  readonly tookMs: number | null;
}

const NONE: ReadonlyMap<string, TidyProposal> = new Map();
const RETRY_MS = 3000;
/** Until the page is told of jobs that were just queued, ms. */
const TOLD_MS = 1500;

/** Proposals for the session at hand, worked out beside the page and anew whenever a control moves. */
export function useProposals(): Proposals {
  const view = useSession((s) => s.view);
  const controls = useTidyHand((h) => h.controls);
  const apart = useTidyHand((h) => h.apart);
  const waiting = useListening();
  // What a track is, is known before it is sorted; what its name says comes a moment later.
  useNamesRead();
  const names = namesStateOf(view);
  const proposal = proposalOf(view);
  const tracks = useMemo(() => tracksToHear(view, proposal), [view, proposal]);
  const key = JSON.stringify(tracks);
  const house = useHouseControls(view.style, tracks);
  const own = useMemo(() => ({ ...house.byTrack, ...controls }), [house, controls]);
  const worker = useRef<Worker | null>(null);
  const run = useRef(0);
  const [heardRun, setHeardRun] = useState(0);
  const [state, setState] = useState<Omit<Proposals, 'waiting'>>({
    byTrack: NONE,
    progress: { done: 0, of: soundTracks(view.session).length },
    failed: false,
    tookMs: null,
  });
  useEffect(() => {
    const made = new Worker('/engine/tidy.worker.js', { type: 'module' });
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<FromTidyWorker>) => {
      if (data.run !== run.current) return;
      if (data.kind === 'failed') setState((s) => ({ ...s, failed: true, progress: null }));
      else if (data.kind === 'heard') {
        setState((s) => ({ ...s, failed: false, progress: data.done < data.of ? data : null }));
        if (data.done === data.of) setHeardRun(data.run);
      } else
        setState((s) => ({
          ...s,
          byTrack: merged(s.byTrack, data),
          tookMs: data.tookMs,
        }));
    };
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, []);
  const [attempt, setAttempt] = useState(0);
  const isWaiting = waiting > 0 || names === 'reading';
  useEffect(() => {
    // What is heard on one track depends on the others: all are weighed once all are there.
    if (isWaiting) return;
    run.current += 1;
    send(worker.current, { kind: 'hear', run: run.current, tracks: JSON.parse(key) as typeof tracks });
  }, [key, attempt, isWaiting]);
  const { failed } = state;
  useEffect(() => {
    if (!failed) return undefined;
    const timer = setTimeout(() => setAttempt((n) => n + 1), RETRY_MS);
    return () => clearTimeout(timer);
  }, [failed, attempt]);
  useEffect(() => {
    if (heardRun > 0)
      send(worker.current, { kind: 'propose', run: heardRun, settings: house.all, own, apart });
  }, [heardRun, house, own, apart]);
  return { ...state, waiting };
}

/** Proposals of all tracks: what did not change is the same object as before. */
function merged(
  before: ReadonlyMap<string, TidyProposal>,
  { ids, changed }: Pick<Extract<FromTidyWorker, { readonly kind: 'proposals' }>, 'ids' | 'changed'>,
): ReadonlyMap<string, TidyProposal> {
  const now = new Map(changed.map((p) => [p.id, p]));
  return new Map(
    ids.flatMap((id) => {
      const found = now.get(id) ?? before.get(id);
      return found ? [[id, found] as const] : [];
    }),
  );
}

/** Controls as the house style has them for tracks; in the hand too, for all that shows or does something by them. */
function useHouseControls(style: HouseStyle, tracks: readonly TrackToHear[]): HouseControls {
  const { cuts } = style;
  const house = useMemo(
    (): HouseControls => ({
      all: cuts.all,
      byTrack: Object.fromEntries(
        tracks.flatMap((t) => (cuts.families[t.family] ? [[t.id, cutSettingsFor({ cuts }, t.family)]] : [])),
      ),
    }),
    [cuts, tracks],
  );
  useEffect(() => tidyHand.setState({ house }), [house]);
  return house;
}

const send = (worker: Worker | null, message: ToTidyWorker): void => worker?.postMessage(message);

/** Recordings that were heard before levels were kept are listened to once more: how many are still to come. */
function useListening(): number {
  const id = useSession((s) => s.view.id);
  const count = useSession((s) => withoutLevels(s.view).length);
  const isUnderWay = useSession((s) =>
    s.view.jobs.some((j) => j.kind === 'recording.listen' && (j.state === 'queued' || j.state === 'running')),
  );
  const [isAsked, setAsked] = useState(false);
  const isNeeded = count > 0;
  useEffect(() => {
    if (!isNeeded) return;
    // Without an answer the next visit asks again; what could not be heard has no levels, and holds nothing up.
    void api(`/api/sessions/${id}/levels`, 'POST')
      .catch(() => undefined)
      .then(() => setTimeout(() => setAsked(true), TOLD_MS));
  }, [id, isNeeded]);
  return isUnderWay || !isAsked ? count : 0;
}
