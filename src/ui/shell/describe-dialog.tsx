'use client';
import { useState, type FormEvent } from 'react';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Dialog, Field } from '@/ui/kit';

/** Name, artist and notes of the song. */
export function DescribeDialog({ onClose }: { readonly onClose: () => void }) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const [name, setName] = useState(session.name);
  const [artist, setArtist] = useState(session.artist);
  const [notes, setNotes] = useState(session.notes);
  const save = (event: FormEvent): void => {
    event.preventDefault();
    if (name.trim() === '') return;
    store
      .getState()
      .commit('Describe the song', [
        { kind: 'session.describe', name: name.trim(), artist: artist.trim(), notes: notes.trim() },
      ]);
    onClose();
  };
  return (
    <Dialog
      title="The song"
      stacked
      onClose={onClose}
      onSubmit={save}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="main" type="submit">
            Save
          </Button>
        </>
      }
    >
      <Field
        id="song-name"
        label="Song"
        value={name}
        maxLength={120}
        error={name.trim() === '' ? 'Give the song a name' : null}
        autoFocus
        onChange={setName}
      />
      <Field id="song-artist" label="Artist" value={artist} maxLength={120} onChange={setArtist} />
      <Field
        id="song-notes"
        label="Notes from the sender"
        rows={4}
        value={notes}
        maxLength={4000}
        onChange={setNotes}
      />
    </Dialog>
  );
}
