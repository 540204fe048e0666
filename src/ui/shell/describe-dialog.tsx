'use client';
import { useState, type FormEvent } from 'react';
import { Form } from 'react-bootstrap';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Dialog } from '@/ui/kit';

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
      <Form.Group controlId="song-name">
        <Form.Label>Song</Form.Label>
        <Form.Control
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
          isInvalid={name.trim() === ''}
          autoFocus
        />
        <Form.Control.Feedback type="invalid">Give the song a name</Form.Control.Feedback>
      </Form.Group>
      <Form.Group controlId="song-artist">
        <Form.Label>Artist</Form.Label>
        <Form.Control value={artist} maxLength={120} onChange={(e) => setArtist(e.target.value)} />
      </Form.Group>
      <Form.Group controlId="song-notes">
        <Form.Label>Notes from the sender</Form.Label>
        <Form.Control
          as="textarea"
          rows={4}
          value={notes}
          maxLength={4000}
          onChange={(e) => setNotes(e.target.value)}
        />
      </Form.Group>
    </Dialog>
  );
}
