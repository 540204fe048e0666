'use client';
import { useMemo, useState } from 'react';
import type { PlayedHits } from '@/contracts';
import { soundTracks } from '@/core/session';
import { swingOf } from '@/core/tempo';
import { useSession } from '@/ui/client';
import { Button, formatMs, later, Line, Select } from '@/ui/kit';
import { CHART_HEIGHT, histogramOf, timingRows } from './timing';
import { type TempoModel } from './tempo-model';

/** Its drawing is loaded when it is shown; its room is there before. */
const TimingChart = later(
  () => import('./timing-chart').then((m) => m.TimingChart),
  <div style={{ height: CHART_HEIGHT }} />,
);

/** How far hits lie from the grid, by instrument; `parts` = places a pulse is divided into. */
export function TimingPart({
  model,
  hits,
  keepers,
  parts,
  onParts,
}: {
  readonly keepers: readonly string[];
  readonly model: TempoModel | null;
  readonly hits: ReadonlyMap<string, PlayedHits>;
  readonly parts: number;
  readonly onParts: (parts: number) => void;
}) {
  const session = useSession((s) => s.view.session);
  const [only, setOnly] = useState<string | null>(null);
  const rows = useMemo(
    () =>
      model
        ? timingRows(
            model.map,
            soundTracks(session).flatMap((t) => {
              const own = hits.get(t.id);
              return own ? [{ id: t.id, name: t.name, seconds: own.seconds }] : [];
            }),
            parts,
          )
        : [],
    [model, session, hits, parts],
  );
  const bins = useMemo(
    () =>
      histogramOf(
        rows
          .filter((r) => (only === null ? keepers.includes(r.id) : r.id === only))
          .flatMap((r) => r.deviations),
      ),
    [rows, only, keepers],
  );
  const swing = useMemo(
    () =>
      model
        ? swingOf(
            model.map,
            (only === null ? keepers : [only])
              .flatMap((id) => hits.get(id)?.seconds ?? [])
              .sort((a, b) => a - b),
            parts === 4 ? 2 : 1,
          )
        : null,
    [model, hits, keepers, only, parts],
  );
  if (!model)
    return (
      <p className="fm-faint">Find the tempo first: then it shows who plays before the beat and who after.</p>
    );
  return (
    <>
      <h2>Timing</h2>
      <Line as="label" className="fm-field">
        <span className="fm-grow">Hits against</span>
        <Select isNarrow value={parts} onChange={(e) => onParts(Number(e.target.value))}>
          <option value={1}>pulses</option>
          <option value={2}>halves of pulses</option>
          <option value={3}>thirds of pulses</option>
          <option value={4}>quarters of pulses</option>
        </Select>
      </Line>
      <div
        className="fm-histogram"
        role="img"
        aria-label={`How late hits are: ${bins
          .map((b) => `${b.ms} ms ${b.hits}`)
          .filter((_, i) => (bins[i]?.hits ?? 0) > 0)
          .join(', ')}`}
      >
        <TimingChart bins={bins} />
      </div>
      <p className="fm-faint fm-below-1">
        Milliseconds before (−) and after (+) the grid
        {only === null ? ', timekeepers' : `, ${rows.find((r) => r.id === only)?.name ?? ''} only`}.
      </p>
      {swing && (
        <p className="fm-below-1">
          Off-beats at <b className="num">{(100 * swing.share).toFixed(0)} %</b> of the{' '}
          {parts === 4 ? 'half pulse' : 'pulse'}, <span className="num">{swing.ratio.toFixed(2)} : 1</span>,{' '}
          {swing.ratio < 1.12
            ? 'straight'
            : swing.ratio < 1.75
              ? 'swung lightly'
              : swing.ratio < 2.3
                ? 'swung in triplets'
                : 'swung hard'}{' '}
          <span className="fm-faint">({swing.hits} hits)</span>
        </p>
      )}
      <table className="fm-timing">
        <thead>
          <tr>
            <th scope="col">Track, ms</th>
            <th scope="col" className="num">
              late
            </th>
            <th scope="col" className="num">
              spread
            </th>
            <th scope="col" className="num">
              hits
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.id} className={only === r.id ? 'is-here' : ''}>
              <th scope="row">
                <Button
                  tone="bare"
                  className="fm-unfold"
                  aria-pressed={only === r.id}
                  title="Its hits alone in the picture"
                  onClick={() => setOnly(only === r.id ? null : r.id)}
                >
                  {r.name}
                </Button>
              </th>
              <td className="num">{formatMs(r.late).replace(' ms', '')}</td>
              <td className="num">{(1000 * r.spread).toFixed(1)}</td>
              <td className="num">{r.hits}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <p className="fm-faint">No track strikes near the grid.</p>}
    </>
  );
}
