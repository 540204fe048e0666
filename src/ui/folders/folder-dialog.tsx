'use client';
import { Button, Dialog } from '@/ui/kit';
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
    <Dialog
      title={title}
      onClose={onClose}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            tone="main"
            disabled={here === null}
            onClick={() => {
              if (here !== null) onChoose(here);
            }}
          >
            {confirm}
          </Button>
        </>
      }
    >
      <FolderBrowser browsing={browsing} use={use} />
      {view && view.path !== null && view.folders.length === 0 && (
        <p className="fm-faint fm-tight">No folders inside.</p>
      )}
    </Dialog>
  );
}
