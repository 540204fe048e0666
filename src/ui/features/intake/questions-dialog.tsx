'use client';
import { useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { CopyButton } from '@/ui/kit';

/** A message to the sender out of what was found, to edit and copy. */
export function QuestionsDialog({ draft, onHide }: { readonly draft: string; readonly onHide: () => void }) {
  const [text, setText] = useState(draft);
  return (
    <Modal aria-labelledby="dialog-title" show onHide={onHide} centered size="lg">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="dialog-title">
          Questions to the sender
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {draft === '' ? (
          <p className="mb-0">Nothing was found that only the sender could answer.</p>
        ) : (
          <Form.Group controlId="questions">
            <Form.Label>
              From what was found and not put aside. Edit it as you like; nothing is sent from here.
            </Form.Label>
            <Form.Control as="textarea" rows={16} value={text} onChange={(e) => setText(e.target.value)} />
          </Form.Group>
        )}
      </Modal.Body>
      <Modal.Footer>
        {draft !== '' && text !== draft && (
          <button type="button" className="fm-quiet" onClick={() => setText(draft)}>
            As proposed
          </button>
        )}
        {draft !== '' && <CopyButton text={text}>Copy the message</CopyButton>}
        <button type="button" className="fm-button" onClick={onHide}>
          Close
        </button>
      </Modal.Footer>
    </Modal>
  );
}
