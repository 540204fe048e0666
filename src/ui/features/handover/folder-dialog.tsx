'use client';
import { useEffect, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { type Fault, faultText, type FolderView } from '@/contracts';
import { api, ApiFault } from '@/ui/client';
import { formatBytes } from '@/ui/kit';

/** Choosing one of the folders of this machine that packages may be written to. */
export function FolderDialog({ title, onClose, onChoose }: { readonly title: string; readonly onClose: () => void; readonly onChoose: (path: string) => void }) {
  const [at, setAt] = useState<string | null>(null);
  const [view, setView] = useState<FolderView | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const go = (path: string | null): void => {
    setFault(null);
    setAt(path);
  };
  useEffect(() => {
    let live = true;
    api<FolderView>(`/api/folders${at === null ? '' : `?path=${encodeURIComponent(at)}`}`).then((v) => { if (live) setView(v); }, (cause: unknown) => { if (live) setFault(cause instanceof ApiFault ? cause.fault : { code: 'internal' }); });
    return () => { live = false; };
  }, [at]);
  return (
    <Modal show onHide={onClose} centered>
      <Modal.Header closeButton><Modal.Title as="h2">{title}</Modal.Title></Modal.Header>
      <Modal.Body>
        {fault && <p className="fm-attention" role="alert">{faultText(fault)}</p>}
        {view?.path === null && view.folders.length === 0 && <p>No folder is allowed yet. Start Fernmoss with <code>FERNMOSS_FOLDERS=/path/one:/path/two npm start</code>; packages can then be written there.</p>}
        {view && view.path !== null && <p className="fm-mono fm-break mb-1">{view.path}{view.freeBytes !== null && <span className="fm-faint"> · {formatBytes(view.freeBytes)} free</span>}</p>}
        <div className="fm-folders">
          {view && view.path !== null && <button type="button" className="fm-choice" onClick={() => go(view.parent)}><i className="bi bi-arrow-up" aria-hidden="true" /> {view.parent === null ? 'All allowed folders' : 'One up'}</button>}
          {view?.folders.map((f) => <button key={f.path} type="button" className="fm-choice" onClick={() => go(f.path)}><i className="bi bi-folder" aria-hidden="true" /> <span className="fm-mono fm-break">{f.name}</span></button>)}
        </div>
        {view && view.path !== null && view.folders.length === 0 && <p className="fm-faint mb-0">No folders inside.</p>}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={onClose}>Leave it</Button>
        <Button disabled={!view || view.path === null || fault !== null} onClick={() => { if (view && view.path !== null) onChoose(view.path); }}>Write it here</Button>
      </Modal.Footer>
    </Modal>
  );
}
