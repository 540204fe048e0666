'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { createSongMap, formatBarPulse, formatClock } from '@/core/time';
import { FernMark, formatRate, Kbd, ThemeSwitch } from '@/ui/kit';
import { asHeard, heardWarp } from '@/core/conform';
import { useSession, useSessionStore } from '@/ui/client';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { DescribeDialog } from './describe-dialog';
import { JobsButton } from './jobs-button';
import { KeyList } from './key-list';

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
      <button type="button" className="fm-song" onClick={() => setDescribing(true)} title="Name, artist and notes">
        <span className="fm-song-name">{session.name}</span>
        <span className="fm-song-artist">{session.artist || 'no artist'}</span>
      </button>
      <Facts />
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
  const session = asHeard(view.session);
  const warp = heardWarp(view.session);
  const rate = session.sampleRateHz;
  const played = Math.max(0, ...recordings.map((r) => (r.sessionFrames !== null && rate !== null ? r.sessionFrames / rate : 0)));
  const length = warp ? warp.toConformed(played) : played;
  const depths = [...new Set(recordings.map((r) => r.bitDepth).filter((d) => d !== null))];
  const tempo = session.mapFacts?.bpm ?? (session.map ? averageTempo(session.map.points) : null);
  return (
    <div className="fm-facts">
      {rate !== null && <span><b>{formatRate(rate)}</b> kHz</span>}
      {depths.length > 0 && <span><b>{depths.length === 1 ? depths[0] : 'mixed'}</b>{depths.length === 1 ? '-bit' : ' depths'}</span>}
      {tempo !== null && <span><b>{tempo.toFixed(1)}</b> {warp ? 'conformed' : session.mapFacts?.steady ? 'steady' : 'as played'}</span>}
      {length > 0 && <span><b>{formatClock(length, 0)}</b></span>}
    </div>
  );
}

const averageTempo = (points: readonly { readonly quarters: number; readonly seconds: number }[]): number | null => {
  const [a, b] = [points[0], points.at(-1)];
  return a && b && b.seconds > a.seconds ? (60 * (b.quarters - a.quarters)) / (b.seconds - a.seconds) : null;
};

function Transport() {
  const player = usePlayer();
  const { map: file } = useSession((s) => s.view.session);
  const map = useMemo(() => (file ? createSongMap(file.points, file.meters) : null), [file]);
  const seconds = usePlayerState((s) => Math.round(s.positionSeconds * 50) / 50);
  const status = usePlayerState((s) => s.status);
  const clickOn = usePlayerState((s) => s.clickOn);
  const starved = usePlayerState((s) => s.starvedSeconds > 0.05);
  const peak = usePlayerState((s) => Math.round(s.peak * 50) / 50);
  return (
    <div className="fm-transport" role="group" aria-label="Listening">
      {starved && <span className="fm-attention" title="Audio did not come in time"><i className="bi bi-exclamation-triangle" aria-hidden="true" /> gaps</span>}
      <span className="fm-position" aria-label="Position">{map ? <b>{formatBarPulse(map, seconds)}</b> : null} {formatClock(seconds)}</span>
      <span className={`fm-level ${peak >= 1 ? 'is-over' : ''}`} role="img" aria-label="Output level"><span style={{ width: `${Math.min(100, peak * 100)}%` }} /></span>
      <button type="button" className="fm-button" onClick={() => void player.toggle()} disabled={status === 'unavailable'} title={status === 'unavailable' ? 'This browser cannot play here: open the page at 127.0.0.1' : undefined}>
        <i className={`bi ${status === 'playing' ? 'bi-pause-fill' : 'bi-play-fill'}`} aria-hidden="true" /> <span className="visually-hidden">{status === 'playing' ? 'Pause' : 'Play'}</span> <Kbd>Space</Kbd>
      </button>
      <button type="button" className={`fm-quiet ${clickOn ? 'is-on' : ''}`} aria-pressed={clickOn} onClick={() => player.toggleClick()} disabled={!map} title={map ? 'Click on the accepted map (C)' : 'The click needs an accepted tempo map'}>Click</button>
    </div>
  );
}

function History() {
  const store = useSessionStore();
  const undo = useSession((s) => s.view.undoLabel);
  const redo = useSession((s) => s.view.redoLabel);
  return (
    <div className="fm-history" role="group" aria-label="History">
      <button type="button" className="fm-quiet" disabled={undo === null} onClick={() => store.getState().undo()} title={undo === null ? 'Nothing to undo' : `Undo ${undo} (Ctrl Z)`}>
        <i className="bi bi-arrow-counterclockwise" aria-hidden="true" /> <span className="fm-history-label">{undo ?? 'Undo'}</span>
      </button>
      <button type="button" className="fm-quiet" disabled={redo === null} onClick={() => store.getState().redo()} title={redo === null ? 'Nothing to redo' : `Redo ${redo} (Ctrl Shift Z)`}>
        <i className="bi bi-arrow-clockwise" aria-hidden="true" /><span className="visually-hidden">Redo {redo ?? ''}</span>
      </button>
    </div>
  );
}
