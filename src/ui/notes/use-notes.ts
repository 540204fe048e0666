'use client';
import { useEffect, useState } from 'react';
import type { NotesView } from '@/contracts';
import { api } from '@/ui/client';

const cache = new Map<string, Promise<NotesView | null>>();

function loadNotes(recordingId: string): Promise<NotesView | null> {
  const found = cache.get(recordingId);
  if (found) return found;
  const promise = api<NotesView>(`/api/recordings/${recordingId}/notes`).catch(() => {
    cache.delete(recordingId);
    return null;
  });
  cache.set(recordingId, promise);
  return promise;
}

/** The notes of a row and what its MIDI file says; null until they are there, or if it is none. */
export function useNotes(recordingId: string | null): NotesView | null {
  const [shown, setShown] = useState<{ readonly id: string; readonly notes: NotesView | null } | null>(null);
  useEffect(() => {
    if (recordingId === null) return;
    let live = true;
    void loadNotes(recordingId).then((notes) => {
      if (live) setShown({ id: recordingId, notes });
    });
    return () => {
      live = false;
    };
  }, [recordingId]);
  return shown && shown.id === recordingId ? shown.notes : null;
}
