'use client';
import { memo } from 'react';
import { faultText, type InPlaceState, type JobView, type RecordingView } from '@/contracts';
import { type Finding, findingTitle, SEVERITIES, type Severity } from '@/core/findings';
import { repitch } from '@/core/session';
import {
  Button,
  formatBytes,
  formatDb,
  formatPercent,
  formatRate,
  formatRepitch,
  Icon,
  useClock,
} from '@/ui/kit';

/** Faults that lie outside the file: its bytes are still here. */
const RETRIABLE: ReadonlySet<string> = new Set([
  'file.missing',
  'file.changed',
  'store.disk_full',
  'store.no_room',
  'job.cancelled',
  'job.interrupted',
  'file.unreadable',
  'decoder.missing',
]);

/** What a row is given. */
export interface RecordingRowProps {
  readonly recording: RecordingView;
  readonly job: JobView | null;
  readonly sessionRateHz: number | null;
  readonly inSession: boolean;
  /** What was noticed about it: how many things, the worst of them, their titles; empty = nothing. */
  readonly marks: { readonly count: number; readonly worst: Severity; readonly titles: string } | null;
  readonly here: boolean;
  /** Place among those listed, and what measures the row where only some are drawn. */
  readonly index: number;
  readonly measure?: ((row: HTMLTableRowElement | null) => void) | undefined;
  /** What tells its name from the others. */
  readonly folder: string;
  readonly file: string;
  readonly onSelect: (id: string) => void;
  readonly onRetry: (id: string) => void;
  readonly onDismiss: (id: string) => void;
}

/** One received file: facts, and what is odd or wrong right below its name. */
export const RecordingRow = memo(function RecordingRow({
  recording: r,
  job,
  sessionRateHz,
  inSession,
  marks,
  here,
  index,
  measure,
  folder,
  file,
  onSelect,
  onRetry,
  onDismiss,
}: RecordingRowProps) {
  const notes = notesOf(r, sessionRateHz);
  const lost = r.inPlace && r.inPlace.state !== 'there' ? PLACE_WORDS[r.inPlace.state] : null;
  if (r.state === 'ready' && !inSession)
    notes.push(
      r.container === 'midi' && !r.notes
        ? 'Holds no notes, but what it says of tempo and places can be used: choose it.'
        : 'Not in the session: its track was removed. Undo brings it back.',
    );
  return (
    <tr
      ref={measure}
      data-index={index}
      aria-rowindex={index + 2}
      aria-current={here || undefined}
      className={r.state === 'failed' ? 'is-failed' : here ? 'is-here' : undefined}
      onClick={r.state === 'ready' ? () => onSelect(r.id) : undefined}
    >
      <td className="fm-received">
        <span className="fm-mono" title={r.receivedName}>
          {folder !== '' && <span className="fm-faint">{folder}</span>}
          {file}
        </span>
        {r.fault && (
          <div className="fm-attention">
            <Icon name="exclamation-octagon" /> {faultText(r.fault)}{' '}
            {RETRIABLE.has(r.fault.code) && <Button onClick={() => onRetry(r.id)}>Try again</Button>}{' '}
            <Button tone="quiet" onClick={() => onDismiss(r.id)}>
              Take off the list
            </Button>
          </div>
        )}
        {lost && (
          <div className="fm-attention">
            <Icon name="link-45deg" /> {lost.note}: <span className="fm-break">{r.inPlace?.path}</span>
          </div>
        )}
        {notes.map((n) => (
          <div key={n} className="fm-note">
            <Icon name="info-circle" /> {n}
          </div>
        ))}
      </td>
      <td>
        {lost ? <span className="fm-attention">{lost.state}</span> : stateWord(r, job)}{' '}
        {r.inPlace && !lost && (
          <span title={`In place: ${r.inPlace.path}`}>
            <Icon name="link-45deg" className="fm-faint" label="in place" />
          </span>
        )}
        {marks && <Marks {...marks} />}
      </td>
      {r.container === 'midi' ? (
        <NoteCells notes={r.notes} />
      ) : (
        <SoundCells recording={r} sessionRateHz={sessionRateHz} />
      )}
      <td className="num">{formatBytes(r.sizeBytes)}</td>
    </tr>
  );
}, isSameRow);

function SoundCells({ recording: r, sessionRateHz }: Pick<RecordingRowProps, 'recording' | 'sessionRateHz'>) {
  const clock = useClock();
  return (
    <>
      <td className="num">
        {r.sampleRateHz === null ? (
          ''
        ) : (
          <span className={r.sampleRateHz !== sessionRateHz ? 'fm-attention' : undefined}>
            {formatRate(r.sampleRateHz)}
          </span>
        )}
      </td>
      <td className="num">
        {r.bitDepth === null ? '' : `${r.bitDepth}${r.encoding?.startsWith('f') ? ' float' : ''}`}
      </td>
      <td>
        {r.channels === null ? '' : r.channels === 1 ? 'mono' : 'stereo'}
        {r.channelIndex === null ? '' : `, ch ${r.channelIndex + 1}`}
      </td>
      <td className="num">
        {r.lengthFrames !== null && r.sampleRateHz !== null ? clock(r.lengthFrames / r.sampleRateHz, 1) : ''}
      </td>
      <td className="num">{r.facts ? formatDb(r.facts.peakDbfs) : ''}</td>
      <td className="num">{r.facts?.integratedLufs != null ? formatDb(r.facts.integratedLufs) : ''}</td>
    </>
  );
}

function NoteCells({ notes }: Pick<RecordingView, 'notes'>) {
  const clock = useClock();
  return (
    <>
      <td />
      <td />
      <td>{notes ? `${notes.notes} ${notes.notes === 1 ? 'note' : 'notes'}` : 'no notes'}</td>
      <td className="num">{notes ? clock(notes.lastSeconds, 1) : ''}</td>
      <td />
      <td />
    </>
  );
}

/** How many things were noticed, the worst as a sign. */
function Marks({ count, worst, titles }: NonNullable<RecordingRowProps['marks']>) {
  return (
    <span className={worst === 'note' ? 'fm-faint' : 'fm-attention'} title={titles}>
      {' '}
      <Icon name={worst === 'note' ? 'info-circle' : 'exclamation-triangle'} /> {count}
      <span className="fm-unseen"> found: {titles}</span>
    </span>
  );
}

/** What a row shows of the findings about it. */
export function marksOf(findings: readonly Finding[]): RecordingRowProps['marks'] {
  const worst = SEVERITIES.find((s) => findings.some((f) => f.severity === s));
  return worst === undefined
    ? null
    : { count: findings.length, worst, titles: findings.map((f) => findingTitle(f.code)).join(', ') };
}

/** Rows are drawn again only when what they show has changed: a hundred of them stand there while a delivery comes in. */
function isSameRow(a: RecordingRowProps, b: RecordingRowProps): boolean {
  const { marks: x, ...before } = a;
  const { marks: y, ...after } = b;
  return (
    x?.count === y?.count &&
    x?.worst === y?.worst &&
    x?.titles === y?.titles &&
    (Object.keys(before) as (keyof typeof before)[]).every((k) => before[k] === after[k])
  );
}

function stateWord(r: RecordingView, job: JobView | null): string {
  if (r.state === 'failed') return 'not taken';
  if (r.state === 'waiting') return 'waiting';
  if (r.state === 'arriving') return `arriving ${job ? formatPercent(job.progress) : ''}`;
  if (r.container === 'midi') return 'ready';
  return r.listened
    ? 'ready'
    : job?.kind === 'recording.listen' && job.state === 'running'
      ? `listening ${formatPercent(job.progress)}`
      : 'ready, not heard yet';
}

const PLACE_WORDS: Readonly<
  Record<Exclude<InPlaceState, 'there'>, { readonly state: string; readonly note: string }>
> = {
  missing: { state: 'missing', note: 'Not there any more' },
  touched: { state: 'comparing', note: 'Has a new time stamp' },
  changed: { state: 'changed', note: 'Changed since it was taken in' },
};

/** What was done to it, in words; what is odd about it stands among the findings. */
function notesOf(r: RecordingView, sessionRateHz: number | null): string[] {
  const notes: string[] = [];
  if (r.sampleRateHz !== null && sessionRateHz !== null && r.sampleRateHz !== sessionRateHz)
    notes.push(
      r.passingHz !== null && r.passingHz !== r.sampleRateHz
        ? `Its samples are kept: ${formatRepitch(repitch(r.sampleRateHz, r.passingHz))}`
        : r.convertedToHz
          ? `Converted to ${formatRate(r.convertedToHz)} kHz for the session; the original is kept.`
          : `Will be converted to ${formatRate(sessionRateHz)} kHz.`,
    );
  return notes;
}
