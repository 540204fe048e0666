'use client';
import { useState, type FormEvent } from 'react';
import { Alert, Button, Form, Modal } from 'react-bootstrap';
import { ValidationError } from 'yup';
import { faultText, newSessionSchema } from '@/contracts';
import { api, ApiFault } from '@/ui/client';

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
    <Modal aria-labelledby="dialog-title" show onHide={onClose} centered>
      <Form onSubmit={(e) => void make(e)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="dialog-title">
            New session
          </Modal.Title>
        </Modal.Header>
        <Modal.Body className="d-flex flex-column gap-3">
          {message && (
            <Alert variant="danger" className="mb-0">
              {message}
            </Alert>
          )}
          <Form.Group controlId="new-name">
            <Form.Label>Song</Form.Label>
            <Form.Control value={name} maxLength={120} autoFocus onChange={(e) => setName(e.target.value)} />
          </Form.Group>
          <Form.Group controlId="new-artist">
            <Form.Label>Artist</Form.Label>
            <Form.Control value={artist} maxLength={120} onChange={(e) => setArtist(e.target.value)} />
          </Form.Group>
          <Form.Group controlId="new-notes">
            <Form.Label>Notes from the sender</Form.Label>
            <Form.Control
              as="textarea"
              rows={3}
              value={notes}
              maxLength={4000}
              onChange={(e) => setNotes(e.target.value)}
            />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={busy}>
            Make session
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
