'use client';
import { useRef, useState, type DragEvent } from 'react';
import { ProgressBar } from 'react-bootstrap';
import { useStore } from 'zustand';
import { startUploads, uploadsStore, useSession, useSessionStore, type UploadItem } from '@/ui/client';
import { formatBytes, formatPercent } from '@/ui/kit';
import { filesOfDrop } from './files-of-drop';
import { RecordingRow } from './recording-row';

/** Taking recordings in: choose or drop, progress per file, what each turned out to be. */
export function IntakeStage() {
  const view = useSession((s) => s.view);
  const store = useSessionStore();
  const used = new Set(Object.values(view.session.nodes).flatMap((n) => (n.kind === 'track' ? [n.recordingId] : [])));
  const items = useStore(uploadsStore, (s) => s.items);
  const uploads = items.filter((i) => i.sessionId === view.id && i.state !== 'sent' && i.state !== 'cancelled');
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [skipped, setSkipped] = useState(0);
  const take = (list: readonly File[]): void => {
    const wanted = list.filter((f) => !/(^|\/)(\.|thumbs\.db$|desktop\.ini$)/i.test(f.webkitRelativePath || f.name));
    setSkipped(list.length - wanted.length);
    startUploads(view.id, wanted);
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void filesOfDrop(event.dataTransfer).then(take);
  };
  const failed = view.recordings.filter((r) => r.state === 'failed').length;
  const ready = view.recordings.filter((r) => r.state === 'ready').length;
  const sending = uploads.filter((u) => u.state === 'sending' || u.state === 'waiting');
  const total = uploads.reduce((a, u) => a + u.sizeBytes, 0);
  const sent = uploads.reduce((a, u) => a + u.sentBytes, 0);
  const rate = uploads.filter((u) => u.state === 'sending').reduce((a, u) => a + u.bytesPerSecond, 0);
  return (
    <section className={`fm-pane fm-intake ${over ? 'is-over' : ''}`} aria-label="Intake" onDragOver={(e) => { e.preventDefault(); setOver(true); }} onDragLeave={(e) => { if (e.currentTarget === e.target) setOver(false); }} onDrop={drop}>
      <header className="fm-stage-head">
        <h1>Intake</h1>
        <span><b>{ready}</b> {ready === 1 ? 'recording' : 'recordings'}</span>
        {failed > 0 && <span className="fm-attention"><b>{failed}</b> could not be taken</span>}
        <span className="fm-top-spring" />
        <button type="button" className="fm-button" onClick={() => folder.current?.click()}>Add a folder</button>
        <button type="button" className="fm-main-button" onClick={() => files.current?.click()}>Add recordings</button>
        <input ref={files} type="file" multiple accept=".wav,.wave,audio/*" className="visually-hidden" tabIndex={-1} aria-label="Recordings" data-testid="files" onChange={(e) => { take([...(e.target.files ?? [])]); e.target.value = ''; }} />
        <input ref={folder} type="file" multiple className="visually-hidden" tabIndex={-1} aria-label="Folder of recordings" {...{ webkitdirectory: '' }} onChange={(e) => { take([...(e.target.files ?? [])]); e.target.value = ''; }} />
      </header>
      {uploads.length > 0 && (
        <div className="fm-uploads" aria-live="polite">
          {sending.length > 0 && <div className="fm-uploads-sum">Sending {sending.length} {sending.length === 1 ? 'file' : 'files'} · {formatBytes(sent)} of {formatBytes(total)}{rate > 0 ? ` · ${formatBytes(rate)}/s · ${timeLeft((total - sent) / rate)}` : ''}</div>}
          {uploads.map((u) => <UploadRow key={u.key} item={u} />)}
        </div>
      )}
      {skipped > 0 && <p className="fm-faint px-3 mb-1">{skipped} hidden system {skipped === 1 ? 'file was' : 'files were'} left out.</p>}
      {view.recordings.length === 0 && uploads.length === 0 ? (
        <div className="fm-empty fm-dropzone">
          <i className="bi bi-box-arrow-in-down" aria-hidden="true" />
          <p>Drop the recordings of the song here, or a whole folder.</p>
          <p className="fm-faint">WAV, 16 to 32 bit, mono or stereo, 44.1 to 192 kHz. All begin at the same zero; the files you send are never changed.</p>
        </div>
      ) : (
        <div className="fm-scroll">
          <table className="fm-table fm-recordings">
            <thead><tr><th>As received</th><th>State</th><th className="num">Rate</th><th className="num">Depth</th><th>Channels</th><th className="num">Length</th><th className="num">Peak dBFS</th><th className="num">LUFS</th><th className="num">Size</th></tr></thead>
            <tbody>{view.recordings.map((r) => <RecordingRow key={r.id} recording={r} job={view.jobs.find((j) => (j.state === 'running' || j.state === 'queued') && j.subject === r.receivedName) ?? null} sessionRateHz={view.session.sampleRateHz} inSession={used.has(r.id)} onRetry={() => void store.getState().call(`/api/recordings/${r.id}/retry`)} onDismiss={() => void store.getState().call(`/api/recordings/${r.id}`, undefined, 'DELETE')} />)}</tbody>
          </table>
        </div>
      )}
    </section>
  );
}

const timeLeft = (seconds: number): string => (seconds < 60 ? `${Math.max(1, Math.round(seconds))} s left` : `${Math.round(seconds / 60)} min left`);

function UploadRow({ item }: { readonly item: UploadItem }) {
  const share = item.sizeBytes > 0 ? item.sentBytes / item.sizeBytes : 0;
  return (
    <div className="fm-upload">
      <span className="fm-mono text-truncate flex-grow-1">{item.name}</span>
      <ProgressBar now={share * 100} className="fm-upload-bar" aria-label={`Sending ${item.name}`} />
      <span className="num">{formatPercent(share)}</span>
      <span className={item.state === 'failed' ? 'fm-attention' : 'fm-faint'}>{item.message ?? { waiting: 'waiting', sending: `${formatBytes(item.bytesPerSecond)}/s`, paused: 'paused', failed: 'broke off', sent: 'sent', cancelled: 'cancelled' }[item.state]}</span>
      {item.state === 'sending' && <button type="button" className="fm-quiet" onClick={() => item.pause()}>Pause</button>}
      {(item.state === 'paused' || item.state === 'failed') && <button type="button" className="fm-quiet" onClick={() => item.resume()}>{item.state === 'failed' ? 'Try again' : 'Go on'}</button>}
      <button type="button" className="fm-quiet" onClick={() => item.cancel()}>Cancel</button>
    </div>
  );
}
