'use client';
import { memo, type MouseEvent, useEffect, useRef } from 'react';
import type { BalanceResult } from '@/contracts';
import { levelDb, type SessionState, type Track } from '@/core/session';
import { LEVEL_RANGE, levelText } from '@/ui/strips';
import { formatPan } from '@/ui/kit';
import { takeHold } from './choose-rows';
import { LADDERS, type LadderScale, placeOfPan, placeOn, pulledLevel, pulledPan } from './ladder';
import { type Strip, stripIn } from './levels';
import { PulledMark } from './pulled-mark';
import { TypedCell, type TypedOn } from './typed-cell';
import type { StripField, StripHand } from './use-strip-edits';

/** The cell that is typed in. */
export interface TypedPlace {
  readonly id: string;
  readonly field: StripField;
}

/** A track on the ladders: where it stands, where it would, and its figures. */
export interface LadderRowProps {
  readonly track: Track;
  /** All it needs of the session: with it alone, other tracks' changes draw nothing of this one. */
  readonly groups: SessionState['groups'];
  readonly result: BalanceResult | null;
  readonly scale: LadderScale;
  /** Where it stands at a level of 0 dB, or why nowhere, in words. */
  readonly sounding: number | string;
  readonly color: string;
  readonly isSelected: boolean;
  readonly isCurrent: boolean;
  /** How many tracks a change of this one is for. */
  readonly targets: number;
  readonly onChoose: (event: MouseEvent, id: string) => void;
  readonly hand: StripHand;
  readonly typedIn: StripField | null;
  readonly onType: (place: TypedPlace | null) => void;
  readonly onGoOn: (from: TypedPlace, on: TypedOn) => void;
}

/** One row: its level from left, soft, to right, loud; its pan from left to right; both typed beside. */
export const LadderRow = memo(function LadderRow(props: LadderRowProps) {
  const { track, groups, result, sounding, hand, typedIn, onType, onGoOn } = props;
  const offered = (['rough', 'mix'] as const).map(
    (of) => [of, stripIn(of, track, { session: { groups }, result })] as const,
  );
  const panBy = (pan: number): number => Math.round(100 * (pan - track.pan));
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (props.isCurrent) row.current?.scrollIntoView({ block: 'nearest' });
  }, [props.isCurrent]);
  const cell = (field: StripField, text: string) => (
    <td className="num">
      <TypedCell
        label={`${field === 'level' ? 'Level' : 'Pan'} of ${track.name}`}
        text={text}
        targets={props.targets}
        isOpen={typedIn === field}
        onOpen={() => {
          takeHold(track.id);
          onType({ id: track.id, field });
        }}
        onKeep={(typed) => hand.type(field, typed, track)}
        onDone={(on) => onGoOn({ id: track.id, field }, on)}
      />
    </td>
  );
  return (
    <tr
      ref={row}
      className={props.isSelected ? 'is-selected' : undefined}
      onClick={(event) => props.onChoose(event, track.id)}
    >
      <th scope="row">
        <span className="fm-level-color" style={{ background: props.color }} />
        {track.name}
        {track.muted && <span className="fm-faint"> muted</span>}
        {track.id === result?.mixTrackId && <span className="fm-faint"> the mix</span>}
      </th>
      <td>
        {typeof sounding === 'string' ? (
          <span className="fm-faint">{sounding}</span>
        ) : (
          <LevelLadder {...props} sounding={sounding} offered={offered} />
        )}
      </td>
      {cell('level', levelText(track.gainDb))}
      <td>
        <span className="fm-ladder is-pan">
          {offered.map(([of, strip]) =>
            strip ? (
              <Offered key={of} of={of} place={placeOfPan(strip.pan)} text={formatPan(strip.pan)} />
            ) : null,
          )}
          <PulledMark
            label={`Pan of ${track.name}`}
            value={track.pan}
            range={{ min: -1, max: 1 }}
            textOf={formatPan}
            placeOf={placeOfPan}
            pulled={(by) => hand.would('pan', panBy(pulledPan(track.pan, by)), track)}
            onHold={() => takeHold(track.id)}
            onKeep={(pan) => hand.step('pan', panBy(pan), track)}
            isReachable={props.isCurrent}
          />
        </span>
      </td>
      {cell('pan', formatPan(track.pan))}
    </tr>
  );
});

function LevelLadder({
  track,
  groups,
  scale,
  sounding,
  hand,
  isCurrent,
  offered,
}: LadderRowProps & {
  readonly sounding: number;
  readonly offered: readonly (readonly ['rough' | 'mix', Strip | null])[];
}) {
  const ladder = LADDERS[scale];
  // Levels of groups are added to the track's own.
  const ofGroups = levelDb({ groups }, track) - track.gainDb;
  const textAt = (gainDb: number): string =>
    `${levelText(gainDb)} dB, ${atText(sounding + gainDb, ladder.unit)}`;
  return (
    <span className="fm-ladder">
      {offered.map(([of, strip]) =>
        strip ? (
          <Offered
            key={of}
            of={of}
            place={placeOn(ladder, sounding + strip.gainDb)}
            text={textAt(strip.gainDb)}
          />
        ) : null,
      )}
      <PulledMark
        label={`Level of ${track.name}`}
        value={track.gainDb}
        range={LEVEL_RANGE}
        textOf={(gainDb) => textAt(gainDb + ofGroups)}
        placeOf={(gainDb) => placeOn(ladder, sounding + gainDb + ofGroups)}
        pulled={(by) => hand.would('level', pulledLevel(ladder, track.gainDb, by) - track.gainDb, track)}
        onHold={() => takeHold(track.id)}
        onKeep={(gainDb) => hand.step('level', gainDb - track.gainDb, track)}
        isReachable={isCurrent}
      />
    </span>
  );
}

const atText = (value: number, unit: string): string => `${value.toFixed(1).replace('-', '−')} ${unit}`;

/** What marks of offered levels are called. */
export const OFFERED_WORDS = { rough: 'rough balance', mix: 'in the rough mix' } as const;

function Offered({
  of,
  place,
  text,
}: {
  readonly of: 'rough' | 'mix';
  readonly place: number;
  readonly text: string;
}) {
  return (
    <span
      className={`fm-ladder-offered is-${of}`}
      style={{ left: `${place * 100}%` }}
      title={`${OFFERED_WORDS[of]}: ${text}`}
    />
  );
}
