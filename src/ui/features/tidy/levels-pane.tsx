'use client';
import { soundTracks, type Track } from '@/core/session';
import { selectOnly, useSession, useWorkbench } from '@/ui/client';
import { formatPan, Table } from '@/ui/kit';
import { type Balance, type Strip, stripIn } from './levels';

const HEADS: readonly (readonly [Balance, string])[] = [
  ['now', 'Now'],
  ['rough', 'Rough balance'],
  ['mix', 'In the rough mix'],
];

/** Levels and pans of all tracks, beside those that are offered. */
export function LevelsPane() {
  const session = useSession((s) => s.view.session);
  const result = useSession((s) => s.view.balance);
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const current = useWorkbench((w) => w.current);
  const hasMix = result?.mixTrackId != null;
  const shown = HEADS.filter(([key]) => key === 'now' || (key === 'rough' ? result !== null : hasMix));
  return (
    <div className="fm-scroll fm-levels" tabIndex={0} role="region" aria-label="Levels">
      <Table>
        <thead>
          <tr>
            <th scope="col">Track</th>
            {shown.map(([key, head]) => (
              <th key={key} scope="col" className="num">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {soundTracks(session).map((track) => (
            <tr
              key={track.id}
              className={current === track.id ? 'is-selected' : undefined}
              onClick={() => selectOnly(track.id)}
            >
              <th scope="row">
                <span className="fm-level-color" style={{ background: track.color ?? unknownColor }} />
                {track.name}
                {track.muted && <span className="fm-faint"> muted</span>}
              </th>
              {shown.map(([key]) => (
                <td key={key} className="num">
                  <StripText
                    strip={stripIn(key, track, { session, result })}
                    other={key === 'now' ? null : stripIn('now', track, { session, result })}
                    none={noneText(key, track, result?.mixTrackId ?? null)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}

const noneText = (key: Balance, track: Track, mixTrackId: string | null): string =>
  track.id === mixTrackId ? 'the mix' : key === 'mix' ? 'not told' : '';

function StripText({
  strip,
  other,
  none,
}: {
  readonly strip: Strip | null;
  readonly other: Strip | null;
  readonly none: string;
}) {
  if (!strip) return <span className="fm-faint">{none}</span>;
  const isSame =
    other !== null && Math.abs(other.gainDb - strip.gainDb) < 0.06 && Math.abs(other.pan - strip.pan) < 0.006;
  return (
    <span className={isSame ? 'fm-faint' : undefined}>
      {levelText(strip.gainDb)} {formatPan(strip.pan).padStart(4, '\u2007')}
    </span>
  );
}

const levelText = (db: number): string =>
  Math.abs(db) < 0.05 ? '0.0' : `${db < 0 ? '−' : '+'}${Math.abs(db).toFixed(1)}`;
