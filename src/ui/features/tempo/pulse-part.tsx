'use client';
import { useState } from 'react';
import type { Adjustment, TempoReading } from '@/core/tempo';
import { barOfPulse } from '@/core/tempo';
import { formatBarPulse } from '@/core/time';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, EnteredField, formatMs, Icon, Kbd, Line, Select, useClock, useShortcuts } from '@/ui/kit';
import { meterOf, MeterOptions, meterText } from './meter-options';
import { type NearHit, parseClock, type TempoModel } from './tempo-model';
import type { TempoDraft } from './use-tempo-draft';

/** How far the keys move a pulse, s. */
const STEP_SECONDS = 0.005;

interface Choice {
  readonly text: string;
  readonly change: Adjustment;
  readonly title?: string;
}

const calledIn = (model: TempoModel | null, bar: number): number => model?.map.meters.numberOf(bar) ?? bar;

/** The pulse at the play position: where it lies, what strikes around it, and everything that can be corrected from there. */
export function PulsePart({
  draft,
  hand,
  near,
  onStep,
}: {
  readonly draft: TempoDraft;
  readonly hand: number;
  readonly near: readonly NearHit[];
  readonly onStep: (by: 1 | -1) => void;
}) {
  const clock = useClock();
  const nodes = useSession((s) => s.view.session.nodes);
  const store = useSessionStore();
  const [bars, setBars] = useState('on');
  const model = draft.model;
  const reading = model?.reading;
  const seconds = reading?.beats[hand];
  const known = model !== null && reading !== undefined && seconds !== undefined;
  const { bar, start } = reading ? barOfPulse(reading, hand) : { bar: 1, start: -1 };
  /** What people call the bar. */
  const called = calledIn(model, bar);
  const place = known ? formatBarPulse(model.map, seconds + 0.002) : '';
  const isPinned = reading?.pinned?.[hand] ?? false;
  const findBetween = ({ beats, pinned }: TempoReading): void => {
    const pins = beats.flatMap((_, i) => (pinned?.[i] ? [i] : []));
    const between = {
      from: pins.findLast((i) => i <= hand) ?? 0,
      to: pins.find((i) => i > hand) ?? beats.length - 1,
    };
    void store.getState().call(`/api/sessions/${store.getState().view.id}/tempo`, {
      timekeepers: store.getState().view.session.timekeepers,
      between,
    });
  };
  const move = (to: number): void =>
    draft.correct(`Pulse ${place} ${formatMs(to - (seconds ?? 0))}`, {
      kind: 'move',
      pulse: hand,
      seconds: to,
    });
  const nearest = [...near].sort(
    (a, b) => Math.abs(a.late) * (1.5 - a.strength) - Math.abs(b.late) * (1.5 - b.strength),
  )[0];
  const choices: readonly Choice[] = known
    ? [
        {
          text: 'A bar begins here',
          change: { kind: 'bar-line-at', seconds },
          title: 'The bar before ends here, shorter than the others',
        },
        { text: `Bar ${model.map.meters.numberOf(1)} begins here`, change: { kind: 'downbeat-at', seconds } },
        { text: `Twice as fast from bar ${called}`, change: { kind: 'double-from', bar } },
        { text: `Half as fast from bar ${called}`, change: { kind: 'half-from', bar } },
        {
          text: 'One bar more around here',
          change: { kind: 'bar-more', pulse: hand },
          title: 'Between the pinned pulses to both sides, or within this bar',
        },
        {
          text: 'One bar fewer around here',
          change: { kind: 'bar-fewer', pulse: hand },
          title: 'Between the pinned pulses to both sides, or of this bar and the next',
        },
      ]
    : [];
  const choose = (c: Choice): void => draft.correct(c.text.replace('here', `at ${place}`), c.change);
  useShortcuts(
    known
      ? [
          ...choices.map((c, i) => ({ key: String(i + 1), run: () => choose(c) })),
          {
            key: 'i',
            run: () =>
              draft.correct(isPinned ? `Unpin pulse ${place}` : `Pin pulse ${place}`, {
                kind: 'pin',
                pulse: hand,
                on: !isPinned,
              }),
          },
          {
            key: 'x',
            run: () => {
              if (nearest) move(seconds + nearest.late);
            },
          },
          { key: 'arrowright', shift: true, run: () => move(seconds + STEP_SECONDS) },
          { key: 'arrowleft', shift: true, run: () => move(seconds - STEP_SECONDS) },
        ]
      : [],
  );
  if (!known)
    return (
      <p className="fm-faint">Find the tempo first, or tap it; then each pulse can be corrected here.</p>
    );
  const gap = (reading.beats[hand + 1] ?? NaN) - seconds;
  const enter = (text: string): void => {
    const value = parseClock(text);
    if (value !== null && Math.abs(value - seconds) > 5e-5) move(value);
  };
  return (
    <>
      <Line align="baseline">
        <h2 className="fm-grow">
          Pulse <span className="fm-mono">{place}</span>
        </h2>
        <Button aria-label="Pulse before" title="," onClick={() => onStep(-1)}>
          <Icon name="chevron-left" />
        </Button>
        <Button aria-label="Next pulse" title="." onClick={() => onStep(1)}>
          <Icon name="chevron-right" />
        </Button>
      </Line>
      <dl className="fm-facts-list">
        <div>
          <dt>At</dt>
          <dd>
            <EnteredField label="Moment of the pulse" value={clock(seconds, 3)} onTake={enter} />
          </dd>
        </div>
        <div>
          <dt>Tempo to the next</dt>
          <dd className="fm-mono">{Number.isFinite(gap) ? (60 / gap).toFixed(2) : '–'}</dd>
        </div>
        <div>
          <dt>Confidence</dt>
          <dd>
            {isPinned ? (
              'set by hand'
            ) : (
              <span className="fm-mono">{(reading.confidence[hand] ?? 0).toFixed(2)}</span>
            )}
          </dd>
        </div>
        {start === hand && (
          <div>
            <dt>Confidence of the bar line</dt>
            <dd>
              {reading.begins ? (
                <span className="fm-mono">{(reading.begins[hand] ?? 0).toFixed(2)}</span>
              ) : (
                'set by hand'
              )}
            </dd>
          </div>
        )}
      </dl>
      <Line align="start" wraps className="fm-below-2">
        <Button
          aria-pressed={isPinned}
          onClick={() =>
            draft.correct(isPinned ? `Unpin pulse ${place}` : `Pin pulse ${place}`, {
              kind: 'pin',
              pulse: hand,
              on: !isPinned,
            })
          }
        >
          {isPinned ? 'Unpin' : 'Pin'} <Kbd>I</Kbd>
        </Button>
        <Button
          disabled={!nearest}
          onClick={() => {
            if (nearest) move(seconds + nearest.late);
          }}
        >
          To the nearest onset <Kbd>X</Kbd>
        </Button>
      </Line>
      <p className="fm-faint fm-below-1">
        Drag it in the strip above the waveforms, or move it by 5 ms with <Kbd>Shift ←</Kbd>{' '}
        <Kbd>Shift →</Kbd>; its neighbours follow up to the pinned ones.
      </p>
      {draft.problem && (
        <p className="fm-attention" role="alert">
          Not done: {draft.problem}.
        </p>
      )}
      <h3>From here</h3>
      <div className="fm-choices">
        {choices.map((c, i) => (
          <Button key={c.text} tone="choice" title={c.title} onClick={() => choose(c)}>
            <Kbd>{String(i + 1)}</Kbd>
            <span className="fm-grow">{c.text}</span>
          </Button>
        ))}
        <label className="fm-choice">
          <span className="fm-grow fm-nowrap">Meter</span>
          <Select
            isNarrow
            aria-label={`Meter from bar ${called}`}
            value={meterText(reading.meters.findLast((m) => m.bar <= bar))}
            onChange={(e) =>
              draft.correct(`Meter ${e.target.value} from bar ${called}`, {
                kind: 'meter-from',
                bar,
                bars: bars === 'on' ? null : Number(bars),
                ...meterOf(e.target.value),
              })
            }
          >
            <MeterOptions also={reading.meters.findLast((m) => m.bar <= bar)} />
          </Select>
          <Select
            isNarrow
            aria-label="For how many bars"
            value={bars}
            onChange={(e) => setBars(e.target.value)}
          >
            <option value="on">on</option>
            {[1, 2, 4, 8].map((n) => (
              <option key={n} value={n}>
                {n} {n === 1 ? 'bar' : 'bars'}
              </option>
            ))}
          </Select>
        </label>
      </div>
      {draft.isAccepted && (
        <Button
          tone="choice"
          className="fm-wide"
          title="Between the nearest pinned pulses to both sides, or the ends of the song; what was pinned stays"
          onClick={() => findBetween(reading)}
        >
          <span className="fm-grow">Find again between the pins</span>
        </Button>
      )}
      <h3>Onsets near here</h3>
      {near.length === 0 ? (
        <p className="fm-faint">None within a quarter of a pulse.</p>
      ) : (
        <ul className="fm-near">
          {near.slice(0, 10).map((h) => (
            <li key={h.trackId}>
              <span className="fm-keeper-name">{nodes[h.trackId]?.name ?? ''}</span>
              <span className="fm-mono">{formatMs(h.late)}</span>
              <Button tone="quiet" onClick={() => move(seconds + h.late)}>
                use
              </Button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
