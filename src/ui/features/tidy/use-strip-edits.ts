'use client';
import { useMemo } from 'react';
import {
  type Change,
  groupsOf,
  membersOf,
  type SessionState,
  soundTracks,
  type Track,
  withGroups,
} from '@/core/session';
import { useSessionStore, workbench } from '@/ui/client';
import { holderOf, stepEdits, stripEdits, type TrackEdits } from '@/ui/strips';

/** What of a track is changed here. */
export type StripField = 'level' | 'pan';

/** Changing levels and pans: of a track, of all that are selected with it, and of their groups. */
export interface StripHand {
  /** As typed; the reason where that cannot be. */
  readonly type: (field: StripField, text: string, track: Track) => string | null;
  /** By dB, or by hundredths of the way to one side. */
  readonly step: (field: StripField, by: number, track: Track | undefined) => void;
  /** What the track's own would be after such a step: as far as all that go with it can. */
  readonly would: (field: StripField, by: number, track: Track) => Would;
}

/** What a step would come to. */
export interface Would {
  readonly value: number;
  /** Name of another track that goes with it and is at its end before; null where none is. */
  readonly heldBy: string | null;
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
    const movedWith = (track: Track): Track[] => {
      const { session } = store.getState().view;
      const own = targets(track);
      const groups = own.flatMap((t) => groupsOf(session, t.id)).filter((g) => g.on);
      const others = workbench.getState().alone ? [] : groups.flatMap((g) => membersOf(session, g));
      return [...new Map([...own, ...others].map((t) => [t.id, t])).values()];
    };
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
        const holder = holderOf(field, by, movedWith(track));
        return {
          value:
            (field === 'level' ? fields.gainDb : fields.pan) ??
            (field === 'level' ? track.gainDb : track.pan),
          heldBy: holder === null || holder.id === track.id ? null : holder.name,
        };
      },
    };
  }, [store]);
}
