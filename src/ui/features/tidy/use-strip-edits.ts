'use client';
import { useMemo } from 'react';
import { type SessionState, soundTracks, type Track, withGroups } from '@/core/session';
import { useSessionStore, workbench } from '@/ui/client';
import { stepEdits, stripEdits, type TrackEdits } from '@/ui/strips';

/** What of a track is changed here. */
export type StripField = 'level' | 'pan';

/** Changing levels and pans: of a track, of all that are selected with it, and of their groups. */
export interface StripHand {
  /** As typed; the reason where that cannot be. */
  readonly type: (field: StripField, text: string, track: Track) => string | null;
  /** By dB, or by hundredths of the way to one side. */
  readonly step: (field: StripField, by: number, track: Track | undefined) => void;
}

/** A track, or with it all that are selected. */
function targetsOf(session: SessionState, track: Track): Track[] {
  const { selected } = workbench.getState();
  return selected.has(track.id) ? soundTracks(session).filter((t) => selected.has(t.id)) : [track];
}

/** Each change is one step. */
export function useStripEdits(): StripHand {
  const store = useSessionStore();
  return useMemo(() => {
    const keep = (made: TrackEdits): string | null => {
      if ('error' in made) return made.error;
      const { session } = store.getState().view;
      const edits = workbench.getState().alone ? made.edits : withGroups(session, made.edits);
      if (edits.length > 0) store.getState().commit(made.label, edits);
      return null;
    };
    const targets = (track: Track): Track[] => targetsOf(store.getState().view.session, track);
    return {
      type: (field, text, track) => keep(stripEdits(field, text, targets(track))),
      step: (field, by, track) => {
        if (track) keep(stepEdits(field, by, targets(track)));
      },
    };
  }, [store]);
}
