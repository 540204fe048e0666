'use client';
import { formatBarPulse } from '@/core/time';
import { useSongMap } from '@/ui/client';
import { Button, Clock, formatDb, Icon, Kbd, Panel, Slider } from '@/ui/kit';
import { DIM_DB, usePlayer, usePlayerState } from '@/ui/listening';

/** Listening: where, how loud, play, repeat, click, dim. */
export function Transport() {
  const player = usePlayer();
  const map = useSongMap();
  const seconds = usePlayerState((s) => Math.round(s.positionSeconds * 50) / 50);
  const status = usePlayerState((s) => s.status);
  const clickOn = usePlayerState((s) => s.clickOn);
  const dimmed = usePlayerState((s) => s.dimmed);
  const loops = usePlayerState((s) => s.loop !== null);
  return (
    <div className="fm-transport" role="group" aria-label="Listening">
      <Gaps />
      <span className="fm-position" aria-label="Position">
        {map ? <b>{formatBarPulse(map, seconds)}</b> : null} <Clock seconds={seconds} />
      </span>
      <Output />
      <Button
        onClick={() => void player.toggle()}
        disabled={status === 'unavailable'}
        title={
          status === 'unavailable' ? 'This browser cannot play here: open the page at 127.0.0.1' : undefined
        }
      >
        <Icon name={status === 'playing' ? 'pause-fill' : 'play-fill'} />{' '}
        <span className="fm-unseen">{status === 'playing' ? 'Pause' : 'Play'}</span> <Kbd>Space</Kbd>
      </Button>
      <Button
        tone="quiet"
        isOn={loops}
        onClick={() => player.toggleLoop()}
        title={
          loops
            ? 'Play on (L)'
            : 'Repeat the stretch drawn last, or 8 s from here (L); drag along the songline to draw one'
        }
      >
        Loop
      </Button>
      <Button
        tone="quiet"
        isOn={clickOn}
        onClick={() => player.toggleClick()}
        disabled={!map}
        title={map ? 'Click on the accepted map (C)' : 'The click needs an accepted tempo map'}
      >
        Click
      </Button>
      <Button
        tone="quiet"
        isOn={dimmed}
        onClick={() => player.toggleDim()}
        title={`${DIM_DB} dB while you talk (D)`.replace('-', '−')}
      >
        Dim
      </Button>
    </div>
  );
}

/** Sound that was missing is said, never hidden. */
function Gaps() {
  const late = usePlayerState((s) => (s.lateSeconds > 0.005 ? s.lateSeconds.toFixed(2) : null));
  const device = usePlayerState((s) => (s.deviceSeconds > 0.05 ? s.deviceSeconds.toFixed(2) : null));
  if (late === null && device === null) return null;
  const why = [
    late && `sound came ${late} s too late from the server`,
    device && `this machine was too busy to play for ${device} s`,
  ]
    .filter(Boolean)
    .join('; ');
  return (
    <span
      className="fm-attention"
      role="status"
      title={`Since play: ${why}. All tracks waited together and are still in step.`}
    >
      <Icon name="exclamation-triangle" /> <span className="fm-gaps-word">gaps</span>
    </span>
  );
}

const METER_DB = 60;
/** Share of the meter a linear peak takes: 60 dB from end to end. */
const meterShare = (peak: number): number =>
  Math.max(0, Math.min(1, 1 + (20 * Math.log10(Math.max(peak, 1e-6))) / METER_DB));

/** Frames over full scale, as far as anybody wants to count. */
const oversText = (overs: number): string => `${overs > 9999 ? '>9999' : overs} over`;

/** Output meter; opens level, highest peak and overs. */
function Output() {
  const player = usePlayer();
  const peak = usePlayerState((s) => Math.round(s.peak * 200) / 200);
  const highest = usePlayerState((s) => s.highest);
  const overs = usePlayerState((s) => s.overs);
  const levelDb = usePlayerState((s) => s.levelDb);
  return (
    <Panel
      label={overs > 0 ? `Output: ${oversText(overs)} full scale, in frames` : 'Output level'}
      buttonClass="fm-quiet fm-output"
      className="fm-output-menu"
      button={
        <>
          <span className={`fm-level ${peak >= 1 ? 'is-over' : ''}`} aria-hidden="true">
            <span style={{ width: `${meterShare(peak) * 100}%` }} />
          </span>
          {overs > 0 && <span className="fm-attention">{oversText(overs)}</span>}
        </>
      }
    >
      <p className="fm-below-2">
        <b>Output.</b> Highest peak{' '}
        {highest > 0 ? `${formatDb(20 * Math.log10(highest))} dBFS` : 'not yet measured'};{' '}
        {overs === 0 ? (
          'no frame over full scale'
        ) : (
          <span className="fm-attention">
            {overs} frame{overs === 1 ? '' : 's'} over full scale
          </span>
        )}
        .
      </p>
      <Button className="fm-below-3" onClick={() => player.resetMeter()}>
        Count anew
      </Button>
      <label htmlFor="listening-level" className="fm-block fm-tight">
        Listening level, <span className="num">{formatDb(levelDb)}</span> dB
      </label>
      <Slider
        id="listening-level"
        min={-40}
        max={0}
        step={1}
        value={levelDb}
        onChange={(e) => player.setLevel(Number(e.target.value))}
      />
      <p className="fm-faint fm-tight">For your ears only: nothing in the session changes.</p>
    </Panel>
  );
}
