'use client';
import { memo, useMemo, useState } from 'react';
import {
  type Change,
  movableTracks,
  movedParts,
  moveInTime,
  takenBack,
  type MovedPart,
  type SessionState,
  tracksInOrder,
  tracksUnder,
  withGroups,
} from '@/core/session';
import {
  type DistanceOrigin,
  distanceOf,
  type DistanceUnit,
  framesOfDistance,
  formatBarPulse,
} from '@/core/time';
import { useSession, useSessionStore, useSongMap, workbench } from '@/ui/client';
import { Button, Check, Dialog, Line, NumberField, type WriteClock, useClock } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { distanceText } from './distance-text';

/** Farthest a track is moved: a day. */
const MOST_SECONDS = 86_400;

const FIELDS: readonly {
  readonly unit: DistanceUnit;
  readonly label: string;
  readonly decimals: number;
  readonly most: (rateHz: number) => number;
}[] = [
  { unit: 'bars', label: 'Bars', decimals: 4, most: () => 10_000 },
  { unit: 'pulses', label: 'Pulses', decimals: 4, most: () => 40_000 },
  { unit: 'seconds', label: 'Seconds', decimals: 6, most: () => MOST_SECONDS },
  { unit: 'frames', label: 'Samples', decimals: 0, most: (rateHz) => MOST_SECONDS * rateHz },
];

/** Moves what is selected, or everything, in time; and lays back what lies elsewhere than it came. */
export function MoveDialog({ onHide }: { readonly onHide: () => void }) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const [selected] = useState(() => [...workbench.getState().selected]);
  const hasChosen = movableTracks(session, selected).length > 0;
  const [isAll, setAll] = useState(!hasChosen);
  const [frames, setFrames] = useState(0);
  const [withPlaces, setWithPlaces] = useState(false);
  const origin = useOrigin();
  const ids = isAll ? null : selected;
  const tracks = movableTracks(session, ids);
  const { edits, followers } = movesOf(session, ids, frames);
  const movesPlaces = isAll && withPlaces && session.markers.length > 0;
  const isNothing = frames === 0 || tracks.length === 0;
  const apply = (): void => {
    if (isNothing) return;
    const what = tracks.length + followers === 1 ? tracks[0]?.name : `${tracks.length + followers} tracks`;
    const done = store
      .getState()
      .commit(`Move ${what} by ${distanceText(origin, frames)}`, [
        ...edits,
        ...(movesPlaces ? [placesMoved(session, frames / origin.rateHz)] : []),
      ]);
    if (done) onHide();
  };
  return (
    <Dialog
      title="Move in time"
      isWide
      scrolls
      onClose={onHide}
      onSubmit={(e) => {
        e.preventDefault();
        apply();
      }}
      footer={
        <>
          <span className="fm-faint fm-push" role="status">
            {frames === 0 ? 'Say by how much; below 0 is earlier.' : distanceText(origin, frames)}
          </span>
          <Button tone="quiet" onClick={onHide}>
            Cancel
          </Button>
          <Button type="submit" tone="main" disabled={isNothing}>
            Move {tracks.length + followers} {tracks.length + followers === 1 ? 'track' : 'tracks'}
          </Button>
        </>
      }
    >
      <Scope
        isAll={isAll}
        onAll={setAll}
        chosen={hasChosen ? movableTracks(session, selected).length : null}
        all={movableTracks(session, null).length}
      />
      <AmountFields origin={origin} frames={frames} onFrames={setFrames} />
      <Notes session={session} ids={ids} followers={followers} />
      {isAll && session.markers.length > 0 && (
        <Check
          id="move-places"
          label={placesLabel(session.markers.length)}
          checked={withPlaces}
          onChange={(e) => setWithPlaces(e.target.checked)}
        />
      )}
      <h3 className="fm-above-2">Away from where they came</h3>
      <Moved session={session} origin={origin} />
    </Dialog>
  );
}

/** The play position as it was when asked: bars are counted from there. */
function useOrigin(): DistanceOrigin {
  const player = usePlayer();
  const [fromSeconds] = useState(() => player.state.getState().positionSeconds);
  const map = useSongMap();
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  return useMemo(() => ({ map, fromSeconds, rateHz }), [map, fromSeconds, rateHz]);
}

function movesOf(
  session: SessionState,
  ids: readonly string[] | null,
  frames: number,
): { readonly edits: readonly Change[]; readonly followers: number } {
  const own = moveInTime(movableTracks(session, ids), frames);
  const edits = workbench.getState().alone ? own : withGroups(session, own);
  return { edits, followers: edits.length - own.length };
}

const placesMoved = ({ markers }: SessionState, seconds: number): Change => ({
  kind: 'markers.set',
  markers: markers.map((m) => ({ ...m, seconds: m.seconds + seconds })),
});

function Scope({
  isAll,
  onAll,
  chosen,
  all,
}: {
  readonly isAll: boolean;
  readonly onAll: (isAll: boolean) => void;
  /** Null = nothing that can be moved is selected. */
  readonly chosen: number | null;
  readonly all: number;
}) {
  return (
    <Line align="start" role="group" aria-label="What moves">
      <Check
        kind="radio"
        id="move-selected"
        label={chosen === null ? 'What is selected: nothing' : `What is selected: ${count(chosen)}`}
        disabled={chosen === null}
        checked={!isAll}
        onChange={() => onAll(false)}
      />
      <Check
        kind="radio"
        id="move-all"
        label={`Everything: ${count(all)}`}
        checked={isAll}
        onChange={() => onAll(true)}
      />
    </Line>
  );
}

const count = (n: number): string => `${n} ${n === 1 ? 'track' : 'tracks'}`;

/** One distance in four fields: what is typed in one is seen in all. */
function AmountFields({
  origin,
  frames,
  onFrames,
}: {
  readonly origin: DistanceOrigin;
  readonly frames: number;
  readonly onFrames: (frames: number) => void;
}) {
  const now = distanceOf(origin, frames);
  const clock = useClock();
  return (
    <>
      <Line align="start">
        {FIELDS.map(({ unit, label, decimals, most }) => {
          const value = now[unit];
          const limit = most(origin.rateHz);
          return (
            value !== null && (
              <NumberField
                key={unit}
                label={label}
                value={Number(value.toFixed(decimals)) + 0}
                min={-limit}
                max={limit}
                step={unit === 'seconds' ? 0.01 : 1}
                onKeep={(amount) => onFrames(framesOfDistance(origin, unit, amount))}
              />
            )
          );
        })}
      </Line>
      <p className="fm-faint fm-tight">{originText(origin, clock)}</p>
    </>
  );
}

const originText = ({ map, fromSeconds }: DistanceOrigin, clock: WriteClock): string =>
  map
    ? `Bars and pulses are counted from the play position, bar ${formatBarPulse(map, fromSeconds)} (${clock(fromSeconds)}).`
    : 'Bars and pulses once there is a tempo map.';

const placesLabel = (n: number): string =>
  n === 1 ? 'The one named place as well' : `The ${n} sections and named places as well`;

/** What goes along, and what does not. */
function Notes({
  session,
  ids,
  followers,
}: {
  readonly session: SessionState;
  readonly ids: readonly string[] | null;
  readonly followers: number;
}) {
  const asked = ids === null ? tracksInOrder(session) : tracksUnder(session, ids);
  const stays = asked.filter((t) => t.tiedTo === 'bars').length;
  return (
    <>
      {followers > 0 && (
        <p className="fm-tight">
          {followers === 1 ? '1 track that is' : `${followers} tracks that are`} in a group with these move
          {followers === 1 ? 's' : ''} as far.
        </p>
      )}
      {stays > 0 && (
        <p className="fm-tight">
          {stays === 1 ? '1 track of notes keeps' : `${stays} tracks of notes keep`} to the bars.
        </p>
      )}
    </>
  );
}

/** So many lines are shown: of a large session that was moved nobody reads more. */
const MOST_SHOWN = 200;

/** What lies elsewhere than it came, with a way back for each; drawn anew only when that changes. */
const Moved = memo(function Moved({
  session,
  origin,
}: {
  readonly session: SessionState;
  readonly origin: DistanceOrigin;
}) {
  const store = useSessionStore();
  const parts = useMemo(() => movedParts(session), [session]);
  const back = (label: string, which: readonly MovedPart[]): void =>
    void store.getState().commit(label, takenBack(session, which));
  if (parts.length === 0)
    return (
      <p className="fm-faint">Nothing: every track begins at the common zero, and no piece was slipped.</p>
    );
  return (
    <>
      <div
        className="fm-rename-list fm-moved-list"
        tabIndex={0}
        role="group"
        aria-label="Away from where they came"
      >
        <table>
          <tbody>
            {parts.slice(0, MOST_SHOWN).map((part) => (
              <tr key={part.clipId ?? part.trackId}>
                <td>
                  {part.name}
                  {part.clipId !== null && <span className="fm-faint"> a piece of it</span>}
                </td>
                <td className="fm-mono">
                  {distanceText({ ...origin, fromSeconds: part.fromFrames / origin.rateHz }, part.frames)}
                </td>
                <td>
                  <Button
                    tone="quiet"
                    aria-label={`Take ${part.name} back`}
                    onClick={() => back(`${part.name} back where it came`, [part])}
                  >
                    Take back
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {parts.length > MOST_SHOWN && (
        <p className="fm-faint fm-tight">And {parts.length - MOST_SHOWN} more, of tracks below these.</p>
      )}
      {parts.length > 1 && (
        <Button
          tone="quiet"
          className="fm-above-1"
          onClick={() => back(`${parts.length} back where they came`, parts)}
        >
          Take all {parts.length} back
        </Button>
      )}
    </>
  );
});
