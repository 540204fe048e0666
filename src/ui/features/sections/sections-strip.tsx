'use client';
import { rowColor } from '@/core/style';
import { songSeconds, useSession } from '@/ui/client';
import { usePlayerState } from '@/ui/listening';
import type { Sections } from './use-sections';

/** The sections end to end, each as wide as it is long; what is proposed is outlined only. */
export function SectionsStrip({
  sections: { rows, current, isProposed, found, select },
}: {
  readonly sections: Sections;
}) {
  const { session, recordings, style } = useSession((s) => s.view);
  const position = usePlayerState((s) => s.positionSeconds);
  const length = Math.max(1, songSeconds(session, recordings));
  const share = (seconds: number): string => `${(100 * Math.max(0, Math.min(length, seconds))) / length}%`;
  return (
    <div className={`fm-sections-strip${isProposed ? ' is-proposed' : ''}`} aria-hidden="true">
      {rows.map((r) => (
        <div
          key={r.id}
          className={`fm-sections-part${r.id === current?.id ? ' is-current' : ''}${r.doubt === null ? '' : ' is-doubtful'}`}
          style={{
            left: share(r.fromSeconds),
            width: `calc(${share(r.toSeconds - r.fromSeconds)} - 2px)`,
            ['--fm-part' as string]: rowColor(style, 'section', r.name),
          }}
          title={r.name}
          onClick={() => select(r.id)}
        >
          {r.name}
        </div>
      ))}
      {isProposed &&
        found?.maybe.map((m) => (
          <span key={m.seconds} className="fm-sections-maybe" style={{ left: share(m.seconds) }} />
        ))}
      <div className="fm-playhead" style={{ left: share(position) }} />
    </div>
  );
}
