'use client';
import { type Change, lanesOf, type Track, wholeClip } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, RadioButton } from '@/ui/kit';

/** The takes of a track: which sounds, and back to a track each. */
export function LanesField({ track }: { readonly track: Track }) {
  const store = useSessionStore();
  const lanes = [...lanesOf(track)].sort((a, b) => a.takeNumber - b.takeNumber);
  if (lanes.length < 2) return null;
  const sounding = new Set(track.clips.filter((c) => !c.off).map((c) => c.laneId));
  const [only] = sounding.size === 1 ? sounding : [null];
  const choose = (laneId: string, number: number): void => {
    const edits: Change[] = [{ kind: 'track.cut', id: track.id, clips: wholeClip(laneId) }];
    void store.getState().commit(`Take ${number} of ${track.name} sounds`, edits);
  };
  return (
    <fieldset className="fm-field">
      <legend className="fm-label">
        {lanes.length} takes{only === null ? ', in turn' : ': which sounds'}
      </legend>
      {lanes.map((lane) => (
        <label key={lane.id} className="fm-lane-choice">
          <RadioButton
            name={`lane-${track.id}`}
            checked={lane.id === only}
            onChange={() => choose(lane.id, lane.takeNumber)}
          />
          <span className="fm-mono">{lane.takeNumber}</span>
          <span className="fm-truncate" title={lane.receivedName}>
            {lane.receivedName}
          </span>
          {only === null && sounding.has(lane.id) && <span className="fm-faint">sounds in places</span>}
        </label>
      ))}
      <UnpackButton trackId={track.id} />
    </fieldset>
  );
}

/** Takes a packed track apart. */
export function UnpackButton({ trackId }: { readonly trackId: string }) {
  const store = useSessionStore();
  const id = useSession((s) => s.view.id);
  return (
    <Button
      tone="quiet"
      className="fm-above-2"
      onClick={() => void store.getState().call(`/api/sessions/${id}/takes`, { unpack: trackId })}
    >
      A track for each take again
    </Button>
  );
}
