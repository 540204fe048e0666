'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { Button, FernMark, Icon, IconButton, Kbd, later, ThemeSwitch, useShortcuts } from '@/ui/kit';
import { useSession, useSessionStore } from '@/ui/client';
import { Facts } from './facts';
import { JobsButton } from './jobs-button';
import { KeyList } from './key-list';
import { Transport } from './transport';

const DescribeDialog = later(() => import('./describe-dialog').then((m) => m.DescribeDialog));
const HistoryDialog = later(() => import('./history-dialog').then((m) => m.HistoryDialog));

/** Brand, song, facts, listening, jobs, history. */
export function TopBar() {
  const view = useSession((s) => s.view);
  const [describing, setDescribing] = useState(false);
  const { session } = view;
  return (
    <header className="fm-top">
      <Link href="/" className="fm-brand" aria-label="Fernmoss: all sessions">
        <FernMark />
      </Link>
      <div className="fm-song-block">
        <Button
          tone="bare"
          className="fm-song"
          onClick={() => setDescribing(true)}
          title="Name, artist, key and notes"
        >
          <span className="fm-song-name">{session.name}</span>
          <span className="fm-song-artist">{session.artist || 'no artist'}</span>
        </Button>
        <Facts onDescribe={() => setDescribing(true)} />
      </div>
      <div className="fm-top-spring" />
      <Transport />
      <JobsButton />
      <History />
      <KeyList />
      <ThemeSwitch />
      {describing && <DescribeDialog onClose={() => setDescribing(false)} />}
    </header>
  );
}

function History() {
  const store = useSessionStore();
  const undo = useSession((s) => s.view.undoLabel);
  const redo = useSession((s) => s.view.redoLabel);
  const [open, setOpen] = useState(false);
  useShortcuts(useMemo(() => [{ key: 'k', run: () => setOpen(true) }], []));
  return (
    <div className="fm-history" role="group" aria-label="History">
      <Button
        tone="quiet"
        disabled={undo === null}
        onClick={() => store.getState().undo()}
        title={undo === null ? 'Nothing to undo' : `Undo ${undo} (Ctrl Z)`}
      >
        <Icon name="arrow-counterclockwise" /> <span className="fm-history-label">{undo ?? 'Undo'}</span>
      </Button>
      <Button
        tone="quiet"
        disabled={redo === null}
        onClick={() => store.getState().redo()}
        title={redo === null ? 'Nothing to redo' : `Redo ${redo} (Ctrl Shift Z)`}
      >
        <Icon name="arrow-clockwise" />
        <span className="fm-unseen">Redo {redo ?? ''}</span>
      </Button>
      <IconButton label="History and checkpoints" hint={<Kbd>K</Kbd>} onClick={() => setOpen(true)}>
        <Icon name="clock-history" />
      </IconButton>
      {open && <HistoryDialog onClose={() => setOpen(false)} />}
    </div>
  );
}
