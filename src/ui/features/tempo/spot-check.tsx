'use client';
import { useEffect, useRef, useState } from 'react';
import { leastCertain, ratedPlaces } from '@/core/tempo';
import { formatBarPulse } from '@/core/time';
import { useSession } from '@/ui/client';
import { Button, Kbd, useShortcuts } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import type { TempoModel } from './tempo-model';
import type { TempoDraft } from './use-tempo-draft';

const PLACES = 6;

/** Two bars from the bar line at or before a moment, s. */
function twoBars(
  { map }: TempoModel,
  seconds: number,
): { readonly fromSeconds: number; readonly toSeconds: number } {
  const { bar } = map.meters.toBar(map.tempo.toQuarters(seconds));
  return {
    fromSeconds: Math.max(0, map.tempo.toSeconds(map.meters.barToQuarters(bar))),
    toSeconds: map.tempo.toSeconds(map.meters.barToQuarters(bar + 2)),
  };
}

/** Plays two bars at each of the least certain places with the click, and keeps what was said of them. */
export function SpotCheck({
  draft,
  model,
  onEnd,
}: {
  readonly draft: TempoDraft;
  readonly model: TempoModel;
  readonly onEnd: () => void;
}) {
  const player = usePlayer();
  const hasMap = useSession((s) => s.view.session.map !== null);
  // What is asked stays asked, whatever the answers make of the map.
  const [places] = useState(() =>
    leastCertain(ratedPlaces(model.reading), { most: PLACES, below: 1.01 }).map((p) => ({
      ...p,
      ...twoBars(model, p.seconds),
      place: formatBarPulse(model.map, p.seconds + 0.002),
    })),
  );
  const [at, setAt] = useState(0);
  const [right, setRight] = useState(0);
  const first = useRef(true);
  const now = places[at];
  useEffect(() => {
    if (!now) return;
    player.setLoop({ fromSeconds: now.fromSeconds, toSeconds: now.toSeconds });
    player.seek(now.fromSeconds);
    if (first.current && !player.state.getState().clickOn) player.toggleClick();
    first.current = false;
    void player.play();
  }, [now, player]);
  const stop = (): void => {
    player.stop();
    player.setLoop(null);
    onEnd();
  };
  const say = (isRight: boolean): void => {
    if (!now) return;
    draft.check(now.seconds, isRight);
    if (isRight) setRight(right + 1);
    if (at + 1 === places.length) {
      player.stop();
      player.setLoop(null);
    }
    setAt(at + 1);
  };
  useShortcuts([
    { key: '1', run: () => say(true) },
    { key: '2', run: () => say(false) },
    { key: 'escape', run: stop },
  ]);
  return (
    <section aria-label="Spot check">
      <h2>Spot check</h2>
      {!hasMap && <p className="fm-faint">The click follows the map once it is used.</p>}
      {now ? (
        <>
          <p role="status">
            Two bars around <b className="fm-mono">{now.place}</b>, place {at + 1} of {places.length}.{' '}
            {now.isBarLine ? 'Does the bar begin where the click says so?' : 'Is the click on the beat?'}
          </p>
          <div className="fm-choices">
            <Button tone="choice" onClick={() => say(true)}>
              <Kbd>1</Kbd>
              <span className="fm-grow">It is right</span>
            </Button>
            <Button tone="choice" onClick={() => say(false)}>
              <Kbd>2</Kbd>
              <span className="fm-grow">It is wrong</span>
            </Button>
          </div>
          <Button tone="quiet" onClick={stop}>
            Stop checking
          </Button>
        </>
      ) : (
        <>
          <p role="status" className={right === places.length ? 'fm-good' : 'fm-attention'}>
            {right} of {places.length} places are right.
            {right < places.length ? ' Go to the wrong ones below and correct their pulses.' : ''}
          </p>
          <Button onClick={onEnd}>Done</Button>
        </>
      )}
    </section>
  );
}
