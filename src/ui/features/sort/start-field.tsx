'use client';
import type { Track, TrackFields } from '@/core/session';
import { formatBarPulse } from '@/core/time';
import { useSession, useSongMap } from '@/ui/client';
import { Clock, NumberField } from '@/ui/kit';

/** Where a track starts: samples to the one, and what that comes to in time and bars. */
export function StartField({
  track,
  change,
}: {
  readonly track: Track;
  readonly change: (label: string, fields: Partial<TrackFields>, hand: keyof TrackFields) => void;
}) {
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const map = useSongMap();
  const seconds = track.startFrames / rateHz;
  // Before the first bar nothing is called a bar.
  const isInBars = map !== null && map.tempo.toQuarters(seconds) >= 0;
  return (
    <div className="fm-field">
      <NumberField
        label="Start, samples of the session"
        value={track.startFrames}
        min={-(2 ** 40)}
        max={2 ** 40}
        step={1}
        onKeep={(startFrames) => change('Start', { startFrames: Math.round(startFrames) }, 'startFrames')}
      />
      <p className="fm-faint fm-mono fm-tight">
        {seconds < 0 ? '−' : ''}
        <Clock seconds={Math.abs(seconds)} />
        {isInBars && ` · bar ${formatBarPulse(map, seconds)}`}
      </p>
    </div>
  );
}
