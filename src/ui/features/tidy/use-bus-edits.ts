'use client';
import { useMemo } from 'react';
import type { Bus } from '@/core/session';
import { useSessionStore } from '@/ui/client';
import { busEdit, type BusFields, steppedBusFields, typedBusFields } from '@/ui/strips';
import type { StripField } from './use-strip-edits';

/** Changing levels, pans and mutes of buses; each change is one step. */
export interface BusHand {
  readonly change: (field: StripField, fields: BusFields, bus: Bus) => void;
  /** As typed; the reason where that cannot be. */
  readonly type: (field: StripField, text: string, bus: Bus) => string | null;
  /** By dB, or by hundredths of the way to one side. */
  readonly step: (field: StripField, by: number, bus: Bus) => void;
  readonly mute: (bus: Bus) => void;
}

/** See {@link BusHand}. */
export function useBusEdits(): BusHand {
  const store = useSessionStore();
  return useMemo(() => {
    const change: BusHand['change'] = (field, fields, bus) =>
      void store.getState().commit(`${field === 'level' ? 'Level' : 'Pan'} of a bus`, [busEdit(bus, fields)]);
    return {
      change,
      type(field, text, bus) {
        const typed = typedBusFields(field, text, bus);
        if ('error' in typed) return typed.error;
        const isNew = Object.entries(typed).some(([key, value]) => bus[key as keyof Bus] !== value);
        if (isNew) change(field, typed, bus);
        return null;
      },
      step(field, by, bus) {
        const fields = steppedBusFields(field, by, bus);
        if (fields) change(field, fields, bus);
      },
      mute: (bus) =>
        void store
          .getState()
          .commit(bus.muted ? 'Unmute a bus' : 'Mute a bus', [busEdit(bus, { muted: !bus.muted })]),
    };
  }, [store]);
}
