'use client';
import { useEffect, useRef, useState } from 'react';
import { type Fault, faultText } from '@/contracts';
import { api, faultOf } from '@/ui/client';
import { Button, Dialog } from '@/ui/kit';

/** The cover note of a package as the mixer gets it, to be read and printed. */
export function CoverNoteDialog({
  handoverId,
  number,
  onClose,
}: {
  readonly handoverId: string;
  readonly number: number;
  readonly onClose: () => void;
}) {
  const [html, setHtml] = useState<string | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const frame = useRef<HTMLIFrameElement>(null);
  useEffect(() => {
    void api<{ html: string }>(`/api/handovers/${handoverId}/note`).then(
      (note) => setHtml(note.html),
      (cause: unknown) => setFault(faultOf(cause)),
    );
  }, [handoverId]);
  return (
    <Dialog
      title={`Cover note of v${number}`}
      isWide
      onClose={onClose}
      footer={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button tone="main" disabled={html === null} onClick={() => frame.current?.contentWindow?.print()}>
            Print …
          </Button>
        </>
      }
    >
      {fault && <p role="alert">{faultText(fault)}</p>}
      {html === null && !fault && <p className="fm-faint">Reading the note …</p>}
      {html !== null && (
        // A page of its own, in which nothing runs.
        <iframe
          ref={frame}
          className="fm-cover-note"
          title={`Cover note of v${number}`}
          sandbox="allow-same-origin allow-modals"
          srcDoc={html}
        />
      )}
    </Dialog>
  );
}
