'use client';
import { memo, type MouseEvent, useEffect, useRef } from 'react';
import type { Bus } from '@/core/session';
import { Button, formatPan } from '@/ui/kit';
import { LEVEL_RANGE, levelText } from '@/ui/strips';
import { takeHold } from './choose-rows';
import { LADDERS, type LadderScale, placeOfPan, placeOn, pulledLevel, pulledPan } from './ladder';
import type { TypedPlace } from './ladder-row';
import { PulledMark } from './pulled-mark';
import { TypedCell, type TypedOn } from './typed-cell';
import type { BusHand } from './use-bus-edits';
import type { StripField } from './use-strip-edits';

/** A bus on the ladders. */
export interface BusRowProps {
  readonly bus: Bus;
  readonly scale: LadderScale;
  /** How loud what comes to it is about, LUFS; null = not known. */
  readonly comesAt: number | null;
  readonly isSelected: boolean;
  readonly isCurrent: boolean;
  readonly hand: BusHand;
  readonly onChoose: (event: MouseEvent, id: string) => void;
  readonly typedIn: StripField | null;
  readonly onType: (place: TypedPlace | null) => void;
  readonly onGoOn: (from: TypedPlace, on: TypedOn) => void;
}

/** One bus: its level, where that is known how loud it is, its pan, both typed beside, and whether it is muted. */
export const BusRow = memo(function BusRow(props: BusRowProps) {
  const { bus, scale, comesAt, hand, typedIn, onType, onGoOn, isCurrent } = props;
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (isCurrent) row.current?.scrollIntoView({ block: 'nearest' });
  }, [isCurrent]);
  const title = `${bus.name} ${bus.kind === 'return' ? 'return' : 'bus'}`;
  const cell = (field: StripField, text: string) => (
    <td className="num">
      <TypedCell
        label={`${field === 'level' ? 'Level' : 'Pan'} of ${title}`}
        text={text}
        targets={1}
        isOpen={typedIn === field}
        onOpen={() => {
          takeHold(bus.id);
          onType({ id: bus.id, field });
        }}
        onKeep={(typed) => hand.type(field, typed, bus)}
        onDone={(on) => onGoOn({ id: bus.id, field }, on)}
      />
    </td>
  );
  return (
    <tr
      ref={row}
      className={props.isSelected ? 'is-selected' : undefined}
      onClick={(event) => props.onChoose(event, bus.id)}
    >
      <th scope="row">
        <span className="fm-bus-name">
          <span className="fm-level-color" style={{ background: bus.color ?? 'transparent' }} />
          <span className="fm-truncate" title={title}>
            {bus.name}
            {bus.kind === 'return' && <span className="fm-faint"> return</span>}
          </span>
          <Button
            tone="quiet"
            isOn={bus.muted}
            aria-label={`Mute ${title}`}
            onClick={(event) => {
              event.stopPropagation();
              hand.mute(bus);
            }}
          >
            {bus.muted ? 'Muted' : 'Mute'}
          </Button>
        </span>
      </th>
      <td>
        <BusLadder {...{ bus, scale, comesAt, hand, title, isCurrent }} />
      </td>
      {cell('level', levelText(bus.gainDb))}
      <td>
        <span className="fm-ladder is-pan">
          <PulledMark
            label={`Pan of ${title}`}
            value={bus.pan}
            range={{ min: -1, max: 1 }}
            textOf={formatPan}
            placeOf={placeOfPan}
            pulled={(by) => ({ value: pulledPan(bus.pan, by), heldBy: null })}
            onHold={() => takeHold(bus.id)}
            onKeep={(pan) => hand.change('pan', { pan }, bus)}
            isReachable={isCurrent}
          />
        </span>
      </td>
      {cell('pan', formatPan(bus.pan))}
    </tr>
  );
});

function BusLadder({
  bus,
  scale,
  comesAt,
  hand,
  title,
  isCurrent,
}: Pick<BusRowProps, 'bus' | 'scale' | 'comesAt' | 'hand' | 'isCurrent'> & { readonly title: string }) {
  if (scale === 'peak') return <span className="fm-faint">the peak of a bus is not measured</span>;
  if (comesAt === null) return <span className="fm-faint">nothing of known loudness comes to it</span>;
  const ladder = LADDERS[scale];
  const about = (gainDb: number): string =>
    `${levelText(gainDb)} dB, about ${(comesAt + gainDb).toFixed(1).replace('-', '−')} ${ladder.unit}`;
  return (
    <span className="fm-ladder">
      <PulledMark
        label={`Level of ${title}`}
        value={bus.gainDb}
        range={LEVEL_RANGE}
        textOf={about}
        placeOf={(gainDb) => placeOn(ladder, comesAt + gainDb)}
        pulled={(by) => ({ value: pulledLevel(ladder, bus.gainDb, by), heldBy: null })}
        onHold={() => takeHold(bus.id)}
        onKeep={(gainDb) => hand.change('level', { gainDb }, bus)}
        isReachable={isCurrent}
      />
    </span>
  );
}
