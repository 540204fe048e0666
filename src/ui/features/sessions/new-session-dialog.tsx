'use client';
import { useState, type FormEvent } from 'react';
import { ValidationError } from 'yup';
import { faultText, newSessionSchema } from '@/contracts';
import { api, ApiFault } from '@/ui/client';
import { Button, Dialog, Field, Notice } from '@/ui/kit';

/** Name, artist, notes of a new session. */
export function NewSessionDialog({
  onClose,
  onMade,
}: {
  readonly onClose: () => void;
  readonly onMade: (id: string) => void;
}) {
  const [name, setName] = useState('');
  const [artist, setArtist] = useState('');
  const [notes, setNotes] = useState('');
  const [message, setMessage] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const make = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setBusy(true);
    try {
      const body = await newSessionSchema.validate({ name, artist, notes });
      onMade((await api<{ id: string }>('/api/sessions', 'POST', body)).id);
    } catch (cause) {
      setMessage(
        cause instanceof ValidationError
          ? cause.message
          : cause instanceof ApiFault
            ? faultText(cause.fault)
            : 'Something went wrong; try again.',
      );
      setBusy(false);
    }
  };
  return (
    <Dialog
      title="New session"
      stacked
      onClose={onClose}
      onSubmit={(e) => void make(e)}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="main" type="submit" disabled={busy}>
            Make session
          </Button>
        </>
      }
    >
      {message && (
        <Notice tone="danger" className="fm-tight">
          {message}
        </Notice>
      )}
      <Field id="new-name" label="Song" value={name} maxLength={120} autoFocus onChange={setName} />
      <Field id="new-artist" label="Artist" value={artist} maxLength={120} onChange={setArtist} />
      <Field
        id="new-notes"
        label="Notes from the sender"
        rows={3}
        value={notes}
        maxLength={4000}
        onChange={setNotes}
      />
    </Dialog>
  );
}
