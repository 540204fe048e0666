'use client';
import { useRef } from 'react';
import { type LaneChoice, newVersion, putTogether, removeVersion, roughPass, switchTo } from '@/core/comp';
import { type Change, type Clip, isTrack, type Lane, type Track, wholeClip } from '@/core/session';
import { fetchSound, useSession, useSessionStore } from '@/ui/client';
import { compHand } from './comp-hand';
import type { Phrases } from './use-phrases';

/** Working on what sounds of a track: each is one step. */
export interface CompEdits {
  /** Lets takes sound where they were chosen. `isByHand`: edges stay where they were put. */
  readonly choose: (label: string, choices: readonly LaneChoice[], isByHand?: boolean) => void;
  readonly roughPass: () => void;
  /** One take from end to end. */
  readonly whole: (lane: Lane) => void;
  readonly changeTake: (lane: Lane, label: string, fields: TakeFields) => void;
  readonly newVersion: () => void;
  readonly switchTo: (compId: string, name: string) => void;
  readonly renameVersion: (compId: string, name: string) => void;
  readonly removeVersion: (compId: string, name: string) => void;
}

/** What is said of a take. */
export type TakeFields = Partial<Pick<Lane, 'takeName' | 'takeRating' | 'takeNote' | 'takeAside'>>;

/** How often it is tried again where somebody changed the track meanwhile. */
const TRIES = 3;

/** Sound of a recording at the session's rate. Throws where it cannot be fetched: takes are not joined unheard. */
async function read({ recordingId }: Lane, from: number, count: number): Promise<readonly Float32Array[]> {
  const [channels] = await fetchSound([{ sound: `recordings/${recordingId}`, from, count }]);
  if (!channels || channels.length === 0) throw new Error('no sound');
  return channels;
}

export function useCompEdits(track: Track | null, found: Phrases | null): CompEdits {
  const store = useSessionStore();
  const sampleRateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  /** One after the other: keys come faster than sound is fetched, and none is lost. */
  const last = useRef(Promise.resolve());
  const commit = (label: string, changes: readonly Change[]): void => {
    if (changes.length > 0) void store.getState().commit(label, changes);
  };
  const trackNow = (): Track | null => {
    const node = track ? store.getState().view.session.nodes[track.id] : undefined;
    return isTrack(node) ? node : null;
  };
  const made = async (
    now: Track,
    choices: readonly LaneChoice[],
    isByHand: boolean,
  ): Promise<readonly Clip[]> => {
    const lengths = new Map(store.getState().view.recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
    return putTogether({ track: now, lengthOf: (l) => lengths.get(l.recordingId) ?? 0 }, choices, {
      read,
      sampleRateHz,
      rests: found?.rests ?? [],
      isByHand,
    });
  };
  const chosen = async (label: string, choices: readonly LaneChoice[], isByHand: boolean): Promise<void> => {
    try {
      for (let n = 0; n < TRIES; n++) {
        const now = trackNow();
        if (!now) return;
        const clips = await made(now, choices, isByHand);
        // What somebody did meanwhile is not overwritten: it is worked out anew from there.
        if (trackNow()?.clips !== now.clips) continue;
        if (!isSame(clips, now.clips)) commit(label, [{ kind: 'track.cut', id: now.id, clips }]);
        compHand.setState({ refused: null });
        return;
      }
      compHand.setState({ refused: 'Somebody changes this track at the same time. Choose again.' });
    } catch {
      compHand.setState({
        refused: 'The takes could not be listened to, so nothing was changed. Choose again in a moment.',
      });
    }
  };
  const choose: CompEdits['choose'] = (label, choices, isByHand = false) => {
    if (choices.length > 0) last.current = last.current.then(() => chosen(label, choices, isByHand));
  };
  const name = track?.name ?? '';
  return {
    choose,
    roughPass: () => {
      if (found) choose(`Rough pass of ${name}`, roughPass(found.takes, found.phrases, sampleRateHz));
    },
    whole: (lane) => {
      if (track)
        commit(`Take ${lane.takeNumber} of ${name} sounds`, [
          { kind: 'track.cut', id: track.id, clips: wholeClip(lane.id) },
        ]);
    },
    changeTake: (lane, label, fields) => commit(label, [{ kind: 'patch', of: 'lane', id: lane.id, fields }]),
    newVersion: () => commit(`Another version of ${name}`, track ? newVersion(track) : []),
    switchTo: (id, called) => commit(`${called} of ${name} sounds`, track ? switchTo(track, id) : []),
    renameVersion: (id, called) =>
      commit(`Call a version of ${name} ${called}`, [
        { kind: 'patch', of: 'comp', id, fields: { name: called } },
      ]),
    removeVersion: (id, called) =>
      commit(`Remove ${called} of ${name}`, track ? removeVersion(track, id) : []),
  };
}

const isSame = (a: readonly Clip[], b: readonly Clip[]): boolean => JSON.stringify(a) === JSON.stringify(b);
