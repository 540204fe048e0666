'use client';
import { faultText, type JobView, type RecordingView, warningText } from '@/contracts';
import { formatClock } from '@/core/time';
import { formatBytes, formatDb, formatPercent, formatRate } from '@/ui/kit';

/** Faults that lie outside the file: its bytes are still here. */
const RETRIABLE: ReadonlySet<string> = new Set(['store.disk_full', 'job.cancelled', 'file.unreadable']);

/** One received file: facts, and what is odd or wrong right below its name. */
export function RecordingRow({ recording: r, job, sessionRateHz, inSession, onRetry, onDismiss }: { readonly recording: RecordingView; readonly job: JobView | null; readonly sessionRateHz: number | null; readonly inSession: boolean; readonly onRetry: () => void; readonly onDismiss: () => void }) {
  const notes = notesOf(r, sessionRateHz);
  if (r.state === 'ready' && !inSession) notes.push('Not in the session: its track was removed. Undo brings it back.');
  return (
    <tr className={r.state === 'failed' ? 'is-failed' : undefined}>
      <td className="fm-received">
        <span className="fm-mono" title={r.receivedName}>{r.receivedName}</span>
        {r.fault && <div className="fm-attention"><i className="bi bi-exclamation-octagon" aria-hidden="true" /> {faultText(r.fault)} {RETRIABLE.has(r.fault.code) && <button type="button" className="fm-button" onClick={onRetry}>Try again</button>} <button type="button" className="fm-quiet" onClick={onDismiss}>Take off the list</button></div>}
        {notes.map((n) => <div key={n} className="fm-note"><i className="bi bi-info-circle" aria-hidden="true" /> {n}</div>)}
      </td>
      <td>{stateWord(r, job)}</td>
      <td className="num">{r.sampleRateHz === null ? '' : <span className={r.sampleRateHz !== sessionRateHz ? 'fm-attention' : undefined}>{formatRate(r.sampleRateHz)}</span>}</td>
      <td className="num">{r.bitDepth === null ? '' : `${r.bitDepth}${r.encoding?.startsWith('f') ? ' float' : ''}`}</td>
      <td>{r.channels === null ? '' : r.channels === 1 ? 'mono' : 'stereo'}</td>
      <td className="num">{r.lengthFrames !== null && r.sampleRateHz !== null ? formatClock(r.lengthFrames / r.sampleRateHz, 1) : ''}</td>
      <td className="num">{r.facts ? formatDb(r.facts.peakDbfs) : ''}</td>
      <td className="num">{r.facts?.integratedLufs != null ? formatDb(r.facts.integratedLufs) : ''}</td>
      <td className="num">{formatBytes(r.sizeBytes)}</td>
    </tr>
  );
}

function stateWord(r: RecordingView, job: JobView | null): string {
  if (r.state === 'failed') return 'not taken';
  if (r.state === 'waiting') return 'waiting';
  if (r.state === 'arriving') return `arriving ${job ? formatPercent(job.progress) : ''}`;
  return r.listened ? 'ready' : job?.kind === 'recording.listen' && job.state === 'running' ? `listening ${formatPercent(job.progress)}` : 'ready, not heard yet';
}

/** What is odd about it, in words. */
function notesOf(r: RecordingView, sessionRateHz: number | null): string[] {
  const notes: string[] = r.warnings.map(warningText);
  if (r.sameAs !== null) notes.push(`The same content as “${r.sameAs}”: stored once.`);
  if (r.facts?.dualMono) notes.push('Left and right are the same: really mono.');
  if (r.sampleRateHz !== null && sessionRateHz !== null && r.sampleRateHz !== sessionRateHz) notes.push(r.convertedToHz ? `Converted to ${formatRate(r.convertedToHz)} kHz for the session; the original is kept.` : `Will be converted to ${formatRate(sessionRateHz)} kHz.`);
  if (r.facts && r.facts.peakDbfs === null) notes.push('Digital silence from end to end.');
  if (r.facts && r.facts.clippedRuns > 0) notes.push(`Clipped in ${r.facts.clippedRuns} ${r.facts.clippedRuns === 1 ? 'place' : 'places'}.`);
  return notes;
}
