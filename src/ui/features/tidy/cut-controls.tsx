'use client';
import { TIDY_LIMITS, type TidySettings } from '@/core/tidy';
import { useSession } from '@/ui/client';
import { Button, Check, Line, NumberField, Slider } from '@/ui/kit';
import { controlsOf, resetHand, setApart, setControl, useTidyHand } from './tidy-hand';
import type { TidyRow } from './tidy-rows';

/** Where a threshold begins when it is first set by hand, over the floor, dB; and where no floor is known, dBFS. */
const [OVER_FLOOR_DB, FIRST_THRESHOLD_DB] = [12, -50];
/** More pieces a minute than this are many. */
const MANY_PIECES = 12;

type TimeControl = Exclude<keyof TidySettings, 'thresholdDb'>;
const TIMES: readonly (readonly [key: TimeControl, label: string, step: number])[] = [
  ['shortestSeconds', 'Shortest silence, ms', 50],
  ['beforeSeconds', 'Stays before, ms', 10],
  ['afterSeconds', 'Stays after, ms', 10],
  ['fadeSeconds', 'Fades, ms', 5],
];

/** The controls of the cut; what is drawn follows them at once. */
export function CutControls({
  trackIds,
  rows,
}: {
  readonly trackIds: readonly string[];
  readonly rows: readonly TidyRow[];
}) {
  const first = rows[0];
  const controls = useTidyHand((h) => controlsOf(h, first?.track.id ?? ''));
  const isOwn = useTidyHand((h) =>
    trackIds.some((id) => h.controls[id] || h.choices[id] || h.apart.includes(id)),
  );
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const floorDbfs = first?.proposal?.floorDbfs ?? null;
  const beginDb =
    floorDbfs === null ? FIRST_THRESHOLD_DB : Math.round(Math.min(-6, floorDbfs + OVER_FLOOR_DB));
  const perMinute = Math.max(
    0,
    ...rows.map((r) => (60 * rateHz * r.pieces.filter((p) => p.keeps).length) / Math.max(1, r.lengthFrames)),
  );
  return (
    <>
      <h3>What counts as sound</h3>
      <div className="fm-choices">
        <Check
          id="tidy-by-floor"
          kind="switch"
          label="Told by its own floor"
          checked={controls.thresholdDb === null}
          onChange={(e) => setControl(trackIds, { thresholdDb: e.target.checked ? null : beginDb })}
        />
        {controls.thresholdDb !== null && (
          <>
            <Slider
              min={TIDY_LIMITS.thresholdDb[0]}
              max={TIDY_LIMITS.thresholdDb[1]}
              step={0.5}
              value={controls.thresholdDb}
              aria-label="Threshold, dBFS RMS"
              onChange={(e) => setControl(trackIds, { thresholdDb: Number(e.target.value) })}
            />
            <NumberField
              label="Threshold, dBFS"
              value={controls.thresholdDb}
              step={1}
              min={TIDY_LIMITS.thresholdDb[0]}
              max={TIDY_LIMITS.thresholdDb[1]}
              onKeep={(thresholdDb) => setControl(trackIds, { thresholdDb })}
            />
          </>
        )}
      </div>
      <div className="fm-tidy-times">
        {TIMES.map(([key, label, step]) => (
          <NumberField
            key={key}
            label={label}
            value={Math.round(1000 * controls[key])}
            step={step}
            min={1000 * TIDY_LIMITS[key][0]}
            max={1000 * TIDY_LIMITS[key][1]}
            onKeep={(ms) => setControl(trackIds, { [key]: ms / 1000 })}
          />
        ))}
      </div>
      {perMinute > MANY_PIECES && (
        <p className="fm-attention">
          {Math.round(perMinute)} pieces a minute: a longer shortest silence joins them.
        </p>
      )}
      {trackIds.length > rows.length && (
        <p className="fm-faint">Also for {trackIds.length - rows.length} that are cut with it.</p>
      )}
      <ApartSwitch rows={rows} />
      {isOwn && (
        <Line as="p" align="start">
          <Button onClick={() => resetHand(trackIds)}>As proposed at first</Button>
        </Line>
      )}
    </>
  );
}

/** One microphone of a kit, or of several of a source, cut by itself. */
function ApartSwitch({ rows }: { readonly rows: readonly TidyRow[] }) {
  const apart = useTidyHand((h) => h.apart);
  const ids = rows
    .filter((r) => apart.includes(r.track.id) || (r.proposal?.group ?? null) !== null)
    .map((r) => r.track.id);
  if (ids.length === 0) return null;
  const isApart = ids.every((id) => apart.includes(id));
  return (
    <>
      <Check
        id="tidy-apart"
        kind="switch"
        label={ids.length === 1 ? 'Cut by itself' : 'Each cut by itself'}
        checked={isApart}
        onChange={(e) => setApart(ids, e.target.checked)}
      />
      {isApart && (
        <p className="fm-faint">
          What the other microphones hear is no reason to keep it any more: holes in it may be heard.
        </p>
      )}
    </>
  );
}
