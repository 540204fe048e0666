'use client';
import { Button, Modal } from 'react-bootstrap';
import { FolderBrowser, useFolders } from './folder-browser';

/** Choosing one of the allowed folders of this machine. */
export function FolderDialog({
  title,
  confirm,
  use,
  onClose,
  onChoose,
}: {
  readonly title: string;
  readonly confirm: string;
  readonly use: string;
  readonly onClose: () => void;
  readonly onChoose: (path: string) => void;
}) {
  const browsing = useFolders();
  const { view, here } = browsing;
  return (
    <Modal aria-labelledby="dialog-title" show onHide={onClose} centered>
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="dialog-title">
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <FolderBrowser browsing={browsing} use={use} />
        {view && view.path !== null && view.folders.length === 0 && (
          <p className="fm-faint mb-0">No folders inside.</p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onClose}>
          Cancel
        </Button>
        <Button
          disabled={here === null}
          onClick={() => {
            if (here !== null) onChoose(here);
          }}
        >
          {confirm}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
