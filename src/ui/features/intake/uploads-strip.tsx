'use client';
import { useStore } from 'zustand';
import { type UploadItem, uploadsStore } from '@/ui/client';
import { Bar, Button, formatBytes, formatPercent } from '@/ui/kit';

/** Files of a session that are on their way, or wait for a person. */
export const useOpenUploads = (sessionId: string): readonly UploadItem[] =>
  useStore(uploadsStore, (s) => s.items).filter(
    (i) => i.sessionId === sessionId && i.state !== 'sent' && i.state !== 'cancelled',
  );

/** Files on their way: all together, with one move for all, and each. */
export function UploadsStrip({ items }: { readonly items: readonly UploadItem[] }) {
  if (items.length === 0) return null;
  const going = items.filter((u) => u.state === 'sending' || u.state === 'waiting');
  const held = items.filter((u) => u.state === 'paused' || u.state === 'failed');
  const total = items.reduce((a, u) => a + u.sizeBytes, 0);
  const sent = items.reduce((a, u) => a + u.sentBytes, 0);
  const rate = items.filter((u) => u.state === 'sending').reduce((a, u) => a + u.bytesPerSecond, 0);
  return (
    <div className="fm-uploads" aria-live="polite">
      <div className="fm-uploads-sum">
        <span>
          {going.length > 0
            ? `Sending ${going.length} ${going.length === 1 ? 'file' : 'files'}`
            : `${held.length} waiting for you`}{' '}
          · {formatBytes(sent)} of {formatBytes(total)}
          {rate > 0 ? ` · ${formatBytes(rate)}/s · ${timeLeft((total - sent) / rate)}` : ''}
        </span>
        <span className="fm-top-spring" />
        {going.length > 0 && (
          <Button tone="quiet" onClick={() => going.forEach((u) => u.pause())}>
            Pause all
          </Button>
        )}
        {held.length > 0 && (
          <Button tone="quiet" onClick={() => held.forEach((u) => u.resume())}>
            Go on with all
          </Button>
        )}
        {items.length > 1 && (
          <Button tone="quiet" onClick={() => items.forEach((u) => u.cancel())}>
            Cancel all
          </Button>
        )}
      </div>
      {items.map((u) => (
        <UploadRow key={u.key} item={u} />
      ))}
    </div>
  );
}

const timeLeft = (seconds: number): string =>
  seconds < 60 ? `${Math.max(1, Math.round(seconds))} s left` : `${Math.round(seconds / 60)} min left`;

function UploadRow({ item }: { readonly item: UploadItem }) {
  const share = item.sizeBytes > 0 ? item.sentBytes / item.sizeBytes : 0;
  return (
    <div className="fm-upload">
      <span className="fm-mono fm-truncate fm-grow">{item.name}</span>
      <Bar share={share} label={`Sending ${item.name}`} className="fm-upload-bar" />
      <span className="num">{formatPercent(share)}</span>
      <span className={item.state === 'failed' ? 'fm-attention' : 'fm-faint'}>
        {item.message ??
          {
            waiting: 'waiting',
            sending: `${formatBytes(item.bytesPerSecond)}/s`,
            paused: 'paused',
            failed: 'broke off',
            sent: 'sent',
            cancelled: 'cancelled',
          }[item.state]}
      </span>
      {item.state === 'sending' && (
        <Button tone="quiet" onClick={() => item.pause()}>
          Pause
        </Button>
      )}
      {(item.state === 'paused' || item.state === 'failed') && (
        <Button tone="quiet" onClick={() => item.resume()}>
          {item.state === 'failed' ? 'Try again' : 'Go on'}
        </Button>
      )}
      <Button tone="quiet" onClick={() => item.cancel()}>
        Cancel
      </Button>
    </div>
  );
}
