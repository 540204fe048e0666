import { useEffect, useRef, useState } from 'react';
import { type AuditionView, faultText } from '@/contracts';
import { conformedTrack } from '@/core/conform';
import type { Lane, Track } from '@/core/session';
import { api, ApiFault, faultOf, useSession } from '@/ui/client';
import { type NamedSound, recordingSound, sessionTrack, usePlayer, usePlayerState } from '@/ui/listening';
import { auditionTracks } from './audition-tracks';
import type { ConformDraft } from './use-conform-draft';

/** Hearing a few bars at the tempo in hand, before anything is decided. */
export interface Audition {
  readonly state: 'off' | 'rendering' | 'conformed' | 'played';
  /** Names of what is heard. */
  readonly names: readonly string[];
  /** Seconds as played; null when off. */
  readonly range: { readonly from: number; readonly to: number } | null;
  /** How long the last rendering took, s. */
  readonly tookSeconds: number | null;
  readonly fault: string | null;
  /** Starts it, or changes sides between as played and conformed. */
  toggle(): Promise<void>;
  start(): Promise<void>;
  stop(): void;
}

interface AuditionPlaying {
  readonly tracks: readonly Track[];
  readonly from: number;
  readonly to: number;
  readonly view: AuditionView;
  readonly side: 'conformed' | 'played';
}

const BARS = 4;
const MOST_BARS = 8;
const POLL_MS = 150;
const SETTLE_MS = 700;

/** The audition of this draft; it follows changes of tempo and method while it runs. */
export function useAudition(draft: ConformDraft): Audition {
  const player = usePlayer();
  const view = useSession((s) => s.view);
  const solo = usePlayerState((s) => s.soloIds);
  const [playing, setPlaying] = useState<AuditionPlaying | null>(null);
  const [rendering, setRendering] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [took, setTook] = useState<number | null>(null);
  const run = useRef(0);
  const { session, recordings } = view;
  const { plan, bpm, treatments, keep } = draft;

  const play = (h: AuditionPlaying): void => {
    const rate = session.sampleRateHz ?? 48_000;
    const byId = new Map(recordings.map((r) => [r.id, r]));
    const sounds = new Map(h.view.tracks.map((t) => [t.laneId, t]));
    const conformed = h.side === 'conformed';
    const soundOf = (lane: Lane): NamedSound | null => {
      const whole = recordingSound(byId.get(lane.recordingId));
      if (!conformed || !whole) return whole;
      const { channels } = whole;
      const made = sounds.get(lane.id);
      return made
        ? {
            sound: `conformed/${made.key}`,
            channels,
            lengthFrames: made.lengthFrames,
            gainDb: made.matchDb,
          }
        : null;
    };
    const tracks = h.tracks.flatMap((t) => {
      const shown = conformed && plan ? conformedTrack(t, plan, rate, h.view.startFrames) : t;
      const made = sessionTrack(session, shown, soundOf);
      return made ? [{ ...made, muted: false }] : [];
    });
    const warp = plan?.warp ?? null;
    void player.tryOut({
      tracks,
      time: conformed && warp ? { toPlayback: warp.toConformed, toPlayed: warp.toPlayed } : null,
      fromSeconds: h.from,
      toSeconds: Math.min(
        h.to,
        warp
          ? warp.toPlayed(
              (h.view.startFrames + Math.max(0, ...h.view.tracks.map((t) => t.lengthFrames))) / rate,
            )
          : h.to,
      ),
    });
    setPlaying(h);
  };

  const render = async (tracks: readonly Track[], from: number, to: number): Promise<void> => {
    if (!plan) return;
    const own = ++run.current;
    setRendering(true);
    setFault(null);
    const begin = performance.now();
    try {
      const { jobId } = await api<{ jobId: string }>(`/api/sessions/${view.id}/audition`, 'POST', {
        bpm,
        treatments,
        keep,
        fromSeconds: Math.max(0, plan.warp.toConformed(from)),
        toSeconds: plan.warp.toConformed(to),
        trackIds: tracks.map((t) => t.id),
      });
      for (;;) {
        const answer = await api<AuditionView>(`/api/auditions/${jobId}`);
        if (own !== run.current) return;
        if (answer.state === 'done') {
          setTook((performance.now() - begin) / 1000);
          play({ tracks, from, to, view: answer, side: 'conformed' });
          return;
        }
        if (answer.state === 'failed' || answer.state === 'cancelled')
          throw new ApiFault(answer.fault ?? { code: 'job.cancelled' });
        await new Promise((resolve) => setTimeout(resolve, POLL_MS));
      }
    } catch (cause) {
      if (own === run.current) setFault(faultText(faultOf(cause)));
    } finally {
      if (own === run.current) setRendering(false);
    }
  };

  const start = async (): Promise<void> => {
    if (!plan) return;
    const { positionSeconds, loop } = player.state.getState();
    const rate = session.sampleRateHz ?? 48_000;
    const { tempo, meters } = plan.played;
    const first = Math.max(
      1,
      meters.toBar(
        tempo.toQuarters(loop && !player.state.getState().trying ? loop.startFrames / rate : positionSeconds),
      ).bar,
    );
    const wanted =
      loop && !player.state.getState().trying
        ? Math.ceil(meters.toBar(tempo.toQuarters(loop.endFrames / rate)).bar - first)
        : BARS;
    const from = tempo.toSeconds(meters.barToQuarters(first));
    await render(
      auditionTracks(session, solo),
      from,
      tempo.toSeconds(meters.barToQuarters(first + Math.min(MOST_BARS, Math.max(1, wanted)))),
    );
  };

  const stop = (): void => {
    run.current++;
    setRendering(false);
    setPlaying(null);
    void player.tryOut(null);
  };

  // Another tempo or method while listening: the same bars are made again.
  const latest = useRef({ playing, render });
  useEffect(() => {
    latest.current = { playing, render };
  });
  useEffect(() => {
    const { playing: running } = latest.current;
    if (!running) return undefined;
    const timer = setTimeout(
      () => void latest.current.render(running.tracks, running.from, running.to),
      SETTLE_MS,
    );
    return () => clearTimeout(timer);
  }, [bpm, treatments, keep]);
  useEffect(
    () => () => {
      run.current++;
      void player.tryOut(null);
    },
    [player],
  );

  return {
    state: rendering ? 'rendering' : playing ? playing.side : 'off',
    names: playing?.tracks.map((t) => t.name) ?? [],
    range: playing ? { from: playing.from, to: playing.to } : null,
    tookSeconds: took,
    fault,
    start,
    stop,
    toggle: async () => {
      if (playing) play({ ...playing, side: playing.side === 'conformed' ? 'played' : 'conformed' });
      else await start();
    },
  };
}
