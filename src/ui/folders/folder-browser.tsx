'use client';
import { useEffect, useState } from 'react';
import { type Fault, faultText, type FolderView } from '@/contracts';
import { api, faultOf } from '@/ui/client';
import { Button, formatBytes, Icon } from '@/ui/kit';

/** Where one is among the allowed folders of this machine. */
export interface Browsing {
  /** What is shown: the last folder that answered. */
  readonly view: FolderView | null;
  /** The folder gone to, once it has answered; nothing is chosen on the way from one to another. */
  readonly here: string | null;
  readonly fault: Fault | null;
  /** Goes to a folder; null = the list of all allowed ones. */
  readonly go: (path: string | null) => void;
}

/** Walks through the allowed folders. */
export function useFolders(): Browsing {
  const [at, setAt] = useState<string | null>(null);
  const [shown, setShown] = useState<{ readonly of: string | null; readonly view: FolderView } | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  useEffect(() => {
    let live = true;
    api<FolderView>(`/api/folders${at === null ? '' : `?path=${encodeURIComponent(at)}`}`).then(
      (v) => {
        if (live) setShown({ of: at, view: v });
      },
      (cause: unknown) => {
        if (live) setFault(faultOf(cause));
      },
    );
    return () => {
      live = false;
    };
  }, [at]);
  const view = shown?.view ?? null;
  return {
    view,
    here: shown?.of === at && !fault ? (view?.path ?? null) : null,
    fault,
    go: (path) => {
      setFault(null);
      setAt(path);
    },
  };
}

/** The folders here, each a step further in; `use` says what allowed folders are good for, where none is. */
export function FolderBrowser({
  browsing: { view, fault, go },
  use,
  children,
}: {
  readonly browsing: Browsing;
  readonly use: string;
  readonly children?: React.ReactNode;
}) {
  return (
    <>
      {fault && (
        <p className="fm-attention" role="alert">
          {faultText(fault)}
        </p>
      )}
      {view?.path === null && view.folders.length === 0 && (
        <p>
          No folder is allowed yet. Start Fernmoss with{' '}
          <code>FERNMOSS_FOLDERS=/path/one:/path/two npm start</code>; {use}
        </p>
      )}
      {view && view.path !== null && (
        <p className="fm-mono fm-break fm-below-1">
          {view.path}
          {view.freeBytes !== null && <span className="fm-faint"> · {formatBytes(view.freeBytes)} free</span>}
        </p>
      )}
      <div className="fm-folders">
        {view && view.path !== null && (
          <Button tone="choice" onClick={() => go(view.parent)}>
            <Icon name="arrow-up" /> {view.parent === null ? 'All allowed folders' : 'One up'}
          </Button>
        )}
        {view?.folders.map((f) => (
          <Button key={f.path} tone="choice" onClick={() => go(f.path)}>
            <Icon name="folder" /> <span className="fm-mono fm-break">{f.name}</span>
          </Button>
        ))}
        {children}
      </div>
    </>
  );
}
