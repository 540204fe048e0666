'use client';
import { useState } from 'react';
import { useSessionStore } from '@/ui/client';
import { FolderBrowser, useFolders } from '@/ui/folders';
import { Button, Check, Dialog, formatBytes } from '@/ui/kit';

/** Taking in files of this machine without copying them: browse, tick, or take the whole folder. */
export function InPlaceDialog({
  sessionId,
  onHide,
}: {
  readonly sessionId: string;
  readonly onHide: () => void;
}) {
  const store = useSessionStore();
  const browsing = useFolders();
  const { view, here: folder } = browsing;
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const files = view?.files ?? [];
  const here = files.filter((f) => ticked.has(f.path));
  const tick = (paths: readonly string[], on: boolean): void => {
    const next = new Set(ticked);
    for (const p of paths)
      if (on) next.add(p);
      else next.delete(p);
    setTicked(next);
  };
  const start = async (paths: readonly string[]): Promise<void> => {
    onHide();
    await store.getState().call(`/api/sessions/${sessionId}/in-place`, { paths });
  };
  return (
    <Dialog
      title="Use recordings where they lie"
      isWide
      onClose={onHide}
      footer={
        <>
          {ticked.size > here.length && (
            <span className="fm-faint fm-push">{ticked.size - here.length} ticked in other folders</span>
          )}
          <Button onClick={onHide}>Cancel</Button>
          <Button
            disabled={folder === null}
            onClick={() => {
              if (folder !== null) void start([folder]);
            }}
          >
            Use this folder and all in it
          </Button>
          <Button tone="main" disabled={ticked.size === 0} onClick={() => void start([...ticked])}>
            {ticked.size === 0
              ? 'Use the ticked files'
              : `Use ${ticked.size} ${ticked.size === 1 ? 'file' : 'files'}`}
          </Button>
        </>
      }
    >
      <p className="fm-faint">
        For files on this machine: nothing is copied, and nothing is ever changed or deleted there. If they
        are moved, they can be found again; “Copy everything in” makes the session independent of them.
      </p>
      <FolderBrowser browsing={browsing} use="recordings can then be used from there.">
        {files.length > 1 && (
          <Check
            className="fm-file-choice"
            id="tick-all"
            label={`All ${files.length} recordings here`}
            checked={here.length === files.length}
            onChange={(e) =>
              tick(
                files.map((f) => f.path),
                e.target.checked,
              )
            }
          />
        )}
        {files.map((f) => (
          <Check
            key={f.path}
            className="fm-file-choice"
            id={`tick-${f.path}`}
            label={
              <>
                <span className="fm-mono fm-break">{f.name}</span>{' '}
                <span className="fm-faint num">{formatBytes(f.sizeBytes)}</span>
              </>
            }
            checked={ticked.has(f.path)}
            onChange={(e) => tick([f.path], e.target.checked)}
          />
        ))}
      </FolderBrowser>
      {view && view.path !== null && files.length === 0 && view.folders.length === 0 && (
        <p className="fm-faint fm-tight">Nothing here is called like a recording.</p>
      )}
      {view && view.otherFiles > 0 && (
        <p className="fm-faint fm-tight">
          {view.otherFiles} {view.otherFiles === 1 ? 'file' : 'files'} of other kinds not shown.
        </p>
      )}
    </Dialog>
  );
}
