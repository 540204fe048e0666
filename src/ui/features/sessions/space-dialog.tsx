'use client';
import { useEffect, useState } from 'react';
import { type Fault, faultText, type SessionListItem, type SpaceView } from '@/contracts';
import { api, faultOf } from '@/ui/client';
import { Button, Check, Dialog, formatBytes } from '@/ui/kit';

/** What a session takes on the disk, and cleaning away what can go. */
export function SpaceDialog({
  session,
  onClose,
  onChanged,
}: {
  readonly session: SessionListItem;
  readonly onClose: () => void;
  readonly onChanged: () => void;
}) {
  const [space, setSpace] = useState<SpaceView | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const [leftovers, setLeftovers] = useState(true);
  const [conformed, setConformed] = useState(false);
  const [packages, setPackages] = useState<ReadonlySet<string>>(new Set());
  const [freed, setFreed] = useState<number | null>(null);
  const failed = (cause: unknown): void => setFault(faultOf(cause));
  useEffect(
    () => void api<SpaceView>(`/api/sessions/${session.id}/space`).then(setSpace, failed),
    [session.id],
  );
  const total = space
    ? space.originalsBytes +
      space.analysisBytes +
      space.convertedBytes +
      space.conformedBytes +
      space.leftoverBytes +
      space.packages.reduce((n, p) => n + p.sizeBytes, 0)
    : 0;
  const chosen = space
    ? (leftovers ? space.leftoverBytes : 0) +
      (conformed ? space.conformedBytes : 0) +
      space.packages.reduce((n, p) => n + (packages.has(p.id) ? p.sizeBytes : 0), 0)
    : 0;
  const clean = async (): Promise<void> => {
    setFault(null);
    try {
      await api(`/api/sessions/${session.id}/clean`, 'POST', {
        leftovers,
        conformed,
        packages: [...packages],
      });
      const now = await api<SpaceView>(`/api/sessions/${session.id}/space`);
      setSpace(now);
      setPackages(new Set());
      setConformed(false);
      setFreed(chosen);
      onChanged();
    } catch (cause) {
      failed(cause);
    }
  };
  const tick = (id: string, on: boolean): void => {
    const next = new Set(packages);
    if (on) next.add(id);
    else next.delete(id);
    setPackages(next);
  };
  return (
    <Dialog
      title={<>Space of “{session.name}”</>}
      onClose={onClose}
      footer={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button tone="main" disabled={chosen === 0} onClick={() => void clean()}>
            Clean away {formatBytes(chosen)}
          </Button>
        </>
      }
    >
      {fault && (
        <p className="fm-attention" role="alert">
          {faultText(fault)}
        </p>
      )}
      {!space ? (
        <p className="fm-faint">Looking …</p>
      ) : (
        <>
          <p>
            <b>{formatBytes(total)}</b> on this disk, <b>{formatBytes(space.freeBytes)}</b> free.
          </p>
          <table className="fm-table fm-space">
            <tbody>
              <Line label="Recordings as received" bytes={space.originalsBytes} note="always kept" />
              {space.inPlaceBytes > 0 && (
                <Line
                  label="Recordings used in place"
                  bytes={space.inPlaceBytes}
                  note="elsewhere on this machine, not in the sum"
                />
              )}
              <Line label="Waveforms and what was heard" bytes={space.analysisBytes} note="kept" />
              <Line label="Copies at the session’s rate" bytes={space.convertedBytes} note="in use" />
              <Line
                label="Auditions and superseded copies"
                bytes={space.leftoverBytes}
                tick={{
                  id: 'leftovers',
                  on: leftovers,
                  set: setLeftovers,
                  label: 'Clean away auditions and superseded copies',
                }}
                note="nothing uses them"
              />
              <Line
                label="Conformed recordings"
                bytes={space.conformedBytes}
                tick={{
                  id: 'conformed',
                  on: conformed,
                  set: setConformed,
                  label: 'Clean away conformed recordings',
                }}
                note="made again, with the same bytes, at the next change"
              />
              {space.packages.map((p) => (
                <Line
                  key={p.id}
                  label={`Package v${p.number}`}
                  bytes={p.sizeBytes}
                  tick={{
                    id: p.id,
                    on: packages.has(p.id),
                    set: (on) => tick(p.id, on),
                    label: `Clean away package v${p.number}`,
                  }}
                  note="downloads and copies elsewhere stay"
                />
              ))}
            </tbody>
          </table>
          {freed !== null && (
            <p className="fm-good fm-above-2 fm-tight" role="status">
              Freed {formatBytes(freed)}, except what another session uses too.
            </p>
          )}
        </>
      )}
    </Dialog>
  );
}

function Line({
  label,
  bytes,
  note,
  tick,
}: {
  readonly label: string;
  readonly bytes: number;
  readonly note: string;
  readonly tick?: {
    readonly id: string;
    readonly on: boolean;
    readonly label: string;
    readonly set: (on: boolean) => void;
  };
}) {
  return (
    <tr>
      <td>
        {tick && bytes > 0 ? (
          <Check
            id={`clean-${tick.id}`}
            aria-label={tick.label}
            checked={tick.on}
            onChange={(e) => tick.set(e.target.checked)}
          />
        ) : null}
      </td>
      <td>
        <label htmlFor={tick && bytes > 0 ? `clean-${tick.id}` : undefined}>{label}</label>
        <div className="fm-faint">{note}</div>
      </td>
      <td className="num">{formatBytes(bytes)}</td>
    </tr>
  );
}
