'use client';
import { useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import type { StyleDifference } from '@/core/style';
import { DifferenceTable } from './compare-dialog';

/** What a new version changes, before it is kept. */
export function SaveDialog({
  name,
  version,
  differences,
  session,
  onSave,
  onHide,
}: {
  readonly name: string;
  readonly version: number;
  readonly differences: readonly StyleDifference[];
  readonly session: string | null;
  readonly onSave: (note: string, follow: boolean) => void;
  readonly onHide: () => void;
}) {
  const [note, setNote] = useState('');
  const [follow, setFollow] = useState(true);
  return (
    <Modal aria-labelledby="dialog-title" show onHide={onHide} centered size="lg" scrollable>
      <Form
        onSubmit={(e) => {
          e.preventDefault();
          onSave(note.trim(), follow);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="dialog-title">
            Save {name} as v{version}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <div className="fm-save-list" tabIndex={0} role="group" aria-label="What changes">
            <DifferenceTable differences={differences} />
          </div>
          <Form.Group controlId="style-note" className="mt-2">
            <Form.Label>Why, in a few words (may be empty)</Form.Label>
            <Form.Control
              size="sm"
              autoFocus
              maxLength={200}
              value={note}
              onChange={(e) => setNote(e.target.value)}
            />
          </Form.Group>
          {session !== null && (
            <Form.Check
              className="mt-2"
              id="style-follow"
              label={`${session} follows v${version} from now on; nothing is applied yet`}
              checked={follow}
              onChange={(e) => setFollow(e.target.checked)}
            />
          )}
        </Modal.Body>
        <Modal.Footer>
          <span className="fm-faint me-auto">Sessions stay with the version they follow.</span>
          <button type="button" className="fm-quiet" onClick={onHide}>
            Cancel
          </button>
          <button type="submit" className="fm-main-button">
            Save as v{version}
          </button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
