'use client';
import { useMemo } from 'react';
import { type Change, type SessionState, soundTracks, type Track, withGroups } from '@/core/session';
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
  /** What the track's own would be after such a step: as far as all that go with it can. */
  readonly would: (field: StripField, by: number, track: Track) => number;
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
    const grouped = (edits: readonly Change[]): readonly Change[] =>
      workbench.getState().alone ? edits : withGroups(store.getState().view.session, edits);
    const keep = (made: TrackEdits): string | null => {
      if ('error' in made) return made.error;
      const edits = grouped(made.edits);
      if (edits.length > 0) store.getState().commit(made.label, edits);
      return null;
    };
    const targets = (track: Track): Track[] => targetsOf(store.getState().view.session, track);
    return {
      type: (field, text, track) => keep(stripEdits(field, text, targets(track))),
      step: (field, by, track) => {
        if (track) keep(stepEdits(field, by, targets(track)));
      },
      would(field, by, track) {
        const made = stepEdits(field, by, targets(track));
        const own =
          'error' in made ? undefined : grouped(made.edits).find((e) => 'id' in e && e.id === track.id);
        const fields = own?.kind === 'track.change' ? own.fields : {};
        return (
          (field === 'level' ? fields.gainDb : fields.pan) ?? (field === 'level' ? track.gainDb : track.pan)
        );
      },
    };
  }, [store]);
}
