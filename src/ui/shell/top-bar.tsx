'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { formatClock, pulseQuarters, type SongMapFile } from '@/core/time';
import { Button, FernMark, formatRate, Icon, IconButton, Kbd, ThemeSwitch, useShortcuts } from '@/ui/kit';
import { asPlayedBack, playbackWarp } from '@/core/conform';
import { useSession, useSessionStore, songSeconds } from '@/ui/client';
import { DescribeDialog } from './describe-dialog';
import { HistoryDialog } from './history-dialog';
import { JobsButton } from './jobs-button';
import { KeyList } from './key-list';
import { Transport } from './transport';

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
          title="Name, artist and notes"
        >
          <span className="fm-song-name">{session.name}</span>
          <span className="fm-song-artist">{session.artist || 'no artist'}</span>
        </Button>
        <Facts />
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

function Facts() {
  const view = useSession((s) => s.view);
  const { recordings } = view;
  const session = asPlayedBack(view.session);
  const warp = playbackWarp(view.session);
  const rate = session.sampleRateHz;
  const played = songSeconds(view.session, recordings);
  const length = warp ? warp.toConformed(played) : played;
  const depths = [...new Set(recordings.map((r) => r.bitDepth).filter((d) => d !== null))];
  const tempo = session.mapFacts?.bpm ?? (session.map ? averageTempo(session.map) : null);
  return (
    <div className="fm-facts">
      {rate !== null && (
        <span>
          <b>{formatRate(rate)}</b> kHz
        </span>
      )}
      {tempo !== null && (
        <span>
          <b>{tempo.toFixed(1)}</b> {warp ? 'conformed' : session.mapFacts?.steady ? 'steady' : 'as played'}
        </span>
      )}
      {length > 0 && (
        <span>
          <b>{formatClock(length, 0)}</b>
        </span>
      )}
      {depths.length > 0 && (
        <span>
          <b>{depths.length === 1 ? depths[0] : 'mixed'}</b>
          {depths.length === 1 ? '-bit' : ' depths'}
        </span>
      )}
    </div>
  );
}

/** Pulses a minute over the whole map. */
const averageTempo = ({ points, meters }: SongMapFile): number | null => {
  const [a, b, first] = [points[0], points.at(-1), meters[0]];
  return a && b && first && b.seconds > a.seconds
    ? (60 * (b.quarters - a.quarters)) / (b.seconds - a.seconds) / pulseQuarters(first)
    : null;
};

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
