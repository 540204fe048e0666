'use client';
import { selectOnly, useSession, useWorkbench } from '@/ui/client';
import { CheckBox, formatDb, Table } from '@/ui/kit';
import type { LevelNow, MatchRow } from './match-rows';

/** Every track with its peak and loudness now, the gain it would get, and what comes of it. */
export function MatchTable({
  rows,
  left,
  onTick,
  isMeasuring,
}: {
  readonly rows: readonly MatchRow[];
  readonly left: ReadonlySet<string>;
  readonly onTick: (trackIds: readonly string[], on: boolean) => void;
  readonly isMeasuring: boolean;
}) {
  const current = useWorkbench((w) => w.current);
  return (
    <div className="fm-scroll fm-levels" tabIndex={0} role="region" aria-label="Matching">
      <Table className="fm-match-table">
        <thead>
          <tr>
            <th scope="col">
              <span className="fm-unseen">Is matched</span>
            </th>
            <th scope="col">Track</th>
            <th scope="col" className="num">
              Peak now
            </th>
            <th scope="col" className="num">
              LUFS now
            </th>
            <th scope="col" className="num">
              Gain, dB
            </th>
            <th scope="col" className="num">
              Peak then
            </th>
            <th scope="col" className="num">
              LUFS then
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Row
              key={row.track.id}
              row={row}
              isTicked={!left.has(row.track.id)}
              isCurrent={row.track.id === current}
              isMeasuring={isMeasuring}
              onTick={(on) => onTick([row.track.id], on)}
            />
          ))}
        </tbody>
      </Table>
    </div>
  );
}

function Row({
  row: { track, matched, group },
  isTicked,
  isCurrent,
  isMeasuring,
  onTick,
}: {
  readonly row: MatchRow;
  readonly isTicked: boolean;
  readonly isCurrent: boolean;
  readonly isMeasuring: boolean;
  readonly onTick: (on: boolean) => void;
}) {
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const changes = matched?.changes === true;
  return (
    <tr className={isCurrent ? 'is-selected' : undefined} onClick={() => selectOnly(track.id)}>
      <td>
        {changes && (
          <span onClick={(e) => e.stopPropagation()}>
            <CheckBox
              aria-label={`Match ${track.name}`}
              checked={isTicked}
              onChange={(e) => onTick(e.target.checked)}
            />
          </span>
        )}
      </td>
      <th scope="row">
        <span className="fm-level-color" style={{ background: track.color ?? unknownColor }} />
        {track.name}
        {group !== null && <span className="fm-faint"> with the {groupWord(group)}</span>}
      </th>
      {matched ? (
        <Figures matched={matched} isTicked={isTicked && changes} />
      ) : (
        <td colSpan={5} className="fm-faint">
          {isMeasuring ? 'being measured' : 'not measured as it is cut now'}
        </td>
      )}
    </tr>
  );
}

function Figures({
  matched: { now, then, isUneven, pieces },
  isTicked,
}: {
  readonly matched: NonNullable<MatchRow['matched']>;
  readonly isTicked: boolean;
}) {
  const tone = isTicked ? undefined : 'fm-faint';
  return (
    <>
      <td className="num">{level(now.peakDbfs)}</td>
      <td className="num">{level(now.lufs)}</td>
      <td className={`num ${tone ?? ''}`}>
        {isUneven ? `${pieces.length} pieces` : gainText(now, then.gainDb)}
      </td>
      <td className={`num ${tone ?? ''}`}>{level(then.reachedPeakDbfs)}</td>
      <td className={`num ${tone ?? ''}`}>{level(then.reachedLufs)}</td>
    </>
  );
}

const level = (db: number | null): string => (db === null ? '–' : formatDb(db));

/** The gain there would be; where there is one already, from which to which. */
const gainText = (now: LevelNow, gainDb: number): string =>
  now.gainDb === 0 || now.gainDb === gainDb
    ? signed(gainDb)
    : `${now.gainDb === null ? 'several' : signed(now.gainDb)} → ${signed(gainDb)}`;

/** A gain with its sign. */
export const signed = (db: number): string =>
  Math.abs(db) < 0.05 ? '0.0' : `${db < 0 ? '−' : '+'}${Math.abs(db).toFixed(1)}`;

const groupWord = (group: string): string =>
  group === 'kit' ? 'kit' : group === 'mains' ? 'ensemble' : 'other microphones';
